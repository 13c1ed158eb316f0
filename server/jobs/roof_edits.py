"""Edits of a roof of microinverters, as they are sent: one shape for each, one way to make them."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Field

from core.base.glossary import (
    BranchFeed,
    GapMm,
    GapRule,
    LabelSchool,
    Phase,
    ShiftMm,
    TrunkOrder,
    UnitEarth,
    WayM,
)
from core.edits.fields import typed
from core.edits.microinverter import (
    moved_unit,
    painted_branch,
    set_branch,
    with_branch,
    with_gap,
    with_gateway,
    with_link,
    with_offer,
    with_roof_choices,
    with_unit,
    with_unit_modules,
    without_branch,
    without_unit,
)
from core.equipment.cables_switches_fixings import Breaker
from core.job.job import Job
from core.job.microinverter import GatewayPlan, LinkHow
from core.job.roof import ModulePlace
from server.catalogue.stored import one
from server.jobs.typed import Edit, Entered, typed_value


class ModuleIn(Edit):
    """Where a module of a unit lies."""

    plane: Entered
    row: int
    column: int


ModulesOf = Annotated[list[ModuleIn], Field(max_length=2)]


class TakeBranches(Edit):
    """Units and branches as an offer has them."""

    do: Literal["take_branches"]
    number: int


class AddUnit(Edit):
    """One more unit under these modules."""

    do: Literal["add_unit"]
    modules: ModulesOf


class UnitModules(Edit):
    """A unit under other modules, the first on input 1."""

    do: Literal["unit_modules"]
    name: Entered
    modules: ModulesOf


class RemoveUnit(Edit):
    """A unit out of the plan; what was read of it stays."""

    do: Literal["remove_unit"]
    name: Entered


class MoveUnit(Edit):
    """A unit so far along the row from where it hangs by itself."""

    do: Literal["move_unit"]
    name: Entered
    shift_mm: Entered


class AddBranch(Edit):
    """One more branch, without units."""

    do: Literal["add_branch"]


class RemoveBranch(Edit):
    """A branch out of the plan."""

    do: Literal["remove_branch"]
    name: Entered


class PaintBranch(Edit):
    """A branch painted: its units in walking order from the fed end."""

    do: Literal["paint_branch"]
    name: Entered
    units: Annotated[list[Entered], Field(max_length=400)]


class SetBranch(Edit):
    """How a branch is fed. breaker: of the shelf, "" for none, null for the planned one."""

    do: Literal["set_branch"]
    name: Entered
    phase: Entered
    feed: BranchFeed
    joint: Entered
    lead_m: Entered
    breaker: Entered | None


class SetLink(Edit):
    """The trunk after a unit: measured, or bridged another way."""

    do: Literal["set_link"]
    branch: Entered
    after: Entered
    how: LinkHow | None
    length_m: Entered


class SetGap(Edit):
    """A gap of a row measured; empty: as wide as a module."""

    do: Literal["set_gap"]
    plane: Entered
    row: int
    column: int
    width_mm: Entered
    what: Entered = ""


class SetRoof(Edit):
    """The schools by which the roof is done."""

    do: Literal["set_roof"]
    gaps: GapRule
    earth: UnitEarth | None
    order: TrunkOrder
    label: LabelSchool
    three_phase: bool


class SetGateway(Edit):
    """Where the gateway answers."""

    do: Literal["set_gateway"]
    host: Entered
    port: Entered


RoofEdit = (
    TakeBranches
    | AddUnit
    | UnitModules
    | RemoveUnit
    | MoveUnit
    | AddBranch
    | RemoveBranch
    | PaintBranch
    | SetBranch
    | SetLink
    | SetGap
    | SetRoof
    | SetGateway
)


def roofed(job: Job, edit: RoofEdit) -> Job:
    """The job with its roof of microinverters edited. Raises Refused."""
    match edit:
        case TakeBranches():
            return with_offer(job, edit.number)
        case AddUnit():
            return with_unit(job, _places(edit.modules))
        case UnitModules():
            return with_unit_modules(job, edit.name, _places(edit.modules))
        case RemoveUnit():
            return without_unit(job, edit.name)
        case MoveUnit():
            return moved_unit(job, edit.name, typed(ShiftMm, edit.shift_mm, "$.shift_mm"))
        case AddBranch():
            return with_branch(job)
        case RemoveBranch():
            return without_branch(job, edit.name)
        case PaintBranch():
            return painted_branch(job, edit.name, tuple(edit.units))
        case SetBranch():
            return _set(job, edit)
        case SetLink():
            length_m = typed(WayM | None, edit.length_m, "$.length_m")
            return with_link(job, edit.branch, edit.after, edit.how, length_m)
        case _:
            return _chosen(job, edit)


def _chosen(job: Job, edit: SetGap | SetRoof | SetGateway) -> Job:
    match edit:
        case SetGap():
            width_mm = typed(GapMm | None, edit.width_mm, "$.width_mm")
            return with_gap(job, edit.plane, edit.row, edit.column, width_mm, edit.what)
        case SetRoof():
            return with_roof_choices(
                job,
                gaps=edit.gaps,
                earth=edit.earth,
                order=edit.order,
                label=edit.label,
                three_phase=edit.three_phase,
            )
        case SetGateway():
            return with_gateway(job, typed_value(GatewayPlan, edit))


def _places(modules: list[ModuleIn]) -> tuple[ModulePlace, ...]:
    return tuple(ModulePlace(plane=m.plane, row=m.row, column=m.column) for m in modules)


def _set(job: Job, edit: SetBranch) -> Job:
    planned = next((b.breaker for b in job.roof_plan.branches if b.name == edit.name), None)
    breaker = planned if edit.breaker is None else None
    if edit.breaker:
        breaker = one("breakers", edit.breaker, Breaker, "$.breaker")
    return set_branch(
        job,
        edit.name,
        phase=typed(Phase, edit.phase, "$.phase"),
        feed=edit.feed,
        joint=edit.joint.strip() or None,
        lead_m=typed(WayM | None, edit.lead_m, "$.lead_m"),
        breaker=breaker,
    )
