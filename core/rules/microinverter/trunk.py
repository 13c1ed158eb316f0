"""The trunk cable of a branch: its segments, caps and extensions, counted from where units lie."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from core.base.glossary import BranchFeed, GapRule, LeadInM, LeadM, Name, PitchM, WayM, WholeWayM
from core.base.judgement import NOISE_REL, Judgement, at_most, holds
from core.base.messages import figure
from core.base.quantity import Items, Quantity
from core.base.rule import rule

TRUNK_SOURCE = "trunk sheet"
MM_DIGITS = 3

Distances = Annotated[tuple[float, ...], Items("distances between units", 0, 400)]
UnitsDealt = Annotated[int, Quantity("units", "", 0, 400)]
MostOnBranch = Annotated[int, Quantity("most units on a branch", "", 1, 400)]
# A way this little longer than a pitch is a slip more often than a plan (trade practice).
NEARLY = 1.15


@dataclass(frozen=True, kw_only=True)
class TrunkParts:
    """What one trunk is made of."""

    segments: int
    sealing_caps: int
    extensions: int
    end_caps: int


def trunk_link(
    distance_m: float, pitch_m: float, extension_m: float, rule: GapRule
) -> tuple[int, int]:
    """Segments and extensions that bridge one distance: a drop skipped, or a lead let in.

    A distance of whole pitches is met exactly: float noise counts no segment more.
    """
    if distance_m <= pitch_m * (1 + NOISE_REL):
        return 1, 0
    if rule == "skip":
        return math.ceil(distance_m / pitch_m * (1 - NOISE_REL)), 0
    return 1, math.ceil((distance_m - pitch_m) / extension_m * (1 - NOISE_REL))


@rule
def trunk_parts(
    *,
    distances_m: Distances,
    pitch_m: PitchM,
    extension_m: LeadM,
    gap_rule: GapRule = "skip",
    feed: BranchFeed = "end",
) -> TrunkParts:
    """What does one branch's trunk need, from its first unit to its last?

    A segment is one drop and one pitch of cable; the first unit counts one. A drop that is
    skipped gets a sealing cap; a free end its end cap: one fed at the end, two fed in the middle.
    Formula: segments = 1 + Σ of each way; caps = segments − units.
    Formula: segments = 1 + Σ of each way; caps = segments − units.
    Source: trunk sheet.
    """
    links = tuple(trunk_link(one, pitch_m, extension_m, gap_rule) for one in distances_m)
    segments = 1 + sum(count for count, _ in links)
    return TrunkParts(
        segments=segments,
        sealing_caps=segments - 1 - len(links),
        extensions=sum(count for _, count in links),
        end_caps=1 if feed == "end" else 2,
    )


@rule
def units_dealt(*, units: UnitsDealt, most: MostOnBranch) -> tuple[int, ...]:
    """How many units go on each branch, as few branches as may be, as alike as may be?

    Larger branches first.
    Formula: ⌈n / most⌉ branches of ⌊n / branches⌋ units, one more on the first.
    Formula: ⌈n / most⌉ branches of ⌊n / branches⌋ units, one more on the first.
    Source: arithmetic.
    """
    if units == 0:
        return ()
    branches = math.ceil(units / most)
    each, more = divmod(units, branches)
    return tuple(each + (number < more) for number in range(branches))


@rule
def trunk_reach(
    *, distance_m: WholeWayM, reach_m: WholeWayM, start: Name, end: Name, bridged: bool = False
) -> Judgement:
    """Does the trunk reach from one unit to the next?

    bridged: what one pitch lacks is skipped or let in already; then too short is watch.
    Formula: distance ≤ reach.
    Formula: distance ≤ reach.
    Source: trunk sheet.
    """
    return at_most(
        "trunk_reach",
        distance_m,
        reach_m,
        "m",
        TRUNK_SOURCE,
        over="watch" if bridged else "stop",
        start=start,
        end=end,
        short=figure(distance_m - reach_m, "m", MM_DIGITS),
    )


@rule
def trunk_lead_in(*, lead_m: WayM, lead_in_m: LeadInM) -> Judgement:
    """Does the trunk's lead-in reach from the first unit to the joint box?

    Formula: lead ≤ lead-in.
    Formula: lead ≤ lead-in.
    Source: trunk sheet.
    """
    return at_most(
        "trunk_lead_in",
        lead_m,
        lead_in_m,
        "m",
        TRUNK_SOURCE,
        short=figure(lead_m - lead_in_m, "m", MM_DIGITS),
    )


@rule
def lead_reach(
    *,
    furthest_m: WholeWayM,
    reach_m: WholeWayM,
    extension_m: LeadM | None = None,
    module: Name = "a module",
) -> Judgement:
    """Do a module's leads reach its unit, with one made extension where there is one?

    Formula: distance ≤ reach, or ≤ reach + extension.
    Formula: distance ≤ reach, or ≤ reach + extension.
    Source: unit sheet.
    """
    within = extension_m is not None and furthest_m > reach_m
    limit_m = reach_m + extension_m if within and extension_m else reach_m
    return at_most("lead_reach", furthest_m, limit_m, "m", "unit sheet", module=module)


@rule
def units_spread(*, planes: Annotated[tuple[str, ...], Items("planes", 0, 400)]) -> Judgement:
    """Does a branch stay on one plane?

    Over two, the way between them must be measured and the trunk guarded there: watch.
    Source: trade practice.
    """
    named = tuple(dict.fromkeys(planes))
    shown = " and ".join(named)
    return holds("units_spread", len(named) <= 1, "trade practice", bad="watch", planes=shown)
