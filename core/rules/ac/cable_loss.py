"""What a cable costs: watts at full output, and kilowatt-hours in a year, simply."""

from __future__ import annotations

from core.base.glossary import CurrentA, LengthM, LossHours, PowerW, ROhmPerKm, Service
from core.base.rule import rule

M_PER_KM = 1000.0
W_PER_KW = 1000.0
# Conductors that carry the current: out and back, or three lines with a quiet neutral.
CARRYING: dict[Service, int] = {"single": 2, "split": 2, "three": 3}


@rule
def cable_loss(
    *, length_m: LengthM, r_ohm_per_km: ROhmPerKm, current_a: CurrentA, service: Service
) -> PowerW:
    """How much power stays in an AC run? [W]

    Formula: conductors · length_m · r_ohm_per_km / 1000 · current_a².
    Source: circuit theory.
    """
    return CARRYING[service] * length_m * r_ohm_per_km / M_PER_KM * current_a**2


@rule
def yearly_loss(*, loss_w: PowerW, loss_hours: LossHours) -> float:
    """How much energy does a cable lose in a year? [kWh]

    Formula: loss at full output, for as many hours as lose the same.
    Source: circuit theory; the hours are a rule pack's default.
    """
    return loss_w * loss_hours / W_PER_KW
