"""Coming in, staying and leaving: passwords, links, second factors, sessions, the audit."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta
from io import StringIO
from typing import Any
from unittest.mock import patch

from django.contrib.auth.models import User
from django.core.management import CommandError, call_command
from django.db import DatabaseError, connection, transaction
from django.http import HttpResponse
from django.test import Client
from django_otp.oath import totp
from django_otp.plugins.otp_totp.models import TOTPDevice

from server.people.audit import checked_chain
from server.people.factors import CODE
from server.people.membership import add_person, found_crew
from server.people.models import AuditLine, Member, Ticket
from server.tests.support import ApiCase

LONG = "a long way to the sea"


def sent(client: Client, path: str, body: object, method: str = "post") -> HttpResponse:
    call = getattr(client, method)
    answer: HttpResponse = call(path, json.dumps(body), "application/json")
    return answer


def code_of(device: TOTPDevice, steps: int = 0) -> str:
    """The code that the authenticator shows now, or some half minutes on."""
    return f"{totp(device.bin_key, drift=steps):06d}"


class Door(ApiCase):
    def came(self, client: Client, username: str, password: str = LONG) -> HttpResponse:
        return sent(client, "/api/session", {"username": username, "password": password})

    def test_a_few_wrong_tries_and_the_right_password_waits_too(self) -> None:
        add_person(self.crew, "bo", "installer", LONG)
        client = Client()
        for _ in range(6):
            answer = self.came(client, "bo", "wrong all along")
        self.assertEqual(answer.status_code, 429)
        self.assertEqual(self.came(client, "bo").status_code, 429)
        self.assertIn("ten minutes", self.refused(self.came(client, "bo"), 429)["detail"])
        # Another person, from another place, is not kept out by it.
        other = Client(REMOTE_ADDR="10.0.0.9")
        self.assertEqual(self.came(other, "bo").status_code, 200)
        failed = AuditLine.objects.filter(what="sign-in failed")
        self.assertEqual({line.by_name for line in failed}, {"bo"})

    def test_one_address_under_many_names_waits_as_well(self) -> None:
        client = Client()
        answers = [self.came(client, f"nobody{number}").status_code for number in range(40)]
        self.assertEqual(answers[:30], [422] * 30)
        self.assertEqual(answers[-1], 429)

    def test_a_code_is_asked_for_once_it_is_set_up_and_counts_once(self) -> None:
        person = add_person(self.crew, "bo", "electrician", LONG)
        client = Client()
        self.came(client, "bo")
        begun = client.post("/api/account/code", "{}", "application/json").json()
        self.assertIn("otpauth://totp/", begun["address"])
        self.assertIn("data:image/svg+xml", begun["picture"])
        wrong = sent(client, "/api/account/code/confirm", {"code": "000000"})
        self.refused(wrong)
        device = TOTPDevice.objects.get(user=person)
        device.throttle_reset()
        right = sent(client, "/api/account/code/confirm", {"code": code_of(device)})
        self.assertTrue(right.json()["has_code"])
        # Signing in anew: the password alone lets nobody in.
        again = Client()
        self.assertEqual(self.came(again, "bo").json()["ways"], [CODE])
        self.assertEqual(again.get("/api/jobs").status_code, 401)
        device.refresh_from_db()
        self.refused(sent(again, "/api/session/code", {"code": code_of(device)}))  # used already
        device.refresh_from_db()
        device.throttle_reset()
        entered = sent(again, "/api/session/code", {"code": code_of(device, 1)})
        self.assertEqual(entered.json()["name"], "bo", entered.content)
        # Without a password before it, a code is nothing.
        self.refused(sent(Client(), "/api/session/code", {"code": code_of(device, 1)}))

    def test_sessions_are_seen_and_ended_and_a_new_password_ends_the_others(self) -> None:
        add_person(self.crew, "bo", "installer", LONG)
        here, there = Client(HTTP_USER_AGENT="Phone"), Client(HTTP_USER_AGENT="Desk")
        for client in (here, there):
            self.came(client, "bo")
        lines = here.get("/api/account").json()["sessions"]
        self.assertEqual(
            {one["browser"]: one["here"] for one in lines}, {"Phone": True, "Desk": False}
        )
        desk = next(one["number"] for one in lines if not one["here"])
        here.delete(f"/api/account/sessions/{desk}")
        self.assertEqual(there.get("/api/jobs").status_code, 401)
        self.came(there, "bo")
        wrong = {"old": "not that one", "new": "another long way home"}
        self.refused(sent(here, "/api/account/password", wrong))
        weak = sent(here, "/api/account/password", {"old": LONG, "new": "password"})
        self.assertIn("common", self.refused(weak)["detail"])
        changed = sent(here, "/api/account/password", wrong | {"old": LONG})
        self.assertEqual(len(changed.json()["sessions"]), 1)
        self.assertEqual(here.get("/api/jobs").status_code, 200)
        self.assertEqual(there.get("/api/jobs").status_code, 401)


class Crew(ApiCase):
    def people(self) -> dict[str, Any]:
        found: dict[str, Any] = self.client.get("/api/people").json()
        return found

    def number(self, username: str) -> int:
        lines = self.people()["members"]
        return next(one["number"] for one in lines if one["username"] == username)

    def test_somebody_is_invited_joins_once_changes_and_leaves(self) -> None:
        made = self.post("/api/people/invitations", {"name": "Bo Reed", "role": "apprentice"})
        path = made.json()["path"]
        ticket = f"?ticket={path.rpartition('/')[2]}"
        stranger = Client()
        self.assertEqual(stranger.get(f"/api/join{ticket}").json()["role"], "apprentice")
        for body in (
            {"username": "tester", "password": LONG},
            {"username": "bo", "password": "short"},
            {"username": "b\u202eo", "password": LONG},
            {"username": " ", "password": LONG},
        ):
            self.refused(sent(stranger, f"/api/join{ticket}", body))
        joined = sent(stranger, f"/api/join{ticket}", {"username": "bo", "password": LONG})
        self.assertEqual((joined.json()["name"], joined.json()["role"]), ("Bo Reed", "apprentice"))
        self.refused(sent(Client(), f"/api/join{ticket}", {"username": "bob", "password": LONG}))
        change = {"role": "electrician", "licence": "L 12", "licence_ends_on": "2199-01-01"}
        number = self.number("bo")
        changed = sent(self.client, f"/api/people/{number}", change, "patch").json()
        line = next(one for one in changed["members"] if one["username"] == "bo")
        self.assertEqual((line["role"], line["licence"]), ("electrician", "L 12"))
        self.refused(sent(self.client, f"/api/people/{number}", {"role": "king"}, "patch"))
        sent(stranger, f"/api/jobs/{self.job_id}/readings",
             {"kind": "supply_voltage", "subject": "L-N", "entered": "231"})  # fmt: skip
        self.assertEqual(self.post(f"/api/people/{number}/leave", {}).status_code, 200)
        self.assertEqual(stranger.get("/api/jobs").status_code, 401)
        # What they did stays under their name.
        asks = self.get()["assessment"]["asks"]
        kept = next(one for one in asks if one["key"] == "supply_voltage/L-N")["reading"]
        self.assertEqual(kept["by"], "Bo Reed")

    def test_a_crew_keeps_an_owner(self) -> None:
        own = self.number("tester")
        self.refused(sent(self.client, f"/api/people/{own}", {"role": "installer"}, "patch"))
        self.refused(self.post(f"/api/people/{own}/leave", {}))
        add_person(self.crew, "second", "owner", None)
        self.assertEqual(self.post(f"/api/people/{own}/leave", {}).status_code, 200)

    def test_who_lost_password_or_phone_gets_a_link_that_holds_a_day(self) -> None:
        person = add_person(self.crew, "bo", "installer", LONG)
        TOTPDevice.objects.create(user=person, confirmed=True)
        path = self.post(f"/api/people/{self.number('bo')}/reset", {}).json()["path"]
        ticket = f"?ticket={path.rpartition('/')[2]}"
        self.assertEqual(Client().get(f"/api/join{ticket}").json()["username"], "bo")
        Ticket.objects.update(ends_at=datetime.now(UTC) - timedelta(minutes=1))
        self.refused(sent(Client(), f"/api/join{ticket}", {"password": "quite another one"}))
        Ticket.objects.update(ends_at=datetime.now(UTC) + timedelta(minutes=1))
        entered = sent(Client(), f"/api/join{ticket}", {"password": "quite another one"})
        self.assertEqual(entered.json()["name"], "bo")
        self.assertFalse(TOTPDevice.objects.filter(user=person).exists())

    def test_an_invitation_can_be_withdrawn(self) -> None:
        path = self.post("/api/people/invitations", {"name": "Bo", "role": "office"}).json()["path"]
        number = self.people()["invitations"][0]["number"]
        self.assertEqual(self.client.delete(f"/api/people/invitations/{number}").status_code, 200)
        self.refused(Client().get(f"/api/join?ticket={path.rpartition('/')[2]}"))

    def test_what_a_learner_measures_waits_for_a_countersignature(self) -> None:
        learner = Client()
        learner.force_login(add_person(self.crew, "ned", "apprentice", None, "Ned Pell"))
        body = {"kind": "open_circuit", "subject": "A", "entered": "418"}
        kept = sent(learner, f"/api/jobs/{self.job_id}/readings", body)
        self.assertEqual(kept.status_code, 200)
        switching = {"kind": "dead_step", "subject": "ac_off", "entered": "1"}
        refused = sent(learner, f"/api/jobs/{self.job_id}/readings", switching)
        self.assertIn("answers for it", self.refused(refused)["detail"])

        def ask() -> dict[str, Any]:
            asks = self.get()["assessment"]["asks"]
            return next(one for one in asks if one["key"] == "open_circuit/A")

        told = [one["rule_id"] for one in ask()["judgements"]]
        self.assertIn("countersigned", told)
        self.assertIn("Ned Pell", json.dumps(ask()["judgements"]))
        reading = ask()["reading"]["id"]
        signing = {"readings": [reading]}
        self.refused(sent(learner, f"/api/jobs/{self.job_id}/countersign", signing), 403)
        self.assertEqual(self.post("/countersign", signing).status_code, 200)
        self.assertNotIn("countersigned", [one["rule_id"] for one in ask()["judgements"]])
        self.assertEqual([one["by"] for one in ask()["history"]], ["Ned Pell", "tester"])
        self.refused(self.post("/countersign", signing))


class Audit(ApiCase):
    def test_it_is_read_by_job_and_by_person_and_goes_out_as_a_table(self) -> None:
        other = Client()
        other.force_login(add_person(self.crew, "bo", "electrician", None))
        sent(other, f"/api/jobs/{self.job_id}/readings",
             {"kind": "supply_voltage", "subject": "L-N", "entered": "231"})  # fmt: skip
        self.client.get(f"/api/jobs/{self.job_id}/file")
        of_job = self.client.get(f"/api/audit?job={self.job_id}").json()
        whats = [one["what"] for one in of_job["lines"]]
        self.assertEqual(whats[:2], ["taken out", "reading kept"])
        person = next(one["number"] for one in of_job["people"] if one["name"] == "bo")
        of_bo = self.client.get(f"/api/audit?person={person}").json()["lines"]
        self.assertEqual({one["by"] for one in of_bo}, {"bo"})
        table = self.client.get(f"/api/audit/file?job={self.job_id}").content.decode("utf-8-sig")
        self.assertTrue(table.startswith("at,by,what,detail,job,digest"))
        self.assertIn("reading kept", table)

    def test_a_line_that_was_changed_or_taken_out_is_found(self) -> None:
        self.read("supply_voltage", "L-N", "231")
        whole = checked_chain()
        self.assertEqual(whole.broken, ())
        self.assertGreater(whole.lines, 1)
        # Neither change nor removal passes the database; so its guards are taken off first.
        for statement in (
            "UPDATE people_auditline SET detail = 'x'",
            "DELETE FROM people_auditline",
        ):
            with self.assertRaises(DatabaseError), transaction.atomic():
                connection.cursor().execute(statement)
        with connection.cursor() as cursor:
            cursor.execute("DROP TRIGGER people_auditline_is_append_only")
            cursor.execute("DROP TRIGGER people_auditline_is_kept")
            cursor.execute("UPDATE people_auditline SET detail = detail || '.' WHERE id = 2")
        self.assertEqual(checked_chain().broken, (2,))
        self.read("supply_voltage", "L-N", "232")
        with connection.cursor() as cursor:
            cursor.execute("DELETE FROM people_auditline WHERE id = 2")
        self.assertEqual(checked_chain().broken, (3,))
        with connection.cursor() as cursor:
            cursor.execute("DELETE FROM people_auditline WHERE id = 3")
        self.assertEqual(checked_chain().cut_off, 2)

    def test_every_row_that_is_kept_refuses_to_be_deleted(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("SELECT name FROM sqlite_master WHERE type = 'trigger'")
            names = {name for (name,) in cursor.fetchall()}
        for table in (
            "readings_readingrow", "people_auditline", "gridset_settingsrow", "waking_overriderow",
            "gateways_gatewayrow", "evidence_evidencerow", "evidence_picturerow", "shelf_sheetrow",
            "shelf_packrow", "jobs_sourcefile",
        ):  # fmt: skip
            self.assertLessEqual({f"{table}_is_kept", f"{table}_is_append_only"}, names, table)


class Commands(ApiCase):
    def run_it(self, *words: str, password: str = LONG) -> str:
        out = StringIO()
        with patch("getpass.getpass", lambda _: password):
            call_command("person", *words, stdout=out)
        return out.getvalue()

    def test_people_are_added_listed_renamed_and_removed(self) -> None:
        said = self.run_it("add", "cy", "--crew", "Salt Lane", "--name", "Cy Lane")
        self.assertEqual(said, "Cy Lane is owner of Salt Lane.\n")
        self.assertIn("installer of Salt Lane", self.run_it("add", "di", "--crew", "Salt Lane"))
        self.run_it("role", "di", "electrician")
        self.run_it("rename", "di", "Di Marsh")
        self.assertIn("Salt Lane: di (Di Marsh), electrician", self.run_it("list"))
        self.assertIn("/join/", self.run_it("reset", "di"))
        self.assertIn("has left", self.run_it("remove", "di"))
        self.assertFalse(User.objects.get(username="di").is_active)
        self.assertTrue(Member.objects.filter(person__username="di").exists())
        for words in (("remove", "di"), ("remove", "cy"), ("add", "cy"), ("rename", "zz", "Z")):
            with self.assertRaises(CommandError):
                self.run_it(*words)
        with self.assertRaises(CommandError):
            self.run_it("add", "ed", password="short")
        self.assertEqual(found_crew("Salt Lane").members.count(), 2)
