"""The light over the visits of a job: daylight for the roof, what readings want on each plane."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

from core.base.messages import figure, say
from core.job.day import BadSky
from core.job.job import Job
from core.planning.day.problem import Span, Visit
from core.planning.day.tasks import MIN_PER_DAY, Light, origin, visits_of
from core.planning.day.why import clock
from server.sun.views import place_of
from sun.clear_sky import Air, Place, sun_day
from sun.planes import Slope, Steps, clear_sky, plane_light

# The sun is looked at every ten minutes; nobody is on the roof in the last half hour of light.
STEP_MIN, LEAVE_ROOF_MIN = 10, 30
MIN_PER_H, NOON_H = 60, 12
DAYS_KEPT = 256


@dataclass(frozen=True, kw_only=True)
class VisitSun:
    """A visit, with the sun over it, all in minutes from the first visit's midnight."""

    number: int
    day: date
    travel_min: int
    sky: tuple[BadSky, ...]
    visit: Visit
    sunrise_min: int | None
    noon_min: int
    sunset_min: int | None


def light_over(job: Job) -> tuple[Light, tuple[VisitSun, ...]]:
    """Daylight for the roof and the light that readings want, over every visit."""
    by_plane: dict[str, list[Span]] = {one.name: [] for one in job.planes}
    daylight: list[Span] = []
    suns = []
    ordered = sorted(job.days.visits, key=lambda one: one.day)
    for visit, planned in zip(visits_of(job), ordered, strict=True):
        offset = (planned.day - origin(job)).days * MIN_PER_DAY
        sky = _sky_of(job, planned.day)
        rise, noon, fall = (None if one is None else offset + one for one in sky.sun)
        suns.append(
            VisitSun(
                number=planned.number,
                day=planned.day,
                travel_min=planned.travel_min,
                sky=planned.sky,
                visit=visit,
                sunrise_min=rise,
                noon_min=noon or 0,
                sunset_min=fall,
            )
        )
        if rise is not None and fall is not None and fall - LEAVE_ROOF_MIN > rise:
            daylight.append(Span(start_min=rise, end_min=fall - LEAVE_ROOF_MIN))
        for name, spans in sky.bright:
            by_plane[name] += (
                Span(start_min=offset + one.start_min, end_min=offset + one.end_min)
                for one in spans
            )
    least = job.rules.meter.least_irradiance.value
    planes = (
        (name, tuple(spans), _sun_said(job, name, spans, least)) for name, spans in by_plane.items()
    )
    return Light(daylight=tuple(daylight), planes=tuple(planes)), tuple(suns)


@dataclass(frozen=True, kw_only=True)
class _DaySky:
    """One day's sun in minutes of its clock: rise, noon, fall; when each plane is bright enough."""

    sun: tuple[int | None, int | None, int | None]
    bright: tuple[tuple[str, tuple[Span, ...]], ...]


def _sky_of(job: Job, day: date) -> _DaySky:
    rules = job.rules.sun
    slopes = tuple(
        Slope(name=one.name, tilt_deg=one.tilt_deg, azimuth_deg=one.azimuth_deg)
        for one in job.planes
        if one.tilt_deg is not None and one.azimuth_deg is not None
    )
    return _day_sky(
        place_of(job),
        job.site.timezone,
        Air(linke_turbidity=rules.linke_turbidity.value, albedo=rules.albedo.value),
        slopes,
        day,
        job.rules.meter.least_irradiance.value / job.days.sky,
    )


@lru_cache(maxsize=DAYS_KEPT)
def _day_sky(
    place: Place, timezone: str, air: Air, slopes: tuple[Slope, ...], day: date, least: float
) -> _DaySky:
    """least: of a clear sky, W/m². Reckoned from noon of the local clock, so that a change of the
    clock in the night is past."""
    zone = ZoneInfo(timezone)
    sun = sun_day(place=place, day=day, timezone=timezone)
    noon = datetime.combine(day, time(NOON_H), zone).astimezone(UTC)
    steps = Steps(
        start=noon - timedelta(hours=NOON_H), step_min=STEP_MIN, count=MIN_PER_DAY // STEP_MIN
    )
    sky = clear_sky(place=place, air=air, steps=steps)
    light = plane_light(place=place, slopes=slopes, steps=steps, sky=sky, albedo=air.albedo)
    moments = (sun.sunrise, sun.noon, sun.sunset)
    rise, at_noon, fall = (
        None if at is None else _clock_min(at.astimezone(zone)) for at in moments
    )
    return _DaySky(
        sun=(rise, at_noon, fall),
        bright=tuple(
            (one.name, _spans([on >= least for on in one.irradiance_w_per_m2])) for one in light
        ),
    )


def _spans(bright: list[bool]) -> tuple[Span, ...]:
    """The spans of minutes in which it is bright, of steps of the day."""
    spans, begun = [], None
    for number, is_bright in enumerate([*bright, False]):
        if is_bright and begun is None:
            begun = number
        elif not is_bright and begun is not None:
            spans.append(Span(start_min=begun * STEP_MIN, end_min=number * STEP_MIN))
            begun = None
    return tuple(spans)


def _clock_min(at: datetime) -> int:
    return at.hour * MIN_PER_H + at.minute


def _sun_said(job: Job, plane: str, spans: list[Span], least: float) -> str:
    facts = {
        "plane": plane,
        "least": figure(least, "W/m²", 0),
        "sky": figure(100 * job.days.sky, "%", 0),
    }
    if not spans:
        return say("day_why", "no_sun", **facts)
    return say(
        "day_why", "sun", from_=clock(spans[0].start_min), to=clock(spans[0].end_min), **facts
    )
