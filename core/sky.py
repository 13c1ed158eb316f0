"""What a clear sky gives a job's planes over the days around its visit: reckoned by the sun port,
carried along, and read between its steps."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

from core.base.errors import Refused, problem
from core.base.messages import say
from core.entry import Stamp
from core.job.fingerprints import stamp
from core.job.job import Job, Site
from core.job.reading_values import Measured
from core.job.readings import Reading
from core.job.roof import Plane

Polar = Literal["", "day", "night"]
# Read straight between two of them, it is off by 0.16 % of a day's most at the worst.
STEP = timedelta(minutes=10)
# Less than this is no sun to compare a reading with.
LEAST_W_PER_M2 = 1.0


@dataclass(frozen=True, kw_only=True)
class Light:
    """The sun over a plane at a moment: its height, and what a clear sky gives the plane."""

    elevation_deg: float
    irradiance_w_per_m2: float


@dataclass(frozen=True, kw_only=True)
class ClearSky:
    """Wanted: the clear-sky figure of a plane in the place of a reading. at None: now, or when it
    was pressed. id, noted_at, device: made in the hand, as an entry has them."""

    plane: str
    at: datetime | None
    id: str | None = None
    noted_at: datetime | None = None
    device: str = ""


@dataclass(frozen=True, kw_only=True)
class PlaneSun:
    """Clear-sky irradiance on one roof plane now."""

    name: str
    irradiance_w_per_m2: float


@dataclass(frozen=True, kw_only=True)
class SunView:
    """The sun over a job's site today, clear-sky irradiance now on each plane.

    polar: "day" where it does not set today, "night" where it does not rise.
    """

    now: datetime
    sunrise: datetime | None
    noon: datetime
    sunset: datetime | None
    polar: Polar
    elevation_deg: float
    planes: tuple[PlaneSun, ...]


@dataclass(frozen=True, kw_only=True)
class SlopeSky:
    """What falls on a slope at every step of a day, W/m²."""

    tilt_deg: float
    azimuth_deg: float
    irradiance_w_per_m2: tuple[float, ...]


@dataclass(frozen=True, kw_only=True)
class SkyDay:
    """A local day of a clear sky: its first step at its first midnight, the last at the next."""

    begins: datetime
    sunrise: datetime | None
    noon: datetime
    sunset: datetime | None
    polar: Polar
    elevation_deg: tuple[float, ...]
    slopes: tuple[SlopeSky, ...]


@dataclass(frozen=True, kw_only=True)
class CarriedSky:
    """Days of a clear sky over a place, in their order; of another place they say nothing."""

    latitude_deg: float
    longitude_deg: float
    altitude_m: float
    days: tuple[SkyDay, ...]

    def day_of(self, site: Site, at: datetime) -> SkyDay | None:
        """The day of a moment; None where none is carried of it, or of that site."""
        here = (self.latitude_deg, self.longitude_deg, self.altitude_m)
        if here != (site.latitude_deg, site.longitude_deg, site.height_m):
            return None
        found = bisect_right(self.days, at, key=lambda day: day.begins) - 1
        day = self.days[found] if found >= 0 else None
        return day if day and at - day.begins <= STEP * (len(day.elevation_deg) - 1) else None


def sun_carried(job: Job, sky: CarriedSky, at: datetime) -> SunView | None:
    """The sun over a job at a moment by what is carried along; None where it says nothing of it."""
    day = sky.day_of(job.site, at)
    if day is None:
        return None
    lit = ((plane.name, light_carried(job, sky, plane, at)) for plane in job.planes)
    return SunView(
        now=at,
        sunrise=day.sunrise,
        noon=day.noon,
        sunset=day.sunset,
        polar=day.polar,
        elevation_deg=_between(day.elevation_deg, at - day.begins),
        planes=tuple(
            PlaneSun(name=name, irradiance_w_per_m2=light.irradiance_w_per_m2)
            for name, light in lit
            if light is not None
        ),
    )


def light_carried(job: Job, sky: CarriedSky, plane: Plane, at: datetime) -> Light | None:
    """The sun over a plane by what is carried along; None where it says nothing of its slope."""
    day = sky.day_of(job.site, at)
    if day is None:
        return None
    for one in day.slopes:
        if (one.tilt_deg, one.azimuth_deg) == (plane.tilt_deg, plane.azimuth_deg):
            past = at - day.begins
            return Light(
                elevation_deg=_between(day.elevation_deg, past),
                irradiance_w_per_m2=_between(one.irradiance_w_per_m2, past),
            )
    return None


def plane_lying(job: Job, name: str) -> Plane:
    """The plane of that name, whose tilt and facing are known. Raises Refused."""
    plane = next((one for one in job.planes if one.name == name), None)
    if plane is None:
        raise Refused([problem("$.plane", name, " · ".join(one.name for one in job.planes))])
    if plane.tilt_deg is None or plane.azimuth_deg is None:
        raise Refused([problem("$.plane", name, say("sky", "lies"))])
    return plane


def clear_sky_reading(job: Job, plane: Plane, light: Light, kept: Stamp) -> Reading:
    """The clear-sky figure of a plane kept as its irradiance, marked as computed. Raises Refused:
    the sun is down."""
    if light.irradiance_w_per_m2 < LEAST_W_PER_M2:
        height = f"{light.elevation_deg:.0f}".replace("-", "\N{MINUS SIGN}")
        said = say("sky", "down", plane=plane.name, height=height)
        raise Refused([problem("$.at", str(kept.taken_at), say("sky", "daylight"), said)])
    note = say("sky", "note", tilt=f"{plane.tilt_deg:g}", facing=f"{plane.azimuth_deg:g}")
    return stamp(
        job,
        Reading(
            kind="irradiance",
            subject=plane.name,
            value=Measured(float(round(light.irradiance_w_per_m2))),
            basis="clear_sky",
            note=note,
            **vars(kept),
        ),
    )


def _between(steps: tuple[float, ...], past: timedelta) -> float:
    """A figure read straight between its two steps."""
    whole, rest = divmod(past, STEP)
    if not rest:
        return steps[whole]
    share = rest / STEP
    return steps[whole] * (1 - share) + steps[whole + 1] * share
