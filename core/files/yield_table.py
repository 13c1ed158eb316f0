"""Energy of days from a portal's CSV, or irradiance of a station: gaps, clocks, doubles, units.

What is wrong with the file is said and left out; nothing is filled in. A file whose units or days
cannot be told for certain is refused.
"""

from __future__ import annotations

import hashlib
import re
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from itertools import pairwise
from math import fsum, isfinite
from typing import Literal
from zoneinfo import ZoneInfo

from core.base.delimited import rows_of
from core.base.errors import Refused, problem
from core.base.limits import MOST_WEATHER_BYTES
from core.base.messages import figure, say
from core.job.leave import MOST_DAYS, PLANT, DayEnergy

Kind = Literal["energy", "power", "light"]
# What a unit is, and how much of kWh, W or W/m² one of it is.
UNITS: dict[str, tuple[Kind, float]] = {
    "wh": ("energy", 0.001), "kwh": ("energy", 1.0), "mwh": ("energy", 1000.0),
    "w": ("power", 1.0), "kw": ("power", 1000.0),
    "w/m2": ("light", 1.0), "w/m²": ("light", 1.0), "kw/m2": ("light", 1000.0),
}  # fmt: skip
UNIT = re.compile(
    r"[\[(]\s*([^\])]+?)\s*[\])]|(?:^|[\s_,])(k?w/m[2²]|[km]?wh|k?w)\s*$", re.IGNORECASE
)
ISO = re.compile(r"^(\d{4})-(\d{1,2})-(\d{1,2})")
PARTED = re.compile(r"^(\d{1,2})([./-])(\d{1,2})\2(\d{4})")
CLOCK = re.compile(r"(\d{1,2}):(\d{2})(?::\d{2})?")
OFFSET = re.compile(r"(Z|[+-]\d{2}:?\d{2})$")
MIN_PER_DAY, MIN_PER_H, W_PER_KW = 1440, 60, 1000.0
# A day of a plant at its peak power from midnight to midnight: more is another unit.
HOURS_A_DAY = 24.0
MOST_FAULTS, MONTHS = 40, 12
NOTHING = ("", "-", "–", "--", "na", "n/a", "nan", "null")


@dataclass(frozen=True, kw_only=True)
class YieldTable:
    """What a file said of some days. light: of level ground in W/m², 24 or 96 steps through each
    whole day, where the file has it. faults: what was wrong, and what was done about it."""

    energy: tuple[DayEnergy, ...]
    light: tuple[tuple[date, tuple[float, ...]], ...]
    faults: tuple[str, ...]
    sha256: str


@dataclass(frozen=True, kw_only=True)
class _Column:
    number: int
    part: str
    kind: Kind
    factor: float


@dataclass(frozen=True, kw_only=True)
class _Row:
    at: datetime
    day: date
    has_clock: bool
    cells: list[str]
    line: int


def read_yield(
    raw: bytes, *, timezone: str, parts: tuple[str, ...], peak_kw: float, unit: str = ""
) -> YieldTable:
    """The days of a file. parts: strings and units that a column may be named after; unit: of
    columns that name none. Raises Refused for a file that cannot be told for certain.
    """
    if len(raw) > MOST_WEATHER_BYTES:
        raise Refused([problem("file", f"{len(raw)} bytes", f"at most {MOST_WEATHER_BYTES}")])
    text = raw.decode("utf-8-sig", "replace")
    table = rows_of(text)
    if len(table) < 2:  # noqa: PLR2004  a head and one row
        raise Refused([problem("file", "no rows", "a head, and a row for each day or hour")])
    faults: list[str] = []
    head, rows = table[0][1], table[1:]
    columns = _columns(head, parts, unit)
    zone = ZoneInfo(timezone)
    stamped = sorted(_stamped(rows, zone, faults), key=lambda one: one.at)
    kept = _undoubled(stamped, zone, faults)
    step_min = _step_min(kept)
    energy: list[DayEnergy] = []
    light: list[tuple[date, tuple[float, ...]]] = []
    for column in columns:
        days = _days(kept, column, step_min, zone, faults)
        if column.kind == "light":
            light += [(day, _level(values, step_min)) for day, values in days]
        else:
            energy += [
                DayEnergy(day=day, part=column.part, kwh=_kwh(values, column, step_min))
                for day, values in days
            ]
    _refuse_implausible(energy, peak_kw)
    first = min((one.day for one in energy), default=None)
    if first is None:
        said = say("yield_file", "no_day")
        raise Refused([problem("file", "no whole day", "at least one whole day", said)])
    last = max(one.day for one in energy)
    if (last - first).days >= MOST_DAYS:
        begin = last - timedelta(days=MOST_DAYS - 1)
        faults.append(say("yield_file", "too_long", days=str(MOST_DAYS), first=begin.isoformat()))
        energy = [one for one in energy if one.day >= begin]
        light = [one for one in light if one[0] >= begin]
    return YieldTable(
        energy=tuple(energy),
        light=tuple(light),
        faults=tuple(faults[:MOST_FAULTS]),
        sha256=hashlib.sha256(raw).hexdigest(),
    )


def _columns(head: list[str], parts: tuple[str, ...], unit: str) -> list[_Column]:
    """Every column with a unit; the first column is when. Raises Refused."""
    found = []
    for number, name in enumerate(head[1:], start=1):
        match = UNIT.search(name)
        said = (match.group(1) or match.group(2)) if match else unit
        known = UNITS.get(said.lower().replace(" ", "")) if said else None
        if known is None:
            if match is None and not unit:
                allowed = " · ".join(UNITS)
                told = say("yield_file", "no_unit", column=name or str(number + 1))
                raise Refused([problem(f"file.column {number + 1}", name, allowed, told)])
            continue
        plain = UNIT.sub("", name).strip(" :_-,")
        part = next((one for one in parts if one.lower() == plain.lower()), PLANT)
        found.append(_Column(number=number, part=part, kind=known[0], factor=known[1]))
    counted = Counter(one.part for one in found if one.kind != "light")
    doubled = [part for part, count in counted.items() if count > 1]
    if doubled:
        told = say("yield_file", "two_columns", part=doubled[0])
        raise Refused([problem("file", ", ".join(head), "one column for each part", told)])
    if not counted:
        allowed = "a column of Wh, kWh, MWh, W or kW"
        raise Refused([problem("file", ", ".join(head), allowed)])
    return found


def _stamped(
    rows: list[tuple[int, list[str]]], zone: ZoneInfo, faults: list[str]
) -> Iterator[_Row]:
    order = _order([cells[0] for _, cells in rows])
    unread = 0
    for line, cells in rows:
        at = _moment(cells[0], order, zone)
        if at is None:
            unread += 1
            continue
        moment, has_clock = at
        yield _Row(
            at=moment, day=moment.astimezone(zone).date(), has_clock=has_clock, cells=cells,
            line=line,
        )  # fmt: skip
    if unread:
        faults.append(say("yield_file", "unread_rows", count=str(unread)))


def _order(texts: list[str]) -> str:
    """Whether the day or the month comes first where neither is the year. Raises Refused."""
    found = [match for text in texts if (match := PARTED.match(text.strip()))]
    if not found:
        return "dm"
    if any(one.group(2) == "." for one in found) or any(int(o.group(1)) > MONTHS for o in found):
        return "dm"
    if any(int(one.group(3)) > MONTHS for one in found):
        return "md"
    example = found[0].group(0)
    said = say("yield_file", "which_day", text=example)
    raise Refused([problem("file.column 1", example, "days as 2026-05-14", said)])


def _moment(text: str, order: str, zone: ZoneInfo) -> tuple[datetime, bool] | None:
    text = text.strip()
    if match := ISO.match(text):
        year, month, day = (int(one) for one in match.groups())
    elif match := PARTED.match(text):
        first, second, year = int(match.group(1)), int(match.group(3)), int(match.group(4))
        day, month = (first, second) if order == "dm" else (second, first)
    else:
        return None
    clock = CLOCK.search(text)
    hour, minute = (int(clock.group(1)), int(clock.group(2))) if clock else (0, 0)
    try:
        naive = datetime(year, month, day, hour, minute)
    except ValueError:
        return None
    offset = OFFSET.search(text) if clock else None
    if offset is not None:
        tail = "+00:00" if offset.group(1) == "Z" else offset.group(1)
        return datetime.fromisoformat(f"{naive.isoformat()}{tail}").astimezone(zone), True
    return naive.replace(tzinfo=zone), clock is not None


def _undoubled(rows: list[_Row], zone: ZoneInfo, faults: list[str]) -> list[_Row]:
    """Rows once each. The hour that clocks show twice in autumn is two hours; a row that says the
    same twice is one; one that says two things leaves its day out."""
    found: list[_Row] = []
    bad: set[date] = set()
    same = turned = 0
    by_stamp: dict[datetime, list[_Row]] = defaultdict(list)
    for row in rows:
        by_stamp[row.at.replace(tzinfo=None)].append(row)
    for stamp, group in by_stamp.items():
        late = stamp.replace(tzinfo=zone, fold=1)
        twice = stamp.replace(tzinfo=zone).utcoffset() != late.utcoffset()
        offsets = {row.at.utcoffset() for row in group}
        if len(group) == 1 or len(offsets) == len(group):
            found += group
        elif twice and len(group) == 2 and group[0].has_clock:  # noqa: PLR2004  the two hours
            turned += 1
            found += group
        elif all(row.cells[1:] == group[0].cells[1:] for row in group):
            same += len(group) - 1
            found.append(group[0])
        else:
            bad.add(group[0].day)
    if same:
        faults.append(say("yield_file", "doubled", count=str(same)))
    if turned:
        faults.append(say("yield_file", "clock_back"))
    faults += [say("yield_file", "contradicts", day=day.isoformat()) for day in sorted(bad)]
    return [row for row in found if row.day not in bad]


def _step_min(rows: list[_Row]) -> int:
    """Minutes from row to row, as most of them are; a day where rows have no clock."""
    if not any(row.has_clock for row in rows):
        return MIN_PER_DAY
    apart = Counter(
        round((b.at.timestamp() - a.at.timestamp()) / MIN_PER_H)
        for a, b in pairwise(rows)
        if b.at.timestamp() > a.at.timestamp()
    )
    return apart.most_common(1)[0][0] if apart else MIN_PER_DAY


def _days(
    rows: list[_Row], column: _Column, step_min: int, zone: ZoneInfo, faults: list[str]
) -> Iterator[tuple[date, list[float]]]:
    """The whole days of a column; one with a gap is left out and said."""
    by_day: dict[date, list[float | None]] = defaultdict(list)
    for row in rows:
        text = row.cells[column.number] if column.number < len(row.cells) else ""
        by_day[row.day].append(_number(text, column.factor))
    for day, values in sorted(by_day.items()):
        wanted = max(1, _minutes_of(day, zone) // step_min)
        known = [one for one in values if one is not None]
        if len(known) < wanted:
            lacks = wanted - len(known)
            part = "" if column.part == PLANT else f"{column.part}, "
            faults.append(
                say(
                    "yield_file",
                    "gap",
                    day=f"{part}{day.isoformat()}",
                    count=str(lacks),
                    of=str(wanted),
                )
            )
        else:
            yield day, known


def _minutes_of(day: date, zone: ZoneInfo) -> int:
    """Minutes of a local day: an hour less or more where clocks change."""
    start = datetime(day.year, day.month, day.day, tzinfo=zone)
    after = day + timedelta(days=1)
    end = datetime(after.year, after.month, after.day, tzinfo=zone)
    return round((end.timestamp() - start.timestamp()) / MIN_PER_H)


def _number(text: str, factor: float) -> float | None:
    """A cell as a figure: a comma or a point before its decimals, spaces between thousands."""
    plain = text.strip().replace("\u00a0", "").replace(" ", "").replace("'", "")
    if plain.lower() in NOTHING:
        return None
    if "," in plain and "." in plain:
        last = max(plain.rfind(","), plain.rfind("."))
        plain = re.sub(r"[.,]", "", plain[:last]) + "." + plain[last + 1 :]
    plain = plain.replace(",", ".")
    try:
        value = float(plain)
    except ValueError:
        return None
    return value * factor if isfinite(value) else None


def _kwh(values: list[float], column: _Column, step_min: int) -> float:
    if column.kind == "energy":
        return fsum(values)
    return fsum(values) * step_min / MIN_PER_H / W_PER_KW


def _level(values: list[float], step_min: int) -> tuple[float, ...]:
    """A day's irradiance in 24 hours or 96 quarters, as its file has it."""
    each = 24 if step_min >= MIN_PER_H else 96
    many = len(values) / each
    found = []
    for number in range(each):
        own = values[int(number * many) : max(int(number * many) + 1, int((number + 1) * many))]
        found.append(max(0.0, fsum(own) / len(own)))
    return tuple(found)


def _refuse_implausible(energy: list[DayEnergy], peak_kw: float) -> None:
    """Refuses a day on which more came than the plant could give from midnight to midnight."""
    most = HOURS_A_DAY * peak_kw
    for one in energy:
        if abs(one.kwh) > most:
            told = say(
                "yield_file", "other_unit", day=one.day.isoformat(), kwh=figure(one.kwh, "kWh"),
                most=figure(most, "kWh"),
            )  # fmt: skip
            raise Refused([problem("file", f"{one.kwh:g} kWh", f"at most {most:g} kWh", told)])
