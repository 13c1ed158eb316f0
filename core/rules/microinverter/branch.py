"""A branch of microinverters: its current, how high it lifts the voltage, how many it may hold."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated

from core.base.glossary import (
    BranchFeed,
    BreakerShare,
    ConductorOhmPerM,
    LeadInM,
    LengthM,
    LimitPct,
    NominalV,
    PitchM,
    RatedA,
    Service,
    TrunkOhmPerM,
    UnitA,
    UnitsOnBranch,
)
from core.base.judgement import NOISE_REL, Judgement, at_most, holds
from core.base.messages import figure
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack
from core.rules.ac.voltage_rise import LOOP_FACTOR, RISE_SOURCE

BRANCH_SOURCE = "unit and trunk sheets; IEC 60364-4-43:2008, 433.1; NEC 2023 690.8(B)"
# Beyond this no branch is planned; a search ends here.
MOST_SOUGHT = 400

PhaseUnits = Annotated[tuple[int, ...], Items("units on each phase", 3, 3)]
PhaseLoadsA = Annotated[tuple[float, ...], Items("current of each phase", 3, 3)]
CountA = Annotated[float, Quantity("current", "A", 0, 2000)]


@dataclass(frozen=True, kw_only=True)
class BranchRise:
    """What a branch lifts at full output, fed at one end and fed in its middle.

    trunk_full_v: the hand rule with a whole segment before each unit. centre_long_v,
    centre_short_v: the two sides of a trunk fed in its middle; its total takes the longer.
    """

    branch_a: float
    home_run_v: float
    trunk_end_v: float
    total_end_v: float
    total_end_pct: float
    trunk_full_v: float
    centre_long_v: float
    centre_short_v: float
    total_centre_v: float
    total_centre_pct: float


@dataclass(frozen=True, kw_only=True)
class BranchMost:
    """How many units a branch may hold, by each limit; binding: the limits that decide."""

    by_breaker: int
    by_trunk: int | None
    by_rise: int | None
    by_maker: int
    most: int
    binding: tuple[str, ...]


@rule
def branch_rise(
    *,
    units: UnitsOnBranch,
    unit_a: UnitA,
    nominal_v: NominalV,
    spacing_m: PitchM,
    trunk_ohm_per_m: TrunkOhmPerM,
    lead_in_m: LeadInM,
    home_run_m: LengthM,
    home_run_ohm_per_m: ConductorOhmPerM,
    service: Service = "single",
) -> BranchRise:
    """How many volts does a branch lift from the board to its last unit?

    End-fed: f·i·r·(n·L0 + s·n(n−1)/2), f = 2 for out and back, 1 for balanced three. Fed in the
    middle: half a spacing to each side; of an odd number the longer side has one more.
    Source: circuit theory, currents at nominal voltage; IEC 60364-5-52:2009, annex G.
    """
    return _rise(
        units,
        unit_a=unit_a,
        nominal_v=nominal_v,
        spacing_m=spacing_m,
        trunk_ohm_per_m=trunk_ohm_per_m,
        lead_in_m=lead_in_m,
        home_run_m=home_run_m,
        home_run_ohm_per_m=home_run_ohm_per_m,
        service=service,
    )


def _rise(
    units: int,
    *,
    unit_a: float,
    nominal_v: float,
    spacing_m: float,
    trunk_ohm_per_m: float,
    lead_in_m: float,
    home_run_m: float,
    home_run_ohm_per_m: float,
    service: Service,
) -> BranchRise:
    """The rise of any count, of more units too than a branch may ever hold: the search asks."""
    factor = LOOP_FACTOR[service] * unit_a
    home_v = factor * units * home_run_ohm_per_m * home_run_m
    end_v = factor * trunk_ohm_per_m * trunk_moment(units, spacing_m, lead_in_m)
    full_v = factor * trunk_ohm_per_m * trunk_moment(units, spacing_m, spacing_m)
    longer, shorter = (
        factor * trunk_ohm_per_m * trunk_moment(side, spacing_m, spacing_m / 2)
        for side in (units - units // 2, units // 2)
    )
    return BranchRise(
        branch_a=units * unit_a,
        home_run_v=home_v,
        trunk_end_v=end_v,
        total_end_v=home_v + end_v,
        total_end_pct=100 * (home_v + end_v) / nominal_v,
        trunk_full_v=full_v,
        centre_long_v=longer,
        centre_short_v=shorter,
        total_centre_v=home_v + longer,
        total_centre_pct=100 * (home_v + longer) / nominal_v,
    )


def trunk_moment(units: int, spacing_m: float, lead_in_m: float) -> float:
    """Metres of trunk, each counted once for every unit whose current it carries [m]."""
    return units * lead_in_m + spacing_m * units * (units - 1) / 2


@rule
def branch_most(
    *,
    unit_a: UnitA,
    nominal_v: NominalV,
    breaker_a: RatedA,
    share: BreakerShare,
    maker_most: UnitsOnBranch,
    feed: BranchFeed = "end",
    trunk_a: RatedA | None = None,
    rise_limit_pct: LimitPct | None = None,
    spacing_m: PitchM = 1.0,
    trunk_ohm_per_m: TrunkOhmPerM = 0.01,
    lead_in_m: LeadInM = 0.0,
    home_run_m: LengthM = 1.0,
    home_run_ohm_per_m: ConductorOhmPerM = 0.01,
    service: Service = "single",
) -> BranchMost:
    """How many units may one branch hold: by its breaker, its trunk, its rise, its maker?

    Every limit may be met exactly. rise_limit_pct: over home run and trunk; None: not judged.
    Formula: the least of ⌊share · In / I⌋, ⌊I_trunk / I⌋, rise ≤ limit, the maker's.
    Source: unit and trunk sheets; IEC 60364-4-43:2008, 433.1; NEC 2023 690.8(B).
    """

    def lifts(units: int) -> float:
        rise = _rise(
            units,
            unit_a=unit_a,
            nominal_v=nominal_v,
            spacing_m=spacing_m,
            trunk_ohm_per_m=trunk_ohm_per_m,
            lead_in_m=lead_in_m,
            home_run_m=home_run_m,
            home_run_ohm_per_m=home_run_ohm_per_m,
            service=service,
        )
        return rise.total_end_pct if feed == "end" else rise.total_centre_pct

    limits = {
        "breaker": whole_units(share * breaker_a, unit_a),
        "trunk": None if trunk_a is None else whole_units(trunk_a, unit_a),
        "rise": None if rise_limit_pct is None else _most_within(lifts, rise_limit_pct),
        "maker": maker_most,
    }
    known = {name: count for name, count in limits.items() if count is not None}
    most = min(known.values())
    return BranchMost(
        by_breaker=known["breaker"],
        by_trunk=limits["trunk"],
        by_rise=limits["rise"],
        by_maker=maker_most,
        most=most,
        binding=tuple(name for name, count in known.items() if count == most),
    )


def whole_units(limit_a: float, unit_a: float) -> int:
    """Whole units whose current stays within a limit, met exactly or not."""
    return math.floor(limit_a / unit_a * (1 + NOISE_REL))


def _most_within(lifts: Callable[[int], float], limit_pct: float) -> int:
    sought = range(1, MOST_SOUGHT + 1)
    return sum(lifts(units) <= limit_pct * (1 + NOISE_REL) for units in sought)


@rule
def branch_breaker(
    *, branch_a: CountA, breaker_a: RatedA, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is the branch's breaker loaded no further than it may be?

    Formula: branch_a ≤ branch.breaker_share · breaker_a.
    Source: IEC 60364-4-43:2008, 433.1; NEC 2023 210.20(A) and 690.8(B), by rule pack.
    """
    share = rule_pack.branch.breaker_share
    return at_most(
        "branch_breaker",
        branch_a,
        share.value * breaker_a,
        "A",
        share.source,
        breaker=figure(breaker_a, "A"),
        share=figure(100 * share.value, "%"),
    )


@rule
def trunk_guarded(*, breaker_a: RatedA, trunk_a: RatedA) -> Judgement:
    """Does the breaker guard the trunk behind it?

    Source: IEC 60364-4-43:2008, 433.1; trunk sheet.
    """
    return holds(
        "trunk_guarded",
        breaker_a <= trunk_a,
        "IEC 60364-4-43:2008, 433.1; trunk sheet",
        breaker=figure(breaker_a, "A"),
        trunk=figure(trunk_a, "A"),
    )


@rule
def branch_trunk(*, branch_a: CountA, trunk_a: RatedA, feed: BranchFeed = "end") -> Judgement:
    """Does the trunk cable bear what flows where it is fed?

    Source: trunk sheet.
    """
    return at_most("branch_trunk", branch_a, trunk_a, "A", "trunk sheet", feed=feed)


@rule
def branch_count(
    *, units: Annotated[int, Quantity("units", "", 0, 400)], most: UnitsOnBranch
) -> Judgement:
    """Are no more units on the branch than its maker allows?

    Formula: units ≤ most.
    Source: unit sheet.
    """
    return holds(
        "branch_count",
        units <= most,
        "unit sheet",
        units=str(units),
        most=str(most),
        over=str(units - most),
    )


@rule
def branch_one_type(
    *, types: Annotated[int, Quantity("types of unit and trunk", "", 0, 20)]
) -> Judgement:
    """Are all units of a branch of one type, on one type of trunk?

    Two are not reckoned with on one cable: whether they go together their sheets alone would say.
    Source: unit and trunk sheets.
    """
    return holds("branch_one_type", types <= 1, "unit and trunk sheets", types=str(types))


@rule
def branch_rise_limit(*, rise_pct: float, limit_pct: LimitPct) -> Judgement:
    """Do home run and trunk together lift the last unit by no more than is good?

    Source: IEC 60364-5-52:2009, annex G; trade practice, by rule pack.
    """
    return at_most("branch_rise_limit", rise_pct, limit_pct, "%", RISE_SOURCE)


@rule
def phase_unbalance(
    *,
    units: PhaseUnits,
    unit_a: UnitA,
    loads_a: PhaseLoadsA | None = None,
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Are the phases loaded alike enough?

    loads_a: of each phase, where units are of several types. The fullest phase against the
    emptiest. Above: watch; the operator's own limit decides.
    Formula: (fullest phase − emptiest phase) · unit_a ≤ branch.unbalance.
    Source: network operators' practice, by rule pack.
    """
    limit = rule_pack.branch.unbalance
    apart_a = (max(units) - min(units)) * unit_a if loads_a is None else max(loads_a) - min(loads_a)
    shown = " · ".join(str(one) for one in units)
    return at_most(
        "phase_unbalance", apart_a, limit.value, "A", limit.source, over="watch", units=shown
    )
