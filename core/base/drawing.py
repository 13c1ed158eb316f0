"""A drawing on paper: strokes and texts in millimetres, and the symbols that it is made of."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from html import escape
from typing import Annotated, Literal

from core.base.form import Checked, read
from core.base.glossary import Name
from core.base.judgement import GRAVITY, Verdict
from core.base.palette import colour
from core.base.quantity import Items
from core.data import load

SYMBOLS = "symbols"
StrokeKind = Literal["line", "circle", "rect", "arc", "text"]
Layer = Literal["frame", "symbol", "dc", "ac", "earth", "signal", "text", "mark"]
# Half of the square in which a symbol is drawn, in its own units.
HALF_UNITS = 10.0


@dataclass(frozen=True, kw_only=True)
class Stroke(Checked):
    """One stroke about a symbol's middle, y downward.

    line: x1 y1 x2 y2; circle: x y r; rect: x y width height; arc: x y r and its two angles in
    degrees, clockwise from the right; text: x, baseline, height.
    """

    kind: StrokeKind
    at: Annotated[tuple[float, ...], Items("coordinates", 3, 5)]
    text: str = ""


@dataclass(frozen=True, kw_only=True)
class Symbol(Checked):
    """One symbol, drawn after IEC 60617 in a square of 20 by 20."""

    id: Name
    title: Name
    strokes: Annotated[tuple[Stroke, ...], Items("strokes", 1, 40)]


@cache
def symbols() -> dict[str, Symbol]:
    """Every symbol by its name."""
    return {one.id: one for one in read(tuple[Symbol, ...], load(SYMBOLS), "$symbols")}


@dataclass(frozen=True, kw_only=True)
class Mark:
    """One thing on the paper: a stroke on a layer. anchor: where a text's x stands."""

    layer: Layer
    stroke: Stroke
    anchor: Literal["start", "middle", "end"] = "middle"
    strong: bool = False


@dataclass(frozen=True, kw_only=True)
class VerdictMark:
    """A verdict's shape on the paper, about its middle."""

    verdict: Verdict
    x_mm: float
    y_mm: float


@dataclass(frozen=True, kw_only=True)
class Drawing:
    """One sheet."""

    title: str
    width_mm: float
    height_mm: float
    marks: tuple[Mark, ...]
    verdicts: tuple[VerdictMark, ...]


def line(layer: Layer, x1: float, y1: float, x2: float, y2: float) -> Mark:
    """A straight line on a layer."""
    return Mark(layer=layer, stroke=Stroke(kind="line", at=(x1, y1, x2, y2)))


def text(
    words: str,
    x: float,
    y: float,
    height: float,
    *,
    anchor: Literal["start", "middle", "end"] = "middle",
    strong: bool = False,
) -> Mark:
    """A line of text: its baseline at y."""
    stroke = Stroke(kind="text", at=(x, y, height), text=words)
    return Mark(layer="text", stroke=stroke, anchor=anchor, strong=strong)


def symbol(name: str, x: float, y: float, scale: float) -> tuple[Mark, ...]:
    """A symbol about a place; scale: mm for one of its units."""
    return tuple(
        Mark(layer="symbol", stroke=_moved(one, x, y, scale)) for one in symbols()[name].strokes
    )


def _moved(stroke: Stroke, x: float, y: float, scale: float) -> Stroke:
    sized = [scale * one for one in stroke.at]
    if stroke.kind == "line":
        at = (x + sized[0], y + sized[1], x + sized[2], y + sized[3])
    elif stroke.kind == "arc":
        at = (x + sized[0], y + sized[1], sized[2], stroke.at[3], stroke.at[4])  # type: ignore[assignment]
    else:
        at = (x + sized[0], y + sized[1], *sized[2:])  # type: ignore[assignment]
    return Stroke(kind=stroke.kind, at=at, text=stroke.text)


COLOURS: dict[Layer, str] = {
    "frame": colour("ink"),
    "symbol": colour("ink"),
    "dc": colour("dc"),
    "ac": colour("ac"),
    "earth": colour("earth"),
    "signal": colour("signal"),
    "text": colour("ink"),
    "mark": colour("ink"),
}
DASHES: dict[Layer, str] = {"earth": "2 1.2", "signal": "0.5 1"}
WIDTHS_MM: dict[Layer, float] = {"dc": 0.7, "ac": 0.7, "earth": 0.6, "frame": 0.35}
THIN_MM = 0.4
VERDICT_COLOURS: dict[Verdict, str] = {verdict: colour(verdict) for verdict in GRAVITY}
MARK_MM = 1.3


def svg(drawing: Drawing) -> str:
    """The sheet as SVG 1.1, in millimetres."""
    size = f'width="{drawing.width_mm:g}mm" height="{drawing.height_mm:g}mm"'
    box = f'viewBox="0 0 {drawing.width_mm:g} {drawing.height_mm:g}"'
    body = "\n".join(
        (*(_svg_mark(one) for one in drawing.marks), *(_svg_verdict(v) for v in drawing.verdicts))
    )
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" version="1.1" {size} {box}>\n'
        f"<title>{escape(drawing.title)}</title>\n"
        f'<rect width="100%" height="100%" fill="{colour("sheet")}"/>\n{body}\n</svg>\n'
    )


def _svg_mark(mark: Mark) -> str:
    at, kind = mark.stroke.at, mark.stroke.kind
    if kind == "text":
        weight = "700" if mark.strong else "400"
        return (
            f'<text x="{at[0]:.2f}" y="{at[1]:.2f}" font-size="{at[2]:.2f}" '
            f'font-family="Atkinson Hyperlegible Next, sans-serif" font-weight="{weight}" '
            f'text-anchor="{mark.anchor}" fill="{COLOURS[mark.layer]}">'
            f"{escape(mark.stroke.text)}</text>"
        )
    dash = DASHES.get(mark.layer)
    style = (
        f'fill="none" stroke="{COLOURS[mark.layer]}" '
        f'stroke-width="{WIDTHS_MM.get(mark.layer, THIN_MM):g}"'
        + (f' stroke-dasharray="{dash}"' if dash else "")
    )
    return f"<{_svg_shape(mark.stroke)} {style}/>"


def _svg_shape(stroke: Stroke) -> str:
    at = stroke.at
    if stroke.kind == "line":
        return f'line x1="{at[0]:.2f}" y1="{at[1]:.2f}" x2="{at[2]:.2f}" y2="{at[3]:.2f}"'
    if stroke.kind == "circle":
        return f'circle cx="{at[0]:.2f}" cy="{at[1]:.2f}" r="{at[2]:.2f}"'
    if stroke.kind == "rect":
        return f'rect x="{at[0]:.2f}" y="{at[1]:.2f}" width="{at[2]:.2f}" height="{at[3]:.2f}"'
    (x1, y1), (x2, y2) = (on_arc(stroke, at[3]), on_arc(stroke, at[4]))
    return f'path d="M{x1:.2f} {y1:.2f}A{at[2]:.2f} {at[2]:.2f} 0 0 1 {x2:.2f} {y2:.2f}"'


def on_arc(stroke: Stroke, angle_deg: float) -> tuple[float, float]:
    """A place on an arc, by its angle clockwise from the right."""
    angle = math.radians(angle_deg)
    x, y, radius = stroke.at[:3]
    return x + radius * math.cos(angle), y + radius * math.sin(angle)


def verdict_outline(mark: VerdictMark) -> tuple[tuple[float, float], ...]:
    """The corners of a verdict's shape; none for the round ones."""
    x, y, r = mark.x_mm, mark.y_mm, MARK_MM
    if mark.verdict == "watch":
        return ((x, y - r), (x + r, y + r), (x - r, y + r))
    if mark.verdict == "stop":
        return ((x - r, y - r), (x + r, y - r), (x + r, y + r), (x - r, y + r))
    return ()


def _svg_verdict(mark: VerdictMark) -> str:
    colour = VERDICT_COLOURS[mark.verdict]
    corners = verdict_outline(mark)
    if corners:
        points = " ".join(f"{x:.2f},{y:.2f}" for x, y in corners)
        return f'<polygon points="{points}" fill="{colour}"/>'
    place = f'cx="{mark.x_mm:.2f}" cy="{mark.y_mm:.2f}"'
    if mark.verdict == "clear":
        return f'<circle {place} r="{MARK_MM}" fill="{colour}"/>'
    return f'<circle {place} r="{MARK_MM - 0.2}" fill="none" stroke="{colour}" stroke-width="0.5"/>'
