"""Give an inverter its grid profile and read everything back."""

from __future__ import annotations

import struct
from collections.abc import Callable
from dataclasses import dataclass, field

from sunspec2.device import ModelError

from core.figures.grid_profiles import Profile
from core.job.readings import DeviceLabel, DevicePlate, Outcome, SettingValue
from devices import newer_map, older_map
from devices.link import LIMIT_S, Link, LinkProblem
from devices.parts import Bases, Part
from devices.plate import label, plate
from devices.registers import Registers

# A device may say anything in its registers; the model library raises these on nonsense.
NONSENSE = (ModelError, struct.error, AttributeError, TypeError, ValueError, IndexError, KeyError)


@dataclass(frozen=True, kw_only=True)
class Line:
    """Where an inverter answers."""

    host: str
    port: int
    unit_id: int


@dataclass(frozen=True, kw_only=True)
class SetResult:
    """How the writing ended, with what the device is and holds, as far as it answered.

    carried: settings for which the device has registers. sent: written to it; refused: of these,
    what it would not take. read: settings that were read afterwards; those of them that are not
    in `readback` it does not hold.
    """

    outcome: Outcome
    detail: str
    device: DeviceLabel | None
    plate: DevicePlate | None
    carried: tuple[str, ...]
    sent: tuple[str, ...]
    refused: tuple[str, ...]
    read: tuple[str, ...]
    readback: tuple[SettingValue, ...]


@dataclass
class _Progress:
    """What is known so far: whatever happens next, it is told."""

    device: DeviceLabel | None = None
    plate: DevicePlate | None = None
    carried: list[str] = field(default_factory=list)
    sent: list[str] = field(default_factory=list)
    refused: list[str] = field(default_factory=list)
    read: list[str] = field(default_factory=list)
    values: list[SettingValue] = field(default_factory=list)
    said: list[str] = field(default_factory=list)

    def result(self, outcome: Outcome, detail: str) -> SetResult:
        return SetResult(
            outcome=outcome,
            detail=detail,
            device=self.device,
            plate=self.plate,
            carried=tuple(self.carried),
            sent=tuple(self.sent),
            refused=tuple(self.refused),
            read=tuple(self.read),
            readback=tuple(self.values),
        )


# Why a device that answers must not be written to; empty when it may be.
Objection = Callable[[DeviceLabel, DevicePlate], str]


def anyone(device: DeviceLabel, rated: DevicePlate) -> str:
    """No objection to any device."""
    return ""


def set_profile(
    line: Line, profile: Profile, objection: Objection = anyone, limit_s: float = LIMIT_S
) -> SetResult:
    """Write a grid profile to the inverter at an address and read every setting back.

    Never raises for what the line or the device does: the outcome says it, and which settings
    were sent, refused and read until then. What one part of the registers refuses does not keep
    the others from being written. objection: asked before anything is written.
    """
    return _told(line, profile, objection, limit_s, writes=True)


def read_profile(
    line: Line, profile: Profile, objection: Objection = anyone, limit_s: float = LIMIT_S
) -> SetResult:
    """Read what the inverter holds of a profile's settings, and write nothing."""
    return _told(line, profile, objection, limit_s, writes=False)


def _told(
    line: Line, profile: Profile, objection: Objection, limit_s: float, *, writes: bool
) -> SetResult:
    progress = _Progress()
    try:
        with Link(line.host, line.port, line.unit_id, limit_s) as link:
            _go(Registers(link), profile, objection, progress, writes=writes)
    except LinkProblem as problem:
        return progress.result(problem.outcome, problem.detail)
    except NONSENSE as error:
        return progress.result("garbage", str(error))
    outcome: Outcome = "refused" if progress.said else "read_back"
    return progress.result(outcome, "; ".join(progress.said))


def _go(
    registers: Registers,
    profile: Profile,
    objection: Objection,
    progress: _Progress,
    *,
    writes: bool,
) -> None:
    progress.device = label(registers)
    progress.plate = plate(registers)
    against = objection(progress.device, progress.plate)
    if against:
        raise LinkProblem("other_device", against)
    base, parts = _map(registers, profile, progress.plate.speaks)
    progress.carried = [point for part in parts for point in part.points]
    for part in parts if writes else ():
        _write(registers, profile, base, part, progress)
    for part in parts:
        _read(registers, profile, base, part, progress)


def _map(registers: Registers, profile: Profile, speaks: str) -> tuple[Bases, tuple[Part, ...]]:
    if speaks == "newer":
        registers.require(newer_map.MODELS)
        return newer_map.bases(registers, profile), newer_map.parts()
    registers.require(older_map.MODELS)
    return older_map.bases(registers, profile), older_map.parts()


def _write(
    registers: Registers, profile: Profile, base: Bases, part: Part, progress: _Progress
) -> None:
    progress.sent += part.points
    try:
        part.write(registers, profile, base)
    except LinkProblem as problem:
        if problem.outcome != "refused":
            raise
        progress.refused += part.points
        progress.said.append(problem.detail)


def _read(
    registers: Registers, profile: Profile, base: Bases, part: Part, progress: _Progress
) -> None:
    try:
        found = part.read(registers, profile, base)
    except LinkProblem as problem:
        if problem.outcome != "refused":
            raise
        progress.said.append(problem.detail)
        return
    progress.read += part.points
    progress.values += [
        SettingValue(id=point, value=got)
        for point, got in found.items()
        if got is not None and point in part.points
    ]
