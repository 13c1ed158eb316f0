"""Branches proposed: as few as the limits allow, phases alike, the shortest trunk."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import groupby, pairwise

from core.assessment.microinverter import TrunkPlan
from core.base.messages import figure, say
from core.equipment.micro import Trunk
from core.job.job import Job
from core.job.microinverter import Branch, MicroPlan, MicroUnit, TrunkLink, Types, phase_a
from core.planning.microinverter.trunk import trunk_plan, trunk_totals
from core.planning.microinverter.unit_places import UnitPlace, layouts, proposed_units, unit_places
from core.rules.microinverter.branch import BranchMost, branch_most
from core.rules.microinverter.trunk import units_dealt

PHASES = 3
SHOWN_OFFERS = 4


@dataclass(frozen=True, kw_only=True)
class BranchOffer:
    """One way to split the roof into branches.

    open_links: ways between planes that nobody measured. apart_a: between the fullest phase and
    the emptiest. trunk_m: cable of all trunks, as far as it is known.
    """

    branches: tuple[tuple[str, ...], ...]
    phases: tuple[int, ...]
    counts: tuple[int, ...]
    crossings: int
    open_links: int
    apart_a: float
    segments: int
    sealing_caps: int
    extensions: int
    trunk_m: float
    line: str


@dataclass(frozen=True, kw_only=True)
class BranchOffers:
    """Units for every module, and the ways to split them, the best first. most: on one branch."""

    units: tuple[MicroUnit, ...]
    most: BranchMost
    offers: tuple[BranchOffer, ...]


def plan_breaker_a(job: Job, trunk: Trunk) -> float:
    """The breaker by which a proposal splits: the largest standard one that guards the trunk."""
    ratings = job.rules.circuit.ratings_a
    fitting = [one for one in ratings if one <= trunk.rated_a]
    return max(fitting, default=min(ratings))


def most_units(job: Job, types: Types, breaker_a: float | None = None) -> BranchMost:
    """How many of such units a branch on such a trunk may hold behind a breaker.

    breaker_a: None for the one that a proposal splits by.
    """
    unit, trunk = types
    return branch_most(
        unit_a=unit.line_a,
        nominal_v=unit.nominal_v,
        breaker_a=plan_breaker_a(job, trunk) if breaker_a is None else breaker_a,
        share=job.rules.branch.breaker_share.value,
        maker_most=unit.most_on_branch,
        trunk_a=trunk.rated_a,
    )


def branch_offers(job: Job) -> BranchOffers:
    """The roof split into branches in the ways that are worth a look, the best first.

    Raises Refused on a job with a wall inverter.
    """
    plan = job.roof_plan
    units = proposed_units(job, plan)
    plan = replace(plan, units=units, branches=())
    places = unit_places(plan, layouts(job))
    found: dict[tuple[tuple[str, ...], ...], BranchOffer] = {}
    for split in _splits(job, plan, places):
        if split and split not in found:
            found[split] = _offer(job, plan, split, places)
    limit_a = job.rules.branch.unbalance.value
    ranked = sorted(found.values(), key=lambda one: _rank(one, limit_a))
    # Two that count the same in everything are one choice to the user.
    by_figures: dict[tuple[object, ...], BranchOffer] = {}
    for one in ranked:
        key = (one.counts, one.phases, one.crossings, one.segments, one.extensions, one.line)
        by_figures.setdefault(key, one)
    ranked = list(by_figures.values())
    most = most_units(job, Types(plan.unit, plan.trunk))
    return BranchOffers(units=units, most=most, offers=tuple(ranked[:SHOWN_OFFERS]))


def _rank(offer: BranchOffer, limit_a: float) -> tuple[float, ...]:
    return (
        offer.apart_a > limit_a,
        len(offer.branches),
        offer.crossings,
        offer.apart_a,
        offer.open_links,
        offer.trunk_m,
    )


Split = tuple[tuple[str, ...], ...]


def _splits(job: Job, plan: MicroPlan, places: dict[str, UnitPlace]) -> Iterator[Split]:
    """The roof as one walk and plane by plane, both ways along the rows; alike on three phases.

    Planes of different units or trunks share no branch.
    """

    def types(plane: list[str]) -> Types:
        return plan.types_on(plan.unit_named(plane[0]).modules[0].plane)

    most = {one: most_units(job, one).most for one in {types([u.name]) for u in plan.units}}
    for walk in _walks(plan.units, places):
        alike = [
            (kind, [name for plane in planes for name in plane])
            for kind, planes in groupby(walk, key=types)
        ]
        yield tuple(part for kind, whole in alike for part in _dealt(whole, most[kind]))
        if plan.three_phase:
            yield tuple(
                part for kind, whole in alike for part in _dealt(whole, _even(whole, most[kind]))
            )
        yield tuple(part for plane in walk for part in _dealt(plane, most[types(plane)]))


def _even(names: list[str], most: int) -> int:
    """So few on a branch that every phase has alike."""
    if len(names) < PHASES:
        return most
    rounds = math.ceil(math.ceil(len(names) / most) / PHASES)
    return math.ceil(len(names) / (PHASES * rounds))


def _dealt(names: list[str], most: int) -> Iterator[tuple[str, ...]]:
    at = 0
    for count in units_dealt(units=len(names), most=most):
        yield tuple(names[at : at + count])
        at += count


def _walks(units: tuple[MicroUnit, ...], places: dict[str, UnitPlace]) -> Iterator[list[list[str]]]:
    """Plane by plane the units in walking order: there and back, or each row the same way."""
    rows: dict[str, dict[int, list[str]]] = {}
    for unit in units:
        first = unit.modules[0]
        rows.setdefault(first.plane, {}).setdefault(first.row, []).append(unit.name)
    for back in (True, False):
        yield [
            [name for turn, row in enumerate(plane.values()) for name in _turned(row, back, turn)]
            for plane in rows.values()
        ]


def _turned(row: list[str], back: bool, turn: int) -> list[str]:
    return row[::-1] if back and turn % 2 else row


def _offer(job: Job, plan: MicroPlan, split: Split, places: dict[str, UnitPlace]) -> BranchOffer:
    phases = dealt_phases(split) if plan.three_phase else (0,) * len(split)
    branches = branches_of(job.roof_plan, split, phases)
    made = replace(plan, branches=branches)
    trunks = tuple(trunk_plan(made, branch, places) for branch in branches)
    total = trunk_totals(trunks)
    counts = tuple(len(one) for one in split)
    loads = phase_a(made)
    apart_a = max(loads) - min(loads)
    crossings = sum(_planes(plan, one) - 1 for one in split)
    open_links = sum(link.distance_m is None for one in trunks for link in one.links)
    trunk_m = math.fsum(_known_m(one) for one in trunks)
    return BranchOffer(
        branches=split,
        phases=phases,
        counts=counts,
        crossings=crossings,
        open_links=open_links,
        apart_a=apart_a,
        segments=total["segments"],
        sealing_caps=total["sealing_caps"],
        extensions=total["extensions"],
        trunk_m=trunk_m,
        line=_line(plan, counts, crossings, apart_a, trunk_m),
    )


def _known_m(trunk: TrunkPlan) -> float:
    """Cable as it is cut from the reel: what the cut list and the load-in count too."""
    return math.fsum(cut.length_m for cut in trunk.cuts)


def _planes(plan: MicroPlan, names: tuple[str, ...]) -> int:
    return len({plan.unit_named(name).modules[0].plane for name in names})


def _line(
    plan: MicroPlan, counts: tuple[int, ...], crossings: int, apart_a: float, trunk_m: float
) -> str:
    parts = [
        say(
            "branches",
            "offer" if len(counts) > 1 else "offer_one",
            count=str(len(counts)),
            trunk=figure(trunk_m, "m"),
        )
    ]
    if crossings:
        parts.append(say("branches", "crosses", count=str(crossings)))
    if plan.three_phase:
        key = "apart" if apart_a else "alike"
        parts.append(say("branches", key, apart=figure(apart_a, "A")))
    return " ".join(parts)


def dealt_phases(split: Split) -> tuple[int, ...]:
    """A phase for each branch: the largest first, each on the phase that has least."""
    loads = dict.fromkeys(range(1, PHASES + 1), 0)
    phases = [0] * len(split)
    for at in sorted(range(len(split)), key=lambda index: -len(split[index])):
        phase = min(loads, key=lambda one: (loads[one], one))
        phases[at] = phase
        loads[phase] += len(split[at])
    return tuple(phases)


def branches_of(plan: MicroPlan, split: Split, phases: tuple[int, ...]) -> tuple[Branch, ...]:
    """Branches of a split, B1 on; what was known of a branch of that name stays with it."""
    was = {branch.name: branch for branch in plan.branches}
    measured = {
        pair: branch.link_after(pair[0])
        for branch in plan.branches
        for pair in pairwise(branch.units)
    }
    found = []
    for number, (units, phase) in enumerate(zip(split, phases, strict=True), start=1):
        name = f"B{number}"
        known = was.get(name, Branch(name=name))
        links = tuple(
            link
            for pair in pairwise(units)
            if (link := measured.get(pair)) is not None and link != TrunkLink(after=pair[0])
        )
        found.append(replace(known, units=units, phase=phase, links=links))
    return tuple(found)
