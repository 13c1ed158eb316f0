"""The sun over a job's site, through the sun port."""

from __future__ import annotations

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

from core.job import Job
from core.roof import Plane
from server.jobs.schemas import PlaneSun, SunView
from sun.clear_sky import Air, Place, SunNow, sun_day, sun_now


def place_of(job: Job) -> Place:
    """Where a job is."""
    site = job.site
    return Place(
        latitude_deg=site.latitude_deg,
        longitude_deg=site.longitude_deg,
        altitude_m=site.altitude_m,
    )


def plane_sun(job: Job, plane: Plane, at: datetime) -> SunNow:
    """The sun and a clear sky on one plane of a job, with the rule pack's air."""
    rules = job.rules.sun
    return sun_now(
        place=place_of(job),
        air=Air(linke_turbidity=rules.linke_turbidity.value, albedo=rules.albedo.value),
        tilt_deg=plane.tilt_deg,
        azimuth_deg=plane.azimuth_deg,
        at=at,
    )


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
        elevation_deg=on_planes[0][1].elevation_deg,
        planes=tuple(
            PlaneSun(name=name, irradiance_w_per_m2=sun.poa_w_per_m2) for name, sun in on_planes
        ),
    )
