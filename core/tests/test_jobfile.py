"""The job file: read strictly, written whole, refused with the path of each problem."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest import TestCase

import jsonschema
from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.assessment.whole import assessment_schema
from core.base.errors import Refused
from core.base.form import write
from core.base.limits import MOST_JOB_BYTES
from core.edits.fields import Change, changed
from core.figures.rule_packs import known_packs, pack
from core.files.job import job_schema, read_job, write_job
from core.job.fingerprints import stamped
from core.job.reading_values import as_pair, from_pair
from core.tests.samples import measured_job, sample_job, whole_job, with_reading

EXAMPLE = Path(__file__).resolve().parents[2] / "docs" / "example.noon.json"


def as_data() -> dict[str, Any]:
    data: dict[str, Any] = json.loads(write_job(measured_job()))
    return data


def paths(raw: bytes) -> list[str]:
    try:
        read_job(raw)
    except Refused as refused:
        return [problem.path for problem in refused.problems]
    return []


def put(data: Any, path: tuple[str | int, ...], value: object) -> bytes:
    inner = data
    for step in path[:-1]:
        inner = inner[step]
    inner[path[-1]] = value
    return json.dumps(data).encode()


class RoundTrip(TestCase):
    def test_nothing_is_lost(self) -> None:
        job = with_reading(measured_job(), "open_circuit", "A", 481.0)
        job = with_reading(job, "open_circuit", "A", 418.0, supersedes=job.readings[-1].id)
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))
        self.assertEqual(assess(read_job(write_job(job).encode())), assess(job))

    def test_the_published_schemas_hold(self) -> None:
        jsonschema.validate(as_data(), job_schema())
        jsonschema.validate(json.loads(write_job(whole_job())), job_schema())
        jsonschema.validate(json.loads(EXAMPLE.read_text()), job_schema())
        assessment = json.loads(json.dumps(write(assess(measured_job()))))
        jsonschema.validate(assessment, assessment_schema())

    def test_the_schema_refuses_what_reading_refuses(self) -> None:
        data = as_data()
        data["site"]["t_air_min_c"] = "cold"
        with self.assertRaises(jsonschema.ValidationError):
            jsonschema.validate(data, job_schema())


class OlderFiles(TestCase):
    def test_readings_of_the_second_version_lose_nothing(self) -> None:
        """Every reading comes back as the pair of number and text that it was written as."""
        for file in sorted((EXAMPLE.parents[1] / "server" / "demo" / "jobs").glob("*.json")):
            written = json.loads(file.read_text(encoding="utf-8"))
            if written["version"] != 2:
                continue
            job = read_job(json.dumps(written).encode())
            for was, now in zip(written["readings"], job.readings, strict=True):
                self.assertEqual(as_pair(now.value), (was["value"], was.get("text", "")))
                self.assertEqual(from_pair(now.value.form, *as_pair(now.value)), now.value)
            self.assertEqual(read_job(write_job(job).encode()), stamped(job))

    def test_a_reading_that_was_none_is_refused_by_name(self) -> None:
        written = json.loads(
            (EXAMPLE.parents[1] / "server/demo/jobs/ferry-office.json").read_text()
        )
        kinds = {one["kind"]: index for index, one in enumerate(written["readings"])}
        for kind, spoiled in (
            ("polarity", {"value": 0}),
            ("polarity", {"text": "as marked"}),
            ("open_circuit", {"text": ">"}),
            ("open_circuit", {"value": True}),
            ("nameplate_serial", {"text": " "}),
            ("nameplate_serial", {"value": 7}),
        ):
            with self.subTest(kind=kind, spoiled=spoiled):
                readings = list(written["readings"])
                readings[kinds[kind]] = readings[kinds[kind]] | spoiled
                found = paths(json.dumps(written | {"readings": readings}).encode())
                self.assertTrue(any(f"readings[{kinds[kind]}]" in path for path in found), found)


class BadFiles(TestCase):
    def test_each_problem_has_its_path(self) -> None:
        for path, value, wanted in (
            (("module", "voc_v"), "39.1", "$.module.voc_v"),
            (("module", "voc_v"), -39.1, "$.module.voc_v"),
            (("module", "voc_v"), True, "$.module.voc_v"),
            (("module", "beta_voc_pct_per_k"), -0.0025, "$.module.beta_voc_pct_per_k"),
            (("module", "beta_voc_pct_per_k"), 0.25, "$.module.beta_voc_pct_per_k"),
            (("module", "vmp_v"), 45.0, "$.module.vmp_v"),
            (("site", "t_air_min_c"), 38, "$.site.t_air_min_c"),
            (("site", "timezone"), "Mars/Olympus", "$.site.timezone"),
            (("strings", 1, "modules_in_series"), 0, "$.strings[1].modules_in_series"),
            (("strings", 1, "modules_in_series"), 400, "$.strings[1].modules_in_series"),
            (("strings", 1, "modules_in_series"), 9.5, "$.strings[1].modules_in_series"),
            (("strings", 1, "tracker"), 3, "$.strings[1].tracker"),
            (("strings", 1, "plane"), "North", "$.strings[1].plane"),
            (("strings", 1, "name"), "A", "$.strings[1].name"),
            (("strings",), None, "$.strings"),
            (("rule_pack",), "moon", "$.rule_pack"),
            (("grid", "profile"), "moon", "$.grid.profile"),
            (("inverter", "dc", "track_max_v"), 1e9, "$.inverter.dc.track_max_v"),
            (("inverter", "service"), "split", "$.inverter.service"),
            (("readings", 0, "subject"), "Z", "$.readings[0].subject"),
            (("readings", 0, "value"), 1e9, "$.readings[0].value"),
            (("readings", 0, "taken_at"), "noon", "$.readings[0].taken_at"),
            (("readings", 0, "taken_at"), "2026-06-18T12:00:00", "$.readings[0].taken_at"),
            (("readings", 1, "id"), "reading-0000", "$.readings[1].id"),
            (("feed", "colour"), "blue", "$.feed.colour"),
            (("id",), "../../etc/passwd", "$.id"),
            (("version",), 4, "$.version"),
        ):
            with self.subTest(path=path, value=value):
                self.assertIn(wanted, paths(put(as_data(), path, value)))

    def test_what_is_drawn_replaced_or_carried_is_checked_too(self) -> None:
        place = {"plane": "East", "row": 2, "column": 6}
        for path, value, wanted in (
            (("planes", 0, "rows"), ["##", "#x"], "$.planes[0].rows[1]"),
            (("planes", 0, "rows"), ["##"], "$.strings[0].places[2]"),
            (("strings", 0, "places", 0), place, "$.strings[0].places[0]"),
            (("strings", 0, "places", 0, "row"), 0, "$.strings[0].places[0].row"),
            (("strings", 0, "fuse_a"), 1e9, "$.strings[0].fuse_a"),
            (("optimiser", "safety_v"), 0, "$.optimiser.safety_v"),
            (("own_pack",), None, "$.rule_pack"),
            (("own_pack", "based_on"), "moon", "$.own_pack.based_on"),
            (("own_pack", "figures", 0, "path"), "x", "$.own_pack.figures[0].path"),
            (("own_pack", "figures", 0, "value"), 12, "$.own_pack.figures[0].value"),
            (("overrides", 0, "choice"), "mode", "$.overrides[0].choice"),
            (("overrides", 0, "reason"), "", "$.overrides[0].reason"),
            (("retired",), [], "$.readings[5].subject"),
            (("module", "max_series_fuse_a"), -1, "$.module.max_series_fuse_a"),
        ):
            with self.subTest(path=path, value=value):
                raw = put(json.loads(write_job(whole_job())), path, value)
                self.assertIn(wanted, paths(raw))

    def test_missing_fields_are_all_named_at_once(self) -> None:
        data = as_data()
        del data["module"]["voc_v"], data["site"]["place"], data["feed"]
        self.assertLessEqual(
            {"$.module.voc_v", "$.site.place", "$.feed"}, set(paths(json.dumps(data).encode()))
        )

    def test_what_is_not_a_job_file(self) -> None:
        for raw in (
            b"",
            b"{",
            b"[]",
            b"null",
            b"\xff\xfe",
            b'{"a": NaN}',
            b'{"a":1,"a":2}',
            b"[" * 100_000,
            b'{"x": 1e999}',
            b"9" * 5000,
        ):
            with self.subTest(raw=raw[:20]):
                self.assertTrue(paths(raw))

    def test_fifty_megabytes_are_refused_politely(self) -> None:
        with self.assertRaises(Refused) as caught:
            read_job(b" " * (50 * 1024 * 1024))
        self.assertIn("50 MB", caught.exception.problems[0].message)
        self.assertLess(MOST_JOB_BYTES, 50 * 1024 * 1024)

    @settings(max_examples=150)
    @given(data=st.data())
    def test_any_one_field_replaced_by_anything_is_read_or_refused(self, data: Any) -> None:
        job = json.loads(write_job(data.draw(st.sampled_from((measured_job(), whole_job())))))
        step: Any = job
        path: list[str | int] = []
        while isinstance(step, dict | list) and step and (not path or data.draw(st.booleans())):
            keys = sorted(step) if isinstance(step, dict) else list(range(len(step)))
            key = data.draw(st.sampled_from(keys))
            path.append(key)
            step = step[key]
        anything = st.one_of(
            st.none(),
            st.booleans(),
            st.integers(),
            st.floats(),
            st.text(max_size=9),
            st.lists(st.integers(), max_size=2),
            st.dictionaries(st.text(max_size=3), st.none()),
        )
        raw = put(job, tuple(path), data.draw(anything))
        for found in paths(raw):
            self.assertTrue(found.startswith("$"))


class Changing(TestCase):
    def refused(self, *changes: tuple[str, str]) -> list[str]:
        with self.assertRaises(Refused) as caught:
            changed(sample_job(), tuple(Change(path=p, entered=e) for p, e in changes))
        return [problem.path for problem in caught.exception.problems]

    def test_typed_entries_become_values(self) -> None:
        for path, entered, got in (
            ("$.strings[0].modules_in_series", "12", lambda j: j.strings[0].modules_in_series > 11),
            ("$.site.t_air_min_c", "14 °F", lambda j: abs(j.site.t_air_min_c + 10) < 1e-9),
            ("$.grid.profile", "", lambda j: j.grid.profile is None),
            ("$.strings[0].fuse_a", "15 A", lambda j: j.strings[0].fuse_a == 15),
            ("$.strings[0].fuse_a", "", lambda j: j.strings[0].fuse_a is None),
            ("$.planes[0].shade", "Mast, mornings", lambda j: j.planes[0].shade[:4] == "Mast"),
            ("$.planes[1].mounting", "open", lambda j: j.planes[1].mounting == "open"),
        ):
            with self.subTest(path=path):
                job = changed(sample_job(), (Change(path=path, entered=entered),))
                self.assertTrue(got(job))

    def test_two_fields_that_only_fit_together_change_together(self) -> None:
        pair = (("$.site.t_air_min_c", "35"), ("$.site.t_air_max_c", "38"))
        job = changed(sample_job(), tuple(Change(path=p, entered=e) for p, e in pair))
        self.assertEqual((job.site.t_air_min_c, job.site.t_air_max_c), (35, 38))

    def test_bad_entries_name_the_field(self) -> None:
        for path, entered in (
            ("$.strings[0].modules_in_series", "400"),
            ("$.strings[0].modules_in_series", "0"),
            ("$.strings[0].modules_in_series", ""),
            ("$.strings[9].modules_in_series", "5"),
            ("$.site.t_air_min_c", "38"),
            ("$.site.t_air_min_c", "NaN"),
            ("$.feed.runs[0].length_m", "3"),
            ("$.module", "ostrel-405"),
            ("$.rule_pack", "uk-small"),
            ("$.strings[0].fuse_a", "1000"),
            ("$.grid.port", "70000"),
            ("$.day", "soon"),
            ("$.readings[0].value", "5"),
            ("$.id", "x"),
            ("$.module.voc_v", "900"),
            ("$", "x"),
            ("nonsense", "x"),
        ):
            with self.subTest(path=path, entered=entered):
                self.assertEqual(self.refused((path, entered)), [path])


class Packs(TestCase):
    def test_every_pack_judges_the_sample(self) -> None:
        for name in known_packs():
            service = pack(name).services[0]
            inverter = replace(sample_job().inverter, service=service)
            assessment = assess(sample_job(rule_pack=name, inverter=inverter))
            self.assertEqual(assessment.rule_pack.id, name)
            self.assertTrue(pack(name).note)
