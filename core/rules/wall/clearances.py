"""Space around what hangs on a wall: to its sides, in front, above the ground, to the eye."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from core.base.glossary import (
    AboveMm,
    AtHeightMm,
    ClearanceMm,
    FreeMm,
    HeightMm,
    Name,
    Side,
    WidthMm,
)
from core.base.judgement import Judgement, at_least, holds, within
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule

SHEET = "device sheet (clearances)"
HEIGHT_SOURCE = "device sheet; rule pack (mounting height)"

FieldMm = Annotated[float, Quantity("free side of the wall", "mm", 0, 30_000)]


@rule
def clearance_between(*, first_mm: ClearanceMm, second_mm: ClearanceMm) -> ClearanceMm:
    """How much space must two neighbours leave between them?

    The larger of the two facing clearances, not their sum: air serves both.
    Formula: max(a, b).
    Source: device sheets.
    """
    return max(first_mm, second_mm)


@rule
def needed_field(
    *, size_mm: WidthMm, before_mm: ClearanceMm, after_mm: ClearanceMm
) -> Annotated[float, Quantity("side that the device needs", "mm", 0, 12_000)]:
    """How much of the wall does a device take in one direction, clearances included? [mm]

    Formula: before_mm + size_mm + after_mm.
    Source: device sheet.
    """
    return before_mm + size_mm + after_mm


@rule
def clearance(*, side: Side, free_mm: FreeMm, needed_mm: ClearanceMm, beside: Name) -> Judgement:
    """Is there the space that the sheet asks for on this side?

    free_mm: to the nearest thing on that side, negative where they overlap. Exactly the needed
    space is allowed.
    Source: device sheet; between two devices the larger of both needs.
    """
    judged = at_least(
        "clearance", free_mm, needed_mm, "mm", SHEET, beside=beside, side=say("sides", side)
    )
    return replace(judged, title=say("side_titles", side))


@rule
def device_apart(*, name: Name, other: Name, overlaps: bool) -> Judgement:
    """Does a device lie on top of something else?

    Source: the drawing.
    """
    return holds("device_apart", not overlaps, "the wall as drawn", name=name, other=other)


@rule
def objects_apart(*, name: Name, other: Name) -> Judgement:
    """Are two objects of the wall drawn over each other?

    Watch: measure again.
    Source: the drawing.
    """
    return holds("objects_apart", False, "the wall as drawn", bad="watch", name=name, other=other)


@rule
def on_the_wall(
    *, field_w_mm: FieldMm, field_h_mm: FieldMm, width_mm: WidthMm, height_mm: HeightMm
) -> Judgement:
    """Is the wall large enough for the device at all, clearances apart?

    Source: the drawing and the device's sheet.
    """
    return holds(
        "on_the_wall",
        width_mm <= field_w_mm and height_mm <= field_h_mm,
        "the wall as drawn; device sheet",
        device=f"{figure(width_mm)} × {figure(height_mm, 'mm')}",
        wall=f"{figure(field_w_mm)} × {figure(field_h_mm, 'mm')}",
    )


@rule
def front_depth(*, free_mm: ClearanceMm, needed_mm: ClearanceMm) -> Judgement:
    """Is there depth in front of the device to work on it?

    Source: device sheet.
    """
    return at_least("front_depth", free_mm, needed_mm, "mm", SHEET)


@rule
def floor_height(*, lower_edge_mm: AboveMm, least_mm: AboveMm) -> Judgement:
    """Does the lower edge hang as high above the ground as the sheet asks?

    Source: device sheet.
    """
    return at_least("floor_height", lower_edge_mm, least_mm, "mm", HEIGHT_SOURCE)


@rule
def display_height(*, display_mm: AtHeightMm, low_mm: AtHeightMm, high_mm: AtHeightMm) -> Judgement:
    """Can the display be read standing?

    Outside: watch.
    Source: trade practice; rule pack.
    """
    return within(
        "display_height", display_mm, low_mm, high_mm, "mm", HEIGHT_SOURCE, outside="watch"
    )


@rule
def out_of_reach(*, lower_edge_mm: AboveMm, least_mm: AtHeightMm) -> Judgement:
    """Where devices are to hang out of reach of passers-by: is the lower edge high enough?

    Source: rule pack (mounting height).
    """
    return at_least("out_of_reach", lower_edge_mm, least_mm, "mm", HEIGHT_SOURCE)
