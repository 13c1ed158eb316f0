"""A day of a clear sky as a device takes it along: every ten minutes, for each slope."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from core.sky import STEP, SkyDay, SlopeSky
from sun.clear_sky import Air, Place, elevations_deg, sun_day
from sun.planes import Slope, Steps, clear_sky, plane_light

S_PER_MIN = 60
# Finer than anything that is read of them, and short on the way.
DIGITS = 3


def sky_day(*, place: Place, air: Air, slopes: Sequence[Slope], day: date, timezone: str) -> SkyDay:
    """A local day from midnight to midnight, by elapsed time: a clock may change in it."""
    zone = ZoneInfo(timezone)
    begins, ends = (
        datetime.combine(one, time(), zone).astimezone(UTC) for one in (day, day + timedelta(1))
    )
    count = -((begins - ends) // STEP) + 1
    # The sun of a step is taken at its middle.
    steps = Steps(start=begins - STEP / 2, step_min=STEP.total_seconds() / S_PER_MIN, count=count)
    sky = clear_sky(place=place, air=air, steps=steps)
    light = plane_light(place=place, slopes=slopes, steps=steps, sky=sky, albedo=air.albedo)
    sun = sun_day(place=place, day=day, timezone=timezone)
    heights = elevations_deg(place, [begins + number * STEP for number in range(count)])
    return SkyDay(
        begins=begins,
        sunrise=sun.sunrise,
        noon=sun.noon,
        sunset=sun.sunset,
        polar=sun.polar,
        elevation_deg=_short(heights),
        slopes=tuple(
            SlopeSky(
                tilt_deg=slope.tilt_deg,
                azimuth_deg=slope.azimuth_deg,
                irradiance_w_per_m2=_short(falls.irradiance_w_per_m2),
            )
            for slope, falls in zip(slopes, light, strict=True)
        ),
    )


def _short(figures: Sequence[float]) -> tuple[float, ...]:
    return tuple(round(one, DIGITS) for one in figures)
