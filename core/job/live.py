"""What an inverter measures at this moment, as it was polled: looked at, never kept."""

from __future__ import annotations

from dataclasses import dataclass

from core.base.messages import say
from core.job.readings import DeviceLabel, Outcome


@dataclass(frozen=True, kw_only=True)
class LineVolts:
    """The voltage between two conductors as the inverter measures it."""

    pair: str
    volts: float


@dataclass(frozen=True, kw_only=True)
class LiveTracker:
    """One tracker as the inverter measures it."""

    number: int
    volts: float | None
    amps: float | None
    watts: float | None


@dataclass(frozen=True, kw_only=True)
class Alarm:
    """One alarm that stands: its name in the registers, what it means, what to do."""

    id: str
    means: str
    do: str


@dataclass(frozen=True, kw_only=True)
class Live:
    """What one poll gave. outcome: *read_back* when all was answered; else what was, stands."""

    outcome: Outcome
    detail: str
    device: DeviceLabel | None = None
    state: str = ""
    lines: tuple[LineVolts, ...] = ()
    hertz: float | None = None
    power_w: float | None = None
    trackers: tuple[LiveTracker, ...] = ()
    alarms: tuple[Alarm, ...] = ()


def state_text(name: str) -> str:
    """A state of the open register models in words."""
    return say("states", name)


def alarm(name: str) -> Alarm:
    """An alarm of the open register models by its name there."""
    return Alarm(id=name, means=say("alarms", name), do=say("alarm_do", name))
