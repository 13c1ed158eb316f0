"""Changing what a job is made of: the roof, the strings, the sheets, the figures."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.assessment.judgements import every_judgement
from core.assessment.whole import Assessment
from core.base.errors import Refused
from core.base.form import write
from core.edits.planes import shaped, with_plane, without_plane
from core.edits.sheets_and_figures import with_override, with_pack, with_sheet, without_override
from core.edits.strings import (
    AddString,
    arranged,
    modules_by_plane,
    painted,
    serpentine,
    with_string,
    without_string,
)
from core.equipment import catalogue
from core.figures.overrides import Override, OwnPack, figures_of, typed_override
from core.figures.rule_packs import known_packs, pack
from core.files.job import read_job, write_job
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.roof import ModulePlace, Plane
from core.planning.dc.arrangements import ArrangedString
from core.sheet_offers import offer
from core.tests.samples import measured_job, sample_job, with_reading, with_wall


def drawn() -> Job:
    job = shaped(sample_job(), "East", ("######", "#####."))
    return shaped(job, "West", ("###", "###", "###"))


def place(plane: str, row: int, column: int) -> ModulePlace:
    return ModulePlace(plane=plane, row=row, column=column)


DEMO = Path(__file__).resolve().parents[2] / "server" / "demo" / "jobs"


class Roof(TestCase):
    def refused(self, change: Callable[[], Job]) -> str:
        with self.assertRaises(Refused) as caught:
            change()
        return caught.exception.problems[0].path

    def test_painting_sets_count_and_plane_and_takes_modules_over(self) -> None:
        job = painted(drawn(), "A", tuple(place("East", 1, n) for n in range(1, 7)))
        self.assertEqual((job.strings[0].modules_in_series, job.strings[0].plane), (6, "East"))
        job = painted(job, "B", (place("East", 1, 6), place("East", 2, 5)))
        self.assertEqual([len(s.places) for s in job.strings], [5, 2])
        # A keeps its planned count: what is missing on the roof is said, not hidden.
        told = assess(job).string.strings[0]
        self.assertIn("string_drawn", {j.rule_id for j in told.judgements if j.verdict == "watch"})
        self.assertEqual(painted(job, "A", ()).strings[0].places, ())

    def test_a_string_over_two_planes_stops_unless_modules_track_alone(self) -> None:
        places = (*(place("East", 1, n) for n in range(1, 6)), place("West", 1, 1))
        job = painted(drawn(), "A", places)
        rule = {j.rule_id: j.verdict for j in assess(job).string.strings[0].judgements}
        self.assertEqual(rule["string_one_plane"], "stop")
        self.assertEqual(assess(job).string.strings[0].gate.verdict, "stop")
        tracked = assess(replace(job, optimiser=catalogue.optimiser("fenbrow-500")))
        rule = {j.rule_id: j.verdict for j in tracked.string.strings[0].judgements}
        self.assertEqual(rule["string_one_plane"], "clear")

    def test_what_cannot_be_painted_shaped_or_removed(self) -> None:
        job = painted(drawn(), "A", (place("East", 1, 1),))
        for change, path in (
            (lambda: painted(job, "Z", ()), "$.string"),
            (lambda: painted(job, "A", (place("East", 2, 6),)), "$.places[0]"),
            (lambda: painted(job, "A", (place("East", 9, 1),)), "$.places[0]"),
            (lambda: painted(job, "A", (place("East", 1, 1),) * 2), "$.places[1]"),
            (lambda: shaped(job, "East", ("##x",)), "$.rows[0]"),
            (lambda: without_plane(job, "East"), "$.plane"),
            (lambda: with_plane(job, job.planes[0]), "$.planes[2].name"),
            (lambda: without_string(job, "Z"), "$.string"),
            (lambda: with_sheet(job, catalogue.sheets("cables")[0]), "$.sheet"),
        ):
            with self.subTest(path=path):
                self.assertEqual(self.refused(change), path)

    def test_modules_that_leave_the_roof_leave_their_string(self) -> None:
        job = painted(drawn(), "A", tuple(place("East", 2, n) for n in range(1, 6)))
        self.assertEqual(len(shaped(job, "East", ("######", "##....")).strings[0].places), 2)

    @given(rows=st.lists(st.text(alphabet="#.", min_size=1, max_size=8), min_size=1, max_size=5))
    def test_the_serpentine_visits_every_module_once(self, rows: list[str]) -> None:
        plane = Plane(name="P", tilt_deg=30.0, azimuth_deg=180.0, rows=tuple(rows))
        visited = serpentine(plane)
        self.assertEqual(len(visited), plane.modules)
        self.assertEqual(len(set(visited)), len(visited))
        self.assertTrue(all(plane.holds(p.row, p.column) for p in visited))

    def test_volts_read_before_the_optimisers_came_stay_to_be_seen(self) -> None:
        job = with_reading(measured_job(), "open_circuit", "A", 418.0)
        self.assertEqual(assess(job).past_readings, ())
        past = assess(with_sheet(job, catalogue.optimiser("fenbrow-500"))).past_readings
        self.assertIn(418.0, {one.reading.value for one in past})

    def test_an_arrangement_is_taken_drawn_and_counted(self) -> None:
        strings = tuple(
            ArrangedString(plane=plane, tracker=tracker, modules_in_series=count)
            for plane, tracker, count in (("East", 1, 11), ("West", 2, 9))
        )
        job = arranged(drawn(), strings)
        self.assertEqual([len(s.places) for s in job.strings], [11, 9])
        self.assertEqual(modules_by_plane(job), {"East": 11, "West": 9})
        self.assertEqual(modules_by_plane(sample_job()), {"East": 11, "West": 9})
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))

    def test_readings_of_what_left_the_plan_stay(self) -> None:
        job = with_reading(measured_job(), "open_circuit", "B", 342.0)
        job = without_string(job, "B")
        self.assertEqual(job.retired, ("B",))
        past = {one.title: one.reading.value for one in assess(job).past_readings}
        self.assertEqual(past["B · open circuit"], 342.0)
        # The roof of B is asked about no longer either, now that nothing lies on it.
        self.assertIn("West · irradiance", past)
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))
        # A new string never takes the name of one whose readings are kept.
        self.assertEqual(with_string(job, AddString()).strings[-1].name, "C")
        gone = without_plane(without_string(measured_job(), "B"), "West")
        self.assertEqual(gone.retired, ("West",))


def judged(assessment: Assessment) -> Iterator[dict[str, Any]]:
    """Every judgement in an assessment as it is written."""
    ahead = [write(assessment)]
    while ahead:
        one = ahead.pop()
        if isinstance(one, dict) and {"rule_id", "title"} <= set(one):
            yield one
        elif isinstance(one, dict | list):
            ahead.extend(one.values() if isinstance(one, dict) else one)


class Sheets(TestCase):
    def test_a_newer_sheet_is_offered_with_what_it_would_turn(self) -> None:
        job = sample_job()
        weaker = replace(
            job.inverter,
            sheet_revision="2027-01",
            dc=replace(job.inverter.dc, max_dc_v=450.0, full_power_max_v=440.0, track_max_v=445.0),
        )
        made = offer("inverters", job, job.inverter, weaker)
        changed = {one.name: (one.was, one.now) for one in made.figures}
        self.assertEqual(changed["dc.max_dc_v"], ("600", "450"))
        turned = {(v.where, v.was, v.now) for v in made.verdicts}
        self.assertIn(("String A", "clear", "stop"), turned)
        self.assertEqual(offer("inverters", job, job.inverter, job.inverter).verdicts, ())
        # On the wall: a sheet that asks for more space turns the space that is there.
        hung, body = with_wall(job), job.inverter.body
        assert body is not None
        airy = replace(job.inverter, body=replace(body, clearance_left_mm=400.0))
        turned = [one.title for one in offer("inverters", hung, hung.inverter, airy).verdicts]
        self.assertIn("Space on the left", turned)

    def test_twice_the_power_turns_what_the_feed_and_the_settings_say(self) -> None:
        job = read_job((DEMO / "ferry-office.json").read_bytes())
        twice = replace(
            job.inverter, sheet_revision="2027-01", rated_ac_w=2 * job.inverter.rated_ac_w
        )
        before, after = assess(job), assess(replace(job, inverter=twice))
        turned = {v.where for v in offer("inverters", job, job.inverter, twice).verdicts}
        self.assertTrue(any("feed" in where.lower() or "run" in where.lower() for where in turned))
        # Another way to the same: every object of the written assessment that is a judgement.
        for assessment in (before, after):
            found = {(one["title"], one["rule_id"], one["verdict"]) for one in judged(assessment)}
            told = {(o.title, o.rule_id, o.verdict) for o in every_judgement(assessment).values()}
            self.assertLessEqual(told, found)
            self.assertEqual({f[:2] for f in found}, {t[:2] for t in told})

    def test_a_sheet_that_does_not_fit_says_why(self) -> None:
        job = sample_job()
        split = replace(job.inverter, service="split", sheet_revision="2027-01")
        self.assertIn("rule pack", offer("inverters", job, job.inverter, split).refusal)

    def test_fewer_trackers_bring_strings_together(self) -> None:
        job = with_sheet(sample_job(), catalogue.inverter("hathmoor-3"))
        self.assertEqual([s.tracker for s in job.strings], [1, 1])
        self.assertIsNone(with_sheet(job, None).optimiser)


class Figures(TestCase):
    def test_a_replaced_figure_judges_and_is_told_with_its_reason(self) -> None:
        job = with_override(
            sample_job(), Override(path="cold.school", choice="flat", reason="as the client asks")
        )
        cold = assess(job).string.strings[0].judgements[0]
        self.assertAlmostEqual(cold.value or 0, 11 * 39.1 * 1.15)
        (told,) = assess(job).rule_pack.replaced
        self.assertEqual(
            (told.was, told.now, told.reason), ("datasheet", "flat", "as the client asks")
        )
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))
        self.assertEqual(without_override(job, "cold.school"), sample_job())

    def test_every_figure_of_every_pack_can_be_replaced_by_itself(self) -> None:
        for name in known_packs():
            for one in figures_of(pack(name)):
                entered = one.choice if one.value is None else f"{one.value:g}"
                typed_override(pack(name), one.path, entered or "", "no change", "$")

    def test_a_slip_is_refused_and_named(self) -> None:
        rules = pack("generic-iec")
        for path, entered, reason, wrong in (
            ("cold.magic", "1", "why not", "$.path"),
            ("current.isc_factor", "12.5", "slip", "$.entered"),
            ("current.isc_factor", "much", "slip", "$.entered"),
            ("cold.school", "guess", "slip", "$.entered"),
            ("current.isc_factor", "1.3", "", "$.reason"),
        ):
            with self.subTest(path=path, entered=entered), self.assertRaises(Refused) as caught:
                typed_override(rules, path, entered, reason, "$")
            self.assertEqual(caught.exception.problems[0].path, wrong)

    def test_a_pack_of_ones_own_travels_with_the_job(self) -> None:
        own = OwnPack(
            id="our-island",
            name="Our island",
            edition="Island note 4",
            checked_on="2026-11-24",
            based_on="uk-small",
            figures=(Override(path="cold.flat_factor", value=1.2, reason="salt and wind"),),
        )
        job = with_pack(sample_job(), own.id, own)
        assessment = assess(read_job(write_job(job).encode()))
        self.assertEqual(assessment.rule_pack.name, "Our island")
        cold = assessment.string.strings[0].judgements[0]
        self.assertAlmostEqual(cold.value or 0, 11 * 39.1 * 1.2)
        self.assertEqual(assessment.rule_pack.replaced[0].was, "1.15")
        with self.assertRaises(Refused):
            replace(own, based_on="moon")
        with self.assertRaises(Refused):
            with_pack(sample_job(), "our-island", None)
