"""Replacing a roof unit: the steps in their order, with the wait between AC and plugs."""

from __future__ import annotations

from datetime import datetime, timedelta

from core.assessment.common import Gate
from core.assessment.microinverter import SwapStep
from core.base.messages import figure, say
from core.base.trace import kept_ready
from core.job.microinverter import SWAP_STEPS, swap_key
from core.job.readings import Reading
from core.stages.reading_index import Readings

# The first step begins a swap: what was answered before it is of an earlier one.
BEGIN, WAITED = SWAP_STEPS[0], "waited"
# Before this step the new serial is on the map.
AFTER_SERIAL = "leads_in"
PLUGS_IN = ("leads_in", "drop_in")
BRANCHES_KEPT = 128


def swap_steps(
    readings: Readings, unit: str, wait_min: float, branch: str, is_on: bool
) -> tuple[SwapStep, ...]:
    """Every step of replacing a unit, done in this round or not; none before it has begun."""
    found = {step: readings.latest("swap_step", swap_key(unit, step)) for step in SWAP_STEPS}
    if not any(found.values()):
        return ()
    return _steps(found, readings.latest("unit_serial", unit), unit, wait_min, branch, is_on)


@kept_ready(BRANCHES_KEPT)
def swap_to_come(branch: str, is_on: bool) -> tuple[SwapStep, ...]:
    """The steps of a unit that nobody replaces yet: the same for all of a branch."""
    return _steps(dict.fromkeys(SWAP_STEPS), None, "", 0.0, branch, is_on)


def _steps(
    found: dict[str, Reading | None],
    serial: Reading | None,
    unit: str,
    wait_min: float,
    branch: str,
    is_on: bool,
) -> tuple[SwapStep, ...]:
    begun = _done_at(found[BEGIN])
    due_at = begun + timedelta(minutes=wait_min) if begun else None
    done_at = _in_order(found, begun, due_at)
    own_needs = {
        WAITED: say("swap", "until", wait=figure(wait_min, "min"))
        if due_at is not None and done_at[WAITED] is None
        else "",
        AFTER_SERIAL: ""
        if _renewed(serial, done_at["swapped"])
        else say("swap", "serial", unit=unit),
    }
    steps: list[SwapStep] = []
    for step in SWAP_STEPS:
        before = next((one.title for one in steps if not one.done), None)
        blocked = say("swap", "before", step=before) if before is not None else ""
        live = say("swap", "is_on", branch=branch) if is_on else ""
        needs = live or blocked or own_needs.get(step, "")
        title, at = say("swap_steps", step), done_at[step]
        steps.append(
            SwapStep(
                step=step,
                title=title,
                done=at is not None,
                at=at,
                due_at=due_at if step == WAITED else None,
                gate=_gate(title, at, needs),
            )
        )
    return tuple(steps)


def _in_order(
    found: dict[str, Reading | None], begun: datetime | None, due_at: datetime | None
) -> dict[str, datetime | None]:
    """When each step was done, as far as it came after the one before it and its wait was over."""
    done_at: dict[str, datetime | None] = {}
    earlier = begun
    for step in SWAP_STEPS:
        at = _done_at(found[step])
        least = due_at if step == WAITED else None
        fits = at is not None and earlier is not None and at >= max(earlier, least or earlier)
        if step == WAITED and due_at is None:
            fits = False
        earlier = done_at[step] = at if fits else None
    return done_at


def _done_at(reading: Reading | None) -> datetime | None:
    return reading.taken_at if reading is not None and reading.is_good else None


def _renewed(serial: Reading | None, swapped: datetime | None) -> bool:
    """Whether the serial on the map was read after the swap."""
    return serial is not None and swapped is not None and serial.taken_at >= swapped


def _gate(shown: str, at: datetime | None, needs: str) -> Gate:
    if at is not None:
        return Gate(verdict="clear", line=say("swap", "done", step=shown))
    if needs:
        return Gate(verdict="waiting", line=needs)
    return Gate(verdict="clear", line=say("swap", "now", step=shown))


def underway(steps: tuple[SwapStep, ...]) -> bool:
    """Whether a swap has begun and is not done."""
    return bool(steps) and steps[0].done and not all(step.done for step in steps)
