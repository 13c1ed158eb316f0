"""What an energy meter shows, phase by phase: the open meter models, import as plus."""

from __future__ import annotations

import struct
from dataclasses import dataclass

from sunspec2.device import ModelError

from core.job.readings import Outcome
from devices.link import Link, LinkProblem
from devices.registers import Registers, value

# SunSpec meter models: one phase, and three phases with neutral.
ONE_PHASE_METER, THREE_PHASE_METER = 201, 203
PHASE_POINTS = ("WphA", "WphB", "WphC")


@dataclass(frozen=True, kw_only=True)
class MeterShows:
    """How a look ended, and the power of each phase."""

    outcome: Outcome
    detail: str = ""
    watts: tuple[float, ...] = ()


def read_meter(host: str, port: int, unit_id: int, phases: int) -> MeterShows:
    """The power of each phase as the meter shows it now.

    Never raises for what the line or the meter does: the outcome says it.
    """
    try:
        with Link(host, port, unit_id) as link:
            registers = Registers(link)
            wanted = THREE_PHASE_METER if phases > 1 else ONE_PHASE_METER
            model = registers.model(wanted)
            watts = [value(model.points[name]) for name in PHASE_POINTS[:phases]]
    except LinkProblem as problem:
        return MeterShows(outcome=problem.outcome, detail=problem.detail)
    # A device may say anything in its registers; the model library raises these on nonsense.
    except (ModelError, struct.error, AttributeError, TypeError, ValueError, IndexError) as error:
        return MeterShows(outcome="garbage", detail=str(error))
    known = tuple(one for one in watts if one is not None)
    if len(known) < phases:
        return MeterShows(outcome="garbage", detail="a phase without a figure")
    return MeterShows(outcome="read_back", watts=known)
