"""The rules of Prove, Wake and Set: limits on both sides, bands with their edges, facts."""

from __future__ import annotations

from datetime import date
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.equipment import catalogue
from core.rules.ac.supply_conductors import (
    conductors_agree,
    frequency_kept,
    pair_volts,
    phases_turn,
)
from core.rules.dc.string_current import (
    current_sun_enough,
    expected_current,
    string_current_read,
    string_currents_agree,
)
from core.rules.grid.grid_settings import device_planned, profile_fits_hertz, settings_unchanged
from core.rules.grid.loss_of_supply import (
    loss_returns,
    loss_stops,
    mean_voltage_under,
    over_voltage_stops,
    running_mean,
)
from core.rules.prove.instrument import instrument_in_date, tests_complete
from core.rules.prove.insulation import (
    insulation_bears,
    insulation_holds,
    insulation_test,
    insulation_test_voltage,
)
from core.rules.prove.making import plug_current, plug_volts
from core.rules.prove.residual_trip import residual_trips_at, residual_trips_in
from core.tests.table import Row, check_row

SINGLE = {"service": "single", "nominal_v": 230.0}
ROWS: tuple[Row, ...] = (
    (insulation_holds, {"system_v": 600.0}, "mohm", 1.1, 1.0, 0.99, "stop"),
    (insulation_holds, {"system_v": 100.0}, "mohm", 0.6, 0.5, 0.49, "stop"),
    (current_sun_enough, {}, "irradiance_w_per_m2", 410, 400, 390, "watch"),
    (string_current_read, {"low_a": 8.0, "high_a": 10.0}, "read_a", 9, 8, 7.9, "watch"),
    (residual_trips_in, {}, "trip_ms", 40, 300, 301, "stop"),
    (residual_trips_at, {"rated_ma": 30.0}, "trip_ma", 22, 30, 31, "stop"),
    (residual_trips_at, {"rated_ma": 30.0}, "trip_ma", 22, 15, 14, "stop"),
    (conductors_agree, {"pair": "L-PE"} | SINGLE, "read_v", 231, 253, 254, "stop"),
    (profile_fits_hertz, {"nominal_hz": 50.0}, "supply_hz", 50, 52, 60, "stop"),
    (loss_stops, {"limit_s": 2.0}, "seconds", 0.4, 2.0, 2.1, "stop"),
    (loss_returns, {"observe_s": 60.0}, "seconds", 75, 60, 59, "stop"),
    (over_voltage_stops, {"limit_s": 3.0, "level_v": 253.0}, "seconds", 2, 3, 3.1, "stop"),
    (plug_volts, {"rated_v": 1000.0}, "voc_cold_v", 999, 1000, 1000.5, "stop"),
    (plug_current, {"rated_a": 30.0}, "string_a", 29, 30, 30.1, "stop"),
    (mean_voltage_under, {"limit_v": 253.0}, "mean_v", 250, 253, 253.5, "stop"),
)
# Rules of a fact, of a band made of several, or whose name is that of the rule they stand for.
OTHERWISE = {
    "branch_one_type",
    "plant_kw",
    "reporting_counts",
    "making_log",
    "module_serials",
    "plug_grips",
    "plug_seals",
    "device_planned",
    "frequency_kept",
    "instrument_in_date",
    "insulation_bears",
    "insulation_test_voltage",
    "phases_turn",
    "settings_unchanged",
    "string_currents_agree",
    "tests_complete",
}


class Limits(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for row in ROWS:
            check_row(self, row)

    def test_insulation_bands_and_their_edges(self) -> None:
        # IEC 62446-1 Table 1: both edges of the middle band belong to it.
        for system_v, test_v, least in (
            (12.0, 250, 0.5),
            (119.9, 250, 0.5),
            (120.0, 500, 1.0),
            (500.0, 500, 1.0),
            (500.1, 1000, 1.0),
            (1500.0, 1000, 1.0),
        ):
            test = insulation_test(system_v=system_v)
            self.assertEqual((test.test_v, test.least_mohm), (test_v, least), system_v)

    def test_the_test_voltage_itself_is_right_less_is_not_and_more_is_not_borne(self) -> None:
        def verdict(used_v: float) -> str:
            judged = insulation_test_voltage(used_v=used_v, needed_v=500.0, most_v=1000.0)
            return judged.verdict

        self.assertEqual(
            [verdict(volts) for volts in (250.0, 500.0, 1000.0, 1500.0)],
            ["stop", "clear", "clear", "stop"],
        )
        self.assertEqual(insulation_bears(mohm=0.9).verdict, "stop")

    def test_neutral_against_earth_is_small_and_lines_are_a_root_of_three_apart(self) -> None:
        band = pair_volts(pair="L1-L2", service="three", nominal_v=230.0)
        self.assertAlmostEqual((band.low_v + band.high_v) / 2, 398.37, places=2)
        half = pair_volts(pair="L1-N", service="split", nominal_v=240.0)
        self.assertAlmostEqual((half.low_v + half.high_v) / 2, 120.0)
        for volts, verdict in ((3.0, "clear"), (10.0, "watch"), (115.0, "stop")):
            judged = conductors_agree(pair="N-PE", read_v=volts, service="single", nominal_v=230.0)
            self.assertEqual(judged.verdict, verdict)

    def test_facts(self) -> None:
        self.assertEqual(phases_turn(sign=-1).verdict, "watch")
        self.assertEqual(frequency_kept(hertz=50.02).verdict, "clear")
        self.assertEqual(loss_returns(seconds=900.0, observe_s=60.0).verdict, "watch")


class Currents(TestCase):
    def test_half_the_sun_is_half_the_current_with_an_honest_band(self) -> None:
        module = catalogue.module("ostrel-430")
        full = expected_current(module=module, irradiance_w_per_m2=1000.0, t_cell_c=25.0)
        half = expected_current(module=module, irradiance_w_per_m2=500.0, t_cell_c=25.0)
        self.assertAlmostEqual(full.centre_a, module.isc_a)
        self.assertAlmostEqual(half.centre_a, module.isc_a / 2)
        self.assertTrue(full.low_a < full.centre_a < full.high_a)
        operating = expected_current(
            module=module, irradiance_w_per_m2=1000.0, t_cell_c=25.0, test="operating"
        )
        self.assertAlmostEqual(operating.centre_a, module.imp_a)
        wide = expected_current(
            module=module, irradiance_w_per_m2=1000.0, t_cell_c=25.0, basis="clear_sky"
        )
        self.assertLess(wide.low_a, full.low_a)

    def test_no_current_is_a_stop_and_strings_are_compared(self) -> None:
        self.assertEqual(string_current_read(read_a=0.0, low_a=8, high_a=9).verdict, "stop")
        self.assertEqual(string_currents_agree(amps=(10.0, 10.2)).verdict, "clear")
        self.assertEqual(string_currents_agree(amps=(10.0, 12.0)).verdict, "watch")


class Means(TestCase):
    def test_a_mean_holds_each_sample_until_the_next_and_forgets_what_is_older(self) -> None:
        # 100 s at 250 V, then 500 s at 240 V: what lay before the window has no weight.
        samples = ((0.0, 300.0), (1000.0, 250.0), (1100.0, 240.0), (1600.0, 240.0))
        mean, covered = running_mean(samples=samples)
        self.assertAlmostEqual(mean, (100 * 250 + 500 * 240) / 600)
        self.assertEqual(covered, 600.0)

    @given(st.lists(st.floats(180, 280), min_size=2, max_size=40), st.floats(1, 30))
    def test_a_mean_lies_between_its_samples(self, volts: list[float], step_s: float) -> None:
        samples = tuple((step_s * at, one) for at, one in enumerate(volts))
        mean, covered = running_mean(samples=samples)
        self.assertTrue(min(volts) - 1e-9 <= mean <= max(volts) + 1e-9)
        self.assertLessEqual(covered, 600.0)

    def test_one_sample_is_no_mean(self) -> None:
        self.assertEqual(running_mean(samples=((0.0, 230.0),))[1], 0.0)


class Testers(TestCase):
    def test_expired_is_watch_and_unknown_waits(self) -> None:
        day = date(2026, 6, 18)

        def verdict(name: str, due_on: date | None) -> str:
            judged = instrument_in_date(name=name, serial=name, due_on=due_on, taken_on=day)
            return judged.verdict

        self.assertEqual(verdict("T", day), "clear")
        self.assertEqual(verdict("T", date(2026, 6, 17)), "watch")
        self.assertEqual((verdict("T", None), verdict("", day)), ("waiting", "waiting"))

    def test_no_test_at_all_is_not_clear(self) -> None:
        self.assertEqual(tests_complete(verdicts=(), undone=()).verdict, "waiting")
        self.assertEqual(tests_complete(verdicts=("clear", "stop"), undone=("A",)).verdict, "stop")
        self.assertEqual(tests_complete(verdicts=("clear",) * 3, undone=()).verdict, "clear")


class Devices(TestCase):
    def test_another_device_stops_and_an_unread_nameplate_waits(self) -> None:
        def verdict(serial: str, plate: str, rated_w: float = 5000.0, phases: int = 1) -> str:
            return device_planned(
                serial=serial,
                nameplate_serial=plate,
                rated_w=rated_w,
                planned_w=5000.0,
                phases=phases,
                planned_phases=1,
            ).verdict

        self.assertEqual(verdict("S", "S"), "clear")
        self.assertEqual(verdict("S", ""), "waiting")
        self.assertEqual(verdict("X", "S"), "stop")
        self.assertEqual(verdict("S", "S", rated_w=6000.0), "stop")
        self.assertEqual(verdict("S", "", phases=3), "stop")

    def test_what_changed_is_named(self) -> None:
        judged = settings_unchanged(
            changed=("Over-voltage 253 → 262",), fingerprint="b", before="a"
        )
        self.assertEqual(judged.verdict, "stop")
        self.assertIn("253 → 262", judged.reason)
