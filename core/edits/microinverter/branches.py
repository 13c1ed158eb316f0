"""Changing the branches of a roof and their trunks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.glossary import (
    BranchFeed,
    Phase,
    WayM,
)
from core.base.quantity import Items
from core.edits.edit import MOST_SPOKEN, Catalogue, Edit, Entered, picked
from core.edits.fields import typed
from core.edits.microinverter.whole import known_branch, known_unit, with_micro
from core.equipment.cables_switches_fixings import Breaker
from core.job.job import Job
from core.job.microinverter import (
    Branch,
    LinkHow,
    TrunkLink,
    phase_units,
)


@dataclass(frozen=True, kw_only=True)
class AddBranch(Edit):
    """One more branch, without units."""

    do: Literal["add_branch"] = "add_branch"

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_branch(job)


@dataclass(frozen=True, kw_only=True)
class RemoveBranch(Edit):
    """A branch out of the plan."""

    do: Literal["remove_branch"] = "remove_branch"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_branch(job, self.name)


@dataclass(frozen=True, kw_only=True)
class PaintBranch(Edit):
    """A branch painted: its units in walking order from the fed end."""

    do: Literal["paint_branch"] = "paint_branch"
    name: Entered
    units: Annotated[tuple[Entered, ...], Items("units", 0, 400)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return painted_branch(job, self.name, self.units)


@dataclass(frozen=True, kw_only=True)
class SetBranch(Edit):
    """How a branch is fed. breaker: of the shelf, "" for none, null for the planned one."""

    do: Literal["set_branch"] = "set_branch"
    name: Entered
    phase: Entered
    feed: BranchFeed
    joint: Entered
    lead_m: Entered
    breaker: Entered | None

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        planned = next((b.breaker for b in job.roof_plan.branches if b.name == self.name), None)
        return set_branch(
            job,
            self.name,
            phase=typed(Phase, self.phase, "$.phase"),
            feed=self.feed,
            joint=self.joint.strip() or None,
            lead_m=typed(WayM | None, self.lead_m, "$.lead_m"),
            breaker=picked(catalogue, "breakers", self.breaker, Breaker, planned),
        )


@dataclass(frozen=True, kw_only=True)
class SetLink(Edit):
    """The trunk after a unit: measured, or bridged another way."""

    do: Literal["set_link"] = "set_link"
    branch: Entered
    after: Entered
    how: LinkHow | None
    length_m: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        length_m = typed(WayM | None, self.length_m, "$.length_m")
        return with_link(job, self.branch, self.after, self.how, length_m)


def painted_branch(job: Job, name: str, units: tuple[str, ...]) -> Job:
    """The job with a branch painted: its units in walking order.

    A unit that another branch had goes over to this one, and to its phase. Raises Refused for a
    unit that there is not.
    """
    plan = job.roof_plan
    known_branch(job, name)
    for unit in units:
        known_unit(job, unit)
    taken = frozenset(units)
    branches = tuple(
        _linked(branch, units)
        if branch.name == name
        else _linked(branch, tuple(unit for unit in branch.units if unit not in taken))
        for branch in plan.branches
    )
    return with_micro(job, replace(plan, branches=branches))


def _linked(branch: Branch, units: tuple[str, ...]) -> Branch:
    """A branch with other units; ways measured between two that stay so are kept."""
    was, now = dict(pairwise(branch.units)), dict(pairwise(units))
    links = tuple(one for one in branch.links if now.get(one.after) == was.get(one.after))
    return replace(branch, units=units, links=links)


def with_branch(job: Job) -> Job:
    """The job with one more branch, on the phase that has least."""
    plan = job.roof_plan
    taken = {branch.name for branch in plan.branches} | set(job.retired)
    name = next(f"B{n}" for n in range(1, 1000) if f"B{n}" not in taken)
    loads = phase_units(plan)
    phase = loads.index(min(loads)) + 1 if plan.three_phase else 0
    added = Branch(name=name, phase=phase)
    return with_micro(job, replace(plan, branches=(*plan.branches, added)))


def without_branch(job: Job, name: str) -> Job:
    """The job without a branch; its units are then on none."""
    known_branch(job, name)
    branches = tuple(one for one in job.roof_plan.branches if one.name != name)
    return with_micro(job, replace(job.roof_plan, branches=branches))


def set_branch(
    job: Job,
    name: str,
    *,
    phase: int,
    feed: BranchFeed,
    joint: str | None,
    lead_m: float | None,
    breaker: Breaker | None,
) -> Job:
    """The job with a branch fed another way: phase, feed, box, breaker."""
    known_branch(job, name)
    return _with_branch(
        job,
        name,
        lambda one: replace(
            one, phase=phase, feed=feed, joint=joint, lead_m=lead_m, breaker=breaker
        ),
    )


def with_link(job: Job, name: str, after: str, how: LinkHow | None, length_m: float | None) -> Job:
    """The job with the trunk after a unit measured, or bridged another way.

    Raises Refused for a unit that has none after it.
    """
    known_branch(job, name)
    branch = next(one for one in job.roof_plan.branches if one.name == name)
    if after not in branch.units[:-1]:
        allowed = " · ".join(branch.units[:-1][:MOST_SPOKEN]) or "a branch of several units"
        raise Refused([problem("$.after", after, allowed)])
    link = TrunkLink(after=after, how=how, length_m=length_m)
    others = tuple(one for one in branch.links if one.after != after)
    kept = others if link == TrunkLink(after=after) else (*others, link)
    return _with_branch(job, name, lambda one: replace(one, links=kept))


def _with_branch(job: Job, name: str, make: Callable[[Branch], Branch]) -> Job:
    branches = tuple(make(one) if one.name == name else one for one in job.roof_plan.branches)
    return with_micro(job, replace(job.roof_plan, branches=branches))


BranchEdit = AddBranch | RemoveBranch | PaintBranch | SetBranch | SetLink
