"""What a roof of microinverters needs beyond its modules: trunk parts, leads, caps, earthing."""

from __future__ import annotations

import math
from collections import defaultdict
from dataclasses import dataclass

from core.assessment.microinverter import TrunkPlan
from core.base.glossary import UnitEarth
from core.base.trace import kept_ready
from core.equipment.micro import Trunk
from core.equipment.module import Module
from core.job.job import Job
from core.job.microinverter import MicroPlan
from core.job.roof import Plane
from core.planning.microinverter.linked import link_joints, links_used
from core.planning.microinverter.trunk import trunk_plan, trunk_totals
from core.planning.microinverter.unit_places import MM_PER_M, UnitPlace, drawn, unit_places

ROOFS_KEPT = 64
EARTH_WAYS: tuple[UnitEarth, ...] = ("core", "washer", "wire")


@dataclass(frozen=True, kw_only=True)
class TrunkNeeds:
    """Parts of one type of trunk over all its branches; None where the roof does not say yet.

    connectors, links, link_joints: of one put together link by link, its links by length [mm].
    """

    trunk: Trunk
    branches: float
    segments: float | None
    sealing_caps: float | None
    extensions: float | None
    end_caps: float | None
    trunk_joints: float | None
    connectors: float | None
    link_joints: float | None
    links: tuple[tuple[int, int], ...]


@dataclass(frozen=True, kw_only=True)
class RoofParts:
    """Counts of one roof; None where the roof does not say yet.

    wire_m: of the separate earth wire along the rows of units. trunks: what each type of trunk on
    the roof takes.
    """

    units: float
    branches: float
    joint_boxes: float
    tees: float
    capped_inputs: float
    dc_leads: float | None
    wire_m: float | None
    trunks: tuple[TrunkNeeds, ...]


@dataclass(frozen=True, kw_only=True)
class Roof:
    """One roof of microinverters looked at once: where units hang, what trunks they are on."""

    plan: MicroPlan
    places: dict[str, UnitPlace]
    trunks: dict[str, TrunkPlan]
    parts: RoofParts


def roof_of(job: Job) -> Roof:
    """Places, trunks and parts of a job's roof. Raises Refused on a job with a wall inverter."""
    rules = job.rules.load_in
    return _roof(job.roof_plan, job.planes, job.module, rules.clamp_gap.value, rules.rail_end.value)


@kept_ready(ROOFS_KEPT)
def _roof(
    plan: MicroPlan,
    planes: tuple[Plane, ...],
    module: Module,
    clamp_gap_mm: float,
    rail_end_mm: float,
) -> Roof:
    places = unit_places(plan, drawn(planes, module, clamp_gap_mm, rail_end_mm))
    trunks = {one.name: trunk_plan(plan, one, places) for one in plan.branches}
    return Roof(plan=plan, places=places, trunks=trunks, parts=_parts(plan, places, trunks))


def _parts(
    plan: MicroPlan, places: dict[str, UnitPlace], trunks: dict[str, TrunkPlan]
) -> RoofParts:
    used = [branch for branch in plan.branches if branch.units]
    on_branches = sum(len(branch.units) for branch in used)
    # Nothing is counted while a unit is on no branch, or a way is not known.
    is_whole = (
        bool(used)
        and on_branches == len(plan.units)
        and all(trunks[branch.name].parts for branch in used)
    )
    is_placed = len(places) == len(plan.units)
    return RoofParts(
        units=float(len(plan.units)),
        branches=float(len(used)),
        joint_boxes=float(len(used)),
        tees=float(sum(branch.feed == "centre" and len(branch.units) > 1 for branch in used)),
        capped_inputs=float(
            sum(plan.sheet_of(one).inputs - len(one.modules) for one in plan.units)
        ),
        dc_leads=float(sum(map(len, extended(plan, places).values()))) if is_placed else None,
        wire_m=_wire_m(places) if is_placed and places else None,
        trunks=tuple(
            _needs(
                trunk, [trunks[o.name] for o in used if plan.types_of(o).trunk == trunk], is_whole
            )
            for trunk in plan.trunk_types
        ),
    )


def _needs(trunk: Trunk, known: list[TrunkPlan], is_whole: bool) -> TrunkNeeds:
    """What one type of trunk takes."""
    total, linked = trunk_totals(tuple(known)), trunk.linked is not None

    def counted(what: str) -> float | None:
        return float(total[what]) if is_whole else None

    return TrunkNeeds(
        trunk=trunk,
        branches=float(len(known)),
        segments=0.0 if linked else counted("segments"),
        sealing_caps=counted("sealing_caps"),
        extensions=counted("extensions"),
        end_caps=counted("end_caps"),
        trunk_joints=counted("joint_boxes"),
        connectors=counted("segments") if linked else 0.0,
        link_joints=(float(link_joints(known)) if is_whole else None) if linked else 0.0,
        links=tuple(sorted(links_used(known).items())) if is_whole else (),
    )


def extended(plan: MicroPlan, places: dict[str, UnitPlace]) -> dict[str, tuple[int, ...]]:
    """By unit the inputs, from 1, whose module lies beyond the reach of its leads."""
    found = {}
    for name, place in places.items():
        reach_m = plan.types_on(place.plane).unit.lead_reach_mm / MM_PER_M
        far = tuple(at for at, way_m in enumerate(place.module_m, start=1) if way_m > reach_m)
        if far:
            found[name] = far
    return found


def _wire_m(places: dict[str, UnitPlace]) -> float:
    """Along every row from its first unit to its last, and down from row to row of a plane."""
    rows: dict[str, dict[float, list[float]]] = defaultdict(lambda: defaultdict(list))
    for place in places.values():
        rows[place.plane][place.y_mm].append(place.x_mm)
    along = math.fsum(max(x) - min(x) for plane in rows.values() for x in plane.values())
    down = math.fsum(max(plane) - min(plane) for plane in rows.values())
    return float(math.ceil(round((along + down) / MM_PER_M, 6)))
