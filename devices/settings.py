"""A grid profile's settings, to and from the open register models.

Models 703 (enter service), 705 and 706 (volt-var, volt-watt), 707 to 710 (trips), 711 (droop).
Trip and response curves are stored in slots: slot 1 is in force and read-only, a profile is
written to a free slot and then adopted.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from sunspec2.device import Model

from core.kept import SettingValue
from core.profiles import Profile
from devices.link import LinkProblem
from devices.registers import Registers, put, value

COMMON, MEASURED, CAPACITY, ENTER_SERVICE, VOLT_VAR, VOLT_WATT, DROOP = (
    1,
    701,
    702,
    703,
    705,
    706,
    711,
)
TRIPS: dict[int, tuple[str, str, str]] = {
    707: ("under_voltage", "v", "V"),
    708: ("over_voltage", "v", "V"),
    709: ("under_frequency", "hz", "Hz"),
    710: ("over_frequency", "hz", "Hz"),
}
MODELS = (COMMON, CAPACITY, ENTER_SERVICE, VOLT_VAR, VOLT_WATT, *TRIPS, DROOP)

ENABLED, DISABLED = 1, 0
READ_ONLY = 1
ADOPTED, ADOPT_FAILED = 1, 2
ADOPT_TRIES, ADOPT_PAUSE_S = 20, 0.1
PERCENT = 100.0
MOST_STEPS = 2
MOST_CURVE_POINTS = 4


@dataclass(frozen=True, kw_only=True)
class Bases:
    """What percent and deadband registers are relative to: nominal volts and hertz."""

    volts: float
    hertz: float


def nominal(registers: Registers, profile: Profile) -> Bases:
    """Nominal volts as the device has them set, and the profile's hertz."""
    capacity = registers.model(CAPACITY)
    volts = value(capacity.VNom) or value(capacity.VNomRtg)
    if not volts:
        raise LinkProblem("wrong_device", "its nominal voltage is not set (model 702)")
    return Bases(volts=volts, hertz=profile.nominal_hz)


def write_settings(registers: Registers, profile: Profile) -> None:
    """Write every setting that the models carry and put the new curves in force."""
    bases = nominal(registers, profile)
    _write_enter_service(registers, profile, bases)
    for model_id in TRIPS:
        _write_trip(registers, model_id, profile, bases)
    _write_curve(registers, VOLT_VAR, "volt_var", "Var", profile, bases)
    _write_curve(registers, VOLT_WATT, "volt_watt", "W", profile, bases)
    _write_droop(registers, profile, bases)


def read_settings(registers: Registers, profile: Profile) -> tuple[SettingValue, ...]:
    """Every setting that the device holds now, read afresh."""
    bases = nominal(registers, profile)
    found: dict[str, float | None] = {}
    found |= _read_enter_service(registers.reload(ENTER_SERVICE), bases)
    for model_id in TRIPS:
        found |= _read_trip(registers.reload(model_id), model_id, bases)
    found |= _read_curve(registers.reload(VOLT_VAR), "volt_var", "Var", bases)
    found |= _read_curve(registers.reload(VOLT_WATT), "volt_watt", "W", bases)
    found |= _read_droop(registers.reload(DROOP), bases)
    return tuple(SettingValue(id=key, value=got) for key, got in found.items() if got is not None)


# -- enter service (703)

_ENTER: tuple[tuple[str, str, bool], ...] = (
    ("connect_high_v", "ESVHi", True),
    ("connect_low_v", "ESVLo", True),
    ("connect_high_hz", "ESHzHi", False),
    ("connect_low_hz", "ESHzLo", False),
    ("observe_s", "ESDlyTms", False),
    ("ramp_s", "ESRmpTms", False),
)


def _write_enter_service(registers: Registers, profile: Profile, bases: Bases) -> None:
    model = registers.model(ENTER_SERVICE)
    put(model.ES, ENABLED)
    for point_id, name, is_volts in _ENTER:
        # A profile without a ramp wants none: zero seconds.
        wanted = profile.value(point_id) or 0.0
        put(model.points[name], PERCENT * wanted / bases.volts if is_volts else wanted)
    registers.write(ENTER_SERVICE)


def _read_enter_service(model: Model, bases: Bases) -> dict[str, float | None]:
    found: dict[str, float | None] = {}
    for point_id, name, is_volts in _ENTER:
        got = value(model.points[name])
        found[point_id] = got * bases.volts / PERCENT if got and is_volts else got
    if not found["ramp_s"]:
        found["ramp_s"] = None
    return found


# -- trips (707 to 710)


def _write_trip(registers: Registers, model_id: int, profile: Profile, bases: Bases) -> None:
    name, unit, point = TRIPS[model_id]
    steps = [
        (level, seconds)
        for number in range(1, MOST_STEPS + 1)
        if (level := profile.value(f"{name}_{number}_{unit}")) is not None
        and (seconds := profile.value(f"{name}_{number}_s")) is not None
    ]

    def fill(curve: Any) -> None:
        trip = curve.MustTrip
        put(trip.ActPt, len(steps))
        for slot, (level, seconds) in zip(trip.Pt, steps, strict=False):
            put(slot.points[point], _to_register(level, unit, bases))
            put(slot.Tms, seconds)

    _adopt(registers, model_id, "Crv", "AdptCrvReq", "AdptCrvRslt", fill)


def _read_trip(model: Model, model_id: int, bases: Bases) -> dict[str, float | None]:
    name, unit, point = TRIPS[model_id]
    trip = model.Crv[0].MustTrip
    found: dict[str, float | None] = {}
    if model.Ena.value != ENABLED:
        return found
    for number, slot in enumerate(trip.Pt[: trip.ActPt.value or 0][:MOST_STEPS], start=1):
        got = value(slot.points[point])
        found[f"{name}_{number}_{unit}"] = None if got is None else _from_register(got, unit, bases)
        found[f"{name}_{number}_s"] = value(slot.Tms)
    return found


def _to_register(level: float, unit: str, bases: Bases) -> float:
    return PERCENT * level / bases.volts if unit == "v" else level


def _from_register(got: float, unit: str, bases: Bases) -> float:
    return got * bases.volts / PERCENT if unit == "v" else got


# -- volt-var, volt-watt: models 705 and 706


def _write_curve(
    registers: Registers,
    model_id: int,
    name: str,
    point: str,
    profile: Profile,
    bases: Bases,
) -> None:
    model = registers.model(model_id)
    if not profile.value(f"{name}_on"):
        put(model.Ena, DISABLED)
        registers.write(model_id)
        return
    pairs = [
        (volts, percent)
        for number in range(1, MOST_CURVE_POINTS + 1)
        if (volts := profile.value(f"{name}_{number}_v")) is not None
        and (percent := profile.value(f"{name}_{number}_pct")) is not None
    ]

    def fill(curve: Any) -> None:
        put(curve.ActPt, len(pairs))
        for slot, (volts, percent) in zip(curve.Pt, pairs, strict=False):
            put(slot.V, PERCENT * volts / bases.volts)
            put(slot.points[point], percent)

    _adopt(registers, model_id, "Crv", "AdptCrvReq", "AdptCrvRslt", fill)


def _read_curve(model: Model, name: str, point: str, bases: Bases) -> dict[str, float | None]:
    if model.Ena.value != ENABLED:
        return {f"{name}_on": 0.0}
    found: dict[str, float | None] = {f"{name}_on": 1.0}
    curve = model.Crv[0]
    for number, slot in enumerate(curve.Pt[: curve.ActPt.value or 0], start=1):
        got = value(slot.V)
        found[f"{name}_{number}_v"] = None if got is None else got * bases.volts / PERCENT
        found[f"{name}_{number}_pct"] = value(slot.points[point])
    return found


# -- frequency droop (711)


def _write_droop(registers: Registers, profile: Profile, bases: Bases) -> None:
    start_hz, droop_pct = profile.value("droop_start_hz"), profile.value("droop_pct")
    if start_hz is None or droop_pct is None:
        put(registers.model(DROOP).Ena, DISABLED)
        registers.write(DROOP)
        return
    deadband_hz = start_hz - bases.hertz

    def fill(control: Any) -> None:
        put(control.DbOf, deadband_hz)
        put(control.KOf, droop_pct / PERCENT)

    _adopt(registers, DROOP, "Ctl", "AdptCtlReq", "AdptCtlRslt", fill)


def _read_droop(model: Model, bases: Bases) -> dict[str, float | None]:
    if model.Ena.value != ENABLED:
        return {}
    control = model.Ctl[0]
    deadband_hz, slope = value(control.DbOf), value(control.KOf)
    return {
        "droop_start_hz": None if deadband_hz is None else bases.hertz + deadband_hz,
        "droop_pct": None if slope is None else PERCENT * slope,
    }


# -- slots


def _adopt(
    registers: Registers,
    model_id: int,
    slots: str,
    request: str,
    result: str,
    fill: Callable[[Any], None],
) -> None:
    """Fill a writable slot, enable the function, ask the device to put the slot in force."""
    model = registers.model(model_id)
    writable = [
        number
        for number, slot in enumerate(model.groups[slots], start=1)
        if slot.ReadOnly.value != READ_ONLY
    ]
    if not writable:
        raise LinkProblem("refused", f"model {model_id} has no writable slot")
    fill(model.groups[slots][writable[0] - 1])
    put(model.Ena, ENABLED)
    registers.write(model_id)
    put(model.points[request], writable[0])
    registers.write(model_id)
    for _ in range(ADOPT_TRIES):
        state = registers.reload(model_id).points[result].value
        if state == ADOPTED:
            return
        if state == ADOPT_FAILED:
            raise LinkProblem("refused", f"model {model_id} did not adopt the settings")
        time.sleep(ADOPT_PAUSE_S)
    raise LinkProblem("silent", f"model {model_id} is still adopting the settings")
