"""Several types of unit and trunk on one roof: each judged as if it were the roof's only one."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.base.errors import Refused
from core.base.form import read, write
from core.base.judgement import worst
from core.edits.every import read_edit
from core.edits.microinverter.branches import painted_branch
from core.edits.microinverter.units import with_offer
from core.edits.planes import shaped, without_plane
from core.equipment.catalogue import SHIPPED
from core.files.job import read_job, write_job
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.microinverter import MicroUnit, phase_a, phase_units
from core.planning.goods.load_list import load_in
from core.planning.microinverter.branches import branch_offers
from core.tests.samples import micro_job

ROWS = {"East": ("########",), "West": ("######", "####")}
DUO, LONG = "skerrow-tern-duo-800", "skerrow-trunk-205"
ONE_EACH = {"of_one": micro_job(ROWS), "of_two": micro_job(ROWS, unit=DUO, trunk=LONG)}


def edited(job: Job, **edit: Any) -> Job:
    return read_edit(edit).apply(job, SHIPPED)


def on_plane(job: Job, plane: str, kind: str, sheet: str | None) -> Job:
    return edited(job, do="take_sheet", kind=kind, id=sheet, plane=plane)


def two_types(*, three_phase: bool = False) -> Job:
    """West on units with two inputs and a trunk of a wider pitch, proposed anew."""
    job = on_plane(on_plane(micro_job(ROWS), "West", "micros", DUO), "West", "trunks", LONG)
    job = replace(job, micro=replace(job.roof_plan, branches=(), three_phase=three_phase))
    return with_offer(job, 0)


MIXED = two_types()


class EachPlaneAlone(TestCase):
    def test_a_branch_is_judged_as_on_a_roof_of_its_types_alone(self) -> None:
        stage = assess(MIXED).roof
        alone = {name: assess(job).roof for name, job in ONE_EACH.items()}
        for branch in stage.branches:
            first = next(one for one in stage.units if one.name == branch.units[0])
            like = alone["of_one" if first.plane == "East" else "of_two"]
            rules = {one.rule_id: one for one in branch.judgements}
            for other in like.branches:
                if len(other.units) == len(branch.units):
                    self.assertEqual(branch.current_a, other.current_a)
                    self.assertEqual(branch.most, other.most)
                    for one in other.judgements:
                        if one.rule_id in ("branch_count", "branch_trunk"):
                            self.assertEqual(rules[one.rule_id], one)
                    break
            else:
                self.fail("no branch of that size stands on the roof of that type alone")

    def test_by_hand_what_is_needed(self) -> None:
        # East: 8 modules on 8 units, 8 drops at 1.3 m. West: 6 and 4 on 3 and 2 units of 2 inputs.
        self.assertEqual(len(MIXED.roof_plan.units), 8 + 3 + 2)
        self.assertEqual(MIXED.source.rated_ac_w, 8 * 400 + 5 * 800)
        self.assertEqual(MIXED.source.model, "8 × Tern 400 + 5 × Tern Duo 800")
        lines = load_in(MIXED)
        self.assertEqual(len(lines), len({one.id for one in lines}))
        counts = {one.what: one.count for one in lines}
        self.assertEqual(counts["Skerrow Tern 400"], 8)
        self.assertEqual(counts["Skerrow Tern Duo 800"], 5)
        # A branch of each type: each has its end caps by itself.
        ends = {what: count for what, count in counts.items() if what.startswith("End caps")}
        self.assertEqual(sorted(ends.values()), [1, 1])
        self.assertEqual(read_job(write_job(MIXED).encode()), stamped(MIXED))

    def test_phases_carry_the_current_of_what_hangs_on_them(self) -> None:
        job = two_types(three_phase=True)
        plan = job.roof_plan
        by_hand = [0.0, 0.0, 0.0]
        for branch in plan.branches:
            for name in branch.units:
                # By the sheets: 1.75 A of a Tern 400, 3.48 A of a Duo.
                inputs = len(plan.unit_named(name).modules)
                by_hand[branch.phase - 1] += 1.75 if inputs == 1 else 3.48
        for had, wanted in zip(phase_a(plan), by_hand, strict=True):
            self.assertAlmostEqual(had, wanted)
        self.assertEqual(sum(phase_units(plan)), 13)
        (told,) = [o for o in assess(job).roof.judgements if o.rule_id == "phase_unbalance"]
        self.assertAlmostEqual(told.value or 0.0, max(by_hand) - min(by_hand))

    @settings(max_examples=15, deadline=None)
    @given(st.integers(1, 14), st.integers(1, 14), st.booleans())
    def test_no_branch_of_a_proposal_holds_two_types(
        self, east: int, west: int, three: bool
    ) -> None:
        job = micro_job({"East": ("#" * east,), "West": ("#" * west,)})
        job = on_plane(job, "West", "micros", DUO)
        job = replace(job, micro=replace(job.roof_plan, branches=(), three_phase=three))
        for number in range(len(branch_offers(job).offers)):
            made = with_offer(job, number)
            for branch in assess(made).roof.branches:
                (told,) = [o for o in branch.judgements if o.rule_id == "branch_one_type"]
                self.assertEqual(told.verdict, "clear")


class Wrong(TestCase):
    def test_two_types_on_one_branch_are_stopped(self) -> None:
        names = tuple(one.name for one in MIXED.roof_plan.units)
        job = painted_branch(MIXED, "B1", (names[0], names[-1]))
        (branch,) = [one for one in assess(job).roof.branches if one.name == "B1"]
        (told,) = [one for one in branch.judgements if one.rule_id == "branch_one_type"]
        self.assertEqual(told.verdict, "stop")
        self.assertEqual(branch.on.verdict, "stop")

    def test_a_unit_that_reaches_to_another_plane_is_judged_with_the_module_there(self) -> None:
        job = MIXED
        weak = replace(job.module, id="weak", pmax_w=300.0)
        strong = replace(job.module, id="strong", pmax_w=500.0)
        planes = tuple(
            replace(one, module=strong if one.name == "East" else weak) for one in job.planes
        )
        plan = job.roof_plan
        west, own = plan.types_on("West"), plan.unit
        types = (replace(plan.types[0], unit=replace(west.unit, max_module_w=400.0)),)
        plan = replace(plan, unit=replace(own, max_module_w=600.0), types=types)
        lone = next(one for one in plan.units if one.modules[0].plane == "West")
        east = next(one for one in plan.units if one.modules[0].plane == "East")
        others = tuple(one for one in plan.units if one not in (lone, east))

        def worst_power(units: tuple[MicroUnit, ...]) -> str:
            made = replace(job, planes=planes, micro=replace(plan, units=units))
            said = assess(made).roof.judgements
            return worst(one.verdict for one in said if one.rule_id == "unit_power")

        self.assertEqual(worst_power((*others, lone, east)), "clear")
        reaching = replace(lone, modules=(lone.modules[0], east.modules[0]))
        branches = tuple(
            replace(one, units=tuple(name for name in one.units if name != east.name))
            for one in plan.branches
        )
        plan = replace(plan, branches=branches)
        self.assertEqual(worst_power((*others, reaching)), "watch")

    def test_sheets_of_one_name_count_each_by_its_own_current(self) -> None:
        plan = MIXED.roof_plan
        unit = replace(plan.types[0].unit, id=plan.unit.id)
        alike = replace(plan, types=(replace(plan.types[0], unit=unit),))
        self.assertEqual(phase_a(alike), phase_a(plan))

    def test_a_type_for_another_supply_is_refused_with_its_path(self) -> None:
        with self.assertRaises(Refused) as caught:
            on_plane(micro_job(ROWS), "West", "micros", "skerrow-tern-380-s")
        self.assertIn("types[0].unit", caught.exception.problems[0].path)
        job = write(MIXED)
        job["micro"]["types"].append(job["micro"]["types"][0])
        with self.assertRaises(Refused):
            read(Job, job, "$")

    def test_one_input_less_keeps_the_first_module_and_back_again_leaves_no_trace(self) -> None:
        job = on_plane(MIXED, "West", "micros", None)
        self.assertTrue(all(len(one.modules) == 1 for one in job.roof_plan.units))
        job = on_plane(job, "West", "trunks", None)
        self.assertEqual(job.roof_plan.types, ())

    def test_a_plane_that_goes_takes_its_types_along(self) -> None:
        job = without_plane(shaped(MIXED, "West", ()), "West")
        self.assertEqual(job.roof_plan.types, ())

    def test_what_came_instead_of_one_type_leaves_the_other(self) -> None:
        job = edited(
            MIXED, do="substitute", kind="trunks", was=MIXED.roof_plan.types[0].trunk.label,
            id="skerrow-trunk-130",
        )  # fmt: skip
        self.assertEqual([one.id for one in job.roof_plan.trunk_types], ["skerrow-trunk-130"])
        self.assertEqual(job.roof_plan.types[0].unit, MIXED.roof_plan.types[0].unit)
