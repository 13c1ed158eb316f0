"""How the words of a label lie on it: its lines, and how high it must be for them."""

from __future__ import annotations

import re

# Of a letter's height: its mean width in capitals with the space after it, and a line with its
# lead; a capital is so much of the type's size. Of the app's own face, a little wide.
WIDE, LINE, CAPITAL = 0.95, 1.6, 0.7
EDGE_MM = 3.0
# A number and its unit stay on one line.
WITH_UNIT, TOGETHER = re.compile(r"(\d) (V|A|W|KWH|MIN)\b"), "\u00a0"


def lines(text: str, width_mm: float, letter_mm: float) -> tuple[str, ...]:
    """The words of a label in lines that fit its width; a word longer than one is cut."""
    most = max(1, int((width_mm - 2 * EDGE_MM) / (letter_mm * WIDE)))
    found = [""]
    for word in WITH_UNIT.sub(rf"\1{TOGETHER}\2", text).split(" "):
        for start in range(0, len(word), most):
            piece = word[start : start + most]
            longer = f"{found[-1]} {piece}".strip()
            if len(longer) <= most:
                found[-1] = longer
            else:
                found.append(piece)
    return tuple(one.replace(TOGETHER, " ") for one in found)


def height_mm(text: str, width_mm: float, letter_mm: float) -> float:
    """How high a label must be for its words in letters of that height, in whole millimetres."""
    return float(round(len(lines(text, width_mm, letter_mm)) * letter_mm * LINE + 2 * EDGE_MM))
