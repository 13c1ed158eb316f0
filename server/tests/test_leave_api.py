"""Signing, verifying, papers, labels, attachments and looks at the yield, over the API."""

from __future__ import annotations

import io
import json
import zipfile
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest.mock import patch

from django.test import Client, TestCase
from pypdf import PdfReader

from core.assess import assess
from core.edits.leave import SetHandOver
from core.equipment.catalogue import SHIPPED
from core.files.job import write_job
from core.job.arrival import CrewMember
from core.job.job import Job
from core.tests.test_leave import left
from devices.simulated.image import Made
from devices.simulated.inverter import SimulatedInverter, running
from server.people.membership import add_person, found_crew
from server.people.models import Licence
from server.signing.models import SealedRow
from server.signing.seal import JOB, MANIFEST, verify
from server.signing.verify import ALTERED, HOLDS, NO_FILE
from server.signing.verify import main as verify_file

PNG = bytes.fromhex(
    "89504e470d0a1a0a0000000d4948445200000001000000010802000000907753de"
    "0000000c49444154789c63f8cfc0000003010100c9fe92ef0000000049454e44ae426082"
)
WHEN = datetime(2026, 6, 18, 16, 0, tzinfo=UTC)


class LeaveCase(TestCase):
    def setUp(self) -> None:
        crew = found_crew("Fenn Electric")
        self.owner = add_person(crew, "ada", "owner", "a long way to the sea", "Ada Fenn")
        Licence.objects.create(person=self.owner, number="L-7", ends_on=None)
        self.client = Client()
        self.client.force_login(self.owner)
        job = SetHandOver(customer="Ines Marsh").apply(left(), SHIPPED)
        crew_here = (CrewMember(name="Ada Fenn", licence="L-7"),)
        job = replace(job, arrival=replace(job.arrival, crew=crew_here))
        self.names = [one.name for one in job.arrival.crew]
        self.id = self.taken_in(job)
        clock = patch("server.signing.actions.datetime")
        self.clock = clock.start()
        self.clock.now.return_value = WHEN
        self.addCleanup(clock.stop)
        other = patch("server.signing.api.datetime")
        other.start().now.return_value = WHEN
        self.addCleanup(other.stop)

    def taken_in(self, job: Job) -> str:
        answer = self.client.post(
            "/api/jobs/file", write_job(job).encode(), content_type="application/json"
        )
        self.assertEqual(answer.status_code, 201, answer.content)
        return str(answer.json()["id"])

    def get(self, path: str) -> Any:
        return self.client.get(f"/api/jobs/{self.id}/{path}")

    def post(self, path: str, **body: Any) -> Any:
        return self.client.post(
            f"/api/jobs/{self.id}/{path}", json.dumps(body), content_type="application/json"
        )

    def sign(self, role: str, **more: Any) -> Any:
        seen = self.get("signing").json()
        names = {"did": self.names[0], "answers": "", "accepts": "Ines Marsh"}
        body = {"role": role, "name": names[role], "state": seen["state"]}
        body["took_on"] = [one["key"] for one in seen["watches"]]
        return self.post("signing", **(body | more))

    def sign_all(self) -> bytes:
        for role in ("did", "answers", "accepts"):
            answer = self.sign(role)
            self.assertEqual(answer.status_code, 200, answer.content)
        number = len(self.get("signing").json()["versions"])
        return bytes(self.get(f"signing/{number}").content)


class Signing(LeaveCase):
    def test_three_signatures_freeze_the_record_and_anyone_can_verify_it(self) -> None:
        frozen = self.sign_all()
        self.assertTrue(verify(frozen).holds, verify(frozen).lines)
        view = self.client.get(f"/api/jobs/{self.id}").json()
        self.assertTrue(view["assessment"]["leave"]["signing"]["signed"])
        with zipfile.ZipFile(io.BytesIO(frozen)) as archive:
            self.assertEqual(
                sorted(archive.namelist()),
                ["assessment.json", JOB, MANIFEST, "record.pdf"],
            )
            text = PdfReader(io.BytesIO(archive.read("record.pdf"))).pages[0].extract_text()
            record = archive.read("record.pdf")
        self.assertIn("Ines Marsh", text)
        with TemporaryDirectory() as folder, redirect_stdout(io.StringIO()) as said:
            whole, part, broken = (Path(folder) / name for name in ("a.zip", "b.pdf", "c.zip"))
            whole.write_bytes(frozen)
            part.write_bytes(record)
            self.assertEqual(verify_file([str(whole)]), HOLDS)
            self.assertEqual(verify_file([str(part)]), HOLDS)
            part.write_bytes(record + b" ")
            self.assertEqual(verify_file([str(part)]), ALTERED)
            with redirect_stderr(io.StringIO()):
                self.assertEqual(verify_file([str(broken)]), NO_FILE)
        self.assertIn("record.pdf: as signed.", said.getvalue())
        self.assertIn("NOT as signed.", said.getvalue())

    def test_a_record_altered_by_one_byte_is_told(self) -> None:
        frozen = bytearray(self.sign_all())
        step = max(1, len(frozen) // 60)
        for at in range(0, len(frozen), step):
            altered = bytearray(frozen)
            altered[at] ^= 1
            if bytes(altered) != bytes(frozen):
                found = verify(bytes(altered))
                same = self.contents(bytes(altered)) == self.contents(bytes(frozen))
                # A bit of the ZIP's own dates changes nothing that was signed.
                self.assertTrue(same or not found.holds, at)

    def contents(self, data: bytes) -> Any:
        try:
            with zipfile.ZipFile(io.BytesIO(data)) as archive:
                return {one: archive.read(one) for one in archive.namelist()}
        except Exception:
            return None

    def test_files_put_in_taken_out_or_sealed_anew_by_another_are_told(self) -> None:
        frozen = self.sign_all()
        files = self.contents(frozen)
        job = json.loads(files[JOB])
        job["site"]["t_air_min_c"] = -40.0
        for changed in (
            files | {JOB: json.dumps(job).encode()},
            files | {"more.txt": b"x"},
            {name: data for name, data in files.items() if name != "record.pdf"},
            {name: data for name, data in files.items() if name != MANIFEST},
            files | {MANIFEST: files[MANIFEST].replace(b'"signature": "', b'"signature": "00')},
            files | {MANIFEST: b"[]"},
        ):
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as archive:
                for name, data in changed.items():
                    archive.writestr(name, data)
            self.assertFalse(verify(out.getvalue()).holds)
        self.assertFalse(verify(b"no zip").holds)

    def test_a_later_change_makes_a_version_that_says_what_differs(self) -> None:
        self.sign_all()
        edit = {"do": "set_hand_over", "customer": "Ines Marsh", "call_name": "Fenn Electric"}
        revision = self.client.get(f"/api/jobs/{self.id}").json()["revision"]
        answer = self.post("edits", revision=revision, edit=edit)
        self.assertEqual(answer.status_code, 200, answer.content)
        signing = answer.json()["assessment"]["leave"]["signing"]
        self.assertEqual((signing["signed"], signing["changed"]), (False, True))
        since = self.get("signing").json()["since"]
        self.assertEqual([one["what"] for one in since], ["$.leave.call_name"])
        self.sign_all()
        second = self.get("signing").json()["versions"][1]
        self.assertEqual(second["differs"][0]["now"], "Fenn Electric")
        self.assertEqual(SealedRow.objects.count(), 2)

    def test_who_may_not_sign_signs_nothing(self) -> None:
        for role, more, said in (
            ("did", {"name": "Bo Tarn"}, "not one of the people"),
            ("did", {"name": " -"}, "nobody"),
            ("answers", {}, "First: the signature of whoever did the work"),
            ("accepts", {}, "First"),
            ("did", {"form": "drawn", "drawn": "<svg>"}, ""),
        ):
            answer = self.sign(role, **more)
            self.assertEqual(answer.status_code, 422, answer.content)
            self.assertIn(said, json.dumps(answer.json()))
        self.assertEqual(self.sign("did", state="0" * 64).status_code, 409)
        self.assertEqual(self.sign("did", form="drawn", drawn="M10 20 L30 40").status_code, 200)
        self.assertEqual(self.sign("answers", took_on=[]).status_code, 422)
        Licence.objects.filter(person=self.owner).update(ends_on=date(2026, 6, 17))
        answer = self.sign("answers")
        self.assertIn("ran out on 2026-06-17", json.dumps(answer.json()))
        self.assertEqual(SealedRow.objects.count(), 0)

    def test_an_absent_customer_has_a_reason(self) -> None:
        self.sign("did")
        self.sign("answers")
        self.assertEqual(self.sign("accepts", name="", form="absent").status_code, 422)
        answer = self.sign("accepts", name="", form="absent", note="Away until July")
        self.assertEqual(answer.status_code, 200, answer.content)

    def test_what_is_open_is_not_signed_over(self) -> None:
        key = next(one.key for one in assess(left()).asks if one.kind == "label_stuck")
        kind, _, subject = key.partition("/")
        answer = self.post("readings", kind=kind, subject=subject, entered="-1")
        self.assertLess(answer.status_code, 300, answer.content)
        refused = self.sign("did")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("never signed over", json.dumps(refused.json()))


class Papers(LeaveCase):
    def test_every_paper_comes(self) -> None:
        for path, starts in (
            ("record/parts/string_tests", b"%PDF"),
            ("owner", b"%PDF"),
            ("owner?part=card", b"%PDF"),
            ("labels", b"%PDF"),
            ("serials", b"\xef\xbb\xbfwhat"),
            ("dossier", b"%PDF"),
            ("dossier?form=zip", b"PK"),
            ("support", b"PK"),
            ("record/pages/1", b"<svg"),
        ):
            answer = self.get(path)
            self.assertEqual(answer.status_code, 200, path)
            self.assertTrue(answer.content.startswith(starts), path)
        self.assertEqual(self.get("record/pages/99").status_code, 404)
        self.assertEqual(self.get("record/parts/nothing").status_code, 422)
        self.assertEqual(self.get("label?key=nothing").status_code, 404)
        card = PdfReader(io.BytesIO(self.get("owner?part=card").content))
        box = card.pages[0].mediabox
        self.assertAlmostEqual(float(box.width) / 72 * 25.4, 148, delta=0.5)
        self.assertAlmostEqual(float(box.height) / 72 * 25.4, 210, delta=0.5)

    def test_the_owners_pages_are_two(self) -> None:
        pages = PdfReader(io.BytesIO(self.get("owner?part=owner").content)).pages
        self.assertLessEqual(len(pages), 2)

    def test_the_support_bundle_names_nobody_unless_asked(self) -> None:
        def said(path: str) -> str:
            with zipfile.ZipFile(io.BytesIO(self.get(path).content)) as archive:
                files = [archive.read(one) for one in archive.namelist()]
            return b"".join(files).decode("utf-8", "replace")

        without, with_ = said("support"), said("support?personal=true")
        for name in ("Ines Marsh", "Ada Fenn", "Nowhere", '"Tester"'):
            self.assertNotIn(name, without)
        self.assertIn('"Tester"', with_)
        self.assertIn("open_circuit", without)

    def test_manuals_are_kept_by_their_hash_up_to_a_limit(self) -> None:
        def send(step: str, data: bytes) -> Any:
            return self.client.post(
                f"/api/jobs/{self.id}/evidence?step={step}&name=leaflet.pdf",
                data,
                content_type="application/octet-stream",
            )

        manual = b"%PDF-1.7 " + b"m" * 1000
        self.assertEqual(send("manual/Inverter", manual).status_code, 200)
        self.assertEqual(send("label/nothing", manual).status_code, 422)
        with zipfile.ZipFile(io.BytesIO(self.get("dossier?form=zip").content)) as archive:
            names = [one for one in archive.namelist() if one.startswith("attached/manual/")]
            self.assertEqual(archive.read(names[0]), manual)
        with patch("server.evidence.actions.MOST_ATTACHED_BYTES", 1500):
            answer = send("manual/Board", manual + b"other")
            self.assertEqual(answer.status_code, 422)
            self.assertIn("this one was not kept", json.dumps(answer.json()))
        label = next(one.key for one in assess(left()).asks if one.kind == "label_stuck")
        self.assertEqual(send(label, PNG).status_code, 200)


class Yields(LeaveCase):
    def test_typed_read_from_a_file_and_refused(self) -> None:
        answer = self.post(
            "yield", days=[{"day": "2026-06-19", "entered": "31,5 kWh"}], share="0.9", t_air_c="18"
        )
        self.assertEqual(answer.status_code, 200, answer.content)
        look = answer.json()["assessment"]["leave"]["yields"][0]
        self.assertEqual(look["read_kwh"], 31.5)
        self.assertGreater(look["expected_kwh"], 10)
        raw = b"Day;String A [kWh];String B [kWh]\n2026-06-19;17;14\n2026-06-20;16;0\n"
        answer = self.client.post(
            f"/api/jobs/{self.id}/yield/file?share=0.9", raw, content_type="text/csv"
        )
        look = answer.json()["assessment"]["leave"]["yields"][0]
        self.assertEqual([one["part"] for one in look["parts"]], ["string A", "string B"])
        for path, body in (
            ("yield", {"days": []}),
            ("yield", {"days": [{"day": "2026-06-19", "entered": "much"}]}),
            ("yield", {"days": [{"day": "2026-06-19", "part": "string Z", "entered": "3"}]}),
            ("yield", {"days": [{"day": "2999-06-19", "entered": "3"}]}),
            ("yield", {"days": [{"day": "2026-06-19", "entered": "3"}], "share": "40"}),
        ):
            self.assertEqual(self.post(path, **body).status_code, 422, body)

    def test_the_devices_own_counter(self) -> None:
        serial = next(one.text for one in left().readings if one.kind == "nameplate_serial")
        now = datetime(2026, 6, 21, 10, 0, tzinfo=UTC)
        with (
            running(SimulatedInverter(Made(serial=serial, counted_wh=81_500))) as port,
            patch("server.yields.actions.datetime", wraps=datetime) as clock,
        ):
            clock.now.return_value = now
            job = json.loads(self.get("file").content)
            host = {"path": "$.grid.host", "entered": "127.0.0.1"}
            to = {"path": "$.grid.port", "entered": str(port)}
            revision = self.client.get(f"/api/jobs/{self.id}").json()["revision"]
            self.post("changes", revision=revision, changes=[host, to])
            answer = self.post("yield/counter", share="0.8")
            self.assertEqual(answer.status_code, 200, answer.content)
            look = answer.json()["assessment"]["leave"]["yields"][0]
            self.assertEqual((look["read_kwh"], look["source"]), (81.5, "device"))
            self.assertEqual(look["last_day"], "2026-06-21")
            clock.now.return_value = now + timedelta(days=60)
            self.assertEqual(self.post("yield/counter").status_code, 422)
        self.assertTrue(job)
        self.assertEqual(self.post("yield/counter").status_code, 422)
