"""The rules of roof microinverters: limits, facts, the map, labels that are misread."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Refused
from core.figures.rule_packs import pack
from core.rules.arrival.nameplate import serial_in
from core.rules.microinverter.branch import (
    branch_breaker,
    branch_count,
    branch_rise_limit,
    branch_trunk,
    phase_unbalance,
    trunk_guarded,
)
from core.rules.microinverter.serial_map import (
    gateway_agrees,
    map_complete,
    serial_alone,
    serial_fits,
    units_report,
)
from core.rules.microinverter.trunk import lead_reach, trunk_lead_in, trunk_reach, units_spread
from core.rules.microinverter.unit_fit import (
    unit_cold,
    unit_covered,
    unit_current,
    unit_earth,
    unit_power,
    unit_start,
    unit_under_modules,
)
from core.rules.roof.edges import roof_edge
from core.tests.table import Row

AMERICA = {"rule_pack": pack("north-america")}
ENDS = {"start": "U1", "end": "U2"}
ROWS: tuple[Row, ...] = (
    (roof_edge, {"side": "ridge", "plane": "P"}, "free_mm", 420, 300, 280, "watch"),
    (branch_breaker, {"breaker_a": 20.0}, "branch_a", 19.9, 20, 20.1, "stop"),
    # NEC: continuous current up to 80 % of the breaker, 16 A of 20.
    (branch_breaker, {"breaker_a": 20.0} | AMERICA, "branch_a", 15.9, 16, 16.1, "stop"),
    (branch_trunk, {"trunk_a": 20.0}, "branch_a", 19, 20, 21, "stop"),
    (branch_rise_limit, {"limit_pct": 2.0}, "rise_pct", 1.9, 2, 2.1, "stop"),
    (trunk_reach, {"reach_m": 1.3} | ENDS, "distance_m", 1.25, 1.3, 1.35, "stop"),
    (trunk_lead_in, {"lead_in_m": 1.5}, "lead_m", 1.4, 1.5, 1.55, "stop"),
    (lead_reach, {"reach_m": 0.7}, "furthest_m", 0.6, 0.7, 0.8, "stop"),
    (lead_reach, {"reach_m": 0.7, "extension_m": 1.5}, "furthest_m", 2.1, 2.2, 2.3, "stop"),
    (unit_cold, {"max_input_v": 60.0}, "voc_cold_v", 59, 60, 61, "stop"),
    (unit_start, {"start_v": 22.0}, "vmp_hot_v", 23, 22, 21, "stop"),
    (unit_current, {"max_short_circuit_a": 20.0}, "isc_a", 15.9, 16, 16.1, "stop"),
    (unit_power, {"max_module_w": 500.0}, "module_w", 499, 500, 501, "watch"),
)
OTHERWISE = {
    "branch_count",
    "gateway_agrees",
    "map_complete",
    "phase_unbalance",
    "roof_inside",
    "roof_obstacle",
    "serial_alone",
    "serial_fits",
    "trunk_guarded",
    "unit_covered",
    "unit_earth",
    "unit_under_modules",
    "units_report",
    "units_spread",
}


class Facts(TestCase):
    def test_counts_and_facts(self) -> None:
        serial = {"unit": "U1", "serial": "TN1"}
        for judged, verdict, said in (
            (branch_count(units=11, most=11), "clear", "11 units"),
            (branch_count(units=13, most=11), "stop", "2 more"),
            (trunk_guarded(breaker_a=20, trunk_a=20), "clear", "20"),
            (trunk_guarded(breaker_a=25, trunk_a=20), "stop", "burn"),
            (unit_under_modules(unit="U1", covered=False), "stop", "gap"),
            (unit_covered(unit="U1", serial_kept=False), "stop", "lift the module"),
            (units_spread(planes=("East", "East")), "clear", "one plane"),
            (units_spread(planes=("East", "West")), "watch", "East and West"),
            (serial_fits(**serial, fits=False, form="TN and 8 digits"), "stop", "8 digits"),
            (serial_alone(**serial, others=("U9",)), "stop", "U9"),
            (serial_alone(**serial, others=()), "clear", "alone"),
            (map_complete(taken=3, units=3, missing=()), "clear", "All 3"),
            (map_complete(taken=2, units=3, missing=("U3",)), "waiting", "U3"),
            (gateway_agrees(missing=(), foreign=()), "clear", "exactly"),
            (gateway_agrees(missing=("U7",), foreign=("X1",)), "stop", "U7"),
            (phase_unbalance(units=(9, 9, 9), unit_a=1.75), "clear", "9 · 9 · 9"),
            # Twelve units of 1.75 A more on one phase than on another: 21 A of 20.
            (phase_unbalance(units=(12, 0, 0), unit_a=1.75), "watch", "network operator"),
        ):
            with self.subTest(rule=judged.rule_id, said=said):
                self.assertEqual(judged.verdict, verdict)
                self.assertIn(said, judged.reason)

    def test_late_units_are_waited_for_within_their_time_and_watched_after_it(self) -> None:
        known: dict[str, Any] = {"of": 9, "expected_min": 10.0}
        self.assertEqual(units_report(late=(), minutes=2.0, **known).verdict, "clear")
        self.assertEqual(units_report(late=("U3",), minutes=9.9, **known).verdict, "waiting")
        after = units_report(late=("U3",), minutes=10.0, **known)
        self.assertEqual(after.verdict, "watch")
        self.assertIn("8 of 9", after.reason)

    def test_a_way_of_earthing_must_be_allowed_and_have_what_it_needs(self) -> None:
        known = {"allowed": True, "core": True, "rails_bonded": True}
        self.assertEqual(unit_earth(school="core", **known).verdict, "clear")
        self.assertEqual(unit_earth(school="core", **known | {"core": False}).verdict, "stop")
        unbonded = known | {"rails_bonded": False}
        self.assertEqual(unit_earth(school="washer", **unbonded).verdict, "stop")
        self.assertEqual(unit_earth(school="wire", **unbonded).verdict, "clear")
        self.assertEqual(unit_earth(school="wire", **known | {"allowed": False}).verdict, "stop")

    def test_five_centimetres_too_short_is_said_in_metres(self) -> None:
        judged = trunk_reach(distance_m=1.35, reach_m=1.3, **ENDS)
        self.assertEqual(judged.verdict, "stop")
        self.assertIn("0.05 m short", judged.reason.replace("\u00a0", " "))


class Lookalikes(TestCase):
    FORM = "TN########"

    @given(
        digits=st.from_regex(r"[0-9]{8}", fullmatch=True), at=st.integers(min_value=0, max_value=7)
    )
    def test_a_letter_that_looks_like_its_digit_is_asked_about_never_set_right(
        self, digits: str, at: int
    ) -> None:
        like = {"0": "O", "1": "I", "5": "S", "8": "B"}
        sign = like.get(digits[at])
        misread = f"TN{digits[:at]}{sign or 'Q'}{digits[at + 1 :]}"
        with self.assertRaises(Refused) as caught:
            serial_in(scanned=misread, form=self.FORM)
        said = caught.exception.problems[0].message
        if sign:
            self.assertIn(f"TN{digits}", said)
            self.assertIn(f"sign {at + 3}", said)
        else:
            self.assertNotIn(f"TN{digits}", said)
        self.assertEqual(serial_in(scanned=f" tn{digits} ", form=self.FORM), f"TN{digits}")
