"""Which modules share a unit: over rows, columns and gaps, as far as the leads reach."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.form import Checked
from core.base.glossary import Name, ReachMm, UnitInputs
from core.base.judgement import fits
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.rules.microinverter.matching import Partners, matched

OnRoofMm = Annotated[float, Quantity("middle of a module", "mm", -100_000, 100_000)]
ExtensionMm = Annotated[float, Quantity("extension lead", "mm", 50, 20_000)]


@dataclass(frozen=True, kw_only=True)
class RoofModule(Checked):
    """A module by its middle on its plane: x along the row, y up the slope."""

    id: Name
    plane: Name
    x_mm: OnRoofMm
    y_mm: OnRoofMm
    type: Name = "module"


RoofModules = Annotated[tuple[RoofModule, ...], Items("modules", 0, 800)]


@dataclass(frozen=True, kw_only=True)
class UnitPairs:
    """Modules on units, the best way: fewest units, then fewest extension leads, then least way.

    groups: the modules of each unit by id, in the order given. extensions: leads in all. ways_mm:
    of all modules' leads together. plans: how many ways are as good. common: pairs of all of them.
    """

    units: int
    idle_inputs: int
    extensions: int
    ways_mm: float
    groups: tuple[tuple[str, ...], ...]
    plans: int
    common: tuple[tuple[str, str], ...]


@rule
def unit_pairs(
    *,
    modules: RoofModules,
    unit_inputs: UnitInputs,
    lead_reach_mm: ReachMm,
    extension_mm: ExtensionMm | None = None,
) -> UnitPairs:
    """Which modules share a unit, so that units and leads are fewest?

    A unit of two hangs half way between their middles; the way of a lead is |dx| + |dy| from its
    module's middle to the unit. Within the reach it needs no extension, up to one extension more
    it needs one, beyond that the two cannot share. Both are of one plane and one type.
    Raises Refused when the roof has too many ways to try them all.
    Source: unit sheet; graph theory (matching of least cost, by states along the roof).
    """
    ordered = sorted(modules, key=lambda one: (one.plane, *_along(modules, one)))
    partners = _partners(ordered, unit_inputs, lead_reach_mm, extension_mm)
    found = matched(partners, [(1, 0, 0.0)] * len(ordered))
    place = {one.id: at for at, one in enumerate(modules)}
    common = (tuple(sorted((ordered[one].id, ordered[other].id))) for one, other in found.common)
    groups = [
        sorted((ordered[at].id for at in pair if at is not None), key=place.__getitem__)
        for pair in found.pairs
    ]
    return UnitPairs(
        units=found.cost[0],
        idle_inputs=found.cost[0] * unit_inputs - len(modules),
        extensions=found.cost[1],
        ways_mm=found.cost[2],
        groups=tuple(map(tuple, sorted(groups, key=lambda group: place[group[0]]))),
        plans=found.plans,
        common=tuple(sorted((one, other) for one, other in common)),
    )


def _along(modules: tuple[RoofModule, ...], one: RoofModule) -> tuple[float, float]:
    """Its place along the longer side of its plane first: so few states stand side by side."""
    xs = [other.x_mm for other in modules if other.plane == one.plane]
    ys = [other.y_mm for other in modules if other.plane == one.plane]
    if len(set(xs)) >= len(set(ys)):
        return one.x_mm, one.y_mm
    return one.y_mm, one.x_mm


def _partners(
    ordered: list[RoofModule], inputs: int, reach_mm: float, extension_mm: float | None
) -> Partners:
    """For each module those after it that it may share a unit with, and what that costs."""
    found: Partners = [[] for _ in ordered]
    if inputs == 1:
        return found
    for at, one in enumerate(ordered):
        for number in range(at + 1, len(ordered)):
            other = ordered[number]
            if (other.plane, other.type) != (one.plane, one.type):
                continue
            way = (abs(one.x_mm - other.x_mm) + abs(one.y_mm - other.y_mm)) / 2
            if fits(way, reach_mm):
                found[at].append((number, (1, 0, 2 * way)))
            elif extension_mm is not None and fits(way, reach_mm + extension_mm):
                found[at].append((number, (1, 2, 2 * way)))
    return found
