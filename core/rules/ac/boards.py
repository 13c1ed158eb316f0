"""A board with several sources: what its busbar bears, and which main leaves room for them."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.glossary import BusbarA, CurrentA, RatedA
from core.base.judgement import fits
from core.base.quantity import Items
from core.base.rule import rule
from core.figures.rule_packs import RulePack, pack

Breakers = Annotated[tuple[RatedA, ...], Items("breakers", 0, 60)]
Outputs = Annotated[tuple[CurrentA, ...], Items("rated currents of sources", 1, 60)]
Ratings = Annotated[tuple[RatedA, ...], Items("standard ratings", 1, 60)]
BusbarPlace = Literal[
    "opposite_end", "same_end", "one_end_of_centre_fed", "both_ends_of_centre_fed", "elsewhere"
]
PassesBy = Literal["sum", "opposite_end_120", "centre_fed_120", "all_breakers", "none"]

# Standard ratings of main breakers (IEC 60898-1, 5.3.2; IEC 60947-2).
MAINS_A = (16.0, 20.0, 25.0, 32.0, 40.0, 50.0, 63.0, 80.0, 100.0, 125.0)
# Those of North America (NEC 2023, table 240.6(A)), as far as a dwelling's board goes.
US_MAINS_A = (60.0, 70.0, 80.0, 90.0, 100.0, 110.0, 125.0, 150.0, 175.0, 200.0, 225.0)
NORTH_AMERICA = pack("north-america")
WHOLE_PCT = 100.0


@dataclass(frozen=True, kw_only=True)
class BoardSums:
    """What a busbar carries when all its sources and its supply give at once.

    protecting_a: what keeps the supply's share small. room_a: for sources' breakers; below 0
    where the main alone is over. largest_main_*: None where no listed rating passes.
    switch_carries: whether the main switch bears what protects it; None without one.
    """

    protecting_a: float
    sum_by_breakers_a: float
    sum_by_outputs_a: float
    share_by_breakers_pct: float
    share_by_outputs_pct: float
    by_breakers: bool
    by_outputs: bool
    room_a: float
    largest_main_by_breakers_a: float | None
    largest_main_by_outputs_a: float | None
    switch_carries: bool | None


@rule
def board_sums(
    *,
    busbar_a: BusbarA,
    source_breakers_a: Breakers,
    source_outputs_a: Outputs,
    main_breaker_a: RatedA | None = None,
    main_switch_a: RatedA | None = None,
    upstream_device_a: RatedA | None = None,
    main_ratings_a: Ratings = MAINS_A,
) -> BoardSums:
    """Does the busbar bear its supply and all its sources together?

    Formula: protecting device + sources ≤ busbar; the sources once by their breakers, the careful
    way, and once by their rated currents. What protects is the smaller of the main breaker and of
    what lies upstream: a switch protects nothing. Exactly on the busbar holds.
    Raises Refused when nothing is named that protects the busbar from the supply.
    Source: BS 7671:2018+A2:2022, 551.7.2; IEC 60364-8-2:2018; IEC 61439-3.
    """
    protecting = [one for one in (main_breaker_a, upstream_device_a) if one is not None]
    if not protecting:
        allowed = "a main breaker, or a device upstream"
        raise Refused([problem("$.main_breaker_a", "none", allowed)])
    protecting_a = min(protecting)
    breakers_a, outputs_a = math.fsum(source_breakers_a), math.fsum(source_outputs_a)
    by_breakers_a, by_outputs_a = protecting_a + breakers_a, protecting_a + outputs_a
    return BoardSums(
        protecting_a=protecting_a,
        sum_by_breakers_a=by_breakers_a,
        sum_by_outputs_a=by_outputs_a,
        share_by_breakers_pct=WHOLE_PCT * by_breakers_a / busbar_a,
        share_by_outputs_pct=WHOLE_PCT * by_outputs_a / busbar_a,
        by_breakers=fits(by_breakers_a, busbar_a),
        by_outputs=fits(by_outputs_a, busbar_a),
        room_a=busbar_a - protecting_a,
        largest_main_by_breakers_a=_largest(main_ratings_a, breakers_a, busbar_a),
        largest_main_by_outputs_a=_largest(main_ratings_a, outputs_a, busbar_a),
        switch_carries=None if main_switch_a is None else fits(protecting_a, main_switch_a),
    )


@dataclass(frozen=True, kw_only=True)
class BoardShares:
    """What a busbar carries by the rules of North America, rule by rule.

    all_breakers_a: None where the loads' breakers are not counted. largest_main_a: None where the
    place of the sources does not allow the share, or no listed rating passes.
    """

    sources_a: float
    main_plus_sources_a: float
    limit_a: float
    by_sum: bool
    by_share: bool
    by_share_on_breakers: bool
    all_breakers_a: float | None
    by_all_breakers: bool
    passes_by: PassesBy
    largest_main_a: float | None
    room_a: float


@rule
def board_shares(
    *,
    busbar_a: BusbarA,
    main_a: RatedA,
    source_currents_a: Outputs,
    source_breakers_a: Breakers,
    position: BusbarPlace,
    dwelling: bool = True,
    load_breakers_a: Breakers | None = None,
    standard_mains_a: Ratings = US_MAINS_A,
    rule_pack: RulePack = NORTH_AMERICA,
) -> BoardShares:
    """By which rule, if any, may these sources sit on this busbar?

    (1) main + 125 % of the sources' currents ≤ busbar; (2) the same ≤ 120 % of it with the sources
    at the end opposite the main; (3) all load and source breakers without the main ≤ busbar; (4)
    on the centre-fed busbar of a dwelling the 120 % at either end, not at both. load_breakers_a:
    None where they are not counted; then (3) does not apply. Exactly on a limit holds.
    Source: NEC 2023 705.12(B)(1) to (4); rule pack.
    """
    circuit = rule_pack.circuit
    sources_a = circuit.continuous.value * math.fsum(source_currents_a)
    breakers_a = math.fsum(source_breakers_a)
    limit_a = circuit.busbar_share.value * busbar_a
    centre = position == "one_end_of_centre_fed" and dwelling
    placed = position == "opposite_end" or centre
    by_sum = fits(main_a + sources_a, busbar_a)
    by_share = placed and fits(main_a + sources_a, limit_a)
    all_a = None if load_breakers_a is None else math.fsum((*load_breakers_a, breakers_a))
    by_all = all_a is not None and fits(all_a, busbar_a)
    share: PassesBy = "centre_fed_120" if centre else "opposite_end_120"
    passes: tuple[tuple[bool, PassesBy], ...] = (
        (by_sum, "sum"), (by_share, share), (by_all, "all_breakers")
    )  # fmt: skip
    return BoardShares(
        sources_a=sources_a,
        main_plus_sources_a=main_a + sources_a,
        limit_a=limit_a,
        by_sum=by_sum,
        by_share=by_share,
        by_share_on_breakers=placed and fits(main_a + breakers_a, limit_a),
        all_breakers_a=all_a,
        by_all_breakers=by_all,
        passes_by=next((name for passed, name in passes if passed), "none"),
        largest_main_a=_largest(standard_mains_a, sources_a, limit_a) if placed else None,
        room_a=limit_a - main_a,
    )


def _largest(ratings_a: Iterable[float], beside_a: float, limit_a: float) -> float | None:
    fitting = (one for one in ratings_a if fits(one + beside_a, limit_a))
    return max(fitting, default=None)
