"""Arrive, Hang and Earth through the API: what is typed, counted, photographed, printed."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zipfile
import zlib
from dataclasses import replace
from typing import Any
from uuid import uuid4

from django.http import HttpResponse
from PIL import Image
from pypdf import PdfReader

from core.tests.samples import sample_job, settled, with_wall
from server.evidence.models import EvidenceRow, PictureRow
from server.evidence.pictures import LONGEST_SIDE_PX
from server.jobs.bundle import JOB_NAME
from server.people.erasing import erasing
from server.tests.support import ApiCase

WALL = {
    "do": "draw_wall",
    "kind": "stud",
    "width_mm": "2.6 m",
    "height_mm": "2400",
    "thickness_mm": "11 cm",
    "azimuth_deg": "200",
    "front_mm": "900 mm",
    "eave_mm": "0",
    "eave_height_mm": "",
    "datum_mm": "1400",
    "stud_first_mm": "200",
    "stud_pitch_mm": "16 in",
    "board_edges_mm": ["1200"],
    "reach": "readable",
    "outdoors": True,
    "combustible": False,
}
PIPE = {
    "do": "put_object",
    "was": None,
    "name": "Pipe",
    "kind": "pipe",
    "x_mm": "100",
    "y_mm": "0",
    "width_mm": "60",
    "height_mm": "2400",
    "opens": "no",
}
GPS_TAG, PLACE = 0x8825, {1: "N", 2: (54.0, 12.0, 0.0)}
MM_TO_POINTS = 72 / 25.4


def jpeg(width: int = 640, height: int = 480, *, located: bool = False) -> bytes:
    picture, out = Image.effect_noise((width, height), 40).convert("RGB"), io.BytesIO()
    exif = Image.Exif()
    if located:
        exif[GPS_TAG] = PLACE
    picture.save(out, "JPEG", exif=exif)
    return out.getvalue()


def plain(pdf: PdfReader) -> str:
    """The text of all pages, its line breaks as spaces."""
    return " ".join(" ".join(page.extract_text() for page in pdf.pages).split())


class Walls(ApiCase):
    def test_a_wall_is_drawn_hung_and_drilled_as_typed(self) -> None:
        view = self.done(WALL)
        self.assertEqual(view["plan"]["wall"]["width_mm"], 2600)
        self.assertAlmostEqual(view["plan"]["wall"]["stud_pitch_mm"], 406.4)
        self.done(PIPE)
        hang = {"do": "hang_device", "name": "Inverter", "kind": "inverter", "sheet": None}
        self.done(hang | {"x_mm": "1 m", "y_mm": "1100"})
        hang = {"do": "hang_device", "name": "Off", "kind": "isolator", "sheet": "stobmoor-dc-25"}
        self.done(hang | {"x_mm": "400", "y_mm": "1200"})
        view = self.done({"do": "fix_device", "name": "Inverter", "fixing": "wrackley-8x60"})
        inverter = view["assessment"]["hang"]["devices"][0]
        self.assertEqual((inverter["drill_mm"], inverter["x_mm"]), (5, 1000))
        # Without coordinates it hangs where everything is kept.
        meter = {"do": "hang_device", "name": "M", "kind": "meter", "sheet": "fenbrow-meter"}
        view = self.done(meter | {"x_mm": "", "y_mm": ""})
        placed = view["assessment"]["hang"]["devices"][-1]
        self.assertEqual({side["verdict"] for side in placed["sides"]} - {"clear", "watch"}, set())
        self.done({"do": "remove_device", "name": "M"})
        # Drawn anew, what is on the wall stays on it.
        view = self.done(WALL | {"width_mm": "2.8 m"})
        self.assertEqual(len(view["plan"]["wall"]["devices"]), 2)
        found = self.post("/places", {"name": "Inverter"}).json()
        best = found["places"][0]
        view = self.done(
            {
                "do": "place_device",
                "name": "Inverter",
                "x_mm": str(best["x_mm"]),
                "y_mm": str(best["y_mm"]),
            }
        )
        self.assertNotEqual(view["assessment"]["hang"]["devices"][0]["drill"]["verdict"], "stop")

    def test_what_makes_no_wall_is_refused_and_nothing_changes(self) -> None:
        self.done(WALL)
        before = self.get()["plan"]["wall"]
        meter = {
            "do": "hang_device",
            "name": "M",
            "kind": "meter",
            "sheet": "none",
            "x_mm": "0",
            "y_mm": "0",
        }
        for edit, said in (
            (WALL | {"stud_pitch_mm": "0"}, "0 mm is outside 100 to 1500 mm"),
            (WALL | {"width_mm": "wide"}, "is not a number"),
            (WALL | {"stud_pitch_mm": ""}, "the pitch of the studs"),
            (PIPE | {"x_mm": "-5"}, "-5 mm is outside"),
            (PIPE | {"was": "Window"}, "Window"),
            (meter, "none"),
            ({"do": "place_device", "name": "Inverter", "x_mm": "1", "y_mm": "1"}, "Inverter"),
            ({"do": "remove_object", "name": "x"}, "nothing is there yet"),
        ):
            with self.subTest(edit=edit["do"], said=said):
                self.assertIn(said, self.refused(self.edit(edit))["detail"])
        self.assertEqual(self.get()["plan"]["wall"], before)
        self.refused(self.post("/places", {"name": "Inverter"}))
        many = with_wall(sample_job())
        data = json.loads(self.client.get(f"/api/jobs/{self.job_id}/file").content)
        data["id"] = str(many.id).replace("1", "2")
        data["wall"]["objects"] = [
            {"name": f"p{n}", "kind": "pipe", "x_mm": n, "y_mm": 0, "width_mm": 9, "height_mm": 9}
            for n in range(500)
        ]
        report = self.refused(
            self.client.post("/api/jobs/file", json.dumps(data), "application/json")
        )
        self.assertIn("500 given, 0 to 200 items allowed", report["detail"])

    def test_the_sun_on_the_wall_by_month(self) -> None:
        self.refused(self.client.get(f"/api/jobs/{self.job_id}/wall-sun"))
        job = self.store(
            with_wall(
                replace(sample_job(), id="0a000000-0000-4000-8000-000000000002"), azimuth_deg=0.0
            )
        )
        north = self.client.get(f"/api/jobs/{job}/wall-sun").json()
        hours = [month["hours"] for month in north["months"]]
        # At 54° north the sun reaches a north wall early and late in summer, and never in winter.
        self.assertEqual((hours[0], hours[11], hours[5] > 6), (0, 0, True))
        self.assertEqual((north["hottest"], north["judgement"]["verdict"]), (7, "watch"))

    def test_the_drill_sheet_is_at_full_scale(self) -> None:
        job = self.store(
            with_wall(replace(sample_job(), id="0a000000-0000-4000-8000-000000000002"))
        )
        pdf = PdfReader(io.BytesIO(self.client.get(f"/api/jobs/{job}/drill-sheet").content))
        first = pdf.pages[0].extract_text()
        for said in ("1565 mm", "+65 mm", "313.2 mm", "hidden cables"):
            self.assertIn(said, first.replace("\u00a0", " "))
        tile = next(page for page in pdf.pages if "row 1 of" in page.extract_text())
        at: dict[str, float] = {}

        def seen(text: str, matrix: list[float], *more: Any) -> None:
            at.setdefault(text.strip(), matrix[5])

        tile.extract_text(visitor_text=seen)
        apart = abs(at["+65 from the level line"] - at["−25 from the level line"])
        self.assertAlmostEqual(apart, 90 * MM_TO_POINTS, delta=0.5)
        self.assertEqual(round(float(tile.mediabox.width)), 595)


class Goods(ApiCase):
    def test_lines_are_counted_together_or_not_at_all(self) -> None:
        good = {"line": "modules", "found": "20", "damaged": "1"}
        self.refused(self.post("/goods", {"lines": [good, {"line": "gloves", "found": "two"}]}))
        self.assertIsNone(self.get()["assessment"]["arrive"]["lines"][0]["found"])
        view = self.post("/goods", {"lines": [good]}).json()
        line = view["assessment"]["arrive"]["lines"][0]
        self.assertEqual(
            (line["found"], line["damaged"], line["judgement"]["verdict"]), (20, 1, "stop")
        )

    def test_the_load_in_sheet_goes_out_as_a_table(self) -> None:
        self.post("/goods", {"lines": [{"line": "modules", "found": "19", "damaged": ""}]})
        raw = self.client.get(f"/api/jobs/{self.job_id}/load-in").content
        rows = list(csv.DictReader(io.StringIO(raw.decode("utf-8-sig"))))
        modules = next(row for row in rows if row["because"] == "in all strings")
        self.assertEqual(
            (modules["needed"], modules["found"], modules["unit"]), ("20", "19", "pieces")
        )
        self.assertEqual(len(rows), len(self.get()["assessment"]["arrive"]["lines"]))
        self.assertIn("", [row["needed"] for row in rows])

    def test_permit_people_visits_and_open_points(self) -> None:
        permit = {
            "do": "set_permit",
            "operator": "Grid",
            "reference": "R 1",
            "granted_on": "2026-11-01",
            "export_w": "3 kW",
        }
        view = self.done(permit)
        verdicts = {
            one["rule_id"]: one["verdict"] for one in view["assessment"]["arrive"]["judgements"]
        }
        self.assertEqual(
            (verdicts["permit_export"], verdicts["permit_on_file"]), ("watch", "watch")
        )
        self.refused(self.edit(permit | {"granted_on": "soon"}))
        crew = [{"name": "A", "licence": "", "present": True}]
        view = self.done({"do": "set_crew", "crew": crew})
        self.assertIn(
            "stop", [one["verdict"] for one in view["assessment"]["arrive"]["judgements"]]
        )
        self.refused(
            self.edit({"do": "set_crew", "crew": [{"name": " ", "licence": "", "present": True}]})
        )
        self.done({"do": "leave_open", "what": "Hang it", "owner": "A", "stage": 2})
        self.refused(self.edit({"do": "leave_open", "what": "x", "owner": "A", "stage": 11}))
        view = self.done({"do": "settle_item", "number": 1, "settled": True})
        self.assertTrue(view["plan"]["arrival"]["open_items"][0]["settled"])
        view = self.done(
            {"do": "substitute", "kind": "inverters", "was": "Veyrick Five", "id": "veyrick-36"}
        )
        self.assertEqual(view["plan"]["inverter"]["model"], "Three six")
        self.refused(
            self.edit({"do": "substitute", "kind": "fixings", "was": "x", "id": "veyrick-36"})
        )
        view = self.done(
            {"do": "set_home_run", "name": "A", "length_m": "60 ft", "section_mm2": "4"}
        )
        self.assertAlmostEqual(view["plan"]["strings"][0]["home_run"][0]["length_m"], 18.288)

    def test_a_serial_is_on_one_job_alone(self) -> None:
        view = self.read("nameplate_serial", "inverter", "S/N vf26014417").json()
        ask = next(one for one in view["assessment"]["asks"] if one["kind"] == "nameplate_serial")
        self.assertEqual((ask["reading"]["text"], ask["verdict"]), ("VF26014417", "clear"))
        first = self.job_id
        self.job_id = self.store(replace(sample_job(), id="0a000000-0000-4000-8000-000000000002"))
        report = self.refused(self.read("nameplate_serial", "inverter", "VF26014417"))
        self.assertIn("Sample", report["detail"])
        for wrong in ("4006381333931", "a label", ""):
            self.refused(self.read("nameplate_serial", "inverter", wrong))
        moved = self.read("nameplate_serial", "inverter", "VF26014417", note="moved here")
        self.assertEqual(moved.status_code, 200)
        # Where it was misread and corrected, it is free again.
        self.job_id = first
        wrong_id = self.get()["assessment"]["asks"][1]["reading"]["id"]
        fixed = self.read("nameplate_serial", "inverter", "VF26014418", supersedes=wrong_id)
        self.assertEqual(fixed.status_code, 200)

    def test_an_earth_path_is_proposed_and_changed_as_typed(self) -> None:
        view = self.done({"do": "propose_path"})
        link = next(
            one for one in view["plan"]["earthing"]["links"] if one["start"] == "Rails West"
        )
        put = {
            "do": "put_link",
            "was": link["name"],
            "name": link["name"],
            "start": link["start"],
            "end": link["end"],
            "how": "wire",
            "joints": "2",
            "stud_mm": "8",
        }
        view = self.done(put | {"length_m": "40 ft", "section_mm2": "6"})
        state = next(
            one for one in view["assessment"]["earth"]["links"] if one["start"] == "Rails West"
        )
        self.assertAlmostEqual(state["band"]["conductor_ohm"], 12.192 * 3.08 / 1000)
        for wrong in (
            {"length_m": "0"},
            {"section_mm2": "six"},
            {"end": "Moon"},
            {"was": "no step"},
        ):
            self.refused(self.edit(put | {"length_m": "5", "section_mm2": "6"} | wrong))
        self.read("continuity", link["name"], "80 mΩ")
        self.done(
            {"do": "choose_earthing", "roof": "none", "array_pole": "none", "lightning": False}
        )
        self.done({"do": "remove_node", "name": "Rails West"})
        self.assertEqual(len(self.get()["assessment"]["past_readings"]), 1)


class Pictures(ApiCase):
    def keep(self, raw: bytes, step: str = "permit", **query: str) -> HttpResponse:
        asked = {"step": step, "name": "a.jpg"} | query
        url = f"/api/jobs/{self.job_id}/evidence?" + "&".join(f"{k}={v}" for k, v in asked.items())
        response: HttpResponse = self.client.post(url, raw, "application/octet-stream")
        return response

    def kept(self, answer: HttpResponse) -> dict[str, Any]:
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        evidence: dict[str, Any] = json.loads(answer.content)["assessment"]["evidence"][-1]
        return evidence

    def shown(self, evidence: dict[str, Any]) -> HttpResponse:
        return self.client.get(f"/api/jobs/{self.job_id}/evidence/{evidence['id']}")

    def test_one_that_is_sent_again_is_kept_once(self) -> None:
        identity, one = str(uuid4()), jpeg()
        for _ in range(2):
            self.assertEqual(self.kept(self.keep(one, id=identity))["id"], identity)
        self.assertEqual(self.keep(jpeg(width=320), id=identity).status_code, 409)
        self.assertEqual(self.keep(jpeg(), id="1").status_code, 422)
        self.assertEqual(EvidenceRow.of(self.job_id).count(), 1)

    def test_a_picture_is_shrunk_and_says_nothing_of_its_place(self) -> None:
        self.done({"do": "propose_path"})
        self.kept(self.keep(jpeg(), "continuity/Rails West → Main earth terminal"))
        evidence = self.kept(self.keep(jpeg(4000, 3000, located=True), "open_circuit/A"))
        answer = self.shown(evidence)
        picture = Image.open(io.BytesIO(answer.content))
        self.assertEqual(
            (max(picture.size), len(picture.getexif().get_ifd(GPS_TAG))), (LONGEST_SIDE_PX, 0)
        )
        self.assertEqual(
            (evidence["located"], evidence["sha256"]),
            (False, hashlib.sha256(answer.content).hexdigest()),
        )
        self.assertIn("sandbox", answer["Content-Security-Policy"])
        self.assertEqual(answer["X-Content-Type-Options"], "nosniff")
        located = self.kept(self.keep(jpeg(located=True), keep_location="true"))
        again = Image.open(io.BytesIO(self.shown(located).content))
        self.assertEqual((located["located"], again.getexif().get_ifd(GPS_TAG)[1]), (True, "N"))
        # Kept for good: no row may change.
        with self.assertRaises(TypeError):
            EvidenceRow.objects.get(identity=located["id"]).delete()

    def test_the_permit_takes_a_document(self) -> None:
        self.done(
            {
                "do": "set_permit",
                "operator": "G",
                "reference": "R",
                "granted_on": "2026-11-01",
                "export_w": "",
            }
        )
        evidence = self.kept(self.keep(b"%PDF-1.7 permit"))
        self.assertEqual(self.get()["assessment"]["arrive"]["judgements"][0]["verdict"], "clear")
        self.assertIn("attachment", self.shown(evidence)["Content-Disposition"])

    def test_what_is_no_picture_is_refused(self) -> None:
        svg = b'<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'
        for raw, said in (
            (b"", "neither a JPEG"),
            (svg, "neither a JPEG"),
            (b"GIF89a....", "neither a JPEG"),
            (jpeg()[:400], "damaged"),
            (b"\xff\xd8\xff" + svg, "damaged"),
            (bomb(), "far larger"),
        ):
            with self.subTest(said=said, size=len(raw)):
                self.assertIn(said, self.refused(self.keep(raw))["detail"])
        self.refused(self.keep(jpeg() + bytes(40 * 1024 * 1024)), 413)
        self.refused(self.keep(jpeg(), "no such step"))
        self.assertEqual((EvidenceRow.objects.count(), PictureRow.objects.count()), (0, 0))

    def test_a_job_goes_out_with_its_pictures_and_comes_in_again(self) -> None:
        evidence = self.kept(self.keep(jpeg()))
        out = self.client.get(f"/api/jobs/{self.job_id}/bundle").content
        with erasing("another machine"):
            PictureRow.objects.all()._raw_delete(PictureRow.objects.db)
        self.assertEqual(self.shown(evidence).status_code, 404)
        # The record says that the picture is not here, and is made all the same.
        record = PdfReader(io.BytesIO(self.client.get(f"/api/jobs/{self.job_id}/record").content))
        self.assertIn("not on this machine", plain(record))
        copy = self.client.post("/api/jobs/file?as_copy=true", out, "application/zip")
        self.assertEqual(copy.status_code, 201, copy.content[:300])
        elsewhere = under_another_id(out)
        made = self.client.post("/api/jobs/file", elsewhere, "application/zip")
        self.assertEqual(made.status_code, 201, made.content[:300])
        self.job_id = made.json()["id"]
        self.assertEqual(self.shown(evidence).status_code, 200)
        record = PdfReader(io.BytesIO(self.client.get(f"/api/jobs/{self.job_id}/record").content))
        self.assertGreater(sum(len(page.images) for page in record.pages), 0)
        for name, data in (("pictures/" + "0" * 64, jpeg()), ("other", b"")):
            wrong = io.BytesIO()
            with zipfile.ZipFile(wrong, "w") as archive:
                archive.writestr(name, data)
            self.refused(self.client.post("/api/jobs/file", wrong.getvalue(), "application/zip"))
        self.refused(self.client.post("/api/jobs/file", out[:200], "application/zip"))
        swollen = io.BytesIO()
        with zipfile.ZipFile(swollen, "w", zipfile.ZIP_DEFLATED) as archive:
            for number in range(20):
                archive.writestr(f"pictures/{number}", bytes(16 * 1024 * 1024))
        report = self.refused(
            self.client.post("/api/jobs/file", swollen.getvalue(), "application/zip")
        )
        self.assertIn("unpacked", report["problems"][0]["value"])


def under_another_id(bundle: bytes) -> bytes:
    """The bundle as another machine has it, where the job is not here yet."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(bundle)) as had, zipfile.ZipFile(out, "w") as made:
        for name in had.namelist():
            data = had.read(name)
            if name == JOB_NAME:
                job = json.loads(data) | {"id": "0c000000-0000-4000-8000-000000000001"}
                data = json.dumps(job).encode()
            made.writestr(name, data)
    return out.getvalue()


class Records(ApiCase):
    def test_the_record_holds_goods_wall_and_earth(self) -> None:
        job = replace(settled(sample_job()), id="0a000000-0000-4000-8000-000000000002")
        self.job_id = self.store(job)
        pdf = PdfReader(io.BytesIO(self.client.get(f"/api/jobs/{self.job_id}/record").content))
        text = plain(pdf).replace("\u00a0", " ")
        for said in (
            "Grid, R 1",
            "licence L 1",
            "Middle clamps",
            "21.5 N pull",
            "Sun on the wall",
            "Rails West → Main earth terminal",
            "VF26010001",
        ):
            self.assertIn(said, text)


def bomb() -> bytes:
    """A PNG of a few kilobytes that says it has 900 megapixels."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        check = zlib.crc32(kind + data).to_bytes(4, "big")
        return len(data).to_bytes(4, "big") + kind + data + check

    size = (30_000).to_bytes(4, "big")
    head = chunk(b"IHDR", size + size + bytes((8, 0, 0, 0, 0)))
    return (
        b"\x89PNG\r\n\x1a\n" + head + chunk(b"IDAT", zlib.compress(bytes(9))) + chunk(b"IEND", b"")
    )
