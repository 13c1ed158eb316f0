"""A grid profile in parts: each part is written at once, read back at once, and refused at once.

A device speaks the old register models or the new ones; each of the two says which settings its
registers carry and cuts them into parts.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from sunspec2.device import Model

from core.base.glossary import Service
from core.figures.grid_profiles import Profile
from devices.link import LinkProblem
from devices.registers import Registers, put, value

ENABLED, DISABLED = 1, 0
PERCENT = 100.0

# What was found of some settings: None where the device holds none.
Values = dict[str, float | None]


@dataclass(frozen=True, kw_only=True)
class Bases:
    """What percent and deadband registers are relative to: nominal volts and hertz."""

    volts: float
    hertz: float


@dataclass(frozen=True, kw_only=True)
class Part:
    """Some settings that stand in one register model, and the two ways to them.

    points: ids of the settings. write, read: raise LinkProblem; read asks the device afresh.
    """

    points: tuple[str, ...]
    write: Callable[[Registers, Profile, Bases], None]
    read: Callable[[Registers, Profile, Bases], Values]


# A device may name its nominal volts between other conductors than the profile: between two lines
# of three, or from a line of split phase to neutral.
OTHER_LINES: dict[Service, float] = {"single": 1.0, "three": math.sqrt(3), "split": 0.5}
NOMINAL_APART = 0.1


def bases_of(profile: Profile, device_v: float) -> Bases:
    """What a device's percent are percent of, between the conductors that the profile means.

    Raises LinkProblem *wrong_device* when its nominal volts are not those of the profile.
    """
    for share in (1.0, *(OTHER_LINES[service] for service in profile.services)):
        volts = device_v / share
        if abs(volts / profile.nominal_v - 1) <= NOMINAL_APART:
            return Bases(volts=volts, hertz=profile.nominal_hz)
    said = f"its nominal voltage is {device_v:g} V, the profile's {profile.nominal_v:g} V"
    raise LinkProblem("wrong_device", said)


def nominal_v(registers: Registers, model_id: int, *names: str) -> float:
    """Nominal volts as the device has them set, else as it is rated."""
    model = registers.model(model_id)
    found = next((volts for name in names if (volts := value(model.points[name]))), None)
    if not found:
        raise LinkProblem("wrong_device", f"its nominal voltage is not set (model {model_id})")
    return found


def write_points(registers: Registers, model_id: int, model: Model, wanted: Values) -> None:
    """Give points of a model their scaled values and send what changed."""
    for name, scaled in wanted.items():
        if scaled is not None:
            put(model.points[name], scaled)
    registers.write(model_id)
