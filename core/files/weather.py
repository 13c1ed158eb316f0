"""Coldest and hottest design air from an hourly weather file, read locally.

Formats: EPW (EnergyPlus weather, dry bulb), TMY3, PVGIS by the hour or as a typical year (CSV or
JSON), or CSV with a time and an air temperature column.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import datetime
from itertools import takewhile
from math import fsum
from typing import Any

from core.base.delimited import rows_of
from core.base.errors import Refused, problem
from core.base.json_text import parse_json
from core.base.limits import MOST_WEATHER_BYTES
from core.base.quantity import Quantity
from core.base.units import parse_quantity

AIR = Quantity("air temperature", "°C", -90, 60)
# A year of hours; a file that has fewer, or too many gaps, cannot tell a coldest hour.
YEAR_HOURS = 8760
MOST_MISSING_SHARE = 0.1
# EPW: eight lines of header, dry bulb in the seventh column, 99.9 where it is missing.
EPW_HEADER_LINES, EPW_YEAR, EPW_AIR = 8, 0, 6
EPW_LATITUDE, EPW_LONGITUDE = 6, 7
EPW_MISSING_C = 99.9
# TMY3: station, name, state, zone, latitude, longitude, height; then the names of the columns.
TMY3_BEGINS, TMY3_AIR = "Date (MM/DD/YYYY)", "Dry-bulb (C)"
TMY3_LATITUDE, TMY3_LONGITUDE = 4, 5
# PVGIS: what it is of before the table, a time as 20160131:0510, notes behind an empty line.
PVGIS_BEGINS, PVGIS_HEADER_LINES = "Latitude (decimal degrees)", 20
PVGIS_POSITION = ("Latitude (decimal degrees)", "Longitude (decimal degrees)")
PVGIS_TIME = re.compile(r"\d{8}:\d{4}")
MOST_LATITUDE_DEG, MOST_LONGITUDE_DEG = 90.0, 180.0
COLD_PERCENTILES = (0.0, 0.1, 0.4, 1.0, 2.0)
HOT_PERCENTILES = (100.0, 99.9, 99.6, 99.0, 98.0)
TIME_NAMES = ("time", "date", "hour", "utc")
AIR_NAMES = ("temp", "air", "dry", "t2m")


@dataclass(frozen=True, kw_only=True)
class DesignAir:
    """A percentile of the hours and the air temperature there."""

    percentile: float
    t_air_c: float


@dataclass(frozen=True, kw_only=True)
class Climate:
    """What a weather file says of a site's air: years, hours, gaps, and the tails.

    latitude_deg, longitude_deg: None where the file does not say where it is of. years: first and
    last; a typical year is put together from several. missing: hours without a temperature.
    mean_yearly_min_c: mean of each year's coldest hour.
    """

    station: str
    latitude_deg: float | None
    longitude_deg: float | None
    first_year: int
    last_year: int
    hours: int
    missing: int
    cold: tuple[DesignAir, ...]
    hot: tuple[DesignAir, ...]
    mean_yearly_min_c: float
    source: str


def read_climate(raw: bytes, file_name: str) -> Climate:
    """The design air of a weather file. Raises Refused: no weather file, too short, too holey."""
    if len(raw) > MOST_WEATHER_BYTES:
        allowed = f"at most {MOST_WEATHER_BYTES // 1024 // 1024} MB"
        raise Refused([problem("file", f"{len(raw) / 1024 / 1024:.0f} MB", allowed)])
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = raw.decode("latin-1")
    where, hours = _hours(text, file_name)
    return _climate(where, hours, file_name)


Hours = list[tuple[int, float | None]]


@dataclass(frozen=True, kw_only=True)
class _Where:
    """What a file says of its own place."""

    station: str
    latitude_deg: float | None = None
    longitude_deg: float | None = None


def _hours(text: str, file_name: str) -> tuple[_Where, Hours]:
    """Where a file is of, and its hours: each format is known by how it begins."""
    if text.startswith("LOCATION,"):
        return _epw(text)
    if text.lstrip().startswith("{"):
        return _pvgis_json(text, file_name)
    lines = text.splitlines()
    if len(lines) > 1 and lines[1].startswith(TMY3_BEGINS):
        return _tmy3(lines)
    if lines and lines[0].startswith(PVGIS_BEGINS):
        return _pvgis_csv(lines, file_name)
    return _Where(station=file_name), _hourly(text)


def _placed(station: str, latitude: str, longitude: str) -> _Where:
    """A place with its position where both its figures are those of one."""
    try:
        north, east = float(latitude), float(longitude)
    except ValueError:
        return _Where(station=station)
    on_the_globe = abs(north) <= MOST_LATITUDE_DEG and abs(east) <= MOST_LONGITUDE_DEG
    if not on_the_globe:
        return _Where(station=station)
    return _Where(station=station, latitude_deg=north, longitude_deg=east)


def _epw(text: str) -> tuple[_Where, Hours]:
    lines = text.splitlines()
    place = [*lines[0].split(","), *[""] * EPW_LONGITUDE]
    hours: Hours = []
    for number, line in enumerate(lines[EPW_HEADER_LINES:], start=EPW_HEADER_LINES + 1):
        cells = line.split(",")
        if not line.strip():
            continue
        try:
            year, air = int(cells[EPW_YEAR]), float(cells[EPW_AIR])
        except (ValueError, IndexError):
            said = f"Line {number} has no year and dry-bulb temperature."
            raise Refused(
                [problem(f"line {number}", line, "an hour of an EPW file", said)]
            ) from None
        is_missing = air >= EPW_MISSING_C or not AIR.low <= air <= AIR.high
        hours.append((year, None if is_missing else air))
    station = ", ".join(part for part in place[1:4] if part.strip())
    return _placed(station, place[EPW_LATITUDE], place[EPW_LONGITUDE]), hours


def _tmy3(lines: list[str]) -> tuple[_Where, Hours]:
    """A TMY3 file: a line of its station, a line of names, then hours by date and dry bulb."""
    ((_, place),) = rows_of(lines[0])
    place = [*place, *[""] * TMY3_LONGITUDE]
    header = lines[1].split(",")
    if TMY3_AIR not in header:
        said = f"The second line names no column {TMY3_AIR}."
        raise Refused([problem("line 2", lines[1][:60], TMY3_AIR, said)])
    at = header.index(TMY3_AIR)
    hours: Hours = []
    for number, line in enumerate(lines[2:], start=3):
        cells = line.split(",")
        if not line.strip():
            continue
        try:
            year, air = int(cells[0].split("/")[2]), float(cells[at])
        except (ValueError, IndexError):
            said = f"Line {number} has no date as 01/31/1999 and dry-bulb temperature."
            raise Refused(
                [problem(f"line {number}", line, "an hour of a TMY3 file", said)]
            ) from None
        hours.append((year, air if AIR.low <= air <= AIR.high else None))
    return _placed(", ".join(place[1:3]), place[TMY3_LATITUDE], place[TMY3_LONGITUDE]), hours


def _pvgis_csv(lines: list[str], file_name: str) -> tuple[_Where, Hours]:
    """A PVGIS table: lines of where it is of, a line of names, hours, and notes at the end."""
    facts = dict(line.split(":", 1) for line in lines[:PVGIS_HEADER_LINES] if ":" in line)
    begins = next((n for n, line in enumerate(lines) if line.lower().startswith("time")), None)
    if begins is None:
        said = "No line names its columns, beginning with time."
        raise Refused([problem("file", file_name, "a PVGIS table by the hour", said)])
    table = list(takewhile(lambda line: line[:1].isdigit(), lines[begins + 1 :]))
    hours = _hourly("\n".join((lines[begins], *table)), first_line=begins + 1)
    north, east = (facts.get(name, "") for name in PVGIS_POSITION)
    return _placed(file_name, north, east), hours


def _pvgis_json(text: str, file_name: str) -> tuple[_Where, Hours]:
    """What PVGIS answers as JSON, by the hour or as a typical year."""
    allowed = "what PVGIS answers by the hour: outputs with hourly or tmy_hourly, time and T2m"
    try:
        data: Any = parse_json(text.encode())
        place = data["inputs"]["location"]
        rows = next(iter(rows for name, rows in data["outputs"].items() if "hourly" in name))
        hours = [
            (_year(next(str(row[name]) for name in row if "time" in name), n), _number(row["T2m"]))
            for n, row in enumerate(rows, start=1)
        ]
    except (KeyError, TypeError, StopIteration, AttributeError):
        raise Refused([problem("file", file_name, allowed)]) from None
    return _placed(file_name, str(place.get("latitude")), str(place.get("longitude"))), hours


def _number(air: object) -> float | None:
    is_air = isinstance(air, int | float) and AIR.low <= air <= AIR.high
    return float(air) if is_air and isinstance(air, int | float) else None


def _hourly(text: str, first_line: int = 1) -> Hours:
    rows = rows_of(text)
    header = [cell.lower() for cell in rows[0][1]] if rows else []
    time_at, air_at = _column(header, TIME_NAMES), _column(header, AIR_NAMES)
    if time_at is None or air_at is None:
        allowed = "an EPW file, or CSV with a time and an air temperature column"
        raise Refused([problem("file", ", ".join(header) or "empty", allowed)])
    hours: Hours = []
    for line, row in rows[1:]:
        number = line + first_line - 1
        if len(row) <= max(time_at, air_at):
            said = f"Line {number} has {len(row)} columns; {len(header)} were named."
            raise Refused([problem(f"line {number}", ", ".join(row), "a full row", said)])
        hours.append((_year(row[time_at], number), _air(row[air_at], number)))
    return hours


def _column(header: list[str], names: tuple[str, ...]) -> int | None:
    return next(
        (index for index, cell in enumerate(header) if any(name in cell for name in names)), None
    )


def _year(text: str, number: int) -> int:
    if PVGIS_TIME.fullmatch(text.strip()):
        return int(text.strip()[:4])
    try:
        return datetime.fromisoformat(text.strip()).year
    except ValueError:
        allowed = "a time as 2024-01-31T05:00"
        said = f"Line {number}: {text.strip() or 'nothing'} is not {allowed}."
        raise Refused([problem(f"line {number}", text, allowed, said)]) from None


def _air(text: str, number: int) -> float | None:
    if text.strip().lower() in ("", "nan", "null", "-", "na"):
        return None
    try:
        air_c = parse_quantity(text, Quantity(AIR.meaning, AIR.unit, -1e4, 1e4), "$")
    except Refused:
        said = f"Line {number}: {text.strip()} is not an air temperature."
        raise Refused([problem(f"line {number}", text, AIR.allowed, said)]) from None
    return air_c if AIR.low <= air_c <= AIR.high else None


def _climate(where: _Where, hours: Hours, file_name: str) -> Climate:
    known = sorted(air for _, air in hours if air is not None)
    missing = len(hours) - len(known)
    if len(hours) < YEAR_HOURS or missing > MOST_MISSING_SHARE * len(hours):
        said = (
            f"{file_name} has {len(known)} hours with an air temperature and {missing} without. "
            f"At least {YEAR_HOURS} hours are needed, at most a tenth of them missing."
        )
        allowed = f"at least {YEAR_HOURS} hours, at most a tenth missing"
        raise Refused([problem("file", f"{len(known)} hours", allowed, said)])
    years = sorted({year for year, _ in hours})
    coldest = list(_coldest_by_year(hours).values())
    span = f"{years[0]}" if len(years) == 1 else f"{years[0]} to {years[-1]}"
    return Climate(
        station=where.station,
        latitude_deg=where.latitude_deg,
        longitude_deg=where.longitude_deg,
        first_year=years[0],
        last_year=years[-1],
        hours=len(hours),
        missing=missing,
        cold=_tail(known, COLD_PERCENTILES),
        hot=_tail(known, HOT_PERCENTILES),
        mean_yearly_min_c=round(fsum(coldest) / len(coldest), 1),
        source=f"{file_name}, {span}, {len(hours)} hours, {missing} missing",
    )


def _coldest_by_year(hours: Hours) -> dict[int, float]:
    coldest: dict[int, float] = {}
    for year, air in hours:
        if air is not None:
            coldest[year] = min(air, coldest.get(year, air))
    return coldest


def _tail(known: list[float], percentiles: tuple[float, ...]) -> tuple[DesignAir, ...]:
    return tuple(
        DesignAir(percentile=one, t_air_c=round(_at(known, one), 1)) for one in percentiles
    )


def _at(known: list[float], percentile: float) -> float:
    """The value below which so many percent lie, between the two nearest hours."""
    place = percentile / 100 * (len(known) - 1)
    low = int(place)
    high = min(low + 1, len(known) - 1)
    return known[low] + (place - low) * (known[high] - known[low])
