"""Stage 4 of a roof of microinverters: units, branches, trunk, map, gateway, switching on."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import pairwise

from core.assessment.microinverter import (
    RoofGapBox,
    RoofModule,
    RoofPart,
    RoofPlane,
    RoofStage,
    SwapStep,
    UnitState,
)
from core.assessment.whole import Prompt
from core.base.glossary import Mounting
from core.base.judgement import Judgement, waiting
from core.base.messages import figure, say
from core.base.stage_numbers import HANG
from core.base.stage_numbers import STRING as STAGE
from core.base.trace import kept_ready
from core.equipment.micro import Micro
from core.equipment.module import Module
from core.job.job import PACK_PARTS, Job
from core.job.microinverter import phase_a, phase_units
from core.job.reading_kinds import ReadingKind, kinds_of
from core.job.roof import ModulePlace, Plane, place_text
from core.planning.microinverter.linked import linked_goods
from core.planning.microinverter.parts import Roof, TrunkNeeds, roof_of
from core.planning.microinverter.roof_layout import PlaneLayout
from core.planning.microinverter.unit_places import MM_PER_M, layouts
from core.rules.dc.string_voltage import StringVolts, string_volts
from core.rules.microinverter.branch import phase_unbalance
from core.rules.microinverter.unit_fit import (
    UNIT_SOURCE,
    unit_cold,
    unit_current,
    unit_power,
    unit_start,
)
from core.rules.prove.yes_no_steps import Step, step_seen, step_waits
from core.stages.earth.microinverters import unit_methods
from core.stages.making import serials_of, steps_told, unit_steps
from core.stages.microinverter.branches import BranchContext, branch_states, on_gate
from core.stages.microinverter.replacement import PLUGS_IN
from core.stages.microinverter.serial_map import SerialMap, gateway_state, map_state
from core.stages.microinverter.units import unit_states
from core.stages.permissions.grants import Permissions, gate_of
from core.stages.reading_index import Kept, Readings, prompt

ROOFS_KEPT = 32
# What is read of a roof of microinverters, and of the supply that it feeds.
ROOF_KINDS: frozenset[ReadingKind] = frozenset(
    (
        *kinds_of(of="unit"),
        *kinds_of(of="branch"),
        *kinds_of(of="swap_step"),
        *kinds_of(of="module"),
        "units_hung",
        "supply_voltage",
        "listed_count",
    )
)


ROOF_PARTS = (
    "micro",
    "planes",
    "module",
    "site",
    "feed",
    "grid",
    "gateway_reads",
    "inverter",
    "talk",
    *PACK_PARTS,
)


@dataclass(frozen=True, kw_only=True)
class Inputs:
    """What a roof is judged by, and nothing else."""

    job: Job
    readings: Kept
    on: frozenset[str]


def roof_stage(
    job: Job, readings: Readings, on: frozenset[str]
) -> tuple[RoofStage | None, tuple[Prompt, ...]]:
    """Everything that is said of a roof of microinverters; None where there is a wall inverter.

    on: the branches that are ON by the latest word on each.
    """
    if job.micro is None:
        return None, ()
    inputs = Inputs(
        job=job.only(*ROOF_PARTS),
        readings=readings.of_kinds(ROOF_KINDS),
        on=on,
    )
    return _judged(inputs)


@kept_ready(ROOFS_KEPT)
def _judged(of: Inputs) -> tuple[RoofStage, tuple[Prompt, ...]]:
    """One roof with what was read of it; a key pressed elsewhere in the job finds it ready."""
    job, readings, on = of.job, Readings(of.readings), of.on
    plan = job.roof_plan
    roof, on_map = roof_of(job), SerialMap(plan, readings)
    hung = tuple(
        _step_prompt(readings, HANG, "units_hung", plane.name)
        for plane in job.planes
        if any(unit.modules[0].plane == plane.name for unit in plan.units)
    )
    trunk_prompts = {
        branch.name: tuple(
            _step_prompt(readings, STAGE, step, branch.name)
            for step in ("trunk_marks", "drops_sealed")
        )
        for branch in plan.branches
        if branch.units
    }
    units = unit_states(job, roof, on_map, readings, on)
    mapped, gateway = map_state(on_map), gateway_state(job, on_map)
    around = BranchContext(units={unit.name: unit for unit in units}, on=on)
    branches = branch_states(job, readings, roof, around)
    serials = serials_of(job, readings)
    judgements = (*_on_one(job), *_whole(job, roof), *serials.judgements)
    stage = RoofStage(
        line=_line(judgements, roof),
        unit=" + ".join(one.label for one in plan.unit_types),
        trunk=" + ".join(one.label for one in plan.trunk_types),
        planes=tuple(_plane(job, plane) for plane in job.planes),
        units=units,
        free_modules=_free(job),
        branches=branches,
        phase_units=phase_units(plan),
        parts=_parts(roof),
        earth=unit_methods(job, roof),
        unit_steps=steps_told(unit_steps(plan)),
        serials=serials,
        map=mapped,
        gateway=gateway,
        judgements=judgements,
    )
    return stage, (*hung, *(one for asks in trunk_prompts.values() for one in asks))


def opened(stage: RoofStage, grants: Permissions) -> RoofStage:
    """The stage with its gates as the permissions have them: branches ON, leads plugged in."""
    branches = tuple(
        replace(one, on=on_gate(one, grants.gate("ac", f"branch/{one.name}")))
        if one.units
        else replace(one, on=on_gate(one, grants.gate("ac")))
        for one in stage.branches
    )
    units = tuple(
        replace(one, swap=_plugged(one, grants)) if one.swap else one for one in stage.units
    )
    return replace(stage, branches=branches, units=units)


def _plugged(unit: UnitState, grants: Permissions) -> tuple[SwapStep, ...]:
    """The steps of a swap that plug something in wait for that permission too."""
    locks = grants.locks("plug", f"branch/{unit.branch}") if unit.branch else ()
    shut = gate_of(locks)
    return tuple(
        replace(one, gate=shut)
        if locks and one.step in PLUGS_IN and one.gate.verdict == "clear" and not one.done
        else one
        for one in unit.swap
    )


def _step_prompt(readings: Readings, stage: int, step: Step, subject: str) -> Prompt:
    latest = readings.latest(step, subject)
    judgement = step_seen(step=step, sign=latest.sign) if latest else step_waits(step=step)
    return prompt(readings, stage, step, subject, (judgement,))


def _line(judgements: tuple[Judgement, ...], roof: Roof) -> str:
    wrong = [one for one in judgements if one.verdict in ("stop", "waiting")]
    if wrong:
        return wrong[0].reason
    used = [branch for branch in roof.plan.branches if branch.units]
    counts = " + ".join(str(len(branch.units)) for branch in used)
    key = "line" if len(used) > 1 else "line_one"
    return say("branches", key, count=str(len(used)), units=counts)


def _on_one(job: Job) -> tuple[Judgement, ...]:
    """One module of each type on one input of the unit that it meets, once for the whole roof."""
    plan = job.roof_plan
    laid = dict.fromkeys((one.name, one.name) for one in job.planes)
    # A unit is of its first module's plane; its second may lie on another.
    laid |= {(at.plane, one.modules[0].plane): None for one in plan.units for at in one.modules}
    both = ((job.module_on(lies), plan.types_on(of).unit) for lies, of in laid)
    pairs = dict.fromkeys(both) or {(job.module, plan.unit): None}
    return tuple(said for module, unit in pairs for said in _on_input(job, module, unit))


def _on_input(job: Job, module: Module, unit: Micro) -> tuple[Judgement, ...]:
    rules = job.rules
    volts = _module_volts(job, module)
    cold = (
        waiting("unit_cold", "V", UNIT_SOURCE, (say("needs", "cold_factor"),))
        if volts.voc_cold_v is None
        else unit_cold(voc_cold_v=volts.voc_cold_v, max_input_v=unit.max_input_v)
    )
    return (
        cold,
        unit_start(vmp_hot_v=volts.vmp_hot_v, start_v=unit.start_v),
        unit_current(
            isc_a=module.isc_a,
            max_short_circuit_a=unit.max_short_circuit_a,
            factor=rules.current.isc_factor.value,
        ),
        unit_power(module_w=module.pmax_w, max_module_w=unit.max_module_w),
    )


def _module_volts(job: Job, module: Module) -> StringVolts:
    """One module on the coldest morning and, on the hottest mounting, the hottest day."""
    hot = job.rules.hot
    laid = {plane.mounting for plane in job.planes if job.module_on(plane.name) == module}
    # While no plane is entered the closest mounting, the hottest, is reckoned with.
    mountings: set[Mounting] = laid or {"close"}
    rises = {
        "close": hot.rise_close,
        "raised": hot.rise_raised,
        "open": hot.rise_open,
        "in_roof": hot.rise_in_roof,
    }
    return string_volts(
        module=module,
        modules_in_series=1,
        t_air_min_c=job.site.t_air_min_c,
        t_cell_hot_c=job.site.t_air_max_c + max(rises[one].value for one in mountings),
        school=job.rules.cold.school,
        rule_pack=job.rules,
    )


def _whole(job: Job, roof: Roof) -> tuple[Judgement, ...]:
    """Whether every module is under a unit and every unit on a branch; phases; earthing."""
    plan = roof.plan
    free, loose = _free(job), [u.name for u in plan.units if plan.branch_of(u.name) is None]
    found = list[Judgement]()
    if not plan.units:
        found.append(waiting("roof_planned", "", UNIT_SOURCE, ()))
        return tuple(found)
    needs = tuple(
        [say("needs", "unit_for", modules=_shown(free))] * bool(free)
        + [say("needs", "branch_for", units=_shown(tuple(loose)))] * bool(loose)
    )
    if needs:
        found.append(waiting("roof_planned", "", UNIT_SOURCE, needs))
    if plan.three_phase:
        found.append(
            phase_unbalance(
                units=phase_units(plan),
                unit_a=plan.unit.line_a,
                loads_a=phase_a(plan) if plan.types else None,
                rule_pack=job.rules,
            )
        )
    return tuple(found)


def _shown(names: tuple[str, ...]) -> str:
    rest = len(names) - 3
    return ", ".join(names[:3]) + (say("branches", "rest", count=str(rest)) if rest > 0 else "")


def _free(job: Job) -> tuple[str, ...]:
    """Modules that are drawn and under no unit."""
    taken = {place for unit in job.roof_plan.units for place in unit.modules}
    return tuple(
        place_text(place)
        for plane in job.planes
        for row, cells in enumerate(plane.rows, start=1)
        for column in range(1, len(cells) + 1)
        if plane.holds(row, column)
        and (place := ModulePlace(plane=plane.name, row=row, column=column)) not in taken
    )


def _degrees(value: float | None) -> str:
    return say("branches", "not_looked") if value is None else figure(value, "°", 0)


def _plane(job: Job, plane: Plane) -> RoofPlane:
    layout: PlaneLayout | None = layouts(job).get(plane.name)
    facing = say(
        "branches",
        "facing",
        tilt=_degrees(plane.tilt_deg),
        azimuth=_degrees(plane.azimuth_deg),
    )
    if layout is None:
        return RoofPlane(
            name=plane.name, drawn=False, facing=facing, width_mm=0.0, height_mm=0.0,
            module_w_mm=0.0, module_h_mm=0.0, modules=(), rails=(), gaps=(),
        )  # fmt: skip
    on = {
        place: (unit.name, number)
        for unit in job.roof_plan.units
        for number, place in enumerate(unit.modules, start=1)
    }
    return RoofPlane(
        name=plane.name,
        drawn=True,
        facing=facing,
        width_mm=layout.width_mm,
        height_mm=layout.height_mm,
        module_w_mm=layout.module_w_mm,
        module_h_mm=layout.module_h_mm,
        modules=tuple(
            RoofModule(
                row=box.place.row,
                column=box.place.column,
                x_mm=box.x_mm,
                y_mm=box.y_mm,
                unit=on.get(box.place, ("", 0))[0],
                input=on.get(box.place, ("", 0))[1],
            )
            for block in layout.blocks
            for box in block.modules
        ),
        rails=layout.rails,
        gaps=tuple(_gap_boxes(plane, layout)),
    )


def _gap_boxes(plane: Plane, layout: PlaneLayout) -> Iterator[RoofGapBox]:
    """What lies between two unbroken runs of one row."""
    told = {(gap.row, gap.column): gap.what for gap in plane.gaps}
    for block, after in pairwise(layout.blocks):
        if block.row != after.row:
            continue
        last, first = block.modules[-1], after.modules[0]
        left = last.x_mm + layout.module_w_mm
        width = first.x_mm - left
        columns = range(last.place.column + 1, first.place.column)
        what = next((w for c in columns if (w := told.get((block.row, c), ""))), "")
        shown = figure(width / MM_PER_M, "m", 2)
        yield RoofGapBox(x_mm=left, y_mm=last.y_mm, width_mm=width, text=f"{what} {shown}".strip())


TRUNK_PARTS = (
    "segments",
    "connectors",
    "link_joints",
    "sealing_caps",
    "end_caps",
    "extensions",
    "trunk_joints",
)
ROOF_WIDE = ("joint_boxes", "tees", "dc_leads", "capped_inputs")


def _parts(roof: Roof) -> tuple[RoofPart, ...]:
    """The trunk's parts and the DC leads; what this roof does not need is left out."""
    found = [part for needs in roof.parts.trunks for part in _trunk_parts(roof, needs)]
    found += (_part(what, getattr(roof.parts, what)) for what in ROOF_WIDE)
    return (*(one for one in found if one.count is None or one.count > 0), *_linked_parts(roof))


def _trunk_parts(roof: Roof, needs: TrunkNeeds) -> Iterator[RoofPart]:
    """The parts of one type of trunk; of several, each by its name."""
    several = len(roof.parts.trunks) > 1
    for what in TRUNK_PARTS:
        part = _part(what, getattr(needs, what))
        yield replace(part, what=f"{part.what}, {needs.trunk.label}") if several else part


def _linked_parts(roof: Roof) -> Iterator[RoofPart]:
    """Links by their length and what the end cables are made of, where a trunk has links."""
    for needs in roof.parts.trunks:
        for needed in linked_goods(needs.trunk.linked, needs.links, needs.branches):
            yield RoofPart(
                what=needed.what,
                count=needed.needed,
                unit=say("load_in", "pieces"),
                because=needed.by,
            )


def _part(what: str, count: float | None) -> RoofPart:
    return RoofPart(
        what=say("roof_parts", what),
        count=count,
        unit=say("roof_parts", f"{what}_unit"),
        because=say("load_in", "no_branches") if count is None else say("roof_parts", f"{what}_by"),
    )
