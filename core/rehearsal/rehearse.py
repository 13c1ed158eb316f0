"""The job's sequence played through: which step is done, which came out of its turn."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from core.assess import assess
from core.base.messages import say
from core.job.job import Job
from core.job.sequences import Phase, Step, SwitchId, known_sequences, known_steps
from core.planning.wake.order import EMERGENCY, chosen, lights, steps, wait_s
from core.rehearsal.plant import PAIRED, Sun, Supply, plant_of
from core.rehearsal.play import LONGEST_S, Act, play
from core.rehearsal.state import Shown


@dataclass(frozen=True, kw_only=True)
class PlayedStep:
    """One step of the rehearsed phase. early: it was done before a step that comes first."""

    id: str
    title: str
    expect: str
    switch: SwitchId | None
    to: str
    done_s: float | None
    early: bool
    needs_seen: bool


@dataclass(frozen=True, kw_only=True)
class PlayedSwitch:
    """One switch of the rehearsed plant and where it stands."""

    switch: SwitchId
    title: str
    to: str


@dataclass(frozen=True, kw_only=True)
class Rehearsal:
    """A rehearsal as far as it was played: the steps, the switches, what the plant shows.

    shows: the lights in the words of the device's table. line: how it stands, in a sentence.
    """

    phase: Phase
    at_s: float
    longest_s: float
    steps: tuple[PlayedStep, ...]
    switches: tuple[PlayedSwitch, ...]
    shown: Shown
    shows: str
    light_means: str
    line: str
    finished: bool


def rehearse(
    job: Job,
    *,
    phase: Phase,
    acts: tuple[Act, ...],
    until_s: float,
    seed: int = 1,
    sun: Sun = "bright",
    supply: Supply = "usual",
    emergency: bool = False,
) -> Rehearsal:
    """Play a phase of the job's sequence against its plant. Switching off begins with all on."""
    sequence = known_sequences()[EMERGENCY] if emergency else chosen(job)
    plant = plant_of(job, assess(job).feed, seed=seed, sun=sun, supply=supply)
    planned = steps(job, sequence, phase)
    everything = steps(job, chosen(job), "on")
    before = () if phase == "on" else _switched_on(everything)
    lead_s = _lead_s(job, everything) if before else 0.0
    later = tuple(
        Act(at_s=act.at_s + lead_s, switch=act.switch, to=act.to, seen=act.seen)
        for act in acts
        if act.at_s + lead_s <= LONGEST_S
    )
    shown = play(plant, (*before, *later), until_s + lead_s)
    made = _played(job, planned, later, shown, lead_s)
    finished = bool(made) and all(one.done_s is not None for one in made)
    switches = dict.fromkeys(
        move.switch
        for step in (*everything, *planned)
        for move in ((step.move,) if step.move else ())
    )
    table = lights(job)
    return Rehearsal(
        phase=phase,
        at_s=min(until_s, LONGEST_S),
        longest_s=LONGEST_S,
        steps=made,
        switches=tuple(
            PlayedSwitch(
                switch=one,
                title=say("switch_names", one),
                to=shown.stands(one),
            )
            for one in switches
        ),
        shown=_since(shown, lead_s),
        shows=next((one.shows for one in table if one.state == shown.light), ""),
        light_means=say("light_states", shown.light),
        line=_line(shown, made, finished=finished),
        finished=finished,
    )


def _switched_on(planned: tuple[Step, ...]) -> tuple[Act, ...]:
    """Everything switched on in its order: where a rehearsal of switching off begins."""
    moves = [step for step in planned if step.move is not None and step.move.to == "ON"]
    acts = [
        Act(at_s=float(number), switch=step.move.switch, to="ON")
        for number, step in enumerate(moves)
        if step.move is not None
    ]
    paired_s = len(acts) + (known_steps()[PAIRED].wait_s or 0.0) + 60.0
    return (*acts, Act(at_s=paired_s, seen=PAIRED))


def _lead_s(job: Job, planned: tuple[Step, ...]) -> float:
    """How long it takes until the plant of a rehearsal of switching off feeds."""
    return 600.0 + math.fsum(wait_s(job, step) for step in planned)


def _played(
    job: Job, planned: tuple[Step, ...], acts: tuple[Act, ...], shown: Shown, lead_s: float
) -> tuple[PlayedStep, ...]:
    made: list[PlayedStep] = []
    earlier_s: float | None = lead_s
    for step in planned:
        at_s = _done_at(job, step, acts, shown, earlier_s, lead_s)
        waited = (
            earlier_s is not None and at_s is not None and at_s >= earlier_s + wait_s(job, step)
        )
        early = at_s is not None and not waited
        made.append(
            PlayedStep(
                id=step.id,
                title=step.title,
                expect=step.expect,
                switch=step.move.switch if step.move else None,
                to=step.move.to if step.move else "",
                done_s=at_s - lead_s if at_s is not None and waited else None,
                early=early,
                needs_seen=step.move is None and (step.light is None or step.id == PAIRED),
            )
        )
        earlier_s = at_s if waited else None
    return tuple(made)


def _done_at(
    job: Job,
    step: Step,
    acts: tuple[Act, ...],
    shown: Shown,
    earlier_s: float | None,
    lead_s: float,
) -> float | None:
    """When a step was done: its switch moved, its light seen, or said to be seen; before its turn
    where it was never done in it."""
    due_s = None if earlier_s is None else earlier_s + wait_s(job, step)
    if step.light is not None and step.move is None and step.id != PAIRED:
        return _light_at(step, shown, earlier_s or lead_s, due_s)
    done = [
        act.at_s
        for act in acts
        if act.seen == step.id
        or (step.move and act.switch == step.move.switch and act.to == step.move.to)
    ]
    in_turn = [at for at in done if due_s is not None and at >= due_s]
    return next(iter((*in_turn, *done)), None)


def _light_at(step: Step, shown: Shown, since_s: float, due_s: float | None) -> float | None:
    """When the light of a step had been seen and its wait was over."""
    ends = (*(one.at_s for one in shown.lights_seen[1:]), math.inf)
    for seen, end in zip(shown.lights_seen, ends, strict=True):
        over_s = max(seen.at_s, since_s, due_s or 0.0)
        if (
            due_s is not None
            and seen.light == step.light
            and end >= over_s
            and over_s <= shown.at_s
        ):
            return over_s
    return None


def _since(shown: Shown, lead_s: float) -> Shown:
    """What the plant shows, told from when the rehearsal itself began."""
    own = tuple(
        replace(event, at_s=event.at_s - lead_s) for event in shown.events if event.at_s >= lead_s
    )
    return replace(shown, at_s=shown.at_s - lead_s, events=own)


def _line(shown: Shown, made: tuple[PlayedStep, ...], *, finished: bool) -> str:
    if shown.harmed:
        return say("rehearsal", "harmed")
    if finished:
        return say("rehearsal", "finished")
    early = next((one for one in made if one.early), None)
    left = next((one for one in made if one.done_s is None), None)
    if early is not None and left is not None:
        return say("rehearsal", "early", step=early.title, first=left.title)
    return say("rehearsal", "next", step=left.title) if left else ""
