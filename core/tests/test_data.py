"""The data files: figures held against the standards' tables as typed here a second time."""

from __future__ import annotations

from dataclasses import fields, is_dataclass
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Refused
from core.base.form import read, write
from core.equipment import catalogue
from core.equipment.inverter import DcWindow, Tracker
from core.figures.grid_profiles import known_profiles, point_kinds, profile, steady_trip_v
from core.figures.rule_packs import Figure, Table, known_packs, pack

# nominal V and Hz; over-voltage 1; 10-minute mean; under-voltage 1; over-frequency 1;
# under-frequency 1; watch; droop start and percent. Level and seconds where there are two.
PROFILES: dict[str, tuple[Any, ...]] = {
    "en-50549-1": (
        230,
        50,
        (1.15 * 230, 0.2),
        1.10 * 230,
        (0.85 * 230, 3),
        (51.5, 0.5),
        (47.5, 0.5),
        60,
        (50.2, 5),
    ),
    "uk-g98-type-a": (230, 50, (262.2, 1), None, (184, 2.5), (52, 0.5), (47.5, 20), 20, (50.4, 10)),
    "de-4105": (
        230,
        50,
        (1.25 * 230, 0.1),
        1.10 * 230,
        (0.80 * 230, 3),
        (51.5, 0.1),
        (47.5, 0.1),
        60,
        (50.2, 5),
    ),
    "au-4777-a": (230, 50, (265, 1), 258, (180, 10), (52, 0.2), (47, 1), 60, (50.25, 3.5)),
    "na-1547-b": (
        240,
        60,
        (1.10 * 240, 2),
        None,
        (0.70 * 240, 10),
        (61.2, 300),
        (58.5, 300),
        300,
        (60.036, 5),
    ),
}
COPPER_OHM_PER_KM = {
    1.5: 12.1,
    2.5: 7.41,
    4: 4.61,
    6: 3.08,
    10: 1.83,
    16: 1.15,
    25: 0.727,
    35: 0.524,
}


# One row of each table, typed a second time from the standard as generally known.
TABLE_ROWS: tuple[tuple[str, str, tuple[float | None, ...]], ...] = (
    ("dc_resistance", "6", (3.39,)),
    ("dc_ampacity", "4", (44, 55)),
    ("dc_air_factor", "80", (0.84,)),
    ("ac_class5", "10", (1.91,)),
    ("awg_resistance", "10", (4.07,)),
    ("pvc_two", "6", (34, 41, 38, 46)),
    ("pvc_three", "16", (56, 68, 62, 76)),
    ("xlpe_two", "10", (75, 80)),
    ("xlpe_three", "35", (144, 147)),
    ("ac_air_factor", "40", (0.87, 0.91)),
    ("grouping", "3", (0.70,)),
    ("nec_ampacity", "8", (50, 55)),
    ("nec_air_factor", "45", (0.87,)),
    ("nec_adjustment", "9", (0.70,)),
    ("nec_small", "12", (20,)),
    ("trade_size", "3/4", (343,)),
    ("trade_fill", "2", (31,)),
    ("radio", "usable", (-70,)),
    ("insulation", "120 to 500 V", (500, 1)),
    ("day", "current tests", (400,)),
)


class Profiles(TestCase):
    def test_each_holds_the_figures_of_its_standard(self) -> None:
        self.assertEqual(set(PROFILES), set(known_profiles()))
        for name, row in PROFILES.items():
            nominal_v, nominal_hz, over_v, mean_v, under_v, over_hz, under_hz, watch_s, droop = row
            chosen = profile(name)
            wanted = {
                "over_voltage_1_v": over_v[0],
                "over_voltage_1_s": over_v[1],
                "over_voltage_mean_v": mean_v,
                "under_voltage_1_v": under_v[0],
                "under_voltage_1_s": under_v[1],
                "over_frequency_1_hz": over_hz[0],
                "over_frequency_1_s": over_hz[1],
                "under_frequency_1_hz": under_hz[0],
                "under_frequency_1_s": under_hz[1],
                "observe_s": watch_s,
                "droop_start_hz": droop[0],
                "droop_pct": droop[1],
            }
            self.assertEqual((chosen.nominal_v, chosen.nominal_hz), (nominal_v, nominal_hz))
            for point, value in wanted.items():
                with self.subTest(profile=name, point=point):
                    got = chosen.value(point)
                    if value is None:
                        self.assertIsNone(got)
                    else:
                        self.assertAlmostEqual(got or 0, value, places=3)

    def test_limits_lie_on_their_side_of_nominal_and_further_ones_are_quicker(self) -> None:
        for name in known_profiles():
            chosen = profile(name)
            for side, sign in (("over", 1), ("under", -1)):
                for what, unit, nominal in (
                    ("voltage", "v", chosen.nominal_v),
                    ("frequency", "hz", chosen.nominal_hz),
                ):
                    steps = [
                        (
                            chosen.value(f"{side}_{what}_{n}_{unit}"),
                            chosen.value(f"{side}_{what}_{n}_s"),
                        )
                        for n in (1, 2)
                    ]
                    given_steps = [(level, s) for level, s in steps if level is not None]
                    for level, seconds in given_steps:
                        self.assertGreater(sign * (level - nominal), 0, (name, side, what))
                        self.assertGreater(seconds or 0, 0)
                    if len(given_steps) == 2:
                        (near, slow), (far, quick) = given_steps
                        self.assertGreater(sign * (far - near), 0)
                        self.assertLess(quick or 0, slow or 0)
            trip_v, _ = steady_trip_v(chosen)
            self.assertGreaterEqual(trip_v, chosen.value("connect_high_v") or 0)

    def test_a_profile_with_an_unknown_or_doubled_setting_is_refused(self) -> None:
        data = write(profile("en-50549-1"))
        for points in ([{"id": "magic_v", "value": 1}], [data["points"][0]] * 2):
            with self.assertRaises(Refused):
                read(type(profile("en-50549-1")), data | {"points": points})
        self.assertEqual(sum(kind.by_hand for kind in point_kinds().values()), 3)


class Packs(TestCase):
    def test_copper_as_in_the_standard(self) -> None:
        for name in known_packs():
            got = {c.section_mm2: c.r20_ohm_per_km for c in pack(name).ac.conductors}
            self.assertEqual(got, COPPER_OHM_PER_KM)

    def test_the_schools_of_each_pack(self) -> None:
        schools = {
            name: (rules.cold.school, rules.fuse.school, rules.ac.rise_limit.value, rules.services)
            for name in known_packs()
            for rules in (pack(name),)
        }
        one_and_three, split_and_three = ("single", "three"), ("split", "three")
        self.assertEqual(
            schools,
            {
                "generic-iec": ("datasheet", "iec", 3, one_and_three),
                "uk-small": ("flat", "iec", 1, one_and_three),
                "germany": ("datasheet", "iec", 3, one_and_three),
                "australia-nz": ("datasheet", "iec", 2, one_and_three),
                "north-america": ("banded", "us", 3, split_and_three),
            },
        )
        generic = pack("generic-iec")
        self.assertEqual((generic.agree.on, generic.agree.limit.value), ("mean", 5))
        self.assertEqual(generic.fuse.us_factor.value, 1.56)
        self.assertEqual(generic.current.isc_factor.value, 1.25)
        self.assertEqual(generic.hot.rise_close.value, 35)

    def test_tables_as_in_the_standards(self) -> None:
        tables = {table.id: table for table in pack("generic-iec").tables}
        for table, row, values in TABLE_ROWS:
            found = {one.name: one.values for one in tables[table].rows}
            with self.subTest(table=table, row=row):
                self.assertEqual(found[row], values)
        self.assertEqual({table for table, _, _ in TABLE_ROWS}, set(tables))

    def test_larger_conductors_carry_more_and_resist_less(self) -> None:
        tables = {table.id: table for table in pack("generic-iec").tables}
        for name, sign in (
            ("pvc_two", 1),
            ("pvc_three", 1),
            ("xlpe_two", 1),
            ("xlpe_three", 1),
            ("dc_ampacity", 1),
            ("dc_resistance", -1),
            ("ac_class5", -1),
            ("grouping", -1),
            ("ac_air_factor", -1),
        ):
            rows = tables[name].rows
            for column in range(len(tables[name].columns)):
                figures = [sign * (row.values[column] or 0) for row in rows]
                self.assertEqual(figures, sorted(figures), name)
                self.assertEqual(len(set(figures)), len(figures), name)

    def test_a_table_whose_rows_do_not_match_its_columns_is_refused(self) -> None:
        data = write(pack("generic-iec").tables[0])
        data["columns"].append("one more")
        with self.assertRaises(Refused):
            read(Table, data)

    def test_every_figure_names_its_source(self) -> None:
        def figures(value: Any) -> list[Figure]:
            if isinstance(value, Figure):
                return [value]
            parts = [getattr(value, f.name) for f in fields(value)] if is_dataclass(value) else []
            return [figure for part in parts for figure in figures(part)]

        for name in known_packs():
            found = figures(pack(name))
            self.assertGreater(len(found), 25)
            for figure in found:
                self.assertGreater(len(figure.source), 10, figure)


class Sheets(TestCase):
    @given(st.lists(st.floats(min_value=10, max_value=1000), min_size=5, max_size=5))
    def test_a_window_out_of_order_is_refused(self, volts: list[float]) -> None:
        track_min, full_min, full_max, track_max, most = volts
        sheet = {
            "track_min_v": track_min,
            "full_power_min_v": full_min,
            "full_power_max_v": full_max,
            "track_max_v": track_max,
            "max_dc_v": max(most, 30.0),
            "start_v": 10.0,
        }
        in_order = [track_min, full_min, full_max, track_max, max(most, 30.0)]
        if in_order == sorted(in_order):
            self.assertEqual(write(DcWindow(**sheet)), sheet)
        else:
            with self.assertRaises(Refused):
                DcWindow(**sheet)

    @given(
        operating=st.floats(min_value=0.5, max_value=200),
        short=st.floats(min_value=0.5, max_value=300),
    )
    def test_values_round_trip(self, operating: float, short: float) -> None:
        tracker = Tracker(max_operating_a=operating, max_short_circuit_a=short)
        self.assertEqual(read(Tracker, write(tracker)), tracker)

    def test_the_shelf_reads_back_and_every_label_is_told_apart(self) -> None:
        for sheets in map(catalogue.sheets, catalogue.KINDS):
            self.assertEqual(len({sheet.label for sheet in sheets}), len(sheets))
            for sheet in sheets:
                self.assertEqual(read(type(sheet), write(sheet)), sheet)
        for pick in (catalogue.module, catalogue.inverter):
            with self.assertRaises(Refused) as caught:
                pick("nobody-1")
            self.assertIn(" · ", caught.exception.problems[0].allowed)
