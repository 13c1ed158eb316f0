"""A day of a clear sky read between its steps, against the sun asked at that very moment."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.job.job import Job
from core.job.roof import Plane
from core.sky import STEP, CarriedSky, light_carried, sun_carried
from core.tests.samples import sample_job
from sun.carried import sky_day
from sun.clear_sky import Air, Place, sun_now
from sun.planes import Slope

MOST_APART = 0.0016
AIR = Air(linke_turbidity=3.5, albedo=0.2)
LYING = ((38.0, 92.0), (38.0, 272.0), (60.0, 0.0), (0.0, 180.0), (90.0, 180.0))


def place_of(job: Job) -> Place:
    site = job.site
    return Place(
        latitude_deg=site.latitude_deg,
        longitude_deg=site.longitude_deg,
        altitude_m=site.altitude_m,
    )


class Carried(TestCase):
    @given(
        day=st.dates(date(2026, 1, 1), date(2027, 12, 31)),
        past=st.floats(0, 1430),
        lying=st.sampled_from(LYING),
    )
    @settings(max_examples=25, deadline=None)
    def test_between_two_steps_it_is_off_by_less_than_a_meter_reads(
        self, day: date, past: float, lying: tuple[float, float]
    ) -> None:
        job = sample_job()
        place, zone = place_of(job), job.site.timezone
        slope = Slope(name="plane", tilt_deg=lying[0], azimuth_deg=lying[1])
        one = sky_day(place=place, air=AIR, slopes=(slope,), day=day, timezone=zone)
        sky = CarriedSky(days=(one,), **vars(place))
        at = one.begins + timedelta(minutes=past)
        plane = Plane(name="x", tilt_deg=lying[0], azimuth_deg=lying[1])
        found = light_carried(job, sky, plane, at)
        there = sun_now(place=place, air=AIR, tilt_deg=lying[0], azimuth_deg=lying[1], at=at)
        assert found is not None
        most = max(one.slopes[0].irradiance_w_per_m2)
        apart = abs(found.irradiance_w_per_m2 - there.poa_w_per_m2)
        self.assertLessEqual(apart, MOST_APART * most + 1)
        self.assertAlmostEqual(found.elevation_deg, there.elevation_deg, delta=0.03)

    def test_where_nothing_is_carried_nothing_is_said(self) -> None:
        job = sample_job()
        place, zone = place_of(job), job.site.timezone
        # Clocks change in its night: it is an hour longer.
        longer = sky_day(place=place, air=AIR, slopes=(), day=date(2026, 10, 25), timezone=zone)
        self.assertEqual(STEP * (len(longer.elevation_deg) - 1), timedelta(hours=25))
        sky = CarriedSky(days=(longer,), **vars(place))
        noon = datetime(2026, 10, 25, 12, tzinfo=UTC)
        said = sun_carried(job, sky, noon)
        assert said is not None
        self.assertEqual(said.planes, ())
        self.assertIsNone(sun_carried(job, sky, noon + timedelta(days=1)))
        elsewhere = CarriedSky(days=(longer,), **vars(place) | {"altitude_m": 1.0})
        self.assertIsNone(sun_carried(job, elsewhere, noon))
