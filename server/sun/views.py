"""The sun over a job's site, through the sun port."""

from __future__ import annotations

from datetime import UTC, datetime
from functools import lru_cache
from zoneinfo import ZoneInfo

from core.job.job import Job
from core.job.roof import Plane
from core.rules.wall.wall_sun import hottest_month, wall_heat
from server.jobs.schemas import PlaneSun, SunView, WallSunView
from sun.clear_sky import Air, Place, SunNow, sun_day, sun_now
from sun.wall import Eave, MonthSun, wall_months

WALLS_KEPT = 64


def place_of(job: Job) -> Place:
    """Where a job is."""
    site = job.site
    return Place(
        latitude_deg=site.latitude_deg,
        longitude_deg=site.longitude_deg,
        altitude_m=site.altitude_m,
    )


def plane_sun(job: Job, plane: Plane, at: datetime) -> SunNow | None:
    """The sun and a clear sky on a plane, in the pack's air; None where nobody said how it lies."""
    if plane.tilt_deg is None or plane.azimuth_deg is None:
        return None
    return _sun(job, at, plane.tilt_deg, plane.azimuth_deg)


def _sun(job: Job, at: datetime, tilt_deg: float, azimuth_deg: float) -> SunNow:
    rules = job.rules.sun
    return sun_now(
        place=place_of(job),
        air=Air(linke_turbidity=rules.linke_turbidity.value, albedo=rules.albedo.value),
        tilt_deg=tilt_deg,
        azimuth_deg=azimuth_deg,
        at=at,
    )


def sun_elevation_deg(job: Job, at: datetime) -> float:
    """How high the sun stands over a job at a moment."""
    return _sun(job, at, 0.0, 0.0).elevation_deg


def sun_view(job: Job) -> SunView:
    """Today's sun over a job."""
    now = datetime.now(UTC)
    today = now.astimezone(ZoneInfo(job.site.timezone)).date()
    day = sun_day(place=place_of(job), day=today, timezone=job.site.timezone)
    on_planes = [(plane.name, plane_sun(job, plane, now)) for plane in job.planes]
    return SunView(
        now=now.isoformat(),
        sunrise=day.sunrise.isoformat() if day.sunrise else None,
        noon=day.noon.isoformat(),
        sunset=day.sunset.isoformat() if day.sunset else None,
        polar=day.polar,
        elevation_deg=sun_elevation_deg(job, now),
        planes=tuple(
            PlaneSun(name=name, irradiance_w_per_m2=sun.poa_w_per_m2)
            for name, sun in on_planes
            if sun is not None
        ),
    )


def wall_sun(job: Job) -> WallSunView:
    """Direct sun on the wall by month, at the middle of the inverter. Raises Refused: no wall."""
    wall = job.drawn_wall
    device = next((one for one in wall.devices if one.kind == "inverter"), None)
    body = job.inverter.body if job.inverter else None
    middle_mm = wall.datum_mm
    if device is not None and body is not None:
        middle_mm = device.y_mm + body.height_mm / 2
    months = _months(
        place_of(job),
        job.site.timezone,
        job.day.year,
        wall.azimuth_deg,
        Eave(out_mm=wall.eave_mm, above_mm=max(wall.top_mm - middle_mm, 0.0)),
    )
    hottest = hottest_month(latitude_deg=job.site.latitude_deg)
    hours = next(one.hours for one in months if one.month == hottest)
    heat = wall_heat(sun_hours=hours, most_hours=job.rules.wall.sun_hours.value)
    return WallSunView(months=months, hottest=hottest, judgement=heat)


@lru_cache(maxsize=WALLS_KEPT)
def _months(
    place: Place, timezone: str, year: int, azimuth_deg: float, eave: Eave
) -> tuple[MonthSun, ...]:
    return wall_months(
        place=place, timezone=timezone, year=year, azimuth_deg=azimuth_deg, eave=eave
    )
