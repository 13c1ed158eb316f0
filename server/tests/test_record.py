"""What stands on the signed page: read back out of the PDF itself."""

from __future__ import annotations

import io
import re
import tempfile
from dataclasses import replace
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase, TestCase
from pypdf import PdfReader

from core.assess import assess
from core.base.messages import figure
from core.edits.planes import shaped
from core.edits.sheets_and_figures import with_override, with_sheet
from core.edits.strings import painted, serpentine, without_string
from core.equipment import catalogue
from core.figures.grid_profiles import point_kinds, profile
from core.figures.overrides import Override
from core.job.job import Job
from core.job.readings import SettingsWritten, SettingValue
from core.job.strings import StringPlan
from core.tests.regions import regions
from core.tests.samples import NOON, measured_job, sample_job, with_reading
from server.documents.record import PARTS, record_pdf
from server.documents.typesetting import TEMPLATES, typeset

A4_POINTS = (595.28, 841.89)


def pages(job: Job) -> list[str]:
    reader = PdfReader(io.BytesIO(record_pdf(job)))
    return [re.sub(r"\s+", " ", page.extract_text()) for page in reader.pages]


def whole(job: Job) -> str:
    return " ".join(pages(job))


def corrected_job() -> Job:
    job = with_reading(measured_job(), "open_circuit", "A", 481.3)
    job = with_reading(
        job, "open_circuit", "A", 418.2, supersedes=job.readings[-1].id, note="Digits swapped."
    )
    return with_reading(job, "open_circuit", "B", 304.5)


def many_strings() -> Job:
    many = tuple(
        StringPlan(name=f"S{i}", tracker=1 + i % 2, plane="East", modules_in_series=9)
        for i in range(40)
    )
    return sample_job(strings=many)


# Of each region a figure with its numbers, and where one of them came from.
SUMS = {
    "generic-iec": ("11 modules · 39.1 V · 1.085 = 466.7 V", "read 18.06.2026"),
    "uk-small": ("0.95 · 230 V / 125 A = 1.748 Ω", "BS 7671:2018+A3:2024"),
    "germany": ("1 · 230 V / 125 A = 1.84 Ω", "VDE"),
    "australia-nz": ("1 · 230 V / 100 A = 2.3 Ω", "AS/NZS 3000"),
    "north-america": ("150 A + 40 A + 0 A = 190 A ≤ 1.2 · 200 A = 240 A", "NEC 2023 705.12"),
}


class Record(TestCase):
    def test_it_is_a4_and_numbered(self) -> None:
        reader = PdfReader(io.BytesIO(record_pdf(sample_job())))
        for page in reader.pages:
            # A drawing may lie on its side.
            size = sorted((float(page.mediabox.width), float(page.mediabox.height)))
            for got, wanted in zip(size, A4_POINTS, strict=True):
                self.assertAlmostEqual(got, wanted, delta=0.5)
        self.assertIn(f"page 1 of {len(reader.pages)}", pages(sample_job())[0])

    def test_it_is_kept_for_good_read_aloud_and_leafed_through(self) -> None:
        reader = PdfReader(io.BytesIO(record_pdf(corrected_job())))
        root: Any = reader.trailer["/Root"]
        self.assertTrue(root["/MarkInfo"]["/Marked"])
        self.assertIn("/StructTreeRoot", root)
        marked = root["/Metadata"].get_data()
        self.assertIn(b"pdfaid:part>2<", marked)
        self.assertIn(b"pdfaid:conformance>A<", marked)
        titles = [one["/Title"] for one in reader.outline if not isinstance(one, list)]
        order = ["System data", "String test report", "AC schedule of tests", "Grid settings",
                 "Single-line diagram", "Open points", "Detail, stage by stage",
                 "Decisions, overrides, superseded readings"]  # fmt: skip
        self.assertEqual([one for one in titles if one in order], order)

    def test_the_cover_is_one_page_however_large_the_job(self) -> None:
        for job in (sample_job(), many_strings()):
            self.assertRegex(pages(job)[1], "^System data")

    def test_each_part_is_had_on_its_own(self) -> None:
        for part in PARTS:
            if part not in ("evidence", "follow_up"):
                reader = PdfReader(io.BytesIO(record_pdf(sample_job(), (part,))))
                self.assertLess(len(reader.pages), 7, part)

    def test_what_was_made_by_hand_and_the_modules_serials(self) -> None:
        job = with_reading(sample_job(), "end_pin", "A roof plus", 1)
        job = with_reading(job, "end_crimp", "A roof plus", -1)
        job = shaped(job, job.planes[0].name, ("##",))
        job = with_reading(job, "module_serial", job.planes[0].module_names[1], 0, text="OS-7714")
        text = whole(job)
        self.assertIn("A roof plus pin crimp Tester", text)
        self.assertRegex(text, "row 1, number 1 not read .*row 1, number 2 OS-7714")

    def test_every_verdict_stands_with_its_reason_and_source(self) -> None:
        job, text = corrected_job(), whole(corrected_job())
        assessment = assess(job)
        judgements = [j for s in assessment.string.strings for j in s.judgements]
        judgements += [*assessment.feed.judgements, *assessment.grid.judgements]
        for judgement in judgements:
            for part in (judgement.title, judgement.reason, judgement.source):
                self.assertIn(plain(part), plain(text))

    def test_superseded_readings_stay_with_who_and_when(self) -> None:
        text = whole(corrected_job())
        for said in ("481.3 V", "superseded", "418.2 V", "Digits swapped.", "Tester", "13:00"):
            self.assertIn(said, text.replace("\u00a0", " "))

    def test_the_diagnosis_and_what_to_look_at(self) -> None:
        text = plain(whole(corrected_job()))
        self.assertIn(plain("1 module not in the string"), text)
        self.assertIn(plain("Count the modules on the roof"), text)

    def test_computed_sun_is_marked_as_computed(self) -> None:
        job = with_reading(sample_job(), "irradiance", "East", 733.0, basis="clear_sky")
        self.assertIn("clear sky, computed", whole(job))

    def test_figures_replaced_stand_with_their_reason(self) -> None:
        override = Override(path="cold.school", choice="flat", reason="as the client asks")
        text = plain(whole(with_override(sample_job(), override)))
        self.assertIn(plain("How the coldest voltage is found"), text)
        self.assertIn(plain("as the client asks"), text)

    def test_the_roof_the_gate_and_what_left_the_plan(self) -> None:
        job = shaped(corrected_job(), "East", ("######", "#####."))
        places = tuple(serpentine(job.planes[0]))
        job = without_string(painted(job, "A", places), "B")
        text = plain(whole(job))
        for said in (
            "Roof East",
            "A11",
            "String A stays unplugged",
            "304.5",
            "no longer asked for",
        ):
            self.assertIn(plain(said), text)

    def test_optimisers_have_no_voltage_window(self) -> None:
        job = with_sheet(sample_job(), catalogue.optimiser("fenbrow-500"))
        text = plain(whole(with_reading(job, "safety_voltage", "A", 10.0)))
        self.assertIn(plain("Optimisers hold each string at 400 V"), text)
        self.assertIn(plain("counts 10 of 11"), text)
        self.assertNotIn(plain("never above"), text)

    def test_a_house_of_each_region_to_its_record_with_the_sum_of_each_figure(self) -> None:
        for name, job in regions().items():
            text = plain(whole(job))
            for said in (job.rules.name, job.rules.edition, *SUMS[name]):
                with self.subTest(pack=name, said=said):
                    self.assertIn(plain(said), text)

    def test_what_was_written_and_read_back(self) -> None:
        chosen = profile("en-50549-1")
        readback = tuple(
            SettingValue(id=p.id, value=p.value + (9.0 if p.id == "over_voltage_1_v" else 0))
            for p in chosen.points
            if not point_kinds()[p.id].by_hand
        )
        written = SettingsWritten(
            id="attempt-0001",
            at=NOON,
            by="Tester",
            profile=chosen.id,
            host="10.1.2.3",
            port=502,
            unit_id=7,
            outcome="read_back",
            detail="",
            device=None,
            readback=readback,
        )
        job = replace(sample_job(), settings_written=(written,))
        text = plain(whole(job))
        for said in ("273.5 V", "264.5 V", "10.1.2.3:502, unit 7", "1 of 24 settings do not agree"):
            self.assertIn(plain(said), text)
        fingerprint = assess(job).grid.attempts[0].fingerprint
        self.assertIn(fingerprint or "none", text)

    def test_what_is_not_covered_is_said(self) -> None:
        text = plain(whole(sample_job()))
        self.assertIn(plain("Talk"), text)
        self.assertIn("Nameandlicence,date,signature", text)

    def test_odd_jobs_still_make_a_record(self) -> None:
        for job in (
            sample_job(grid=replace(sample_job().grid, profile=None)),
            sample_job(feed=replace(sample_job().feed, runs=())),
            sample_job(name='#eval("x") $ * _ @ < > \\ "quoted"'),
            with_reading(measured_job(), "open_circuit", "A", -1999.0),
            with_reading(measured_job(), "open_circuit", "A", 0.0),
        ):
            with self.subTest(job=job.name):
                self.assertIn("Commissioning record", pages(job)[0])


def plain(text: str) -> str:
    """Text without the spaces and hyphens that setting it in lines puts in."""
    return re.sub(r"[\s\u00ad-]+", "", text)


class Numbers(SimpleTestCase):
    def test_a_number_is_printed_as_the_core_writes_it(self) -> None:
        template = (TEMPLATES / "drill.typ").read_text(encoding="utf-8")
        fig = template[template.index("#let fig") : template.index("#let check-bar")]
        values = [232.25, 232.35, -0.04, 600.0, 0.125, -14.75, 2.675]
        with tempfile.TemporaryDirectory() as folder:
            page = Path(folder) / "numbers.typ"
            page.write_text(
                "#let data = json(bytes(sys.inputs.data))\n"
                + fig
                + "#for one in data.values [|#fig(one)|#fig(one, digits: 2)|]\n",
                encoding="utf-8",
            )
            pdf = typeset(page, {"values": values}, "pdf")[0]
        printed = PdfReader(io.BytesIO(pdf)).pages[0].extract_text().replace("\n", "")
        for value in values:
            for digits in (1, 2):
                self.assertIn(f"|{figure(value, '', digits)}|", printed.replace("||", "|"), value)
