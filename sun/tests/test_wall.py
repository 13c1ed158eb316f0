"""Direct sun on a wall against two other almanacs, and an eave against its own geometry."""

from __future__ import annotations

from datetime import date, datetime
from pathlib import Path
from unittest import TestCase

from core.tests.cases import Case, compare, load
from sun.clear_sky import Place
from sun.wall import Eave, spell_hours, wall_months, wall_spells

CASES = Path(__file__).parent / "cases"
PELLWICK = Place(latitude_deg=54.2, longitude_deg=0.6, altitude_m=12)
MIDSUMMER = date(2026, 6, 21)


class WallCases(TestCase):
    def test_spells_of_sun(self) -> None:
        for case in load(CASES, "clear_sky"):
            self.check(case)

    def check(self, case: Case) -> None:
        inputs = case["inputs"]
        spells = wall_spells(
            place=Place(
                latitude_deg=inputs["latitude_deg"],
                longitude_deg=inputs["longitude_deg_east"],
                altitude_m=inputs["altitude_m"],
            ),
            timezone=f"Etc/GMT{-inputs['utc_offset_h']:+d}",
            day=date.fromisoformat(inputs["date"]),
            azimuth_deg=inputs["wall_azimuth_deg_from_north"],
        )
        compare(self, case, "wall_sun_hours", spell_hours(spells))
        wanted = case["expected"]["wall_sun_intervals_local_h"]
        self.assertEqual(len(spells), len(wanted))
        for spell, (start, end) in zip(spells, wanted, strict=True):
            self.assertAlmostEqual(_hour(spell.start), start, delta=0.05)
            self.assertAlmostEqual(_hour(spell.end), end, delta=0.05)

    def test_an_eave_shades_the_high_sun_alone(self) -> None:
        hours = [
            spell_hours(
                wall_spells(
                    place=PELLWICK,
                    timezone="Europe/London",
                    day=MIDSUMMER,
                    azimuth_deg=180,
                    eave=None if out is None else Eave(out_mm=out, above_mm=600),
                )
            )
            for out in (None, 0.0, 200.0, 400.0, 1500.0)
        ]
        self.assertEqual(hours[0], hours[1])
        # At midsummer noon the sun stands 59 degrees up: an eave of 400 mm shades 600 mm below it.
        self.assertGreater(hours[1], hours[3])
        self.assertEqual(sorted(hours[1:], reverse=True), hours[1:])
        # On a south wall the profile angle is never below that of noon: a deep eave shades all day.
        self.assertEqual(hours[4], 0)

    def test_a_south_wall_has_its_longest_sun_about_the_equinoxes(self) -> None:
        months = wall_months(place=PELLWICK, timezone="Europe/London", year=2026, azimuth_deg=180)
        by_hours = sorted(months, key=lambda one: one.hours, reverse=True)
        self.assertEqual({one.month for one in by_hours[:2]}, {3, 9})


def _hour(moment: datetime) -> float:
    return moment.hour + moment.minute / 60 + moment.second / 3600
