"""Units under modules: which modules go on one unit, and where each unit hangs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import fsum

from core.base.errors import Refused
from core.base.judgement import fits
from core.equipment.module import Module
from core.job.job import Job
from core.job.microinverter import MicroPlan, MicroUnit
from core.job.roof import ModulePlace, Plane
from core.planning.microinverter.roof_layout import Block, ModuleBox, PlaneLayout, plane_layout
from core.rules.microinverter.matching import Cost, Partners, matched

MM_PER_M = 1000.0
# In the comparison of ways: units are kept along the rows where that takes no more of them, and
# the odd one out is the last.
ACROSS_MM, LAST_MM = 100_000.0, 1e-3
PAIR = 2


@dataclass(frozen=True, kw_only=True)
class UnitPlace:
    """Where a unit's middle hangs on its plane, and how far each of its modules' middles is [m].

    auto_x_mm: where it hangs when nobody moved it.
    """

    unit: str
    plane: str
    row: int
    x_mm: float
    y_mm: float
    auto_x_mm: float
    covered: bool
    module_m: tuple[float, ...]


def layouts(job: Job) -> dict[str, PlaneLayout]:
    """Every plane of a job that is drawn, to scale."""
    rules = job.rules.load_in
    return drawn(job.planes, job.module, rules.clamp_gap.value, rules.rail_end.value)


def drawn(
    planes: tuple[Plane, ...], module: Module, clamp_gap_mm: float, rail_end_mm: float
) -> dict[str, PlaneLayout]:
    """Every plane that is drawn, to scale. module: of those that name no type of their own."""
    made = (
        plane_layout(plane, plane.module or module, clamp_gap_mm, rail_end_mm) for plane in planes
    )
    return {one.plane: one for one in made if one is not None}


def proposed_units(job: Job, plan: MicroPlan) -> tuple[MicroUnit, ...]:
    """Units for every module of the roof, as few as may be, row by row.

    Neighbours of a row share a unit before modules across a gap do, and those before modules of two
    rows; what is left over gets a unit of its own, with one input capped. Units keep their names
    by the modules they are under.
    """
    laid = layouts(job)
    groups = [
        group for plane in job.planes for group in _plane_groups(plane, plan, laid.get(plane.name))
    ]
    was = {unit.modules: unit for unit in plan.units}
    kept = [was.get(group) for group in groups]
    # A name that something was read of stays with its unit, in the plan or out of it.
    read = {reading.subject.partition(" ")[0] for reading in job.readings}
    taken = {unit.name for unit in plan.units if unit.name in read}
    fresh = unit_names(taken | {one.name for one in kept if one} | set(job.retired))
    return tuple(
        unit or MicroUnit(name=next(fresh), modules=group)
        for unit, group in zip(kept, groups, strict=True)
    )


def _plane_groups(
    plane: Plane, plan: MicroPlan, layout: PlaneLayout | None
) -> list[tuple[ModulePlace, ...]]:
    """The modules of each unit of a plane, in the order of rows and columns."""
    inputs = plan.types_on(plane.name).unit.inputs
    along_runs = [
        group
        for row in range(1, len(plane.rows) + 1)
        for run in _runs(plane, row)
        for group in _grouped(run, inputs)
    ]
    odd = sum(len(group) < inputs for group in along_runs)
    # Only two left over can make one unit less.
    if layout is None or inputs == 1 or odd < PAIR:
        return along_runs
    return _matched(layout, plan) or along_runs


def _matched(layout: PlaneLayout, plan: MicroPlan) -> list[tuple[ModulePlace, ...]] | None:
    """Fewest units, then leads, then as much along the rows as may be; None where the plane has
    too many ways to try them all."""
    boxes = sorted(
        ((block, box) for block in layout.blocks for box in block.modules),
        key=lambda one: (
            (one[1].x_mm, one[1].y_mm)
            if layout.width_mm >= layout.height_mm
            else (one[1].y_mm, one[1].x_mm)
        ),
    )
    partners: Partners = [[] for _ in boxes]
    for at, one in enumerate(boxes):
        for number in range(at + 1, len(boxes)):
            cost = _shared_cost(layout, plan, one, boxes[number])
            if cost is not None:
                partners[at].append((number, cost))
    # Of several that could be the odd one out, the last.
    alone: list[Cost] = [(1, 0, (len(boxes) - at) * LAST_MM) for at in range(len(boxes))]
    try:
        found = matched(partners, alone)
    except Refused:
        return None
    groups = [
        tuple(sorted((boxes[at][1].place for at in pair if at is not None), key=_reading_order))
        for pair in found.pairs
    ]
    return sorted(groups, key=lambda group: _reading_order(group[0]))


def _reading_order(place: ModulePlace) -> tuple[int, int]:
    return place.row, place.column


def _shared_cost(
    layout: PlaneLayout,
    plan: MicroPlan,
    one: tuple[Block, ModuleBox],
    other: tuple[Block, ModuleBox],
) -> Cost | None:
    """What two modules on one unit cost: extension leads, ways; None where leads do not reach."""
    ways = _ways_mm(layout, plan, one, other)
    unit = plan.types_on(layout.plane).unit
    reach = unit.lead_reach_mm
    longer = reach + (unit.dc_lead_m or 0.0) * MM_PER_M
    if not all(fits(way, longer) for way in ways):
        return None
    leads = sum(not fits(way, reach) for way in ways)
    rows = abs(one[1].place.row - other[1].place.row)
    apart = ACROSS_MM * (one[0] is not other[0]) * (1 + rows)
    return 1, leads, fsum(ways) + apart


def _ways_mm(
    layout: PlaneLayout,
    plan: MicroPlan,
    one: tuple[Block, ModuleBox],
    other: tuple[Block, ModuleBox],
) -> tuple[float, float]:
    """How far the middles of two modules are from the unit that they share.

    Half way between them; across a gap of a row under the nearer edge of one of them, for a unit
    hangs under a module.
    """
    across = abs(other[1].x_mm - one[1].x_mm)
    down = abs(other[1].y_mm - one[1].y_mm)
    if one[0] is other[0] or down:
        return (across + down) / 2, (across + down) / 2
    near = (layout.module_w_mm - plan.types_on(layout.plane).unit.width_mm) / 2
    return near, across - near


def unit_names(taken: set[str]) -> Iterator[str]:
    """Names for new units: U1, U2 and on, none that was taken."""
    number = 0
    while True:
        number += 1
        if f"U{number}" not in taken:
            yield f"U{number}"


def _runs(plane: Plane, row: int) -> Iterator[tuple[ModulePlace, ...]]:
    """The unbroken runs of a row."""
    column = 1
    for run in plane.rows[row - 1].split("."):
        if run:
            yield tuple(
                ModulePlace(plane=plane.name, row=row, column=column + at) for at in range(len(run))
            )
        column += len(run) + 1


def _grouped(run: tuple[ModulePlace, ...], inputs: int) -> list[tuple[ModulePlace, ...]]:
    return [run[at : at + inputs] for at in range(0, len(run), inputs)]


def unit_places(plan: MicroPlan, laid: dict[str, PlaneLayout]) -> dict[str, UnitPlace]:
    """Where every unit hangs whose plane is drawn to scale."""
    boxes = {
        name: {box.place: (block, box) for block in one.blocks for box in block.modules}
        for name, one in laid.items()
    }
    found = {}
    for unit in plan.units:
        plane = unit.modules[0].plane
        if all(place in boxes.get(place.plane, {}) for place in unit.modules):
            found[unit.name] = _placed(plan, unit, laid[plane], boxes)
    return found


def _placed(
    plan: MicroPlan,
    unit: MicroUnit,
    layout: PlaneLayout,
    boxes: dict[str, dict[ModulePlace, tuple[Block, ModuleBox]]],
) -> UnitPlace:
    own = [boxes[place.plane][place] for place in unit.modules]
    width = layout.module_w_mm
    middles = [box.middle_mm(width) for _, box in own]
    half = plan.sheet_of(unit).width_mm / 2
    auto_x = fsum(middles) / len(middles)
    (block, first), last = own[0], own[-1]
    if block is not last[0] and first.y_mm == last[1].y_mm:
        # Across a gap of a row: under the edge of its first module that looks to the other.
        auto_x = middles[0] + (width / 2 - half) * (1 if middles[-1] > middles[0] else -1)
    x_mm, row = auto_x + unit.shift_mm, unit.modules[0].row
    left, right = block.modules[0].x_mm, block.modules[-1].x_mm + width
    middle_y = fsum(box.y_mm for _, box in own) / len(own)
    y_mm = layout.unit_y_mm(row) + middle_y - first.y_mm
    return UnitPlace(
        unit=unit.name,
        plane=layout.plane,
        row=row,
        x_mm=x_mm,
        y_mm=y_mm,
        auto_x_mm=auto_x,
        covered=left <= x_mm - half and x_mm + half <= right,
        module_m=tuple(
            (abs(middle - x_mm) + abs(box.y_mm - middle_y)) / MM_PER_M
            for middle, (_, box) in zip(middles, own, strict=True)
        ),
    )
