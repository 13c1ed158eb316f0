"""Changing the units on a roof of microinverters."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.glossary import (
    ShiftMm,
)
from core.base.quantity import Items
from core.edits.edit import Catalogue, Edit, Entered
from core.edits.fields import typed
from core.edits.microinverter.whole import known_unit, with_micro
from core.edits.strings import on_the_roof
from core.job.job import Job
from core.job.microinverter import (
    MicroUnit,
    with_units,
)
from core.job.roof import ModulePlace
from core.planning.microinverter.branches import branch_offers, branches_of
from core.planning.microinverter.unit_places import unit_names


@dataclass(frozen=True, kw_only=True)
class TakeBranches(Edit):
    """Units and branches as an offer has them."""

    do: Literal["take_branches"] = "take_branches"
    number: int

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_offer(job, self.number)


@dataclass(frozen=True, kw_only=True)
class AddUnit(Edit):
    """One more unit under these modules."""

    do: Literal["add_unit"] = "add_unit"
    modules: Annotated[tuple[ModulePlace, ...], Items("modules", 0, 2)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_unit(job, self.modules)


@dataclass(frozen=True, kw_only=True)
class UnitModules(Edit):
    """A unit under other modules, the first on input 1."""

    do: Literal["unit_modules"] = "unit_modules"
    name: Entered
    modules: Annotated[tuple[ModulePlace, ...], Items("modules", 0, 2)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_unit_modules(job, self.name, self.modules)


@dataclass(frozen=True, kw_only=True)
class RemoveUnit(Edit):
    """A unit out of the plan; what was read of it stays."""

    do: Literal["remove_unit"] = "remove_unit"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_unit(job, self.name)


@dataclass(frozen=True, kw_only=True)
class MoveUnit(Edit):
    """A unit so far along the row from where it hangs by itself."""

    do: Literal["move_unit"] = "move_unit"
    name: Entered
    shift_mm: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return moved_unit(job, self.name, typed(ShiftMm, self.shift_mm, "$.shift_mm"))


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
    return with_micro(job, replace(job.roof_plan, units=found.units, branches=branches))


def with_unit(job: Job, modules: tuple[ModulePlace, ...]) -> Job:
    """The job with one more unit under these modules. Raises Refused where one has a unit."""
    on_the_roof(job, modules)
    plan = job.roof_plan
    taken = {unit.name for unit in plan.units} | set(job.retired)
    unit = MicroUnit(name=next(unit_names(taken)), modules=modules)
    return with_micro(job, replace(plan, units=(*plan.units, unit)))


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
    return with_micro(job, with_units(job.roof_plan, tuple(made)))


def without_unit(job: Job, name: str) -> Job:
    """The job without a unit; its serial and all that was read of it stay."""
    known_unit(job, name)
    plan = job.roof_plan
    units = tuple(unit for unit in plan.units if unit.name != name)
    return with_micro(job, with_units(plan, units))


def moved_unit(job: Job, name: str, shift_mm: float) -> Job:
    """The job with a unit so far from its place along the row."""
    known_unit(job, name)
    plan = job.roof_plan
    units = tuple(
        replace(unit, shift_mm=shift_mm) if unit.name == name else unit for unit in plan.units
    )
    return replace(job, micro=replace(plan, units=units))


UnitEdit = TakeBranches | AddUnit | UnitModules | RemoveUnit | MoveUnit
