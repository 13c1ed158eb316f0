"""A roof of microinverters stage by stage: goods, nameplate, earth, feed, sheets, split phase."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.errors import Refused
from core.base.judgement import Judgement
from core.edits.arrival import substituted
from core.edits.earth import without_link
from core.edits.feed.devices import with_device, without_device
from core.edits.feed.runs import with_run_size, without_run
from core.edits.microinverter.branches import set_branch
from core.edits.microinverter.roof import with_roof_choices
from core.edits.microinverter.units import with_offer
from core.edits.sheets_and_figures import with_sheet
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Breaker, Isolator
from core.equipment.micro import Micro, Trunk
from core.job.feed import FeedDevice, FeedPlan
from core.job.job import Job
from core.planning.goods.load_list import load_in
from core.sheet_offers import offer
from core.sheets.single_line import path_sheet
from core.tests.samples import micro_job, whole_earth, wired_roof, with_reading

WIRED = wired_roof()


def of(kind: str, sheet_id: str) -> catalogue.Sheet:
    return next(one for one in catalogue.sheets(kind) if one.id == sheet_id)  # type: ignore[arg-type]


def judged(assessment: Assessment, rule_id: str) -> Judgement:
    every = (point.judgement for point in assessment.open_points)
    return next(one for one in every if one.rule_id == rule_id)


class Arrive(TestCase):
    def test_one_unit_s_nameplate_is_read_and_no_serial_with_it(self) -> None:
        asks = {ask.kind: ask for ask in assess(WIRED).asks if ask.stage == 1}
        self.assertNotIn("nameplate_serial", asks)
        self.assertEqual(asks["nameplate_max_dc"].expected_text, "60\u00a0V")
        self.assertEqual(asks["nameplate_model"].expected_text, "Tern 400")
        low = with_reading(WIRED, "nameplate_max_dc", "inverter", 48.0)
        self.assertEqual(judged(assess(low), "nameplate_max_dc").verdict, "stop")

    def test_goods_of_a_roof_name_no_inverter_and_no_string(self) -> None:
        lines = {line.id: line for line in load_in(WIRED)}
        for gone in ("inverters", "plugs_inverter", "label_string", "crimp_tool", "lock_screw"):
            self.assertNotIn(gone, lines)
        self.assertEqual(lines["modules"].count, 30)
        self.assertEqual(lines["gateway"].count, 1)
        self.assertEqual(lines["path Stobmoor B20"].count, 3)
        self.assertEqual(lines["label_branch"].count, 3)
        unknown = {line.id: line for line in load_in(micro_job())}
        self.assertIsNone(unknown["trunk_drops"].count)
        self.assertIn("every way known", unknown["trunk_drops"].because)

    def test_the_rail_is_as_long_as_the_roof_is_drawn(self) -> None:
        # Two rails under 6 modules of 1.134 m, five gaps of 20 mm, 60 mm beyond each end: 7.024 m.
        job = micro_job({"P": ("######",)})
        lines = {line.id: line.count for line in load_in(job)}
        self.assertEqual(lines["rail_m"], 15)
        wide = replace(job, planes=(replace(job.planes[0], orientation="landscape"),))
        # Laid across: 6 x 1.762 + 0.1 + 0.12 = 10.792 m, twice.
        self.assertEqual({line.id: line.count for line in load_in(wide)}["rail_m"], 22)

    def test_other_units_come_instead_and_are_judged_by_their_own_sheet(self) -> None:
        weaker = replace(WIRED.roof_plan.unit, id="weak", model="Weak", max_short_circuit_a=16.0)
        job = substituted(WIRED, "micros", WIRED.roof_plan.unit.label, weaker)
        self.assertEqual(judged(assess(job), "unit_current").verdict, "stop")
        self.assertEqual(job.arrival.substitutes[0].now, "Skerrow Weak")
        changes = offer("micros", WIRED, WIRED.roof_plan.unit, weaker)
        self.assertIn("Short-circuit current into the unit", [c.title for c in changes.verdicts])
        split = of("trunks", "skerrow-trunk-130-s")
        self.assertIn(
            "not made for each other", offer("trunks", WIRED, WIRED.roof_plan.trunk, split).refusal
        )
        with self.assertRaises(Refused):
            with_sheet(WIRED, of("optimisers", "fenbrow-500")).rules  # noqa: B018


class Earth(TestCase):
    def test_a_washer_needs_rails_that_reach_the_electrode(self) -> None:
        duo = replace(WIRED.roof_plan, unit=replace(WIRED.roof_plan.unit, by_washer=True))
        job = whole_earth(replace(WIRED, micro=replace(duo, earth="washer")))
        self.assertNotIn("unit_earth", [p.judgement.rule_id for p in assess(job).open_points])
        cut = without_link(job, "Rails West → Main earth terminal")
        self.assertEqual(judged(assess(cut), "unit_earth").verdict, "stop")
        nobody = replace(job, micro=replace(duo, earth=None))
        self.assertEqual(judged(assess(nobody), "unit_earth").verdict, "waiting")

    def test_each_way_says_what_it_needs(self) -> None:
        stage = assess(WIRED).roof
        assert stage is not None
        ways = {one.school: one for one in stage.earth}
        self.assertEqual([p.count for p in ways["washer"].parts], [30])
        self.assertFalse(ways["washer"].allowed)
        metres, lugs = ways["wire"].parts
        # East: rows of 9 units, 10.812 m over the chimney and 9.232 m; West: two of 5.77 m; from
        # row to row 1.782 m on each: 35.15 m, cut as whole metres.
        self.assertEqual((metres.count, lugs.count), (36, 30))

    def test_the_core_is_sized_by_the_feed(self) -> None:
        links = {one.name: one for one in assess(whole_earth(WIRED)).earth.links}
        self.assertEqual(links["Units → Main earth terminal"].least_mm2, 10)


class Feed(TestCase):
    def test_a_home_run_carries_its_branch_and_the_roof_feed_all_of_them(self) -> None:
        feed = assess(WIRED).feed
        runs = {run.name: run for run in feed.runs}
        self.assertAlmostEqual(runs["To Box B1"].current_a, 10 * 1.75)
        self.assertAlmostEqual(runs["Roof feed"].current_a, 30 * 1.75)
        # Ten units are 4 kVA, 16.3 A at 245 V: over 12 m out and back of 4 mm2 warm, 5.3 mOhm/m.
        self.assertAlmostEqual(runs["To Box B1"].rise_v or 0.0, 16.3 * 24 * 0.0053, delta=0.05)
        self.assertIsNone(feed.dc_switching)
        self.assertEqual((feed.dc_runs, feed.dc_schools), ((), ()))
        self.assertNotIn("dc_off", [a.subject for a in assess(WIRED).asks if a.kind == "dead_step"])
        assert feed.today is not None
        self.assertEqual(feed.today.rungs[-1].run, "")
        self.assertAlmostEqual(feed.today.rungs[-1].volts, feed.today.terminal_v)

    def test_the_branch_that_stands_highest_is_the_ladder_s(self) -> None:
        longer = tuple(
            replace(run, length_m=60.0) if run.name == "To Box B3" else run
            for run in WIRED.feed.runs
        )
        job = replace(WIRED, feed=replace(WIRED.feed, runs=longer))
        today = assess(job).feed.today
        assert today is not None
        self.assertEqual(today.rungs[-2].name, "Box B3")
        thick = with_run_size(job, "To Box B3", 16.0)
        self.assertLess(assess(thick).feed.today.terminal_v, today.terminal_v)  # type: ignore[union-attr]

    def test_a_home_run_that_is_missing_is_named_and_nothing_hides_it(self) -> None:
        assessment = assess(without_run(WIRED, "To Box B2"))
        self.assertIn("Branch board and Box B2", assessment.feed.line)
        self.assertIsNone(assessment.feed.today)
        stage = assessment.roof
        assert stage is not None
        self.assertIsNone(stage.branches[1].room_v)
        self.assertIsNotNone(stage.branches[0].room_v)
        with self.assertRaises(Refused):
            without_device(WIRED, "Branch board")

    def test_branch_breakers_are_judged_both_ways_and_by_the_trunk(self) -> None:
        one_way = of("breakers", "stobmoor-c25-one-way")
        assert isinstance(one_way, Breaker)
        job = set_branch(
            WIRED, "B1", phase=0, feed="end", joint="Box B1", lead_m=None, breaker=one_way
        )
        self.assertEqual(judged(assess(job), "branch_two_way").verdict, "stop")
        self.assertEqual(judged(assess(job), "trunk_guarded").verdict, "stop")

    def test_what_lies_above_the_branch_board_is_held_against_the_boards_own_breaker(self) -> None:
        feeds = of("breakers", "stobmoor-c25-one-way")
        assert isinstance(feeds, Breaker)
        board = replace(WIRED.feed.device("Board"), breaker=feeds, supply_a=63.0)
        stage = assess(with_device(WIRED, "Board", board)).feed
        limits = {run.name: run.judgements[0].limit for run in stage.runs if run.judgements}
        self.assertEqual(limits.pop("Roof feed"), 25)
        self.assertEqual(set(limits.values()), {20})

    def test_a_branch_board_alone_is_the_board_of_the_house(self) -> None:
        devices = tuple(d for d in WIRED.feed.devices if d.name != "Board")
        board = next(d for d in devices if d.kind == "branches")
        known = replace(board, busbar_a=100.0, supply_a=50.0)
        alone = FeedPlan(
            devices=tuple(known if d is board else d for d in devices),
            runs=(
                replace(WIRED.feed.runs[1], start="Supply point"),
                *WIRED.feed.runs[2:],
            ),
        )
        job = replace(WIRED, feed=alone)
        # 50 A of supply and three breakers of 20 A: 110 A on a busbar for 100.
        self.assertEqual(judged(assess(job), "busbar_sum").verdict, "stop")

    def test_a_box_with_a_switch_has_its_ends_torqued(self) -> None:
        switch = of("isolators", "stobmoor-ac-40")
        assert isinstance(switch, Isolator)
        box = FeedDevice(name="Roof switch", kind="joint", isolator=switch, outdoors=True)
        job = with_device(WIRED, "Box B1", box)
        self.assertEqual(job.roof_plan.branches[0].joint, "Roof switch")
        ends = [end.name for end in assess(job).feed.ends]
        self.assertIn("To Box B1 at Roof switch", ends)
        self.assertNotIn("To Box B2 at Box B2", ends)

    def test_the_path_shows_every_branch_from_its_units_to_the_supply(self) -> None:
        assessment = assess(WIRED)
        names = [place.name for place in assessment.feed.path.places]
        for wanted in ("Branch B1", "Branch B3", "Box B2", "Branch board", "Supply point"):
            self.assertIn(wanted, names)
        self.assertEqual(len({p.id for p in assessment.feed.path.places}), len(names))
        sheet = path_sheet(WIRED, assessment.feed, "clear", "today")
        words = [mark.stroke.text for mark in sheet.marks if mark.stroke.kind == "text"]
        self.assertIn("10 × Tern 400", words)


class Regions(TestCase):
    def test_split_phase_units_of_exactly_sixteen_amperes_on_twenty(self) -> None:
        # Ten units of 1.6 A on a 20 A breaker: exactly 80 %, allowed and without room.
        job = america("#" * 10)
        stage = assess(job).roof
        assert stage is not None
        self.assertEqual(stage.branches[0].most.by_breaker, 10)
        breaker = of("breakers", "stobmoor-b20")
        assert isinstance(breaker, Breaker)
        job = set_branch(
            job, "B1", phase=0, feed="end", joint="Box B1", lead_m=None, breaker=breaker
        )
        found = judged(assess(job), "branch_breaker")
        self.assertEqual((found.verdict, found.margin), ("watch", 0.0))
        two = assess(america("#" * 11)).roof
        assert two is not None
        self.assertEqual([len(b.units) for b in two.branches], [6, 5])

    def test_one_phase_of_a_three_phase_house(self) -> None:
        job = wired_roof(three_phase=True)
        assessment = assess(job)
        self.assertEqual(assessment.feed.service, "three")
        runs = {run.name: run for run in assessment.feed.runs}
        # Ten units on each phase: the shared run carries ten in every line, no more.
        self.assertAlmostEqual(runs["Roof feed"].current_a, 17.5)
        two = replace(job.roof_plan, branches=job.roof_plan.branches[:2])
        left = assess(replace(job, micro=two)).roof
        assert left is not None
        self.assertEqual(left.phase_units, (10, 10, 0))
        back = with_roof_choices(
            job, gaps="skip", earth="core", order="units_first", label="map", three_phase=False
        )
        self.assertEqual({one.phase for one in back.roof_plan.branches}, {0})


def america(row: str) -> Job:
    """A roof of split-phase units by the North American pack."""
    base = micro_job({"P": (row,)})
    unit, trunk = of("micros", "skerrow-tern-380-s"), of("trunks", "skerrow-trunk-130-s")
    assert isinstance(unit, Micro) and isinstance(trunk, Trunk)
    plan = replace(base.roof_plan, unit=unit, trunk=trunk, earth="washer")
    profile = replace(base.grid, profile=None)
    return with_offer(replace(base, micro=plan, rule_pack="north-america", grid=profile), 0)
