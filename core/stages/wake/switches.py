"""Where each switch stands, by the last step, statement or reading that moved it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from core.job.readings import Reading
from core.job.sequences import SWITCHES, Position, SwitchId, known_steps
from core.stages.wake.conditions import SwitchingContext


@dataclass(frozen=True, kw_only=True)
class Said:
    """Where a switch was last said to stand, and when."""

    to: Position
    at: datetime


def positions(around: SwitchingContext) -> dict[SwitchId, Said]:
    """Every switch by the last step, statement or reading that moved it."""
    found: dict[SwitchId, Said] = {}
    for reading in sorted(around.job.readings, key=lambda one: one.taken_at):
        for switch, to in _moved(reading):
            found[switch] = Said(to=to, at=reading.taken_at)
    return found


def _moved(reading: Reading) -> tuple[tuple[SwitchId, Position], ...]:
    good = reading.is_good
    if reading.kind == "switch_stands":
        return tuple((one, "ON" if good else "OFF") for one in SWITCHES if one == reading.subject)
    if reading.kind == "dc_switch":
        return (("dc", "OFF" if good else "ON"),)
    if reading.kind == "branch_on":
        return (("branch", "ON" if good else "OFF"),)
    if reading.kind == "wake_step" and good:
        move = known_steps()[reading.subject.rpartition(" ")[2]].move
        return ((move.switch, move.to),) if move else ()
    return ()


def position(said: dict[SwitchId, Said], switch: SwitchId) -> Position | None:
    last = said.get(switch)
    return last.to if last else None
