"""Several inverters, boards, batteries, roof units, trunks and rails: worked cases, and each search
against trying everything.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import fields, replace
from itertools import combinations, pairwise, product
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.base.errors import Refused
from core.planning.goods.load_list import load_in
from core.rules.ac.backup_group import (
    BackedUpLoad,
    UnitBreaker,
    backup_group,
    backup_hours,
    backup_start,
)
from core.rules.ac.boards import board_shares, board_sums
from core.rules.ac.phase_network import (
    NetworkInverter,
    NetworkLoad,
    NetworkPiece,
    PhaseFlow,
    phase_flow,
    trip_order,
)
from core.rules.ac.phases import Beside, beside_factor, unbalance_limit, unbalance_of_phases
from core.rules.ac.voltage_rise import RunSegment, ac_rise
from core.rules.dc.battery_run import (
    BatteryBank,
    BatteryCable,
    BatteryInput,
    battery_breaks,
    battery_cutoff,
    battery_fuse,
    battery_released,
    battery_run,
    battery_unit_current,
    battery_window,
)
from core.rules.microinverter.trunk import trunk_cut
from core.rules.microinverter.trunk_links import LinkPiece, link_marks, linked_trunk, marks_met
from core.rules.microinverter.unit_pairs import RoofModule, unit_pairs
from core.rules.roof.rails import cutting_plan, hook_plan, hook_span, rail_marks
from core.tests.cases import Case, compare, load
from core.tests.samples import micro_job
from core.tests.table import Row, check_row

CASES = Path(__file__).parent / "cases"
SERVICES = {"three-phase four-wire": "three", "split-phase three-wire": "split"}
OTHER_NAMES = {"from": "start", "to": "end", "power_factor_lagging": "power_factor"}
ROWS: tuple[Row, ...] = (
    (unbalance_limit, {}, "unbalance_kva", 3.7, 4.6, 4.7, "stop"),
    (
        battery_window,
        {"v_min": 44.8, "input_v_min": 42.0, "input_v_max": 60.0},
        "v_max",
        57.6,
        60,
        60.5,
        "stop",
    ),
    (
        battery_window,
        {"v_max": 58.0, "input_v_min": 42.0, "input_v_max": 60.0},
        "v_min",
        44.8,
        42,
        39,
        "stop",
    ),
    (battery_cutoff, {"input_v_min": 43.5}, "inverter_v", 44.5, 43.5, 43.0, "stop"),
    (battery_unit_current, {"most_a": 100.0}, "current_a", 60, 100, 119, "stop"),
    (battery_fuse, {"least_a": 149.0, "cable_iz_a": 175.0}, "fuse_a", 160, 175, 200, "stop"),
    (battery_fuse, {"least_a": 125.0, "cable_iz_a": 175.0}, "fuse_a", 160, 125, 100, "stop"),
    (
        battery_breaks,
        {"breaking_capacity_a": 20_000.0, "fuse_rated_v": 80.0, "v_max": 57.6},
        "prospective_a",
        6828,
        20_000,
        21_000,
        "stop",
    ),
    (backup_start, {"limit_a": 63.0}, "start_a", 40, 63, 64, "stop"),
    (backup_hours, {"wanted_h": 12.0}, "hours", 14, 12, 9, "watch"),
    (hook_span, {"most_mm": 1400.0}, "span_mm", 1345, 1400, 1450, "stop"),
)
# Judgements of facts, without a limit to lie on.
OTHERWISE = {"battery_released", "link_marks", "trunk_links_meet", "trunk_pieces"}


def renamed(of: dict[str, Any]) -> dict[str, Any]:
    return {OTHER_NAMES.get(name, name): value for name, value in of.items()}


def some(shape: type, of: dict[str, Any]) -> Any:
    """A shape from those of its fields that a case gives."""
    return shape(**{one.name: of[one.name] for one in fields(shape) if one.name in of})


class Limits(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for row in ROWS:
            check_row(self, row)

    def test_facts(self) -> None:
        self.assertEqual(battery_released(released=False).verdict, "stop")
        self.assertEqual(
            battery_fuse(fuse_a=None, least_a=10.0, cable_iz_a=20.0).verdict, "waiting"
        )
        thin = battery_fuse(fuse_a=160.0, least_a=154.5, cable_iz_a=110.0)
        self.assertEqual((thin.rule_id, thin.verdict), ("battery_cable", "stop"))
        low = battery_breaks(
            prospective_a=10.0, breaking_capacity_a=1000.0, fuse_rated_v=50.0, v_max=57.6
        )
        self.assertEqual((low.rule_id, low.verdict), ("battery_fuse_v", "stop"))


class Phases(TestCase):
    def test_worked_cases(self) -> None:
        for case in load(CASES, "phases"):
            network = self.network(case)
            flow = phase_flow(**network)
            self.compare_flow(case, flow)
            trips = trip_order(**network)
            compare(self, case, "supply_l_n_at_trip_all_running_v", trips.supply_v)
            compare(self, case, "first_to_trip", trips.order[0])
            compare(self, case, "supply_l_n_at_first_trip_v", trips.at_v[0])
            compare(self, case, "supply_l_n_at_first_trip_closed_v", trips.first_closed_v)
            compare(self, case, "trip_order_as_supply_rises", trips.order)
            compare(self, case, "supply_l_n_at_each_trip_in_that_order_v", trips.at_v)
            self.compare_unbalance(case, network)

    def network(self, case: Case) -> dict[str, Any]:
        given = case["inputs"]
        return {
            "service": SERVICES[given["system"]],
            "source_v": given["source_l_n_v"],
            "nominal_v": given["nominal_l_n_v"],
            "pieces": tuple(NetworkPiece(**renamed(one)) for one in given["pieces"]),
            "inverters": tuple(NetworkInverter(**one) for one in given["inverters"]),
            "loads": tuple(NetworkLoad(**renamed(one)) for one in given["loads"]),
        }

    def compare_flow(self, case: Case, flow: PhaseFlow) -> None:
        of_each = {
            "inverter_current_exact_a": "current_a",
            "inverter_current_closed_a": "current_closed_a",
            "terminal_exact_v": "terminal_v",
            "terminal_closed_v": "terminal_closed_v",
            "rise_shared_exact_v": "rise_shared_v",
            "rise_own_exact_v": "rise_own_v",
            "rise_shared_closed_v": "rise_shared_closed_v",
            "rise_own_closed_v": "rise_own_closed_v",
        }
        for key, name in of_each.items():
            for at, one in enumerate(flow.inverters):
                own = {"id": case["id"], "expected": {key: case["expected"][key][at]}}
                compare(self, own | {"tolerance": case["tolerance"]}, key, getattr(one, name))
        compare(self, case, "terminal_neutral_shift_v", [x.neutral_shift_v for x in flow.inverters])
        compare(self, case, "room_to_trip_v", [one.room_v for one in flow.inverters])
        compare(self, case, "highest_phase_of_each", [one.highest_pair for one in flow.inverters])
        compare(self, case, "board_l_n_v", flow.board_v)
        compare(self, case, "board_neutral_shift_v", flow.board_neutral_shift_v)
        compare(self, case, "largest_closed_error_v", flow.largest_closed_error_v)
        lines = "l1_l2_l3" if len(flow.board_v) == 3 else "l1_l2"
        compare(self, case, f"service_current_exact_a_{lines}_n", flow.service_a)
        compare(self, case, f"service_current_closed_a_{lines}_n", flow.service_closed_a)
        if flow.board_between_v is not None:
            compare(self, case, "board_l_l_v", flow.board_between_v)
        else:
            compare(self, case, "net_power_w_per_phase_plus_export_before_losses", flow.net_w)

    def compare_unbalance(self, case: Case, network: dict[str, Any]) -> None:
        found = unbalance_of_phases(service=network["service"], inverters=network["inverters"])
        if "unbalance_kva" not in case["expected"]:
            return
        compare(self, case, "inverter_kva_per_phase", found.kva)
        compare(self, case, "unbalance_kva", found.unbalance_kva)
        compare(self, case, "unbalance_worst_when_any_may_be_off_kva", found.worst_kva)
        limit = case["inputs"]["unbalance_limit_kva"]
        for key, kva in (("", found.unbalance_kva), ("worst_", found.worst_kva)):
            judged = unbalance_limit(unbalance_kva=kva, limit_kva=limit)
            compare(self, case, f"unbalance_{key}ok", judged.verdict != "stop")

    @given(
        length_m=st.floats(2, 60),
        power_w=st.floats(500, 6000),
        factor=st.floats(0.85, 1),
        reactive=st.sampled_from(("none", "absorbing", "injecting")),
    )
    def test_one_inverter_alone_is_the_rise_of_one_run(
        self, length_m: float, power_w: float, factor: float, reactive: Any
    ) -> None:
        piece = NetworkPiece(
            name="run",
            start="source",
            end="inverter",
            length_m=length_m,
            phase_r_ohm_per_km=3.7,
            phase_x_ohm_per_km=0.09,
            neutral_r_ohm_per_km=3.7,
            neutral_x_ohm_per_km=0.09,
        )
        inverter = NetworkInverter(
            name="one",
            node="inverter",
            connection="L1-N",
            power_w=power_w,
            power_factor=factor,
            reactive=reactive,
            over_voltage_trip_v=253.0,
        )
        flow = phase_flow(
            service="single",
            source_v=236.0,
            nominal_v=230.0,
            pieces=(piece,),
            inverters=(inverter,),
        )
        rise = ac_rise(
            run=(RunSegment(name="run", length_m=length_m, r_ohm_per_km=3.7, x_ohm_per_km=0.09),),
            service="single",
            nominal_v=230.0,
            supply_v=236.0,
            output_va=power_w / factor,
            power_factor=factor,
            reactive=reactive,
        )
        self.assertAlmostEqual(flow.inverters[0].terminal_v[0], rise.terminal_v, 6)
        self.assertAlmostEqual(
            flow.inverters[0].terminal_closed_v[0] - 236.0, rise.rise_closed_v, 9
        )

    @given(
        st.sampled_from(("single", "three", "split")),
        st.lists(st.tuples(st.integers(0, 3), st.floats(500, 5000)), max_size=4),
        st.integers(1, 3),
    )
    def test_what_others_add_is_never_less_than_in_the_network(
        self, service: Any, others: list[tuple[int, float]], phase: int
    ) -> None:
        wiring = "split" if service == "split" else "three"
        if wiring == "split":
            others, phase = [(min(one, 2), va) for one, va in others], 0
        own: Any = {"single": f"L{phase}-N", "three": "three-phase", "split": "L1-L2"}[service]
        all_lines: Any = "L1-L2" if wiring == "split" else "three-phase"
        nominal_v = 120.0 if wiring == "split" else 230.0
        run = NetworkPiece(
            name="run",
            start="source",
            end="board",
            length_m=30.0,
            phase_r_ohm_per_km=1.4,
            phase_x_ohm_per_km=0.0,
            neutral_r_ohm_per_km=1.4,
            neutral_x_ohm_per_km=0.0,
        )
        named = {"node": "board", "over_voltage_trip_v": 300.0}
        inverters = [NetworkInverter(name="own", connection=own, power_w=4600.0, **named)]
        beside = []
        for at, (line, power_w) in enumerate(others):
            connection: Any = f"L{line}-N" if line else all_lines
            inverters.append(
                NetworkInverter(name=f"{at}", connection=connection, power_w=power_w, **named)
            )
            volts = 2 * nominal_v if line == 0 and wiring == "split" else nominal_v
            lines = 3 if line == 0 and wiring == "three" else 1
            beside.append(Beside(phase=line, current_a=power_w / lines / volts))
        flow = phase_flow(
            service=wiring,
            source_v=nominal_v,
            nominal_v=nominal_v,
            pieces=(run,),
            inverters=tuple(inverters),
        )
        own_v = nominal_v * (2 if service == "split" else 1)
        own_a = 4600.0 / own_v / (3 if service == "three" else 1)
        loop_ohm = 30.0 * 1.4 / 1000 * (1 if service == "three" else 2)
        factor = beside_factor(
            service=service,
            own_a=own_a,
            others=tuple(beside),
            phase=phase if service == "single" else 0,
        )
        rise_v = max(flow.inverters[0].rise_own_closed_v)
        self.assertGreaterEqual(factor * own_a * loop_ohm, rise_v - 1e-9)
        if all(line in (0, phase) for line, _ in others):
            self.assertAlmostEqual(factor * own_a * loop_ohm, rise_v)

    def test_what_is_no_network_is_refused(self) -> None:
        case = load(CASES, "phases")[0]
        network = self.network(case)
        pieces, inverters = network["pieces"], network["inverters"]
        loop = (*pieces, replace(pieces[1], name="again", start="inv 2", end="board"))
        apart = (replace(pieces[0], start="nowhere"), *pieces[1:])
        long = (replace(pieces[0], length_m=500, phase_r_ohm_per_km=100), *pieces[1:])
        for spoiled, said in (
            ({"pieces": loop}, "closes a loop"),
            ({"pieces": apart}, "pieces"),
            ({"pieces": long}, "cables over which"),
            ({"inverters": (replace(inverters[0], node="attic"),)}, "inverters[0].node"),
            ({"inverters": ()}, "1 to 60"),
            ({"service": "single"}, "connection"),
        ):
            with self.subTest(said=said), self.assertRaises(Refused) as refused:
                phase_flow(**(network | spoiled))
            self.assertIn(said, str([vars(one) for one in refused.exception.problems]))


class Boards(TestCase):
    SUMS = {
        "protecting_a": "protecting_a",
        "sum_by_breakers_a": "sum_by_breakers_a",
        "sum_by_outputs_a": "sum_by_outputs_a",
        "share_by_breakers_pct": "share_by_breakers_pct",
        "share_by_outputs_pct": "share_by_outputs_pct",
        "by_breakers_pass": "by_breakers",
        "by_outputs_pass": "by_outputs",
        "room_for_sources_a": "room_a",
        "largest_main_by_breakers_a": "largest_main_by_breakers_a",
        "largest_main_by_outputs_a": "largest_main_by_outputs_a",
        "switch_carries_its_protection": "switch_carries",
    }
    SHARES = {
        "sources_x125_a": "sources_a",
        "main_plus_x125_a": "main_plus_sources_a",
        "limit_120_a": "limit_a",
        "sum_rule_pass": "by_sum",
        "rule_120_pass": "by_share",
        "rule_120_on_breakers_pass": "by_share_on_breakers",
        "all_breakers_a": "all_breakers_a",
        "all_breakers_pass": "by_all_breakers",
        "passes_by": "passes_by",
        "largest_main_under_120_a": "largest_main_a",
        "room_under_120_a": "room_a",
    }

    def test_worked_cases(self) -> None:
        sums, shares = load(CASES, "boards")
        ratings = tuple(map(float, sums["inputs"]["main_ratings_a"]))
        found = [board_sums(**row, main_ratings_a=ratings) for row in sums["inputs"]["rows"]]
        for key, name in self.SUMS.items():
            compare(self, sums, key, [getattr(one, name) for one in found])
        mains = tuple(map(float, shares["inputs"]["standard_mains_a"]))
        placed = [board_shares(**row, standard_mains_a=mains) for row in shares["inputs"]["rows"]]
        for key, name in self.SHARES.items():
            compare(self, shares, key, [getattr(one, name) for one in placed])

    def test_three_sources_on_a_hundred_amperes(self) -> None:
        # 63 A main and 20 + 20 A are 103 A, not 83.
        found = board_sums(
            busbar_a=100.0,
            source_breakers_a=(20.0, 20.0),
            source_outputs_a=(16.0, 16.0),
            main_breaker_a=63.0,
        )
        self.assertEqual((found.sum_by_breakers_a, found.by_breakers), (103.0, False))

    def test_nothing_that_protects_is_refused(self) -> None:
        with self.assertRaises(Refused):
            board_sums(
                busbar_a=100.0,
                source_breakers_a=(20.0,),
                source_outputs_a=(16.0,),
                main_switch_a=100.0,
            )


class Batteries(TestCase):
    RUN = {
        "battery_v_min": "v_min",
        "battery_v_nominal": "v_nominal",
        "battery_v_max": "v_max",
        "in_window": "in_window",
        "dc_power_w": "dc_power_w",
        "run_resistance_ohm": "run_ohm",
        "current_simple_at_min_a": "current_simple_at_min_a",
        "current_exact_at_min_a": "current_at_min_a",
        "current_exact_at_nominal_a": "current_at_nominal_a",
        "drop_exact_at_min_v": "drop_at_min_v",
        "drop_exact_at_min_pct": "drop_at_min_pct",
        "drop_exact_at_nominal_v": "drop_at_nominal_v",
        "inverter_v_at_min": "inverter_v_at_min",
        "inverter_stays_above_cutoff": "stays_above_cutoff",
        "loss_at_nominal_w": "loss_at_nominal_w",
        "current_per_string_at_min_a": "current_per_string_at_min_a",
        "unit_current_ok": "unit_current_ok",
        "inverter_current_limit_binds_at_min": "input_limit_binds_at_min",
        "fuse_low_bound_a": "fuse_least_a",
        "fuse_high_bound_a": "fuse_most_a",
        "fuse_a": "fuse_a",
        "prospective_short_circuit_a": "prospective_a",
    }
    GROUP = {
        "current_per_breaker_a": "current_per_breaker_a",
        "breaker_limit_a": "breaker_limit_a",
        "breaker_ok": "breaker_ok",
        "most_units_per_breaker": "most_units",
        "breaker_for_count_a": "breaker_for_count_a",
        "unit_current_per_phase_a": "unit_current_a",
        "unit_current_ok": "unit_current_ok",
        "phases_backed_up": "phases_backed_up",
        "three_phase_loads_that_cannot_run": "cannot_run",
        "load_current_per_phase_all_a": "load_current_a",
        "running_current_per_phase_a": "running_current_a",
        "running_within_controller_limit": "running_in_limit",
        "running_within_units_of_phase": "running_in_units",
        "running_power_w": "running_w",
        "usable_kwh": "usable_kwh",
        "hours_at_running_load": "hours",
    }

    def test_a_bank_on_its_run(self) -> None:
        case = load(CASES, "battery")[0]
        ratings = tuple(map(float, case["inputs"]["fuse_ratings_a"]))
        rows = case["inputs"]["rows"]
        runs = [
            battery_run(
                bank=some(BatteryBank, row),
                input=some(BatteryInput, row),
                cable=some(BatteryCable, row),
                fuse_ratings_a=ratings,
            )
            for row in rows
        ]
        for key, name in self.RUN.items():
            for at, run in enumerate(runs):
                own = case | {"expected": {key: case["expected"][key][at]}}
                compare(self, own, key, getattr(run, name))
        for at, (row, run) in enumerate(zip(rows, runs, strict=True)):
            breaks = battery_breaks(
                prospective_a=run.prospective_a,
                breaking_capacity_a=row["fuse_breaking_capacity_a"],
                fuse_rated_v=row["fuse_rated_v"],
                v_max=run.v_max,
            )
            self.assertEqual(breaks.verdict == "clear", case["expected"]["fuse_breaks_it"][at])

    def test_a_backup_group(self) -> None:
        case = load(CASES, "battery")[1]
        given = case["inputs"]
        breakers = zip(
            given["breakers_a"], given["breaker_phases"], given["units_on_breakers"], strict=True
        )
        found = backup_group(
            breakers=tuple(
                UnitBreaker(breaker_a=amps, phases=phases, units=units)
                for amps, phases, units in breakers
            ),
            unit_current_a=given["unit_current_a"],
            unit_usable_kwh=given["unit_usable_kwh"],
            limit_per_phase_a=given["controller_limit_per_phase_a"],
            loads=tuple(BackedUpLoad(**one) for one in given["backed_up_loads"]),
            unit_standby_w=given["unit_standby_w"],
            nominal_v=given["nominal_l_n_v"],
            breaker_share=given["breaker_share"],
            reserve_share=given["reserve_share"],
            discharge_efficiency=given["discharge_efficiency"],
        )
        for key, name in self.GROUP.items():
            compare(self, case, key, getattr(found, name))

    def test_one_load_starts_while_the_others_run(self) -> None:
        pump = BackedUpLoad(name="pump", phases="L1", power_w=1150.0, inrush=6.0)
        fridge = BackedUpLoad(name="fridge", phases="L1", power_w=230.0, inrush=3.0)
        found = backup_group(
            breakers=(UnitBreaker(breaker_a=40.0, phases="L1", units=2),),
            unit_current_a=16.0,
            unit_usable_kwh=5.0,
            limit_per_phase_a=40.0,
            loads=(pump, fridge),
        )
        # 6 × 5 A beside 1 A of the fridge.
        self.assertAlmostEqual(found.worst_start_a, 31.0)
        with self.assertRaises(Refused):
            battery_run(
                bank=BatteryBank(
                    unit_v_min=44.0,
                    unit_v_nominal=51.0,
                    unit_v_max=57.0,
                    unit_internal_ohm=0.01,
                    unit_max_continuous_a=100.0,
                ),
                input=BatteryInput(
                    inverter_v_min=42.0,
                    inverter_v_max=60.0,
                    inverter_max_dc_a=120.0,
                    inverter_efficiency=0.94,
                    inverter_power_w=5000.0,
                ),
                cable=BatteryCable(one_way_length_m=100.0, r_ohm_per_km=5.0, cable_iz_a=50.0),
            )


Placed = tuple[tuple[float, float], ...]


def every_pairing(
    middles: Placed, reach: float, extension: float | None
) -> Iterator[tuple[int, int, float]]:
    """Units, leads and ways of every way to put modules on units, one after the other."""
    if not middles:
        yield 0, 0, 0.0
        return
    (x, y), rest = middles[0], middles[1:]
    for units, leads, ways in every_pairing(rest, reach, extension):
        yield units + 1, leads, ways
    for at, (other_x, other_y) in enumerate(rest):
        way = (abs(x - other_x) + abs(y - other_y)) / 2
        if way > reach + (extension or 0):
            continue
        for units, leads, ways in every_pairing(rest[:at] + rest[at + 1 :], reach, extension):
            yield units + 1, leads + 2 * (way > reach), ways + 2 * way


class RoofUnits(TestCase):
    def test_worked_cases(self) -> None:
        for case in load(CASES, "unit_pairs"):
            given = case["inputs"]
            modules = tuple(some(RoofModule, one) for one in given["modules"])
            for extension_mm, key in ((None, "without"), (given["extension_mm"], "with")):
                if f"units_least_{key}_extensions" not in case["expected"]:
                    continue
                found = unit_pairs(
                    modules=modules,
                    unit_inputs=given["unit_inputs"],
                    lead_reach_mm=given["lead_reach_mm"],
                    extension_mm=extension_mm,
                )
                common = [list(pair) for pair in found.common]
                compare(self, case, f"units_least_{key}_extensions", found.units)
                compare(self, case, f"idle_inputs_{key}_extensions", found.idle_inputs)
                compare(self, case, f"sum_of_ways_mm_{key}_extensions", found.ways_mm)
                compare(self, case, f"best_plans_{key}_extensions", found.plans)
                compare(self, case, f"pairs_in_every_best_plan_{key}_extensions", common)
                if key == "with":
                    compare(self, case, "extension_leads_with_extensions", found.extensions)
                self.assertEqual(
                    sorted(one for group in found.groups for one in group),
                    sorted(one.id for one in modules),
                )

    @given(
        st.lists(st.tuples(st.integers(0, 4), st.integers(0, 2)), max_size=8, unique=True),
        st.sampled_from((500, 600, 900)),
        st.sampled_from((None, 300)),
    )
    def test_no_other_way_is_better(
        self, cells: list[tuple[int, int]], reach: float, extension: float | None
    ) -> None:
        middles = tuple((column * 1154.0, row * 1742.0) for column, row in cells)
        modules = tuple(
            RoofModule(id=f"M{at}", plane="S", x_mm=x, y_mm=y) for at, (x, y) in enumerate(middles)
        )
        found = unit_pairs(
            modules=modules, unit_inputs=2, lead_reach_mm=reach, extension_mm=extension
        )
        ways = list(every_pairing(middles, reach, extension))
        best = min(ways)
        self.assertEqual((found.units, found.extensions, found.ways_mm), best)
        self.assertEqual(found.plans, ways.count(best))

    def test_a_chimney_among_twenty(self) -> None:
        # Two rows of eleven with a chimney over two of the upper: by hand, ten units.
        cells = [(c, r) for r in (0, 1) for c in range(11) if (c, r) not in ((4, 1), (5, 1))]
        modules = tuple(
            RoofModule(id=f"S{r + 1}.{c + 1}", plane="S", x_mm=c * 1154.0, y_mm=r * 1742.0)
            for c, r in cells
        )
        found = unit_pairs(modules=modules, unit_inputs=2, lead_reach_mm=900.0)
        self.assertEqual((len(modules), found.units, found.idle_inputs), (20, 10, 0))
        # Ten along the lower row with one left over, which takes its neighbour above.
        self.assertEqual(found.ways_mm, 9 * 1154.0 + 1742.0)


class Trunks(TestCase):
    def test_link_by_link(self) -> None:
        case = load(CASES, "trunk_parts")[0]
        given = case["inputs"]
        found = linked_trunk(
            distances_mm=tuple(given["distances_mm"]),
            link_lengths_mm=tuple(given["link_lengths_mm"]),
            joint_mm=given["joint_mm"],
            slack_least_mm=given["slack_least_mm"],
            slack_most_mm=given["slack_most_mm"],
            free_ends=given["trunk_ends_free"],
            spare_connectors=given["connectors_left_without_a_unit"],
        )
        ways = [[len(links), way] for links, way in zip(found.links_mm, found.ways_mm, strict=True)]
        compare(self, case, "distances_that_cannot_be_met", list(found.unmet))
        compare(self, case, "links_and_way_mm_per_distance", ways)
        compare(self, case, "three_way_connectors", found.connectors)
        counts = {str(length): count for length, count in found.by_length}
        compare(self, case, "links_by_length", counts)
        for key in ("joints", "end_caps", "sealing_caps", "links_total_mm"):
            compare(self, case, key, getattr(found, key))
        compare(self, case, "pieces_in_all", found.pieces)

    @given(
        st.lists(st.integers(500, 3600), max_size=3),
        st.tuples(st.integers(0, 3), st.integers(0, 3)),
    )
    def test_out_of_a_stock_no_other_choice_is_better(
        self, distances: list[int], stock: tuple[int, int]
    ) -> None:
        lengths, joint, slack = (600, 1200), 40, 300
        found = linked_trunk(
            distances_mm=tuple(distances),
            link_lengths_mm=lengths,
            joint_mm=joint,
            slack_most_mm=slack,
            stock=stock,
        )
        counts = [(a, b) for a in range(4) for b in range(4)]
        best = min(
            cost
            for chosen in product(counts, repeat=len(distances))
            if (cost := self.cost(distances, chosen, stock)) is not None
        )
        self.assertEqual((len(found.unmet), found.joints, found.links_total_mm), best)

    def cost(
        self, distances: list[int], chosen: tuple[tuple[int, int], ...], stock: tuple[int, int]
    ) -> tuple[int, int, int] | None:
        if any(sum(one[at] for one in chosen) > stock[at] for at in (0, 1)):
            return None
        unmet = joints = length = 0
        for distance, (short, long) in zip(distances, chosen, strict=True):
            if not short + long:
                unmet += 1
                continue
            own = 600 * short + 1200 * long
            if not distance <= own + 40 * (short + long - 1) <= distance + 300:
                return None
            joints, length = joints + short + long - 1, length + own
        return unmet, joints, length

    def test_four_trunks_by_hand(self) -> None:
        for distances, spare, joints, links, pieces in (
            ((), 0, 0, 0, 2),
            ((600,), 0, 0, 1, 4),
            ((1200, 1900), 1, 1, 3, 10),
            ((600, 600, 1800), 0, 1, 4, 10),
        ):
            found = linked_trunk(
                distances_mm=distances,
                link_lengths_mm=(600, 1200),
                slack_most_mm=100,
                joint_mm=100,
                spare_connectors=spare,
            )
            self.assertEqual(
                (found.joints, sum(count for _, count in found.by_length), found.pieces),
                (joints, links, pieces),
                distances,
            )

    def test_marks_that_must_match(self) -> None:
        case = load(CASES, "trunk_parts")[1]
        for one in case["inputs"]["variants"]:
            name = one["name"]
            pieces = tuple(LinkPiece(left=a, right=b) for a, b in one["pieces_left_right"])
            met = marks_met(pieces=pieces)
            compare(self, case, f"meetings_wrong_as_laid_{name}", list(met.wrong))
            turned = None if met.turned is None else len(met.turned)
            compare(self, case, f"least_turned_{name}", turned)
            if met.turned is not None:
                compare(self, case, f"turned_pieces_{name}", list(met.turned))
            self.assertEqual(link_marks(pieces=pieces).verdict, "stop")
        good = (LinkPiece(left="A", right="B"), LinkPiece(left="B", right="A"))
        self.assertEqual(link_marks(pieces=good).verdict, "clear")

    def test_of_fixed_pitch(self) -> None:
        case = load(CASES, "trunk_parts")[2]
        given = case["inputs"]
        names = ("pieces_segments", "cut_lengths_m", "drops", "sealing_caps", "extensions")
        cuts = []
        for one in given["trunks"]:
            cut = trunk_cut(
                distances_m=tuple(one["distances_m"]),
                bridged_by=tuple(one["rule_per_distance"]),
                pitch_m=given["pitch_m"],
                extension_m=given["extension_m"],
                feed=one["feed"],
            )
            cuts.append(cut)
            for name in (*names, "joint_boxes", "end_caps"):
                got = getattr(cut, name)
                compare(self, case, f"{one['name']}_{name}", got)
        compare(self, case, "all_drops", sum(cut.drops for cut in cuts))
        compare(self, case, "all_cable_m", sum(cut.length_m for cut in cuts))
        middle = trunk_cut(
            distances_m=(1.2,) * 4,
            bridged_by=("skip", "skip", "joint", "skip"),
            pitch_m=1.2,
            extension_m=0.9,
            feed="centre",
        )
        # Five units: three on the first side, cut there and at the joint, which is the same link.
        self.assertEqual((middle.pieces_segments, middle.joint_boxes), ((3, 2), 1))


class Rails(TestCase):
    def test_marks_and_hooks(self) -> None:
        case = load(CASES, "rails")[0]
        given = case["inputs"]
        marks = rail_marks(
            modules=given["modules"],
            module_mm=given["module_width_along_row_mm"],
            clamp_gap_mm=given["clamp_gap_mm"],
            rail_end_mm=given["rail_end_mm"],
            end_clamp_half_mm=given["end_clamp_half_mm"],
        )
        compare(self, case, "rail_length_mm", marks.rail_mm)
        edges = [list(one) for one in marks.module_edges_mm]
        self.assertEqual(edges, case["expected"]["module_edges_mm"])
        compare(self, case, "middle_clamps_mm", marks.middle_clamps_mm)
        compare(self, case, "end_clamps_mm", marks.end_clamps_mm)
        found = hook_plan(
            rail_mm=marks.rail_mm,
            rafters_mm=tuple(given["rafter_middles_mm"]),
            cantilever_most_mm=given["cantilever_most_mm"],
            span_most_mm=given["span_most_mm"],
        )
        compare(self, case, "hooks_least", len(found.hooks_mm))
        compare(self, case, "greatest_span_mm", found.greatest_span_mm)
        compare(self, case, "hook_plans_as_good", found.plans)
        compare(self, case, "hook_marks_common_mm", found.common_mm)
        with self.assertRaises(Refused):
            rail_marks(
                modules=1, module_mm=1134.0, clamp_gap_mm=20.0, rail_end_mm=10.0,
                end_clamp_half_mm=15.0,
            )  # fmt: skip

    @given(
        st.sets(st.integers(0, 40), max_size=9),
        st.integers(20, 40),
        st.integers(1, 12),
        st.integers(3, 20),
    )
    def test_no_other_hooks_are_better(
        self, rafters: set[int], rail: int, cantilever: int, span: int
    ) -> None:
        scale = 50.0
        found = hook_plan(
            rail_mm=rail * scale,
            rafters_mm=tuple(one * scale for one in rafters),
            cantilever_most_mm=cantilever * scale,
            span_most_mm=span * scale,
        )
        good = []
        for count in range(1, len(rafters) + 1):
            for hooks in combinations(sorted(rafters), count):
                spans = [b - a for a, b in pairwise(hooks)]
                if (
                    hooks[0] <= cantilever
                    and 0 <= rail - hooks[-1] <= cantilever
                    and max(spans, default=0) <= span
                ):
                    good.append((count, max(spans, default=0), hooks))
        if not good:
            self.assertEqual((found.hooks_mm, found.plans), ((), 0))
            return
        best = [hooks for count, widest, hooks in good if (count, widest) == min(good)[:2]]
        self.assertEqual(found.plans, len(best))
        self.assertIn(tuple(one / scale for one in found.hooks_mm), best)
        common = set(best[0]).intersection(*best)
        self.assertEqual({one / scale for one in found.common_mm}, common)

    def test_cutting(self) -> None:
        case = load(CASES, "rails")[1]
        given = case["inputs"]
        pieces = tuple(map(float, given["pieces_mm"]))
        stock = tuple(map(float, given["stock_mm"]))
        found = cutting_plan(pieces_mm=pieces, stock_mm=stock, kerf_mm=given["kerf_mm"])
        compare(self, case, "bought_mm", found.bought_mm)
        compare(self, case, "bars", len(found.bars))
        by_length = {f"{length:g}": count for length, count in found.by_length.items()}
        compare(self, case, "bars_by_length", by_length)
        compare(self, case, "waste_mm", found.waste_mm)
        whole = cutting_plan(pieces_mm=pieces, stock_mm=stock)
        compare(self, case, "bought_mm_if_kerf_forgotten", whole.bought_mm)
        with self.assertRaises(Refused):
            cutting_plan(pieces_mm=(5000.0,), stock_mm=stock)

    @given(st.lists(st.integers(3, 22), min_size=1, max_size=5), st.integers(0, 2))
    def test_no_other_bars_are_cheaper(self, pieces: list[int], kerf: int) -> None:
        stock = (22, 33)
        found = cutting_plan(
            pieces_mm=tuple(map(float, pieces)), stock_mm=tuple(map(float, stock)), kerf_mm=kerf
        )
        best = math.inf
        for dealt in product(range(len(pieces)), repeat=len(pieces)):
            bought = 0
            for bar in set(dealt):
                own = [one for one, at in zip(pieces, dealt, strict=True) if at == bar]
                needed = sum(own) + kerf * (len(own) - 1)
                bought += min((one for one in stock if one >= needed), default=10**6)
            best = min(best, bought)
        self.assertEqual(found.bought_mm, best)
        for length, taken in found.bars:
            self.assertLessEqual(sum(taken) + kerf * (len(taken) - 1), length)
        self.assertEqual(sorted(one for _, taken in found.bars for one in taken), sorted(pieces))


class Tape(TestCase):
    def test_marks_are_from_each_rails_own_end_and_hooks_are_counted(self) -> None:
        job = micro_job({"P": ("####.###",)})
        plane = replace(job.planes[0], gaps=(), rafter_first_mm=200.0, rafter_pitch_mm=600.0)
        job = replace(job, planes=(plane,))
        rows = assess(job).hang.tape
        self.assertEqual([row.title for row in rows], [
            "row 1, modules 1 to 4", "row 1, modules 6 to 8",
        ])  # fmt: skip
        rules, module_mm = job.rules.load_in, job.module.short_mm
        for row, first in zip(rows, (0, 5), strict=True):
            left = first * (module_mm + rules.clamp_gap.value) - rules.rail_end.value
            self.assertEqual(row.modules_mm[0], rules.rail_end.value)
            for hook in row.hooks_mm:
                # On a rafter: 200 mm and whole pitches from the plane's left edge.
                self.assertAlmostEqual((hook + left - 200) % 600, 0, 6)
            self.assertEqual(row.judgement.verdict, "clear")
        hooks = next(one for one in load_in(job) if one.id == "hooks")
        self.assertEqual(hooks.count, 2 * sum(len(row.hooks_mm) for row in rows))

    def test_rafters_too_far_apart_stop_and_of_unknown_ones_nothing_is_said(self) -> None:
        job = micro_job({"P": ("####",)})
        self.assertIsNone(assess(job).hang.tape[0].judgement)
        far = replace(job.planes[0], rafter_first_mm=900.0, rafter_pitch_mm=2400.0)
        said = assess(replace(job, planes=(far,)))
        self.assertEqual(said.hang.tape[0].judgement.rule_id, "hooks_reach")
        self.assertIn("hooks_reach", {lock.rule_id for lock in said.locks})
