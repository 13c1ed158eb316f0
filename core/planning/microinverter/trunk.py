"""The trunk of each branch: how far its units are apart, what bridges that, what to cut."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from itertools import accumulate, pairwise
from math import fsum

from core.assessment.microinverter import CutPiece, LinkPlan, TrunkPlan
from core.job.microinverter import Branch, LinkHow, MicroPlan
from core.planning.microinverter.linked import links_for, way_m
from core.planning.microinverter.unit_places import MM_PER_M, UnitPlace
from core.rules.microinverter.trunk import TrunkParts, middle_link, trunk_link

# Links over which the cable runs on unbroken.
WHOLE: tuple[LinkHow, ...] = ("pitch", "drops")


def trunk_plan(plan: MicroPlan, branch: Branch, places: Mapping[str, UnitPlace]) -> TrunkPlan:
    """A branch's trunk from its fed end."""
    links = tuple(_link(plan, branch, places, *pair) for pair in pairwise(branch.units))
    if not branch.units or any(link.cable_m is None for link in links):
        return TrunkPlan(
            branch=branch.name,
            links=links,
            parts=None,
            cuts=(),
            joints=0,
            moment_m=None,
            length_m=None,
            units_m=(),
        )
    trunk = plan.types_of(branch).trunk
    first_m = trunk.lead_in_m if branch.feed == "end" else 0.0
    units_m = tuple(accumulate((link.cable_m or 0.0 for link in links), initial=first_m))
    joints = sum(link.how == "joint" for link in links)
    return TrunkPlan(
        branch=branch.name,
        links=links,
        parts=_parts(branch, links, joints),
        cuts=() if trunk.linked else _cuts(plan, branch, links),
        joints=joints,
        moment_m=_moment_m(plan, branch, links),
        length_m=units_m[-1],
        units_m=units_m,
    )


def _link(
    plan: MicroPlan, branch: Branch, places: Mapping[str, UnitPlace], start: str, end: str
) -> LinkPlan:
    known, trunk = branch.link_after(start), plan.types_of(branch).trunk
    drawn = _drawn_m(places.get(start), places.get(end))
    distance = known.length_m if known.length_m is not None else drawn
    one, other = places.get(start), places.get(end)
    jumps = one is None or other is None or (one.plane, one.row) != (other.plane, other.row)
    if trunk.linked is not None and known.how != "joint":
        links_mm = () if distance is None else links_for(trunk.linked, distance)
        reach = way_m(trunk.linked, links_mm)
        return LinkPlan(
            start=start, end=end, distance_m=distance, measured=known.length_m is not None,
            jumps=jumps, how="links", segments=1 if links_mm else 0, extensions=0, reach_m=reach,
            cable_m=reach, links_mm=links_mm,
        )  # fmt: skip
    rule = "extension" if known.how == "extension" else plan.gaps
    how: LinkHow = known.how or ("extension" if rule == "extension" else "drops")
    if distance is None:
        return LinkPlan(
            start=start, end=end, distance_m=None, measured=False, jumps=jumps, how=how,
            segments=0, extensions=0, reach_m=None, cable_m=None,
        )  # fmt: skip
    segments, extensions = trunk_link(
        distance, trunk.pitch_m, trunk.extension_m, "skip" if how == "drops" else "extension"
    )
    if how in ("joint", "pitch"):
        segments, extensions = 1, 0
        # Cut and joined in a box it is as long as it is made; a pitch is a pitch.
        reach = distance if how == "joint" else trunk.pitch_m
    else:
        reach = segments * trunk.pitch_m + extensions * trunk.extension_m
        how = "extension" if extensions else "drops"
    return LinkPlan(
        start=start,
        end=end,
        distance_m=distance,
        measured=known.length_m is not None,
        jumps=jumps,
        how=how,
        segments=segments,
        extensions=extensions,
        reach_m=reach,
        cable_m=reach,
    )


def _drawn_m(one: UnitPlace | None, other: UnitPlace | None) -> float | None:
    """The way between two units along the rows of one plane; None across planes."""
    if one is None or other is None or one.plane != other.plane:
        return None
    return (abs(other.x_mm - one.x_mm) + abs(other.y_mm - one.y_mm)) / MM_PER_M


def _parts(branch: Branch, links: tuple[LinkPlan, ...], joints: int) -> TrunkParts:
    segments = 1 + sum(link.segments for link in links)
    return TrunkParts(
        segments=segments,
        sealing_caps=segments - len(branch.units),
        extensions=sum(link.extensions for link in links),
        end_caps=1 if branch.feed == "end" else 2,
    )


def _cuts(plan: MicroPlan, branch: Branch, links: tuple[LinkPlan, ...]) -> tuple[CutPiece, ...]:
    """Unbroken lengths of trunk: an extension, a joint or a feed in the middle parts two."""
    found: list[CutPiece] = []
    pitch_m = plan.types_of(branch).trunk.pitch_m
    first, drops = branch.units[0], 1
    middle = None if branch.feed == "end" else middle_link(len(branch.units))
    ends = [*((link, link.start) for link in links), (None, branch.units[-1])]
    for at, (link, last) in enumerate(ends):
        if link is not None and link.how in WHOLE and at != middle:
            drops += link.segments
            continue
        found.append(
            CutPiece(
                branch=branch.name,
                number=len(found) + 1,
                drops=drops,
                length_m=drops * pitch_m,
                first=first,
                last=last,
            )
        )
        if link is not None:
            first, drops = link.end, link.segments
    return tuple(found)


def _moment_m(plan: MicroPlan, branch: Branch, links: tuple[LinkPlan, ...]) -> float:
    """Metre-units of the side that lifts more.

    Fed in the middle, the feed meets the trunk half way between the two middle units.
    """
    cable = [link.cable_m or 0.0 for link in links]
    if branch.feed == "end" or not cable:
        return _side_m(plan.types_of(branch).trunk.lead_in_m, cable)
    at = middle_link(len(branch.units)) or 0
    half = cable[at] / 2
    return max(_side_m(half, cable[:at][::-1]), _side_m(half, cable[at + 1 :]))


def _side_m(first_m: float, cable_m: list[float]) -> float:
    """Metre-units of one side: its first piece carries every unit's current, its last one's."""
    pieces = [first_m, *cable_m]
    return fsum(length * (len(pieces) - at) for at, length in enumerate(pieces))


def trunk_totals(trunks: tuple[TrunkPlan, ...]) -> Counter[str]:
    """The parts of every trunk that is known, by name."""
    total = Counter[str]()
    for trunk in trunks:
        if trunk.parts is None:
            continue
        total["segments"] += trunk.parts.segments
        total["sealing_caps"] += trunk.parts.sealing_caps
        total["extensions"] += trunk.parts.extensions
        total["end_caps"] += trunk.parts.end_caps
        total["joint_boxes"] += trunk.joints
    return total
