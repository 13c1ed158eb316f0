"""Properties of the sums: what must hold for any sheet, any roof and any run."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.equipment import catalogue
from core.rules.ac.voltage_rise import RunSegment, ac_most_export, ac_rise
from core.rules.dc.diagnosis import diagnose
from core.rules.dc.expected_reading import expected_voc
from core.rules.dc.string_voltage import (
    series_count,
    string_start,
    string_track_hot,
    string_voc_cold,
    string_volts,
)
from core.rules.dc.tracker_current import tracker_alike

MODULE = catalogue.module("ostrel-430")
DC = catalogue.inverter("veyrick-5").dc
colds = st.floats(min_value=-40, max_value=10)
hots = st.floats(min_value=40, max_value=85)


class SeriesCounting(TestCase):
    @given(cold=colds, hot=hots, most_v=st.integers(min_value=560, max_value=1000))
    def test_the_range_is_exactly_the_counts_whose_judgements_do_not_stop(
        self, cold: float, hot: float, most_v: int
    ) -> None:
        dc = replace(DC, max_dc_v=float(most_v))
        found = series_count(module=MODULE, dc=dc, t_air_min_c=cold, t_cell_hot_c=hot)
        fitting = []
        for count in range(1, 40):
            volts = string_volts(
                module=MODULE,
                modules_in_series=count,
                t_air_min_c=cold,
                t_cell_hot_c=hot,
                school="datasheet",
            )
            judged = (
                string_voc_cold(
                    modules_in_series=count,
                    voc_v=MODULE.voc_v,
                    t_air_min_c=cold,
                    beta_voc_pct_per_k=MODULE.beta_voc_pct_per_k,
                    max_dc_v=dc.max_dc_v,
                    max_system_v=MODULE.max_system_v,
                ),
                string_start(
                    vmp_hot_v=volts.vmp_hot_v, voc_hot_v=volts.voc_hot_v, start_v=dc.start_v
                ),
                string_track_hot(vmp_hot_v=volts.vmp_hot_v, track_min_v=dc.track_min_v),
            )
            if all(one.verdict != "stop" for one in judged):
                fitting.append(count)
        self.assertEqual(fitting, list(range(found.least, (found.most or 0) + 1)))

    @given(cold=colds, colder=st.floats(min_value=0, max_value=15))
    def test_colder_air_never_allows_more_modules(self, cold: float, colder: float) -> None:
        for school in ("datasheet", "banded", "flat"):
            counts = [
                series_count(
                    module=MODULE, dc=DC, t_air_min_c=air, t_cell_hot_c=65, school=school
                ).most
                for air in (cold, max(-40.0, cold - colder))
            ]
            self.assertLessEqual(counts[1] or 0, counts[0] or 0)

    def test_when_nothing_fits_it_says_what_blocks_and_what_frees(self) -> None:
        narrow = replace(
            DC, max_dc_v=130.0, full_power_min_v=100.0, full_power_max_v=120.0, track_max_v=125.0
        )
        found = series_count(module=MODULE, dc=narrow, t_air_min_c=-10, t_cell_hot_c=70)
        self.assertFalse(found.feasible)
        self.assertIn("130\u00a0V", found.blocks or "")
        self.assertTrue(found.frees)
        self.assertIsNone(found.good_least)

    def test_module_system_voltage_binds_when_it_is_the_lower(self) -> None:
        weak = replace(MODULE, max_system_v=450.0)
        found = series_count(module=weak, dc=DC, t_air_min_c=-9, t_cell_hot_c=66)
        self.assertEqual((found.most, found.most_by), (10, "module_system"))

    def test_no_band_below_minus_forty(self) -> None:
        found = series_count(
            module=MODULE, dc=DC, t_air_min_c=-41, t_cell_hot_c=60, school="banded"
        )
        self.assertIsNone(found.most)
        self.assertFalse(found.feasible)


class ExpectingAndDiagnosing(TestCase):
    @given(
        sun=st.floats(min_value=150, max_value=1100),
        cell=st.floats(min_value=-5, max_value=75),
        count=st.integers(min_value=4, max_value=20),
    )
    def test_the_band_is_the_sum_of_its_parts_and_clear_sky_is_wider(
        self, sun: float, cell: float, count: int
    ) -> None:
        measured, computed = (
            expected_voc(
                module=MODULE,
                modules_in_series=count,
                irradiance_w_per_m2=sun,
                t_cell_c=cell,
                basis=basis,
                cell_from="back",
            )
            for basis in ("measured", "clear_sky")
        )
        down = sum(part.down_v for part in measured.parts)
        self.assertAlmostEqual(measured.centre_v - measured.low_v, down)
        self.assertLess(computed.low_v, measured.low_v)
        self.assertGreater(computed.high_v, measured.high_v)

    @given(count=st.integers(min_value=5, max_value=14), missing=st.integers(1, 3))
    def test_a_missing_module_is_found_and_never_told_from_a_reversed_one(
        self, count: int, missing: int
    ) -> None:
        one_v = 38.0
        causes = diagnose(
            read_v=(count - missing) * one_v,
            modules_in_series=count,
            expected_v=count * one_v,
            low_v=count * one_v * 0.985,
            high_v=count * one_v * 1.015,
        )
        fitting = [cause.cause_id for cause in causes if cause.fits]
        self.assertEqual(fitting[0], f"missing_{missing}")
        if missing == 2 and count > 2:
            self.assertIn("reversed_1", fitting)

    @given(read_v=st.floats(min_value=-900, max_value=900))
    def test_something_is_always_said_and_fits_are_honest(self, read_v: float) -> None:
        causes = diagnose(
            read_v=read_v, modules_in_series=10, expected_v=380, low_v=370, high_v=390
        )
        self.assertTrue(causes)
        for cause in causes:
            self.assertEqual(cause.fits, cause.low_v <= read_v <= cause.high_v)

    def test_facing_wraps_around_north(self) -> None:
        alike = tracker_alike(modules_in_series=(9, 9), tilts_deg=(30, 32), azimuths_deg=(358, 2))
        unlike = tracker_alike(
            modules_in_series=(9, 10), tilts_deg=(30, 30), azimuths_deg=(180, 180)
        )
        self.assertEqual((alike.verdict, unlike.verdict), ("clear", "stop"))


class RisingVoltage(TestCase):
    @settings(max_examples=60)
    @given(
        length=st.floats(min_value=1, max_value=80),
        resistance=st.floats(min_value=0.5, max_value=13),
        supply=st.floats(min_value=210, max_value=250),
        power=st.floats(min_value=500, max_value=6000),
        service=st.sampled_from(["single", "three"]),
    )
    def test_the_exact_solution_obeys_the_circuit_and_the_hand_formula_is_higher(
        self, length: float, resistance: float, supply: float, power: float, service: str
    ) -> None:
        run = (RunSegment(name="run", length_m=length, r_ohm_per_km=resistance, x_ohm_per_km=0.0),)
        rise = ac_rise(run=run, service=service, nominal_v=230, supply_v=supply, output_va=power)
        phases, factor = (1, 2) if service == "single" else (3, 1)
        loop_ohm = factor * length * resistance / 1000
        self.assertAlmostEqual(rise.terminal_v, supply + loop_ohm * rise.current_a, places=6)
        self.assertAlmostEqual(rise.current_a * rise.terminal_v * phases, power, places=5)
        if supply >= 230:
            self.assertLessEqual(rise.rise_v, rise.rise_closed_v + 1e-9)

    @given(share=st.floats(min_value=0.05, max_value=0.999))
    def test_below_the_most_export_the_trip_is_not_reached(self, share: float) -> None:
        run = (RunSegment(name="run", length_m=30, r_ohm_per_km=4.61, x_ohm_per_km=0.08),)
        most = ac_most_export(run=run, service="single", supply_v=248, trip_v=253)
        rise = ac_rise(
            run=run, service="single", nominal_v=230, supply_v=248, output_va=share * most
        )
        self.assertLess(rise.terminal_v, 253)
        self.assertEqual(ac_most_export(run=run, service="single", supply_v=253, trip_v=253), 0.0)
