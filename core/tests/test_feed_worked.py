"""Two whole feeds worked by hand: split phase by gauge, three phases by method and group."""

from __future__ import annotations

import math
from dataclasses import replace
from unittest import TestCase

from core.assess import assess
from core.assessment.feed import FeedStage
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Breaker, Isolator
from core.job.feed import AcRun, DcSwitching, FeedDevice, FeedPlan, HomeRun
from core.job.grid import GridPlan
from core.job.job import Job
from core.job.strings import StringPlan
from core.tests.samples import sample_job, with_reading

FOOT_M = 0.3048


def breaker(sheet: str) -> Breaker:
    return catalogue.pick(catalogue.sheets("breakers"), sheet, Breaker, "$")


def split_phase() -> Job:
    """7.6 kW at 240 V: 60 ft from the panel to a disconnect, 12 ft on, 8 AWG in a raceway."""
    feed = FeedPlan(
        devices=(
            FeedDevice(name="Service", kind="supply"),
            FeedDevice(
                name="Panel",
                kind="board",
                breaker=breaker("stobmoor-c40-plug"),
                busbar_a=200,
                supply_a=200,
                far_end=True,
                surge="2",
            ),
            FeedDevice(
                name="Disconnect",
                kind="isolator",
                isolator=catalogue.pick(
                    catalogue.sheets("isolators"), "stobmoor-ac-63-four", Isolator, "$"
                ),
            ),
            FeedDevice(name="Inverter", kind="inverter"),
        ),
        runs=(
            piece("Service drop", "Service", "Panel", 90, of_network=True, section_mm2=21.2),
            piece("Branch", "Panel", "Disconnect", 60),
            piece("Whip", "Disconnect", "Inverter", 12),
        ),
        supply_service="split",
        dc=DcSwitching(reason="Inside the array's own boundary", by="Tester"),
    )
    job = sample_job(
        rule_pack="north-america",
        inverter=catalogue.inverter("hathmoor-76-split"),
        grid=GridPlan(profile="na-1547-b", host="127.0.0.1", port=15020, unit_id=1),
        feed=feed,
    )
    return with_reading(job, "supply_voltage", "L1-L2", 246.0)


def piece(
    name: str,
    start: str,
    end: str,
    feet: float,
    *,
    of_network: bool = False,
    section_mm2: float = 8.37,
) -> AcRun:
    return AcRun(
        name=name,
        start=start,
        end=end,
        length_m=feet * FOOT_M,
        section_mm2=section_mm2,
        cores=4,
        insulation="xlpe",
        method="raceway",
        air_c=40.0,
        outside_mm=19.0,
        of_network=of_network,
    )


def rule(stage: FeedStage, name: str, rule_id: str) -> tuple[float | None, float | None, str]:
    """Value, limit and verdict of one judgement of a run or device."""
    parts = {one.name: one for one in (*stage.runs, *stage.devices)}
    found = next(one for one in parts[name].judgements if one.rule_id == rule_id)
    return found.value, found.limit, found.verdict


class SplitPhase(TestCase):
    def test_by_hand(self) -> None:
        stage = assess(split_phase()).feed
        # The sheet says 32 A: a breaker of at least 40 A, exactly on it.
        self.assertEqual(rule(stage, "Panel", "breaker_carries"), (40, 40, "watch"))
        # 200 A and 1.25 * 32 A on 120 % of 200 A: exactly what is allowed.
        value, limit, verdict = rule(stage, "Panel", "busbar_share")
        self.assertEqual((value, round(limit or 0, 6), verdict), (240, 240, "watch"))
        self.assertEqual(rule(stage, "Panel", "busbar_far_end")[2], "clear")
        # 55 A of the 90 C column * 0.91 at 40 C is 50.05 A; its terminals bear 50 A.
        self.assertEqual(rule(stage, "Branch", "conductor_carries"), (50, 40, "clear"))
        self.assertEqual(rule(stage, "Branch", "small_conductor")[2], "clear")
        # 8 AWG at 60 C: 2.55 * (1 - 0.00323 * 15) ohm/km, out and back, with 32 A: lost power.
        ohm = 2 * 60 * FOOT_M / 1000 * 2.55 * (1 - 0.00323 * 15)
        branch = next(one for one in stage.runs if one.name == "Branch")
        self.assertAlmostEqual(branch.loss_kwh or 0, ohm * 32**2 * 600 / 1000, places=6)

    def test_the_ladder_stands_on_line_to_line_volts(self) -> None:
        stage = assess(split_phase()).feed
        assert stage.today is not None
        names = [one.name for one in stage.today.rungs]
        self.assertEqual(names, ["Service", "Panel", "Disconnect", "Inverter"])
        # By iteration from the terminals' own current, reactance apart.
        volts = 246.0
        ohms = [2 * one.length_m / 1000 * self.warm(one) for one in split_phase().feed.runs]
        for _ in range(50):
            volts = 246.0 + 7600 / volts * sum(ohms)
        self.assertAlmostEqual(stage.today.terminal_v, volts, delta=0.02)
        # The service drop lifts and is not ours: the limit counts the rest.
        ours = 7600 / volts * sum(ohms[1:])
        self.assertAlmostEqual(stage.today.rise_pct, 100 * ours / 240, delta=0.01)

    def warm(self, run: AcRun) -> float:
        r75 = {21.2: 1.01, 8.37: 2.55}[run.section_mm2]
        return r75 * (1 - 0.00323 * 15)

    def test_a_breaker_at_the_wrong_end_or_a_smaller_busbar_stops(self) -> None:
        job = split_phase()
        panel = job.feed.device("Panel")
        for changed, rule_id in (
            (replace(panel, far_end=False), "busbar_far_end"),
            (replace(panel, busbar_a=125.0, supply_a=125.0), "busbar_share"),
        ):
            devices = tuple(changed if one is panel else one for one in job.feed.devices)
            stage = assess(replace(job, feed=replace(job.feed, devices=devices))).feed
            self.assertEqual(rule(stage, "Panel", rule_id)[2], "stop")

    def test_heat_and_company_take_their_share(self) -> None:
        job = split_phase()
        hot = tuple(
            replace(run, air_c=50.0, grouped=3) if run.name == "Branch" else run
            for run in job.feed.runs
        )
        stage = assess(replace(job, feed=replace(job.feed, runs=hot))).feed
        # 55 A * 0.82 at 50 C * 0.80 for six conductors: 36.08 A, below the 40 A breaker.
        value, limit, verdict = rule(stage, "Branch", "conductor_carries")
        self.assertAlmostEqual(value or 0, 36.08)
        self.assertEqual((limit, verdict), (40, "stop"))


class ThreePhase(TestCase):
    def job(self) -> Job:
        feed = FeedPlan(
            devices=(
                FeedDevice(name="Supply", kind="supply"),
                FeedDevice(
                    name="Board",
                    kind="board",
                    breaker=breaker("stobmoor-b20-four"),
                    busbar_a=80,
                    supply_a=63,
                ),
                FeedDevice(name="Inverter", kind="inverter"),
            ),
            runs=(
                AcRun(
                    name="Tails", start="Supply", end="Board", length_m=4, section_mm2=16, cores=5
                ),
                AcRun(
                    name="Long run",
                    start="Board",
                    end="Inverter",
                    length_m=45,
                    section_mm2=4,
                    cores=5,
                    method="B2",
                    air_c=38.0,
                    grouped=2,
                ),
            ),
            supply_service="three",
        )
        strings = (
            StringPlan(
                name="A",
                tracker=1,
                plane="East",
                modules_in_series=14,
                home_run=(HomeRun(length_m=30, section_mm2=4, grouped=2, air_c=68),),
            ),
        )
        job = sample_job(
            inverter=catalogue.inverter("veyrick-10-three"), strings=strings, feed=feed
        )
        for pair, volts in (("L1-N", 238.0), ("L2-N", 241.0), ("L3-N", 236.0)):
            job = with_reading(job, "supply_voltage", pair, volts)
        return job

    def test_by_hand(self) -> None:
        stage = assess(self.job()).feed
        # 4 mm2, three loaded, B2: 27 A * 0.87 (38 C counts as 40) * 0.80 = 18.8 A below 20 A.
        value, limit, verdict = rule(stage, "Long run", "conductor_carries")
        self.assertAlmostEqual(value or 0, 18.792)
        self.assertEqual((limit, verdict), (20, "stop"))
        # 63 A and 20 A on an 80 A busbar.
        self.assertEqual(rule(stage, "Board", "busbar_sum"), (83, 80, "stop"))
        # 10 kW on three phases: 14.5 A; the sheet's 16 A counts.
        self.assertEqual(rule(stage, "Board", "breaker_carries"), (20, 16, "clear"))
        assert stage.today is not None
        # One line carries a third over its own way: 45 m of 4.61 and 4 m of 1.15 ohm/km at 60 C.
        warm = 1 + 0.00393 * 40
        ohm = (45 * 4.61 + 4 * 1.15) * warm / 1000
        x = 49 * 0.08 / 1000
        volts = 241.0
        for _ in range(50):
            current = 10_000 / 3 / volts
            volts = math.sqrt(241.0**2 - (current * x) ** 2) + current * ohm
        self.assertAlmostEqual(stage.today.terminal_v, volts, places=2)

    def test_a_hot_crowded_home_run(self) -> None:
        run = assess(self.job()).feed.dc_runs[0]
        assert run.ampacity is not None and run.drop is not None
        # 44 A * 0.92 (68 C counts as 70) * 0.80 for two side by side.
        self.assertAlmostEqual(run.ampacity.iz_a, 44 * 0.92 * 0.8)
        # 2 * 30 m of 5.09 ohm/km at 70 C; of fourteen modules.
        module = self.job().module
        volts = 2 * 30 * 5.09 / 1000 * (1 + 0.00393 * 50) * module.imp_a
        self.assertAlmostEqual(run.drop.drop_v, volts)
        self.assertAlmostEqual(run.drop.drop_pct, 100 * volts / (14 * module.vmp_v))
