"""The sun over a job's site, through the sun port."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

from core.job.job import Job
from core.job.roof import Plane
from core.rules.wall.wall_sun import hottest_month, wall_heat
from core.sky import CarriedSky, Light, PlaneSun, SkyDay, SunView
from server.jobs.schemas import WallSunView
from sun.carried import sky_day
from sun.clear_sky import Air, Place, SunNow, sun_day, sun_now
from sun.planes import Slope
from sun.wall import Eave, MonthSun, wall_months

WALLS_KEPT = 64
DAYS_KEPT = 256
# The days beside the visit and beside today: work moves, and nights have no signal either.
AROUND = (-1, 0, 1)


def place_of(job: Job) -> Place:
    """Where a job is."""
    site = job.site
    return Place(
        latitude_deg=site.latitude_deg,
        longitude_deg=site.longitude_deg,
        altitude_m=site.height_m,
    )


def air_of(job: Job) -> Air:
    """The air that the job's rule pack reckons with."""
    rules = job.rules.sun
    return Air(linke_turbidity=rules.linke_turbidity.value, albedo=rules.albedo.value)


def plane_sun(job: Job, plane: Plane, at: datetime) -> Light | None:
    """The sun and a clear sky on a plane, in the pack's air; None where nobody said how it lies."""
    if plane.tilt_deg is None or plane.azimuth_deg is None:
        return None
    sun = _sun(job, at, plane.tilt_deg, plane.azimuth_deg)
    return Light(elevation_deg=sun.elevation_deg, irradiance_w_per_m2=sun.poa_w_per_m2)


def _sun(job: Job, at: datetime, tilt_deg: float, azimuth_deg: float) -> SunNow:
    return sun_now(
        place=place_of(job),
        air=air_of(job),
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
        now=now,
        sunrise=day.sunrise,
        noon=day.noon,
        sunset=day.sunset,
        polar=day.polar,
        elevation_deg=sun_elevation_deg(job, now),
        planes=tuple(
            PlaneSun(name=name, irradiance_w_per_m2=sun.irradiance_w_per_m2)
            for name, sun in on_planes
            if sun is not None
        ),
    )


def sky_carried(job: Job, now: datetime) -> CarriedSky:
    """A clear sky over a job on the days around its visit and around today, to be taken along."""
    today = now.astimezone(ZoneInfo(job.site.timezone)).date()
    days = {one + timedelta(days) for one in (job.day, today) for days in AROUND}
    lying = {
        (plane.tilt_deg, plane.azimuth_deg)
        for plane in job.planes
        if plane.tilt_deg is not None and plane.azimuth_deg is not None
    }
    place = place_of(job)
    asked = (place, air_of(job), tuple(sorted(lying)), job.site.timezone)
    return CarriedSky(days=tuple(_sky_day(*asked, day) for day in sorted(days)), **vars(place))


@lru_cache(maxsize=DAYS_KEPT)
def _sky_day(
    place: Place, air: Air, lying: tuple[tuple[float, float], ...], timezone: str, day: date
) -> SkyDay:
    slopes = [Slope(name="plane", tilt_deg=tilt, azimuth_deg=facing) for tilt, facing in lying]
    return sky_day(place=place, air=air, slopes=slopes, day=day, timezone=timezone)


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
