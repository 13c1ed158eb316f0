"""Tables as CSV that a spreadsheet opens as text: no cell of ours is taken for a formula.

Source: OWASP, CSV injection: a cell that begins with = + - @ tab or return is marked as text.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Sequence

STARTS_FORMULA = ("=", "+", "-", "@", "\t", "\r")
AS_TEXT = "'"
NUMBER = re.compile(r"[-+]?\d+(\.\d+)?([eE][-+]?\d+)?")


def csv_text(rows: Iterable[Sequence[object]]) -> str:
    """Rows of cells as CSV; numbers stay numbers, None is an empty cell."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerows([as_cell(cell) for cell in row] for row in rows)
    return out.getvalue()


def as_cell(value: object) -> str:
    """A value as its cell shows it."""
    if value is None:
        return ""
    text = f"{value:g}" if isinstance(value, float) else str(value)
    return AS_TEXT + text if _is_marked_or_risky(text) else text


def from_cell(cell: str) -> str:
    """What a cell says: the mark that made it a text is taken off again."""
    return cell[1:] if cell.startswith(AS_TEXT) and _is_marked_or_risky(cell[1:]) else cell


def _is_marked_or_risky(text: str) -> bool:
    """Whether a spreadsheet would take a text for a formula, or it looks as if we had marked it:
    so that every text comes back as it was."""
    bare = text.lstrip(AS_TEXT)
    return bare.startswith(STARTS_FORMULA) and not (bare == text and NUMBER.fullmatch(text))
