"""Who may do what, as a matrix: each operation against each role, each row against each crew."""

from __future__ import annotations

import json
import re
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import AnonymousUser, User
from django.test import Client

from core.files.job import write_job
from core.tests.samples import sample_job
from server.api import api
from server.jobs import actions
from server.people.membership import add_person, enter_licence, found_crew
from server.people.policy import DOINGS, MAY, OPERATIONS, ROLES, licence_of, may, member_of, who_may
from server.tests.support import ApiCase

# The door itself: what who is not signed in may ask for.
OPEN = {
    "get_session", "sign_in", "sign_in_demo", "sign_in_code", "sign_in_options", "sign_in_passkey",
    "get_ticket", "join", "get_guest_record", "get_guest_page", "get_guest_file",
}  # fmt: skip
# By hand, apart from the code's own table: what each role must never be let through to.
NEVER = {
    "electrician": {"invite_person", "change_member", "member_leaves", "erase_job"},
    "installer": {"lift_lock", "get_audit", "invite_person", "erase_job"},
    "apprentice": {
        "lift_lock", "countersign", "edit_job", "create_job", "write_profile", "get_job_file",
        "get_record", "take_in_job", "keep_sheet", "invite_guest", "list_people", "get_audit",
    },
    "office": {
        "keep_reading", "keep_evidence", "lift_lock", "countersign", "write_profile", "watch_live",
        "count_goods", "take_test_file", "list_people", "get_audit",
    },
}  # fmt: skip


def operations() -> list[tuple[str, str, str]]:
    """Every operation: its name, its method, its path."""
    return [
        (operation["operationId"], method, path)
        for path, methods in api.get_openapi_schema()["paths"].items()
        for method, operation in methods.items()
    ]


class Matrix(ApiCase):
    def client_of(self, role: str, crew: str = "Testers") -> Client:
        username = f"{role}-{crew}"
        person = User.objects.filter(username=username).first()
        if person is None:
            person = add_person(found_crew(crew), username, role, None)
        client = Client()
        client.force_login(person)
        return client

    def asked(self, client: Client, method: str, path: str, job_id: UUID | None = None) -> Any:
        url = re.sub(r"{(job_id|evidence_id|begun_id)}", str(job_id or self.job_id), path)
        url = re.sub(r"{(number|pack_id|sheet_id)}", "1", url)
        url = url.replace("{kind}", "modules").replace("{token}", "none")
        call = getattr(client, method)
        return call(url) if method == "get" else call(url, "{}", "application/json")

    def test_every_operation_is_in_the_table_and_nothing_else_is(self) -> None:
        names = {name for name, _, _ in operations()}
        self.assertEqual(names - OPEN, set(OPERATIONS) & names)
        self.assertEqual(set(OPERATIONS) - names, set())
        self.assertLessEqual(OPEN, names)

    def test_each_role_is_let_through_to_what_it_may_and_to_nothing_else(self) -> None:
        for role in ROLES:
            client = self.client_of(role)
            for name, method, path in operations():
                if name in OPEN or name == "sign_out":
                    continue
                answer = self.asked(client, method, path)
                is_let = answer.status_code != 403
                doing = OPERATIONS[name]
                # Nobody here has a licence: no lock is lifted.
                wanted = doing in MAY[role] and doing != "lift"
                self.assertEqual(is_let, wanted, f"{role} {name}: {answer.status_code}")
                self.assertNotEqual(answer.status_code, 500, name)
                if name in NEVER.get(role, ()):
                    self.assertFalse(is_let, f"{role} {name}")

    def test_no_crew_reaches_another_ones_job_by_any_operation(self) -> None:
        stranger = self.client_of("owner", "Others")
        enter_licence("owner-Others", "X 1")
        for name, method, path in operations():
            if "{job_id}" not in path:
                continue
            answer = self.asked(stranger, method, path)
            self.assertEqual(answer.status_code, 404, f"{name}: {answer.content[:200]!r}")
        self.assertEqual(stranger.get("/api/jobs").json(), [])
        self.assertEqual(len(self.client.get("/api/jobs").json()), 1)

    def test_no_crew_sees_another_ones_shelf_people_testers_or_audit(self) -> None:
        others = self.client_of("owner", "Others")
        sheet = self.client.get("/api/shelf/plugs/sheets/tarn-p4").json()
        cells = {one["name"]: one["text"] for one in sheet["cells"]} | {"id": "own-plug"}
        body = {"cells": [{"name": n, "text": t} for n, t in cells.items()], "as_given": False}
        self.assertEqual(self.post("/api/shelf/plugs", body).status_code, 200)
        own = self.client.get("/api/shelf/plugs?find=own-plug").json()["total"]
        theirs = others.get("/api/shelf/plugs?find=own-plug").json()["total"]
        self.assertEqual((own, theirs), (1, 0))
        self.assertEqual(others.get("/api/shelf/plugs/sheets/own-plug").status_code, 422)
        self.assertEqual(len(others.get("/api/people").json()["members"]), 1)
        mine = self.client.get("/api/audit").json()["lines"]
        self.assertIn("job read in from a file", [one["what"] for one in mine])
        seen = {one["what"] for one in others.get("/api/audit").json()["lines"]}
        self.assertEqual(seen, {"person added", "looked into"})
        self.assertNotIn(b"read in from", others.get("/api/audit/file").content)

    def test_a_serial_of_another_crew_is_no_news(self) -> None:
        self.read("nameplate_serial", "inverter", "VF26014417")
        person = add_person(found_crew("Others"), "elsewhere", "owner", None)
        job = sample_job().__class__(
            **{**vars(sample_job()), "id": "0b000000-0000-4000-8000-00000000000b"}
        )
        other = actions.take_in(person, write_job(job).encode(), as_copy=False)
        client = Client()
        client.force_login(person)
        body = {"kind": "nameplate_serial", "subject": "inverter", "entered": "VF26014417"}
        answer = client.post(f"/api/jobs/{other}/readings", json.dumps(body), "application/json")
        self.assertEqual(answer.status_code, 200, answer.content[:300])


class Who(ApiCase):
    def test_who_belongs(self) -> None:
        alone = User.objects.create_user("alone", password="long enough to do")
        gone = add_person(self.crew, "gone", "installer", None)
        gone.is_active = False
        left = add_person(self.crew, "left", "installer", None)
        left.member.left_at = datetime.now(UTC)
        left.member.save()
        unknown = add_person(self.crew, "odd", "installer", None)
        unknown.member.role = "king"
        unknown.member.save()
        for person in (alone, gone, left, unknown, AnonymousUser()):
            self.assertIsNone(member_of(person))
            self.assertFalse(any(may(person, doing) for doing in DOINGS))

    def test_a_lock_is_lifted_by_a_licence_that_holds_and_a_role_that_may(self) -> None:
        today = datetime.now(UTC).date()
        for role, ends_on, wanted in (
            ("owner", None, True),
            ("electrician", today, True),
            ("electrician", today - timedelta(days=1), False),
            ("installer", None, False),
            ("apprentice", None, False),
            ("office", None, False),
        ):
            person = add_person(self.crew, f"{role} {ends_on}", role, None)
            self.assertFalse(may(person, "lift"))
            enter_licence(person.username, "L 1", ends_on)
            person = User.objects.get(pk=person.pk)
            self.assertEqual(may(person, "lift"), wanted, f"{role} {ends_on}")
        self.assertEqual(len(who_may(self.crew, "lift")), 2)
        self.assertEqual(licence_of(person, date(2199, 1, 1)), "L 1")


class Description(ApiCase):
    def test_it_can_be_browsed_from_files_that_ship_by_those_who_are_signed_in(self) -> None:
        page = self.client.get("/api/docs")
        self.assertEqual(page.status_code, 200)
        addresses = re.findall(r'(?:src|href)="([^"]+)"', page.content.decode())
        self.assertTrue(addresses)
        for address in addresses:
            self.assertTrue(address.startswith("/static/"), address)
            self.assertTrue((settings.STATIC_ROOT / address.removeprefix("/static/")).exists())
        described = self.client.get("/api/openapi.json").json()
        self.assertIn("PutRun", described["components"]["schemas"])
        self.client.logout()
        for path in ("/api/docs", "/api/openapi.json"):
            self.refused(self.client.get(path), 401)
