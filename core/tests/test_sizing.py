"""Circuits sized by a standard's tables: worked cases, and what must hold whatever the figures."""

from __future__ import annotations

from dataclasses import fields, replace
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.base.errors import Refused
from core.rules.ac.circuit import design_current
from core.rules.ac.sizing import (
    CableSize,
    CircuitSizing,
    EarthGauge,
    GaugeSize,
    GaugeSizing,
    GaugeTables,
    LoopRule,
    circuit_sizing,
    gauge_sizing,
    pv_source_current,
)
from core.tests.cases import compare, load

CASES = load(Path(__file__).parent / "cases", "sizing")


def sized(inputs: dict[str, Any], row: dict[str, Any]) -> CircuitSizing:
    """A row of a case by metric sizes."""
    by = inputs["standard"]
    rise = "single-phase" if row["phases"] == 1 else "three-phase, line to neutral"
    sizes = zip(
        by["sections_mm2"], by["iz_table_a"][row["table"]], by["rise_mv_per_a_m"][rise],
        by["r1_r2_mohm_per_m"], strict=True,
    )  # fmt: skip
    return circuit_sizing(
        power_w=row["power_w"],
        phases=row["phases"],
        power_factor=row["power_factor"],
        u0_v=by["u0_v"],
        ratings_a=tuple(by["breaker_ratings_a"]),
        sizes=tuple(
            CableSize(section_mm2=mm2, iz_a=iz, rise_mv_per_a_m=mv, r1_r2_mohm_per_m=r)
            for mm2, iz, mv, r in sizes
        ),
        air_factor=by["ambient_factor"][row["insulation"]][str(row["ambient_c"])],
        group_factor=by["grouping_factor"][str(row["grouped_circuits"])],
        length_m=row["length_m"],
        rise_limit_pct=by["rise_limit_pct"],
        loop_outside_ohm=row["loop_outside_ohm"],
        loop=LoopRule(
            c_min=by["c_min"],
            trip_times=by["trip_multiples"][row["curve"]],
            hot_factor=by["loop_hot_factor"],
            measured_share=by["measured_share"],
            measured_dead=by.get("measured_without_supply", False),
        ),
    )


def tables_of(by: dict[str, Any]) -> GaugeTables:
    """The tables of a case by gauge."""
    columns = (by["ampacity_cu_a"][name] for name in ("60 C", "75 C", "90 C"))
    return GaugeTables(
        sizes=tuple(
            GaugeSize(
                awg=awg,
                a_60=a,
                a_75=b,
                a_90=c,
                breaker_most_a=by["small_conductor_ocpd_a"].get(awg),
            )
            for awg, a, b, c in zip(by["sizes_awg"], *columns, strict=True)
        ),
        ratings_a=tuple(by["standard_ocpd_a"]),
        earth=tuple(
            EarthGauge(up_to_a=float(up_to), awg=awg)
            for up_to, awg in by["egc_cu_awg_up_to_ocpd_a"].items()
        ),
    )


def gauged(inputs: dict[str, Any], row: dict[str, Any]) -> GaugeSizing:
    """A row of a case by gauge."""
    by = inputs["tables"]
    if "isc_stc_a" in row:
        maximum_a = pv_source_current(isc_a=row["isc_stc_a"], parallel=row["parallel_strings"])
    else:
        maximum_a = design_current(power_w=row["power_w"], voltage_v=row["voltage_v"])
    conductors = row["current_carrying_conductors"]
    adjustment = next(
        value
        for up_to, value in by["adjustment_by_current_carrying_conductors"].items()
        if conductors <= int(up_to)
    )
    return gauge_sizing(
        maximum_a=maximum_a,
        tables=tables_of(by),
        air_factor=by["ambient_factor_90c"][str(row["ambient_c"])],
        adjustment=adjustment,
        terminals=row["terminals"],
    )


class Worked(TestCase):
    def test_every_case_by_every_key(self) -> None:
        for case in CASES:
            inputs = case["inputs"]
            size = sized if "standard" in inputs else gauged
            found = [size(inputs, row) for row in inputs["rows"]]
            for key in case["expected"]:
                got = [getattr(one, key) for one in found]
                if isinstance(case["expected"][key][0], list):
                    for number, values in enumerate(got):
                        row = case["expected"][key][number]
                        compare(self, case | {"expected": {key: row}}, key, values)
                else:
                    compare(self, case, key, got)


LADDER = tuple(
    CableSize(section_mm2=mm2, iz_a=iz, rise_mv_per_a_m=44 / mm2, r1_r2_mohm_per_m=45 / mm2)
    for mm2, iz in ((1.5, 19.5), (2.5, 27), (4, 36), (6, 46), (10, 63), (16, 85))
)
LOOP = LoopRule(c_min=0.95, trip_times=5, measured_share=0.8)


class Holds(TestCase):
    @settings(max_examples=150)
    @given(st.floats(500, 12_000), st.floats(1, 80), st.floats(0.5, 1), st.floats(0.05, 1.5))
    def test_a_chosen_size_keeps_what_a_smaller_one_does_not(
        self, power_w: float, length_m: float, air: float, outside: float
    ) -> None:
        made = circuit_sizing(
            power_w=power_w, ratings_a=(6, 10, 16, 20, 25, 32, 40, 50, 63), sizes=LADDER,
            air_factor=air, length_m=length_m, rise_limit_pct=2, loop_outside_ohm=outside,
            loop=LOOP,
        )  # fmt: skip
        if made.section_mm2 is None or made.breaker_a is None:
            return
        at = [one.section_mm2 for one in LADDER].index(made.section_mm2)
        self.assertGreaterEqual(made.breaker_a + 1e-9, made.design_current_a)
        self.assertGreaterEqual(made.iz_corrected_a_per_section[at] + 1e-9, made.breaker_a)
        self.assertLessEqual(made.rise_v_per_section[at], 0.02 * 230 + 1e-9)
        for less in range(at):
            carries = made.iz_corrected_a_per_section[less] >= made.breaker_a
            lifts = made.rise_v_per_section[less] <= 0.02 * 230
            self.assertFalse(carries and lifts)
        longest = made.longest_run_by_rise_m
        self.assertEqual(longest is not None and longest >= length_m - 1e-9, True)
        if made.loop_passes and made.longest_run_by_loop_m is not None:
            self.assertGreaterEqual(made.longest_run_by_loop_m, length_m - 1e-9)

    def test_where_nothing_fits_there_is_none_and_no_fault(self) -> None:
        made = circuit_sizing(
            power_w=60_000, ratings_a=(16,), sizes=LADDER, length_m=10, rise_limit_pct=1,
            loop_outside_ohm=5, loop=LOOP,
        )  # fmt: skip
        empty = {one.name for one in fields(made) if getattr(made, one.name) is None}
        self.assertLessEqual({"breaker_a", "section_mm2", "largest_loop_ohm"}, empty)
        case = next(one for one in CASES if "tables" in one["inputs"])
        tables = tables_of(case["inputs"]["tables"])
        none = gauge_sizing(maximum_a=900, tables=tables)
        self.assertEqual((none.ocpd_a, none.size_awg, none.egc_awg), (None, None, None))
        with self.assertRaises(Refused) as refused:
            replace(tables, sizes=tables.sizes[::-1])
        self.assertEqual(refused.exception.problems[0].path, "$.sizes[1]")

    def test_a_source_of_more_than_its_conductor_is_not_let_through(self) -> None:
        # 13.95 A at short circuit: 14 AWG bears it bare, and not on a roof with its neighbours.
        tables = tables_of(next(o for o in CASES if "tables" in o["inputs"])["inputs"]["tables"])
        current = pv_source_current(isc_a=13.95)
        cool, hot = (
            gauge_sizing(maximum_a=current, tables=tables, air_factor=air, adjustment=many)
            for air, many in ((1.0, 1.0), (0.71, 0.8))
        )
        self.assertEqual((cool.size_by_terminals_awg, cool.size_by_conditions_awg), ("12", "14"))
        self.assertEqual((hot.size_by_conditions_awg, hot.size_awg), ("10", "10"))
