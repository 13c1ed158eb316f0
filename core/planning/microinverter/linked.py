"""A trunk put together link by link: what bridges each way, and whether its marks can meet."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from math import fsum
from typing import NamedTuple

from core.assessment.microinverter import LinkPlan, TrunkPlan
from core.base.messages import figure, say
from core.base.trace import kept_ready
from core.equipment.linked_trunk import LinkedParts, LinkPiece
from core.planning.microinverter.unit_places import MM_PER_M
from core.rules.microinverter.trunk_links import MM_DIGITS, linked_trunk

WAYS_KEPT = 4096


@kept_ready(WAYS_KEPT)
def links_for(parts: LinkedParts, distance_m: float) -> tuple[int, ...]:
    """The links that bridge one way [mm], shortest first; empty where none together do."""
    found = linked_trunk(
        distances_mm=(max(round(distance_m * MM_PER_M), 1),),
        link_lengths_mm=parts.links_mm,
        joint_mm=parts.joint_mm,
        slack_least_mm=parts.slack_least_mm,
        slack_most_mm=parts.slack_most_mm,
    )
    return found.links_mm[0]


def way_m(parts: LinkedParts, links_mm: Sequence[int]) -> float | None:
    """Links and the joints between them, end to end; None of none."""
    if not links_mm:
        return None
    return (fsum(links_mm) + (len(links_mm) - 1) * parts.joint_mm) / MM_PER_M


def links_used(trunks: Sequence[TrunkPlan]) -> Counter[int]:
    """How many links of each length [mm] all trunks take."""
    return Counter(mm for trunk in trunks for link in trunk.links for mm in link.links_mm)


def link_joints(trunks: Sequence[TrunkPlan]) -> int:
    """How many joints of two links all trunks take."""
    return sum(max(len(link.links_mm) - 1, 0) for trunk in trunks for link in trunk.links)


def pieces_laid(parts: LinkedParts, links: Sequence[LinkPlan]) -> Iterator[tuple[LinkPiece, ...]]:
    """The pieces of a trunk from its first unit, as they come out of their bag.

    One row for each stretch between two boxes, in which its ends are made up anew.
    """
    row = [parts.connector]
    for link in links:
        if not link.links_mm:
            yield tuple(row)
            row = [parts.connector]
            continue
        for number in range(len(link.links_mm)):
            row += [parts.joint, parts.link] if number else [parts.link]
        row.append(parts.connector)
    yield tuple(row)


class LinkedGoods(NamedTuple):
    """One thing that a trunk put together link by link needs beyond connectors and joints."""

    what: str
    needed: float
    by: str


def linked_goods(
    parts: LinkedParts | None, links: Sequence[tuple[int, int]], branches: float
) -> Iterator[LinkedGoods]:
    """Links by their length, and the parts of the cables to the boxes."""
    if parts is None:
        return
    for mm, count in links:
        what = say("roof_parts", "link", length=figure(mm / MM_PER_M, "m", MM_DIGITS))
        yield LinkedGoods(what, float(count), say("roof_parts", "link_by"))
    for name in parts.end_cable:
        what = say("roof_parts", "end_cable", what=name)
        yield LinkedGoods(what, branches, say("roof_parts", "end_cable_by"))
