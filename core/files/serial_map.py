"""The serial map as a file: CSV and JSON out, and either of them back in."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Annotated, Any

from core.assessment.microinverter import RoofStage
from core.base.csv_text import csv_text
from core.base.delimited import rows_of
from core.base.errors import Problem, Refused, problem
from core.base.form import Checked, read
from core.base.glossary import Name, Note
from core.base.messages import say
from core.base.quantity import Items
from core.job.job import Job
from core.job.microinverter import MicroPlan
from core.rules.arrival.nameplate import serial_in

FORMAT = "long-noon-map"
VERSION = 1
FIELDS = ("unit", "branch", "number", "phase", "plane", "row", "modules", "serial")


@dataclass(frozen=True, kw_only=True)
class MapRow(Checked):
    """One unit of a map file. A serial that is empty is not read yet."""

    unit: Name
    serial: Note = ""
    branch: Note = ""
    phase: Note = ""


Rows = Annotated[tuple[MapRow, ...], Items("units of the map", 0, 400)]


def map_rows(stage: RoofStage) -> list[dict[str, str]]:
    """The map in walking order, a row for each unit, every cell a text."""
    phases = {branch.name: branch.phase_name for branch in stage.branches}
    return [
        {
            "unit": unit.name,
            "branch": unit.branch,
            "number": str(unit.number or ""),
            "phase": phases.get(unit.branch, ""),
            "plane": unit.plane,
            "row": str(unit.row),
            "modules": " + ".join(unit.modules),
            "serial": unit.serial,
        }
        for unit in stage.units
    ]


def map_csv(stage: RoofStage) -> str:
    """The map as CSV with a line of names."""
    return csv_text((FIELDS, *([row[name] for name in FIELDS] for row in map_rows(stage))))


def map_json(job: Job, stage: RoofStage) -> str:
    """The map as JSON, with what it is a map of."""
    data = {"format": FORMAT, "version": VERSION, "job": job.name, "units": map_rows(stage)}
    return json.dumps(data, indent=2, ensure_ascii=False) + "\n"


def read_map(job: Job, raw: bytes) -> tuple[tuple[str, str], ...]:
    """Unit and serial of every row of a map file that has one.

    Raises Refused with every problem: a unit that is not here, a serial of another form, a serial
    or a unit twice, a branch over two phases. Then nothing is taken in.
    """
    plan = job.roof_plan
    rows = _rows(raw)
    found: list[Problem] = []
    taken: list[tuple[str, str]] = []
    known = {unit.name for unit in plan.units}
    for index, row in enumerate(rows):
        path = f"$.units[{index}]"
        if row.unit not in known:
            said = say("map_file", "no_unit", unit=row.unit)
            found.append(problem(f"{path}.unit", row.unit, "a unit of this roof", said))
            continue
        found += _branch_problems(plan, path, row)
        if not row.serial.strip():
            continue
        try:
            serial = serial_in(
                scanned=row.serial, form=plan.sheet_of(plan.unit_named(row.unit)).serial_form
            )
        except Refused as refused:
            found += [
                problem(f"{path}.serial", row.serial, p.allowed, p.message)
                for p in refused.problems
            ]
            continue
        taken.append((row.unit, serial))
    found += _doubles(taken)
    found += _phase_problems(rows)
    if found:
        raise Refused(found)
    if not taken:
        said = say("map_file", "empty")
        raise Refused([problem("$.units", len(rows), "a serial for at least one unit", said)])
    return tuple(taken)


def _branch_problems(plan: MicroPlan, path: str, row: MapRow) -> list[Problem]:
    """A unit that the file has on another branch than the plan: the two maps differ."""
    branch = plan.branch_of(row.unit)
    has = branch.name if branch else ""
    if not row.branch or row.branch == has:
        return []
    said = say("map_file", "branch", unit=row.unit, has=has or "no branch", said=row.branch)
    return [problem(f"{path}.branch", row.branch, has or "none", said)]


def _doubles(taken: list[tuple[str, str]]) -> list[Problem]:
    found, units, serials = [], dict[str, str](), dict[str, str]()
    for index, (unit, serial) in enumerate(taken):
        path = f"$.units[{index}]"
        if unit in units:
            said = say("map_file", "twice", unit=unit)
            found.append(problem(f"{path}.unit", unit, "each unit once", said))
        elif serial in serials:
            said = f"{serial} stands on {serials[serial]} and on {unit}."
            found.append(problem(f"{path}.serial", serial, "each serial once", said))
        units[unit] = serial
        serials.setdefault(serial, unit)
    return found


def _phase_problems(rows: tuple[MapRow, ...]) -> list[Problem]:
    """A branch whose units stand on two phases in the file: no trunk can be wired so."""
    found, phases = [], dict[str, str]()
    for index, row in enumerate(rows):
        if not row.branch or not row.phase:
            continue
        one = phases.setdefault(row.branch, row.phase)
        if one != row.phase:
            said = say(
                "map_file",
                "phase",
                branch=row.branch,
                one=one.removeprefix("L"),
                other=row.phase.removeprefix("L"),
            )
            found.append(problem(f"$.units[{index}].phase", row.phase, one, said))
    return found


def _rows(raw: bytes) -> tuple[MapRow, ...]:
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refused([problem("file", "bytes", "text as UTF-8")]) from None
    stripped = text.lstrip()
    return _from_json(text) if stripped.startswith(("{", "[")) else _from_csv(text)


def _from_json(text: str) -> tuple[MapRow, ...]:
    try:
        data: Any = json.loads(text)
    except ValueError as error:
        raise Refused([problem("file", str(error), "JSON")]) from None
    units = data.get("units") if isinstance(data, dict) else data
    if isinstance(data, dict) and data.get("format") not in (None, FORMAT):
        raise Refused([problem("$.format", str(data.get("format")), FORMAT)])
    if not isinstance(units, list):
        raise Refused([problem("$.units", "none", "a list of units, each with unit and serial")])
    wanted = ("unit", "serial", "branch", "phase")
    plain = [
        {key: str(one[key]) for key in wanted if one.get(key) is not None}
        if isinstance(one, dict)
        else one
        for one in units
    ]
    return read(Rows, plain, "$.units")


def _from_csv(text: str) -> tuple[MapRow, ...]:
    rows = rows_of(text)
    head = [cell.lower() for cell in rows[0][1]] if rows else []
    if "unit" not in head or "serial" not in head:
        allowed = say("map_file", "columns")
        raise Refused([problem("file", ", ".join(head) or "empty", allowed)])
    wanted = ("unit", "serial", "branch", "phase")
    plain = [
        {name: cells[at] for at, name in enumerate(head) if name in wanted and at < len(cells)}
        for _, cells in rows[1:]
    ]
    return read(Rows, plain, "$.units")
