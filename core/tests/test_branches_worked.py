"""Branches of microinverters against worked cases: sums and counts found by other routes."""

from __future__ import annotations

import cmath
from dataclasses import replace
from itertools import pairwise
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.base.glossary import GapRule
from core.job.job import Job
from core.job.microinverter import Branch, MicroPlan, TrunkLink
from core.job.roof import GAP_CELL, MODULE_CELL, Plane, RowGap
from core.planning.microinverter.branches import branches_of
from core.planning.microinverter.roof_layout import plane_layout
from core.planning.microinverter.trunk import trunk_plan, trunk_totals
from core.planning.microinverter.unit_places import UnitPlace, layouts, proposed_units, unit_places
from core.rules.ac.conductors import ac_resistance
from core.rules.microinverter.branch import branch_most, branch_rise
from core.rules.microinverter.trunk import trunk_parts, units_dealt
from core.tests.cases import Case, compare, load
from core.tests.samples import micro_job, wired_roof

CASES = Path(__file__).parent / "cases"
MM = 1000.0


def run_inputs(inputs: dict[str, Any]) -> dict[str, float]:
    return {
        "nominal_v": inputs["nominal_voltage_v"],
        "spacing_m": inputs["trunk_spacing_m"],
        "trunk_ohm_per_m": inputs["trunk_r_ohm_per_m_one_conductor"],
        "lead_in_m": inputs["trunk_lead_in_m"],
        "home_run_m": inputs["home_run_length_m"],
        "home_run_ohm_per_m": inputs["home_run_r_ohm_per_m_one_conductor"],
    }


def case_roof(inputs: dict[str, Any]) -> tuple[MicroPlan, dict[str, UnitPlace], list[float]]:
    """A case's rows as a drawn plane: its plan, where its units hang, how far they are apart."""
    rows, gaps = [], []
    for number, row in enumerate(inputs["rows"], start=1):
        rows.append(GAP_CELL.join(MODULE_CELL * count for count in row["blocks_modules"]))
        columns = [at for at, cell in enumerate(rows[-1], start=1) if cell == GAP_CELL]
        gaps += [
            RowGap(row=number, column=column, width_mm=gap_m * MM)
            for column, gap_m in zip(columns, row["gaps_between_blocks_m"], strict=True)
        ]
    plane = Plane(name="P", tilt_deg=30, azimuth_deg=180, rows=tuple(rows), gaps=tuple(gaps))
    base = micro_job({"P": tuple(rows)})
    seed = base.roof_plan
    plan = replace(
        seed,
        unit=replace(seed.unit, inputs=inputs["modules_per_unit"], most_on_branch=60),
        trunk=replace(
            seed.trunk, pitch_m=inputs["trunk_pitch_m"], extension_m=inputs["extension_length_m"]
        ),
        gaps=inputs["gap_rule"],
        units=(),
        branches=(),
    )
    job = replace(base, planes=(plane,), micro=plan)
    plan = replace(plan, units=proposed_units(job, plan))
    module = replace(job.module, short_mm=inputs["module_width_along_row_m"] * MM)
    layout = plane_layout(plane, module, inputs["clamp_gap_m"] * MM, 60.0)
    assert layout is not None
    places = unit_places(plan, {"P": layout})
    jumps = iter(inputs["row_jump_cable_distance_m"])
    distances, links = [], []
    for one, other in pairwise(plan.units):
        here, there = places[one.name], places[other.name]
        is_jump = here.row != there.row
        distances.append(next(jumps) if is_jump else abs(there.x_mm - here.x_mm) / MM)
        links.append(TrunkLink(after=one.name, length_m=distances[-1] if is_jump else None))
    whole = Branch(name="B0", units=tuple(u.name for u in plan.units), links=tuple(links))
    return replace(plan, branches=(whole,)), places, distances


class WorkedCases(TestCase):
    def test_rise_of_a_branch_fed_at_its_end_and_in_its_middle(self) -> None:
        for case in load(CASES, "branches"):
            if "units" in case["inputs"]:
                self.check_rise(case)

    def check_rise(self, case: Case) -> None:
        inputs = case["inputs"]
        rise = branch_rise(
            units=inputs["units"], unit_a=inputs["unit_current_a"], **run_inputs(inputs)
        )
        limit = inputs["rise_limit_pct"]
        for key, got in (
            ("branch_current_a", rise.branch_a),
            ("home_run_rise_v", rise.home_run_v),
            ("trunk_rise_end_fed_v", rise.trunk_end_v),
            ("total_rise_end_fed_v", rise.total_end_v),
            ("total_rise_end_fed_pct", rise.total_end_pct),
            ("trunk_rise_if_n_full_segments_v", rise.trunk_full_v),
            ("trunk_rise_centre_fed_longer_side_v", rise.centre_long_v),
            ("trunk_rise_centre_fed_shorter_side_v", rise.centre_short_v),
            ("total_rise_centre_fed_v", rise.total_centre_v),
            ("total_rise_centre_fed_pct", rise.total_centre_pct),
            ("within_limit_end_fed", rise.total_end_pct <= limit),
            ("within_limit_centre_fed", rise.total_centre_pct <= limit),
        ):
            compare(self, case, key, got)

    def test_most_units_by_each_limit_and_which_binds(self) -> None:
        for case in load(CASES, "branches"):
            if "breaker_a" in case["inputs"]:
                self.check_most(case)

    def check_most(self, case: Case) -> None:
        inputs = case["inputs"]
        unit_a = inputs["unit_max_va"] / inputs["nominal_voltage_v"]
        compare(self, case, "unit_current_a", unit_a)
        names = {"maker": "declared"}
        rules = ((0.8, "80pct", "max_by_80pct_rule"), (1.0, "plain", "max_by_plain_in_ge_ib"))
        for share, rule, plain in rules:
            for feed, fed in (("end", "end_fed"), ("centre", "centre_fed")):
                most = branch_most(
                    unit_a=unit_a,
                    breaker_a=inputs["breaker_a"],
                    share=share,
                    maker_most=inputs["declared_max_units_per_branch"],
                    rise_limit_pct=inputs["rise_limit_pct_total"],
                    feed=feed,
                    **run_inputs(inputs),
                )
                binding = "+".join(sorted(names.get(one, one) for one in most.binding))
                compare(self, case, plain, most.by_breaker)
                compare(self, case, f"max_by_rise_{fed}", most.by_rise)
                compare(self, case, f"max_units_{rule}_{fed}", most.most)
                compare(self, case, f"binding_{rule}_{fed}", binding)

    def test_trunk_parts_of_a_drawn_roof(self) -> None:
        for case in load(CASES, "branches"):
            if "rows" in case["inputs"]:
                self.check_parts(case)

    def check_parts(self, case: Case) -> None:
        inputs = case["inputs"]
        plan, places, distances = case_roof(inputs)
        compare(self, case, "modules", sum(len(unit.modules) for unit in plan.units))
        compare(self, case, "units", len(plan.units))
        compare(self, case, "unit_distances_m", distances)
        dealt = units_dealt(units=len(plan.units), most=inputs["max_units_per_branch"])
        compare(self, case, "branches", len(dealt))
        compare(self, case, "units_per_branch", list(dealt))
        names, split = [unit.name for unit in plan.units], []
        for count in dealt:
            split.append(tuple(names[:count]))
            names = names[count:]
        branches = branches_of(plan, tuple(split), (0,) * len(split))
        branches = tuple(replace(one, feed=inputs["feed"]) for one in branches)
        trunks = tuple(trunk_plan(plan, branch, places) for branch in branches)
        total = trunk_totals(trunks)
        compare(self, case, "trunk_segments_total", total["segments"])
        compare(self, case, "sealing_caps_total", total["sealing_caps"])
        compare(self, case, "extensions_total", total["extensions"])
        compare(self, case, "end_caps_total", total["end_caps"])
        self.assertEqual(sum(cut.drops for one in trunks for cut in one.cuts), total["segments"])


def walked(distances: list[float], pitch: float, extension: float, rule: str) -> tuple[int, ...]:
    """Parts counted by walking the cable connector by connector, as hands do it."""
    segments, caps, extensions = 1, 0, 0
    for distance in distances:
        segments, laid = segments + 1, pitch
        while distance - laid > 1e-9:
            if rule == "skip":
                segments, caps, laid = segments + 1, caps + 1, laid + pitch
            else:
                extensions, laid = extensions + 1, laid + extension
    return segments, caps, extensions


class OtherRoutes(TestCase):
    @given(
        distances=st.lists(st.floats(min_value=0.1, max_value=9.0), max_size=20),
        pitch=st.sampled_from((1.0, 1.3, 2.05)),
        extension=st.sampled_from((1.5, 3.0)),
        rule=st.sampled_from(("skip", "extension")),
    )
    def test_parts_as_counted_connector_by_connector(
        self, distances: list[float], pitch: float, extension: float, rule: GapRule
    ) -> None:
        parts = trunk_parts(
            distances_m=tuple(distances), pitch_m=pitch, extension_m=extension, gap_rule=rule
        )
        found = (parts.segments, parts.sealing_caps, parts.extensions)
        self.assertEqual(found, walked(distances, pitch, extension, rule))

    def test_whole_pitches_are_met_exactly_and_five_centimetres_more_are_not(self) -> None:
        for pitches in range(1, 30):
            whole = trunk_parts(distances_m=(pitches * 1.3,), pitch_m=1.3, extension_m=3.0)
            self.assertEqual(whole.segments, pitches + 1)
            short = trunk_parts(distances_m=(pitches * 1.3 + 0.05,), pitch_m=1.3, extension_m=3.0)
            self.assertEqual(short.segments, pitches + 2)

    @given(
        units=st.integers(min_value=1, max_value=16),
        amps=st.floats(min_value=0.5, max_value=4.0),
        pitch=st.floats(min_value=0.8, max_value=2.5),
        lead=st.floats(min_value=0.1, max_value=3.0),
    )
    def test_the_rise_is_that_of_every_piece_with_the_current_it_carries(
        self, units: int, amps: float, pitch: float, lead: float
    ) -> None:
        rise = branch_rise(
            units=units, unit_a=amps, nominal_v=230, spacing_m=pitch, trunk_ohm_per_m=0.0064,
            lead_in_m=lead, home_run_m=20, home_run_ohm_per_m=0.0041,
        )  # fmt: skip
        # Node by node from the box outward, each piece twice (out and back).
        volts, currents = 0.0, [amps * (units - at) for at in range(units)]
        for at, current in enumerate(currents):
            volts += 2 * 0.0064 * (lead if at == 0 else pitch) * current
        self.assertAlmostEqual(rise.trunk_end_v, volts, places=9)
        self.assertLessEqual(rise.centre_short_v, rise.centre_long_v)
        self.assertAlmostEqual(rise.home_run_v, 2 * 20 * 0.0041 * units * amps, places=9)

    @given(
        units=st.integers(min_value=0, max_value=400), most=st.integers(min_value=1, max_value=60)
    )
    def test_units_are_dealt_alike_over_the_fewest_branches(self, units: int, most: int) -> None:
        dealt = units_dealt(units=units, most=most)
        self.assertEqual(sum(dealt), units)
        self.assertEqual(len(dealt), -(-units // most))
        self.assertLessEqual(max(dealt, default=0), most)
        self.assertLessEqual(max(dealt, default=0) - min(dealt, default=0), 1)
        self.assertEqual(list(dealt), sorted(dealt, reverse=True))

    def test_the_ladder_stands_where_every_unit_as_a_constant_power_puts_it(self) -> None:
        for phases in (1, 3):
            job = wired_roof(three_phase=phases == 3)
            stage = assess(job).roof
            assert stage is not None
            for state in stage.branches:
                exact_v = swept(job, state.name)
                assert state.last_v is not None
                # Lumped at the last unit's volts: below, by less than 2 % of the rise.
                rise = exact_v - 240.0
                self.assertAlmostEqual(state.last_v, exact_v, delta=0.02 * rise)


def swept(job: Job, branch: str) -> float:
    """Volts of a branch's last unit by sweeping the whole network unit by unit, phasors and all."""
    plan = job.roof_plan
    rules = job.rules
    turn = [cmath.exp(-2j * cmath.pi * k / 3) for k in range(3)]
    ohm = {
        run.name: run.length_m / 1000 * complex(ac_resistance(
            section_mm2=run.section_mm2, conductor_c=rules.ac.conductor_temp.value,
            strands=run.strands, material=run.material, rule_pack=rules,
        ), rules.ac.reactance.value)
        for run in job.feed.runs
    }  # fmt: skip
    shared = sum(ohm[run.name] for run in job.feed.chain.runs)
    places = unit_places(plan, layouts(job))
    trunks = {one.name: trunk_plan(plan, one, places) for one in plan.branches}
    volts = {u.name: 240.0 * turn[max(plan.branch_of(u.name).phase - 1, 0)] for u in plan.units}  # type: ignore[union-attr]
    for _ in range(30):
        current = {name: (plan.unit.max_va / v).conjugate() for name, v in volts.items()}
        phases = [0j, 0j, 0j]
        for one in plan.branches:
            phases[max(one.phase - 1, 0)] += sum(current[name] for name in one.units)
        for one in plan.branches:
            k = max(one.phase - 1, 0)
            at = 240.0 * turn[k] + shared * (phases[k] + sum(phases))
            whole = sum(current[name] for name in one.units)
            home = next(run for run in job.feed.runs if run.end == one.joint)
            at += 2 * ohm[home.name] * whole
            pieces = [
                plan.trunk.lead_in_m,
                *(link.cable_m or 0.0 for link in trunks[one.name].links),
            ]
            for number, name in enumerate(one.units):
                beyond = sum(current[other] for other in one.units[number:])
                at += 2 * plan.trunk.r_ohm_per_m * pieces[number] * beyond
                volts[name] = at
    last = next(one for one in plan.branches if one.name == branch).units[-1]
    return abs(volts[last])
