"""Changing a roof of microinverters: units, branches, trunk, the boxes that they come down to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from itertools import pairwise

from core.base.errors import Refused, problem
from core.base.glossary import BranchFeed, GapRule, LabelSchool, TrunkOrder, UnitEarth
from core.base.messages import say
from core.edits.planes_and_strings import on_the_roof, retired
from core.equipment.cables_switches_fixings import Breaker
from core.job.feed import FeedDevice, FeedPlan
from core.job.job import Job
from core.job.microinverter import (
    SWAP_STEPS,
    Branch,
    GatewayPlan,
    LinkHow,
    MicroPlan,
    MicroUnit,
    TrunkLink,
    phase_units,
    swap_key,
    with_units,
)
from core.job.roof import ModulePlace, RowGap
from core.planning.microinverter.branches import branch_offers, branches_of
from core.planning.microinverter.unit_places import unit_names

MOST_SPOKEN = 12


def with_offer(job: Job, number: int) -> Job:
    """The job with units and branches as an offer has them, counted from 0.

    Raises Refused when there is no such offer.
    """
    found = branch_offers(job)
    if not 0 <= number < len(found.offers):
        count = len(found.offers)
        said = "There is nothing to propose yet: draw the modules first." if not count else ""
        allowed = f"0 to {count - 1}" if count else "a roof with modules"
        raise Refused([problem("$.number", number, allowed, said or None)])
    offer = found.offers[number]
    branches = branches_of(job.roof_plan, offer.branches, offer.phases)
    return _with_micro(job, replace(job.roof_plan, units=found.units, branches=branches))


def with_unit(job: Job, modules: tuple[ModulePlace, ...]) -> Job:
    """The job with one more unit under these modules. Raises Refused where one has a unit."""
    on_the_roof(job, modules)
    plan = job.roof_plan
    taken = {unit.name for unit in plan.units} | set(job.retired)
    unit = MicroUnit(name=next(unit_names(taken)), modules=modules)
    return _with_micro(job, replace(plan, units=(*plan.units, unit)))


def with_unit_modules(job: Job, name: str, modules: tuple[ModulePlace, ...]) -> Job:
    """The job with a unit under other modules, the first on input 1.

    A module that another unit had goes over to this one; a unit that is left without one goes.
    Raises Refused for no module at all.
    """
    known_unit(job, name)
    on_the_roof(job, modules)
    if not modules:
        said = f"{name} would have no module: take the unit out instead."
        raise Refused([problem("$.modules", 0, "1 or 2 modules", said)])
    taken = frozenset(modules)
    made = []
    for unit in job.roof_plan.units:
        own = tuple(place for place in unit.modules if place not in taken)
        if unit.name == name:
            made.append(replace(unit, modules=modules, shift_mm=0.0))
        elif own == unit.modules:
            made.append(unit)
        elif own:
            made.append(replace(unit, modules=own, shift_mm=0.0))
    return _with_micro(job, with_units(job.roof_plan, tuple(made)))


def without_unit(job: Job, name: str) -> Job:
    """The job without a unit; its serial and all that was read of it stay."""
    known_unit(job, name)
    plan = job.roof_plan
    units = tuple(unit for unit in plan.units if unit.name != name)
    return _with_micro(job, with_units(plan, units))


def moved_unit(job: Job, name: str, shift_mm: float) -> Job:
    """The job with a unit so far from its place along the row."""
    known_unit(job, name)
    plan = job.roof_plan
    units = tuple(
        replace(unit, shift_mm=shift_mm) if unit.name == name else unit for unit in plan.units
    )
    return replace(job, micro=replace(plan, units=units))


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
    return _with_micro(job, replace(plan, branches=branches))


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
    return _with_micro(job, replace(plan, branches=(*plan.branches, added)))


def without_branch(job: Job, name: str) -> Job:
    """The job without a branch; its units are then on none."""
    known_branch(job, name)
    branches = tuple(one for one in job.roof_plan.branches if one.name != name)
    return _with_micro(job, replace(job.roof_plan, branches=branches))


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


def with_roof_choices(
    job: Job,
    *,
    gaps: GapRule,
    earth: UnitEarth | None,
    order: TrunkOrder,
    label: LabelSchool,
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
    _known("$.name", name, [plane.name for plane in job.planes])
    plane = job.plane(name)
    others = tuple(gap for gap in plane.gaps if (gap.row, gap.column) != (row, column))
    if width_mm is not None:
        others = (*others, RowGap(row=row, column=column, width_mm=width_mm, what=what))
    made = replace(plane, gaps=others)
    return replace(job, planes=tuple(made if one.name == name else one for one in job.planes))


def known_unit(job: Job, name: str) -> None:
    """Refuses a unit that there is not."""
    names = [unit.name for unit in job.roof_plan.units]
    _known("$.unit", name, names)


def known_branch(job: Job, name: str) -> None:
    """Refuses a branch that there is not."""
    _known("$.branch", name, [branch.name for branch in job.roof_plan.branches])


def _known(path: str, name: str, names: list[str]) -> None:
    if name not in names:
        shown = " · ".join(names[:MOST_SPOKEN]) + (" …" if len(names) > MOST_SPOKEN else "")
        raise Refused([problem(path, name, shown or "none is planned yet")])


def _with_branch(job: Job, name: str, make: Callable[[Branch], Branch]) -> Job:
    branches = tuple(make(one) if one.name == name else one for one in job.roof_plan.branches)
    return _with_micro(job, replace(job.roof_plan, branches=branches))


def _with_micro(job: Job, plan: MicroPlan) -> Job:
    """The job with another roof: every branch with units has its box, what was read stays."""
    feed, branches = job.feed, []
    for branch in plan.branches:
        if branch.joint is None and branch.units:
            feed, box = _with_box(feed, branch.name)
            branches.append(replace(branch, joint=box))
        else:
            branches.append(branch)
    made = replace(plan, branches=tuple(branches))
    gone = _read_of(job.roof_plan) - _read_of(made)
    return replace(job, micro=made, feed=feed, retired=retired(job, gone))


def _with_box(feed: FeedPlan, branch: str) -> tuple[FeedPlan, str]:
    """The feed with a joint box for a branch; one of that name that stands there already serves."""
    name = say("branches", "box", name=branch)
    if any(one.name == name for one in feed.devices):
        return feed, name
    box = FeedDevice(name=name, kind="joint", outdoors=True)
    return replace(feed, devices=(*feed.devices, box)), name


def _read_of(plan: MicroPlan) -> frozenset[str]:
    units = [unit.name for unit in plan.units]
    steps = (swap_key(unit, step) for unit in units for step in SWAP_STEPS)
    return frozenset((*units, *(branch.name for branch in plan.branches), *steps))
