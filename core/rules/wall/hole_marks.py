"""Where the holes of a bracket go, measured from one level line and one edge."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.glossary import AboveMm, AcrossMm, HoleMm, LevelMmPerM, ThicknessMm
from core.base.judgement import Judgement, at_most
from core.base.quantity import Quantity
from core.base.rule import rule
from core.equipment.body import Body

HOLE_SOURCE = "fixing sheet; rule pack (wall behind the hole)"
LEVEL_SOURCE = "rule pack (level); device sheet"

FromDatumMm = Annotated[float, Quantity("above the level line", "mm", -12_000, 12_000)]
LeftMm = Annotated[float, Quantity("of the wall behind the hole", "mm", 0, 200)]
MostMmPerM = Annotated[float, Quantity("out of level at most", "mm/m", 0, 20)]


@dataclass(frozen=True, kw_only=True)
class HoleMark:
    """One hole: mm right of the wall's left edge, above the level line, above the ground."""

    x_mm: float
    above_datum_mm: float
    above_floor_mm: float


@dataclass(frozen=True, kw_only=True)
class HoleMarks:
    """The holes of one device, top row first, each row from left to right.

    diagonal_mm: from the first hole to the last, to check the marks with a tape.
    """

    holes: tuple[HoleMark, ...]
    diagonal_mm: float


@rule
def hole_marks(
    *, body: Body, left_edge_mm: AcrossMm, top_above_datum_mm: FromDatumMm, datum_mm: AboveMm
) -> HoleMarks:
    """Where are the holes of this device's bracket?

    x from the wall's left edge, heights from the level line. The pattern is centred on the
    device's width; fixings of a row stand evenly over the pattern's width.
    Raises Refused when the sheet gives no bracket.
    Source: device sheet (bracket).
    """
    bracket = body.bracket
    if bracket is None:
        raise Refused([problem("$.body.bracket", "none", "a bracket's hole pattern")])
    first_x = left_edge_mm + (body.width_mm - bracket.pattern_w_mm) / 2
    top_y = top_above_datum_mm - bracket.top_row_below_top_mm
    below = bracket.all_fixings - bracket.top_fixings
    rows = [(top_y, bracket.top_fixings)]
    if below:
        rows.append((top_y - bracket.pattern_h_mm, below))
    holes = tuple(
        HoleMark(x_mm=x, above_datum_mm=y, above_floor_mm=datum_mm + y)
        for y, count in rows
        for x in _across(first_x, bracket.pattern_w_mm, count)
    )
    first, last = holes[0], holes[-1]
    diagonal = math.hypot(last.x_mm - first.x_mm, last.above_datum_mm - first.above_datum_mm)
    return HoleMarks(holes=holes, diagonal_mm=diagonal)


def _across(first_x: float, width: float, count: int) -> list[float]:
    if count == 1:
        return [first_x + width / 2]
    return [first_x + width * number / (count - 1) for number in range(count)]


@rule
def hole_depth(*, hole_mm: HoleMm, thickness_mm: ThicknessMm, left_mm: LeftMm) -> Judgement:
    """Does enough of the wall stay behind the hole?

    Formula: hole_mm ≤ thickness_mm − left_mm.
    Source: fixing sheet; rule pack.
    """
    return at_most("hole_depth", hole_mm, max(thickness_mm - left_mm, 0.0), "mm", HOLE_SOURCE)


@rule
def mounted_level(*, out_mm_per_m: LevelMmPerM, most_mm_per_m: MostMmPerM) -> Judgement:
    """Is the bracket level?

    Formula: |out_mm_per_m| ≤ most_mm_per_m.
    Source: rule pack.
    """
    return at_most("mounted_level", abs(out_mm_per_m), most_mm_per_m, "mm/m", LEVEL_SOURCE)
