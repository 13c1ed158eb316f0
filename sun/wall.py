"""Direct sun on an upright wall, hour by hour and month by month."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from sun.clear_sky import DELTA_T_S, Place

# The sun's upper limb with standard refraction on a level horizon.
HORIZON_DEG = -0.8333
STEP = timedelta(minutes=4)
MIDDLE_OF_MONTH = 15
MONTHS = range(1, 13)
SECONDS_PER_HOUR = 3600.0


@dataclass(frozen=True, kw_only=True)
class Eave:
    """What stands out above a point of the wall: how far, and how high above the point [mm]."""

    out_mm: float
    above_mm: float


@dataclass(frozen=True, kw_only=True)
class SunSpell:
    """One unbroken spell of direct sun on the wall."""

    start: datetime
    end: datetime


@dataclass(frozen=True, kw_only=True)
class MonthSun:
    """Direct sun on the middle day of a month [h]."""

    month: int
    hours: float


def wall_spells(
    *, place: Place, timezone: str, day: date, azimuth_deg: float, eave: Eave | None = None
) -> tuple[SunSpell, ...]:
    """When the sun stands on a wall on one local day.

    Direct sun while the sun is up and in front of the wall, and below the edge of the eave as
    the point sees it: tan(profile angle) = tan(elevation) / cos(azimuth difference).
    Position by NREL's algorithm; edges between steps by linear interpolation.
    """
    import pandas
    from pvlib import solarposition

    zone = ZoneInfo(timezone)
    begin = datetime.combine(day, time(0), zone)
    finish = datetime.combine(day + timedelta(days=1), time(0), zone)
    times = pandas.date_range(begin, finish, freq=STEP)
    found = solarposition.spa_python(
        times, place.latitude_deg, place.longitude_deg, altitude=place.altitude_m, delta_t=DELTA_T_S
    )
    lit = [
        _lit(float(elevation), float(azimuth) - azimuth_deg, eave)
        for elevation, azimuth in zip(found["elevation"], found["azimuth"], strict=True)
    ]
    return _spells([moment.to_pydatetime() for moment in times], lit)


def _lit(elevation_deg: float, aside_deg: float, eave: Eave | None) -> float:
    """How far the point is from losing the sun: positive in direct sun, zero on its edge."""
    ahead = math.cos(math.radians(aside_deg))
    margin = min(elevation_deg - HORIZON_DEG, math.degrees(math.asin(ahead)))
    if eave is None or eave.out_mm == 0 or ahead <= 0:
        return margin
    profile = math.degrees(
        math.atan2(math.sin(math.radians(elevation_deg)), ahead * _level(elevation_deg))
    )
    edge = math.degrees(math.atan2(eave.above_mm, eave.out_mm))
    return min(margin, edge - profile)


def _level(elevation_deg: float) -> float:
    return math.cos(math.radians(elevation_deg))


def _spells(times: list[datetime], lit: list[float]) -> tuple[SunSpell, ...]:
    spells: list[SunSpell] = []
    start = times[0] if lit[0] > 0 else None
    for index in range(1, len(times)):
        before, after = lit[index - 1], lit[index]
        if (before > 0) == (after > 0):
            continue
        crossing = times[index - 1] + (times[index] - times[index - 1]) * (
            before / (before - after)
        )
        if start is None:
            start = crossing
        else:
            spells.append(SunSpell(start=start, end=crossing))
            start = None
    if start is not None:
        spells.append(SunSpell(start=start, end=times[-1]))
    return tuple(spells)


def spell_hours(spells: tuple[SunSpell, ...]) -> float:
    """All spells together [h]."""
    return sum(one.end.timestamp() - one.start.timestamp() for one in spells) / SECONDS_PER_HOUR


def wall_months(
    *, place: Place, timezone: str, year: int, azimuth_deg: float, eave: Eave | None = None
) -> tuple[MonthSun, ...]:
    """Direct sun on the middle day of each month."""
    return tuple(
        MonthSun(
            month=month,
            hours=spell_hours(
                wall_spells(
                    place=place,
                    timezone=timezone,
                    day=date(year, month, MIDDLE_OF_MONTH),
                    azimuth_deg=azimuth_deg,
                    eave=eave,
                )
            ),
        )
        for month in MONTHS
    )
