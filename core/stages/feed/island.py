"""The house on its own: what runs, for how long, what the start of it draws, what parts a fault."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from core.base.judgement import Judgement, waiting
from core.base.messages import figure, say
from core.job.feed import BackupPlan, BatteryPlan, LoadGroup
from core.job.job import Job
from core.rules.ac.backup_group import (
    GROUP_SOURCE,
    LINES,
    BackedUpLoad,
    BackupGroup,
    BackupPhases,
    UnitBreaker,
    backup_group,
    backup_hours,
    backup_start,
)
from core.rules.ac.island import (
    controller_listed,
    controller_phases,
    island_from_battery,
    island_neutral,
    island_reached,
    island_residual,
)

ALL: BackupPhases = "three-phase"


class Island(NamedTuple):
    """The house on its own, in words and judged. lasts_h: None where no sheet says what is kept."""

    line: str
    lasts_h: float | None
    judgements: tuple[Judgement, ...]


def island(job: Job, plan: BackupPlan) -> Island:
    """What works without the supply, and whether it is safe."""
    group = _group(job, plan)
    unit = plan.controller
    judgements = (
        *_controller(job, plan),
        island_neutral(link=plan.neutral_link, unit_links=unit.links_neutral if unit else None),
        island_residual(residual=plan.residual),
        *(_carried(plan, group) if group else _unknown(plan)),
    )
    lasts_h = group.hours if group and group.running_w else None
    return Island(_line(plan, group, lasts_h), lasts_h, judgements)


def _controller(job: Job, plan: BackupPlan) -> Iterator[Judgement]:
    unit = plan.controller
    if unit is None:
        return
    yield controller_phases(three_phase=plan.three_phase, unit_phases=unit.phases)
    models = [one.model for one in unit.works_with]
    yield controller_listed(listed=not models or job.source.model in models)


def _carried(plan: BackupPlan, group: BackupGroup) -> Iterator[Judgement]:
    unit = plan.controller
    if group.running_w:
        limit_a = (unit.start_a or unit.rated_a) if unit else plan.limit_a
        yield backup_start(start_a=group.worst_start_a, limit_a=limit_a)
    for line, running_a, carried_a in zip(
        LINES, group.running_current_a, group.unit_current_a, strict=True
    ):
        if running_a:
            phase = line if plan.three_phase else "L"
            yield island_from_battery(current_a=running_a, limit_a=carried_a, phase=phase)
    yield island_reached(dark=", ".join(_dark(plan, group)))
    if plan.wanted_h is not None and group.hours is not None:
        yield backup_hours(hours=group.hours, wanted_h=plan.wanted_h)


def _unknown(plan: BackupPlan) -> Iterator[Judgement]:
    """What was asked of the house on its own waits while no sheet says what the battery gives."""
    needs = (say("needs", "battery_sheet"),)
    if any(one.backed_up and one.inrush > 1 for one in plan.loads):
        yield waiting("backup_start", "A", GROUP_SOURCE, needs)
    if plan.wanted_h is not None:
        yield waiting("backup_hours", "h", GROUP_SOURCE, needs)


def _dark(plan: BackupPlan, group: BackupGroup) -> list[str]:
    """Loads to be backed up that hang where no battery feeds."""
    fed = set(group.phases_backed_up)
    return [
        one.name
        for one in plan.loads
        if one.backed_up and not set(_lines(_phases(plan, one.phase))) <= fed
    ]


def _lines(phases: BackupPhases) -> tuple[str, ...]:
    return LINES if phases == ALL else (phases,)


def _phases(plan: BackupPlan, phase: int) -> BackupPhases:
    if not plan.three_phase:
        return "L1"
    named: dict[int, BackupPhases] = {0: ALL, 1: "L1", 2: "L2", 3: "L3"}
    return named[phase]


def _group(job: Job, plan: BackupPlan) -> BackupGroup | None:
    """The loads on the battery, by its sheet; None where there is none, or no input for it."""
    battery = plan.battery
    sheet = battery.sheet if battery else None
    unit_a = _unit_a(job, plan, battery) if battery else None
    if battery is None or sheet is None or unit_a is None:
        return None
    nominal_v = job.source.nominal_v
    port = job.inverter.battery if job.inverter else None
    return backup_group(
        breakers=(
            UnitBreaker(
                breaker_a=battery.breaker_a,
                phases=_phases(plan, battery.phase),
                units=battery.units,
            ),
        ),
        unit_current_a=unit_a,
        unit_usable_kwh=sheet.usable_kwh,
        limit_per_phase_a=plan.most_a,
        loads=tuple(_load(plan, one, nominal_v) for one in plan.loads if one.backed_up),
        unit_standby_w=sheet.standby_w,
        nominal_v=nominal_v,
        discharge_efficiency=port.efficiency if port and sheet.coupling == "dc" else 1.0,
    )


def _load(plan: BackupPlan, one: LoadGroup, nominal_v: float) -> BackedUpLoad:
    phases = _phases(plan, one.phase)
    power_w = len(_lines(phases)) * one.current_a * nominal_v
    return BackedUpLoad(name=one.name, phases=phases, power_w=power_w, inrush=one.inrush)


def _unit_a(job: Job, plan: BackupPlan, battery: BatteryPlan) -> float | None:
    """What one unit gives on each phase of the AC side; on an input, by way of the inverter."""
    sheet = battery.sheet
    if sheet is None or sheet.coupling == "ac":
        return sheet.max_a if sheet else None
    port = job.inverter.battery if job.inverter else None
    if port is None or sheet.unit_v_min is None:
        return None
    # At its lowest voltage it gives the least.
    from_cells_w = min(port.max_a, battery.units * sheet.max_a) * sheet.unit_v_min * port.efficiency
    phases = len(_lines(_phases(plan, battery.phase)))
    given_w = min(port.max_w, from_cells_w, job.source.rated_ac_w)
    return given_w / (phases * job.source.nominal_v * battery.units)


def _line(plan: BackupPlan, group: BackupGroup | None, lasts_h: float | None) -> str:
    """What works without the supply and what does not, in a sentence."""
    if not plan.loads:
        return ""
    dark = set(_dark(plan, group)) if group else set()
    works = [one.name for one in plan.loads if one.backed_up and one.name not in dark]
    off = [one.name for one in plan.loads if one.name not in works]
    nothing = say("ways", "nothing")
    said = say("island", "works", works=", ".join(works) or nothing, off=", ".join(off) or nothing)
    if group is None or lasts_h is None:
        return said
    hours, power = figure(lasts_h, "h"), figure(group.running_w, "W", 0)
    return f"{said} {say('island', 'lasts', hours=hours, power=power)}"
