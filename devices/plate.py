"""What a device says of itself: its label, its rating, its phases, the models that it has."""

from __future__ import annotations

from typing import Literal

from sunspec2.device import Model

from core.job.readings import DeviceLabel, DevicePlate
from devices import newer_map, older_map
from devices.registers import Registers, value

COMMON, MEASURED, RATED, OLD_RATED = 1, 701, 702, 120
# The older models of what is measured, by phases.
OLD_MEASURED = {101: 1, 102: 2, 103: 3}
# SunSpec model 701, ACType: one phase, split phase, three phase.
PHASES = {0: 1, 1: 2, 2: 3}
MOST_LABEL_CHARS = 60


def label(registers: Registers) -> DeviceLabel:
    """Maker, model, serial and version, from model 1."""
    common = registers.model(COMMON)
    return DeviceLabel(
        maker=_text(common, "Mn"),
        model=_text(common, "Md"),
        serial=_text(common, "SN"),
        version=_text(common, "Vr"),
    )


def _text(common: Model, name: str) -> str:
    return str(common.points[name].value or "")[:MOST_LABEL_CHARS].strip("\x00 ")


def plate(registers: Registers) -> DevicePlate:
    """Rated power, nominal volts and phases, as far as the device's models say them."""
    models = registers.models
    rated_w = nominal_v = None
    phases = next((phases for model, phases in OLD_MEASURED.items() if model in models), None)
    if RATED in models:
        rated = registers.model(RATED)
        rated_w = value(rated.WMaxRtg)
        nominal_v = value(rated.VNom) or value(rated.VNomRtg)
    elif OLD_RATED in models:
        rated_w = value(registers.model(OLD_RATED).WRtg)
        if older_map.BASIC in models:
            nominal_v = value(registers.model(older_map.BASIC).VRef)
    if MEASURED in models:
        phases = PHASES.get(registers.model(MEASURED).ACType.value, phases)
    return DevicePlate(
        rated_w=rated_w,
        nominal_v=nominal_v,
        phases=phases,
        models=models,
        speaks=speaks(registers),
    )


def speaks(registers: Registers) -> Literal["newer", "older", "none"]:
    """Which of the two sets of models carries the device's settings: newer, older or none."""
    models = registers.models
    if newer_map.ENTER_SERVICE in models:
        return "newer"
    return "older" if older_map.BASIC in models else "none"
