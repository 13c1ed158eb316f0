"""A phase of a sequence: each step with its lock, its wait, its override, and how far it came."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

from core.assessment.common import Gate
from core.assessment.permissions import Lock, PermissionId
from core.assessment.wake import StepStanding, WakePhase, WakeStep
from core.base.judgement import Verdict
from core.base.messages import figure, say
from core.base.stage_numbers import WAKE
from core.job.readings import Reading
from core.job.sequences import (
    Condition,
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
from core.stages.permissions.dead import switch_title
from core.stages.permissions.grants import gate_of, lock_line, without_lifted
from core.stages.wake.conditions import SwitchingContext, unmet

BEFORE_ALL = datetime.min.replace(tzinfo=UTC)
S_PER_MIN = 60.0
ON: Phase = "on"


# What is plugged rather than switched; the last step, after which nobody looks on.
PLUGGED: tuple[SwitchId, ...] = ("plugs", "leads", "drop", "battery_plug")
DC_SWITCHES: tuple[SwitchId, ...] = ("roof", "dc")
LEFT_TO_RUN, PROVED_DEAD = "normal", "dead"


def phase_of(around: SwitchingContext, sequence: Sequence, phase: Phase) -> WakePhase:
    """A phase as far as it came, each step with every lock that keeps it."""
    planned = steps(around.job, sequence, phase)
    begun = _begun(around, sequence, phase, planned)
    made: list[WakeStep] = []
    earlier = None if phase == ON else begun
    open_step = ""
    for number, step in enumerate(planned, start=1):
        one = _step(
            around, wake_key(sequence.id, phase, step.id), step, number,
            _Round(phase=phase, begun=begun, earlier=earlier, open_step=open_step),
        )  # fmt: skip
        made.append(one)
        if one.standing == "done":
            earlier = one.at if not open_step else earlier
        elif not open_step:
            open_step = step.title
    done = sum(one.standing == "done" for one in made)
    verdict, line = _standing(made, done)
    if verdict == "clear" and phase == ON:
        verdict, line = _still_allowed(around, made[-1])
    return WakePhase(
        sequence=sequence.id,
        phase=phase,
        title=say("wake_phases", EMERGENCY if sequence.id == EMERGENCY else phase),
        steps=tuple(made),
        done=done,
        verdict=verdict,
        line=line,
    )


def _still_allowed(around: SwitchingContext, last: WakeStep) -> tuple[Verdict, str]:
    """Whether what was left running may still run: what came to light since is no smaller."""
    locks = without_lifted(around.grants.locks("run"), last.overrides)
    if not locks:
        return "clear", say("wake", "all_done")
    gate = gate_of(locks)
    return gate.verdict, say("wake", "must_off", reason=gate.line)


def permission_of(around: SwitchingContext, phase: Phase, step: Step) -> PermissionId | None:
    """What a step asks for; nothing where it only puts something OFF, or looks."""
    to = step.move.to if step.move else None
    if step.id == PROVED_DEAD:
        return "open"
    if to == "OFF" or (phase != ON and to is None):
        return None
    if step.id == LEFT_TO_RUN:
        return "run"
    switch = step.move.switch if step.move else None
    if switch in PLUGGED:
        return "plug"
    if not around.grants.feeds_with(switch):
        return "awake"
    return "dc" if switch in DC_SWITCHES else "ac"


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


def _step(around: SwitchingContext, key: str, step: Step, number: int, now: _Round) -> WakeStep:
    lifted = _overrides(around, key, now)
    due_s = wait_s(around.job, step)
    due_at, late_at = _due(step, now, due_s)
    waits = without_lifted((_wait_lock(),) if due_at else (), lifted)
    in_turn = _puts_off(step) or not now.open_step
    answer = _read_in(around, key, now) if in_turn else None
    is_over = not waits or due_at is None or (answer and answer.taken_at >= due_at)
    done = answer if answer is not None and answer.is_good and is_over else None
    failed = answer is not None and not answer.is_good
    state = _wrong_state(around, step)
    asks = permission_of(around, now.phase, step)
    # What comes later waits for the step at hand, whatever else it will wait for then.
    is_asked = done is None and not now.open_step and not _puts_off(step)
    held = without_lifted(_held(around, asks, step), lifted) if is_asked else ()
    locks = () if done is not None else (*state, *held, *(waits if is_asked else ()))
    gate = _gate(step, now, locks, seen=done is not None)
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
        permission=asks,
        locks=locks,
        hard=any(one.hard for one in locks),
        only_waits=bool(waits) and not held and not state and not now.open_step,
        due_at=due_at,
        late_at=late_at,
        wait_text=_wait_text(due_s) if due_s else "",
        overrides=lifted,
    )


def _held(around: SwitchingContext, asks: PermissionId | None, step: Step) -> tuple[Lock, ...]:
    """What keeps a step whose turn it is: permission, sequence, switches nobody spoke of."""
    return (
        *(around.grants.locks(asks) if asks else ()),
        *_conditions(around, step),
        *_unsaid(around, step),
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


def _overrides(around: SwitchingContext, key: str, now: _Round) -> tuple[StepOverride, ...]:
    """The overrides of this round's locks: they came after the step ahead was done, or, for the
    first step, after that was answered before. Each lifts one lock."""
    since = now.earlier or _answered_before(around, key)
    return tuple(one for one in around.job.step_overrides if one.key == key and one.at >= since)


def _answered_before(around: SwitchingContext, key: str) -> datetime:
    """When a step was answered before the answer that counts as done now."""
    at = sorted(one.taken_at for one in around.readings.counting("wake_step", key))
    latest = around.readings.latest("wake_step", key)
    if latest is not None and latest.is_good:
        at.pop()
    return at[-1] if at else BEFORE_ALL


def _wrong_state(around: SwitchingContext, step: Step) -> tuple[Lock, ...]:
    """Every switch that does not stand where the step needs it; nobody said: it does not."""
    found = []
    for move in step.state:
        stands = around.grants.said.of(move.switch)
        if stands != move.to:
            title = switch_title(move.switch)
            said = "unsaid" if stands is None else "stands"
            line = say("wake", said, switch=title, to=move.to, now=stands or "")
            found.append(
                _own_lock(move.switch, "stop", title, line, f"switch_stands/{move.switch}")
            )
    return tuple(replace(one, hard=True) for one in found)


def _conditions(around: SwitchingContext, step: Step) -> tuple[Lock, ...]:
    """What this sequence asks for at this step beside the permission."""
    return tuple(
        _own_lock(condition, "waiting", step.title, why, "")
        for condition in step.needs
        if (why := unmet(around, condition))
    )


def _unsaid(around: SwitchingContext, step: Step) -> tuple[Lock, ...]:
    """Switches of which nobody said where they stand, where it hangs on them whether it feeds."""
    if step.move is None or step.move.to == "OFF" or step.move.switch in PLUGGED:
        return ()
    return tuple(
        _own_lock(
            switch, "waiting", switch_title(switch),
            say("wake", "say_where", switch=switch_title(switch)), f"switch_stands/{switch}",
        )
        for switch in around.grants.undecided(step.move.switch)
    )  # fmt: skip


def _wait_lock() -> Lock:
    return _own_lock("wait", "waiting", say("wake", "wait"), say("wake", "until"), "")


def _own_lock(
    name: Condition | SwitchId | str, verdict: Verdict, where: str, reason: str, key: str
) -> Lock:
    """A lock that the sequence itself puts on a step."""
    return Lock(
        id=f"{WAKE} {name}",
        stage=WAKE,
        where=where,
        key=key,
        rule_id=name,
        verdict=verdict,
        reason=reason,
        lift=say("lifts", verdict, title=where),
        hard=False,
    )


def _gate(step: Step, now: _Round, locks: tuple[Lock, ...], *, seen: bool) -> Gate:
    if seen:
        return Gate(verdict="clear", line=say("wake", "done"))
    stops = [one for one in locks if one.verdict == "stop"]
    if stops:
        line = stops[0].reason if stops[0].stage == WAKE else lock_line(stops[0])
        return Gate(verdict="stop", line=line)
    if _puts_off(step):
        return Gate(verdict="clear", line=say("wake", "now"))
    if now.open_step:
        return Gate(verdict="waiting", line=say("wake", "before", step=now.open_step))
    if locks:
        line = locks[0].reason if locks[0].stage == WAKE else lock_line(locks[0])
        return Gate(verdict="waiting", line=line)
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
