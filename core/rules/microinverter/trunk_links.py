"""A trunk built link by link: connectors, links of several lengths, joints, matching marks."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from itertools import combinations_with_replacement
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.glossary import Name, WholeWayM
from core.base.judgement import Judgement, holds
from core.base.messages import figure
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.equipment.linked_trunk import JointMm, LinkPiece, Links, SlackMm

BetweenMm = Annotated[int, Quantity("distance between two units", "mm", 1, 60_000)]
InStock = Annotated[int, Quantity("links in stock", "", 0, 2000)]
FreeEnds = Annotated[int, Quantity("free ends of the trunk", "", 0, 4)]
SpareConnectors = Annotated[int, Quantity("connectors without a unit", "", 0, 60)]
Between = Annotated[tuple[BetweenMm, ...], Items("distances between units", 0, 60)]
Counts = Annotated[tuple[InStock, ...], Items("links in stock, by length", 1, 8)]
TRUNK_SOURCE = "trunk sheet"
MM_PER_M, MM_DIGITS = 1000.0, 3
# More links than this between two units, or states of a limited stock, are no plan but a slip.
MOST_LINKS, MOST_STATES = 12, 200_000


@dataclass(frozen=True, kw_only=True)
class LinkedTrunk:
    """What a trunk is put together from.

    unmet: distances that no links meet, from 1. links_mm: the links of each distance, shortest
    first; empty where unmet. ways_mm: links and joints of each distance; None where unmet.
    """

    unmet: tuple[int, ...]
    links_mm: tuple[tuple[int, ...], ...]
    ways_mm: tuple[int | None, ...]
    connectors: int
    by_length: tuple[tuple[int, int], ...]
    joints: int
    end_caps: int
    sealing_caps: int
    links_total_mm: int
    pieces: int


@rule
def linked_trunk(
    *,
    distances_mm: Between,
    link_lengths_mm: Links,
    joint_mm: JointMm = 0,
    slack_least_mm: SlackMm = 0,
    slack_most_mm: SlackMm = 0,
    free_ends: FreeEnds = 1,
    spare_connectors: SpareConnectors = 0,
    stock: Counts | None = None,
) -> LinkedTrunk:
    """Which links, joints and caps does a trunk need from its first unit to its last?

    One connector for each unit; between two of them links end to end, a joint between two links.
    Formula: distance + least slack ≤ links + joints ≤ distance + most slack, exactly so allowed;
    fewest joints in the whole trunk, then least length. stock: how many of each length are there,
    in the order of the lengths; None: as many as it takes. Spare connectors get a sealing cap.
    Raises Refused when the slacks are crossed, the stock is not as long as the lengths, or too
    many ways lead through it.
    Source: trunk sheet; arithmetic (search over sets of links).
    """
    if slack_least_mm > slack_most_mm:
        raise Refused([problem("$.slack_least_mm", slack_least_mm, f"at most {slack_most_mm} mm")])
    if stock is not None and len(stock) != len(link_lengths_mm):
        raise Refused([problem("$.stock", len(stock), f"{len(link_lengths_mm)} counts")])
    lengths = tuple(sorted(set(link_lengths_mm)))
    choices = [
        tuple(_sets(one, lengths, joint_mm, (slack_least_mm, slack_most_mm)))
        for one in distances_mm
    ]
    chosen = (
        tuple(min(sets, key=_cost, default=()) for sets in choices)
        if stock is None
        else _from_stock(choices, lengths, dict(zip(link_lengths_mm, stock, strict=True)))
    )
    used = Counter(length for links in chosen for length in links)
    joints = sum(len(links) - 1 for links in chosen if links)
    connectors = len(distances_mm) + 1 + spare_connectors
    return LinkedTrunk(
        unmet=tuple(at for at, links in enumerate(chosen, start=1) if not links),
        links_mm=chosen,
        ways_mm=tuple(
            sum(links) + (len(links) - 1) * joint_mm if links else None for links in chosen
        ),
        connectors=connectors,
        by_length=tuple((length, used[length]) for length in lengths),
        joints=joints,
        end_caps=free_ends,
        sealing_caps=spare_connectors,
        links_total_mm=sum(used.elements()),
        pieces=connectors + used.total() + joints + free_ends + spare_connectors,
    )


def _cost(links: tuple[int, ...]) -> tuple[int, int]:
    return len(links), sum(links)


def _sets(
    distance: int, lengths: tuple[int, ...], joint: int, slack: tuple[int, int]
) -> Iterator[tuple[int, ...]]:
    """Every set of links that meets a distance, fewest first."""
    low, high = distance + slack[0], distance + slack[1]
    for count in range(1, MOST_LINKS + 1):
        joints = (count - 1) * joint
        if count * lengths[0] + joints > high:
            return
        if count * lengths[-1] + joints < low:
            continue
        for links in combinations_with_replacement(lengths, count):
            if low <= sum(links) + joints <= high:
                yield links


def _from_stock(
    choices: list[tuple[tuple[int, ...], ...]], lengths: tuple[int, ...], stock: dict[int, int]
) -> tuple[tuple[int, ...], ...]:
    """The links of each distance out of what is there: fewest unmet, then joints, then length."""
    seen = 0

    @cache
    def best(
        at: int, left: tuple[int, ...]
    ) -> tuple[tuple[int, int, int], tuple[tuple[int, ...], ...]]:
        nonlocal seen
        seen += 1 + (len(choices[at]) if at < len(choices) else 0)
        if seen > MOST_STATES:
            said = "Too many ways lead through this stock: give fewer lengths or distances."
            raise Refused([problem("$.stock", len(lengths), "fewer lengths", said)])
        if at == len(choices):
            return (0, 0, 0), ()
        (unmet, joints, length), rest = best(at + 1, left)
        found = ((unmet + 1, joints, length), ((), *rest))
        for links in choices[at]:
            after = tuple(have - links.count(one) for one, have in zip(lengths, left, strict=True))
            if min(after) < 0:
                continue
            (unmet, joints, length), rest = best(at + 1, after)
            cost = (unmet, joints + len(links) - 1, length + sum(links))
            found = min(found, (cost, (links, *rest)))
        return found

    return best(0, tuple(stock[one] for one in lengths))[1]


Laid = Annotated[tuple[LinkPiece, ...], Items("pieces of the trunk", 1, 400)]


@dataclass(frozen=True, kw_only=True)
class MarksMet:
    """Which pieces to turn round so that the ends that meet carry one mark.

    turned: pieces from 1, the fewest; None where no turning helps. wrong: meetings that do not
    match as laid, each by its left piece.
    """

    turned: tuple[int, ...] | None
    wrong: tuple[int, ...]


@rule
def marks_met(*, pieces: Laid) -> MarksMet:
    """Which pieces of a trunk must be turned, so that every two ends that meet match?

    The first piece is fixed at the box. Turning a piece swaps its two ends.
    Source: trunk sheet (dynamic programme along the trunk).
    """
    wrong = tuple(at for at in range(1, len(pieces)) if pieces[at - 1].right != pieces[at].left)
    # By the mark at its far end: the fewest turned until here.
    ways: dict[str, tuple[int, ...]] = {pieces[0].right: ()}
    for number, piece in enumerate(pieces[1:], start=2):
        onward: dict[str, tuple[int, ...]] = {}
        for near, far, more in (
            (piece.left, piece.right, ()),
            (piece.right, piece.left, (number,)),
        ):
            before = ways.get(near)
            if before is None:
                continue
            turned = (*before, *more)
            if far not in onward or len(turned) < len(onward[far]):
                onward[far] = turned
        ways = onward
    return MarksMet(turned=min(ways.values(), key=len, default=None), wrong=wrong)


@rule
def link_marks(*, pieces: Laid) -> Judgement:
    """Do the ends of the trunk's pieces match as they lie?

    A wrong meeting does not seal: stop, with the pieces to turn.
    Source: trunk sheet.
    """
    met = marks_met(pieces=pieces)
    if not met.wrong:
        return holds("link_marks", True, TRUNK_SOURCE)
    return holds(
        "link_marks_no_way" if met.turned is None else "link_marks_turn",
        False,
        TRUNK_SOURCE,
        wrong=", ".join(map(str, met.wrong)),
        turned=", ".join(map(str, met.turned or ())),
    )


@rule
def trunk_links_meet(
    *, distance_m: WholeWayM, start: Name, end: Name, links_mm: tuple[int, ...]
) -> Judgement:
    """Do links together bridge the way from one unit to the next?

    links_mm: those that do; empty where no set of them is neither too short nor too slack.
    Source: trunk sheet.
    """
    shown = " + ".join(figure(mm / MM_PER_M, "m", MM_DIGITS) for mm in links_mm)
    way = figure(distance_m, "m", MM_DIGITS)
    met = bool(links_mm)
    return holds("trunk_links_meet", met, TRUNK_SOURCE, start=start, end=end, links=shown, way=way)


@rule
def trunk_pieces(*, can_meet: bool) -> Judgement:
    """Can the pieces of this sheet be laid so that every two ends that meet carry one mark?

    Source: trunk sheet.
    """
    return holds("trunk_pieces", can_meet, TRUNK_SOURCE)
