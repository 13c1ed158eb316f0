"""Design air from weather files: both formats, percentiles, gaps, and what is no weather file."""

from __future__ import annotations

import json
from datetime import datetime, timedelta
from unittest import TestCase

from core.base.errors import Refused
from core.files.weather import YEAR_HOURS, Climate, read_climate

HEADER = "LOCATION,Pellwick,Strand,Nowhere,made,999,54.2,0.6,0.0,12\n" + "HEADER\n" * 7


def epw(*airs: float, year: int = 2019) -> bytes:
    rows = (f"{year},1,1,{n % 24 + 1},60,A7,{air},5,80,101300" for n, air in enumerate(airs))
    return (HEADER + "\n".join(rows)).encode()


def hourly(*airs: str, begin: datetime = datetime(2018, 1, 1), delimiter: str = ",") -> bytes:
    rows = (
        f"{(begin + timedelta(hours=n)).isoformat()}{delimiter}{air}" for n, air in enumerate(airs)
    )
    return ("\n".join((f"time{delimiter}air temperature", *rows))).encode()


def cold(climate: Climate) -> dict[float, float]:
    return {one.percentile: one.t_air_c for one in climate.cold}


class WeatherFiles(TestCase):
    def test_percentiles_of_an_even_spread(self) -> None:
        # -10 to 30 degrees in even steps: p percent of the hours lie below -10 + 0.4 p.
        airs = [-10 + 40 * n / (YEAR_HOURS - 1) for n in range(YEAR_HOURS)]
        found = read_climate(epw(*airs[::-1]), "made.epw")
        for percentile, air in cold(found).items():
            self.assertAlmostEqual(air, -10 + 0.4 * percentile, delta=0.051)
        for one in found.hot:
            self.assertAlmostEqual(one.t_air_c, -10 + 0.4 * one.percentile, delta=0.051)
        self.assertEqual((found.first_year, found.hours, found.missing), (2019, YEAR_HOURS, 0))
        self.assertIn("Pellwick", found.station)

    def test_gaps_are_counted_and_never_taken_for_cold_or_heat(self) -> None:
        airs = [99.9, -999.0, *([0.0] * (YEAR_HOURS - 2))]
        found = read_climate(epw(*airs), "holes.epw")
        self.assertEqual((found.missing, cold(found)[0.0], found.hot[0].t_air_c), (2, 0, 0))
        self.assertEqual(found.mean_yearly_min_c, 0)
        self.assertIn("2 missing", found.source)

    def test_two_years_of_csv_with_semicolons_and_decimal_commas(self) -> None:
        airs = [*(["-8,5"] + ["10,0"] * (YEAR_HOURS - 1)), *(["-12,5"] + [""] * 9)]
        airs += ["12,0"] * (YEAR_HOURS - len(airs) + YEAR_HOURS)
        found = read_climate(b"\xef\xbb\xbf" + hourly(*airs, delimiter=";"), "log.csv")
        self.assertEqual((found.first_year, found.last_year, found.missing), (2018, 2019, 9))
        self.assertEqual((cold(found)[0.0], found.mean_yearly_min_c), (-12.5, -10.5))

    def test_other_open_forms_say_the_same_and_where_they_are_of(self) -> None:
        airs = [round(-10 + 40 * n / (YEAR_HOURS - 1), 2) for n in range(YEAR_HOURS)]
        begin = datetime(2016, 1, 1, 0, 10)
        times = [f"{begin + timedelta(hours=n):%Y%m%d:%H%M}" for n in range(YEAR_HOURS)]
        rows = "\n".join(f"{t},0,0,{air},3,0" for t, air in zip(times, airs, strict=True))
        table = (
            "Latitude (decimal degrees):\t54.2\nLongitude (decimal degrees):\t0.6\n\n"
            f"time,G(i),H_sun,T2m,WS10m,Int\n{rows}\n\nT2m: 2-m air temperature (degree Celsius)\n"
        )
        place = {"latitude": 54.2, "longitude": 0.6, "elevation": 12.0}
        hours = [{"time": t, "T2m": air} for t, air in zip(times, airs, strict=True)]
        answered = {"inputs": {"location": place}, "outputs": {"hourly": hours}}
        dry = "\n".join(f"01/02/1988,01:00,{air}" for air in airs)
        tmy3 = (
            '700000,"PELLWICK STRAND",NO,0.0,54.2,0.6,12\n'
            f"Date (MM/DD/YYYY),Time (HH:MM),Dry-bulb (C)\n{dry}\n"
        )
        for name, text in (("t.csv", table), ("h.json", json.dumps(answered)), ("y.csv", tmy3)):
            with self.subTest(name=name):
                found = read_climate(text.encode(), name)
                self.assertEqual((found.cold[0].t_air_c, found.hot[0].t_air_c), (-10.0, 30.0))
                self.assertEqual((found.latitude_deg, found.longitude_deg), (54.2, 0.6))
                self.assertEqual((found.hours, found.missing), (YEAR_HOURS, 0))
        for broken in (
            table.replace("time,G", "when,G"), '{"outputs": {}}', '{"inputs": 1, "outputs": 2}',
            tmy3.replace("Dry-bulb", "Wet-bulb"), tmy3.replace("01/02/1988", "soon"), "{",
        ):  # fmt: skip
            with self.subTest(broken=broken[:40]), self.assertRaises(Refused):
                read_climate(broken.encode(), "broken")

    def test_what_cannot_tell_a_coldest_hour_is_refused(self) -> None:
        whole = ["5.0"] * YEAR_HOURS
        for raw, said in (
            (b"", "EPW file, or CSV"),
            (b"a,b\n1,2", "EPW file, or CSV"),
            (hourly(*whole[:100]), "8760 hours"),
            (hourly(*["" if n % 5 == 0 else "5" for n in range(YEAR_HOURS)]), "a tenth"),
            (hourly(*whole).replace(b"2018-02-01T00", b"February", 1), "Line"),
            (hourly("cold", *whole), "Line 2"),
            (HEADER.encode() + b"2019,1,1", "Line 9"),
            (hourly(*whole) + b"\nshort", "1 columns"),
            (b"\x00\x01\x02" * 50, "EPW file, or CSV"),
            (b"\xab\r\x9d,\x00\r\n;", "EPW file, or CSV"),
            (b'time,air\n"never closed', "1 columns"),
        ):
            with self.subTest(said=said), self.assertRaises(Refused) as caught:
                read_climate(raw, "x.csv")
            found = caught.exception.problems[0]
            self.assertIn(said, found.message + found.allowed)
