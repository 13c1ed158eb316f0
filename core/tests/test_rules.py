"""Each judging rule inside, on and beyond its limit: verdict, sign of the margin, words."""

from __future__ import annotations

from unittest import TestCase

from core.base.judgement import Judgement
from core.registry import rules
from core.rules.ac.voltage_rise import ac_cores, ac_rise_limit, ac_supply, ac_terminal_room
from core.rules.dc.dc_power import array_power, tracker_inputs, tracker_power
from core.rules.dc.earth_fault import string_earth_leak
from core.rules.dc.optimiser_string import (
    optimiser_current,
    optimiser_input,
    optimiser_module,
    optimiser_string_count,
    optimiser_string_power,
    optimiser_string_volts,
    optimisers_connected,
    optimisers_reporting,
)
from core.rules.dc.string_agreement import strings_agree
from core.rules.dc.string_fuses import module_fuse, string_fuse, string_reverse_current
from core.rules.dc.string_reading import (
    coldest_air,
    connectors_alike,
    dc_switch_off,
    irradiance_enough,
    neighbour_judged,
    string_polarity,
    string_projection,
    string_under_max,
    string_voc_read,
)
from core.rules.dc.string_roof import string_drawn, string_one_plane
from core.rules.dc.string_voltage import (
    string_full_power_cold,
    string_full_power_hot,
    string_start,
    string_track_cold,
    string_track_hot,
    string_voc_cold,
)
from core.rules.dc.tracker_current import tracker_imp, tracker_isc
from core.rules.grid.grid_settings import profile_fits_supply, setting_agrees
from core.rules.grid.live_values import live_open, live_power, live_supply, live_tracker_volts
from core.tests import (
    test_commission_rules,
    test_feed_rules,
    test_leave,
    test_plant_worked,
    test_roof_rules,
    test_safety,
    test_site_rules,
    test_talk_rules,
)
from core.tests.table import Row, check_row

COLD = {"voc_v": 50.0, "beta_voc_pct_per_k": -0.25, "t_air_min_c": -15.0, "max_dc_v": 550.0}
ROWS: tuple[Row, ...] = (
    (string_voc_cold, COLD | {"max_system_v": 1500.0}, "modules_in_series", 9, 10, 11, "stop"),
    (string_voc_cold, COLD | {"max_system_v": 440.0}, "modules_in_series", 7, 8, 9, "stop"),
    (string_start, {"voc_hot_v": 500.0, "start_v": 120.0}, "vmp_hot_v", 130, 120, 119, "stop"),
    (
        string_start,
        {"vmp_hot_v": 1.0, "start_v": 120.0, "start_on": "voc_hot"},
        "voc_hot_v",
        130,
        120,
        119,
        "stop",
    ),
    (string_track_hot, {"track_min_v": 80.0}, "vmp_hot_v", 81, 80, 79.9, "stop"),
    (string_track_cold, {"track_max_v": 560.0}, "vmp_cold_v", 559, 560, 561, "watch"),
    (string_full_power_hot, {"full_power_min_v": 230.0}, "vmp_hot_v", 231, 230, 229, "watch"),
    (string_full_power_cold, {"full_power_max_v": 500.0}, "vmp_cold_v", 499, 500, 501, "watch"),
    (
        tracker_isc,
        {"parallel_strings": 1, "max_short_circuit_a": 20.0},
        "isc_a",
        15,
        16,
        16.1,
        "stop",
    ),
    (
        tracker_isc,
        {"parallel_strings": 2, "max_short_circuit_a": 40.0},
        "isc_a",
        15,
        16,
        16.1,
        "stop",
    ),
    (
        tracker_imp,
        {"parallel_strings": 1, "max_operating_a": 16.5, "rear_gain": 0.1},
        "imp_a",
        14,
        15,
        15.1,
        "watch",
    ),
    (live_tracker_volts, {"voc_cold_v": 450.0}, "measured_v", 380, 450, 451, "stop"),
    (live_open, {}, "measured_v", 2, 50, 51, "stop"),
    (live_supply, {"low_v": 195.5, "high_v": 253.0}, "measured_v", 240, 253, 254, "stop"),
    (live_supply, {"low_v": 195.5, "high_v": 253.0}, "measured_v", 200, 195.5, 190, "stop"),
    (live_power, {"rated_ac_w": 5000.0}, "power_w", 4100, 5000, 5600, "stop"),
    (module_fuse, {"max_series_fuse_a": 25.0}, "fuse_a", 20, 25, 32, "stop"),
    (coldest_air, {"planned_c": -9.0}, "read_c", -8.9, -9, -9.1, "stop"),
    (string_under_max, {"max_dc_v": 600.0}, "read_v", 599, 600, 601, "stop"),
    (string_under_max, {"max_dc_v": 600.0}, "read_v", -599, -600, -601, "stop"),
    (
        string_projection,
        {"expected_now_v": 400.0, "voc_cold_v": 500.0, "limit_v": 600.0},
        "read_v",
        470,
        480,
        481,
        "stop",
    ),
    (tracker_power, {"max_power_w": 5000.0}, "power_w", 4900, 5000, 5001, "watch"),
    (optimiser_string_power, {"most_string_w": 5700.0}, "power_w", 5600, 5700, 5701, "stop"),
    (optimiser_string_volts, {"max_dc_v": 500.0}, "fixed_string_v", 400, 500, 501, "stop"),
    (optimiser_module, {"max_module_w": 500.0}, "pmax_w", 499, 500, 501, "watch"),
    (optimiser_input, {"max_input_v": 60.0}, "voc_cold_v", 59, 60, 60.1, "stop"),
    (optimiser_current, {"max_input_a": 15.0}, "isc_a", 14.9, 15, 15.1, "stop"),
    (
        optimiser_string_count,
        {"least_in_string": 8, "most_in_string": 25},
        "optimisers",
        9,
        8,
        7,
        "stop",
    ),
    (
        optimiser_string_count,
        {"least_in_string": 8, "most_in_string": 25},
        "optimisers",
        24,
        25,
        26,
        "stop",
    ),
    (
        string_reverse_current,
        {"parallel_strings": 3, "max_series_fuse_a": 25.0},
        "isc_a",
        9.9,
        10,
        10.1,
        "stop",
    ),
    (irradiance_enough, {"least_w_per_m2": 150.0}, "irradiance_w_per_m2", 151, 150, 149, "watch"),
    (ac_rise_limit, {"limit_pct": 1.0, "advisory_pct": 1.0}, "rise_pct", 0.9, 1.0, 1.1, "stop"),
    (ac_terminal_room, {"trip_v": 253.0}, "terminal_v", 252, 253, 253.1, "stop"),
    (ac_supply, {"nominal_v": 230.0}, "supply_v", 252, 253, 253.5, "stop"),
    (ac_supply, {"nominal_v": 230.0}, "supply_v", 208, 207, 206.5, "stop"),
    (profile_fits_supply, {"nominal_v": 240.0}, "supply_v", 205, 204, 203, "stop"),
)


ELSEWHERE = (
    *test_site_rules.ROWS,
    *test_feed_rules.ROWS,
    *test_roof_rules.ROWS,
    *test_commission_rules.ROWS,
    *test_plant_worked.ROWS,
    *test_talk_rules.ROWS,
    *test_leave.ROWS,
    *test_safety.ROWS,
)


class Limits(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for row in ROWS:
            check_row(self, row)

    def test_every_rule_with_a_limit_stands_in_the_table(self) -> None:
        told = {row[0].__name__ for row in (*ROWS, *ELSEWHERE)}
        otherwise = (
            test_site_rules.OTHERWISE
            | test_feed_rules.OTHERWISE
            | test_roof_rules.OTHERWISE
            | test_commission_rules.OTHERWISE
            | test_plant_worked.OTHERWISE
            | test_talk_rules.OTHERWISE
            | test_leave.OTHERWISE
            | test_safety.OTHERWISE
            | {
                "ac_cores",
                "array_power",
                "connectors_alike",
                "count_told",
                "live_dark",
                "module_plausible",
                "profile_here",
                "letter_permitted",
                "profile_permitted",
                "setting_former",
                "settings_profile",
                "dc_switch_off",
                "neighbour_judged",
                "optimisers_connected",
                "optimisers_reporting",
                "setting_agrees",
                "string_drawn",
                "string_earth_leak",
                "string_fuse",
                "string_one_plane",
                "string_polarity",
                "string_voc_read",
                "strings_agree",
                "tracker_alike",
                "variant_surge",
                "variant_told",
                "tracker_inputs",
                "tracker_one_type",
            }
        )
        judging = {
            name for name, rule in rules().items() if rule.__annotations__["return"] == "Judgement"
        }
        self.assertEqual(judging, told | otherwise)

    def test_counting_by_safety_voltage(self) -> None:
        for read_v, verdict, said in (
            (9.0, "clear", "9 optimisers"),
            (9.3, "clear", "9 optimisers"),
            (7.0, "stop", "2 not connected"),
            (10.9, "stop", "2 too many"),
            (-9.0, "stop", "wrong sign"),
            (0.0, "stop", "9 not connected"),
        ):
            judged = optimisers_connected(read_v=read_v, safety_v=1.0, optimisers=9)
            self.assertEqual(judged.verdict, verdict, read_v)
            self.assertIn(said, judged.reason.replace("\u00a0", " "))
        # Half a volt between two counts of a tight tolerance is no count at all.
        loose = optimisers_connected(
            read_v=9.4, safety_v=1.0, optimisers=9, safety_tolerance_v=0.02
        )
        self.assertEqual(loose.verdict, "watch")
        for reporting, verdict in ((9, "clear"), (8, "watch"), (10, "watch")):
            judged = optimisers_reporting(reporting=reporting, optimisers=9)
            self.assertEqual(judged.verdict, verdict)

    def test_strings_beside_each_other_by_both_schools(self) -> None:
        # 95 and 105 are 5 % from their mean of 100, and 9.5 % of the higher apart.
        for volts, school, verdict, value in (
            ((95.0, 105.0), "mean", "watch", 5.0),
            ((95.1, 105.0), "mean", "clear", 4.95),
            ((94.0, 105.0), "mean", "watch", 5.53),
            ((95.0, 105.0), "max", "watch", 9.52),
            ((100.0, 95.0), "max", "watch", 5.0),
            ((100.0, 95.1), "max", "clear", 4.9),
        ):
            judged = strings_agree(volts=volts, school=school)
            self.assertEqual(judged.verdict, verdict, (volts, school))
            self.assertAlmostEqual(judged.value or 0, value, places=2)
        self.assertEqual(strings_agree(volts=(95.0, 105.0)).margin, 0)

    def test_earth_leaks(self) -> None:
        def leak(plus: float, minus: float) -> Judgement:
            return string_earth_leak(
                plus_to_earth_v=plus,
                minus_to_earth_v=minus,
                plus_to_minus_v=400,
                modules_in_series=10,
            )

        self.assertEqual(leak(0, 0).verdict, "clear")
        self.assertEqual(leak(2, -2).verdict, "clear")
        self.assertEqual(leak(280, -119).verdict, "stop")
        self.assertIn("between modules 3 and 4", leak(280, -119).reason)
        self.assertIn("minus cable", leak(399, -1).reason)
        self.assertIn("plus cable", leak(1, -399).reason)
        self.assertEqual(leak(300, -300).rule_id, "string_earth_sum")
        # At night, or between poles never read, nothing to earth is no proof of a sound string.
        for between_v in (None, 0, 10):
            dark = string_earth_leak(
                plus_to_earth_v=0,
                minus_to_earth_v=0,
                plus_to_minus_v=between_v,
                modules_in_series=10,
            )
            self.assertEqual(dark.verdict, "waiting")

    def test_fuses_and_power(self) -> None:
        three = {"isc_a": 13.95, "parallel_strings": 3, "max_series_fuse_a": 25.0}
        self.assertEqual(string_fuse(**three).verdict, "stop")
        self.assertEqual(string_fuse(**three, fuse_a=25).verdict, "clear")
        self.assertEqual(string_fuse(**three, fuse_a=20).verdict, "stop")
        self.assertEqual(string_fuse(isc_a=13.95, parallel_strings=3).verdict, "waiting")
        for array_w, limit_w, verdict in (
            (9000, None, "clear"),
            (9000, 10_000, "clear"),
            (10_000, 10_000, "watch"),
            (10_001, 10_000, "stop"),
        ):
            judged = array_power(array_w=array_w, rated_ac_w=5000, max_dc_w=limit_w)
            self.assertEqual(judged.verdict, verdict)
        self.assertIn("1.8 times", array_power(array_w=9000, rated_ac_w=5000).reason)

    def test_facts_without_a_figure(self) -> None:
        for good, bad in (
            (connectors_alike(sign=1), connectors_alike(sign=-1)),
            (dc_switch_off(sign=1), dc_switch_off(sign=-1)),
            (
                string_one_plane(planes=("E", "W"), each_module_tracked=True),
                string_one_plane(planes=("E", "W")),
            ),
        ):
            self.assertEqual((good.verdict, bad.verdict), ("clear", "stop"))
        for good, bad in (
            (
                string_drawn(modules_in_series=9, drawn=9),
                string_drawn(modules_in_series=9, drawn=8),
            ),
            (tracker_inputs(strings=2, inputs=2), tracker_inputs(strings=3, inputs=2)),
            (
                neighbour_judged(neighbour="A", by_sun=True),
                neighbour_judged(neighbour="A", by_sun=False),
            ),
        ):
            self.assertEqual((good.verdict, bad.verdict), ("clear", "watch"))
        self.assertEqual(string_polarity(sign=1).verdict, "clear")
        self.assertEqual(string_polarity(sign=-1).verdict, "stop")
        for service, cores, verdict in (
            ("single", 2, "stop"),
            ("single", 3, "clear"),
            ("split", 3, "stop"),
            ("split", 4, "clear"),
            ("three", 3, "stop"),
            ("three", 5, "clear"),
        ):
            self.assertEqual(ac_cores(service=service, cores=cores).verdict, verdict)

    def test_a_voltage_out_of_its_band_by_half_a_module_stops(self) -> None:
        for read_v, verdict in (
            (430, "clear"),
            (411, "watch"),
            (400, "watch"),
            (392, "stop"),
            (460, "stop"),
            (-430, "stop"),
            (0, "stop"),
        ):
            judged = string_voc_read(read_v=read_v, low_v=411, high_v=437, one_module_v=37)
            self.assertEqual(judged.verdict, verdict, read_v)

    def test_settings_agree_within_what_registers_can_hold(self) -> None:
        for point, wanted, got, verdict in (
            ("over_voltage_1_v", 253.0, 253.0, "clear"),
            ("over_voltage_1_v", 253.0, 253.05, "clear"),
            ("over_voltage_1_v", 253.0, 253.2, "stop"),
            ("over_voltage_1_v", 253.0, None, "stop"),
            ("over_voltage_1_v", None, 253.0, "stop"),
            ("volt_var_on", 0.0, 0.0, "clear"),
            ("volt_var_on", 0.0, 1.0, "stop"),
            ("over_frequency_1_hz", 51.5, 51.49, "stop"),
            ("observe_s", 60.0, 60.0, "clear"),
            ("observe_s", 60.0, 300.0, "stop"),
        ):
            with self.subTest(point=point, got=got):
                judged = setting_agrees(point_id=point, wanted=wanted, got=got)
                self.assertEqual(judged.verdict, verdict)
