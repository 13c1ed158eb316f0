"""Sun and clear sky against cases from two other almanacs and an own clear-sky code."""

from __future__ import annotations

from datetime import date, datetime, timedelta, timezone
from pathlib import Path
from unittest import TestCase

from core.tests.cases import Case, compare, load
from sun.clear_sky import Air, Place, SunNow, sun_day, sun_now

CASES = Path(__file__).parent / "cases"


class ClearSkyCases(TestCase):
    def test_position_irradiance_and_day(self) -> None:
        for case in load(CASES, "clear_sky"):
            self.check_moments(case)
            self.check_day(case)

    def place(self, case: Case) -> Place:
        inputs = case["inputs"]
        return Place(
            latitude_deg=inputs["latitude_deg"],
            longitude_deg=inputs["longitude_deg_east"],
            altitude_m=inputs["altitude_m"],
        )

    def check_moments(self, case: Case) -> None:
        moments = [self.moment(case, hour) for hour in case["inputs"]["hours_local"]]
        for key, field in (
            ("sun_elevation_true_deg", "elevation_deg"),
            ("sun_azimuth_deg", "azimuth_deg"),
            ("ghi_clear_w_per_m2", "ghi_w_per_m2"),
            ("poa_clear_w_per_m2", "poa_w_per_m2"),
            ("angle_of_incidence_deg", "incidence_deg"),
        ):
            compare(self, case, key, [getattr(moment, field) for moment in moments])

    def moment(self, case: Case, hour: float) -> SunNow:
        inputs = case["inputs"]
        zone = timezone(timedelta(hours=inputs["utc_offset_h"]))
        midnight = datetime.fromisoformat(inputs["date"]).replace(tzinfo=zone)
        return sun_now(
            place=self.place(case),
            air=Air(linke_turbidity=inputs["linke_turbidity"], albedo=inputs["albedo"]),
            tilt_deg=inputs["plane_tilt_deg"],
            azimuth_deg=inputs["plane_azimuth_deg_from_north"],
            at=midnight + timedelta(hours=hour),
        )

    def check_day(self, case: Case) -> None:
        inputs = case["inputs"]
        zone = f"Etc/GMT{-inputs['utc_offset_h']:+d}"
        day = sun_day(
            place=self.place(case),
            day=date.fromisoformat(inputs["date"]),
            timezone=zone,
        )
        for key, moment in (
            ("sunrise_local_h", day.sunrise),
            ("solar_noon_local_h", day.noon),
            ("sunset_local_h", day.sunset),
        ):
            assert moment is not None
            midnight = moment.replace(hour=0, minute=0, second=0, microsecond=0)
            compare(self, case, key, (moment - midnight).total_seconds() / 3600)

    def test_polar_night_and_polar_day_are_said(self) -> None:
        for latitude_deg, month, polar in (
            (78, 12, "night"),
            (78, 6, "day"),
            (78, 3, ""),
            (90, 6, "day"),
        ):
            north = Place(latitude_deg=latitude_deg, longitude_deg=15.0, altitude_m=0.0)
            day = sun_day(place=north, day=date(2026, month, 21), timezone="Europe/Oslo")
            self.assertEqual(day.polar, polar)
            self.assertEqual(day.sunrise is None, polar != "")
            self.assertEqual(day.noon.day, 21)

    def test_beside_the_date_line_rise_and_set_are_at_the_horizon_of_that_day(self) -> None:
        for zone, east_deg in (("Pacific/Kiritimati", -157.4), ("Pacific/Auckland", -176.5)):
            for latitude_deg in (-55.0, 1.9, 55.0):
                day = date(2026, 3, 20)
                here = Place(latitude_deg=latitude_deg, longitude_deg=east_deg, altitude_m=0.0)
                found = sun_day(place=here, day=day, timezone=zone)
                assert found.sunrise is not None and found.sunset is not None
                self.assertEqual(found.sunset.date(), day)
                for moment in (found.sunrise, found.sunset):
                    sun = sun_now(place=here, air=Sky.air, tilt_deg=0, azimuth_deg=180, at=moment)
                    self.assertAlmostEqual(sun.elevation_deg, -0.8333, delta=0.01)


class Sky(TestCase):
    place = Place(latitude_deg=54.2, longitude_deg=0.6, altitude_m=12.0)
    air = Air(linke_turbidity=3.0, albedo=0.2)

    def on(self, tilt: float, facing: float, at: str) -> SunNow:
        moment = datetime.fromisoformat(at)
        return sun_now(place=self.place, air=self.air, tilt_deg=tilt, azimuth_deg=facing, at=moment)

    def test_night_gives_nothing(self) -> None:
        midnight = self.on(35, 180, "2026-06-21T00:00:00+00:00")
        self.assertLess(midnight.elevation_deg, 0)
        self.assertEqual((midnight.ghi_w_per_m2, midnight.poa_w_per_m2), (0.0, 0.0))

    def test_a_level_plane_gets_what_the_ground_gets(self) -> None:
        level = self.on(0, 180, "2026-06-21T10:00:00+00:00")
        self.assertAlmostEqual(level.poa_w_per_m2, level.ghi_w_per_m2, places=6)

    def test_morning_is_for_the_east_and_evening_for_the_west(self) -> None:
        for at, lit, dim in (("08:00", 90, 270), ("16:30", 270, 90)):
            when = f"2026-06-21T{at}:00+00:00"
            self.assertGreater(
                self.on(35, lit, when).poa_w_per_m2, 2 * self.on(35, dim, when).poa_w_per_m2
            )

    def test_the_offset_of_a_moment_does_not_matter(self) -> None:
        here = self.on(35, 180, "2026-06-21T12:00:00+00:00")
        there = self.on(35, 180, "2026-06-21T14:00:00+02:00")
        self.assertEqual(here, there)

    def test_hazier_air_gives_less(self) -> None:
        clear = self.on(35, 180, "2026-06-21T12:00:00+00:00").poa_w_per_m2
        self.air = Air(linke_turbidity=6.0, albedo=0.2)
        self.assertLess(self.on(35, 180, "2026-06-21T12:00:00+00:00").poa_w_per_m2, clear)

    def test_a_day_is_whole_on_both_sides_of_summer_time(self) -> None:
        for day in (date(2026, 3, 29), date(2026, 10, 25), date(2026, 6, 21)):
            found = sun_day(place=self.place, day=day, timezone="Europe/London")
            assert found.sunrise is not None
            assert found.sunset is not None
            self.assertLess(found.sunrise, found.noon)
            self.assertLess(found.noon, found.sunset)
            self.assertEqual(found.sunrise.date(), day)
