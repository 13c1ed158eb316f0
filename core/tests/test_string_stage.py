"""The String stage: the gate, neighbours, wind, comparison, optimisers, earth faults."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from unittest import TestCase

from core.assess import assess
from core.bench import Bench, bench_verdict
from core.equipment import catalogue
from core.job.job import Job
from core.job.roof import Plane
from core.job.strings import StringPlan
from core.tests.commissioned import proved, ready_job
from core.tests.samples import NOON, asked, measured_job, sample_job, with_reading


@cache
def sound() -> Job:
    """A whole job up to its tests: strings read as they should, everything looked at."""
    return proved(ready_job())


def gate(job: Job, string: int = 0) -> tuple[str, str]:
    found = assess(job).string.strings[string].gate
    return found.verdict, found.line


class Gate(TestCase):
    def test_opens_only_when_everything_is_in(self) -> None:
        self.assertEqual(
            gate(sound()), ("clear", "Plug in string A: push until it clicks, then pull.")
        )
        for kind, subject in (
            ("open_circuit", "A"),
            ("polarity", "A"),
            ("connectors", "A"),
            ("irradiance", "East"),
            ("continuity", "Inverter → Main earth terminal"),
            ("pull", "To Inverter at Inverter"),
            ("insulation_minus", "B"),
        ):
            with self.subTest(missing=kind):
                job = sound()
                left = tuple(r for r in job.readings if (r.kind, r.subject) != (kind, subject))
                verdict, line = gate(replace(job, readings=left))
                self.assertEqual(verdict, "waiting")
                self.assertIn("stays unplugged", line)

    def test_closes_for_each_thing_that_is_wrong(self) -> None:
        for kind, subject, value in (
            ("polarity", "A", -1),
            ("connectors", "A", -1),
            ("open_circuit", "A", 380.0),
            ("open_circuit", "A", 605.0),
            ("open_circuit", "A", -418.0),
        ):
            with self.subTest(wrong=kind, value=value):
                verdict, line = gate(with_reading(sound(), kind, subject, value, minute=1))
                self.assertEqual(verdict, "stop")
                self.assertIn("stays unplugged", line)

    def test_a_plan_over_the_limit_is_never_plugged_in_whatever_the_meter_says(self) -> None:
        long = replace(
            sound(),
            strings=(
                StringPlan(name="A", tracker=1, plane="East", modules_in_series=15),
                sample_job().strings[1],
            ),
        )
        self.assertEqual(gate(long)[0], "stop")

    def test_a_tracker_that_cannot_take_the_string_keeps_it_unplugged(self) -> None:
        inverter = sample_job().inverter
        weak = replace(inverter.trackers[0], max_operating_a=12.0, max_short_circuit_a=12.0)
        small = replace(inverter, trackers=(weak, *inverter.trackers[1:]))
        job = replace(sound(), inverter=small)
        # What is wrong with one string keeps every one unplugged.
        self.assertEqual((gate(job, 0)[0], gate(job, 1)[0]), ("stop", "stop"))

    def test_no_projection_no_plug(self) -> None:
        colder = replace(sound(), site=replace(sample_job().site, t_air_min_c=-45.0))
        banded = replace(
            colder, rule_pack="north-america", inverter=replace(colder.inverter, service="split")
        )
        bare = tuple(r for r in banded.readings if r.kind != "supply_voltage")
        self.assertNotEqual(gate(replace(banded, readings=bare))[0], "clear")
        judged = assess(replace(banded, readings=bare)).string.strings[0].judgements
        (cold,) = [one for one in judged if one.rule_id == "string_voc_cold"]
        self.assertEqual(cold.verdict, "waiting")
        self.assertIn("−40", cold.reason)


class Expecting(TestCase):
    def test_a_like_string_read_beside_it_stands_in_for_the_sun(self) -> None:
        planes = (Plane(name="East", tilt_deg=35.0, azimuth_deg=100.0),)
        strings = tuple(
            StringPlan(name=name, tracker=n, plane="East", modules_in_series=count)
            for n, (name, count) in enumerate((("A", 11), ("B", 9)), start=1)
        )
        job = with_reading(sample_job(planes=planes, strings=strings), "open_circuit", "A", 418.0)
        ask = asked(with_reading(job, "open_circuit", "B", 342.0, minute=5), "open_circuit/B")
        self.assertEqual(ask.judgements[0].verdict, "clear")
        self.assertIn("by string A", ask.expected_text)
        # Two strings held against each other alone may both be a module short.
        self.assertEqual(ask.verdict, "watch")
        for kind, value in (("irradiance", 700.0), ("module_temperature", 35.0)):
            job = with_reading(job, kind, "East", value, minute=-19)
        sunny = with_reading(job, "open_circuit", "B", 342.0, minute=5)
        self.assertEqual(asked(sunny, "open_circuit/B").verdict, "clear")
        short = asked(with_reading(job, "open_circuit", "B", 304.0, minute=5), "open_circuit/B")
        self.assertEqual((short.verdict, short.causes[0].cause_id), ("stop", "missing_1"))
        late = asked(with_reading(job, "open_circuit", "B", 342.0, minute=25), "open_circuit/B")
        self.assertEqual(late.verdict, "waiting")

    def test_an_unlike_plane_is_no_reference(self) -> None:
        job = with_reading(sample_job(), "open_circuit", "A", 418.0)
        job = with_reading(job, "open_circuit", "B", 342.0)
        self.assertEqual(asked(job, "open_circuit/B").verdict, "waiting")

    def test_wind_cools_the_cells_and_narrows_the_band(self) -> None:
        job = with_reading(sample_job(), "irradiance", "East", 800.0)
        job = with_reading(job, "air_temperature", "site", 20.0)
        still = assess(job).string.strings[0].expected
        windy = assess(with_reading(job, "wind", "site", 6.0)).string.strings[0].expected
        assert still is not None and windy is not None
        # NOCT: 20 + 23/800*800 = 43; Faiman: 20 + 800/(25 + 6.84*6) = 32.1, and 2.4 K to the cell.
        self.assertAlmostEqual(still.t_cell_c or 0, 43.0)
        self.assertAlmostEqual(windy.t_cell_c or 0, 32.11 + 2.4, places=1)
        self.assertEqual(windy.cell_from, "wind")
        self.assertLess(windy.high_v - windy.low_v, still.high_v - still.low_v)

    def test_the_sheets_own_ideality_counts(self) -> None:
        job = measured_job(irradiance=300)
        own = replace(job, module=replace(job.module, ideality_n=1.2))
        usual, steep = (assess(one).string.strings[0].expected for one in (job, own))
        assert usual is not None and steep is not None
        self.assertLess(steep.centre_v, usual.centre_v)


class Together(TestCase):
    def test_strings_are_compared_by_what_each_should_read(self) -> None:
        stage = assess(sound()).string
        agree = next(j for j in stage.whole if j.rule_id == "strings_agree_mean")
        self.assertEqual(agree.verdict, "clear")
        low = with_reading(sound(), "open_circuit", "B", 342.0 * 0.85, minute=1)
        stage = assess(low).string
        agree = next(j for j in stage.whole if j.rule_id == "strings_agree_mean")
        self.assertEqual(agree.verdict, "watch")
        offs = [one.off_pct for one in stage.strings]
        self.assertAlmostEqual(sum(off or 0 for off in offs), 0)
        self.assertLess(offs[1] or 0, -5)

    def test_three_parallel_strings_need_fuses_of_the_right_size(self) -> None:
        job = sample_job(inverter=catalogue.inverter("hathmoor-15-three"))
        strings = tuple(
            StringPlan(name=n, tracker=1, plane="East", modules_in_series=14) for n in "ABC"
        )

        def fuse(size: float | None) -> str:
            fused = tuple(replace(one, fuse_a=size) for one in strings)
            (tracker,) = assess(replace(job, strings=fused)).string.trackers
            wanted = ("string_fuse", "string_reverse_current")
            return next(j.verdict for j in tracker.judgements if j.rule_id in wanted)

        self.assertEqual(
            [fuse(None), fuse(25), fuse(20), fuse(32)], ["stop", "clear", "stop", "stop"]
        )

    def test_a_fault_to_earth_is_placed_and_stops(self) -> None:
        job = with_reading(sound(), "plus_to_earth", "A", 266.0)
        self.assertIsNone(assess(job).string.strings[0].earth)
        job = with_reading(job, "minus_to_earth", "A", -152.0)
        told = assess(job).string.strings[0]
        assert told.earth is not None
        self.assertEqual(told.earth.between, (4, 5))
        self.assertEqual(told.gate.verdict, "stop")
        healed = with_reading(job, "plus_to_earth", "A", 0.4, minute=1)
        healed = with_reading(healed, "minus_to_earth", "A", -0.3, minute=1)
        self.assertIsNone(assess(healed).string.strings[0].earth)
        self.assertEqual(gate(healed)[0], "clear")
        half = with_reading(job, "minus_to_earth", "A", -0.3, minute=40)
        self.assertEqual(gate(half)[0], "waiting")
        later = with_reading(job, "plus_to_earth", "A", 0.4, minute=40)
        later = with_reading(later, "minus_to_earth", "A", -0.3, minute=40)
        self.assertEqual(gate(later)[0], "waiting")


class Optimised(TestCase):
    def test_counted_by_the_meter_and_plugged_in_when_all_are_there(self) -> None:
        job = sample_job(
            inverter=catalogue.inverter("veyrick-6-fixed"),
            optimiser=catalogue.optimiser("fenbrow-500"),
            strings=(StringPlan(name="A", tracker=1, plane="East", modules_in_series=11),),
        )
        job = with_reading(job, "dc_switch", "inverter", 1)
        for kind in ("polarity", "connectors"):
            job = with_reading(job, kind, "A", 1)
        for volts, verdict in ((11.0, "clear"), (9.0, "stop"), (-11.0, "stop")):
            found = with_reading(job, "safety_voltage", "A", volts, minute=volts)
            self.assertEqual(asked(found, "safety_voltage/A").verdict, verdict)
            self.assertEqual(gate(found)[0], "waiting" if verdict == "clear" else verdict)
        self.assertEqual(gate(job)[0], "waiting")
        keys = {ask.kind for ask in assess(job).asks if ask.stage == 4}
        self.assertNotIn("irradiance", keys)
        self.assertEqual(asked(job, "reporting/A").expected_text, "11")
        self.assertIsNone(assess(job).string.strings[0].volts)
        high = replace(catalogue.optimiser("fenbrow-500"), fixed_string_v=501.0)
        whole = with_reading(replace(job, optimiser=high), "safety_voltage", "A", 11.0)
        self.assertEqual(gate(whole)[0], "stop")


class OnTheBench(TestCase):
    def test_a_verdict_without_a_job(self) -> None:
        bench = Bench(
            module=catalogue.module("ostrel-430"),
            inverter=catalogue.inverter("veyrick-5"),
            rule_pack="generic-iec",
            modules_in_series=11,
            mounting="close",
            t_air_min_c=-9.0,
            t_air_max_c=31.0,
        )
        self.assertEqual(bench_verdict(bench, NOON).ask.verdict, "waiting")
        read = replace(bench, irradiance_w_per_m2=700.0, t_module_c=35.0, read_v=418.0)
        same = asked(with_reading(measured_job(), "open_circuit", "A", 418.0), "open_circuit/A")
        found = bench_verdict(read, NOON)
        self.assertEqual(found.ask.judgements, same.judgements)
        self.assertEqual(bench_verdict(replace(read, read_v=380.0), NOON).ask.verdict, "stop")


class Told(TestCase):
    def test_a_band_as_wide_as_a_module_never_tells_the_count(self) -> None:
        """With the sun from the clear sky one module less of sixteen reads inside the band."""
        long = StringPlan(name="A", tracker=1, plane="East", modules_in_series=16)
        sky = with_reading(
            sample_job(strings=(long,)), "irradiance", "East", 700.0, basis="clear_sky"
        )
        sky = with_reading(sky, "air_temperature", "site", 18.0)
        expected = assess(sky).string.strings[0].expected
        assert expected is not None
        self.assertLess(expected.low_v, expected.centre_v * 15 / 16)
        asked_now = asked(
            with_reading(sky, "open_circuit", "A", expected.centre_v * 15 / 16), "open_circuit/A"
        )
        told = {one.rule_id: one.verdict for one in asked_now.judgements}
        self.assertEqual(told["count_told"], "watch")
        self.assertIn("missing_1", {cause.cause_id for cause in asked_now.causes})
        sharp = with_reading(measured_job(), "open_circuit", "A", 418.0)
        told = {one.rule_id: one.verdict for one in asked(sharp, "open_circuit/A").judgements}
        self.assertEqual(told["count_told"], "clear")

    def test_nothing_on_strings_in_parallel_is_clamped_before_it_is_opened(self) -> None:
        strings = tuple(
            StringPlan(name=name, tracker=1, plane="East", modules_in_series=9) for name in "AB"
        )
        job = with_reading(measured_job(), "open_circuit", "A", 0.5)
        beside = replace(job, strings=strings)
        first = asked(beside, "open_circuit/A").causes[0]
        self.assertEqual(first.cause_id, "parallel_reversed")
        self.assertIn("before any connector is opened", first.look_next)
        alone = asked(job, "open_circuit/A").causes
        self.assertNotIn("parallel_reversed", {cause.cause_id for cause in alone})

    def test_two_faults_at_once_are_named_and_currents_tell_like_volts_apart(self) -> None:
        job = with_reading(measured_job(), "open_circuit", "A", -418.0 * 10 / 11)
        causes = asked(job, "open_circuit/A").causes
        self.assertEqual(causes[0].cause_id, "swapped_missing_1")
        low = with_reading(measured_job(), "open_circuit", "A", 418.0 * 9 / 11)
        told = {cause.cause_id: cause.current for cause in asked(low, "open_circuit/A").causes}
        self.assertIn("missing_2", told)
        self.assertNotEqual(told.get("reversed_1"), told.get("bypass_1", "less than full current"))

    def test_figures_that_do_not_go_together_are_asked_about_and_an_unsafe_one_stops(self) -> None:
        def judged(**changes: float) -> str:
            job = measured_job()
            job = replace(job, module=replace(job.module, **changes))
            whole = assess(job).string.whole
            return next(one.verdict for one in whole if one.rule_id == "module_plausible")

        self.assertEqual(judged(), "clear")
        self.assertEqual(judged(cells_in_series=108), "watch")
        self.assertEqual(judged(beta_voc_pct_per_k=-0.1), "stop")

    def test_in_the_roof_cells_are_hotter_than_on_an_open_rack(self) -> None:
        def expected(mounting: str) -> float:
            job = with_reading(sample_job(), "irradiance", "East", 800.0)
            job = with_reading(job, "air_temperature", "site", 20.0)
            planes = tuple(replace(plane, mounting=mounting) for plane in job.planes)
            now = assess(replace(job, planes=planes)).string.strings[0].expected
            assert now is not None and now.t_cell_c is not None
            return now.t_cell_c

        self.assertAlmostEqual(expected("in_roof") - expected("open"), 12.0)

    def test_a_flat_factor_never_hides_a_coefficient_that_gives_more(self) -> None:
        job = sample_job()
        polar = replace(job.site, t_air_min_c=-45.0)
        flat = replace(job, rule_pack="uk-small", site=polar)
        sheet = replace(job, site=polar)
        strings = [assess(one).string.strings[0] for one in (flat, sheet)]
        volts = [one.volts.voc_cold_v for one in strings]
        self.assertAlmostEqual(volts[0], volts[1])
        # The verdict is of that voltage too, and says what it was reckoned with.
        judged = [one.judgements[0] for one in strings]
        self.assertEqual([one.rule_id for one in judged], ["string_voc_cold"] * 2)
        self.assertEqual([one.value for one in judged], volts)
        self.assertTrue(all("at −45" in one.reason for one in judged))
        mild = assess(replace(flat, site=job.site)).string.strings[0].judgements[0]
        self.assertIn("with the flat factor of 1.15", mild.reason)
