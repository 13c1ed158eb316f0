"""The serial map on paper: one plane on a sheet of A4, to scale, a field for every serial."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from core.assessment.microinverter import BranchState, RoofPlane, RoofStage, UnitState
from core.base.drawing import Drawing, Layer, Mark, Stroke, line, text
from core.base.messages import say
from core.job.job import Job
from core.sheets.frame import (
    BLOCK_MM,
    HEIGHT_MM,
    MARGIN_MM,
    WIDTH_MM,
    block_verdict,
    frame,
    title_block,
)

# Scales that a rule is made for.
SCALES = (20, 25, 30, 40, 50, 75, 100, 150, 200, 250, 500)
# Left free around the plane: for the branches' names above, the ruler below.
AROUND_MM, ABOVE_MM, BELOW_MM = 8.0, 16.0, 10.0
MOST_NAME_MM, LEAST_NAME_MM = 4.0, 1.2
# A serial of eleven signs fills a module's width at this share of it for its height.
SERIAL_SHARE, NAME_SHARE = 0.13, 0.2
LINE_MM = 3.2
RULER_M = 1.0
MM_PER_M = 1000.0


def map_sheets(job: Job, stage: RoofStage, made: str) -> tuple[Drawing, ...]:
    """A sheet for every plane that is drawn. made: when, for the title block."""
    drawn = [plane for plane in stage.planes if plane.drawn]
    return tuple(
        _sheet(job, stage, plane, made, say("sheet", "of", number=str(at), of=str(len(drawn))))
        for at, plane in enumerate(drawn, start=1)
    )


def _sheet(job: Job, stage: RoofStage, plane: RoofPlane, made: str, number: str) -> Drawing:
    wide = WIDTH_MM - 2 * (MARGIN_MM + AROUND_MM)
    high = HEIGHT_MM - 2 * MARGIN_MM - BLOCK_MM - ABOVE_MM - BELOW_MM
    scale = next(
        (s for s in SCALES if plane.width_mm / s <= wide and plane.height_mm / s <= high),
        SCALES[-1],
    )
    left = MARGIN_MM + AROUND_MM + (wide - plane.width_mm / scale) / 2
    top = MARGIN_MM + ABOVE_MM
    units = {unit.name: unit for unit in stage.units if unit.plane == plane.name}
    branches = [b for b in stage.branches if any(name in units for name in b.units)]
    what = say("sheet", "map_what", plane=plane.name, scale=str(scale))
    marks = [
        *frame(),
        *(mark for branch in branches for mark in _walk(branch, units, left, top, scale)),
        *_modules(plane, units, left, top, scale),
        *_heads(branches),
        *_ruler(scale, number),
        *title_block(
            job,
            what,
            say("sheet", "to_scale"),
            say("sheet", "map_stands", verdict=stage.map.verdict),
            made,
        ),
    ]
    return Drawing(
        title=say("sheet", "map", name=job.name, plane=plane.name),
        width_mm=WIDTH_MM,
        height_mm=HEIGHT_MM,
        marks=tuple(marks),
        verdicts=(block_verdict(stage.map.verdict),),
    )


def _rect(layer: Layer, x: float, y: float, w: float, h: float) -> Mark:
    return Mark(layer=layer, stroke=Stroke(kind="rect", at=(x, y, w, h)))


def _modules(
    plane: RoofPlane, units: dict[str, UnitState], left: float, top: float, scale: float
) -> Iterator[Mark]:
    """Every module, and under the first of each unit the unit's name and serial."""
    wide, high = plane.module_w_mm / scale, plane.module_h_mm / scale
    for module in plane.modules:
        x, y = left + module.x_mm / scale, top + module.y_mm / scale
        yield _rect("frame", x, y, wide, high)
        unit = units.get(module.unit)
        if unit is not None and module.input == 1:
            yield from _named(unit, x, y, wide, high)


def _named(unit: UnitState, x: float, y: float, wide: float, high: float) -> Iterator[Mark]:
    name_mm = min(MOST_NAME_MM, max(LEAST_NAME_MM, wide * NAME_SHARE))
    serial_mm = min(MOST_NAME_MM, max(LEAST_NAME_MM, wide * SERIAL_SHARE))
    middle = x + wide / 2
    place = f"{unit.branch}.{unit.number}" if unit.branch else ""
    yield text(f"{unit.name}  {place}".strip(), middle, y + high * 0.52, name_mm, strong=True)
    if unit.serial:
        yield text(unit.serial, middle, y + high * 0.52 + 1.5 * serial_mm, serial_mm)
        return
    # Room to write, or to stick the label.
    yield _rect("text", x + 0.08 * wide, y + 0.6 * high, 0.84 * wide, 0.28 * high)


def _walk(
    branch: BranchState, units: dict[str, UnitState], left: float, top: float, scale: float
) -> Iterator[Mark]:
    """The trunk through the units of the plane in walking order, a box at each."""
    size = 2.0
    at = [
        (left + unit.x_mm / scale, top + unit.y_mm / scale)
        for name in branch.units
        if (unit := units.get(name)) is not None and unit.x_mm is not None and unit.y_mm is not None
    ]
    for (x1, y1), (x2, y2) in pairwise(at):
        yield line("ac", x1, y1, x2, y2)
    for x, y in at:
        yield _rect("symbol", x - size / 2, y - size / 2, size, size)


def _heads(branches: list[BranchState]) -> Iterator[Mark]:
    y = MARGIN_MM + 6.0
    x = MARGIN_MM + AROUND_MM
    for branch in branches:
        words = say(
            "sheet",
            "branch",
            name=branch.name,
            phase=f"{branch.phase_name}, " if branch.phase_name else "",
            count=str(len(branch.units)),
            feed=say("sheet", f"fed_{branch.feed}"),
        )
        yield text(words, x, y, LINE_MM, anchor="start", strong=True)
        x += 70.0
        if x > WIDTH_MM - MARGIN_MM - 60.0:
            x, y = MARGIN_MM + AROUND_MM, y + 1.4 * LINE_MM


def _ruler(scale: float, number: str) -> Iterator[Mark]:
    """One metre at the sheet's scale, to check the print by."""
    x, y = MARGIN_MM + AROUND_MM, HEIGHT_MM - MARGIN_MM - BLOCK_MM - 4.0
    length = RULER_M * MM_PER_M / scale
    yield line("frame", x, y, x + length, y)
    for end in (x, x + length):
        yield line("frame", end, y - 1.2, end, y + 1.2)
    yield text(say("sheet", "ruler"), x + length + 2, y + 1, LINE_MM, anchor="start")
    yield text(number, WIDTH_MM - MARGIN_MM - 4, y + 1, LINE_MM, anchor="end")
