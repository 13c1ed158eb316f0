"""A tester's file: one row a test, our columns or its own, nothing half-read.

Columns of ours: see COLUMNS and docs/test-file.md. `subject` names the string, run, link, switch
or device of the row as the job does. A cell may carry its unit; one that does not is in the unit
of its column, or in the one that the tester's own mapping gives.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime
from zoneinfo import ZoneInfo

from core.base.csv_text import csv_text
from core.base.delimited import rows_of
from core.base.errors import Problem, Refused, problem
from core.edits.readings import parse_reading
from core.job.feed import CIRCUIT
from core.job.job import Job
from core.job.reading_kinds import ReadingKind
from core.job.readings import HALF_WAVES, SITE
from core.job.subjects import residual_name
from core.job.tester_columns import COLUMNS, KNOWN, NOTE, SUBJECT, TAKEN_AT, FileColumn
from core.job.testers import ColumnMap, Instrument
from core.stages.reading_index import Readings, kept_of, shown_text

MOST_ROWS = 2000
MOST_PROBLEMS = 50


@dataclass(frozen=True, kw_only=True)
class FoundColumn:
    """One column of a file beside ours. sample: its first cells. ours: empty while not mapped."""

    theirs: str
    sample: str
    ours: str
    unit: str


@dataclass(frozen=True, kw_only=True)
class FileReading:
    """One cell that becomes a reading; retests: what it supersedes, as it is shown."""

    kind: ReadingKind
    subject: str
    entered: str
    taken_at: datetime | None
    note: str
    retests: str
    supersedes: str | None


@dataclass(frozen=True, kw_only=True)
class FileLook:
    """What a file holds: its columns, what of it would be kept, what is wrong with it.

    unmapped: columns of its own that nobody has given a meaning yet.
    """

    rows: int
    columns: tuple[FoundColumn, ...]
    unmapped: tuple[str, ...]
    readings: tuple[FileReading, ...]
    problems: tuple[Problem, ...]


def look(job: Job, instrument: Instrument, raw: bytes) -> FileLook:
    """What a file would give. Raises Refused when it is no table at all."""
    header, rows = _table(raw)
    columns = tuple(_found(instrument, name, at, rows) for at, name in enumerate(header))
    ours = [one.ours for one in columns]
    unmapped = tuple(
        one.theirs for one in columns if not one.ours and not _left_out(instrument, one)
    )
    problems: list[Problem] = []
    if SUBJECT not in ours:
        said = "No column names what was tested: pick the one that does as subject."
        problems.append(problem("$.columns", "none", SUBJECT, said))
    readings: list[FileReading] = []
    known = Readings(kept_of(job))
    for number, row in rows if SUBJECT in ours else []:
        try:
            readings += _row(job, known, columns, row, number)
        except Refused as refused:
            problems += refused.problems
    return FileLook(
        rows=len(rows),
        columns=columns,
        unmapped=unmapped,
        readings=tuple(readings),
        problems=tuple(problems[:MOST_PROBLEMS]),
    )


def read_file(job: Job, instrument: Instrument, raw: bytes) -> tuple[FileReading, ...]:
    """Every reading of a file. Raises Refused with all that is wrong: it is taken whole or not."""
    found = look(job, instrument, raw)
    problems = [
        *(
            problem("$.columns", name, " · ".join(KNOWN), f"{name} was given no meaning yet.")
            for name in found.unmapped
        ),
        *found.problems,
    ]
    if not problems and not found.readings:
        problems = [problem("$.rows", found.rows, "at least one reading")]
    if problems:
        raise Refused(problems)
    return found.readings


def template(job: Job) -> str:
    """A file to fill: our columns, and a row for each string, run and residual device."""
    names = [
        *(string.name for string in job.strings),
        *(run.name for run in job.feed.runs if not run.of_network),
        *(one.name for one in job.feed.devices if one.breaker and one.breaker.residual_ma),
    ]
    return csv_text((KNOWN, *((name, *[""] * (len(KNOWN) - 1)) for name in names)))


Row = tuple[int, list[str]]


def _table(raw: bytes) -> tuple[list[str], list[Row]]:
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        # Testers write in the alphabet of their country: any byte is a letter there.
        text = raw.decode("latin-1")
    if "\0" in text:
        raise Refused([problem("file", "bytes", "a CSV file", "This is not a table of cells.")])
    rows = rows_of(text)
    if len(rows) <= 1 or len(rows) - 1 > MOST_ROWS:
        allowed = f"a line of names, then 1 to {MOST_ROWS} rows"
        raise Refused([problem("file", f"{len(rows)} rows", allowed)])
    return rows[0][1], rows[1:]


def _found(instrument: Instrument, name: str, at: int, rows: list[Row]) -> FoundColumn:
    mapped = next((one for one in instrument.columns if one.theirs == name), None)
    own = mapped or ColumnMap(theirs=name or "?", ours=name if name in KNOWN else "")
    cells = [row[at] for _, row in rows if at < len(row) and row[at]]
    column = COLUMNS.get(own.ours)
    return FoundColumn(
        theirs=name,
        sample=" · ".join(cells[:3])[:60],
        ours=own.ours,
        unit=own.unit or (column.unit if column else ""),
    )


def _left_out(instrument: Instrument, column: FoundColumn) -> bool:
    """Whether the tester's mapping leaves a column out; an empty header holds nothing."""
    return not column.theirs or any(one.theirs == column.theirs for one in instrument.columns)


def _row(
    job: Job, known: Readings, columns: tuple[FoundColumn, ...], row: list[str], number: int
) -> Iterator[FileReading]:
    cells = {
        one.ours: (row[at] if at < len(row) else "", one.unit)
        for at, one in enumerate(columns)
        if one.ours
    }
    path = f"$.rows[{number}]"
    subject = cells[SUBJECT][0]
    taken_at = _moment(cells.get(TAKEN_AT, ("", ""))[0], job.site.timezone, path)
    found: list[FileReading] = []
    problems: list[Problem] = []
    for name, (cell, unit) in cells.items():
        column = COLUMNS.get(name)
        if column is None or not cell:
            continue
        entered = cell if not unit or cell[-1:].isalpha() or unit in cell else f"{cell} {unit}"
        try:
            of = _subject(job, column, subject, f"{path}.{SUBJECT}")
            parse_reading(column.kind, of, entered, "")
        except Refused as refused:
            problems += [
                replace(one, path=f"{path}.{name}") if one.path == "$.entered" else one
                for one in refused.problems
            ]
            continue
        before = known.latest(column.kind, of)
        found.append(
            FileReading(
                kind=column.kind,
                subject=of,
                entered=entered,
                taken_at=taken_at,
                note=cells.get(NOTE, ("", ""))[0],
                retests=shown_text(before) if before else "",
                supersedes=before.id if before else None,
            )
        )
    if problems:
        raise Refused(problems)
    yield from found


def _subject(job: Job, column: FileColumn, named: str, path: str) -> str:
    """What a cell of a row is of, as the job names it. Raises Refused for an unknown name."""
    if column.of == "site":
        return SITE
    if column.of == "circuit":
        return CIRCUIT
    if column.of == "plane":
        string = next((one for one in job.strings if one.name == named), None)
        planes = [plane.name for plane in job.planes]
        found = string.plane if string else named
        return _known(found, planes, path)
    if column.of in HALF_WAVES:
        devices = [one.name for one in job.feed.devices if one.breaker and one.breaker.residual_ma]
        return residual_name(_known(named, devices, path), column.of)
    return _known(named, sorted(job.subjects_of(column.kind)), path)


def _known(name: str, names: list[str], path: str) -> str:
    if name not in names:
        raise Refused([problem(path, name, " · ".join(names) or "nothing of this kind is planned")])
    return name


def _moment(text: str, timezone: str, path: str) -> datetime | None:
    """A moment as ISO 8601; without an offset it is the job's own clock. None where empty."""
    if not text:
        return None
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        said = f"{text} is no date and time as 2026-05-14T11:20."
        raise Refused([problem(f"{path}.{TAKEN_AT}", text, "ISO 8601", said)]) from None
    return found if found.tzinfo else found.replace(tzinfo=ZoneInfo(timezone))
