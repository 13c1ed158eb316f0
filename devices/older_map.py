"""The settings in the older register models: 121 holds two voltage limits, no times.

What it cannot carry is set by hand on the device.
Source: SunSpec inverter controls, models 120 to 123.
"""

from __future__ import annotations

from core.figures.grid_profiles import Profile
from devices.parts import Bases, Part, Values, bases_of, nominal_v, write_points
from devices.registers import Registers, value

BASIC = 121
MODELS = (BASIC,)
_POINTS = {"over_voltage_1_v": "VMax", "under_voltage_1_v": "VMin"}


def bases(registers: Registers, profile: Profile) -> Bases:
    """Nominal volts at the device's connection point, and the profile's hertz."""
    return bases_of(profile, nominal_v(registers, BASIC, "VRef"))


def parts() -> tuple[Part, ...]:
    """The one part that these models carry."""
    return (Part(points=tuple(_POINTS), write=_write, read=_read),)


def _write(registers: Registers, profile: Profile, base: Bases) -> None:
    wanted = {name: profile.value(point_id) for point_id, name in _POINTS.items()}
    write_points(registers, BASIC, registers.model(BASIC), wanted)


def _read(registers: Registers, profile: Profile, base: Bases) -> Values:
    model = registers.reload(BASIC)
    return {point_id: value(model.points[name]) for point_id, name in _POINTS.items()}
