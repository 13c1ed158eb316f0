"""Feed through the API: what is typed, refused, kept, and drawn as files."""

from __future__ import annotations

import io
import json
import re
import xml.etree.ElementTree as ET
from dataclasses import replace
from typing import Any

import ezdxf
from pypdf import PdfReader

from core.assess import assess
from core.job.feed import HomeRun
from core.tests.samples import sample_job, wired, with_feed, with_reading
from server.documents.record import record_pdf
from server.jobs.models import JobRow
from server.tests.support import ApiCase

RUN = {
    "do": "put_run",
    "was": "To AC isolator",
    "name": "To AC isolator",
    "start": "Board",
    "end": "AC isolator",
    "length_m": "40 ft",
    "section_mm2": "10 AWG",
    "cores": "3",
    "material": "copper",
    "strands": "stranded",
    "insulation": "xlpe",
    "method": "raceway",
    "air_c": "104 °F",
    "grouped": "1",
    "outside_mm": "0.55 in",
    "of_network": False,
}
DEVICE = {
    "do": "put_feed_device",
    "was": "Board",
    "name": "Main board",
    "kind": "board",
    "breaker": "stobmoor-b32",
    "isolator": None,
    "busbar_a": "100 A",
    "supply_a": "63",
    "far_end": True,
    "surge": "2",
    "outdoors": False,
    "entry": "bottom",
}
PIECE = {
    "do": "put_home_piece",
    "string": "A",
    "number": None,
    "length_m": "12 m",
    "section_mm2": "4",
    "to": "DC isolator",
    "laid": "touching",
    "air_c": "60",
    "grouped": "2",
    "material": "copper",
    "outside_mm": "",
}
WAY = {
    "do": "put_containment",
    "was": None,
    "name": "Pipe",
    "way": "pipe",
    "holds": ["To Inverter", "string A"],
    "width_mm": "32 mm",
    "height_mm": "",
    "parted": "no",
    "slack_m": "0.5",
    "signal_mm": "",
}
BACKUP = {
    "do": "put_backup",
    "limit_a": "40",
    "three_phase": False,
    "shutdown_line": True,
    "battery": {
        "units": "2",
        "most_units": "3",
        "discharge_a": "50 A",
        "breaker_a": "63",
        "approved": True,
    },
}
LOAD = {
    "do": "put_load",
    "was": None,
    "name": "Kitchen",
    "phase": "1",
    "current_a": "16 A",
    "backed_up": True,
}


class FeedCase(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        fed = with_feed(sample_job(id="0a000000-0000-4000-8000-000000000005"))
        self.job_id = self.store(fed)

    def squeezed(self, text: str) -> str:
        """Text without the spaces and hyphens that setting it in lines puts in."""
        return re.sub(r"[\s\u00ad-]+", "", text)

    def run_of(self, view: dict[str, Any], name: str) -> dict[str, Any]:
        return next(one for one in view["assessment"]["feed"]["runs"] if one["name"] == name)


class Editing(FeedCase):
    def test_runs_and_devices_as_typed(self) -> None:
        view = self.done(RUN)
        run = view["plan"]["feed"]["runs"][1]
        self.assertAlmostEqual(run["length_m"], 12.192)
        self.assertAlmostEqual(run["air_c"], 40)
        self.assertEqual((run["section_mm2"], run["outside_mm"]), (5.26, 13.97))
        # 10 AWG, 90 C insulation at 40 C: 40 A * 0.91, above 30 C by its own table.
        self.assertAlmostEqual(self.run_of(view, "To AC isolator")["ampacity"]["iz_a"], 35)
        view = self.done({"do": "size_run", "name": "To AC isolator", "section_mm2": "8 AWG"})
        self.assertEqual(view["plan"]["feed"]["runs"][1]["section_mm2"], 8.37)
        view = self.done(DEVICE)
        self.assertEqual(view["plan"]["feed"]["runs"][1]["start"], "Main board")
        self.assertEqual(view["plan"]["feed"]["devices"][1]["breaker"]["rated_a"], 32)
        kept = self.done(DEVICE | {"was": "Main board", "breaker": None})
        self.assertEqual(kept["plan"]["feed"]["devices"][1]["breaker"]["rated_a"], 32)
        none = self.done(DEVICE | {"was": "Main board", "breaker": ""})
        self.assertIsNone(none["plan"]["feed"]["devices"][1]["breaker"])
        split = {"do": "split_run", "run": "To Inverter", "at_m": "1 m", "kind": "clamp"}
        view = self.done(split | {"name": "Clamps"})
        self.assertIn("Clamps", [one["name"] for one in view["plan"]["feed"]["devices"]])
        self.done({"do": "remove_feed_device", "name": "Clamps"})
        view = self.done({"do": "remove_run", "name": "To Inverter"})
        self.assertIsNone(view["assessment"]["feed"]["today"])
        view = self.done({"do": "set_supply", "service": "three", "earth_system": "TT"})
        self.assertEqual(view["plan"]["feed"]["earth_system"], "TT")

    def test_the_rest_as_typed(self) -> None:
        self.done(PIECE)
        view = self.done(PIECE | {"number": 1, "section_mm2": "6 mm²"})
        self.assertEqual(view["plan"]["strings"][0]["home_run"][0]["section_mm2"], 6)
        self.done({"do": "size_home", "string": "A", "section_mm2": "10"})
        view = self.done({"do": "remove_home_piece", "string": "A", "number": 1})
        self.assertEqual(view["plan"]["strings"][0]["home_run"], [])
        choose = {"do": "choose_dc", "school": "manual", "safety": None, "surge": "none"}
        view = self.done(choose | {"isolator": "stobmoor-dc-25", "reason": "Loft", "by": "Ada"})
        self.assertIn("Ada", json.dumps(view["assessment"]["feed"]["dc_switching"]))
        view = self.done(WAY)
        self.assertEqual(view["assessment"]["feed"]["containments"][0]["verdict"], "stop")
        self.done({"do": "remove_containment", "name": "Pipe"})
        self.done(BACKUP)
        view = self.done(LOAD)
        self.assertEqual(view["assessment"]["feed"]["backup"]["phases"][0]["current_a"], 16)
        self.done({"do": "remove_load", "name": "Kitchen"})
        self.assertIsNone(self.done({"do": "remove_backup"})["plan"]["feed"]["backup"])

    def test_bad_entries_name_the_field_and_change_nothing(self) -> None:
        before = self.get()
        for edit, said in (
            (RUN | {"length_m": "0"}, "0.1 to 500 m"),
            (RUN | {"length_m": "5 km"}, "not in m"),
            (RUN | {"length_m": "5000"}, "0.1 to 500 m"),
            (RUN | {"section_mm2": "7"}, "4 mm²"),
            (RUN | {"section_mm2": "11 AWG"}, "10 AWG"),
            (RUN | {"section_mm2": "0.5"}, "1.5 to 120"),
            (RUN | {"end": "Shed"}, "Inverter"),
            (RUN | {"start": "Supply point", "end": "Inverter", "was": None, "name": "x"}, "loop"),
            (RUN | {"name": "To Board"}, "once"),
            (RUN | {"cores": "9"}, "2 to 5"),
            (RUN | {"air_c": "hot"}, "hot"),
            (RUN | {"grouped": "0"}, "1 to 40"),
            (DEVICE | {"breaker": "nobody"}, "stobmoor"),
            (DEVICE | {"busbar_a": "-3"}, "10 to 1000"),
            (DEVICE | {"was": "nobody"}, "Board"),
            (PIECE | {"string": "Z"}, "A"),
            (PIECE | {"number": 7}, "no piece"),
            (WAY | {"holds": ["the moon"]}, "signal"),
            (LOAD, "backup"),
            (BACKUP | {"battery": {**BACKUP["battery"], "units": "two"}}, "two"),
            ({"do": "remove_feed_device", "name": "Supply point"}, "end of the path"),
        ):
            with self.subTest(said=said, edit=edit["do"]):
                report = self.refused(self.edit(edit))
                self.assertIn(said, json.dumps(report, ensure_ascii=False).replace("\u00a0", " "))
        self.assertEqual(self.get(), before)

    def test_a_job_kept_before_runs_had_pieces_still_opens(self) -> None:
        row = JobRow.objects.get(id=self.job_id)
        row.plan |= {"version": 1, "feed": {"length_m": 9.0, "section_mm2": 6.0, "cores": 3}}
        for string in row.plan["strings"]:
            string["home_run"] = None
        row.save()
        self.assertEqual(self.get()["plan"]["feed"]["runs"][0]["length_m"], 9.0)
        self.done({"do": "size_run", "name": "Supply run", "section_mm2": "10"})

    def test_what_was_read_of_an_end_stays_when_its_run_is_renamed(self) -> None:
        read = {"kind": "torque", "subject": "To Inverter at Inverter", "entered": "1,5 Nm"}
        self.assertEqual(self.post("/readings", self.reading(**read)).status_code, 200)
        put = RUN | {"was": "To Inverter", "start": "AC isolator", "end": "Inverter"}
        view = self.done(put | {"name": "Last", "section_mm2": "6", "method": "C"})
        past = view["assessment"]["past_readings"]
        self.assertEqual([one["reading"]["text"] for one in past], ["1.5\u00a0Nm"])

    def reading(self, **fields: str) -> dict[str, Any]:
        more = {"taken_at": None, "supersedes": None, "instrument": "", "note": ""}
        return more | fields


class Files(FeedCase):
    def test_the_path_as_svg_pdf_and_dxf_says_the_same(self) -> None:
        said = ("Board", "AC isolator", "12 m", "3 × 6 mm²", "Sample", "Generic IEC")
        svg = self.client.get(f"/api/jobs/{self.job_id}/energy-path?form=svg")
        self.assertEqual(svg["Content-Type"], "image/svg+xml")
        texts = [one.text or "" for one in ET.fromstring(svg.content).iter() if one.text]
        pdf = self.client.get(f"/api/jobs/{self.job_id}/energy-path?form=pdf")
        page = PdfReader(io.BytesIO(pdf.content)).pages[0]
        self.assertAlmostEqual(float(page.mediabox.width), 297 * 72 / 25.4, delta=0.5)
        dxf = self.client.get(f"/api/jobs/{self.job_id}/energy-path?form=dxf")
        drawing = ezdxf.read(io.StringIO(dxf.content.decode()))
        self.assertEqual(drawing.audit().errors, [])
        entities = list(drawing.modelspace())
        layers = {one.dxf.layer for one in entities}
        self.assertLessEqual({"dc", "ac", "earth", "symbol", "frame", "mark"}, layers)
        written = " ".join(one.dxf.text for one in entities if one.dxftype() == "TEXT")
        for words in said:
            self.assertIn(words, " ".join(texts).replace("\u00a0", " "))
            self.assertIn(self.squeezed(words), self.squeezed(page.extract_text()))
            self.assertIn(words, written.replace("\u00a0", " "))

    def test_a_form_that_is_none_is_refused_and_so_is_a_stranger(self) -> None:
        path = f"/api/jobs/{self.job_id}/energy-path"
        self.assertEqual(self.client.get(f"{path}?form=dwg").status_code, 422)
        self.client.logout()
        self.assertEqual(self.client.get(f"{path}?form=svg").status_code, 401)

    def test_an_odd_path_still_makes_its_files(self) -> None:
        job = with_feed(sample_job(id="0a000000-0000-4000-8000-000000000006"))
        odd = replace(job.feed, runs=job.feed.runs[:1])
        job = with_reading(replace(job, feed=odd, name='<b>&"'), "supply_voltage", "L-N", 231)
        self.job_id = self.store(replace(job, id="0a000000-0000-4000-8000-000000000007"))
        for form in ("svg", "pdf", "dxf"):
            answer = self.client.get(f"/api/jobs/{self.job_id}/energy-path?form={form}")
            self.assertEqual(answer.status_code, 200, form)


class InTheRecord(FeedCase):
    def test_runs_ends_decisions_and_the_drawing_are_printed(self) -> None:
        job = wired(with_feed(sample_job()))
        run = HomeRun(length_m=14.0, section_mm2=4.0)
        job = replace(job, strings=tuple(replace(one, home_run=(run,)) for one in job.strings))
        stage = assess(job).feed
        reader = PdfReader(io.BytesIO(record_pdf(job)))
        text = self.squeezed("".join(page.extract_text() for page in reader.pages))
        parts = (*stage.runs, *stage.dc_runs, *stage.ends)
        for said in (
            *(one.name for one in parts),
            *(one.line for one in (*stage.runs, *stage.dc_runs)),
            *(one.reason for device in stage.devices for one in device.judgements),
            *(one.reason for one in stage.dc_switching.judgements),
            "Energy path from roof to supply",
            stage.dead.line,
        ):
            self.assertIn(self.squeezed(said), text)

    def test_somebody_else_was_quicker(self) -> None:
        edit = {"do": "size_run", "name": "To Inverter", "section_mm2": "10"}
        body = {"revision": 1, "edit": edit}
        self.assertEqual(self.post("/edits", body).status_code, 200)
        self.refused(self.post("/edits", body), 409)
        sizes = [run["section_mm2"] for run in self.get()["plan"]["feed"]["runs"]]
        self.assertEqual(sizes, [16, 6, 10])
