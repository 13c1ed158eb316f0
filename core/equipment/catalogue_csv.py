"""Sheets as a table: a CSV column for each field, read with care, nothing half-read.

A column is named as the field in the job file, with a dot below an object and a number in a
list: ``dc.max_dc_v``, ``trackers.1.max_operating_a``. Cells are read as entries are: units and
decimal commas are taken, what is not understood is refused with its row and column.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, fields, is_dataclass, replace
from functools import cache
from typing import Any, Literal, get_args, get_origin

from core.base.csv_text import csv_text
from core.base.delimited import rows_of
from core.base.errors import Problem, Refused, problem
from core.base.form import (
    describe,
    hints,
    limits_of,
    read,
    reader,
    required_fields,
    without_none,
    write,
)
from core.base.limits import MOST_SHELF_BYTES
from core.base.quantity import Items, Quantity
from core.base.units import parse_quantity
from core.equipment.catalogue import SHEETS, Kind, sheets
from core.equipment.plausibility import module_doubts
from core.equipment.sheet import Sheet
from core.equipment.sheet_words import field_words

MOST_ROWS = 20_000
MOST_PROBLEMS = 200
PROGRESS_EVERY = 250
YES, NO = frozenset({"yes", "true", "1"}), frozenset({"no", "false", "0"})


@dataclass(frozen=True, kw_only=True)
class Column:
    """One field of a sheet as a column: its name, what it means, what it may hold.

    group, heading, row: what it belongs to, as the words of a sheet have it.
    """

    name: str
    meaning: str
    help: str
    group: str
    heading: str
    row: str
    unit: str
    allowed: str
    required: bool
    choices: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Progress:
    """Rows checked so far, of how many."""

    checked: int
    rows: int


@dataclass(frozen=True, kw_only=True)
class Reading:
    """What a table gave: the sheets, and the rows that stood twice and were passed over."""

    sheets: tuple[Sheet, ...]
    doubled_rows: tuple[int, ...]


@cache
def columns(kind: Kind) -> tuple[Column, ...]:
    """The columns of a kind of sheet, in order."""
    return tuple(column for column, _ in _columns(kind, SHEETS[kind]))


@cache
def _hints_by_column(kind: Kind) -> dict[str, Any]:
    return {column.name: hint for column, hint in _columns(kind, SHEETS[kind])}


def _columns(
    kind: Kind, owner: type, above: str = "", needed: bool = True
) -> Iterator[tuple[Column, Any]]:
    needs = required_fields(owner)
    for field in fields(owner):
        hint, name = hints(owner)[field.name], above + field.name
        required = needed and field.name in needs
        bare = without_none(hint)
        limits = limits_of(hint)
        if isinstance(limits, Items):
            item = get_args(get_args(bare)[0])[0]
            for number in range(1, limits.most + 1):
                one, at = f"{name}.{number}", required and number <= limits.least
                if is_dataclass(item):
                    yield from _columns(kind, item, f"{one}.", at)  # type: ignore[arg-type]
                else:
                    yield _column(kind, one, item, at), item
        elif is_dataclass(bare):
            yield from _columns(kind, bare, f"{name}.", required)  # type: ignore[arg-type]
        else:
            yield _column(kind, name, hint, required), hint


def _column(kind: Kind, name: str, hint: Any, required: bool) -> Column:
    limits = limits_of(hint)
    bare = without_none(hint)
    choices = tuple(str(one) for one in get_args(bare)) if get_origin(bare) is Literal else ()
    if bare is bool:
        choices = ("yes", "no")
    words = field_words(kind, name)
    return Column(
        name=name,
        meaning=words.label,
        help=words.help,
        group=words.group,
        heading=words.heading,
        row=words.row,
        unit=limits.unit if isinstance(limits, Quantity) else "",
        allowed=" · ".join(choices) or describe(hint),
        required=required,
        choices=choices,
    )


def template(kind: Kind) -> str:
    """A table to fill: the column names, and one shipped sheet as an example."""
    names = [column.name for column in columns(kind)]
    return as_csv(names, [sheets(kind)[0]])


def as_csv(names: Sequence[str], of: Sequence[Sheet]) -> str:
    """Sheets as CSV; reading it back gives the same sheets."""
    return csv_text((names, *([cells.get(name, "") for name in names] for cells in map(flat, of))))


def flat(sheet: Sheet) -> dict[str, str]:
    """A sheet as text by column."""
    return dict(_flat(write(sheet), ""))


def _flat(value: Any, name: str) -> Iterator[tuple[str, str]]:
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from _flat(inner, f"{name}.{key}" if name else key)
    elif isinstance(value, list):
        for number, inner in enumerate(value, start=1):
            yield from _flat(inner, f"{name}.{number}")
    elif isinstance(value, bool):
        yield name, "yes" if value else "no"
    elif value is not None:
        yield name, f"{value:g}" if isinstance(value, float) else str(value)


def sheet_of(kind: Kind, cells: dict[str, str], *, as_given: bool = False) -> Sheet:
    """A sheet from what was typed into each column.

    as_given: figures that look like a slip are taken as they stand, where they may stand.
    Raises Refused with every problem; one that asks has the figure meant as its suggestion.
    """
    known = _cell_readers(kind)
    found = [
        problem(f"$.{name}", text, "one of the documented columns", f"No column is called {name}.")
        for name, text in cells.items()
        if name not in known
    ]
    values: dict[str, Any] = {}
    for name, text in cells.items():
        if name in known and text.strip():
            try:
                values[name] = known[name](text.strip(), f"$.{name}")
            except Refused as refused:
                found.extend(refused.problems)
    asked = plausibility(kind, values, as_given=as_given)
    if found or asked:
        raise Refused([*asked, *found])
    return checked_sheet(kind, _nested(values))


def checked_sheet(kind: Kind, data: object) -> Sheet:
    """A sheet from its JSON. Raises Refused."""
    sheet: Sheet = read(SHEETS[kind], data)
    return sheet


def plausibility(kind: Kind, values: dict[str, Any], *, as_given: bool) -> list[Problem]:
    """Figures that look like a slip, as questions."""
    if kind != "modules":
        return []
    figures = {name: value for name, value in values.items() if isinstance(value, int | float)}
    found = []
    for doubt in module_doubts(figures):
        limits = limits_of(_hints_by_column(kind)[doubt.field])
        is_possible = isinstance(limits, Quantity) and limits.problem("$", doubt.given) is None
        if as_given and is_possible:
            continue
        one = problem(f"$.{doubt.field}", f"{doubt.given:g}", _allowed(limits), doubt.question)
        found.append(replace(one, suggestion=f"{doubt.meant:g}"))
    return found


def _allowed(limits: Any) -> str:
    return limits.allowed if isinstance(limits, Quantity) else ""


# What turns a cell's text, at a path, into the field's value.
CellReader = Callable[[str, str], Any]


@cache
def _cell_readers(kind: Kind) -> dict[str, CellReader]:
    return {name: _cell_reader(hint) for name, hint in _hints_by_column(kind).items()}


def _cell_reader(hint: Any) -> CellReader:
    limits, bare = limits_of(hint), without_none(hint)
    if isinstance(limits, Quantity):
        return _figure_reader(limits, is_whole=get_args(bare)[0] is int)
    if bare is bool:
        return _yes_or_no
    if get_origin(bare) is Literal:
        choices, read_choice = get_args(bare), reader(bare)
        return lambda text, path: read_choice(
            text.lower() if text.lower() in choices else text, path
        )
    return lambda text, path: text


def _figure_reader(limits: Quantity, *, is_whole: bool) -> CellReader:
    def read_figure(text: str, path: str) -> float:
        value = parse_quantity(text, limits, path, any_size=True)
        return int(value) if is_whole and value == int(value) else value

    return read_figure


def _yes_or_no(text: str, path: str) -> bool:
    if text.lower() in YES | NO:
        return text.lower() in YES
    raise Refused([problem(path, text, "yes · no")])


def _nested(values: dict[str, Any]) -> Any:
    tree: dict[str, Any] = {}
    for name, value in values.items():
        *above, last = name.split(".")
        at = tree
        for step in above:
            at = at.setdefault(step, {})
        at[last] = value
    return _lists(tree)


def _lists(tree: Any) -> Any:
    if not isinstance(tree, dict):
        return tree
    if tree and all(key.isdigit() for key in tree):
        return [_lists(tree[key]) for key in sorted(tree, key=int)]
    return {key: _lists(inner) for key, inner in tree.items()}


def read_table(kind: Kind, raw: bytes, *, as_given: bool = False) -> Iterator[Progress | Reading]:
    """The sheets of a CSV file: progress on the way, then what was read.

    Takes commas, semicolons or tabs, a byte-order mark, decimal commas. A row that stands twice
    is passed over and named. Raises Refused with row and column of every problem (the first 200);
    then nothing was read.
    """
    header, rows = _rows(kind, raw)
    found: list[Problem] = []
    seen: dict[str, tuple[int, Sheet]] = {}
    doubled: list[int] = []
    for index, (number, cells) in enumerate(rows):
        if index % PROGRESS_EVERY == 0:
            yield Progress(checked=index, rows=len(rows))
        try:
            sheet = sheet_of(kind, dict(zip(header, cells, strict=False)), as_given=as_given)
        except Refused as refused:
            found += [_in_row(one, number) for one in refused.problems]
        else:
            earlier = seen.setdefault(sheet.id, (number, sheet))
            if earlier[0] != number and earlier[1] == sheet:
                doubled.append(number)
            elif earlier[0] != number:
                found.append(_in_row(_other_sheet(sheet, earlier[0]), number))
        if len(found) > MOST_PROBLEMS:
            break
    if found:
        raise Refused(found[:MOST_PROBLEMS])
    yield Progress(checked=len(rows), rows=len(rows))
    sheets_read = tuple(sheet for _, sheet in seen.values())
    yield Reading(sheets=sheets_read, doubled_rows=tuple(doubled))


def _other_sheet(sheet: Sheet, earlier: int) -> Problem:
    said = f"Row {earlier} has another sheet with the same id, {sheet.id}. Which one is right?"
    return problem("$.id", sheet.id, "each id once, or the same row twice", said)


def _in_row(one: Problem, number: int) -> Problem:
    path = f"row {number}, {one.path.removeprefix('$.')}"
    return replace(one, path=path, message=f"Row {number}: {one.message}")


def _rows(kind: Kind, raw: bytes) -> tuple[list[str], list[tuple[int, list[str]]]]:
    every = rows_of(_text(raw))
    if not every:
        raise Refused([problem("file", "empty", "a row of column names, then a row a sheet")])
    (_, header), *rows = every
    _check_header(kind, header)
    if not 1 <= len(rows) <= MOST_ROWS:
        allowed = f"1 to {MOST_ROWS} rows below the column names"
        raise Refused([problem("file", f"{len(rows)} rows", allowed)])
    wide = [number for number, cells in rows if len(cells) > len(header)]
    if wide:
        said = f"Row {wide[0]} has more cells than there are column names: is a text not quoted?"
        raise Refused([problem(f"row {wide[0]}", "too many cells", f"{len(header)} cells", said)])
    return header, rows


def _text(raw: bytes) -> str:
    if len(raw) > MOST_SHELF_BYTES:
        allowed = f"at most {MOST_SHELF_BYTES // 1024 // 1024} MB"
        raise Refused([problem("file", f"{len(raw) / 1024 / 1024:.0f} MB", allowed)])
    try:
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refused([problem("file", "not UTF-8 text", "a CSV file in UTF-8")]) from None


def _check_header(kind: Kind, header: list[str]) -> None:
    known = {column.name: column for column in columns(kind)}
    found = [
        problem(f"column {name}", name or "empty", "one of " + ", ".join(known))
        for name in header
        if name not in known
    ]
    found += [
        problem(f"column {name}", name, "each column once")
        for name in sorted({name for name in header if header.count(name) > 1})
    ]
    found += [
        problem(f"column {name}", "missing", column.allowed, f"The column {name} is missing.")
        for name, column in known.items()
        if column.required and name not in header
    ]
    if found:
        raise Refused(found)
