"""Rows of cells from a text whose cells are parted by semicolons, tabs or commas."""

from __future__ import annotations

import csv
import io

from core.base.csv_text import from_cell
from core.base.errors import Refused, problem
from core.base.limits import MOST_COLUMNS, MOST_ROWS

DELIMITERS = ";\t,"


def rows_of(text: str) -> list[tuple[int, list[str]]]:
    """The rows that hold anything, each with its line's number from 1, its cells stripped.

    The delimiter is the one that stands most in the first line. Raises Refused when a text in
    quotes never ends or the like, and when there are more rows or columns than any table has.
    """
    plain = text.replace("\r\n", "\n").replace("\r", "\n")
    delimiter = max(DELIMITERS, key=plain.split("\n", maxsplit=1)[0].count)
    found = []
    try:
        for number, row in enumerate(csv.reader(io.StringIO(plain), delimiter=delimiter), 1):
            _not_too_large(number, len(row))
            cells = [from_cell(cell.strip()) for cell in row]
            if any(cells):
                found.append((number, cells))
    except csv.Error as error:
        said = f"This is not a table of cells: {error}."
        raise Refused([problem("file", str(error), "a CSV file", said)]) from None
    return found


def _not_too_large(rows: int, columns: int) -> None:
    if rows > MOST_ROWS:
        said = f"This table has more than {MOST_ROWS} rows. Nothing was read."
        raise Refused([problem("file", f"more than {MOST_ROWS} rows", str(MOST_ROWS), said)])
    if columns > MOST_COLUMNS:
        said = f"Row {rows} has {columns} columns; a table has at most {MOST_COLUMNS}."
        raise Refused([problem("file", f"{columns} columns", str(MOST_COLUMNS), said)])
