"""What an inverter has given in all, by its own counter."""

from __future__ import annotations

from dataclasses import dataclass

from core.job.readings import DeviceLabel, Outcome
from devices.client import NONSENSE, Line
from devices.link import Link, LinkProblem
from devices.plate import MEASURED, OLD_MEASURED, label
from devices.registers import Registers, value

WH_PER_KWH = 1000.0


@dataclass(frozen=True, kw_only=True)
class Counted:
    """How a look ended, what the device is, and what its counter shows."""

    outcome: Outcome
    detail: str = ""
    device: DeviceLabel | None = None
    kwh: float | None = None


def read_counter(line: Line) -> Counted:
    """The energy that the inverter at an address has given since it was made.

    Never raises for what the line or the device does: the outcome says it. Source: SunSpec model
    701, TotWhInj; models 101 to 103, WH.
    """
    try:
        with Link(line.host, line.port, line.unit_id) as link:
            registers = Registers(link)
            old = next((one for one in OLD_MEASURED if one in registers.models), None)
            if MEASURED in registers.models:
                counted = value(registers.model(MEASURED).TotWhInj)
            elif old is not None:
                counted = value(registers.model(old).WH)
            else:
                raise LinkProblem("wrong_device", f"model {MEASURED} is missing")
            device = label(registers)
    except LinkProblem as problem:
        return Counted(outcome=problem.outcome, detail=problem.detail)
    except NONSENSE as error:
        return Counted(outcome="garbage", detail=str(error))
    if counted is None or counted < 0:
        return Counted(outcome="garbage", detail="a counter without a figure", device=device)
    return Counted(outcome="read_back", device=device, kwh=counted / WH_PER_KWH)
