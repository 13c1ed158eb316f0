"""A roof plane to scale: where each module lies, its rails, its unbroken runs.

Places are in mm: x to the right along the eaves from the plane's left-most edge of modules, y
down from the upper edge of the first row.
"""

from __future__ import annotations

from dataclasses import dataclass

from core.assessment.microinverter import Rail
from core.base.trace import kept_ready
from core.equipment.module import Module
from core.job.roof import MODULE_CELL, ModulePlace, Plane

# Rails lie in the clamping zone of a module's long sides, about a quarter from each end: trade
# practice; the module maker's own zone wins.
RAIL_SHARES = (0.25, 0.75)
LAYOUTS_KEPT = 256


@dataclass(frozen=True, kw_only=True)
class ModuleBox:
    """One module as it lies."""

    place: ModulePlace
    x_mm: float
    y_mm: float

    def middle_mm(self, width_mm: float) -> float:
        """Its middle along the row."""
        return self.x_mm + width_mm / 2


@dataclass(frozen=True, kw_only=True)
class Block:
    """An unbroken run of modules in one row, from left to right."""

    row: int
    modules: tuple[ModuleBox, ...]


@dataclass(frozen=True, kw_only=True)
class PlaneLayout:
    """One plane to scale. gap_mm: between neighbours in a row."""

    plane: str
    module_w_mm: float
    module_h_mm: float
    gap_mm: float
    width_mm: float
    height_mm: float
    blocks: tuple[Block, ...]
    rails: tuple[Rail, ...]

    def unit_y_mm(self, row: int) -> float:
        """Where the units of a row hang: on its upper rail."""
        return self._row_y_mm(row) + RAIL_SHARES[0] * self.module_h_mm

    def _row_y_mm(self, row: int) -> float:
        return next(b.modules[0].y_mm for b in self.blocks if b.row == row)

    def block_of(self, place: ModulePlace) -> Block:
        """The unbroken run that a module lies in."""
        return next(b for b in self.blocks for box in b.modules if box.place == place)


@kept_ready(LAYOUTS_KEPT)
def plane_layout(
    plane: Plane, module: Module, clamp_gap_mm: float, rail_end_mm: float
) -> PlaneLayout | None:
    """A plane to scale; None while it is not drawn, or the module's sheet gives no sides."""
    if not plane.modules or module.long_mm is None or module.short_mm is None:
        return None
    sides = (module.short_mm, module.long_mm)
    width, height = sides if plane.orientation == "portrait" else sides[::-1]
    row_gap = clamp_gap_mm if plane.row_gap_mm is None else plane.row_gap_mm
    rows = [
        _row(plane, number, width, clamp_gap_mm, (number - 1) * (height + row_gap))
        for number in range(1, len(plane.rows) + 1)
    ]
    blocks = tuple(block for row in rows for block in row)
    left = min(block.modules[0].x_mm for block in blocks)
    top = min(block.modules[0].y_mm for block in blocks)
    blocks = tuple(_moved(block, left, top) for block in blocks)
    return PlaneLayout(
        plane=plane.name,
        module_w_mm=width,
        module_h_mm=height,
        gap_mm=clamp_gap_mm,
        width_mm=max(block.modules[-1].x_mm for block in blocks) + width,
        height_mm=max(block.modules[0].y_mm for block in blocks) + height,
        blocks=blocks,
        rails=tuple(
            Rail(
                x_mm=block.modules[0].x_mm - rail_end_mm,
                y_mm=block.modules[0].y_mm + share * height,
                length_mm=block.modules[-1].x_mm - block.modules[0].x_mm + width + 2 * rail_end_mm,
            )
            for block in blocks
            for share in RAIL_SHARES
        ),
    )


def _row(plane: Plane, number: int, width: float, gap: float, y_mm: float) -> list[Block]:
    measured = {(one.row, one.column): one.width_mm for one in plane.gaps}
    found: list[Block] = []
    run: list[ModuleBox] = []
    cursor = 0.0
    for column, cell in enumerate(plane.rows[number - 1], start=1):
        if cell == MODULE_CELL:
            place = ModulePlace(plane=plane.name, row=number, column=column)
            run.append(ModuleBox(place=place, x_mm=cursor, y_mm=y_mm))
            cursor += width + gap
            continue
        if run:
            found.append(Block(row=number, modules=tuple(run)))
            run = []
        own = measured.get((number, column))
        # After a module the cursor stands a clamp's gap beyond its edge already.
        cursor += width + gap if own is None else own - (gap if column > 1 else 0.0)
    if run:
        found.append(Block(row=number, modules=tuple(run)))
    return found


def _moved(block: Block, left: float, top: float) -> Block:
    return Block(
        row=block.row,
        modules=tuple(
            ModuleBox(place=box.place, x_mm=box.x_mm - left, y_mm=box.y_mm - top)
            for box in block.modules
        ),
    )
