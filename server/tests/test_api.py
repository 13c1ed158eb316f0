"""The API: who may, what is kept, what is refused and how."""

from __future__ import annotations

import io
import json
from datetime import UTC, datetime, timedelta
from hashlib import sha256
from unittest import mock
from uuid import UUID

from django.db import DatabaseError, connection, transaction
from django.test import Client, override_settings
from pypdf import PdfReader

from core.files.job import read_job
from core.tests.samples import measured_job, sample_job
from devices.simulated.faults import faults
from devices.simulated.faulty import faulty
from devices.simulated.image import Made
from devices.simulated.inverter import SimulatedInverter, running
from server.demo.load import load
from server.jobs import views
from server.jobs.models import JobRow
from server.jobs.stored import row_of, to_core
from server.people.erasing import erasing
from server.people.models import AuditLine
from server.readings.models import ReadingRow
from server.tests.support import ApiCase


class People(ApiCase):
    def test_without_signing_in_nothing_is_seen_or_changed(self) -> None:
        stranger = Client()
        for path in ("", "/sun", "/file", "/record", "/assessment", "/record/pages/1"):
            self.refused(stranger.get(f"/api/jobs/{self.job_id}{path}"), 401)
        for path in ("/changes", "/readings", "/readings/try", "/readings/clear-sky", "/settings"):
            url = f"/api/jobs/{self.job_id}{path}"
            self.refused(stranger.post(url, "{}", "application/json"), 401)
        for url in ("/api/jobs", "/api/shelf"):
            self.refused(stranger.get(url), 401)

    def test_one_who_left_the_crew_may_do_nothing(self) -> None:
        self.person.is_active = False
        self.person.save()
        self.refused(self.client.get("/api/jobs"), 401)

    def test_signing_in_needs_the_password_and_the_token(self) -> None:
        stranger = Client(enforce_csrf_checks=True)
        body = json.dumps({"username": "tester", "password": "long enough to do"})
        refused = stranger.post("/api/session", body, "application/json")
        self.assertEqual(refused.status_code, 403)
        stranger.get("/")
        token = {"X-CSRFToken": stranger.cookies["csrftoken"].value}
        wrong = body.replace("enough", "little")
        self.refused(stranger.post("/api/session", wrong, "application/json", headers=token))
        found = stranger.post("/api/session", body, "application/json", headers=token)
        self.assertEqual(found.json()["name"], "tester")
        self.assertEqual(stranger.post("/api/jobs", "{}", "application/json").status_code, 403)

    def test_the_demo_button_works_in_the_demo_only(self) -> None:
        stranger = Client()
        with override_settings(DEMO=False):
            self.refused(stranger.post("/api/session/demo", content_type="application/json"))
        with override_settings(DEMO=True):
            JobRow.objects.all().delete()
            load()
            self.assertEqual(
                stranger.post("/api/session/demo", content_type="application/json").json()["name"],
                "Ada Fenn",
            )
            lines = stranger.get("/api/jobs").json()
        self.assertEqual([line["stands_at"] for line in lines], [10, 6, 4, 1, 4, 1, 1])
        self.assertEqual(sum(bool(line["blocks"]) for line in lines), 2)


class Plans(ApiCase):
    def test_a_change_is_judged_kept_and_audited(self) -> None:
        view = self.change("$.strings[0].modules_in_series", "15").json()
        self.assertEqual(view["assessment"]["string"]["strings"][0]["verdict"], "stop")
        self.assertEqual(self.get()["revision"], 2)
        line = AuditLine.objects.latest("id")
        self.assertEqual((line.by, line.what), (self.person, "plan changed"))

    def test_refused_changes_change_nothing(self) -> None:
        for path, entered in (
            ("$.strings[0].modules_in_series", "400"),
            ("$.strings[0].modules_in_series", ""),
            ("$.site.t_air_min_c", "45"),
            ("$.module", "nobody"),
            ("$.readings", "[]"),
        ):
            report = self.refused(self.change(path, entered))
            self.assertEqual(report["problems"][0]["path"], path)
            self.assertTrue(report["problems"][0]["allowed"])
            self.assertIn("kept", report["kept"])
        self.assertEqual(to_core(row_of(self.job_id)), sample_job())

    def test_two_people_at_once_do_not_overwrite_each_other(self) -> None:
        body = {"revision": 1, "changes": [{"path": "$.site.altitude_m", "entered": "25 m"}]}
        self.assertEqual(self.post("/changes", body).status_code, 200)
        self.refused(self.post("/changes", body), 409)

    def test_a_new_job_from_typed_entries(self) -> None:
        new = {
            "name": "Dory Lane 4",
            "day": "2026-12-01",
            "place": "Pellwick",
            "latitude_deg": "54,2",
            "longitude_deg": "0.6",
            "altitude_m": "40 ft",
            "timezone": "Europe/London",
            "t_air_min_c": "−9 °C",
            "t_air_max_c": "31",
            "climate_source": "log",
            "rule_pack": "generic-iec",
            "module": "ostrel-405",
            "inverter": "veyrick-36",
        }
        made = self.post("/api/jobs", new)
        self.assertEqual(made.status_code, 201)
        found = self.client.get(f"/api/jobs/{made.json()['id']}").json()
        self.assertAlmostEqual(found["plan"]["site"]["altitude_m"], 12.192)
        for field, entered in (
            ("module", ""),
            ("t_air_min_c", "cold"),
            ("timezone", "Moon"),
            ("name", " "),
            ("day", "soon"),
        ):
            with self.subTest(field=field):
                report = self.refused(self.post("/api/jobs", new | {field: entered}))
                self.assertIn(field, report["problems"][0]["path"])

    def test_the_example_is_an_invented_house_and_nobodys_job(self) -> None:
        shown = self.client.get("/api/jobs/example").json()
        said = shown["assessment"]
        self.assertIsNotNone(shown["plan"]["wall"])
        for drawn in (
            said["hang"]["devices"], said["earth"]["links"], said["feed"]["today"]["rungs"],
            said["feed"]["high"]["rungs"], said["talk"]["ladders"],
        ):  # fmt: skip
            self.assertTrue(drawn)
        self.assertFalse(JobRow.objects.filter(plan__name=shown["assessment"]["name"]).exists())
        self.refused(Client().get("/api/jobs/example"), 401)

    def test_a_job_erased_while_the_home_is_put_together_has_no_line(self) -> None:
        marks = views._marks

        def erased_meanwhile(ids: list[UUID]) -> dict[UUID, list[int]]:
            with erasing("meanwhile"):
                JobRow.objects.filter(id=self.job_id).delete()
            return marks(ids)

        with mock.patch.object(views, "_marks", erased_meanwhile):
            found = self.client.get("/api/jobs")
        self.assertEqual((found.status_code, found.json()), (200, []))

    def test_nonsense_bodies_are_problems_not_faults(self) -> None:
        for body in ([], "x", {"revision": "one"}, {"revision": 1, "changes": []}, {"extra": 1}):
            self.refused(self.post("/changes", body))
        raw = self.client.post(f"/api/jobs/{self.job_id}/changes", b"\xff{", "application/json")
        self.assertEqual(raw.status_code // 100, 4)
        self.refused(self.client.get("/api/jobs/00000000-0000-4000-8000-000000000000"), 404)


class Readings(ApiCase):
    def at(self, **ago: float) -> str:
        return (datetime.now(UTC) - timedelta(**ago)).isoformat()

    def test_tried_is_judged_and_not_kept(self) -> None:
        body = {"kind": "supply_voltage", "subject": "L-N", "entered": "0,246 kV"}
        tried = self.post("/readings/try", body).json()
        self.assertEqual((tried["verdict"], tried["reading"]["value"]), ("clear", 246))
        self.assertEqual(ReadingRow.objects.count(), 0)

    def test_a_correction_supersedes_and_both_stay_visible(self) -> None:
        self.read("irradiance", "East", "700", taken_at=self.at(minutes=9))
        self.read("module_temperature", "East", "35 °C", taken_at=self.at(minutes=8))
        view = self.read("open_circuit", "A", "481", taken_at=self.at(minutes=7)).json()
        ask = next(a for a in view["assessment"]["asks"] if a["key"] == "open_circuit/A")
        self.assertNotEqual(ask["verdict"], "clear")
        first = ask["reading"]["id"]
        said = {"supersedes": first, "note": "digits swapped"}
        view = self.read("open_circuit", "A", "418", **said).json()
        ask = next(a for a in view["assessment"]["asks"] if a["key"] == "open_circuit/A")
        self.assertEqual(ask["verdict"], "clear")
        self.assertEqual([kept["value"] for kept in ask["history"]], [481, 418])
        self.assertEqual(ask["history"][0]["superseded_by"], ask["reading"]["id"])
        self.assertEqual(ask["history"][0]["taken_at"], ask["history"][1]["taken_at"])
        self.assertEqual(ask["reading"]["by"], "tester")

    def test_refused_readings_keep_nothing(self) -> None:
        for kind, subject, entered, more in (
            ("open_circuit", "A", "", {}),
            ("open_circuit", "A", "NaN", {}),
            ("open_circuit", "A", "1e9", {}),
            ("open_circuit", "Z", "400", {}),
            ("irradiance", "East", "0", {}),
            ("irradiance", "East", "-5", {}),
            ("polarity", "A", "yes", {}),
            ("setting", "ramp_h", "5", {}),
            ("open_circuit", "A", "400", {"supersedes": "nothing-like-it"}),
            ("open_circuit", "A", "400", {"taken_at": self.at(days=-1)}),
            ("magic", "A", "400", {}),
            ("open_circuit", "A", "400", {"kept_at": self.at()}),
        ):
            with self.subTest(kind=kind, entered=entered, more=more):
                self.refused(self.read(kind, subject, entered, **more))
        self.assertEqual(ReadingRow.objects.count(), 0)

    def test_clear_sky_is_marked_computed_and_needs_daylight(self) -> None:
        noon, night = "2026-06-18T12:00:00+00:00", "2026-06-18T00:30:00+00:00"
        sky = self.post("/readings/clear-sky", {"plane": "East", "at": noon}).json()
        ask = next(a for a in sky["assessment"]["asks"] if a["key"] == "irradiance/East")
        self.assertEqual(ask["reading"]["basis"], "clear_sky")
        self.assertGreater(ask["reading"]["value"], 500)
        self.refused(self.post("/readings/clear-sky", {"plane": "East", "at": night}))
        self.refused(self.post("/readings/clear-sky", {"plane": "Cellar", "at": noon}))

    def test_kept_rows_can_neither_be_changed_nor_removed(self) -> None:
        self.read("supply_voltage", "L-N", "240")
        row = ReadingRow.objects.get()
        for forbidden in (row.save, row.delete):
            with self.assertRaises(TypeError):
                forbidden()
        with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("UPDATE readings_readingrow SET value = 1")


class Files(ApiCase):
    def take_in(self, raw: bytes, query: str = "") -> object:
        return self.client.post(f"/api/jobs/file{query}", raw, "application/json")

    def test_out_and_in_on_another_machine_loses_nothing(self) -> None:
        self.read("supply_voltage", "L-N", "246")
        self.change("$.grid.profile", "en-50549-1")
        with running(SimulatedInverter(Made(serial="F-1"))) as port:
            self.change("$.grid.port", str(port))
            self.post("/settings", {})
        raw = self.client.get(f"/api/jobs/{self.job_id}/file").content
        before = to_core(row_of(self.job_id))
        self.refused(self.take_in(raw), 409)
        copy = self.take_in(raw, "?as_copy=true").json()["id"]
        # A copy is for another house: the plan goes with it, what was read here does not.
        copied = to_core(row_of(copy))
        self.assertEqual((copied.readings, copied.settings_written), ((), ()))
        self.assertEqual(copied.strings, before.strings)
        with erasing("another machine"), connection.cursor() as cursor:
            for table in ("readings_readingrow", "gridset_settingsrow", "jobs_jobrow"):
                cursor.execute(f"DELETE FROM {table}")
        self.assertEqual(self.take_in(raw).status_code, 201)
        self.assertEqual(to_core(row_of(self.job_id)), before)
        self.assertEqual(read_job(raw), before)
        # Which file a job came from is told on the screen and printed, by its fingerprint.
        (brought,) = self.get()["files"]
        self.assertEqual((brought["what"], brought["sha256"]), ("job", sha256(raw).hexdigest()))
        record = PdfReader(io.BytesIO(self.client.get(f"/api/jobs/{self.job_id}/record").content))
        text = "".join(page.extract_text() for page in record.pages)
        self.assertIn(brought["sha256"], "".join(text.split()))

    def test_bad_files_are_refused_and_leave_nothing(self) -> None:
        for raw in (b"", b"{", b"[]", b'{"format": "other"}', b"\xff\xfe\x00"):
            self.refused(self.take_in(raw))
        report = self.refused(self.take_in(b" " * (50 * 1024 * 1024)), 413)
        self.assertIn("50 MB", report["detail"])
        self.assertEqual(JobRow.objects.count(), 1)

    def test_the_record_is_a_pdf_with_pages(self) -> None:
        measured = self.store(
            measured_job().__class__(
                **{**vars(measured_job()), "id": "0b000000-0000-4000-8000-000000000001"}
            )
        )
        for job_id in (self.job_id, measured):
            pdf = self.client.get(f"/api/jobs/{job_id}/record")
            self.assertTrue(pdf.content.startswith(b"%PDF"))
            page = self.client.get(f"/api/jobs/{job_id}/record/pages/1")
            self.assertEqual(page["Content-Type"], "image/svg+xml")
        self.refused(self.client.get(f"/api/jobs/{self.job_id}/record/pages/99"), 404)


class GridSetting(ApiCase):
    def verdicts(self) -> dict[str, str]:
        judgements = self.get()["assessment"]["grid"]["judgements"]
        return {one["rule_id"]: one["verdict"] for one in judgements}

    def test_written_read_back_and_compared(self) -> None:
        with running(SimulatedInverter(Made(serial="G-1"))) as port:
            self.change("$.grid.port", str(port))
            self.assertEqual(self.post("/settings", {}).status_code, 200)
        self.assertEqual(self.verdicts()["settings_agree"], "clear")
        attempt = self.get()["assessment"]["grid"]["attempts"][0]
        self.assertEqual((attempt["by"], attempt["device"]["serial"]), ("tester", "G-1"))
        self.assertEqual(len(attempt["fingerprint"]), 12)

    def test_a_forgetful_a_locked_and_a_dead_inverter_stop_the_job(self) -> None:
        for wrong, rule in (("forgets", "settings_agree"), ("locked", "device_answer")):
            with running(SimulatedInverter(Made(serial="G-1"), faults(wrong))) as port:
                self.change("$.grid.port", str(port))
                self.post("/settings", {})
            self.assertEqual(self.verdicts()[rule], "stop", wrong)
        with faulty("garbage") as port:
            self.change("$.grid.port", str(port))
            self.post("/settings", {})
        self.assertEqual(self.verdicts()["device_answer"], "stop")
        attempts = self.get()["assessment"]["grid"]["attempts"]
        self.assertEqual([a["outcome"] for a in attempts], ["garbage", "refused", "read_back"])

    def test_no_profile_no_writing(self) -> None:
        self.change("$.grid.profile", "")
        self.refused(self.post("/settings", {}))
