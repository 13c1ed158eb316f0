"""From weather to energy: what falls on the planes, and what the plant makes of it."""

from __future__ import annotations

from collections.abc import Sequence
from zoneinfo import ZoneInfo

from core.rules.leave.plant_energy import (
    EnergyInverter,
    EnergyLoss,
    EnergyString,
    Faiman,
    PlantEnergy,
    plant_energy,
)
from sun.clear_sky import Place
from sun.planes import Sky, SkyModel, Slope, Steps, plane_light


def expected_energy(
    *,
    place: Place,
    time_zone: str,
    slopes: Sequence[Slope],
    strings: Sequence[EnergyString],
    inverters: Sequence[EnergyInverter],
    steps: Steps,
    sky: Sky,
    t_air_c: Sequence[float],
    wind_m_per_s: Sequence[float] = (),
    albedo: float = 0.2,
    model: SkyModel = "isotropic",
    iam_b0: float | None = None,
    faiman: Faiman | None = None,
    dc_losses: Sequence[EnergyLoss] = (),
    ac_wiring_pct: float = 0.0,
    plant_ac_limit_w: float | None = None,
) -> PlantEnergy:
    """What a plant should give under a weather, by string and by local calendar day.

    Raises Refused for series of unequal length, unknown names and figures outside their range.
    """
    zone = ZoneInfo(time_zone)
    light = plane_light(
        place=place, slopes=slopes, steps=steps, sky=sky, albedo=albedo, model=model, iam_b0=iam_b0
    )
    found: PlantEnergy = plant_energy(
        planes=light,
        strings=tuple(strings),
        inverters=tuple(inverters),
        t_air_c=tuple(t_air_c),
        wind_m_per_s=tuple(wind_m_per_s),
        step_min=steps.step_min,
        days=tuple(one.astimezone(zone).date().isoformat() for one in steps.stamps()),
        dc_losses=tuple(dc_losses),
        ac_wiring_pct=ac_wiring_pct,
        plant_ac_limit_w=plant_ac_limit_w,
        faiman=faiman,
    )
    return found
