"""What must not be let in, and must bring nothing down: in words, quickly, with nothing kept."""

from __future__ import annotations

import hashlib
import io
import json
import time
import zipfile
from dataclasses import replace
from typing import Any
from unittest.mock import patch

from django.db import OperationalError
from django.http import HttpResponse
from django.test import Client
from PIL import Image

from core.base.csv_text import as_cell, csv_text, from_cell
from core.base.delimited import rows_of
from core.base.limits import MOST_BUNDLE_BYTES
from core.files.job import read_job, write_job
from core.job.readings import Evidence
from core.tests.samples import NOON, sample_job
from server.evidence.models import PictureRow
from server.evidence.pictures import GPS_TAG
from server.jobs.bundle import JOB_NAME
from server.jobs.models import JobRow
from server.jobs.stored import load
from server.platform import heavy
from server.tests.support import ApiCase
from server.tests.test_site_api import jpeg

SECONDS = 12.0
ELSEWHERE = "0d000000-0000-4000-8000-000000000001"


def zipped(job: bytes, pictures: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(JOB_NAME, job)
        for name, data in pictures.items():
            archive.writestr(f"pictures/{name}", data)
    return out.getvalue()


def with_picture(data: bytes, *, located: bool = False) -> bytes:
    """A ZIP of a job with one picture, whatever that is, under its true name."""
    sha256 = hashlib.sha256(data).hexdigest()
    evidence = Evidence(
        id="0e000000-0000-4000-8000-000000000001", step="permit", name="a.jpg",
        form="image/jpeg", size_bytes=len(data), sha256=sha256,
        kept_at=NOON, by="Somebody", located=located,
    )  # fmt: skip
    job = replace(sample_job(), id=ELSEWHERE, evidence=(evidence,))
    return zipped(write_job(job).encode(), {sha256: data})


class Hostile(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.begun = time.monotonic()

    def tearDown(self) -> None:
        self.assertLess(time.monotonic() - self.begun, 4 * SECONDS)

    def take_in(self, raw: bytes) -> HttpResponse:
        answer: HttpResponse = self.client.post("/api/jobs/file", raw, "application/zip")
        return answer

    def raw(self, path: str, body: bytes, kind: str = "application/json") -> HttpResponse:
        url = f"/api/jobs/{self.job_id}{path}"
        answer: HttpResponse = self.client.post(url, body, kind)
        return answer


class Pictures(Hostile):
    def test_a_good_signature_with_a_bad_body_is_refused_whole(self) -> None:
        for body in (b"\xff\xd8\xff" + b"no picture" * 50, jpeg()[:300]):
            self.assertIn("damaged", self.refused(self.take_in(with_picture(body)))["detail"])
        self.assertEqual((JobRow.objects.count(), PictureRow.objects.count()), (1, 0))

    def test_one_that_is_here_damaged_stops_no_record(self) -> None:
        job = replace(read_job(write_job(sample_job()).encode()), id=ELSEWHERE)
        answer = self.take_in(with_picture(jpeg()))
        self.assertEqual(answer.status_code, 201, answer.content)
        self.job_id = job.id
        with patch("server.documents.record.bytes_of", lambda _: b"\xff\xd8\xff" + b"?" * 99):
            record = self.client.get(f"/api/jobs/{ELSEWHERE}/record")
        self.assertTrue(record.content.startswith(b"%PDF"))

    def test_where_it_was_taken_does_not_come_in_through_a_job_file(self) -> None:
        self.assertEqual(self.take_in(with_picture(jpeg(located=True))).status_code, 201)
        (row,) = PictureRow.objects.all()
        with Image.open(io.BytesIO(bytes(row.data))) as kept:
            self.assertEqual(len(kept.getexif().get_ifd(GPS_TAG)), 0)
        (evidence,) = load(ELSEWHERE).job.evidence
        self.assertEqual(evidence.sha256, row.sha256)

    def test_one_that_nothing_refers_to_is_not_kept(self) -> None:
        stray = jpeg()
        job = replace(sample_job(), id=ELSEWHERE)
        name = hashlib.sha256(stray).hexdigest()
        self.assertEqual(
            self.take_in(zipped(write_job(job).encode(), {name: stray})).status_code, 201
        )
        self.assertEqual(PictureRow.objects.count(), 0)

    def test_far_too_many_pixels_are_never_decoded(self) -> None:
        out = io.BytesIO()
        Image.new("1", (9000, 9000)).save(out, "PNG")
        answer = self.raw("/evidence?step=permit", out.getvalue(), "application/octet-stream")
        self.assertIn("larger than any camera", self.refused(answer)["detail"])

    def test_when_all_slots_are_taken_who_comes_waits_and_is_told(self) -> None:
        with (
            heavy.heavy("picture", slots=1),
            patch.object(heavy, "SLOTS", 1),
            patch("server.evidence.pictures.heavy", lambda what: heavy.heavy(what, 1, 0.2)),
        ):
            answer = self.raw("/evidence?step=permit", jpeg(), "application/octet-stream")
        self.assertIn("moment", self.refused(answer, 503)["detail"])


class Archives(Hostile):
    def test_damaged_streams_and_members_without_end(self) -> None:
        whole = bytearray(zipped(write_job(replace(sample_job(), id=ELSEWHERE)).encode(), {}))
        middle = len(whole) // 3
        whole[middle : middle + 40] = bytes(40)
        many = io.BytesIO()
        with zipfile.ZipFile(many, "w") as archive:
            for number in range(4100):
                archive.writestr(f"pictures/{number}", b"")
        for raw in (bytes(whole), many.getvalue(), b"PK\x03\x04" + bytes(2000)):
            self.refused(self.take_in(raw))
        self.assertEqual(JobRow.objects.count(), 1)

    def test_a_body_far_beyond_everything_is_refused_unread(self) -> None:
        client = Client()
        client.force_login(self.person)
        answer = client.post(
            "/api/jobs/file", b"x", "application/zip", CONTENT_LENGTH=str(MOST_BUNDLE_BYTES + 1)
        )
        self.assertIn("257 MB", self.refused(answer, 413)["detail"].replace("256", "257"))
        self.assertEqual(answer["Connection"], "close")


class Tables(Hostile):
    def test_many_columns_and_much_weather(self) -> None:
        wide = (",".join(["a"] * 200_000) + "\n").encode()
        for url in (
            "/api/shelf/modules/file",
            "/api/shelf/climate?file_name=a.csv",
        ):
            begun = time.monotonic()
            answer = self.client.post(url, wide, "text/csv")
            said = b"".join(answer.streaming_content) if answer.streaming else answer.content
            self.assertIn(b"columns", said, url)
            self.assertLess(time.monotonic() - begun, SECONDS)
        heavy_text = b"time,temp\n" + b"2024-01-01T00:00,1.0\n" * 3_000_000
        answer = self.client.post("/api/shelf/climate?file_name=a.csv", heavy_text, "text/csv")
        self.refused(answer, 413)

    def test_no_cell_that_goes_out_is_a_formula_and_each_comes_back_as_it_was(self) -> None:
        for text in (
            "=1+1",
            "+A1",
            "-B2",
            "@x",
            "'=1",
            "''-x",
            "\tx",
            "plain",
            "-5.2",
            "",
            "'",
            "−5",
        ):
            cell = as_cell(text)
            self.assertFalse(cell.startswith(("=", "+", "@", "\t")), text)
            self.assertEqual(from_cell(cell), text)
        self.assertEqual(as_cell(-5.2), "-5.2")
        name = "=HYPERLINK(1)"
        self.edit({"do": "leave_open", "what": name, "owner": "+me", "stage": 1})
        rows = rows_of(csv_text([["a", "b"], [name, -1.5]]))
        self.assertEqual(rows[1][1], [name, "-1.5"])


class Texts(Hostile):
    def test_signs_that_cannot_be_stored_or_turn_a_line_round(self) -> None:
        entry: dict[str, Any] = {"kind": "nameplate_model", "subject": "inverter"}
        for text in ("a\x00b", "a\u202eb", "\u2066x", "a\x1bb"):
            report = self.refused(self.read(**entry, entered=text))
            self.assertIn("cannot be read", report["detail"])
        lone = b'{"kind":"nameplate_model","subject":"inverter","entered":"\\ud800"}'
        self.assertIn(self.raw("/readings", lone).status_code, (400, 422))
        file = write_job(replace(sample_job(), id=ELSEWHERE))
        for wrong in ("\\ud800", "\\u0000", "\\u202e"):
            self.refused(self.take_in(file.replace('"name": "', f'"name": "{wrong}', 1).encode()))

    def test_moments_that_no_calendar_here_reaches(self) -> None:
        for at in (
            "0001-01-01T00:00:00+14:00",
            "9999-12-31T23:59:59-12:00",
            "1850-01-01T00:00:00Z",
        ):
            body = {"kind": "supply_voltage", "subject": "L-N", "entered": "230", "taken_at": at}
            self.refused(self.post("/readings", body))
            self.refused(self.post("/readings/try", body))
            self.refused(self.post("/readings/clear-sky", {"plane": "East", "at": at}))
        file = json.loads(write_job(replace(sample_job(), id=ELSEWHERE)))
        file["day"] = "0001-01-01"
        self.refused(self.take_in(json.dumps(file).encode()))

    def test_another_kind_of_body_than_is_asked_for(self) -> None:
        form = b"--b\r\nContent-Disposition: form-data; name=a\r\n\r\n1\r\n--b--\r\n"
        answer = self.raw("/readings", form, "multipart/form-data; boundary=b")
        self.refused(answer, 415)
        for body in (b"", b"[", b"nul", b"1e999", b'{"a":NaN}', b"[" * 20_000):
            self.assertIn(self.raw("/readings", body).status_code, (400, 422), body[:20])


class Faults(Hostile):
    def test_what_fails_here_is_said_here_and_never_as_a_lost_connection(self) -> None:
        self.client.raise_request_exception = False
        for error, status, said in (
            (OperationalError("database or disk is full"), 503, "disk is full"),
            (OperationalError("attempt to write a readonly database"), 503, "still be read"),
            (OperationalError("database disk image is malformed"), 503, "damaged"),
            (ValueError("odd"), 500, "itself failed"),
        ):
            with (
                patch("server.readings.api.actions.keep", side_effect=error),
                self.assertLogs("django.request", "ERROR"),
            ):
                answer = self.read("supply_voltage", "L-N", "230")
            self.assertIn(said, self.refused(answer, status)["detail"])
