"""Labels as drawings, to scale: one for a label printer, or all on A4 with cut marks."""

from __future__ import annotations

from functools import cache
from html import escape
from typing import Any

from core.assessment.leave import LabelState
from core.data import load
from core.planning.leave.label_text import CAPITAL, LINE, lines

EDGE_STROKE_MM = 0.6
FACE = "Archivo, Atkinson Hyperlegible Next, Arial, sans-serif"


@cache
def _colours() -> dict[str, Any]:
    colours: dict[str, Any] = load("labels")["colours"]
    return colours


def label_svg(label: LabelState) -> str:
    """One label at its size in millimetres: paper, ink and words in letters of its height."""
    paper, ink = _colours()[label.colours]["paper"], _colours()[label.colours]["ink"]
    wide, high = label.width_mm, label.height_mm
    said = lines(label.text, wide, label.letter_mm)
    step = label.letter_mm * LINE
    top = (high - len(said) * step) / 2 + (step + label.letter_mm) / 2
    size = label.letter_mm / CAPITAL
    inset = EDGE_STROKE_MM / 2
    words = "".join(
        f'<text x="{wide / 2:g}" y="{top + number * step:g}" text-anchor="middle">'
        f"{escape(one)}</text>"
        for number, one in enumerate(said)
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:g}mm" height="{high:g}mm" '
        f'viewBox="0 0 {wide:g} {high:g}"><title>{escape(label.text)}</title>'
        f'<rect x="{inset:g}" y="{inset:g}" width="{wide - 2 * inset:g}" '
        f'height="{high - 2 * inset:g}" fill="{paper}" stroke="{ink}" '
        f'stroke-width="{EDGE_STROKE_MM:g}"/>'
        f'<g fill="{ink}" font-family="{FACE}" font-weight="700" font-size="{size:g}">'
        f"{words}</g></svg>"
    )
