"""A roof as it is drawn: its planes, the modules on them, where each lies."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import AzimuthDeg, GapMm, Mounting, Name, Note, Orientation, TiltDeg
from core.base.quantity import Items, Quantity, Text
from core.equipment.module import Module

# A roof row as it is drawn: a module, or a gap (chimney, window, edge).
MODULE_CELL, GAP_CELL = "#", "."
RafterMm = Annotated[float, Quantity("middle of a rafter", "mm", -5000, 60_000)]
RafterPitchMm = Annotated[float, Quantity("from rafter to rafter", "mm", 100, 3000)]
PlaneSideMm = Annotated[float, Quantity("on the plane", "mm", 50, 60_000)]
OnPlaneMm = Annotated[float, Quantity("from the plane's corner", "mm", 0, 60_000)]
RoofRow = Annotated[str, Text("row of a roof", 1, 40)]


@dataclass(frozen=True, kw_only=True)
class RowGap(Checked):
    """How wide a gap of a row is, from edge to edge: a chimney, or the way to the row's start.

    what: what stands there.
    """

    row: Annotated[int, Quantity("row", "", 1, 30)]
    column: Annotated[int, Quantity("column", "", 1, 40)]
    width_mm: GapMm
    what: Note = ""


@dataclass(frozen=True, kw_only=True)
class Obstacle(Checked):
    """What stands on a plane: its lower left corner from the plane's, along the eave and up."""

    name: Name
    x_mm: OnPlaneMm
    y_mm: OnPlaneMm
    width_mm: PlaneSideMm
    height_mm: PlaneSideMm


@dataclass(frozen=True, kw_only=True)
class Outline(Checked):
    """A plane's own edges: along the eave and up the slope.

    left_mm, eave_mm: from the left edge and the eave to the modules.
    """

    width_mm: PlaneSideMm
    height_mm: PlaneSideMm
    left_mm: OnPlaneMm
    eave_mm: OnPlaneMm
    obstacles: Annotated[tuple[Obstacle, ...], Items("obstacles", 0, 30)] = ()

    def contradictions(self) -> Iterator[Problem]:
        for index, thing in enumerate(self.obstacles):
            if thing.x_mm + thing.width_mm > self.width_mm:
                allowed = f"inside the plane's {self.width_mm:g} mm"
                yield problem(f"$.obstacles[{index}].x_mm", thing.x_mm, allowed)
            if thing.y_mm + thing.height_mm > self.height_mm:
                allowed = f"inside the plane's {self.height_mm:g} mm"
                yield problem(f"$.obstacles[{index}].y_mm", thing.y_mm, allowed)


@dataclass(frozen=True, kw_only=True)
class Plane(Checked):
    """One roof plane. Facing is clockwise from north: 90 east, 180 south; None while nobody looked.

    module: what lies on this plane, where it is another type than the job's.
    rows: its modules as drawn, from the ridge down, ``#`` a module and ``.`` a gap; empty when
    the roof has not been drawn. gaps: those that are measured; any other is as wide as a module.
    row_gap_mm: between rows; None: as between modules. shade: what throws shade on it, and when.
    rafter_first_mm: middle of any rafter from the left edge of the plane's modules, negative to its
    left; rafter_pitch_mm: from one to the next. None while nobody looked. outline: its own edges
    and what stands on it, where they are measured.
    """

    name: Name
    tilt_deg: TiltDeg | None = None
    azimuth_deg: AzimuthDeg | None = None
    module: Module | None = None
    mounting: Mounting = "close"
    rows: Annotated[tuple[RoofRow, ...], Items("rows of modules", 0, 30)] = ()
    shade: Note = ""
    orientation: Orientation = "portrait"
    gaps: Annotated[tuple[RowGap, ...], Items("measured gaps", 0, 200)] = ()
    row_gap_mm: GapMm | None = None
    rafter_first_mm: RafterMm | None = None
    rafter_pitch_mm: RafterPitchMm | None = None
    outline: Outline | None = None

    @property
    def modules(self) -> int:
        """Modules drawn on the plane."""
        return sum(row.count(MODULE_CELL) for row in self.rows)

    def holds(self, row: int, column: int) -> bool:
        """Whether a module is drawn at that row and column, both from 1."""
        in_row = 1 <= row <= len(self.rows) and 1 <= column <= len(self.rows[row - 1])
        return in_row and self.rows[row - 1][column - 1] == MODULE_CELL

    @cached_property
    def module_names(self) -> tuple[str, ...]:
        """Every module drawn on the plane, by its place as a user reads it."""
        return tuple(
            place_text(ModulePlace(plane=self.name, row=row, column=column))
            for row, cells in enumerate(self.rows, start=1)
            for column in range(1, len(cells) + 1)
            if self.holds(row, column)
        )

    def contradictions(self) -> Iterator[Problem]:
        for index, row in enumerate(self.rows):
            if set(row) - {MODULE_CELL, GAP_CELL}:
                yield problem(f"$.rows[{index}]", row, "# for a module, . for a gap")
        for index, gap in enumerate(self.gaps):
            in_row = gap.row <= len(self.rows) and gap.column <= len(self.rows[gap.row - 1])
            if not in_row or self.holds(gap.row, gap.column):
                said = f"Row {gap.row} has no gap at {gap.column}."
                yield problem(f"$.gaps[{index}].column", gap.column, "a gap of the row", said)


@dataclass(frozen=True, kw_only=True, order=True)
class ModulePlace(Checked):
    """Where a module lies: its plane, its row from the ridge and its column, both from 1."""

    plane: Name
    row: Annotated[int, Quantity("row", "", 1, 30)]
    column: Annotated[int, Quantity("column", "", 1, 40)]


def place_text(place: ModulePlace) -> str:
    """A module's place as a user reads it."""
    return f"{place.plane}, row {place.row}, number {place.column}"
