"""Give an inverter its grid profile and read everything back."""

from __future__ import annotations

import struct
from dataclasses import dataclass

from sunspec2.device import Model, ModelError

from core.kept import DeviceLabel, Outcome, SettingValue
from core.profiles import Profile
from devices.link import Link, LinkProblem
from devices.registers import Registers
from devices.settings import COMMON, MODELS, read_settings, write_settings

MOST_LABEL_CHARS = 60


@dataclass(frozen=True, kw_only=True)
class SetResult:
    """How the writing ended, with what the device is and holds, as far as it answered."""

    outcome: Outcome
    detail: str
    device: DeviceLabel | None
    readback: tuple[SettingValue, ...]


def set_profile(host: str, port: int, unit_id: int, profile: Profile) -> SetResult:
    """Write a grid profile to the inverter at an address and read every setting back.

    Never raises for what the line or the device does: the outcome says it. After a refusal the
    settings are read back all the same, for the record.
    """
    device: DeviceLabel | None = None
    try:
        with Link(host, port, unit_id) as link:
            registers = Registers(link, MODELS)
            device = _label(registers.model(COMMON))
            refusal = _write(registers, profile)
            readback = read_settings(registers, profile)
    except LinkProblem as problem:
        return SetResult(outcome=problem.outcome, detail=problem.detail, device=device, readback=())
    # A device may say anything in its registers; the model library raises these on nonsense.
    except (
        ModelError,
        struct.error,
        AttributeError,
        TypeError,
        ValueError,
        IndexError,
    ) as error:
        return SetResult(outcome="garbage", detail=str(error), device=device, readback=())
    if refusal is not None:
        outcome, detail = refusal.outcome, refusal.detail
        return SetResult(outcome=outcome, detail=detail, device=device, readback=readback)
    return SetResult(outcome="read_back", detail="", device=device, readback=readback)


def _write(registers: Registers, profile: Profile) -> LinkProblem | None:
    try:
        write_settings(registers, profile)
    except LinkProblem as problem:
        if problem.outcome != "refused":
            raise
        return problem
    return None


def _label(common: Model) -> DeviceLabel:
    def text(name: str) -> str:
        return str(common.points[name].value or "")[:MOST_LABEL_CHARS].strip("\x00 ")

    return DeviceLabel(maker=text("Mn"), model=text("Md"), serial=text("SN"), version=text("Vr"))
