"""What the meter should read now: expected voltage and current with an honest band."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from core.equipment.module import Module
from core.glossary import (
    AlphaIscPctPerK,
    BetaVocPctPerK,
    CellsInSeries,
    IdealityN,
    IrradianceWPerM2,
    IscA,
    ModulesInSeries,
    Name,
    ParallelStrings,
    StringV,
    TCellC,
    VocV,
)
from core.packs import MeterRule, pack
from core.rules.string_voltage import at_temperature
from core.words import say

BOLTZMANN_J_PER_K = 1.380649e-23  # exact, SI 2019
ELEMENTARY_CHARGE_C = 1.602176634e-19  # exact, SI 2019
ZERO_CELSIUS_K = 273.15
FULL_SUN_W_PER_M2 = 1000.0

IrradianceBasis = Literal["measured", "clear_sky"]
CellFrom = Literal["air", "back"]

__all__ = ["BandPart", "ExpectedVoc", "expected_voc", "isc_now", "voc_now"]


@dataclass(frozen=True, kw_only=True)
class BandPart:
    """One doubt and how far it moves the expected voltage, in volts, down and up."""

    name: str
    down_v: float
    up_v: float


@dataclass(frozen=True, kw_only=True)
class ExpectedVoc:
    """The open-circuit voltage to expect now: centre, band, what the band is made of."""

    centre_v: float
    low_v: float
    high_v: float
    one_module_v: float
    t_cell_c: float
    irradiance_w_per_m2: float
    basis: IrradianceBasis
    cell_from: CellFrom
    parts: tuple[BandPart, ...]


def voc_now(
    *,
    modules_in_series: ModulesInSeries,
    voc_v: VocV,
    beta_voc_pct_per_k: BetaVocPctPerK,
    cells_in_series: CellsInSeries,
    irradiance_w_per_m2: IrradianceWPerM2,
    t_cell_c: TCellC,
    ideality_n: IdealityN = 1.0,
) -> StringV:
    """Which open-circuit voltage does a string have in this sun, at this cell temperature?

    Formula: N * [Voc * (1 + beta/100 * (T - 25)) + n * cells * (k * T_K / q) * ln(G / 1000)].
    Valid: crystalline silicon, 150 to 1100 W/m2; within 0.15 % of the single-diode model at n = 1.
    Source: single-diode model at zero current; IEC 60891:2021.
    """
    thermal_v = BOLTZMANN_J_PER_K * (t_cell_c + ZERO_CELSIUS_K) / ELEMENTARY_CHARGE_C
    light_v = ideality_n * cells_in_series * thermal_v
    light_v *= math.log(irradiance_w_per_m2 / FULL_SUN_W_PER_M2)
    return modules_in_series * (at_temperature(voc_v, beta_voc_pct_per_k, t_cell_c) + light_v)


def isc_now(
    *,
    isc_a: IscA,
    alpha_isc_pct_per_k: AlphaIscPctPerK,
    irradiance_w_per_m2: IrradianceWPerM2,
    t_cell_c: TCellC,
    parallel_strings: ParallelStrings = 1,
) -> float:
    """Which short-circuit current does a string have in this sun, at this cell temperature? [A]

    Formula: Np * Isc * G / 1000 * (1 + alpha/100 * (T - 25)).
    Source: IEC 60891:2021.
    """
    one = at_temperature(isc_a, alpha_isc_pct_per_k, t_cell_c)
    return parallel_strings * one * irradiance_w_per_m2 / FULL_SUN_W_PER_M2


def expected_voc(
    *,
    module: Module,
    modules_in_series: ModulesInSeries,
    irradiance_w_per_m2: IrradianceWPerM2,
    t_cell_c: TCellC,
    basis: IrradianceBasis = "measured",
    cell_from: CellFrom = "air",
    rule_pack: Name = "generic-iec",
) -> ExpectedVoc:
    """Between which voltages should the meter read now, and why so wide?

    The band is the plain sum of the doubts: meter, irradiance, cell temperature, module
    tolerance; wider in weak light.
    Source: rule pack's meter figures; IEC 62446-1:2016, 6.4.
    """
    rule = pack(rule_pack).meter

    def voltage(irradiance: float, t_cell: float) -> float:
        return voc_now(
            modules_in_series=modules_in_series,
            voc_v=module.voc_v,
            beta_voc_pct_per_k=module.beta_voc_pct_per_k,
            cells_in_series=module.cells_in_series,
            irradiance_w_per_m2=irradiance,
            t_cell_c=t_cell,
            ideality_n=rule.ideality.value,
        )

    centre = voltage(irradiance_w_per_m2, t_cell_c)
    weakest, strongest = _irradiance_reach(irradiance_w_per_m2, basis, rule)
    doubt_k = (rule.cell_from_air if cell_from == "air" else rule.cell_from_back).value
    meter_v = centre * rule.meter.value / 100 + rule.meter_digits.value
    module_v = centre * rule.module_tolerance.value / 100
    wide = rule.wide_factor.value if irradiance_w_per_m2 < rule.wide_below.value else 1.0
    doubts = (
        ("meter", meter_v, meter_v),
        (
            "irradiance",
            centre - voltage(weakest, t_cell_c),
            voltage(strongest, t_cell_c) - centre,
        ),
        (
            "cell_temperature",
            centre - voltage(irradiance_w_per_m2, t_cell_c + doubt_k),
            voltage(irradiance_w_per_m2, t_cell_c - doubt_k) - centre,
        ),
        ("module", module_v, module_v),
    )
    parts = tuple(
        BandPart(name=say("band_parts", name), down_v=down * wide, up_v=up * wide)
        for name, down, up in doubts
    )
    return ExpectedVoc(
        centre_v=centre,
        low_v=centre - sum(part.down_v for part in parts),
        high_v=centre + sum(part.up_v for part in parts),
        one_module_v=centre / modules_in_series,
        t_cell_c=t_cell_c,
        irradiance_w_per_m2=irradiance_w_per_m2,
        basis=basis,
        cell_from=cell_from,
        parts=parts,
    )


def _irradiance_reach(
    irradiance_w_per_m2: float, basis: IrradianceBasis, rule: MeterRule
) -> tuple[float, float]:
    if basis == "clear_sky":
        low, high = rule.irradiance_clear_low.value, rule.irradiance_clear_high.value
    else:
        doubt = rule.irradiance_measured.value / 100
        low, high = 1 - doubt, 1 + doubt
    return irradiance_w_per_m2 * low, irradiance_w_per_m2 * high
