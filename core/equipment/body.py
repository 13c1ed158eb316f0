"""What hangs on a wall: its body, the space it needs, and the bracket that it hangs from."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import (
    AboveMm,
    ClearanceMm,
    DepthMm,
    Entry,
    FixingCount,
    HeightMm,
    LeverMm,
    MassKg,
    PatternMm,
    WidthMm,
)


@dataclass(frozen=True, kw_only=True)
class Bracket(Checked):
    """The hole pattern of a bracket: a top row and the rows below it, centred on the device.

    cg_from_wall_mm: how far the centre of mass stands off the wall. top_row_above_pivot_mm: the
    top row above the lower edge about which the device would tip.
    """

    pattern_w_mm: PatternMm
    pattern_h_mm: PatternMm
    top_row_below_top_mm: PatternMm
    top_fixings: FixingCount
    all_fixings: FixingCount
    cg_from_wall_mm: LeverMm
    top_row_above_pivot_mm: LeverMm

    def contradictions(self) -> Iterator[Problem]:
        if self.all_fixings < self.top_fixings:
            allowed = f"at least the {self.top_fixings} of the top row"
            yield problem("$.all_fixings", self.all_fixings, allowed)


@dataclass(frozen=True, kw_only=True)
class Body(Checked):
    """Outside dimensions, mass, and the clearances that the sheet asks for.

    floor_low_mm: lowest lower edge above the ground. display_below_top_mm: None without a
    display. on_combustible: whether the sheet allows a combustible wall behind it.
    """

    width_mm: WidthMm
    height_mm: HeightMm
    depth_mm: DepthMm
    mass_kg: MassKg
    clearance_left_mm: ClearanceMm = 0.0
    clearance_right_mm: ClearanceMm = 0.0
    clearance_top_mm: ClearanceMm = 0.0
    clearance_bottom_mm: ClearanceMm = 0.0
    clearance_front_mm: ClearanceMm = 0.0
    floor_low_mm: AboveMm = 0.0
    display_below_top_mm: PatternMm | None = None
    on_combustible: bool = True
    entry: Entry = "bottom"
    bracket: Bracket | None = None

    def contradictions(self) -> Iterator[Problem]:
        bracket = self.bracket
        if bracket is not None and bracket.pattern_w_mm > self.width_mm:
            allowed = f"at most the {self.width_mm:g} mm of the device"
            yield problem("$.bracket.pattern_w_mm", bracket.pattern_w_mm, allowed)
