"""Each judging rule inside, on and beyond its limit: verdict, sign of the margin, words."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from unittest import TestCase

from core.judgement import Judgement, Verdict
from core.registry import rules
from core.rules.grid_settings import profile_fits_supply, setting_agrees
from core.rules.string_reading import (
    irradiance_enough,
    string_polarity,
    string_projection,
    string_under_max,
    string_voc_read,
)
from core.rules.string_voltage import (
    string_full_power_cold,
    string_full_power_hot,
    string_start,
    string_track_cold,
    string_track_hot,
    string_voc_cold,
)
from core.rules.tracker_current import tracker_imp, tracker_isc
from core.rules.voltage_rise import ac_cores, ac_rise_limit, ac_supply, ac_terminal_room

# Fixed parameters of a rule, the one that is moved, a value well inside, on and beyond the limit,
# and the verdict beyond it. Expected by hand from the rule's own sentence.
Row = tuple[Callable[..., Judgement], dict[str, Any], str, float, float, float, Verdict]
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
    (irradiance_enough, {"least_w_per_m2": 150.0}, "irradiance_w_per_m2", 151, 150, 149, "watch"),
    (ac_rise_limit, {"limit_pct": 1.0, "advisory_pct": 1.0}, "rise_pct", 0.9, 1.0, 1.1, "stop"),
    (ac_terminal_room, {"trip_v": 253.0}, "terminal_v", 252, 253, 253.1, "stop"),
    (ac_supply, {"nominal_v": 230.0}, "supply_v", 252, 253, 253.5, "stop"),
    (ac_supply, {"nominal_v": 230.0}, "supply_v", 208, 207, 206.5, "stop"),
    (profile_fits_supply, {"nominal_v": 240.0}, "supply_v", 205, 204, 203, "stop"),
)


class Limits(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for rule, fixed, moved, inside, edge, beyond, verdict in ROWS:
            for value, wanted, sign in (
                (inside, "clear", 1),
                (edge, "watch", 0),
                (beyond, verdict, -1),
            ):
                with self.subTest(rule=rule.__name__, value=value):
                    judged = rule(**fixed, **{moved: value})
                    self.assertEqual(judged.verdict, wanted, judged.reason)
                    assert judged.margin is not None
                    self.assertEqual((judged.margin > 0) - (judged.margin < 0), sign)
                    self.assertEqual(judged.rule_id, rule.__name__)
                    self.assertTrue(judged.source and judged.title and judged.reason.endswith("."))

    def test_every_rule_with_a_limit_stands_in_the_table(self) -> None:
        told = {row[0].__name__ for row in ROWS}
        otherwise = {
            "ac_cores",
            "setting_agrees",
            "string_polarity",
            "string_voc_read",
            "tracker_alike",
        }
        judging = {
            name for name, rule in rules().items() if rule.__annotations__["return"] == "Judgement"
        }
        self.assertEqual(judging, told | otherwise)

    def test_facts_without_a_figure(self) -> None:
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
