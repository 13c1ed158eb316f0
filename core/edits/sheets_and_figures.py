"""Changing what a job is judged by: its sheets, its rule pack, figures replaced for it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from core.base.errors import Refused, problem
from core.base.messages import say
from core.edits.edit import Catalogue, Edit, Entered, ReasonEntered, known
from core.equipment.catalogue import SHEETS
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.equipment.sheet import Sheet
from core.figures.overrides import Override, OwnPack, effective_pack, typed_override
from core.job.job import Job
from core.job.microinverter import MicroPlan, MicroUnit, PlaneTypes


@dataclass(frozen=True, kw_only=True)
class TakeSheet(Edit):
    """A sheet from the shelf; id None takes the optimisers out.

    plane: on which a module, unit or trunk is of another type than the job's; with id None it is of
    the job's own type again.
    """

    do: Literal["take_sheet"] = "take_sheet"
    kind: Literal["modules", "inverters", "optimisers", "micros", "trunks"]
    id: Entered | None
    plane: Entered = ""

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        if self.plane:
            known("$.plane", self.plane, [one.name for one in job.planes])
            if self.kind not in ("modules", "micros", "trunks"):
                allowed = "modules, micros or trunks, on a plane"
                raise Refused([problem("$.kind", self.kind, allowed)])
        if self.id is not None:
            sheet = catalogue.one(self.kind, self.id, SHEETS[self.kind], f"$.{self.kind}")
            return with_sheet(job, sheet, self.plane)
        if self.plane and self.kind == "modules":
            return _laid(job, self.plane, None)
        if self.plane:
            plan = job.roof_plan
            return with_sheet(job, plan.unit if self.kind == "micros" else plan.trunk, self.plane)
        if self.kind == "optimisers":
            return with_sheet(job, None)
        raise Refused([problem("$.id", "none", "a sheet: only optimisers may be left out")])


@dataclass(frozen=True, kw_only=True)
class TellVariant(Edit):
    """Which variant of its family the inverter is, by the name on its plate; empty: not said."""

    do: Literal["tell_variant"] = "tell_variant"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        if self.name:
            names = [one.name for one in job.wall_inverter.variants]
            known("$.name", self.name, names, none=say("strings", "no_variant"))
        return replace(job, variant=self.name)


@dataclass(frozen=True, kw_only=True)
class TakePack(Edit):
    """A rule pack, shipped or the crew's own."""

    do: Literal["take_pack"] = "take_pack"
    id: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_pack(job, self.id, catalogue.own_pack(self.id))


@dataclass(frozen=True, kw_only=True)
class ReplaceFigure(Edit):
    """A figure or school of the pack replaced for this job, and why."""

    do: Literal["replace_figure"] = "replace_figure"
    path: Entered
    entered: Entered
    reason: ReasonEntered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        made = typed_override(job.rules, self.path, self.entered, self.reason, "$")
        return with_override(job, made)


@dataclass(frozen=True, kw_only=True)
class RestoreFigure(Edit):
    """The pack's own figure again."""

    do: Literal["restore_figure"] = "restore_figure"
    path: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_override(job, self.path)


def with_sheet(job: Job, sheet: Sheet | None, plane: str = "") -> Job:
    """The job with another sheet of a module, inverter or optimiser; None: without optimisers.

    plane: on which alone a module lies. Strings on trackers that the inverter has not move to its
    last. Raises Refused for a kind that a job does not hold.
    """
    match sheet:
        case None:
            return replace(job, optimiser=None)
        case Module() if plane:
            return _laid(job, plane, sheet)
        case Module():
            return replace(job, module=sheet)
        case Optimiser():
            return replace(job, optimiser=sheet)
        case Micro() | Trunk() if job.micro is not None and plane:
            return replace(job, micro=with_plane_sheet(job.micro, plane, sheet))
        case Micro() | Trunk() if job.micro is not None:
            return with_roof_sheet(job, job.micro, sheet)
        case Inverter() if job.inverter is not None:
            last = len(sheet.trackers)
            strings = tuple(replace(s, tracker=min(s.tracker, last)) for s in job.strings)
            told = job.variant if sheet.variant(job.variant) else ""
            return replace(job, inverter=sheet, variant=told, strings=strings)
    raise Refused([problem("$.sheet", sheet.label, "a sheet of a kind that this job holds")])


def _laid(job: Job, plane: str, module: Module | None) -> Job:
    """The job with one plane's modules of that type; None, or the job's own: as everywhere."""
    laid = None if module == job.module else module
    planes = tuple(replace(one, module=laid) if one.name == plane else one for one in job.planes)
    return replace(job, planes=planes)


def with_roof_sheet(job: Job, plan: MicroPlan, sheet: Micro | Trunk) -> Job:
    """The job with another unit or trunk; a unit with one input keeps the first module of two."""
    if isinstance(sheet, Trunk):
        return replace(job, micro=replace(plan, trunk=sheet))
    typed = {one.plane for one in plan.types if one.unit is not None}
    units = tuple(_with_inputs(one, sheet, one.modules[0].plane not in typed) for one in plan.units)
    return replace(job, micro=replace(plan, unit=sheet, units=units))


def with_plane_sheet(plan: MicroPlan, plane: str, sheet: Micro | Trunk) -> MicroPlan:
    """The roof with another unit or trunk on one plane; the roof's own: as everywhere."""
    was = next((one for one in plan.types if one.plane == plane), PlaneTypes(plane=plane))
    if isinstance(sheet, Trunk):
        now = replace(was, trunk=None if sheet == plan.trunk else sheet)
        units = plan.units
    else:
        now = replace(was, unit=None if sheet == plan.unit else sheet)
        units = tuple(_with_inputs(one, sheet, one.modules[0].plane == plane) for one in plan.units)
    others = tuple(one for one in plan.types if one.plane != plane)
    types = others if now == PlaneTypes(plane=plane) else (*others, now)
    return replace(plan, units=units, types=types)


def _with_inputs(unit: MicroUnit, sheet: Micro, is_of_it: bool) -> MicroUnit:
    """A unit with as many of its modules as that sheet has inputs."""
    return replace(unit, modules=unit.modules[: sheet.inputs]) if is_of_it else unit


def with_pack(job: Job, pack_id: str, own: OwnPack | None) -> Job:
    """The job judged by another rule pack; figures replaced for the job stay replaced.

    Raises Refused for one whose edition does not count on the day of the job: it keeps its own.
    """
    rules = effective_pack(pack_id, own, ())
    if not rules.counts_on(job.day):
        first, last = (
            "" if one is None else one.isoformat()
            for one in (rules.counts_from, rules.counts_until)
        )
        said = f"{rules.edition} does not count on {job.day.isoformat()}: {first} to {last}."
        allowed = "an edition that counts on the day of the job"
        raise Refused([problem("$.id", pack_id, allowed, said)])
    return replace(job, rule_pack=pack_id, own_pack=own)


def with_override(job: Job, override: Override) -> Job:
    """The job with one figure of its pack replaced; an earlier one of the same figure goes."""
    return replace(job, overrides=(*_others(job, override.path), override))


def without_override(job: Job, path: str) -> Job:
    """The job with the pack's own figure again."""
    return replace(job, overrides=_others(job, path))


def _others(job: Job, path: str) -> tuple[Override, ...]:
    return tuple(one for one in job.overrides if one.path != path)


FigureEdit = TakeSheet | TellVariant | TakePack | ReplaceFigure | RestoreFigure
