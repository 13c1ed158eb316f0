"""Coldest and hottest design air from an hourly weather file, read locally.

Formats: EPW (EnergyPlus weather, dry bulb), or CSV with a time and an air temperature column.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from core.base.delimited import rows_of
from core.base.errors import Refused, problem
from core.base.limits import MOST_WEATHER_BYTES
from core.base.quantity import Quantity
from core.base.units import parse_quantity

AIR = Quantity("air temperature", "°C", -90, 60)
# A year of hours; a file that has fewer, or too many gaps, cannot tell a coldest hour.
YEAR_HOURS = 8760
MOST_MISSING_SHARE = 0.1
# EPW: eight lines of header, dry bulb in the seventh column, 99.9 where it is missing.
EPW_HEADER_LINES, EPW_YEAR, EPW_AIR = 8, 0, 6
EPW_MISSING_C = 99.9
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

    years: first and last; a typical year is put together from several. missing: hours without
    a temperature. mean_yearly_min_c: mean of each year's coldest hour.
    """

    station: str
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
    is_epw = text.startswith("LOCATION,")
    station, hours = _epw(text) if is_epw else _hourly(text, file_name)
    return _climate(station, hours, file_name)


Hours = list[tuple[int, float | None]]


def _epw(text: str) -> tuple[str, Hours]:
    lines = text.splitlines()
    place = lines[0].split(",")
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
    return ", ".join(part for part in place[1:4] if part.strip()), hours


def _hourly(text: str, file_name: str) -> tuple[str, Hours]:
    rows = rows_of(text)
    header = [cell.lower() for cell in rows[0][1]] if rows else []
    time_at, air_at = _column(header, TIME_NAMES), _column(header, AIR_NAMES)
    if time_at is None or air_at is None:
        allowed = "an EPW file, or CSV with a time and an air temperature column"
        raise Refused([problem("file", ", ".join(header) or "empty", allowed)])
    hours: Hours = []
    for number, row in rows[1:]:
        if len(row) <= max(time_at, air_at):
            said = f"Line {number} has {len(row)} columns; {len(header)} were named."
            raise Refused([problem(f"line {number}", ", ".join(row), "a full row", said)])
        hours.append((_year(row[time_at], number), _air(row[air_at], number)))
    return file_name, hours


def _column(header: list[str], names: tuple[str, ...]) -> int | None:
    return next(
        (index for index, cell in enumerate(header) if any(name in cell for name in names)), None
    )


def _year(text: str, number: int) -> int:
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


def _climate(station: str, hours: Hours, file_name: str) -> Climate:
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
        station=station,
        first_year=years[0],
        last_year=years[-1],
        hours=len(hours),
        missing=missing,
        cold=_tail(known, COLD_PERCENTILES),
        hot=_tail(known, HOT_PERCENTILES),
        mean_yearly_min_c=round(sum(coldest) / len(coldest), 1),
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
