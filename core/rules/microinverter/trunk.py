"""The trunk cable of a branch: its segments, caps and extensions, counted from where units lie."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.glossary import BranchFeed, GapRule, LeadInM, LeadM, Name, PitchM, WayM, WholeWayM
from core.base.judgement import NOISE_REL, Judgement, at_most, holds
from core.base.messages import figure
from core.base.quantity import Items, Quantity
from core.base.rule import rule

TRUNK_SOURCE = "trunk sheet"
MM_DIGITS = 3

Bridge = Literal["skip", "extension", "joint"]
Bridges = Annotated[tuple[Bridge, ...], Items("how each distance is bridged", 0, 400)]
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


@dataclass(frozen=True, kw_only=True)
class TrunkCut:
    """One trunk of fixed pitch as it is cut; pieces from its fed end, each by its segments.

    length_m: of all pieces, as they are cut from the reel.
    """

    pieces_segments: tuple[int, ...]
    cut_lengths_m: tuple[float, ...]
    drops: int
    sealing_caps: int
    extensions: int
    joint_boxes: int
    end_caps: int
    length_m: float


@rule
def trunk_cut(
    *,
    distances_m: Distances,
    bridged_by: Bridges,
    pitch_m: PitchM,
    extension_m: LeadM,
    feed: BranchFeed = "end",
) -> TrunkCut:
    """Into which pieces is one branch's trunk cut, and what is put on and between them?

    bridged_by: of each distance: skip, the next unit takes the first drop that reaches it;
    extension, as many leads as are lacking, the trunk cut there; joint, cut and joined in a box,
    the cable between supplied apart. Fed in the middle it is also cut in the link between the two
    middle units, of an odd count the first side has one unit more.
    Formula: a segment is one pitch and one drop; a piece of k segments is k · pitch long.
    Raises Refused when the two lists are not alike long.
    Source: trunk sheet.
    """
    if len(distances_m) != len(bridged_by):
        raise Refused([problem("$.bridged_by", len(bridged_by), f"{len(distances_m)} ways")])
    middle = None if feed == "end" else middle_link(len(distances_m) + 1)
    pieces, extensions, joints = [1], 0, 0
    for at, (distance_m, how) in enumerate(zip(distances_m, bridged_by, strict=True)):
        segments, leads = 1, 0
        if how != "joint":
            segments, leads = trunk_link(distance_m, pitch_m, extension_m, how)
        extensions, joints = extensions + leads, joints + (how == "joint")
        if leads or how == "joint" or at == middle:
            pieces.append(segments)
        else:
            pieces[-1] += segments
    drops = sum(pieces)
    return TrunkCut(
        pieces_segments=tuple(pieces),
        cut_lengths_m=tuple(one * pitch_m for one in pieces),
        drops=drops,
        sealing_caps=drops - len(distances_m) - 1,
        extensions=extensions,
        joint_boxes=joints,
        end_caps=1 if feed == "end" else 2,
        length_m=drops * pitch_m,
    )


def middle_link(units: int) -> int | None:
    """The link in which a trunk fed in its middle is fed, from 0; None of a single unit."""
    return None if units == 1 else (units - units // 2) - 1


@rule
def units_dealt(*, units: UnitsDealt, most: MostOnBranch) -> tuple[int, ...]:
    """How many units go on each branch, as few branches as may be, as alike as may be?

    Larger branches first.
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
    Formula: distance_m ≤ reach_m.
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

    Formula: lead_m ≤ lead_in_m.
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

    Formula: furthest_m ≤ reach_m, with an extension_m where one is fitted.
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
