"""Stage 8, Wake: switching on in the right order, off, and replacing, each step with its locks."""

from __future__ import annotations

from core.assessment.wake import (
    LightMeaning,
    SequenceOffer,
    SwitchStanding,
    WakePhase,
    WakeStage,
    WakeStep,
)
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import say
from core.equipment.lights import LightPattern
from core.job.job import Job
from core.job.readings import INVERTER
from core.job.sequences import SWITCHES, Phase, Sequence, known_sequences
from core.planning.wake.order import EMERGENCY, by_sheet, chosen, fitting, lights, steps
from core.stages.reading_index import Readings
from core.stages.wake.conditions import SwitchingContext
from core.stages.wake.steps import phase_of

WAKE_SOURCE = "sequence of this plant; the device's sheet wins"
ALARMING = ("fault", "earth_fault")


def wake_stage(around: SwitchingContext) -> WakeStage:
    """The chosen sequence with its locks; what the lights mean; where each switch stands."""
    job, readings = around.job, around.readings
    sequence = chosen(job)
    phases: tuple[Phase, ...] = ("on", "off", "replace")
    made = tuple(phase_of(around, sequence, phase) for phase in phases)
    seen = readings.latest("light", INVERTER)
    table = tuple(_meaning(one) for one in lights(job))
    light = _light(job, readings)
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
        emergency=phase_of(around, known_sequences()[EMERGENCY], "off"),
        switches=tuple(
            SwitchStanding(
                switch=one, title=say("switch_names", one), position=around.grants.said.of(one)
            )
            for one in SWITCHES
            if one in moved
        ),
        lights=table,
        light=light,
        light_at=seen.taken_at if seen else None,
        overrides=job.step_overrides,
        judgements=_judgements(around, made[0]),
    )


def _why(around: SwitchingContext, sequence: Sequence) -> str:
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


def _judgements(around: SwitchingContext, switched_on: WakePhase) -> tuple[Judgement, ...]:
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
    return (*found, *light_alarm(around.job, around.readings))


def light_alarm(job: Job, readings: Readings) -> tuple[Judgement, ...]:
    """What the device's last light says is wrong; nothing while it says nothing of the kind."""
    light = _light(job, readings)
    if light is None or light.state not in ALARMING:
        return ()
    judged = holds(
        "light_alarm",
        False,
        "device's own table",
        shows=light.shows,
        means=light.means,
        do=light.do,
    )
    return (judged,)


def _light(job: Job, readings: Readings) -> LightMeaning | None:
    """The light that was last seen, as the device's table has it."""
    seen = readings.latest("light", INVERTER)
    found = (one for one in lights(job) if seen and one.shows == seen.text)
    return next(map(_meaning, found), None)


def step_of(stage: WakeStage, key: str) -> WakeStep | None:
    """The step that is read by a key; None where the present sequence has none such."""
    every = (*stage.phases, stage.emergency)
    return next((one for phase in every for one in phase.steps if one.key == key), None)
