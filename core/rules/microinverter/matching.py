"""The cheapest way to put things alone or in pairs: found by states along one order, exactly."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from core.base.errors import Refused, problem
from core.base.judgement import NOISE_REL

# States that are kept side by side; a roof of ten rows whose leads reach the neighbours has some
# thousands.
MOST_STATES = 60_000

# Compared one after the other: units, extension leads, ways.
Cost = tuple[int, int, float]
Pair = tuple[int, int | None]
# For each thing those after it that it may be paired with, and what that costs.
Partners = list[list[tuple[int, Cost]]]


@dataclass(frozen=True, kw_only=True)
class Matched:
    """One cheapest way: alone or in pairs, by place in the order; how many are as cheap; the pairs
    that all of them share."""

    cost: Cost
    pairs: tuple[Pair, ...]
    plans: int
    common: tuple[tuple[int, int], ...]


def matched(partners: Partners, alone: list[Cost]) -> Matched:
    """The cheapest way. Raises Refused when there are too many to try them all."""
    layers = _layers(partners, alone)
    onward = _onward(layers)
    plans = onward[0].get(0, 1)
    uses = _uses(layers, onward)
    return Matched(
        cost=layers[-1][0][0],
        pairs=tuple(_one_plan(layers)),
        plans=plans,
        common=tuple(pair for pair, count in uses.items() if count == plans),
    )


# By which of the things from here on are taken (bit 0: this one): least cost until here, and the
# states before with the partner that led here.
Layer = dict[int, tuple[Cost, tuple[tuple[int, Pair | None], ...]]]


def _layers(partners: Partners, alone: list[Cost]) -> list[Layer]:
    layers: list[Layer] = [{0: ((0, 0, 0.0), ())}]
    for at, own in enumerate(alone):
        after: dict[int, list[tuple[Cost, int, Pair | None]]] = defaultdict(list)
        for taken, (cost, _) in layers[-1].items():
            if taken & 1:
                after[taken >> 1].append((cost, taken, None))
                continue
            after[taken >> 1].append((_more(cost, own), taken, (at, None)))
            for other, more in partners[at]:
                bit = 1 << (other - at)
                if not taken & bit:
                    after[(taken | bit) >> 1].append((_more(cost, more), taken, (at, other)))
        if len(after) > MOST_STATES:
            said = "Too many modules reach each other to try every way of pairing them."
            raise Refused([problem("$.modules", len(alone), "a roof of fewer rows", said)])
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
