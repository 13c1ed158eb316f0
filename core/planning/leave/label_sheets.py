"""How labels of several sizes lie on A4: in rows, the highest first, none over an edge."""

from __future__ import annotations

from dataclasses import dataclass

from core.rules.leave.labels import A4_MM

# Of a sheet of labels: its margin, and what lies between two (own default).
MARGIN_MM, GUTTER_MM = 8.0, 4.0
# The line above the labels, by which the scale of a print is measured.
HEAD_MM = 6.0


@dataclass(frozen=True, kw_only=True)
class PlacedLabel:
    """Where one label lies: its number in the list, its sheet from 0, its upper left corner."""

    index: int
    sheet: int
    x_mm: float
    y_mm: float


def fits_a4(width_mm: float, height_mm: float) -> bool:
    """Whether a label lies on a sheet at all."""
    wide, high = A4_MM[0] - 2 * MARGIN_MM, A4_MM[1] - 2 * MARGIN_MM - HEAD_MM
    return width_mm <= wide and height_mm <= high


def laid(sizes: tuple[tuple[float, float], ...]) -> tuple[PlacedLabel, ...]:
    """A place for every label that fits; sizes: width and height of each."""
    order = sorted(
        (index for index, size in enumerate(sizes) if fits_a4(*size)),
        key=lambda index: (-sizes[index][1], -sizes[index][0], index),
    )
    found: list[PlacedLabel] = []
    sheet, x, y, row = 0, MARGIN_MM, MARGIN_MM + HEAD_MM, 0.0
    for index in order:
        wide, high = sizes[index]
        if x > MARGIN_MM and x + wide > A4_MM[0] - MARGIN_MM:
            x, y, row = MARGIN_MM, y + row + GUTTER_MM, 0.0
        if y + high > A4_MM[1] - MARGIN_MM:
            sheet, x, y, row = sheet + 1, MARGIN_MM, MARGIN_MM + HEAD_MM, 0.0
        found.append(PlacedLabel(index=index, sheet=sheet, x_mm=x, y_mm=y))
        x, row = x + wide + GUTTER_MM, max(row, high)
    return tuple(found)
