"""The core's closed form against the single-diode model, over the sun and cells of a year."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.rules.dc.expected_reading import voc_now
from core.tests.cases import load
from core.tests.test_worked_cases import CASES
from sun.single_diode import SingleDiode, single_diode_voc

MOST_APART = 0.015


def diodes() -> list[tuple[dict[str, Any], SingleDiode]]:
    """The modules of the worked cases with their fitted parameters."""
    return [
        (
            case["inputs"]["module"],
            SingleDiode(
                light_a=fit["I_L_ref_a"],
                saturation_a=fit["I_o_ref_a"],
                series_ohm=fit["R_s_ohm"],
                shunt_ohm=fit["R_sh_ref_ohm"],
                thermal_v=fit["a_ref_v"],
                alpha_a_per_k=fit["alpha_sc_a_per_k"],
            ),
        )
        for case in load(CASES, "string_now")
        for fit in (case["inputs"].get("desoto_params"),)
        if fit
    ]


def closed_form(sheet: dict[str, Any], irradiance: float, t_cell_c: float) -> float:
    return voc_now(
        modules_in_series=1,
        voc_v=sheet["voc_stc_v"],
        beta_voc_pct_per_k=sheet["beta_voc_pct_per_k"],
        cells_in_series=sheet["cells_in_series"],
        irradiance_w_per_m2=irradiance,
        t_cell_c=t_cell_c,
    )


class ClosedForm(TestCase):
    @settings(max_examples=60, deadline=None)
    @given(
        irradiance=st.floats(min_value=200, max_value=1100),
        t_cell_c=st.floats(min_value=-10, max_value=70),
    )
    def test_it_stays_within_its_promise(self, irradiance: float, t_cell_c: float) -> None:
        for sheet, diode in diodes():
            apart = closed_form(sheet, irradiance, t_cell_c) / single_diode_voc(
                diode, irradiance, t_cell_c
            )
            self.assertLess(abs(apart - 1), MOST_APART)
