"""Which modules share a unit: over rows, columns and gaps, as far as the leads reach."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import Name, ReachMm, UnitInputs
from core.base.judgement import NOISE_REL, fits
from core.base.quantity import Items, Quantity
from core.base.rule import rule

OnRoofMm = Annotated[float, Quantity("middle of a module", "mm", -100_000, 100_000)]
ExtensionMm = Annotated[float, Quantity("extension lead", "mm", 50, 20_000)]
# States that are kept side by side; a roof of ten rows whose leads reach the neighbours has some
# thousands.
MOST_STATES = 60_000

Cost = tuple[int, int, float]
Pair = tuple[int, int | None]


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
    layers = _layers(len(ordered), partners)
    onward = _onward(layers)
    chosen = _one_plan(layers)
    total: Cost = layers[-1][0][0] if layers[-1] else (0, 0, 0.0)
    plans = onward[0].get(0, 1)
    place = {one.id: at for at, one in enumerate(modules)}
    common = (
        tuple(sorted((ordered[one].id, ordered[other].id)))
        for (one, other), count in _uses(layers, onward).items()
        if count == plans
    )
    groups = [
        sorted((ordered[at].id for at in pair if at is not None), key=place.__getitem__)
        for pair in chosen
    ]
    return UnitPairs(
        units=total[0],
        idle_inputs=total[0] * unit_inputs - len(modules),
        extensions=total[1],
        ways_mm=total[2],
        groups=tuple(map(tuple, sorted(groups, key=lambda group: place[group[0]]))),
        plans=plans,
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
) -> list[list[tuple[int, Cost]]]:
    """For each module those after it that it may share a unit with, and what that costs."""
    found: list[list[tuple[int, Cost]]] = [[] for _ in ordered]
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


# By which of the modules from here on are taken (bit 0: this one): least cost until here, and the
# states before with the partner that led here.
Layer = dict[int, tuple[Cost, tuple[tuple[int, Pair | None], ...]]]


def _layers(count: int, partners: list[list[tuple[int, Cost]]]) -> list[Layer]:
    layers: list[Layer] = [{0: ((0, 0, 0.0), ())}]
    for at in range(count):
        after: dict[int, list[tuple[Cost, int, Pair | None]]] = defaultdict(list)
        for taken, (cost, _) in layers[-1].items():
            if taken & 1:
                after[taken >> 1].append((cost, taken, None))
                continue
            after[taken >> 1].append((_more(cost, (1, 0, 0.0)), taken, (at, None)))
            for other, more in partners[at]:
                bit = 1 << (other - at)
                if not taken & bit:
                    after[(taken | bit) >> 1].append((_more(cost, more), taken, (at, other)))
        if len(after) > MOST_STATES:
            said = "Too many modules reach each other to try every way of pairing them."
            raise Refused([problem("$.modules", count, "a roof of fewer rows", said)])
        layers.append({state: _least(ways) for state, ways in after.items()})
    return layers


def _least(
    ways: list[tuple[Cost, int, Pair | None]],
) -> tuple[Cost, tuple[tuple[int, Pair | None], ...]]:
    least = min(cost for cost, _, _ in ways)
    return least, tuple((before, pair) for cost, before, pair in ways if _alike(cost, least))


def _onward(layers: list[Layer]) -> list[dict[int, int]]:
    """In how many of the best plans each state's rest can end; states of none are left out."""
    onward: list[dict[int, int]] = [dict.fromkeys(layers[-1], 1)]
    for layer in reversed(layers[1:]):
        before: dict[int, int] = defaultdict(int)
        for state, (_, ways) in layer.items():
            if state in onward[0]:
                for former, _pair in ways:
                    before[former] += onward[0][state]
        onward.insert(0, dict(before))
    return onward


def _one_plan(layers: list[Layer]) -> list[Pair]:
    """One of the best plans, found from its end."""
    found, state = list[Pair](), 0
    for layer in reversed(layers[1:]):
        state, pair = layer[state][1][0]
        if pair is not None:
            found.append(pair)
    return found[::-1]


def _uses(layers: list[Layer], onward: list[dict[int, int]]) -> dict[tuple[int, int], int]:
    """In how many of the best plans each pair stands."""
    until = [{0: 1}]
    uses: dict[tuple[int, int], int] = defaultdict(int)
    for number, layer in enumerate(layers[1:], start=1):
        here: dict[int, int] = defaultdict(int)
        for state, (_, ways) in layer.items():
            for former, pair in ways:
                reached = until[-1].get(former, 0)
                here[state] += reached
                if pair is not None and pair[1] is not None:
                    uses[pair[0], pair[1]] += reached * onward[number].get(state, 0)
        until.append(dict(here))
    return dict(uses)


def _more(cost: Cost, by: Cost) -> Cost:
    return cost[0] + by[0], cost[1] + by[1], cost[2] + by[2]


def _alike(cost: Cost, other: Cost) -> bool:
    return cost[:2] == other[:2] and abs(cost[2] - other[2]) <= NOISE_REL * max(1.0, other[2])
