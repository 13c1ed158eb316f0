"""Worked cases from independent routes: exact rationals, a single-diode solver, a power flow."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from pathlib import Path
from unittest import TestCase

from core.equipment.inverter import DcWindow
from core.equipment.module import Module
from core.figures.rule_packs import GENERIC
from core.rules.ac.voltage_rise import RunSegment, ac_most_export, ac_rise
from core.rules.dc.cell_temperature import cell_from_air, module_from_air_and_wind
from core.rules.dc.diagnosis import OtherString, diagnose
from core.rules.dc.earth_fault import earth_fault_place
from core.rules.dc.expected_reading import isc_now, voc_now
from core.rules.dc.string_fuses import fuse_window
from core.rules.dc.string_voltage import cold_factor, series_count, string_voc_cold, string_volts
from core.rules.dc.tracker_current import tracker_imp, tracker_isc
from core.tests.cases import Case, compare, load

CASES = Path(__file__).parent / "cases"


def case_module(case: Case, **changes: float) -> Module:
    sheet = case["inputs"]["module"]
    figures = {
        "pmax_w": sheet["pmax_w"],
        "voc_v": sheet["voc_stc_v"],
        "vmp_v": sheet["vmp_stc_v"],
        "isc_a": sheet["isc_stc_a"],
        "imp_a": sheet["imp_stc_a"],
        "beta_voc_pct_per_k": sheet["beta_voc_pct_per_k"],
        "alpha_isc_pct_per_k": sheet["alpha_isc_pct_per_k"],
        "gamma_pmax_pct_per_k": sheet["gamma_pmax_pct_per_k"],
        "noct_c": sheet["noct_c"],
        "cells_in_series": sheet["cells_in_series"],
        "max_system_v": sheet["max_system_voltage_v"],
    }
    names = {"id": "case", "maker": "case", "model": "case", "sheet_revision": "case"}
    return Module(**names, **(figures | changes))


class StringVoltageCases(TestCase):
    def test_counts_volts_and_currents(self) -> None:
        for case in load(CASES, "string_voltage"):
            if "inverter" in case["inputs"]:
                self.check(case)

    def check(self, case: Case) -> None:
        inputs, sheet = case["inputs"], case["inputs"]["inverter"]
        # The cases apply the power coefficient to Vmp; the sheet's own would come first.
        gamma = inputs["module"]["gamma_pmax_pct_per_k"]
        module = case_module(case, beta_vmp_pct_per_k=gamma)
        dc = DcWindow(
            max_dc_v=sheet["max_dc_voltage_v"],
            start_v=sheet["start_voltage_v"],
            track_min_v=sheet["mppt_min_v"],
            track_max_v=sheet["mppt_max_v"],
            full_power_min_v=sheet["full_load_mppt_min_v"],
            full_power_max_v=sheet["full_load_mppt_max_v"],
        )
        cold_c = inputs["t_ambient_min_c"]
        hot_c = cell_from_air(
            t_air_c=inputs["t_ambient_max_c"],
            irradiance_w_per_m2=1000,
            noct_c=module.noct_c,
        )
        compare(self, case, "t_cell_hot_c", hot_c)
        one = {
            school: string_volts(
                module=module,
                modules_in_series=1,
                t_air_min_c=cold_c,
                t_cell_hot_c=hot_c,
                school=school,
            )
            for school in ("datasheet", "banded", "flat")
        }
        compare(self, case, "voc_cold_coeff_v", one["datasheet"].voc_cold_v)
        compare(self, case, "voc_cold_band_v", one["banded"].voc_cold_v)
        compare(self, case, "voc_cold_fixed115_v", one["flat"].voc_cold_v)
        for key in ("vmp_hot_v", "voc_hot_v", "vmp_cold_v"):
            compare(self, case, key, getattr(one["datasheet"], key))
        counts = {
            school: series_count(
                module=module,
                dc=dc,
                t_air_min_c=cold_c,
                t_cell_hot_c=hot_c,
                school=school,
            )
            for school in ("datasheet", "banded", "flat")
        }
        compare(self, case, "n_max_coeff", counts["datasheet"].most)
        compare(self, case, "n_max_band", counts["banded"].most)
        compare(self, case, "n_max_fixed115", counts["flat"].most)
        count = counts["datasheet"]
        compare(self, case, "n_min", count.least)
        compare(self, case, "n_min_mppt", count.least_to_track)
        compare(self, case, "n_min_start_on_vmp_hot", count.least_to_start_on_vmp_hot)
        compare(self, case, "n_min_start_on_voc_hot", count.least_to_start_on_voc_hot)
        compare(self, case, "n_recommended_min", count.good_least)
        compare(self, case, "n_recommended_max", count.good_most)
        compare(self, case, "n_max_vmp_cold_within_mppt_max", count.most_inside_tracking)
        compare(self, case, "feasible", count.feasible)
        binding = {"start": "start_voltage", "track_min": "mppt_min"}[count.least_by]
        compare(self, case, "min_binding", binding)
        strings = inputs["parallel_strings_per_mppt"]
        gain = inputs["bifacial_rear_gain_fraction"]
        factored = tracker_isc(
            isc_a=module.isc_a,
            parallel_strings=strings,
            rear_gain=gain,
            max_short_circuit_a=sheet["max_isc_per_mppt_a"],
        )
        compare(self, case, "isc_sum_x125_a", factored.value)
        compare(self, case, "isc_x125_exceeds_input_max", factored.verdict == "stop")
        operating = tracker_imp(
            imp_a=module.imp_a,
            parallel_strings=strings,
            rear_gain=gain,
            max_operating_a=sheet["max_input_current_per_mppt_a"],
        )
        compare(self, case, "imp_exceeds_input_max", operating.verdict == "watch")

    def test_edges_of_the_cold_bands(self) -> None:
        case = next(c for c in load(CASES, "string_voltage") if c["id"] == "t01-o4")
        module = case_module(case)
        factors = [
            cold_factor(
                t_air_min_c=air,
                school="banded",
                beta_voc_pct_per_k=module.beta_voc_pct_per_k,
            )
            for air in case["inputs"]["t_ambient_min_c"]
        ]
        compare(self, case, "band_factor", factors)

    def test_exactly_on_the_limit_is_allowed_and_shown(self) -> None:
        # 50 V * (1 + 0.0025 * 40) leaves 55.00000000000001 in binary floats: ten are 550 V.
        judged = string_voc_cold(
            modules_in_series=10,
            voc_v=50.0,
            beta_voc_pct_per_k=-0.25,
            t_air_min_c=-15,
            max_dc_v=550,
            max_system_v=1500,
        )
        self.assertEqual((judged.verdict, judged.margin), ("watch", 0.0))


class StringNowCases(TestCase):
    def test_closed_form_against_the_single_diode_model(self) -> None:
        case = next(c for c in load(CASES, "string_now") if c["id"] == "t02-o1")
        inputs, module = case["inputs"], case_module(case)

        def volts(ideality: float) -> list[float]:
            return [
                voc_now(
                    modules_in_series=inputs["modules_in_series"],
                    voc_v=module.voc_v,
                    beta_voc_pct_per_k=module.beta_voc_pct_per_k,
                    cells_in_series=module.cells_in_series,
                    irradiance_w_per_m2=sun,
                    t_cell_c=cell,
                    ideality_n=ideality,
                )
                for sun, cell in self.moments(case)
            ]

        currents = [
            isc_now(
                isc_a=module.isc_a,
                alpha_isc_pct_per_k=module.alpha_isc_pct_per_k,
                irradiance_w_per_m2=sun,
                t_cell_c=cell,
            )
            for sun, cell in self.moments(case)
        ]
        compare(self, case, "voc_string_closed_nfit_v", volts(inputs["n_fitted"]))
        compare(self, case, "voc_string_closed_n100_v", volts(1.0))
        compare(self, case, "voc_string_closed_n120_v", volts(1.2))
        compare(self, case, "isc_string_closed_a", currents)
        for got, single_diode in zip(volts(1.0), case["expected"]["voc_string_sdm_v"], strict=True):
            self.assertLess(abs(got / single_diode - 1), 0.0015)

    def moments(self, case: Case) -> list[tuple[float, float]]:
        inputs = case["inputs"]
        return list(zip(inputs["irradiance_poa_w_per_m2"], inputs["cell_temp_c"], strict=True))

    def test_faulty_strings_are_named(self) -> None:
        # The readings come from a nodal solve of the whole string with its bypass diodes.
        case = next(c for c in load(CASES, "string_now") if c["id"] == "t02-o2")
        expected = case["expected"]
        for key, cause in (
            ("missing_one_voc_v", "missing_1"),
            ("bypass_section_shorted_voc_v", "bypass_1"),
            ("module_shaded_to_15pct_voc_v", "as_planned"),
        ):
            self.assertEqual(self.first_cause(case, 10, expected[key]), cause, key)

    def test_swapped_reversed_and_open_strings_are_named(self) -> None:
        case = next(c for c in load(CASES, "string_now") if c["id"] == "t02-o3")
        expected = case["expected"]
        for key, cause in (
            ("swapped_input1_reading_v", "other_string"),
            ("string1_polarity_reversed_reading_v", "polarity_swapped"),
            ("string2_open_reading_v", "open_circuit"),
        ):
            self.assertEqual(self.first_cause(case, 11, expected[key]), cause, key)

    def first_cause(self, case: Case, count: int, read_v: float) -> str:
        whole = case["expected"]["voc_module_now_v"] * count
        causes = diagnose(
            read_v=read_v,
            modules_in_series=count,
            expected_v=whole,
            low_v=whole * 0.98,
            high_v=whole * 1.02,
            others=(OtherString(name="2", modules_in_series=8),),
        )
        return causes[0].cause_id


class EarthFaultCases(TestCase):
    def test_the_place_and_strength_of_a_fault(self) -> None:
        for case in load(CASES, "earth_fault"):
            inputs, expected = case["inputs"], case["expected"]
            found = earth_fault_place(
                plus_to_earth_v=expected["v_plus_pe_v"],
                minus_to_earth_v=expected["v_minus_pe_v"],
                plus_to_minus_v=expected["v_plus_minus_v"],
                modules_in_series=inputs["modules_in_series"],
                meter_ohm=inputs["meter_input_resistance_ohm"],
            )
            for key, got in (
                ("k_from_readings", found.place),
                ("rf_equivalent_ohm", found.fault_ohm),
                ("k_naive_v_minus_over_vm", found.place_by_total),
                ("sum_over_total", found.sum_over_total),
                ("nearest_position", found.nearest),
                ("fault_between_modules_from_negative", found.between),
            ):
                compare(self, case, key, got)

    def test_a_weak_fault_is_still_placed_where_the_naive_division_errs(self) -> None:
        # By the divider: 10 Mohm meter, 2 Mohm fault after 3 of 10 modules of 40 V.
        share = 10 / 12
        found = earth_fault_place(
            plus_to_earth_v=7 * 40 * share,
            minus_to_earth_v=-3 * 40 * share,
            plus_to_minus_v=400,
            modules_in_series=10,
        )
        self.assertAlmostEqual(found.place, 3)
        self.assertAlmostEqual(found.fault_ohm, 2e6, delta=1)
        self.assertAlmostEqual(found.place_by_total, 2.5)


class StringFuseCases(TestCase):
    def test_reverse_current_window_and_size(self) -> None:
        for case in load(CASES, "string_fuses"):
            rows = case["inputs"]["rows"]
            rule = replace(
                GENERIC.fuse, ratings_a=tuple(map(float, case["inputs"]["fuse_ratings_a"]))
            )
            found = [
                fuse_window(
                    isc_a=row["isc_stc_a"],
                    parallel_strings=row["parallel_strings"],
                    max_series_fuse_a=row["module_max_series_fuse_a"],
                    rule_pack=replace(GENERIC, fuse=rule),
                )
                for row in rows
            ]
            for key, got in (
                ("reverse_current_a", [one.reverse_a for one in found]),
                ("fuse_needed", [one.needed for one in found]),
                ("window_low_a", [one.low_a for one in found]),
                ("window_high_a", [one.high_a for one in found]),
                ("ratings_in_window_a", [list(one.fitting_a) for one in found]),
                ("fuse_chosen_a", [one.chosen_a for one in found]),
            ):
                compare(self, case, key, got)

    def test_the_us_school_takes_the_next_standard_size(self) -> None:
        found = fuse_window(isc_a=10.2, parallel_strings=3, max_series_fuse_a=20, school="us")
        # 1.56 * 10.2 A = 15.9 A: 16 A is the next, and 20 A is what the module bears.
        self.assertEqual((found.fitting_a, found.high_a, found.chosen_a), ((16, 20), None, 16))


class CellTemperatureCases(TestCase):
    def test_noct_and_wind_models(self) -> None:
        for case in load(CASES, "cell_temperature"):
            inputs = case["inputs"]
            suns, airs = inputs["irradiance_poa_w_per_m2"], inputs["ambient_c"]
            still = [
                cell_from_air(t_air_c=air, irradiance_w_per_m2=sun, noct_c=inputs["noct_c"])
                for sun, air in zip(suns, airs, strict=True)
            ]
            windy = [
                module_from_air_and_wind(t_air_c=air, irradiance_w_per_m2=sun, wind_m_per_s=wind)
                for sun, air, wind in zip(suns, airs, inputs["wind_m_per_s"], strict=True)
            ]
            compare(self, case, "t_cell_noct_c", still)
            compare(self, case, "t_module_faiman_c", windy)


SERVICES = {1: "three", 2: "single"}


class VoltageRiseCases(TestCase):
    def test_ladder_rise_and_most_export(self) -> None:
        for case in load(CASES, "voltage_rise"):
            self.check(case)

    def check(self, case: Case) -> None:
        inputs = case["inputs"]
        run = tuple(RunSegment(**segment) for segment in inputs["segments"])
        service = SERVICES[inputs["loop_factor_k"]]
        common = {
            "run": run,
            "service": service,
            "supply_v": inputs["source_voltage_v"],
            "power_factor": inputs["power_factor"],
            "reactive": inputs["reactive"].split()[0],
        }
        rise = ac_rise(
            **common,
            nominal_v=inputs["nominal_voltage_v"],
            output_va=self.apparent_va(inputs),
        )
        for key, got in (
            ("node_voltages_exact_v", rise.node_v),
            ("terminal_exact_v", rise.terminal_v),
            ("rise_exact_v", rise.rise_v),
            ("current_exact_a", rise.current_a),
            ("segment_rise_closed_v", rise.segment_rise_closed_v),
            ("rise_closed_v", rise.rise_closed_v),
            ("rise_closed_pct_of_nominal", rise.rise_closed_pct),
            ("current_closed_a", rise.current_closed_a),
        ):
            compare(self, case, key, got)
        most_va = ac_most_export(**common, trip_v=inputs["over_voltage_limit_v"])
        compare(self, case, "max_power_before_limit_w", most_va * inputs["power_factor"])
        # At that export the terminals stand exactly at the limit, whatever the route.
        at_limit = ac_rise(**common, nominal_v=inputs["nominal_voltage_v"], output_va=most_va)
        self.assertAlmostEqual(at_limit.terminal_v, inputs["over_voltage_limit_v"], places=6)
        self.assertEqual(list(rise.node_v), sorted(rise.node_v), pairwise)

    def apparent_va(self, inputs: dict[str, float]) -> float:
        return inputs["inverter_power_w"] / inputs["power_factor"]
