"""The rules of Feed: worked cases, limits, facts, and tables that are never left silently."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Refused
from core.figures.rule_packs import pack
from core.rules.ac.backup import (
    backup_current,
    backup_one_phase,
    backup_units,
    battery_approved,
    battery_breaker,
    battery_count,
    shutdown_line,
)
from core.rules.ac.cable_loss import cable_loss, yearly_loss
from core.rules.ac.circuit import (
    breaker_carries,
    breaker_rating,
    conductor_carries,
    conductor_section,
    design_current,
    feed_chain,
    small_conductor,
    supply_fits,
)
from core.rules.ac.conductors import (
    ac_resistance,
    conductor_ampacity,
    dc_resistance,
    pv_wire_ampacity,
    resistance_from_75,
)
from core.rules.ac.island import island_from_battery
from core.rules.ac.meters import meter_carries
from core.rules.ac.protection import (
    breaker_two_way,
    busbar_far_end,
    busbar_share,
    busbar_sum,
    loop_trips,
    residual_sensitivity,
    residual_type,
    surge_ac,
    surge_dc,
)
from core.rules.ac.switching import (
    ac_isolator_current,
    ac_isolator_duty,
    ac_isolator_poles,
    ac_isolator_voltage,
    breaker_poles,
    dc_isolator_current,
    dc_isolator_direction,
    dc_isolator_duty,
    dc_isolator_poles,
    dc_isolator_voltage,
    isolator_room,
)
from core.rules.ac.terminations import (
    containment_fill,
    containment_parted,
    gland_seals,
    terminal_grips,
    torque_reached,
)
from core.rules.ac.voltage_rise import RunSegment, ac_high_day, ac_rise, resistance_at
from core.rules.dc.dc_drop import DcPiece, dc_ampacity, dc_drop, dc_drop_limit, dc_terminals
from core.rules.grid.export_response import CurvePoint, curve_at, export_settles
from core.rules.wall.battery_siting import battery_opening
from core.tests.cases import Case, compare, load
from core.tests.table import Row, check_row

CASES = Path(__file__).parent / "cases"
M_PER_FT, FT_PER_KM = 0.3048, 3280.84
NORTH_AMERICA = pack("north-america")
BUSBAR = {"busbar_a": 100.0, "supply_a": 63.0}
GRIP = {"least_mm2": 2.5, "most_mm2": 10.0}
INSERT = {"least_mm": 9.0, "most_mm": 13.0}
HIGH = {"trip_v": 253.0, "supply_v": 248.0}
ROWS: tuple[Row, ...] = (
    (dc_drop_limit, {}, "drop_pct", 0.9, 3.0, 3.1, "stop"),
    (dc_ampacity, {"string_a": 17.5}, "iz_a", 44, 17.5, 17.4, "stop"),
    (dc_terminals, {"string_a": 17.5}, "terminal_a", 44, 17.5, 17.4, "stop"),
    (breaker_carries, {"design_a": 20.0}, "breaker_a", 25, 20, 16, "stop"),
    (conductor_carries, {"breaker_a": 25.0}, "iz_a", 30, 25, 24.9, "stop"),
    (small_conductor, {"section_mm2": 3.31}, "breaker_a", 15, 20, 25, "stop"),
    (busbar_sum, BUSBAR, "inverter_a", 25, 37, 40, "stop"),
    (busbar_share, BUSBAR, "inverter_a", 40, 57, 60, "stop"),
    (loop_trips, {"nominal_v": 230.0, "breaker_a": 20.0}, "loop_ohm", 1.1, 2.3, 2.4, "stop"),
    (ac_isolator_voltage, {"supply_v": 230.0}, "rated_v", 415, 230, 60, "stop"),
    (ac_isolator_current, {"design_a": 20.0}, "rated_a", 25, 20, 16, "stop"),
    (dc_isolator_voltage, {"voc_cold_v": 480.0}, "rated_v", 600, 480, 479, "stop"),
    (dc_isolator_current, {"isc_a": 16.0}, "rated_a", 25, 20, 19, "stop"),
    (terminal_grips, GRIP, "section_mm2", 4, 10, 16, "stop"),
    (terminal_grips, GRIP, "section_mm2", 4, 2.5, 1.5, "stop"),
    (gland_seals, INSERT, "outside_mm", 11, 13, 13.5, "stop"),
    (torque_reached, {"wanted_nm": 2.0}, "reached_nm", 2.05, 2.2, 2.3, "stop"),
    (torque_reached, {"wanted_nm": 2.0}, "reached_nm", 1.9, 1.8, 1.7, "stop"),
    (ac_high_day, HIGH, "terminal_v", 252, 253, 254, "watch"),
    (backup_current, {"limit_a": 40.0, "phase": "L"}, "current_a", 20, 40, 41, "stop"),
    (battery_breaker, {"discharge_a": 50.0}, "breaker_a", 63, 50, 40, "stop"),
    (backup_units, {"limit_va": 7200.0}, "units_va", 6800, 7200, 7600, "stop"),
    (island_from_battery, {"limit_a": 33.4, "phase": "L"}, "current_a", 22, 33.4, 34, "stop"),
    (meter_carries, {"most_a": 80.0}, "design_a", 21, 80, 81, "stop"),
    (battery_opening, {"beside": "Door"}, "gap_mm", 1200, 1000, 900, "stop"),
)
OTHERWISE = {
    "ac_isolator_duty",
    "breaker_poles",
    "dc_isolator_direction",
    "ac_isolator_poles",
    "backup_one_phase",
    "battery_approved",
    "battery_below",
    "battery_count",
    "battery_room",
    "battery_way_out",
    "controller_listed",
    "controller_phases",
    "island_neutral",
    "island_reached",
    "island_residual",
    "meter_phases",
    "meter_two_way",
    "breaker_two_way",
    "busbar_far_end",
    "containment_fill",
    "containment_parted",
    "dc_isolator_duty",
    "dc_isolator_poles",
    "feed_chain",
    "isolator_room",
    "residual_sensitivity",
    "residual_type",
    "shutdown_line",
    "supply_fits",
    "surge_ac",
    "surge_dc",
}


class Limits(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for row in ROWS:
            check_row(self, row)

    def test_a_loop_that_trips_only_cold_is_watched_and_the_curve_counts(self) -> None:
        near = {"nominal_v": 230.0, "breaker_a": 20.0}
        self.assertEqual(loop_trips(loop_ohm=1.8, **near).verdict, "watch")
        # Curve C wants twice the current: 230 V / 200 A.
        self.assertEqual(loop_trips(loop_ohm=1.2, curve="C", **near).verdict, "stop")
        # Where a residual-current device trips in its stead: watch.
        both = loop_trips(loop_ohm=5, residual_ma=30, **near)
        self.assertEqual((both.verdict, both.margin < 0), ("watch", True))
        # 50 V over 30 mA is 1667 ohm.
        earthed = loop_trips(loop_ohm=200, earth_system="TT", residual_ma=30, **near)
        self.assertAlmostEqual(earthed.limit or 0, 1666.67, places=2)
        self.assertEqual(earthed.verdict, "clear")

    def test_fill_by_round_areas(self) -> None:
        # Two cables of 10 mm in a 25 mm pipe: 2 * 100 / 625.
        judged = containment_fill(
            outsides_mm=(10.0, 10.0), inside_mm2=math.pi / 4 * 625, limit_pct=40
        )
        self.assertAlmostEqual(judged.value or 0, 32)
        over = containment_fill(outsides_mm=(10.0,) * 3, inside_mm2=math.pi / 4 * 625, limit_pct=40)
        self.assertEqual((judged.verdict, over.verdict), ("clear", "stop"))


class Facts(TestCase):
    def test_a_switch_parts_every_line_at_its_volts_from_either_side_under_load(self) -> None:
        for judged, verdict in (
            (breaker_poles(poles=1, service="three"), "stop"),
            (breaker_poles(poles=3, service="three"), "clear"),
            (breaker_poles(poles=1, service="split"), "stop"),
            (breaker_poles(poles=1, service="single"), "clear"),
            (ac_isolator_duty(duty="AC-20A"), "stop"),
            (ac_isolator_duty(duty="AC-22B"), "clear"),
            (ac_isolator_duty(duty=""), "clear"),
            (dc_isolator_direction(directional=True), "stop"),
            (dc_isolator_direction(directional=False), "clear"),
        ):
            self.assertEqual(judged.verdict, verdict, judged.reason)

    def test_no_loop_is_no_reading_and_a_high_electrode_is_watched(self) -> None:
        tt = {"nominal_v": 230.0, "earth_system": "TT", "residual_ma": 30.0}
        for ohm, verdict in (
            (0.0, "waiting"),
            (150.0, "clear"),
            (240.0, "watch"),
            (1700.0, "stop"),
        ):
            self.assertEqual(loop_trips(loop_ohm=ohm, **tt).verdict, verdict, ohm)
        self.assertEqual(loop_trips(loop_ohm=0.0, nominal_v=230.0).verdict, "waiting")

    def test_good_and_bad(self) -> None:
        both = {"dc": True, "ac": True, "signal": False}
        typed: dict[str, Any] = {"fitted": "A", "earth_system": "TN"}
        for bad, good, wrong in (
            ("stop", breaker_two_way(two_way=True), breaker_two_way(two_way=False)),
            ("stop", busbar_far_end(far_end=True), busbar_far_end(far_end=False)),
            ("stop", feed_chain(whole=True), feed_chain(whole=False, here="A", there="B")),
            (
                "stop",
                supply_fits(inverter="single", supply="three"),
                supply_fits(inverter="three", supply="single"),
            ),
            (
                "stop",
                residual_type(dc_fault_limited=True, **typed),
                residual_type(dc_fault_limited=False, **typed),
            ),
            (
                "stop",
                residual_sensitivity(fitted_ma=30, earth_system="TT"),
                residual_sensitivity(fitted_ma=100, earth_system="TT"),
            ),
            (
                "stop",
                ac_isolator_poles(poles=4, service="three"),
                ac_isolator_poles(poles=3, service="three"),
            ),
            ("stop", dc_isolator_duty(duty="DC-PV2"), dc_isolator_duty(duty="DC-PV1")),
            (
                "stop",
                dc_isolator_poles(poles=4, poles_in_series=1, strings=2),
                dc_isolator_poles(poles=4, poles_in_series=2, strings=2),
            ),
            (
                "watch",
                isolator_room(section_mm2=6, most_mm2=10),
                isolator_room(section_mm2=6, most_mm2=6),
            ),
            (
                "stop",
                containment_parted(parted="divider", **both),
                containment_parted(parted="no", **both),
            ),
            (
                "watch",
                containment_parted(parted="no", dc=False, ac=True, signal=False),
                containment_parted(parted="marked", **both),
            ),
            ("watch", surge_ac(fitted=True), surge_ac(fitted=False)),
            ("watch", surge_dc(fitted=False, length_m=9), surge_dc(fitted=False, length_m=11)),
            (
                "stop",
                backup_one_phase(three_phase_loads="", three_phase=False),
                backup_one_phase(three_phase_loads="Pump", three_phase=False),
            ),
            (
                "stop",
                battery_count(units=2, most_units=2),
                battery_count(units=3, most_units=2),
            ),
            ("stop", battery_approved(approved=True), battery_approved(approved=False)),
            ("watch", shutdown_line(wired=True), shutdown_line(wired=False)),
        ):
            with self.subTest(rule=wrong.rule_id):
                self.assertEqual((good.verdict, wrong.verdict), ("clear", bad))
                self.assertTrue(good.reason.endswith(".") and wrong.reason.endswith("."))

    def test_no_residual_current_device_stops_where_nothing_else_trips(self) -> None:
        for system, verdict in (("TN", "watch"), ("TT", "stop")):
            judged = residual_type(fitted="none", dc_fault_limited=True, earth_system=system)
            self.assertEqual(judged.verdict, verdict)


class Tables(TestCase):
    def test_what_no_table_holds_is_refused_and_says_so(self) -> None:
        for refused, said in (
            (lambda: conductor_ampacity(section_mm2=6, air_c=61), "10 to 60"),
            (lambda: conductor_ampacity(section_mm2=6, air_c=5), "10 to 60"),
            (lambda: conductor_ampacity(section_mm2=6, grouped=10), "at most 9"),
            (lambda: conductor_ampacity(section_mm2=6, material="aluminium"), "aluminium"),
            (lambda: conductor_ampacity(section_mm2=7), "section"),
            (lambda: conductor_ampacity(section_mm2=6, method="raceway"), "method"),
            (lambda: conductor_ampacity(section_mm2=6, insulation="xlpe", method="A1"), "method"),
            (lambda: conductor_ampacity(section_mm2=5.26, method="C"), "method"),
            (lambda: pv_wire_ampacity(section_mm2=4, air_c=95), "at most 90"),
            (lambda: dc_resistance(section_mm2=25, conductor_c=60), "section"),
            (lambda: ac_resistance(section_mm2=35, conductor_c=60, strands="fine"), "section"),
        ):
            with self.subTest(said=said), self.assertRaises(Refused) as caught:
                refused()
            problem = caught.exception.problems[0]
            self.assertIn(said, f"{problem.path} {problem.message}")

    def test_between_rows_the_hotter_and_the_fuller_row_count(self) -> None:
        self.assertEqual(conductor_ampacity(section_mm2=6, air_c=33).air_factor, 0.94)
        self.assertEqual(pv_wire_ampacity(section_mm2=4, air_c=65).iz_a, 44 * 0.92)
        self.assertEqual(pv_wire_ampacity(section_mm2=4, air_c=20, laid="free").iz_a, 55)

    def test_gauges_in_a_raceway(self) -> None:
        # 8 AWG, 90 C insulation at 45 C: 55 * 0.87 = 47.85 A, below the 50 A of its terminals.
        hot = conductor_ampacity(section_mm2=8.37, insulation="xlpe", method="raceway", air_c=45)
        self.assertAlmostEqual(hot.iz_a, 47.85)
        cool = conductor_ampacity(section_mm2=8.37, insulation="xlpe", method="raceway")
        self.assertEqual(cool.iz_a, 50)
        # Three circuits are six conductors: 55 * 0.8.
        full = conductor_ampacity(section_mm2=8.37, insulation="xlpe", method="raceway", grouped=3)
        self.assertAlmostEqual(full.iz_a, 44)
        chosen = conductor_section(breaker_a=20, method="raceway", rule_pack=NORTH_AMERICA)
        # 14 AWG carries 20 A and may be behind 15 A at most.
        self.assertEqual(chosen.section_mm2, 3.31)

    @given(air=st.floats(10, 60), grouped=st.integers(1, 9))
    def test_hotter_or_fuller_never_carries_more(self, air: float, grouped: int) -> None:
        cool = conductor_ampacity(section_mm2=6, air_c=10)
        self.assertLessEqual(
            conductor_ampacity(section_mm2=6, air_c=air, grouped=grouped).iz_a, cool.iz_a
        )


class DcDropCases(TestCase):
    def test_drop_loss_and_resistance(self) -> None:
        for case in load(CASES, "dc_drop"):
            self.check(case)

    def check(self, case: Case) -> None:
        inputs = case["inputs"]
        warm = [self.resistance(row) for row in inputs["rows"]]
        drops = [
            dc_drop(
                pieces=(DcPiece(length_m=self.length(row), r_ohm_per_km=ohm),),
                current_a=inputs["current_a"],
                string_vmp_v=inputs["string_vmp_v"],
            )
            for row, ohm in zip(inputs["rows"], warm, strict=True)
        ]
        compare(self, case, "resistance_ohm_per_km_at_temp", warm)
        for key, got in (
            ("loop_resistance_ohm", [one.loop_ohm for one in drops]),
            ("drop_v", [one.drop_v for one in drops]),
            ("drop_pct_of_vmp_stc", [one.drop_pct for one in drops]),
            ("loss_w", [one.loss_w for one in drops]),
        ):
            compare(self, case, key, got)

    def length(self, row: dict[str, float]) -> float:
        return row.get("one_way_m") or row["one_way_ft"] * M_PER_FT

    def resistance(self, row: dict[str, float]) -> float:
        at = row["conductor_temp_c"]
        if "r20_ohm_per_km" in row:
            # The pack's own table holds the same figure.
            packed = dc_resistance(section_mm2=row["section_mm2"], conductor_c=at)
            self.assertAlmostEqual(
                packed, resistance_at(r20_ohm_per_km=row["r20_ohm_per_km"], conductor_c=at)
            )
            return packed
        r75 = row["r75_ohm_per_kft"] * FT_PER_KM / 1000
        return resistance_from_75(r75_ohm_per_km=r75, conductor_c=at)


class CircuitCases(TestCase):
    def test_breaker_and_conductor(self) -> None:
        case = next(c for c in load(CASES, "circuits") if c["id"] == "t08-o1")
        rows = case["inputs"]["rows"]
        currents = [
            design_current(power_w=row["power_w"], voltage_v=row["voltage_v"]) for row in rows
        ]
        breakers = [breaker_rating(design_a=one) for one in currents]
        found = [
            conductor_section(
                breaker_a=breaker or 0.0,
                method=row["method"],
                air_c=row["ambient_c"],
                grouped=row["grouped_circuits"],
            )
            for row, breaker in zip(rows, breakers, strict=True)
        ]
        compare(self, case, "design_current_a", currents)
        compare(self, case, "breaker_a", breakers)
        compare(self, case, "section_mm2", [one.section_mm2 for one in found])
        compare(self, case, "iz_chosen_a", [one.chosen_iz_a for one in found])
        for one, wanted in zip(found, case["expected"]["iz_corrected_a_per_section"], strict=True):
            for got, amps in zip(one.iz_a, wanted, strict=False):
                self.assertAlmostEqual(got, amps, delta=0.02)

    def test_busbars(self) -> None:
        case = next(c for c in load(CASES, "circuits") if c["id"] == "t08-o2")
        rows = case["inputs"]["rows"]
        currents = [
            design_current(power_w=row["power_w"], voltage_v=row["voltage_v"], service="split")
            for row in rows
        ]
        breakers = [breaker_rating(design_a=a, rule_pack=NORTH_AMERICA) or 0.0 for a in currents]
        buses = [{"busbar_a": row["busbar_a"], "supply_a": row["main_a"]} for row in rows]
        share = [
            busbar_share(**bus, inverter_a=1.25 * a, rule_pack=NORTH_AMERICA)
            for bus, a in zip(buses, currents, strict=True)
        ]
        by_breaker = [
            busbar_share(**bus, inverter_a=a, rule_pack=NORTH_AMERICA)
            for bus, a in zip(buses, breakers, strict=True)
        ]
        sums = [busbar_sum(**bus, inverter_a=a) for bus, a in zip(buses, breakers, strict=True)]
        compare(self, case, "inverter_current_a", currents)
        compare(self, case, "pv_breaker_a", breakers)
        compare(self, case, "sum_rule_pass", [one.verdict != "stop" for one in sums])
        compare(
            self,
            case,
            "rule_120_on_125pct_current_pass",
            [one.verdict != "stop" for one in share],
        )
        compare(
            self,
            case,
            "rule_120_on_breaker_pass",
            [one.verdict != "stop" for one in by_breaker],
        )
        # Exactly on the limit holds, and is shown.
        self.assertEqual((share[1].verdict, share[1].margin), ("watch", 0.0))

    def test_losses(self) -> None:
        # 20 m of 3.08 ohm/km, out and back, 20 A: 49.28 W; in 600 h 29.57 kWh.
        watts = cable_loss(length_m=20, r_ohm_per_km=3.08, current_a=20, service="single")
        self.assertAlmostEqual(watts, 49.28)
        self.assertAlmostEqual(yearly_loss(loss_w=watts, loss_hours=600), 29.568)


RUN = (RunSegment(name="run", length_m=60, r_ohm_per_km=3.56, x_ohm_per_km=0.08),)
WATT = (CurvePoint(volts=253, pct=100), CurvePoint(volts=260, pct=20))
VAR = (CurvePoint(volts=240, pct=0), CurvePoint(volts=258, pct=-60))


class Responses(TestCase):
    def test_a_curve_is_level_beyond_its_corners_and_straight_between(self) -> None:
        for volts, pct in ((200, 100), (253, 100), (256.5, 60), (260, 20), (300, 20)):
            self.assertAlmostEqual(curve_at(curve=WATT, volts=volts), pct)
        self.assertEqual(curve_at(curve=(), volts=230), 0)

    @given(supply=st.floats(225, 258), rated=st.floats(1000, 10_000))
    def test_where_it_rests_the_curves_and_the_run_agree(self, supply: float, rated: float) -> None:
        found = export_settles(
            run=RUN, service="single", supply_v=supply, rated_va=rated, volt_watt=WATT, volt_var=VAR
        )
        # At rest: the run, solved anew with that power, ends at the voltage that asks for it.
        asked_var = rated * curve_at(curve=VAR, volts=found.terminal_v) / 100
        self.assertAlmostEqual(found.reactive_var, asked_var, delta=rated * 1e-6)
        self.assertLessEqual(math.hypot(found.output_w, found.reactive_var), rated * (1 + 1e-9))
        size = math.hypot(found.output_w, found.reactive_var)
        if size > 1:
            again = ac_rise(
                run=RUN,
                service="single",
                nominal_v=230,
                supply_v=supply,
                output_va=size,
                power_factor=max(found.output_w / size, 0.5),
                reactive="absorbing",
            )
            if found.output_w / size >= 0.5:
                self.assertAlmostEqual(again.terminal_v, found.terminal_v, places=4)
