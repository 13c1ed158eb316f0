"""What a hand may not say yet: answers that an interlock refuses at the moment they are given."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from core.assess import ask_of, assess
from core.assessment.common import Gate
from core.assessment.microinverter import RoofStage, SwapStep
from core.assessment.permissions import Lock
from core.assessment.wake import WakeStep
from core.base.errors import Refused, problem
from core.base.messages import say
from core.job.job import Job
from core.job.microinverter import SWAP_STEPS
from core.job.readings import Reading
from core.rules.talk.reporting import rungs_read
from core.stages.microinverter.replacement import WAITED
from core.stages.reading_index import prompt_key
from core.stages.wake.stage import step_of

TALK_LOCKED = ("status_row", "pairing_began", "account_step")


def refuse_if_locked(job: Job, reading: Reading) -> None:
    """Refuses an answer that must not come yet, or a serial that stands on another unit.

    Nothing is kept then. Switching OFF, lifting a module and "not done" are never refused.
    """
    if reading.kind == "wake_step":
        _refuse_step(job, reading)
        return
    if reading.kind in TALK_LOCKED and job.talk is not None:
        _refuse_talk(job, reading)
        return
    if job.micro is None:
        return
    if reading.kind == "unit_serial":
        _refuse_doubled(job, reading)
        return
    if not reading.is_good or reading.kind not in ("unit_covered", "branch_on", "swap_step"):
        return
    stage = assess(job, at=reading.taken_at).roof
    gate = _gate(stage, reading) if stage else None
    if gate is not None and gate.verdict in ("stop", "waiting"):
        allowed = say("interlock", "allowed")
        raise Refused([problem("$.entered", reading.subject, allowed, gate.line)])


def _refuse_talk(job: Job, reading: Reading) -> None:
    """Refuses a status row that is none, pairing before its part is in, a plant entered in its
    portal before the house is on the network."""
    plan = job.talk
    if reading.kind == "status_row" and plan is not None:
        rungs = len(plan.device(reading.subject).sheet.rungs)
        if rungs and rungs_read(digits="".join(reading.text.split()), rungs=rungs) is None:
            said = say("rungs_said", "misread", wanted=str(rungs), row=reading.text)
            allowed = say("talk", "digits", count=str(rungs))
            raise Refused([problem("$.entered", reading.text, allowed, said)])
        return
    if not reading.is_good or (reading.kind == "account_step" and reading.subject != "entered"):
        return
    key = prompt_key(reading.kind, reading.subject)
    ask = ask_of(job, key, at=reading.taken_at)
    needs = [needed for one in ask.judgements for needed in one.needs] if ask else []
    if ask is not None and ask.reading is None and needs:
        line = say("talk", "first", what=" · ".join(needs))
        raise Refused([problem("$.entered", ask.title, say("wake", "allowed"), line)])


def _refuse_step(job: Job, reading: Reading) -> None:
    """Refuses "done" of a step whose lock is on; a wait is over by when the step was taken.

    That it did not go as expected may always be said.
    """
    if not reading.is_good:
        return
    woken = assess(job, at=reading.taken_at).wake
    step = step_of(woken, prompt_key(reading.kind, reading.subject))
    if step is None:
        allowed = say("interlock", "sequence")
        raise Refused([problem("$.entered", reading.subject, allowed)])
    waited = step.due_at is not None and reading.taken_at >= step.due_at
    if step.gate.verdict == "clear" or step.standing == "done" or (waited and step.only_waits):
        return
    raise Refused([problem("$.entered", step.title, say("wake", "allowed"), step.gate.line)])


@dataclass(frozen=True, kw_only=True)
class Liftable:
    """A step, and the one lock of it that a licensed person may lift."""

    step: WakeStep
    lock: Lock


def liftable(job: Job, key: str, *, lock: str = "", at: datetime | None = None) -> Liftable:
    """The lock of a step that a licensed person may lift: that of that id, else the first.

    Raises Refused where none is on, or where no override lifts it: a hard lock, a step before it
    that is not done.
    """
    step = step_of(assess(job, at=at).wake, key)
    if step is None:
        raise Refused([problem("$.key", key, say("interlock", "sequence"))])
    first_undone = step.standing in ("now", "locked")
    found = next((one for one in step.locks if lock in ("", one.id)), None)
    if found is None or step.hard or not first_undone:
        hard = next((one.reason for one in step.locks if one.hard), step.gate.line)
        said = say("interlock", "hard" if step.hard else "unlocked", reason=hard)
        raise Refused([problem("$.key", step.title, say("wake", "hard"), said)])
    return Liftable(step=step, lock=found)


def _gate(stage: RoofStage, reading: Reading) -> Gate | None:
    if reading.kind == "branch_on":
        return next((one.on for one in stage.branches if one.name == reading.subject), None)
    name, _, step = reading.subject.partition(" ")
    unit = next((one for one in stage.units if one.name == name), None)
    if unit is None:
        return None
    if reading.kind == "unit_covered":
        return unit.cover
    branch = next((one for one in stage.branches if one.name == unit.branch), None)
    return _step_gate(unit.swap or (branch.swap if branch else ()), step, reading)


def _step_gate(steps: tuple[SwapStep, ...], step: str, reading: Reading) -> Gate | None:
    found = next((one for one in steps if one.step == step), None)
    # The first step begins a new swap, whatever an earlier one left behind.
    if found is None or (step == SWAP_STEPS[0] and found.done):
        return None
    is_due = step == WAITED and found.due_at is not None and reading.taken_at >= found.due_at
    return None if is_due else found.gate


def _refuse_doubled(job: Job, reading: Reading) -> None:
    """Refuses a serial that stands on another unit of this roof already."""
    stage = assess(job).roof
    for unit in stage.units if stage else ():
        if unit.name != reading.subject and unit.serial == reading.text:
            said = say(
                "interlock",
                "doubled",
                serial=reading.text,
                unit=unit.name,
                place=unit.modules[0],
                here=reading.subject,
            )
            allowed = say("interlock", "alone")
            raise Refused([problem("$.entered", reading.text, allowed, said)])
