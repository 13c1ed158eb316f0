"""What the meter should read now: expected voltage and current with an honest band."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from core.base.glossary import (
    AlphaIscPctPerK,
    BetaVocPctPerK,
    CellsInSeries,
    IdealityN,
    IrradianceWPerM2,
    IscA,
    ModulesInSeries,
    Name,
    ParallelStrings,
    ReadV,
    StringV,
    TCellC,
    VocV,
)
from core.base.messages import say
from core.base.rule import rule
from core.equipment.module import Module
from core.figures.rule_packs import GENERIC, MeterRule, RulePack
from core.rules.dc.string_voltage import at_temperature

BOLTZMANN_J_PER_K = 1.380649e-23  # exact, SI 2019
ELEMENTARY_CHARGE_C = 1.602176634e-19  # exact, SI 2019
ZERO_CELSIUS_K = 273.15
FULL_SUN_W_PER_M2 = 1000.0

IrradianceBasis = Literal["measured", "clear_sky", "neighbour"]
CellFrom = Literal["air", "wind", "back", "neighbour"]


@dataclass(frozen=True, kw_only=True)
class BandPart:
    """One doubt and how far it moves the expected voltage, in volts, down and up."""

    name: str
    down_v: float
    up_v: float


@dataclass(frozen=True, kw_only=True)
class ExpectedVoc:
    """The open-circuit voltage to expect now: centre, band, what the band is made of.

    t_cell_c, irradiance_w_per_m2: None when a neighbour string is the reference, named in
    `neighbour`.
    """

    centre_v: float
    low_v: float
    high_v: float
    one_module_v: float
    t_cell_c: float | None
    irradiance_w_per_m2: float | None
    basis: IrradianceBasis
    cell_from: CellFrom
    parts: tuple[BandPart, ...]
    neighbour: str = ""


@rule
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

    Formula: modules_in_series · [voc_v · (1 + beta_voc_pct_per_k/100 · (t_cell_c − 25)) +
    ideality_n · cells_in_series · (k · T / q) · ln(irradiance_w_per_m2 / 1000)]. Valid: crystalline
    silicon, 150 to 1100 W/m2. Against the single-diode model of 1,600 modules of a public library
    (200 to 1050 W/m2, cells at 5 to 60 C, leaflet figures only): half within 0.4 %, 95 of 100
    within 1.7 %, 99 of 100 within 2.6 %.
    Source: single-diode model at zero current; IEC 60891:2021.
    """
    thermal_v = BOLTZMANN_J_PER_K * (t_cell_c + ZERO_CELSIUS_K) / ELEMENTARY_CHARGE_C
    light_v = ideality_n * cells_in_series * thermal_v
    light_v *= math.log(irradiance_w_per_m2 / FULL_SUN_W_PER_M2)
    return modules_in_series * (at_temperature(voc_v, beta_voc_pct_per_k, t_cell_c) + light_v)


@rule
def isc_now(
    *,
    isc_a: IscA,
    alpha_isc_pct_per_k: AlphaIscPctPerK,
    irradiance_w_per_m2: IrradianceWPerM2,
    t_cell_c: TCellC,
    parallel_strings: ParallelStrings = 1,
) -> float:
    """Which short-circuit current does a string have in this sun, at this cell temperature? [A]

    Formula: parallel_strings · isc_a · irradiance_w_per_m2 / 1000 · (1 + alpha_isc_pct_per_k/100 ·
    (t_cell_c − 25)).
    Source: IEC 60891:2021.
    """
    one = at_temperature(isc_a, alpha_isc_pct_per_k, t_cell_c)
    return parallel_strings * one * irradiance_w_per_m2 / FULL_SUN_W_PER_M2


@rule
def expected_voc(
    *,
    module: Module,
    modules_in_series: ModulesInSeries,
    irradiance_w_per_m2: IrradianceWPerM2,
    t_cell_c: TCellC,
    basis: IrradianceBasis = "measured",
    cell_from: CellFrom = "air",
    rule_pack: RulePack = GENERIC,
) -> ExpectedVoc:
    """Between which voltages should the meter read now, and why so wide?

    The band is the plain sum of the doubts: meter, irradiance, cell temperature, module
    tolerance; wider in weak light.
    Formula: voc_now ± the doubts.
    Source: rule pack's meter figures; IEC 62446-1:2016, 6.4.
    """
    rule = rule_pack.meter

    def voltage(irradiance: float, t_cell: float) -> float:
        return voc_now(
            modules_in_series=modules_in_series,
            voc_v=module.voc_v,
            beta_voc_pct_per_k=module.beta_voc_pct_per_k,
            cells_in_series=module.cells_in_series,
            irradiance_w_per_m2=irradiance,
            t_cell_c=t_cell,
            ideality_n=module.ideality_n or rule.ideality.value,
        )

    centre = voltage(irradiance_w_per_m2, t_cell_c)
    weakest, strongest = irradiance_reach(irradiance_w_per_m2, basis, rule)
    doubt_k = _cell_doubt_k(cell_from, rule)
    meter_v = _meter_doubt_v(centre, rule)
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
        low_v=centre - math.fsum(part.down_v for part in parts),
        high_v=centre + math.fsum(part.up_v for part in parts),
        one_module_v=centre / modules_in_series,
        t_cell_c=t_cell_c,
        irradiance_w_per_m2=irradiance_w_per_m2,
        basis=basis,
        cell_from=cell_from,
        parts=parts,
    )


def _cell_doubt_k(cell_from: CellFrom, rule: MeterRule) -> float:
    doubt = {"air": rule.cell_from_air, "wind": rule.cell_from_wind}
    return doubt.get(cell_from, rule.cell_from_back).value


def _meter_doubt_v(volts: float, rule: MeterRule) -> float:
    return volts * rule.meter.value / 100 + rule.meter_digits.value


@rule
def expected_from_neighbour(
    *,
    neighbour: Name,
    neighbour_v: ReadV,
    neighbour_modules: ModulesInSeries,
    modules_in_series: ModulesInSeries,
    rule_pack: RulePack = GENERIC,
) -> ExpectedVoc:
    """Between which voltages should the meter read, by a string beside it read just now?

    Formula: modules_in_series / neighbour_modules · neighbour_v ± the doubts. These are both meter
    readings and the spread of both strings' modules. Valid: same module, tilt, facing and moment; a
    neighbour that is itself wrong misleads.
    Source: IEC 62446-1:2016, 6.4 (comparison of strings).
    """
    rule = rule_pack.meter
    one_v = abs(neighbour_v) / neighbour_modules
    centre = modules_in_series * one_v
    share = modules_in_series / neighbour_modules
    meter_v = _meter_doubt_v(centre, rule) + share * _meter_doubt_v(abs(neighbour_v), rule)
    module_v = 2 * centre * rule.module_tolerance.value / 100
    doubts = (("meter", meter_v), ("module", module_v))
    parts = tuple(
        BandPart(name=say("band_parts", name), down_v=volts, up_v=volts) for name, volts in doubts
    )
    reach_v = meter_v + module_v
    return ExpectedVoc(
        centre_v=centre,
        low_v=centre - reach_v,
        high_v=centre + reach_v,
        one_module_v=one_v,
        t_cell_c=None,
        irradiance_w_per_m2=None,
        basis="neighbour",
        cell_from="neighbour",
        parts=parts,
        neighbour=neighbour,
    )


def irradiance_reach(
    irradiance_w_per_m2: float, basis: IrradianceBasis, rule: MeterRule
) -> tuple[float, float]:
    """The weakest and the strongest sun that a figure may stand for. [W/m²]"""
    if basis == "clear_sky":
        low, high = rule.irradiance_clear_low.value, rule.irradiance_clear_high.value
    else:
        doubt = rule.irradiance_measured.value / 100
        low, high = 1 - doubt, 1 + doubt
    return irradiance_w_per_m2 * low, irradiance_w_per_m2 * high
