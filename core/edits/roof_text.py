"""A roof in one line: how many modules on which planes, as it is said at the door."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from core.base.delimited import rows_of
from core.base.errors import Problem, Refused, problem
from core.base.form import quantity_of
from core.base.glossary import AzimuthDeg, Name, TiltDeg
from core.base.quantity import Quantity
from core.job.roof import MODULE_CELL, Plane

FORMS = "Front 2 x 4, Back 7 · Front 2 x 7 at 35° facing south · 15"
MODULES = Quantity("modules on a plane", "modules", 1, 400)
ROWS = Quantity("rows of modules", "rows", 1, 30)
IN_ROW = Quantity("modules in a row", "modules", 1, 40)
TILT, AZIMUTH = quantity_of(TiltDeg), quantity_of(AzimuthDeg)
MOST_PLANES = 20
ONLY_PLANE = "Roof"
PART = re.compile(
    r"(?P<name>.*?)[\s:]*(?P<first>\d+)(?:\s*[x×*]\s*(?P<second>\d+))?(?:\s*modules)?"
    r"(?:\s+at\s+(?P<tilt>\d+(?:\.\d+)?)\s*°?)?"
    r"(?:\s+facing\s+(?P<facing>\d+(?:\.\d+)?\s*°?|[a-z-]+))?",
    re.IGNORECASE,
)
# Clockwise from north, as a plane faces.
FACINGS = {
    "north": 0.0, "north-east": 45.0, "east": 90.0, "south-east": 135.0,
    "south": 180.0, "south-west": 225.0, "west": 270.0, "north-west": 315.0,
}  # fmt: skip
# What the columns of a planner's table may be called.
COLUMNS = {
    "name": ("plane", "roof", "surface", "name", "area"),
    "modules": ("modules", "panels", "count", "number", "quantity"),
    "rows": ("rows",),
    "in_row": ("columns", "in row", "per row"),
    "tilt": ("tilt", "slope", "inclination", "pitch"),
    "facing": ("azimuth", "facing", "orientation", "direction"),
}


@dataclass(frozen=True, kw_only=True)
class RoofPart:
    """What was said of one plane: its name, and its modules as rows or only by their number."""

    name: Name
    rows: int
    in_row: int
    tilt_deg: TiltDeg | None = None
    azimuth_deg: AzimuthDeg | None = None

    @property
    def modules(self) -> int:
        """Modules on the plane."""
        return max(self.rows, 1) * self.in_row

    def plane(self) -> Plane:
        """The plane, drawn where its rows were said; how it lies stays open where nobody said."""
        return Plane(
            name=self.name,
            tilt_deg=self.tilt_deg,
            azimuth_deg=self.azimuth_deg,
            rows=(MODULE_CELL * self.in_row,) * self.rows,
        )


def roof_parts(text: str, path: str = "$.roof") -> tuple[RoofPart, ...]:
    """The planes of a roof as said in one line: “Front 2 x 4, Back 7”.

    rows is 0 where only a number was said. Raises Refused with every part that is none.
    """
    said = [one.strip() for one in re.split(r"[,;+\n]| and ", text) if one.strip()]
    if not 1 <= len(said) <= MOST_PLANES:
        allowed = f"1 to {MOST_PLANES} planes, as {FORMS}"
        asks = f"How many modules, on which planes? As {FORMS}."
        raise Refused([problem(path, text, allowed, asks)])
    found: list[Problem] = []
    parts: list[RoofPart] = []
    for number, one in enumerate(said, start=1):
        unnamed = ONLY_PLANE if len(said) == 1 else f"{ONLY_PLANE} {number}"
        try:
            parts.append(_part(one, unnamed, path))
        except Refused as refused:
            found.extend(refused.problems)
    names = [one.name for one in parts]
    for name in dict.fromkeys(one for one in names if names.count(one) > 1):
        said_twice = f"{name} is said twice: give each plane its own name."
        found.append(problem(path, name, "each name once", said_twice))
    if found:
        raise Refused(found)
    return tuple(parts)


def _part(said: str, unnamed: str, path: str) -> RoofPart:
    match = PART.fullmatch(said)
    if match is None:
        wrong = f"“{said}” has no number of modules. As {FORMS}."
        raise Refused([problem(path, said, FORMS, wrong)])
    first, second = int(match["first"]), match["second"]
    facing = _facing(match["facing"], said, path)
    tilt = float(match["tilt"]) if match["tilt"] else None
    counted = ((first, ROWS), (int(second), IN_ROW)) if second else ((first, MODULES),)
    checks = (*counted, (tilt, TILT), (facing, AZIMUTH))
    found = [
        wrong
        for value, limits in checks
        if value is not None and (wrong := limits.problem(path, value)) is not None
    ]
    if found:
        raise Refused([replace(one, message=f"“{said}”: {one.message}") for one in found])
    return RoofPart(
        name=match["name"].strip(" :") or unnamed,
        rows=first if second else 0,
        in_row=int(second) if second else first,
        tilt_deg=tilt,
        azimuth_deg=facing,
    )


def _facing(said: str | None, part: str, path: str) -> float | None:
    if said is None:
        return None
    word = said.lower().replace("°", "").strip()
    if word.replace(".", "", 1).isdigit():
        return float(word)
    joined = {one.replace("-", ""): value for one, value in FACINGS.items()}
    if word.replace("-", "") not in joined:
        allowed = " · ".join(FACINGS) + ", or degrees clockwise from north"
        wrong = f"“{part}”: {said} is no direction. Allowed: {allowed}."
        raise Refused([problem(path, said, allowed, wrong)])
    return joined[word.replace("-", "")]


def roof_of_table(text: str) -> str:
    """A planner's table of a roof, a row for each plane, as the one line that says the same.

    Columns by their usual names: plane; modules, or rows and columns; tilt and azimuth where they
    are known. Raises Refused: no such columns, a row without a number, a line too long to be one.
    """
    every = rows_of(text)
    header = [cell.lower() for cell in every[0][1]] if every else []
    at = {
        meaning: next((n for n, cell in enumerate(header) if any(w in cell for w in words)), None)
        for meaning, words in COLUMNS.items()
    }
    if at["modules"] is None and (at["rows"] is None or at["in_row"] is None):
        allowed = "a table with plane, and modules or rows and columns; tilt and azimuth"
        raise Refused([problem("file", ", ".join(header) or "empty", allowed)])
    lines = []
    for number, row in every[1:]:
        cells = {
            meaning: row[column].strip() if column is not None and column < len(row) else ""
            for meaning, column in at.items()
        }
        count = f"{cells['rows']} x {cells['in_row']}" if cells["in_row"] else cells["modules"]
        tilt = f" at {cells['tilt']}" if cells["tilt"] else ""
        facing = f" facing {cells['facing']}" if cells["facing"] else ""
        said = f"{cells['name']} {count}{tilt}{facing}".strip().replace(",", ".")
        try:
            roof_parts(said)
        except Refused as refused:
            in_row = (replace(o, message=f"Row {number}: {o.message}") for o in refused.problems)
            raise Refused(in_row) from None
        lines.append(said)
    roof_parts(line := ", ".join(lines))
    return line
