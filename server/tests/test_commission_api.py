"""Prove, Wake and Set over the API: what is kept, refused, and never sent."""

from __future__ import annotations

import csv
import io
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest.mock import patch

from django.core.management import CommandError, call_command
from django.test import TestCase, override_settings

from core.base.errors import Refused
from core.files.job import read_job
from core.tests.commissioned import proved, ready_job, settings_made
from core.tests.samples import sample_job
from devices.reach import networks, reachable
from devices.simulated.faults import faults
from devices.simulated.image import Made
from devices.simulated.inverter import SimulatedInverter, running
from server.demo.load import moved
from server.grid_settings.models import SettingsRow, SupplySample
from server.people.membership import enter_licence
from server.readings.models import ReadingRow
from server.switching.models import OverrideRow
from server.tests.support import ApiCase

PUT = {
    "do": "put_instrument",
    "was": None,
    "name": "MT 1",
    "serial": "4",
    "calibrated_on": "2026-01-01",
}


class Reach(ApiCase):
    def test_only_private_addresses_that_are_allowed_are_spoken_to(self) -> None:
        home = networks(["192.168.4.0/24", "fd00::/8"])
        self.assertEqual(reachable("192.168.4.7", home), "192.168.4.7")
        self.assertEqual(reachable("::ffff:192.168.4.7", home), "192.168.4.7")
        for host in ("8.8.8.8", "192.168.5.7", "10.0.0.1", "no such host", "2001:4860::1", ""):
            with self.assertRaises(Refused, msg=host) as caught:
                reachable(host, home)
            self.assertIn("Nothing was sent", caught.exception.problems[0].message)

    def test_off_by_default_everything_is_refused_and_nothing_kept(self) -> None:
        with override_settings(DEVICE_NETWORKS=()):
            for path in ("/settings", "/settings/look", "/live"):
                report = self.refused(self.post(path, {}))
                self.assertIn("LONG_NOON_DEVICES", report["problems"][0]["message"])
        self.assertEqual(SettingsRow.objects.count(), 0)

    def test_a_public_address_is_never_allowed(self) -> None:
        self.change("$.grid.host", "8.8.8.8")
        with override_settings(DEVICE_NETWORKS=networks(["0.0.0.0/0"])):
            report = self.refused(self.post("/settings", {}))
        self.assertIn("private", report["problems"][0]["message"])


class Settings(ApiCase):
    def grid(self) -> dict[str, Any]:
        found: dict[str, Any] = self.get()["assessment"]["grid"]
        return found

    def write_to(self, wrong: str, serial: str = "G-1", path: str = "/settings") -> None:
        with running(SimulatedInverter(Made(serial=serial), faults(wrong))) as port:
            self.change("$.grid.port", str(port))
            answer = self.post(path, {})
        self.assertEqual(answer.status_code, 200, answer.content[:300])

    def test_a_refused_part_is_named_and_the_rest_stands_point_by_point(self) -> None:
        self.write_to("refuses=708")
        points = {one["id"]: one for one in self.grid()["points"]}
        self.assertEqual(points["over_voltage_1_v"]["sent"], "refused")
        self.assertEqual(points["over_voltage_1_v"]["judgement"]["verdict"], "stop")
        self.assertEqual(points["under_voltage_1_v"]["judgement"]["verdict"], "clear")
        attempt = self.grid()["attempts"][0]
        self.assertEqual(len(attempt["refused"]), 4)
        self.assertEqual(attempt["not_sent"], [])

    def test_a_line_that_drops_is_kept_with_what_is_unknown(self) -> None:
        self.write_to("drops=30")
        attempt = self.grid()["attempts"][0]
        self.assertEqual(attempt["outcome"], "closed")
        self.assertTrue(attempt["sent"] and attempt["not_sent"] and attempt["unread"])
        verdicts = {one["judgement"]["verdict"] for one in self.grid()["points"]}
        self.assertEqual(verdicts, {"waiting"})

    def test_another_serial_than_the_nameplate_is_not_written_to(self) -> None:
        self.read("nameplate_serial", "inverter", "VF26010001")
        self.write_to("")
        attempt = self.grid()["attempts"][0]
        self.assertEqual((attempt["outcome"], attempt["sent"]), ("other_device", []))
        self.assertIn("VF26010001", attempt["said"])
        self.write_to("", serial="VF26010001")
        self.assertEqual(self.grid()["attempts"][0]["outcome"], "read_back")

    def test_cut_off_in_between_it_is_known_that_writing_began(self) -> None:
        with running(SimulatedInverter(Made(serial="G-1"))) as port:
            self.change("$.grid.port", str(port))
            with (
                patch("server.grid_settings.actions.set_profile", side_effect=SystemExit),
                self.assertRaises(SystemExit),
            ):
                self.post("/settings", {})
            (attempt,) = self.get()["assessment"]["grid"]["attempts"]
            self.assertEqual(attempt["outcome"], "begun")
            self.assertIn("in doubt", attempt["said"])
            judged = {one["rule_id"]: one for one in self.get()["assessment"]["grid"]["judgements"]}
            self.assertNotEqual(judged["settings_agree"]["verdict"], "clear")
            # The next look reads them back; a writing that ends is told once.
            self.post("/settings/look", {})
            self.assertEqual(self.post("/settings", {}).status_code, 200)
        outcomes = [one["outcome"] for one in self.get()["assessment"]["grid"]["attempts"]]
        self.assertEqual(outcomes, ["read_back", "read_back", "begun"])

    def test_a_later_look_finds_what_changed(self) -> None:
        self.write_to("")
        self.write_to("forgets", path="/settings/look")
        rules = {one["rule_id"]: one for one in self.grid()["judgements"]}
        self.assertEqual(rules["settings_unchanged"]["verdict"], "stop")
        self.assertIn("→", rules["settings_unchanged"]["reason"])
        attempts = self.grid()["attempts"]
        self.assertNotEqual(attempts[0]["fingerprint"], attempts[1]["fingerprint"])
        # A look that fails afterwards takes nothing away.
        self.change("$.grid.port", "1")
        self.post("/settings/look", {})
        rules = {one["rule_id"]: one for one in self.grid()["judgements"]}
        self.assertEqual(rules["settings_unchanged"]["verdict"], "stop")

    def test_an_old_device_leaves_what_it_cannot_carry_to_the_hand(self) -> None:
        with running(SimulatedInverter(Made(serial="G-1", kind="old"))) as port:
            self.change("$.grid.port", str(port))
            self.post("/settings", {})
        points = {one["id"]: one for one in self.grid()["points"]}
        self.assertFalse(points["over_voltage_1_v"]["by_hand"])
        self.assertTrue(points["over_voltage_1_s"]["by_hand"])
        self.assertIn("first, slower", points["over_voltage_1_s"]["where"])
        self.assertEqual(self.read("setting", "over_voltage_1_s", "0.2 s").status_code, 200)
        points = {one["id"]: one for one in self.grid()["points"]}
        self.assertEqual(points["over_voltage_1_s"]["judgement"]["verdict"], "clear")

    def test_a_letters_profile_is_kept_by_who_has_a_licence_in_their_own_name(self) -> None:
        letter = {
            "do": "put_letter",
            "operator": "North Net",
            "reference": "NN-7",
            "dated": "2026-05-01",
            "by": "Somebody else",
            "licence": "L 0",
            "based_on": "en-50549-1",
            "points": [{"id": "over_voltage_1_v", "entered": "262 V"}],
        }
        edit = {"revision": self.get()["revision"], "edit": letter}
        report = self.refused(self.post("/edits", edit))
        self.assertIn("licence", report["problems"][0]["message"])
        enter_licence("tester", "L 77")
        kept = self.done(letter)["plan"]["grid"]["letter"]
        self.assertEqual((kept["by"], kept["licence"]), ("tester", "L 77"))
        with running(SimulatedInverter(Made(serial="G-1"))) as port:
            self.change("$.grid.port", str(port))
            self.post("/settings", {})
        points = {one["id"]: one for one in self.grid()["points"]}
        self.assertAlmostEqual(points["over_voltage_1_v"]["got"], 262, delta=0.1)
        rules = {one["rule_id"]: one["verdict"] for one in self.grid()["judgements"]}
        self.assertEqual((rules["settings_agree"], rules["settings_profile"]), ("clear", "clear"))

    def test_by_hand_nothing_is_sent_and_every_point_is_asked_for(self) -> None:
        view = self.done({"do": "set_by_hand", "by_hand": True})
        asks = [one for one in view["assessment"]["asks"] if one["kind"] == "setting"]
        self.assertEqual(len(asks), len(view["assessment"]["grid"]["points"]))
        self.refused(self.post("/settings", {}))
        for one in asks:
            self.read("setting", one["subject"], one["expected_text"])
        self.assertIsNotNone(self.grid()["fingerprint"])
        wrong = self.read("setting", "ramp_s", "60").json()["assessment"]["grid"]
        rules = {one["rule_id"]: one["verdict"] for one in wrong["judgements"]}
        self.assertEqual(rules["settings_agree"], "stop")

    def test_live_values_and_their_mean(self) -> None:
        with running(SimulatedInverter(Made(serial="G-1"), faults("alarms=1"))) as port:
            self.change("$.grid.port", str(port))
            watched = [self.post("/live", {}).json() for _ in range(3)][-1]
        live = watched["live"]
        self.assertEqual(live["lines"], [{"pair": "L-N", "volts": 230.0}])
        self.assertEqual([one["id"] for one in live["alarms"]], ["ac_over_volt"])
        self.assertAlmostEqual(watched["mean_v"], 230.0)
        # Seconds of a good supply are not ten minutes of it.
        self.assertEqual((watched["mean"]["verdict"], watched["entered"]), ("waiting", None))
        self.assertEqual(SupplySample.objects.count(), 3)
        dead = self.post("/live", {}).json()
        self.assertEqual((dead["live"]["outcome"], dead["live"]["lines"]), ("unreachable", []))

    def test_a_mean_is_judged_and_kept_once_it_is_whole(self) -> None:
        now = datetime.now(UTC)
        with running(SimulatedInverter(Made(serial="G-1"))) as port:
            self.change("$.grid.port", str(port))
            for ago_s in range(620, 0, -20):
                at = now - timedelta(seconds=ago_s)
                SupplySample.objects.create(job_id=self.job_id, at=at, volts=240.0)
            watched = self.post("/live", {}).json()
        self.assertEqual(watched["covered_s"], watched["window_s"])
        self.assertEqual((watched["mean"]["verdict"], watched["entered"]), ("clear", "240.0 V"))
        self.assertEqual(self.read("mean_voltage", "site", watched["entered"]).status_code, 200)

    def test_the_loss_of_supply_is_timed_by_its_moments(self) -> None:
        times = ("12:00:00", "12:00:01.5", "12:00:10", "12:01:15")
        for moment, at in zip(("opened", "stopped", "closed", "returned"), times, strict=True):
            self.read("loss_moment", moment, "1", taken_at=f"2026-06-18T{at}Z")
        rules = {one["rule_id"]: one for one in self.grid()["judgements"]}
        self.assertEqual(rules["loss_stops"]["value"], 1.5)
        self.assertEqual(rules["loss_returns"]["value"], 65.0)
        # A new test begins with its first moment: the rest is of the one before.
        self.read("loss_moment", "opened", "1", taken_at="2026-06-18T13:00:00Z")
        moments = {one["moment"]: one for one in self.grid()["loss"]}
        self.assertIsNone(moments["stopped"]["at"])
        self.assertEqual(moments["stopped"]["due_at"], "2026-06-18T13:00:02+00:00")
        self.read("loss_moment", "stopped", "-1", taken_at="2026-06-18T13:00:09Z")
        rules = {one["rule_id"]: one for one in self.grid()["judgements"]}
        self.assertEqual(rules["loss_never_stops"]["verdict"], "stop")


class Tests(ApiCase):
    def take(self, raw: str, path: str = "file", instrument: str = "MT 1") -> Any:
        url = f"/api/jobs/{self.job_id}/tests/{path}?instrument={instrument}"
        return self.client.post(url, raw.encode(), "application/octet-stream")

    def test_a_file_is_mapped_once_looked_at_and_kept_whole(self) -> None:
        self.done(PUT | {"due_on": "2027-01-01"})
        raw = "Strang;Riso plus;Uhr\nA;0,2;2026-06-18T12:00\nB;55;2026-06-18T12:04\n"
        found = self.take(raw, "look").json()
        self.assertEqual(
            (found["unmapped"], found["readings"]), (["Strang", "Riso plus", "Uhr"], [])
        )
        self.refused(self.take(raw))
        columns = [
            {"theirs": "Strang", "ours": "subject", "unit": ""},
            {"theirs": "Riso plus", "ours": "insulation_plus", "unit": "GΩ"},
            {"theirs": "Uhr", "ours": "taken_at", "unit": ""},
        ]
        self.done({"do": "map_columns", "instrument": "MT 1", "columns": columns})
        self.assertEqual(self.take(raw).status_code, 200)
        rows = ReadingRow.objects.filter(kind="insulation_plus").order_by("id")
        self.assertEqual([row.value for row in rows], [200.0, 55_000.0])
        self.refused(self.take(raw.replace("55", "many")))
        self.assertEqual(ReadingRow.objects.count(), 2)
        # The same file again is a retest: both stay.
        self.take(raw)
        history = next(
            one["history"]
            for one in self.get()["assessment"]["asks"]
            if one["key"] == "insulation_plus/A"
        )
        self.assertEqual([one["superseded_by"] is None for one in history], [False, True])

    def test_a_test_by_thumb_made_again_supersedes(self) -> None:
        for entered in (">200 MΩ", "1.4"):
            self.read("insulation_minus", "A", entered, instrument="MT 1")
        rows = list(ReadingRow.objects.filter(kind="insulation_minus").order_by("id"))
        self.assertEqual((rows[0].text, rows[1].supersedes), (">", str(rows[0].identity)))

    def test_testers_are_known_to_the_crews_next_job(self) -> None:
        self.done(PUT | {"due_on": ""})
        columns = [{"theirs": "Strang", "ours": "subject", "unit": ""}]
        self.done({"do": "map_columns", "instrument": "MT 1", "columns": columns})
        bad = self.refused(self.edit(PUT | {"name": "MT 2", "due_on": "yesterday"}))
        self.assertIn("due_on", bad["problems"][0]["path"])
        other = replace(sample_job(), id="0a000000-0000-4000-8000-000000000002")
        self.job_id = self.store(other)
        (used,) = self.get("/testers")
        self.assertEqual((used["serial"], used["columns"][0]["ours"]), ("4", "subject"))
        # Taken over with one touch, it brings the meaning of its columns with it.
        columns = used["columns"]
        view = self.done(PUT | {"due_on": "", "columns": columns})
        self.assertEqual(view["plan"]["testing"]["instruments"][0]["columns"], columns)
        self.assertEqual(self.get("/testers"), [])

    def test_no_tester_no_file_and_the_template_is_a_table(self) -> None:
        self.refused(self.take("subject\nA\n", instrument="none"))
        text = self.client.get(f"/api/jobs/{self.job_id}/tests/template").content.decode()
        self.assertTrue(text.startswith("subject,taken_at,note,"))

    def test_the_record_goes_out_as_a_table_unread_tests_too(self) -> None:
        self.read("insulation_plus", "A", ">200", instrument="MT 1")
        answer = self.client.get(f"/api/jobs/{self.job_id}/tests/record")
        rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
        prove = self.get()["assessment"]["prove"]
        self.assertEqual(len(rows), prove["tests"])
        row = next(one for one in rows if one["test"] == "A · insulation, plus to earth")
        self.assertEqual((row["read"], row["times_read"]), (">200\xa0MΩ", "1"))
        self.assertEqual({one["verdict"] for one in rows if not one["read"]}, {"waiting"})


class Waking(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        whole = replace(
            settings_made(proved(ready_job())), id="0a000000-0000-4000-8000-000000000003"
        )
        whole = replace(whole, arrival=replace(whole.arrival, permit=None))
        # Read within a day, all of it: what was read months ago lets nothing be switched on.
        latest = max(one.kept_at for one in whole.readings)
        whole = moved(whole, timedelta(days=(datetime.now(UTC) - latest).days))
        self.job_id = self.store(whole)
        self.first = "wake_step/dc_first on clear"

    def lift(self, reason: str = "The operator said yes by phone") -> Any:
        return self.post("/overrides", {"key": self.first, "reason": reason})

    def test_a_locked_step_is_refused_until_a_licensed_person_lifts_the_lock(self) -> None:
        step = ("wake_step", "dc_first on clear", "1")
        report = self.refused(self.read(*step))
        self.assertIn("permit", report["problems"][0]["message"].lower())
        self.refused(self.lift(), 403)
        enter_licence("tester", "L 77")
        self.refused(self.lift("no"))
        self.assertEqual(self.lift().status_code, 200)
        self.assertEqual(OverrideRow.objects.count(), 1)
        self.assertEqual(self.read(*step).status_code, 200)
        wake = self.get()["assessment"]["wake"]
        self.assertEqual((wake["overrides"][0]["licence"], wake["phases"][0]["done"]), ("L 77", 1))
        # There is nothing to lift on a step that is done, or is not the next.
        self.refused(self.lift())
        # It leaves with the job's file, and comes back as history that lifts nothing.
        raw = self.client.get(f"/api/jobs/{self.job_id}/file").content
        (told,) = read_job(raw).step_overrides
        self.assertEqual(told.reason, "The operator said yes by phone")
        self.assertTrue(told.from_file)

    def test_a_rehearsal_answers_and_keeps_nothing(self) -> None:
        before = ReadingRow.objects.count()
        body = {
            "phase": "on",
            "until_s": 300,
            "acts": [{"at_s": at, "switch": name} for at, name in enumerate(("plugs", "dc"))],
        }
        played = self.post("/rehearsal", body).json()
        self.assertEqual(played["shown"]["light"], "waiting")
        self.assertEqual(self.post("/rehearsal", body).json(), played)
        for wrong in ({"until_s": 1e9}, {"phase": "up"}, {"acts": [{"at_s": -1}]}, {"seed": "x"}):
            self.refused(self.post("/rehearsal", body | wrong))
        self.assertEqual(ReadingRow.objects.count(), before)

    def test_a_switch_is_said_and_a_light_decoded(self) -> None:
        self.read("switch_stands", "breaker", "-1")
        self.read("light", "inverter", "red, steady")
        wake = self.get()["assessment"]["wake"]
        stands = {one["switch"]: one["position"] for one in wake["switches"]}
        self.assertEqual(stands["breaker"], "OFF")
        self.assertEqual(wake["light"]["state"], "earth_fault")


class Licences(TestCase):
    def test_a_licence_is_entered_by_who_runs_the_installation(self) -> None:
        with self.assertRaises(CommandError):
            call_command("licence", "nobody", "L 1")
