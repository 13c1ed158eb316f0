"""Stage 8, Wake: switching on in the right order, off, and replacing, each step with its locks."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from core.equipment.lights import LightPattern
from core.judgement import Judgement, Verdict, holds, waiting
from core.kept import INVERTER, Reading
from core.planning.wake_order import EMERGENCY, by_sheet, chosen, fitting, lights, steps, wait_s
from core.shown import Gate
from core.stages.wake_facts import SEEN, Around, unmet
from core.wake_assessment import (
    LightMeaning,
    SequenceOffer,
    StepStanding,
    SwitchStanding,
    WakePhase,
    WakeStage,
    WakeStep,
)
from core.waking import (
    SWITCHES,
    Phase,
    Position,
    Sequence,
    Step,
    StepOverride,
    SwitchId,
    known_sequences,
    known_steps,
    wake_key,
)
from core.words import figure, say

STAGE = 8
BEFORE_ALL = datetime.min.replace(tzinfo=UTC)
WAKE_SOURCE = "sequence of this plant; the device's sheet wins"
ALARMING = ("fault", "earth_fault")
S_PER_MIN = 60.0
ON: Phase = "on"


def wake_stage(around: Around) -> WakeStage:
    """The chosen sequence with its locks; what the lights mean; where each switch stands."""
    job, readings = around.job, around.readings
    sequence = chosen(job)
    positions = _positions(around)
    phases: tuple[Phase, ...] = ("on", "off", "replace")
    made = tuple(_phase(around, sequence, phase, positions) for phase in phases)
    seen = readings.latest("light", INVERTER)
    table = tuple(_meaning(one) for one in lights(job))
    light = next((one for one in table if seen and one.shows == seen.text), None)
    moved = dict.fromkeys(
        move.switch
        for phase in phases
        for step in steps(job, sequence, phase)
        for move in ((step.move,) if step.move else ()) + step.state
    )
    return WakeStage(
        offers=tuple(
            SequenceOffer(
                id=one,
                name=known_sequences()[one].name,
                about=known_sequences()[one].about,
                chosen=one == sequence.id,
            )
            for one in fitting(job)
        ),
        why=_why(around, sequence),
        phases=made,
        emergency=_phase(around, known_sequences()[EMERGENCY], "off", positions),
        switches=tuple(
            SwitchStanding(
                switch=one, title=say("switch_names", one), position=_position(positions, one)
            )
            for one in SWITCHES
            if one in moved
        ),
        lights=table,
        light=light,
        light_at=seen.taken_at if seen else None,
        overrides=job.step_overrides,
        judgements=_judgements(around, made[0], light),
    )


def _why(around: Around, sequence: Sequence) -> str:
    job = around.job
    if job.waking.sequence == sequence.id:
        return say("wake", "own")
    if sequence.topology == "string" and by_sheet(job) == sequence.id:
        return say("wake", "by_sheet")
    source = job.rules.wake.source if sequence.topology == "string" else ""
    return say("wake", f"by_{sequence.topology}", source=source)


def _meaning(one: LightPattern) -> LightMeaning:
    return LightMeaning(
        shows=one.shows, state=one.state, means=say("light_states", one.state), do=one.do
    )


# -- where each switch stands


@dataclass(frozen=True, kw_only=True)
class Said:
    """Where a switch was last said to stand, and when."""

    to: Position
    at: datetime


def _positions(around: Around) -> dict[SwitchId, Said]:
    """Every switch by the last step, statement or reading that moved it."""
    found: dict[SwitchId, Said] = {}
    for reading in sorted(around.job.readings, key=lambda one: one.taken_at):
        for switch, to in _moved(reading):
            found[switch] = Said(to=to, at=reading.taken_at)
    return found


def _moved(reading: Reading) -> tuple[tuple[SwitchId, Position], ...]:
    good = reading.value == SEEN
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


def _position(positions: dict[SwitchId, Said], switch: SwitchId) -> Position | None:
    said = positions.get(switch)
    return said.to if said else None


# -- a phase and its steps


def _phase(
    around: Around, sequence: Sequence, phase: Phase, positions: dict[SwitchId, Said]
) -> WakePhase:
    planned = steps(around.job, sequence, phase)
    begun = _begun(around, sequence, phase, planned)
    made: list[WakeStep] = []
    earlier: datetime | None = begun
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
    around: Around, sequence: Sequence, phase: Phase, planned: tuple[Step, ...]
) -> datetime | None:
    """When this round began: switching on with its first step; the others with the first of
    their steps that came after everything was last switched on."""
    if not planned:
        return None
    if phase == ON:
        first = around.readings.latest("wake_step", wake_key(sequence.id, phase, planned[0].id))
        return first.taken_at if first and first.value == SEEN else None
    switched_on = [
        one.taken_at
        for one in around.job.readings
        if one.kind == "wake_step" and f" {ON} " in one.subject and one.value == SEEN
    ]
    return max(switched_on, default=BEFORE_ALL)


@dataclass(frozen=True, kw_only=True)
class _Round:
    """The round that a step is in. earlier: when the step before it was done. open_step: the
    first one before it that is not done."""

    phase: Phase
    begun: datetime | None
    earlier: datetime | None
    open_step: str


def _step(
    around: Around,
    key: str,
    step: Step,
    number: int,
    positions: dict[SwitchId, Said],
    now: _Round,
) -> WakeStep:
    job = around.job
    read = around.readings.latest("wake_step", key)
    if read is not None and (now.begun is None or read.taken_at < now.begun):
        read = None
    override = _override(around, key, now)
    due_s = wait_s(job, step)
    waits = due_s > 0 and now.earlier not in (None, BEFORE_ALL) and not now.open_step
    due_at = now.earlier + timedelta(seconds=due_s) if waits and now.earlier else None
    switches_off = step.move is not None and step.move.to == "OFF"
    late_at = None
    if step.within_s and now.earlier not in (None, BEFORE_ALL) and not now.open_step:
        late_at = (due_at or now.earlier or BEFORE_ALL) + timedelta(seconds=step.within_s)
    in_turn = switches_off or not now.open_step
    is_over = due_at is None or (read is not None and read.taken_at >= due_at) or override
    seen = read is not None and read.value == SEEN and in_turn and bool(is_over)
    failed = read is not None and read.value != SEEN and in_turn
    state = _wrong_state(positions, step)
    needs = "" if override else _needs(around, step)
    gate = _gate(step, now, seen, state, needs, due_at if not override else None)
    return WakeStep(
        id=step.id,
        key=f"wake_step/{key}",
        number=number,
        title=step.title,
        caution=step.caution,
        expect=step.expect,
        otherwise=step.otherwise,
        lights=tuple(one.shows for one in lights(job) if one.state == step.light),
        switch=step.move.switch if step.move else None,
        to=step.move.to if step.move else None,
        standing=_word(seen=seen, failed=failed, gate=gate, in_turn=in_turn),
        at=read.taken_at if seen and read else None,
        by=read.by if seen and read else "",
        gate=gate,
        hard=bool(state),
        due_at=due_at,
        late_at=late_at,
        wait_text=_wait_text(due_s) if due_s else "",
        override=override,
    )


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


def _override(around: Around, key: str, now: _Round) -> StepOverride | None:
    """The override of this round's lock; the first step's of a round that has not begun."""
    found = [one for one in around.job.step_overrides if one.key == key]
    if not found:
        return None
    latest = found[-1]
    if now.begun in (None, BEFORE_ALL) or now.earlier is None or latest.at >= now.earlier:
        return latest
    first = now.begun is not None and now.earlier == now.begun
    read = around.readings.latest("wake_step", key)
    done_after = read is not None and latest.at <= read.taken_at and read.taken_at >= now.earlier
    return latest if first or done_after else None


def _wrong_state(positions: dict[SwitchId, Said], step: Step) -> str:
    """The first switch that does not stand where the step needs it; nobody said: it does not."""
    for move in step.state:
        stands = _position(positions, move.switch)
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


def _needs(around: Around, step: Step) -> str:
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


def _judgements(
    around: Around, switched_on: WakePhase, light: LightMeaning | None
) -> tuple[Judgement, ...]:
    found = []
    if switched_on.verdict == "waiting":
        left = next((one for one in switched_on.steps if one.standing != "done"), None)
        locked = left is not None and left.gate.verdict != "clear"
        line = left.gate.line if left and locked else (left.title if left else switched_on.line)
        needs = (say("needs", "step", line=line.removesuffix(".")),)
        found.append(waiting("awake", "", WAKE_SOURCE, needs))
    else:
        found.append(
            holds("awake", switched_on.verdict == "clear", WAKE_SOURCE, line=switched_on.line)
        )
    if around.job.step_overrides:
        latest = around.job.step_overrides[-1]
        found.append(
            holds(
                "lock_overridden",
                False,
                WAKE_SOURCE,
                bad="watch",
                count=str(len(around.job.step_overrides)),
                by=latest.by,
                licence=latest.licence,
                reason=latest.reason.removesuffix("."),
            )
        )
    if light is not None and light.state in ALARMING:
        found.append(
            holds(
                "light_alarm",
                False,
                "device's own table",
                shows=light.shows,
                means=light.means,
                do=light.do,
            )
        )
    return tuple(found)


def gate_of(stage: WakeStage, key: str) -> WakeStep | None:
    """The step that is read by a key; None where the present sequence has none such."""
    every = (*stage.phases, stage.emergency)
    return next((one for phase in every for one in phase.steps if one.key == key), None)
