"""Arrangements: nothing illegal, nothing missed, the best first, and what blocks a better one."""

from __future__ import annotations

from dataclasses import replace
from itertools import product
from unittest import TestCase

from hypothesis import example, given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.edits.strings import arranged
from core.equipment import catalogue
from core.job.job import Job
from core.job.roof import Plane
from core.job.strings import StringPlan
from core.planning.dc.arrangements import Arrangement, arrange
from core.tests.samples import sample_job


def roof(*facings: float) -> tuple[Plane, ...]:
    return tuple(
        Plane(name=f"P{n}", tilt_deg=35.0, azimuth_deg=facing) for n, facing in enumerate(facings)
    )


def job_on(planes: tuple[Plane, ...], inverter: str = "veyrick-8-battery") -> Job:
    first = StringPlan(name="A", tracker=1, plane=planes[0].name, modules_in_series=10)
    return sample_job(planes=planes, strings=(first,), inverter=catalogue.inverter(inverter))


def shape(one: Arrangement) -> list[tuple[int, str, int]]:
    return sorted((s.tracker, s.plane, s.modules_in_series) for s in one.strings)


class Legal(TestCase):
    @settings(max_examples=25, deadline=None)
    @example(counts=[5, 1, 5], turn=4.0, inverter="veyrick-8-battery")
    @given(
        counts=st.lists(st.integers(min_value=0, max_value=26), min_size=1, max_size=3),
        turn=st.sampled_from((0.0, 4.0, 90.0)),
        inverter=st.sampled_from(("veyrick-8-battery", "veyrick-5", "hathmoor-3")),
    )
    def test_no_arrangement_breaks_a_hard_limit(
        self, counts: list[int], turn: float, inverter: str
    ) -> None:
        job = job_on(roof(*(180 + turn * n for n in range(len(counts)))), inverter)
        modules = {plane.name: count for plane, count in zip(job.planes, counts, strict=True)}
        for one in arrange(job, modules).ranked:
            stage = assess(arranged(job, one.strings)).string
            judgements = [j for s in stage.strings for j in s.judgements]
            judgements += [*stage.whole, *(j for t in stage.trackers for j in t.judgements)]
            stops = {j.rule_id for j in judgements if j.verdict == "stop"}
            # Fuses can be added, and are counted against the arrangement.
            self.assertLessEqual(stops, {"string_reverse_current"})
            for name, count in modules.items():
                used = sum(s.modules_in_series for s in one.strings if s.plane == name)
                self.assertLessEqual(used, count)
            used = sum(s.modules_in_series for s in one.strings)
            self.assertEqual(one.left_out, sum(counts) - used)

    def test_every_whole_use_of_a_small_roof_is_found(self) -> None:
        # By brute force: two unlike planes, two trackers with one input, counts 5 to 14.
        job = job_on(roof(90, 270), "veyrick-5")
        for east, west in ((11, 9), (20, 0), (14, 5), (10, 10), (5, 23)):
            wanted = {
                tuple(sorted(((1, a[0], a[1]), (2, b[0], b[1]))))
                for a, b in product(product(("P0", "P1"), range(5, 15)), repeat=2)
                if {"P0": east, "P1": west}
                == {p: sum(n for q, n in (a, b) if q == p) for p in ("P0", "P1")}
            }
            found = arrange(job, {"P0": east, "P1": west})
            got = {tuple(shape(one)) for one in found.ranked if one.left_out == 0}
            # The two trackers are alike: either order stands for both.
            mirrored = {tuple(sorted((3 - t, p, n) for t, p, n in one)) for one in got}
            self.assertEqual(got | mirrored, wanted, (east, west))

    def test_the_best_comes_first(self) -> None:
        found = arrange(job_on(roof(90, 270)), {"P0": 11, "P1": 9})
        best = found.ranked[0]
        self.assertEqual([s.modules_in_series for s in best.strings], [11, 9])
        self.assertEqual((best.left_out, best.unfit, best.terminations), (0, 0, 8))
        self.assertIn("All 20 modules; full power cold to hot", best.why)
        for one in found.ranked[1:]:
            self.assertTrue("Behind the first" in one.why or "As good as the first" in one.why)

    def test_like_planes_may_share_a_tracker_and_unlike_ones_never_do(self) -> None:
        for turn, shared in ((3.0, True), (8.0, False)):
            job = job_on(roof(180, 180 + turn), "hathmoor-3")
            job = replace(job, module=catalogue.module("tallowby-330"))
            inverter = replace(
                job.inverter,
                trackers=(replace(job.inverter.trackers[0], max_short_circuit_a=40.0),),
            )
            job = replace(job, inverter=inverter)
            found = arrange(job, {"P0": 8, "P1": 8})
            both = any(len({s.plane for s in one.strings}) == 2 for one in found.ranked)
            self.assertEqual(both, shared)

    def test_optimisers_are_arranged_by_count_and_power(self) -> None:
        job = replace(
            job_on(roof(110, 200), "veyrick-6-fixed"), optimiser=catalogue.optimiser("fenbrow-500")
        )
        best = arrange(job, {"P0": 11, "P1": 9}).ranked[0]
        self.assertEqual(shape(best), [(1, "P0", 11)])
        job = replace(job, inverter=replace(job.inverter, trackers=job.inverter.trackers * 2))
        best = arrange(job, {"P0": 11, "P1": 9}).ranked[0]
        self.assertEqual(sum(s.modules_in_series for s in best.strings), 20)


class Large(TestCase):
    def test_a_roof_beyond_all_trying_still_answers_and_says_that_it_stopped(self) -> None:
        inverter = catalogue.inverter("hathmoor-15-three")
        wide = replace(inverter.trackers[0], inputs=6, max_short_circuit_a=200.0)
        inverter = replace(inverter, trackers=(wide,) * 4, max_dc_w=None)
        job = replace(job_on(roof(*(10.0 * n for n in range(20)))), inverter=inverter)
        found = arrange(job, {plane.name: 40 for plane in job.planes})
        self.assertFalse(found.all_tried)
        self.assertTrue(found.ranked)
        one = arrange(job, {"P0": 400})
        used = sum(s.modules_in_series for s in one.ranked[0].strings)
        self.assertEqual(used + one.ranked[0].left_out, 400)


class Blocked(TestCase):
    def test_each_block_is_named_and_what_would_free_it(self) -> None:
        narrow = sample_job().inverter.dc
        narrow = replace(
            narrow,
            max_dc_v=130.0,
            full_power_min_v=100.0,
            full_power_max_v=120.0,
            track_max_v=125.0,
        )
        base = job_on(roof(90, 180, 270), "veyrick-5")
        weak = replace(base.inverter.trackers[0], max_short_circuit_a=16.5)
        for job, modules, block, free in (
            (base, {"P0": 4}, "5 in series are the least", "1 more on P0"),
            (base, {"P0": 9, "P1": 9, "P2": 9}, "more than 2 inputs", "more inputs"),
            (
                replace(base, inverter=replace(base.inverter, dc=narrow)),
                {"P0": 9},
                "No count fits",
                "would free it",
            ),
            (
                replace(base, inverter=replace(base.inverter, trackers=(weak, weak))),
                {"P0": 9},
                "a tracker bears 16.5",
                "trackers bear 17.4",
            ),
            (
                replace(base, inverter=replace(base.inverter, max_dc_w=4000.0)),
                {"P0": 11},
                "above the 4000",
                "2 modules off",
            ),
        ):
            with self.subTest(block=block):
                found = arrange(job, modules)
                said = " ".join(found.blocks).replace("\u00a0", " ")
                self.assertIn(block, said)
                self.assertIn(free, " ".join(found.frees).replace("\u00a0", " "))
        # Where the inverter bears fewer modules than lie on the roof, the best use of it is shown.
        best = found.ranked[0]
        self.assertEqual([s.modules_in_series for s in best.strings], [9])

    def test_nothing_blocks_what_fits(self) -> None:
        found = arrange(job_on(roof(90)), {"P0": 12})
        self.assertEqual((found.blocks, found.frees, found.all_tried), ((), (), True))
