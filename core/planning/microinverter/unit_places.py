"""Units under modules: which modules go on one unit, and where each unit hangs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.equipment.module import Module
from core.job.job import Job
from core.job.microinverter import MicroPlan, MicroUnit
from core.job.roof import ModulePlace, Plane
from core.planning.microinverter.roof_layout import Block, ModuleBox, PlaneLayout, plane_layout

MM_PER_M = 1000.0


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
    """Every plane that is drawn, to scale."""
    made = (plane_layout(plane, module, clamp_gap_mm, rail_end_mm) for plane in planes)
    return {one.plane: one for one in made if one is not None}


def proposed_units(job: Job, plan: MicroPlan) -> tuple[MicroUnit, ...]:
    """Units for every module of the roof, row by row.

    Pairs are formed from the left inside each unbroken run; the odd module out gets a unit of
    its own, with one input capped. Units keep their names by the modules they are under.
    """
    groups = [
        group
        for plane in job.planes
        for row in range(1, len(plane.rows) + 1)
        for run in _runs(plane, row)
        for group in _grouped(run, plan.unit.inputs)
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
    auto_x = sum(middles) / len(middles)
    x_mm, row = auto_x + unit.shift_mm, unit.modules[0].row
    block = own[0][0]
    half = plan.unit.width_mm / 2
    left, right = block.modules[0].x_mm, block.modules[-1].x_mm + width
    y_mm = layout.unit_y_mm(row)
    return UnitPlace(
        unit=unit.name,
        plane=layout.plane,
        row=row,
        x_mm=x_mm,
        y_mm=y_mm,
        auto_x_mm=auto_x,
        covered=left <= x_mm - half and x_mm + half <= right,
        module_m=tuple(
            (abs(middle - x_mm) + abs(box.y_mm - own[0][1].y_mm)) / MM_PER_M
            for middle, (_, box) in zip(middles, own, strict=True)
        ),
    )
