"""A phase of a sequence: each step with its lock, its wait, its override, and how far it came."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

from core.assessment.common import Gate
from core.assessment.wake import StepStanding, WakePhase, WakeStep
from core.base.judgement import Verdict
from core.base.messages import figure, say
from core.job.readings import Reading
from core.job.sequences import (
    Phase,
    Position,
    Sequence,
    Step,
    StepOverride,
    SwitchId,
    known_steps,
    wake_key,
)
from core.planning.wake.order import EMERGENCY, lights, steps, wait_s
from core.stages.wake.conditions import SwitchingContext, unmet
from core.stages.wake.switches import Said, position

BEFORE_ALL = datetime.min.replace(tzinfo=UTC)
S_PER_MIN = 60.0
ON: Phase = "on"


def phase_of(
    around: SwitchingContext, sequence: Sequence, phase: Phase, positions: dict[SwitchId, Said]
) -> WakePhase:
    planned = steps(around.job, sequence, phase)
    begun = _begun(around, sequence, phase, planned)
    made: list[WakeStep] = []
    earlier = None if phase == ON else begun
    open_step = ""
    for number, step in enumerate(planned, start=1):
        one = _step(
            around, wake_key(sequence.id, phase, step.id), step, number, positions,
            _Round(phase=phase, begun=begun, earlier=earlier, open_step=open_step),
        )  # fmt: skip
        made.append(one)
        if one.standing == "done":
            earlier = one.at if not open_step else earlier
        elif not open_step:
            open_step = step.title
    done = sum(one.standing == "done" for one in made)
    verdict, line = _standing(made, done)
    return WakePhase(
        sequence=sequence.id,
        phase=phase,
        title=say("wake_phases", EMERGENCY if sequence.id == EMERGENCY else phase),
        steps=tuple(made),
        done=done,
        verdict=verdict,
        line=line,
    )


def _begun(
    around: SwitchingContext, sequence: Sequence, phase: Phase, planned: tuple[Step, ...]
) -> datetime | None:
    """When this round began: switching on with the last answer to its first step, unless something
    was put OFF since; the others when everything was last switched on."""
    if not planned:
        return None
    if phase == ON:
        first = around.readings.latest("wake_step", wake_key(sequence.id, phase, planned[0].id))
        ended = max(_switched(around, "OFF"), default=BEFORE_ALL)
        return first.taken_at if first and first.taken_at >= ended else None
    return max(_switched(around, "ON"), default=BEFORE_ALL)


def _switched(around: SwitchingContext, to: Position) -> Iterator[datetime]:
    """When the steps of switching on were taken (ON), or a switch was put OFF by another phase."""
    for one in around.job.readings:
        if one.kind != "wake_step" or not one.is_good:
            continue
        _, phase, step = one.subject.split(" ")
        move = known_steps()[step].move
        if (phase == ON and to == "ON") or (
            phase != ON and to == "OFF" and move is not None and move.to == "OFF"
        ):
            yield one.taken_at


@dataclass(frozen=True, kw_only=True)
class _Round:
    """The round that a step is in. earlier: when the step before it was done. open_step: the
    first one before it that is not done."""

    phase: Phase
    begun: datetime | None
    earlier: datetime | None
    open_step: str


def _step(
    around: SwitchingContext,
    key: str,
    step: Step,
    number: int,
    positions: dict[SwitchId, Said],
    now: _Round,
) -> WakeStep:
    override = _override(around, key, now)
    due_s = wait_s(around.job, step)
    due_at, late_at = _due(step, now, due_s)
    in_turn = _puts_off(step) or not now.open_step
    answer = _read_in(around, key, now) if in_turn else None
    is_over = due_at is None or override is not None or (answer and answer.taken_at >= due_at)
    done = answer if answer is not None and answer.is_good and is_over else None
    failed = answer is not None and not answer.is_good
    state = _wrong_state(positions, step)
    needs = "" if override else _needs(replace(around, at=now.earlier), step)
    gate = _gate(step, now, done is not None, state, needs, None if override else due_at)
    return WakeStep(
        id=step.id,
        key=f"wake_step/{key}",
        number=number,
        title=step.title,
        caution=step.caution,
        expect=step.expect,
        otherwise=step.otherwise,
        lights=tuple(one.shows for one in lights(around.job) if one.state == step.light),
        switch=step.move.switch if step.move else None,
        to=step.move.to if step.move else None,
        standing=_word(seen=done is not None, failed=failed, gate=gate, in_turn=in_turn),
        at=done.taken_at if done else None,
        by=done.by if done else "",
        gate=gate,
        hard=bool(state),
        only_waits=gate.verdict == "waiting" and not needs and not now.open_step,
        due_at=due_at,
        late_at=late_at,
        wait_text=_wait_text(due_s) if due_s else "",
        override=override,
    )


def _puts_off(step: Step) -> bool:
    """Whether a step puts a switch OFF: never out of turn."""
    return step.move is not None and step.move.to == "OFF"


def _read_in(around: SwitchingContext, key: str, now: _Round) -> Reading | None:
    """What was answered to a step in this round: before it, or before the step ahead of it was
    done, is of an earlier one."""
    read = around.readings.latest("wake_step", key)
    since = now.earlier if now.phase == ON and now.earlier else now.begun
    return read if read is not None and since is not None and read.taken_at >= since else None


def _due(step: Step, now: _Round, due_s: float) -> tuple[datetime | None, datetime | None]:
    """When the wait of the step at hand is over, and from when on what is expected is late."""
    if now.earlier in (None, BEFORE_ALL) or now.open_step:
        return None, None
    over = now.earlier + timedelta(seconds=due_s)
    late = over + timedelta(seconds=step.within_s) if step.within_s else None
    return over if due_s > 0 else None, late


def _word(*, seen: bool, failed: bool, gate: Gate, in_turn: bool) -> StepStanding:
    if seen:
        return "done"
    if failed:
        return "failed"
    if not in_turn:
        return "later"
    return "now" if gate.verdict == "clear" else "locked"


def _wait_text(seconds: float) -> str:
    if seconds >= 2 * S_PER_MIN:
        return figure(seconds / S_PER_MIN, "min")
    return figure(seconds, "s")


def _override(around: SwitchingContext, key: str, now: _Round) -> StepOverride | None:
    """The override of this round's lock: it came after the step ahead of it was done, or, for the
    first step, after that was answered before."""
    found = [one for one in around.job.step_overrides if one.key == key]
    since = now.earlier or _answered_before(around, key)
    return found[-1] if found and found[-1].at >= since else None


def _answered_before(around: SwitchingContext, key: str) -> datetime:
    """When a step was answered before the answer that counts as done now."""
    at = sorted(one.taken_at for one in around.readings.counting("wake_step", key))
    latest = around.readings.latest("wake_step", key)
    if latest is not None and latest.is_good:
        at.pop()
    return at[-1] if at else BEFORE_ALL


def _wrong_state(positions: dict[SwitchId, Said], step: Step) -> str:
    """The first switch that does not stand where the step needs it; nobody said: it does not."""
    for move in step.state:
        stands = position(positions, move.switch)
        if stands != move.to:
            said = "unsaid" if stands is None else "stands"
            return say(
                "wake",
                said,
                switch=say("switch_names", move.switch),
                to=move.to,
                now=stands or "",
            )
    return ""


def _needs(around: SwitchingContext, step: Step) -> str:
    return next((why for one in step.needs if (why := unmet(around, one))), "")


def _gate(
    step: Step, now: _Round, seen: bool, state: str, needs: str, due_at: datetime | None
) -> Gate:
    if seen:
        return Gate(verdict="clear", line=say("wake", "done"))
    if state:
        return Gate(verdict="stop", line=state)
    if step.move is not None and step.move.to == "OFF":
        return Gate(verdict="clear", line=say("wake", "now"))
    if now.open_step:
        return Gate(verdict="waiting", line=say("wake", "before", step=now.open_step))
    if needs:
        return Gate(verdict="waiting", line=needs)
    if due_at is not None:
        return Gate(verdict="waiting", line=say("wake", "until"))
    return Gate(verdict="clear", line=say("wake", "now"))


def _standing(made: list[WakeStep], done: int) -> tuple[Verdict, str]:
    failed = next((one for one in made if one.standing == "failed"), None)
    if failed is not None:
        return "stop", say("wake", "failed", step=failed.title, otherwise=failed.otherwise)
    left = next((one for one in made if one.standing != "done"), None)
    if left is None:
        return ("clear", say("wake", "all_done")) if made else ("waiting", "")
    if done == 0 and left.gate.verdict == "clear":
        return "waiting", say("wake", "begin", step=left.title)
    if left.gate.verdict == "clear":
        return "waiting", say("wake", "next_now", step=left.title)
    return "waiting", say("wake", "next", step=left.title, said=left.gate.line)
