"""Figures that a sentence or a small mark tells, checked by hand: nobody else looks at them."""

from __future__ import annotations

import re
from dataclasses import replace
from unittest import TestCase

from core.assess import assess
from core.assessment.microinverter import RoofStage
from core.assessment.whole import StringStage
from core.base.messages import figure
from core.edits.microinverter.branches import painted_branch
from core.equipment import catalogue
from core.equipment.micro import Micro
from core.job.feed import HomeRun
from core.job.job import Job
from core.rules.dc.diagnosis import diagnose
from core.rules.dc.optimiser_string import optimisers_connected, optimisers_counted
from core.rules.dc.string_voltage import series_count, string_volts, vmp_coefficient
from core.stages.feed.runs import SHOWN_PIECES, dc_title
from core.stages.wake.conditions import unmet
from core.tests.commissioned import switching
from core.tests.samples import sample_job, wired_roof, with_feed, with_reading


class WithoutItsOwnCoefficient(TestCase):
    def test_vmp_falls_by_power_less_current(self) -> None:
        """P = V·I: what power loses and current gains in a kelvin, voltage loses twice over."""
        module = replace(
            sample_job().module,
            vmp_v=32.0,
            beta_vmp_pct_per_k=None,
            gamma_pmax_pct_per_k=-0.35,
            alpha_isc_pct_per_k=0.05,
        )
        self.assertAlmostEqual(vmp_coefficient(module), -0.40)
        volts = string_volts(
            module=module,
            modules_in_series=10,
            t_air_min_c=-10.0,
            t_cell_hot_c=70.0,
            school="datasheet",
        )
        # 45 K above 25 °C: 32 V · (1 − 0.0040 · 45) = 26.24 V each.
        self.assertAlmostEqual(volts.vmp_hot_v, 262.4)
        own = replace(module, beta_vmp_pct_per_k=-0.30)
        self.assertAlmostEqual(vmp_coefficient(own), -0.30)


class SafetyVolts(TestCase):
    def test_optimisers_of_another_safety_voltage_are_counted(self) -> None:
        self.assertEqual(optimisers_counted(read_v=5.5, safety_v=0.5), 11)
        self.assertEqual(optimisers_counted(read_v=22.1, safety_v=2.0), 11)
        for read_v, verdict in ((5.5, "clear"), (5.0, "stop"), (6.0, "stop")):
            judged = optimisers_connected(
                read_v=read_v, safety_v=0.5, optimisers=11, safety_tolerance_v=0.01
            )
            self.assertEqual(judged.verdict, verdict, read_v)


class NothingFits(TestCase):
    def test_what_would_free_it_is_told_in_volts(self) -> None:
        job = sample_job()
        dc = replace(
            job.wall_inverter.dc, max_dc_v=200.0, start_v=190.0, track_min_v=185.0,
            full_power_min_v=190.0, full_power_max_v=195.0, track_max_v=198.0,
        )  # fmt: skip
        given = {"module": job.module, "t_air_min_c": -10.0, "t_cell_hot_c": 70.0}
        found = series_count(dc=dc, school="datasheet", start_on="vmp_hot", **given)
        self.assertFalse(found.feasible)
        one = string_volts(modules_in_series=1, school="datasheet", **given)
        assert found.frees is not None and found.most is not None and one.voc_cold_v is not None
        needed, reach = (
            figure(found.least * one.voc_cold_v, "V"),
            figure(found.most * one.vmp_hot_v, "V"),
        )
        self.assertEqual(re.findall(r"[\d.]+\u00a0V", found.frees), [needed, reach])


class TheLadder(TestCase):
    def test_what_a_thicker_cable_saves_is_told_in_kwh(self) -> None:
        run = assess(with_feed(sample_job())).feed.runs[-1]
        chosen = next(step for step in run.sizes if step.chosen)
        thicker = next(step for step in run.sizes if step.section_mm2 > chosen.section_mm2)
        saved = figure(chosen.loss_kwh - thicker.loss_kwh, "kWh", 0)
        self.assertGreater(chosen.loss_kwh, thicker.loss_kwh)
        self.assertIn(saved, thicker.buys)


class OddModules(TestCase):
    def test_an_input_without_a_module_is_capped_and_only_that(self) -> None:
        job = wired_roof()
        units = {unit.name: unit.capped for unit in _roof(job).units}
        inputs = job.roof_plan.unit.inputs
        for unit in job.roof_plan.units:
            self.assertEqual(units[unit.name], len(unit.modules) == inputs - 1, unit.name)
        two = next(
            one for one in catalogue.sheets("micros") if isinstance(one, Micro) and one.inputs == 2
        )
        odd = replace(job.roof_plan, unit=two)
        capped = [unit.capped for unit in _roof(replace(job, micro=odd)).units]
        self.assertTrue(any(capped))


class PluggingIn(TestCase):
    def test_the_gate_names_what_it_waits_for_and_why_it_stops(self) -> None:
        waits = _string(sample_job()).strings[0].gate
        self.assertEqual(waits.verdict, "waiting")
        self.assertIn("stays unplugged. Still to come: ", waits.line)
        tall = sample_job()
        many = replace(tall.strings[0], modules_in_series=20)
        stopped = _string(replace(tall, strings=(many, *tall.strings[1:]))).strings[0]
        self.assertEqual(stopped.gate.verdict, "stop")
        told = assess(replace(tall, strings=(many, *tall.strings[1:])))
        stops = [
            one.judgement.reason for one in told.open_points if one.judgement.verdict == "stop"
        ]
        self.assertTrue(any(reason in stopped.gate.line for reason in stops))


class OfItsOwnWay(TestCase):
    def test_each_home_run_is_judged_by_its_own_branch(self) -> None:
        """Of two branches of unlike size each home run carries its own units, and no others."""
        job = wired_roof()
        short = [one for one in job.roof_plan.branches if one.units][-1]
        job = painted_branch(job, short.name, short.units[:3])
        runs = {run.name: run for run in assess(job).feed.runs}
        unit_a = job.roof_plan.unit.line_a
        for branch in job.roof_plan.branches:
            if branch.units and branch.joint:
                run = runs[f"To {branch.joint}"]
                self.assertAlmostEqual(run.current_a, len(branch.units) * unit_a, msg=branch.name)

    def test_many_pieces_are_told_as_a_sum_and_few_one_by_one(self) -> None:
        piece = HomeRun(length_m=3.0, section_mm2=4.0, to="Box")
        for count, sums in ((SHOWN_PIECES, False), (SHOWN_PIECES + 1, True)):
            title = dc_title((piece,) * count)
            self.assertEqual(figure(3.0 * count, "m") in title, sums, title)


class OnTheEdge(TestCase):
    def test_exactly_the_least_sun_is_enough(self) -> None:
        job = sample_job()
        rules = job.rules
        meter, wake = rules.meter.least_irradiance.value, rules.wake.daylight.value
        for sun, enough in ((meter, True), (meter - 1, False)):
            read = with_reading(job, "irradiance", "East", sun)
            read = with_reading(read, "module_temperature", "East", 35.0)
            asked = next(one for one in assess(read).asks if one.key == "open_circuit/A")
            self.assertEqual(asked.expected_low is not None, enough, sun)
        for sun, enough in ((wake, True), (wake - 1, False)):
            read = with_reading(job, "irradiance", "East", sun)
            self.assertEqual(unmet(switching(read), "daylight") == "", enough, sun)


class Causes(TestCase):
    def test_each_cause_tells_the_volts_that_it_would_give(self) -> None:
        found = diagnose(
            read_v=360.0, modules_in_series=10, expected_v=400.0, low_v=390.0, high_v=410.0
        )
        missing = next(one for one in found if one.module_equivalents == 9)
        self.assertTrue(missing.fits)
        self.assertAlmostEqual(missing.expected_v, 9 * 40.0)
        self.assertAlmostEqual(missing.low_v, 9 * 39.0)
        self.assertAlmostEqual(missing.high_v, 9 * 41.0)
        # In half-bands from what the cause would give: nearer is likelier.
        self.assertAlmostEqual(missing.off, 0.0)


def _roof(job: Job) -> RoofStage:
    found = assess(job).roof
    assert found is not None
    return found


def _string(job: Job) -> StringStage:
    found = assess(job).string
    assert found is not None
    return found
