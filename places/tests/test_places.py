"""Where a house stands: coordinates in every usual form, towns by name, the nearest, the zone."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Refused
from places import towns
from places.coordinates import coordinates

NORTH = st.integers(-89_99999, 89_99999).map(lambda n: n / 1e5)
EAST = st.integers(-179_99999, 179_99999).map(lambda n: n / 1e5)


def parts(value: float) -> tuple[int, int, float]:
    """Degrees, minutes and seconds of a size."""
    seconds = round(abs(value) * 3600, 3)
    degrees, left = divmod(seconds, 3600)
    minutes, seconds = divmod(left, 60)
    return int(degrees), int(minutes), seconds


class Coordinates(TestCase):
    @given(NORTH, EAST)
    def test_each_form_says_the_same_point(self, north: float, east: float) -> None:
        n, e = "NS"[north < 0], "EW"[east < 0]
        (nd, nm, ns), (ed, em, es) = parts(north), parts(east)
        forms = (
            f"{north:.5f}, {east:.5f}",
            f"{north:.5f},{east:.5f}",
            f"{north:.5f} {east:.5f}".replace(".", ","),
            f"{north:.5f}; {east:.5f}".replace(".", ","),
            f"geo:{north:.5f},{east:.5f}",
            f"{abs(north):.5f}°{n} {abs(east):.5f}°{e}",
            f"{n} {abs(north):.5f}, {e} {abs(east):.5f}",
            f"{abs(east):.5f}{e} {abs(north):.5f}{n}",
            f"{nd}°{nm}'{ns:.3f}\"{n}, {ed}°{em}'{es:.3f}\"{e}",
            f"{nd}° {nm}′ {ns:.3f}″ {n} {ed}° {em}′ {es:.3f}″ {e}",
            f"{nd} {nm} {ns:.3f} {n} {ed} {em} {es:.3f} {e}",
            f"https://map.example/@{north:.5f},{east:.5f},15z",
            f"https://map.example/?mlat={north:.5f}&mlon={east:.5f}#map",
        )
        for form in forms:
            with self.subTest(form=form):
                found = coordinates(form)
                self.assertAlmostEqual(found[0], north, delta=2e-5)
                self.assertAlmostEqual(found[1], east, delta=2e-5)

    def test_what_could_be_read_in_two_ways_is_refused(self) -> None:
        for text in (
            "54", "54,0", "54.2N 3N", "95, 10", "10, 190", "54 60 0 N 3 E", "54°61' N 3° E",
            "-54.2N 3E", "N54N 3E", "54.2.1, 3", "54 12 0 36", "", "Lowestoft 3", "nan, nan",
            "1e3, 4", "½, 3",
        ):  # fmt: skip
            with self.subTest(text=text), self.assertRaises(Refused) as refused:
                coordinates(text)
            self.assertTrue(all(one.message for one in refused.exception.problems))


class Towns(TestCase):
    def test_they_are_found_by_how_they_begin_without_accents_and_by_country(self) -> None:
        self.assertEqual(towns.find("lowesto")[0].name, "Lowestoft")
        self.assertEqual(towns.find("Malaga, spain")[0].name, "Málaga")
        in_us = {one.iso for one in towns.find("San Jose, US")}
        self.assertEqual(in_us, {"US"})
        # One that is called just so comes before a larger one that only begins so.
        self.assertEqual(towns.find("York, GB")[0].name, "York")
        for text in ("", "  ", ",", "zzzzzz", "%", "\x00"):
            self.assertEqual(towns.find(text), ())

    @given(st.sampled_from(range(0, 100_000, 997)))
    def test_a_town_is_the_nearest_to_itself_and_lies_in_its_zone(self, at: int) -> None:
        town = towns._list().town(at)
        near = towns.nearest(town.latitude_deg, town.longitude_deg)
        assert near is not None
        # Two may stand on one spot of the list.
        self.assertLess(near.distance_km, 0.2)
        self.assertIn(near.town, towns.within(
            town.latitude_deg - 0.01, town.longitude_deg - 0.01,
            town.latitude_deg + 0.01, town.longitude_deg + 0.01, 1000,
        ))  # fmt: skip

    def test_zones_go_by_their_borders_and_on_the_high_sea_by_longitude(self) -> None:
        for here, zone in (
            ((52.475, 1.752), "Europe/London"), ((54.32, 10.13), "Europe/Berlin"),
            ((-36.85, 174.76), "Pacific/Auckland"), ((0.0, -30.0), "Etc/GMT+2"),
            # A jetty beyond the borders as they are drawn keeps the hours of its town.
            ((54.2, 0.6), "Europe/London"),
        ):  # fmt: skip
            self.assertEqual(towns.zone_at(*here), zone)
        self.assertIsNone(towns.nearest(0.0, -30.0))
