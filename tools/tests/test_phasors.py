"""The ladder of volts against a phasor solve that shares no line with it."""

from __future__ import annotations

import math
from unittest import TestCase

from core.rules.ac.voltage_rise import RunSegment, ac_most_export, ac_rise
from tools.bench import feeders, laddered
from tools.phasors import Feeder, solve


class Ladder(TestCase):
    def test_every_rung_of_random_feeders_of_all_services(self) -> None:
        many = feeders(30)
        self.assertEqual({one.service for one in many}, {"single", "split", "three"})
        for feeder in many:
            with self.subTest(feeder=feeder):
                ours, exact = laddered(feeder)(), solve(feeder)
                self.assertEqual(len(ours.node_v), len(exact))
                for ladder_v, phasor_v in zip(ours.node_v, exact, strict=True):
                    self.assertAlmostEqual(ladder_v, phasor_v, places=6)

    def test_the_solve_itself_on_a_feeder_done_by_hand(self) -> None:
        # 1 ohm out and back, 10 A at unity: the supply stands 10 V below the terminals.
        feeder = Feeder(
            service="single",
            supply_v=230.0,
            pieces=((500.0, 1.0, 0.0),),
            power=complex(240.0 * 10.0, 0.0),
        )
        self.assertAlmostEqual(solve(feeder)[-1], 240.0, places=9)

    def test_the_most_export_stands_at_the_trip_by_the_other_route_too(self) -> None:
        piece = RunSegment(name="run", length_m=40.0, r_ohm_per_km=2.0, x_ohm_per_km=0.1)
        for service in ("single", "split", "three"):
            most_va = ac_most_export(run=(piece,), service=service, supply_v=245.0, trip_v=253.0)
            feeder = Feeder(
                service=service,
                supply_v=245.0,
                pieces=((piece.length_m, piece.r_ohm_per_km, piece.x_ohm_per_km),),
                power=complex(most_va, 0.0),
            )
            self.assertAlmostEqual(solve(feeder)[-1], 253.0, places=6)

    def test_absorbing_lowers_and_injecting_lifts(self) -> None:
        piece = RunSegment(name="run", length_m=60.0, r_ohm_per_km=0.7, x_ohm_per_km=0.3)
        rises = [
            ac_rise(
                run=(piece,),
                service="single",
                nominal_v=230.0,
                supply_v=240.0,
                output_va=8000.0,
                power_factor=0.9,
                reactive=reactive,
            ).rise_v
            for reactive in ("absorbing", "none", "injecting")
        ]
        self.assertEqual(rises, sorted(rises))
        self.assertTrue(all(math.isfinite(one) for one in rises))
