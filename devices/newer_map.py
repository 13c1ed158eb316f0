"""The settings in the newer register models.

Models 703 (enter service), 705 and 706 (volt-var, volt-watt), 707 to 710 (trips), 711 (droop).
Trip and response curves are stored in slots: slot 1 is in force and read-only, a profile is
written to a free slot and then adopted.
Source: SunSpec DER information models 701 to 714.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial
from typing import Any

from core.figures.grid_profiles import Profile
from devices.link import LinkProblem
from devices.parts import (
    DISABLED,
    ENABLED,
    PERCENT,
    Bases,
    Part,
    Values,
    bases_of,
    nominal_v,
    write_points,
)
from devices.registers import Registers, put, value

CAPACITY, ENTER_SERVICE, VOLT_VAR, VOLT_WATT, DROOP = 702, 703, 705, 706, 711
TRIPS: dict[int, tuple[str, str, str]] = {
    707: ("under_voltage", "v", "V"),
    708: ("over_voltage", "v", "V"),
    709: ("under_frequency", "hz", "Hz"),
    710: ("over_frequency", "hz", "Hz"),
}
MODELS = (CAPACITY, ENTER_SERVICE, VOLT_VAR, VOLT_WATT, *TRIPS, DROOP)

READ_ONLY = 1
ADOPTED, ADOPT_FAILED = 1, 2
ADOPT_TRIES, ADOPT_PAUSE_S = 20, 0.1
MOST_STEPS = 2
MOST_VAR_CORNERS, MOST_WATT_CORNERS = 4, 2


def bases(registers: Registers, profile: Profile) -> Bases:
    """Nominal volts as the device has them set, and the profile's hertz."""
    return bases_of(profile, nominal_v(registers, CAPACITY, "VNom", "VNomRtg"))


def parts() -> tuple[Part, ...]:
    """Every part that these models carry."""
    return (
        Part(
            points=tuple(point_id for point_id, _, _ in _ENTER),
            write=_write_enter_service,
            read=_read_enter_service,
        ),
        *(
            Part(
                points=tuple(
                    f"{name}_{number}_{unit}"
                    for number in range(1, MOST_STEPS + 1)
                    for unit in (level_unit, "s")
                ),
                write=partial(_write_trip, model_id),
                read=partial(_read_trip, model_id),
            )
            for model_id, (name, level_unit, _) in TRIPS.items()
        ),
        _curve_part(VOLT_VAR, "volt_var", "Var", MOST_VAR_CORNERS),
        _curve_part(VOLT_WATT, "volt_watt", "W", MOST_WATT_CORNERS),
        Part(points=("droop_start_hz", "droop_pct"), write=_write_droop, read=_read_droop),
    )


# -- enter service (703): the setting, its point, whether it is volts

_ENTER: tuple[tuple[str, str, bool], ...] = (
    ("connect_high_v", "ESVHi", True),
    ("connect_low_v", "ESVLo", True),
    ("connect_high_hz", "ESHzHi", False),
    ("connect_low_hz", "ESHzLo", False),
    ("observe_s", "ESDlyTms", False),
    ("ramp_s", "ESRmpTms", False),
)


def _write_enter_service(registers: Registers, profile: Profile, base: Bases) -> None:
    model = registers.model(ENTER_SERVICE)
    put(model.ES, ENABLED)
    # A profile without a ramp wants none: zero seconds.
    wanted: Values = {
        name: (profile.value(point_id) or 0.0) * (PERCENT / base.volts if is_volts else 1)
        for point_id, name, is_volts in _ENTER
    }
    write_points(registers, ENTER_SERVICE, model, wanted)


def _read_enter_service(registers: Registers, profile: Profile, base: Bases) -> Values:
    model = registers.reload(ENTER_SERVICE)
    found: Values = {}
    for point_id, name, is_volts in _ENTER:
        got = value(model.points[name])
        found[point_id] = got * base.volts / PERCENT if got and is_volts else got
    if not found["ramp_s"]:
        found["ramp_s"] = None
    return found


# -- trips (707 to 710)


def _write_trip(model_id: int, registers: Registers, profile: Profile, base: Bases) -> None:
    name, unit, point = TRIPS[model_id]
    pairs = [
        (PERCENT * level / base.volts if unit == "v" else level, seconds)
        for level, seconds in _pairs(profile, name, MOST_STEPS, (unit, "s"))
    ]

    def fill(curve: Any) -> None:
        _put_pairs(curve.MustTrip, pairs, (point, "Tms"), model_id)

    _adopt(registers, model_id, "Crv", "AdptCrvReq", "AdptCrvRslt", fill)


def _read_trip(model_id: int, registers: Registers, profile: Profile, base: Bases) -> Values:
    name, unit, point = TRIPS[model_id]
    model = registers.reload(model_id)
    trip = model.Crv[0].MustTrip
    found: Values = {}
    if model.Ena.value != ENABLED:
        return found
    for number, slot in enumerate(_active(trip, model_id, MOST_STEPS), start=1):
        got = value(slot.points[point])
        in_volts = got is not None and unit == "v"
        found[f"{name}_{number}_{unit}"] = got * base.volts / PERCENT if got and in_volts else got
        found[f"{name}_{number}_s"] = value(slot.Tms)
    return found


# -- responses to volts, models 705 and 706


def _curve_part(model_id: int, name: str, point: str, corners: int) -> Part:
    return Part(
        points=(
            f"{name}_on",
            *(
                f"{name}_{number}_{unit}"
                for number in range(1, corners + 1)
                for unit in ("v", "pct")
            ),
        ),
        write=partial(_write_curve, model_id, name, point, corners),
        read=partial(_read_curve, model_id, name, point, corners),
    )


def _write_curve(
    model_id: int,
    name: str,
    point: str,
    corners: int,
    registers: Registers,
    profile: Profile,
    base: Bases,
) -> None:
    model = registers.model(model_id)
    if not profile.value(f"{name}_on"):
        put(model.Ena, DISABLED)
        registers.write(model_id)
        return
    pairs = [
        (PERCENT * volts / base.volts, percent)
        for volts, percent in _pairs(profile, name, corners, ("v", "pct"))
    ]

    def fill(curve: Any) -> None:
        _put_pairs(curve, pairs, ("V", point), model_id)

    _adopt(registers, model_id, "Crv", "AdptCrvReq", "AdptCrvRslt", fill)


def _read_curve(
    model_id: int,
    name: str,
    point: str,
    corners: int,
    registers: Registers,
    profile: Profile,
    base: Bases,
) -> Values:
    model = registers.reload(model_id)
    if model.Ena.value != ENABLED:
        return {f"{name}_on": 0.0}
    found: Values = {f"{name}_on": 1.0}
    for number, slot in enumerate(_active(model.Crv[0], model_id, corners), start=1):
        got = value(slot.V)
        found[f"{name}_{number}_v"] = None if got is None else got * base.volts / PERCENT
        found[f"{name}_{number}_pct"] = value(slot.points[point])
    return found


def _active(curve: Any, model_id: int, most: int) -> list[Any]:
    """The points of a curve that are in force. Raises LinkProblem *refused* when the device holds
    more than a profile can say: what is beyond them must not pass unseen."""
    active = curve.ActPt.value or 0
    if active > most:
        raise LinkProblem("refused", f"model {model_id} holds {active} points, {most} can be held")
    return list(curve.Pt[:active])


def _pairs(
    profile: Profile, name: str, most: int, units: tuple[str, str]
) -> list[tuple[float, float]]:
    """The numbered pairs of a profile's settings, as level and seconds, that it has both of."""
    found = (
        tuple(profile.value(f"{name}_{number}_{unit}") for unit in units)
        for number in range(1, most + 1)
    )
    return [(one, other) for one, other in found if one is not None and other is not None]


def _put_pairs(
    held: Any, pairs: list[tuple[float, float]], names: tuple[str, str], model_id: int
) -> None:
    """Give a curve its points. Raises LinkProblem *refused* where it has room for fewer."""
    if len(held.Pt) < len(pairs):
        raise LinkProblem("refused", f"model {model_id} has room for {len(held.Pt)} points")
    put(held.ActPt, len(pairs))
    for slot, pair in zip(held.Pt, pairs, strict=False):
        for name, scaled in zip(names, pair, strict=True):
            put(slot.points[name], scaled)


# -- frequency droop (711)


def _write_droop(registers: Registers, profile: Profile, base: Bases) -> None:
    start_hz, droop_pct = profile.value("droop_start_hz"), profile.value("droop_pct")
    if start_hz is None or droop_pct is None:
        put(registers.model(DROOP).Ena, DISABLED)
        registers.write(DROOP)
        return
    deadband_hz = start_hz - base.hertz

    def fill(control: Any) -> None:
        put(control.DbOf, deadband_hz)
        put(control.KOf, droop_pct / PERCENT)

    _adopt(registers, DROOP, "Ctl", "AdptCtlReq", "AdptCtlRslt", fill)


def _read_droop(registers: Registers, profile: Profile, base: Bases) -> Values:
    model = registers.reload(DROOP)
    if model.Ena.value != ENABLED:
        return {}
    control = model.Ctl[0]
    deadband_hz, slope = value(control.DbOf), value(control.KOf)
    return {
        "droop_start_hz": None if deadband_hz is None else base.hertz + deadband_hz,
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
