"""How hot the cells are."""

from __future__ import annotations

from core.base.glossary import IrradianceWPerM2, NoctC, TAirC, TCellC, TModuleC, WindMPerS
from core.base.rule import rule

# The NOCT test (IEC 61215): 800 W/m2, 20 C air, 1 m/s, open rack.
NOCT_IRRADIANCE_W_PER_M2 = 800.0
NOCT_AIR_C = 20.0
# Faiman (2008), IEC 61853-2: heat loss of an open-rack glass module.
FAIMAN_U0_W_PER_M2K = 25.0
FAIMAN_U1_WS_PER_M3K = 6.84
FULL_SUN_W_PER_M2 = 1000.0


@rule
def cell_from_air(
    *, t_air_c: TAirC, irradiance_w_per_m2: IrradianceWPerM2, noct_c: NoctC
) -> TCellC:
    """How hot is a cell in this air and this sun, by the sheet's NOCT?

    Formula: t_air_c + (noct_c − 20) / 800 · irradiance_w_per_m2. Valid: light wind, open back; a
    module close to a roof runs up to 14 K hotter.
    Source: IEC 61215, nominal operating cell temperature.
    """
    return t_air_c + (noct_c - NOCT_AIR_C) / NOCT_IRRADIANCE_W_PER_M2 * irradiance_w_per_m2


@rule
def module_from_air_and_wind(
    *, t_air_c: TAirC, irradiance_w_per_m2: IrradianceWPerM2, wind_m_per_s: WindMPerS
) -> TModuleC:
    """How hot is the back of a module in this air, sun and wind?

    Formula: t_air_c + irradiance_w_per_m2 / (25 + 6.84 · wind_m_per_s). Valid: open rack, wind
    measured at the array.
    Source: Faiman (2008), IEC 61853-2.
    """
    loss = FAIMAN_U0_W_PER_M2K + FAIMAN_U1_WS_PER_M3K * wind_m_per_s
    return t_air_c + irradiance_w_per_m2 / loss


@rule
def cell_from_back(
    *,
    t_module_c: TModuleC,
    irradiance_w_per_m2: IrradianceWPerM2,
    rise_at_full_sun_k: float = 3.0,
) -> TCellC:
    """How hot is a cell whose back sheet was measured?

    Formula: t_module_c + rise_at_full_sun_k · irradiance_w_per_m2 / 1000. Valid: contact
    thermometer behind the middle of a module, 150 to 1100 W/m2.
    Source: IEC 60891:2021, annex on equivalent cell temperature.
    """
    return t_module_c + rise_at_full_sun_k * irradiance_w_per_m2 / FULL_SUN_W_PER_M2
