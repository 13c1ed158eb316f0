"""The units of a roof one by one: place, leads, serial, cover, and the steps of a swap."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from core.assessment.common import Gate
from core.assessment.microinverter import DcLead, UnitState
from core.base.judgement import Judgement, Verdict, waiting, worst
from core.base.messages import say
from core.equipment.micro import Micro
from core.job.job import Job
from core.job.microinverter import MicroUnit
from core.job.reading_kinds import ReadingKind
from core.job.roof import ModulePlace, place_text
from core.planning.microinverter.parts import Roof, extended
from core.planning.microinverter.unit_places import MM_PER_M, UnitPlace
from core.rules.microinverter.trunk import lead_reach
from core.rules.microinverter.unit_fit import UNIT_SOURCE, unit_covered, unit_under_modules
from core.stages.feed.context import deciding
from core.stages.making import made_piece, unit_steps
from core.stages.microinverter.replacement import swap_steps
from core.stages.microinverter.serial_map import SerialMap, last_list, walk
from core.stages.reading_index import Readings


def unit_states(
    job: Job, roof: Roof, serials: SerialMap, readings: Readings, on: frozenset[str]
) -> tuple[UnitState, ...]:
    """Every unit in walking order: where it hangs, its leads, its serial, whether it is covered."""
    plan, listed = roof.plan, last_list(job)
    context = _Walk(
        roof=roof,
        serials=serials,
        readings=readings,
        on=on,
        steps=unit_steps(plan),
        reporting={one.serial: one.reporting for one in listed.units} if listed else {},
        far=extended(plan, roof.places),
        number={
            name: at for branch in plan.branches for at, name in enumerate(branch.units, start=1)
        },
        branch_of={name: branch.name for branch in plan.branches for name in branch.units},
    )
    by_name = {unit.name: unit for unit in plan.units}
    return tuple(_unit_state(context, by_name[name]) for name in walk(plan))


@dataclass(frozen=True, kw_only=True)
class _Walk:
    """What is known of all units while each is looked at. on: branches that are ON."""

    roof: Roof
    serials: SerialMap
    readings: Readings
    on: frozenset[str]
    steps: tuple[ReadingKind, ...]
    reporting: Mapping[str, bool]
    far: Mapping[str, tuple[int, ...]]
    number: Mapping[str, int]
    branch_of: Mapping[str, str]


def _unit_state(of: _Walk, unit: MicroUnit) -> UnitState:
    name, plan, place = unit.name, of.roof.plan, of.roof.places.get(unit.name)
    serial, branch, on_map = (
        of.serials.serial(name),
        of.branch_of.get(name, ""),
        of.serials.judged(name),
    )
    covered_at = of.readings.latest("unit_covered", name)
    covered = covered_at is not None and covered_at.is_good
    leads = _leads(unit.modules, place, of.far.get(name, ()))
    judgements = (
        *_hung(plan.sheet_of(unit), name, place, leads),
        *((unit_covered(unit=name, serial_kept=bool(serial)),) if covered else ()),
    )
    line, _ = deciding((*on_map, *judgements), say("branches", "unit_clear"))
    return UnitState(
        name=name,
        plane=unit.modules[0].plane,
        row=unit.modules[0].row,
        x_mm=place.x_mm if place else None,
        y_mm=place.y_mm if place else None,
        auto_x_mm=place.auto_x_mm if place else None,
        modules=tuple(place_text(one) for one in unit.modules),
        leads=leads,
        capped=len(unit.modules) < plan.sheet_of(unit).inputs,
        branch=branch,
        number=of.number.get(name, 0),
        serial=serial,
        serial_verdict=worst(one.verdict for one in on_map),
        serial_line=deciding(on_map, serial)[0],
        serials=of.readings.history("unit_serial", name),
        covered=covered,
        cover=_cover(name, on_map, covered),
        reporting=of.reporting.get(serial) if serial else None,
        judgements=judgements,
        verdict=worst(("clear", *(one.verdict for one in judgements))),
        line=line,
        made=made_piece(of.readings, name, name, of.steps),
        swap=swap_steps(of.readings, name, plan.sheet_of(unit).wait_min, branch, branch in of.on),
    )


def _cover(name: str, on_map: tuple[Judgement, ...], covered: bool) -> Gate:
    """Nothing covers a unit before its serial is on the map, alone and well formed."""
    if not on_map:
        verdict: Verdict = "stop" if covered else "waiting"
        return Gate(verdict=verdict, line=say("cover", "stop" if covered else "waits", unit=name))
    verdict = worst(one.verdict for one in on_map)
    if verdict == "stop":
        reason = next(one.reason for one in on_map if one.verdict == "stop")
        return Gate(verdict="stop", line=say("cover", "wrong", unit=name, reason=reason))
    return Gate(verdict="clear", line=say("cover", "done" if covered else "now", unit=name))


def _leads(
    modules: tuple[ModulePlace, ...], place: UnitPlace | None, far: tuple[int, ...]
) -> tuple[DcLead, ...]:
    if place is None:
        return ()
    return tuple(
        DcLead(
            module=place_text(module),
            input=number,
            distance_m=way_m,
            extension=number in far,
        )
        for number, (module, way_m) in enumerate(zip(modules, place.module_m, strict=True), start=1)
    )


def _hung(
    sheet: Micro, name: str, place: UnitPlace | None, leads: tuple[DcLead, ...]
) -> tuple[Judgement, ...]:
    """Whether a unit hangs under modules, and every lead reaches."""
    if place is None:
        needs = (say("needs", "drawn_plane"),)
        return (waiting("unit_under_modules", "", UNIT_SOURCE, needs),)
    furthest = max(leads, key=lambda one: one.distance_m)
    return (
        unit_under_modules(unit=name, covered=place.covered),
        lead_reach(
            furthest_m=furthest.distance_m,
            reach_m=sheet.lead_reach_mm / MM_PER_M,
            extension_m=sheet.dc_lead_m,
            module=furthest.module,
        ),
    )
