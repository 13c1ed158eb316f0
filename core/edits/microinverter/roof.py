"""Changing what holds for a whole roof of microinverters: methods, gaps, gateway."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from core.base.glossary import (
    GapMm,
    GapRule,
    LabelMethod,
    TrunkOrder,
    UnitEarth,
)
from core.edits.edit import Catalogue, Edit, Entered, known
from core.edits.fields import typed, typed_value
from core.job.job import Job
from core.job.microinverter import (
    GatewayPlan,
)
from core.job.roof import RowGap


@dataclass(frozen=True, kw_only=True)
class SetGap(Edit):
    """A gap of a row measured; empty: as wide as a module."""

    do: Literal["set_gap"] = "set_gap"
    plane: Entered
    row: int
    column: int
    width_mm: Entered
    what: Entered = ""

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        width_mm = typed(GapMm | None, self.width_mm, "$.width_mm")
        return with_gap(job, self.plane, self.row, self.column, width_mm, self.what)


@dataclass(frozen=True, kw_only=True)
class SetRoof(Edit):
    """The schools by which the roof is done."""

    do: Literal["set_roof"] = "set_roof"
    gaps: GapRule
    earth: UnitEarth | None
    order: TrunkOrder
    label: LabelMethod
    three_phase: bool

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_roof_choices(
            job,
            gaps=self.gaps,
            earth=self.earth,
            order=self.order,
            label=self.label,
            three_phase=self.three_phase,
        )


@dataclass(frozen=True, kw_only=True)
class SetGateway(Edit):
    """Where the gateway answers."""

    do: Literal["set_gateway"] = "set_gateway"
    host: Entered
    port: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_gateway(job, typed_value(GatewayPlan, self))


def with_roof_choices(
    job: Job,
    *,
    gaps: GapRule,
    earth: UnitEarth | None,
    order: TrunkOrder,
    label: LabelMethod,
    three_phase: bool,
) -> Job:
    """The job with its roof done by other schools.

    Over three phases each branch takes the next one; back on one, none.
    """
    plan = job.roof_plan
    branches = plan.branches
    if three_phase != plan.three_phase:
        branches = tuple(
            replace(branch, phase=at % 3 + 1 if three_phase else 0)
            for at, branch in enumerate(branches)
        )
    made = replace(
        plan,
        gaps=gaps,
        earth=earth,
        order=order,
        label=label,
        three_phase=three_phase,
        branches=branches,
    )
    return replace(job, micro=made)


def with_gateway(job: Job, gateway: GatewayPlan) -> Job:
    """The job with its gateway at another address."""
    return replace(job, micro=replace(job.roof_plan, gateway=gateway))


def with_gap(
    job: Job, name: str, row: int, column: int, width_mm: float | None, what: str = ""
) -> Job:
    """The job with a gap of a row measured, or back to a module's width.

    Raises Refused where there is no gap.
    """
    known("$.name", name, [plane.name for plane in job.planes])
    plane = job.plane(name)
    others = tuple(gap for gap in plane.gaps if (gap.row, gap.column) != (row, column))
    if width_mm is not None:
        others = (*others, RowGap(row=row, column=column, width_mm=width_mm, what=what))
    made = replace(plane, gaps=others)
    return replace(job, planes=tuple(made if one.name == name else one for one in job.planes))


RoofEdit = SetGap | SetRoof | SetGateway
