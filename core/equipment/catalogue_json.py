"""Sheets as JSON: an object with format, version, kind and the list of sheets."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from typing import Any

from core.base.errors import Problem, Refused, problem
from core.base.form import schema, write
from core.base.json_text import parse_json
from core.equipment.catalogue import KINDS, SHEETS, Kind
from core.equipment.catalogue_csv import (
    MOST_PROBLEMS,
    MOST_ROWS,
    PROGRESS_EVERY,
    Progress,
    Reading,
    checked_sheet,
    plausibility,
)
from core.equipment.sheet import Sheet

FORMAT = "long-noon-shelf"
VERSION = 1
FIELDS = ("format", "version", "kind", "sheets")


def read_json(kind: Kind, raw: bytes, *, as_given: bool = False) -> Iterator[Progress | Reading]:
    """The sheets of a JSON file: progress on the way, then what was read.

    Raises Refused with the JSON path of every problem (the first 200); then nothing was read.
    """
    given = _sheets(kind, parse_json(raw))
    found: list[Problem] = []
    sheets: dict[str, tuple[int, Sheet]] = {}
    doubled: list[int] = []
    for index, data in enumerate(given):
        if index % PROGRESS_EVERY == 0:
            yield Progress(checked=index, rows=len(given))
        path = f"$.sheets[{index}]"
        try:
            if isinstance(data, dict) and (asked := plausibility(kind, data, as_given=as_given)):
                raise Refused(asked)
            sheet = checked_sheet(kind, data)
        except Refused as refused:
            found += [one.below(path) for one in refused.problems]
        else:
            earlier = sheets.setdefault(sheet.id, (index, sheet))
            if earlier[0] != index and earlier[1] == sheet:
                doubled.append(index)
            elif earlier[0] != index:
                found.append(problem(f"{path}.id", sheet.id, "each id once, or the same twice"))
        if len(found) > MOST_PROBLEMS:
            break
    if found:
        raise Refused(found[:MOST_PROBLEMS])
    yield Progress(checked=len(given), rows=len(given))
    yield Reading(sheets=tuple(s for _, s in sheets.values()), doubled_rows=tuple(doubled))


def _sheets(kind: Kind, data: object) -> list[Any]:
    if not isinstance(data, dict):
        raise Refused([problem("$", data, "an object with " + ", ".join(FIELDS))])
    wanted = {"format": FORMAT, "version": VERSION, "kind": kind}
    found = [
        problem(f"$.{name}", data.get(name, "missing"), str(value))
        for name, value in wanted.items()
        if data.get(name) != value
    ]
    found += [
        problem(f"$.{name}", data[name], "one of " + ", ".join(FIELDS))
        for name in data
        if name not in FIELDS
    ]
    sheets = data.get("sheets")
    if not isinstance(sheets, list) or not 1 <= len(sheets) <= MOST_ROWS:
        found.append(problem("$.sheets", "missing or empty", f"a list of 1 to {MOST_ROWS} sheets"))
    if found or not isinstance(sheets, list):
        raise Refused(found)
    return sheets


def as_json(kind: Kind, sheets: Sequence[Sheet]) -> str:
    """Sheets as a JSON file; reading it back gives the same sheets."""
    body = {"format": FORMAT, "version": VERSION, "kind": kind, "sheets": write(list(sheets))}
    return json.dumps(body, indent=1, ensure_ascii=False) + "\n"


def catalogue_schema() -> dict[str, Any]:
    """JSON Schema of the shelf file: one shape for each kind of sheet."""
    made = {kind: schema(SHEETS[kind], kind) for kind in KINDS}
    definitions = {name: body for one in made.values() for name, body in one["$defs"].items()}
    return {
        "$schema": made["modules"]["$schema"],
        "title": "Long Noon shelf file, version 1",
        "oneOf": [
            {
                "type": "object",
                "properties": {
                    "format": {"const": FORMAT},
                    "version": {"const": VERSION},
                    "kind": {"const": kind},
                    "sheets": {
                        "type": "array",
                        "items": {"$ref": made[kind]["$ref"]},
                        "minItems": 1,
                        "maxItems": MOST_ROWS,
                    },
                },
                "required": list(FIELDS),
                "additionalProperties": False,
            }
            for kind in KINDS
        ],
        "$defs": definitions,
    }
