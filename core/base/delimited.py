"""Rows of cells from a text whose cells are parted by semicolons, tabs or commas."""

from __future__ import annotations

import csv
import io

from core.base.errors import Refused, problem

DELIMITERS = ";\t,"


def rows_of(text: str) -> list[tuple[int, list[str]]]:
    """The rows that hold anything, each with its line's number from 1, its cells stripped.

    The delimiter is the one that stands most in the first line. Raises Refused when a text in
    quotes never ends, or the like.
    """
    plain = text.replace("\r\n", "\n").replace("\r", "\n")
    delimiter = max(DELIMITERS, key=plain.split("\n", maxsplit=1)[0].count)
    try:
        return [
            (number, [cell.strip() for cell in row])
            for number, row in enumerate(csv.reader(io.StringIO(plain), delimiter=delimiter), 1)
            if any(cell.strip() for cell in row)
        ]
    except csv.Error as error:
        said = f"This is not a table of cells: {error}."
        raise Refused([problem("file", str(error), "a CSV file", said)]) from None
