"""The single-diode route to a module's voltage, by pvlib: slow, and independent of the core."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class SingleDiode:
    """De Soto's parameters of one module at STC (De Soto, Klein, Beckman 2006)."""

    light_a: float
    saturation_a: float
    series_ohm: float
    shunt_ohm: float
    thermal_v: float
    alpha_a_per_k: float


def single_diode_voc(diode: SingleDiode, irradiance_w_per_m2: float, t_cell_c: float) -> float:
    """Open-circuit voltage of one module in this sun, at this cell temperature. [V]"""
    from pvlib.pvsystem import calcparams_desoto, singlediode

    parameters = calcparams_desoto(
        irradiance_w_per_m2,
        t_cell_c,
        alpha_sc=diode.alpha_a_per_k,
        a_ref=diode.thermal_v,
        I_L_ref=diode.light_a,
        I_o_ref=diode.saturation_a,
        R_sh_ref=diode.shunt_ohm,
        R_s=diode.series_ohm,
    )
    return float(singlediode(*parameters)["v_oc"])
