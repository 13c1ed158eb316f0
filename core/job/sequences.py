"""Switching on and off: the sequences as data, which one a job takes, which locks were overridden.

A sequence is a list of steps for each phase; a step names what it moves, what must hold before
it, how long to wait, what is then to be seen, and what to do when it is not.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from functools import cache
from typing import Annotated, Literal, get_args

from core.base.errors import Problem, problem
from core.base.form import Checked, read
from core.base.glossary import Identity, LightState, Name, Note, Reason
from core.base.quantity import Items, Quantity, Text
from core.data import load, names

SEQUENCES, STEPS = "sequences", "sequence_steps"

Phase = Literal["on", "off", "replace"]
PHASES: tuple[Phase, ...] = get_args(Phase)
Topology = Literal["string", "optimiser", "micro", "backup", "safety", "any"]
Position = Literal["ON", "OFF"]
SwitchId = Literal[
    "plugs",
    "roof",
    "dc",
    "breaker",
    "ac",
    "safety",
    "loads",
    "gateway",
    "battery_plug",
    "battery_breaker",
    "battery",
    "branch",
    "leads",
    "drop",
]
SWITCHES: tuple[SwitchId, ...] = get_args(SwitchId)
Condition = Literal[
    "daylight",
    "start_voltage",
    "profile",
    "optimisers_report",
    "map_complete",
    "units_report",
    "serial_new",
    "branches_on",
    "controller_talks",
    "activation_in",
]
# Waits whose length stands elsewhere: in the profile, on a sheet, in the pack.
Wait = Literal["observe", "charge", "discharge", "report", "unit"]
Fitted = Literal[
    "roof_isolator", "ac_isolator", "safety_switch", "battery", "dc_switch", "optimisers"
]


@dataclass(frozen=True, kw_only=True)
class Move(Checked):
    """A switch and where it stands, or is put."""

    switch: SwitchId
    to: Position


@dataclass(frozen=True, kw_only=True)
class Step(Checked):
    """One step, whatever sequence it is in.

    fitted: only where the job has that. needs: conditions of the job. state: where other switches
    must stand; no override lifts that, for an arc is no matter of opinion. wait, wait_s: how long
    after the step before it. light: what the device then shows. within_s: by when it is seen.
    """

    id: Name
    title: Note
    expect: Note
    otherwise: Note
    caution: Note = ""
    fitted: Fitted | None = None
    move: Move | None = None
    needs: Annotated[tuple[Condition, ...], Items("conditions", 0, 10)] = ()
    state: Annotated[tuple[Move, ...], Items("switches", 0, 6)] = ()
    wait: Wait | None = None
    wait_s: Annotated[float, Quantity("wait", "s", 0, 86_400)] | None = None
    within_s: Annotated[float, Quantity("seen within", "s", 0, 86_400)] | None = None
    light: LightState | None = None


StepIds = Annotated[tuple[Name, ...], Items("steps", 0, 40)]


@dataclass(frozen=True, kw_only=True)
class Sequence(Checked):
    """One order of switching: on, off, and to replace the device; for one kind of plant."""

    id: Name
    name: Name
    about: Note
    topology: Topology
    on: StepIds
    off: StepIds
    replace: StepIds

    def contradictions(self) -> Iterator[Problem]:
        for phase in PHASES:
            ids = self.phase(phase)
            for index, step_id in enumerate(ids):
                if step_id not in known_steps():
                    yield problem(f"$.{phase}[{index}]", step_id, "a known step")
                elif step_id in ids[:index]:
                    yield problem(f"$.{phase}[{index}]", step_id, "each step once")

    def phase(self, phase: Phase) -> tuple[str, ...]:
        """The ids of a phase's steps, in order."""
        return {"on": self.on, "off": self.off, "replace": self.replace}[phase]


@cache
def known_steps() -> dict[str, Step]:
    """Every step by its id."""
    return {step.id: step for step in read(tuple[Step, ...], load(STEPS), "$steps")}


@cache
def known_sequences() -> dict[str, Sequence]:
    """Every sequence by its id."""
    found = (
        read(Sequence, load(f"{SEQUENCES}/{name}"), f"$sequence[{name}]")
        for name in names(SEQUENCES)
    )
    return {one.id: one for one in found}


def wake_key(sequence: str, phase: str, step: str) -> str:
    """What a step of a phase of a sequence is read by."""
    return f"{sequence} {phase} {step}"


@cache
def wake_subjects() -> frozenset[str]:
    """Everything that may be read of sequences."""
    return frozenset(
        wake_key(one.id, phase, step)
        for one in known_sequences().values()
        for phase in PHASES
        for step in one.phase(phase)
    )


@dataclass(frozen=True, kw_only=True)
class Waking(Checked):
    """Which sequence this job takes; None: the one that its plan and pack lead to."""

    sequence: Name | None = None

    def contradictions(self) -> Iterator[Problem]:
        if self.sequence is not None and self.sequence not in known_sequences():
            yield problem("$.sequence", self.sequence, " · ".join(known_sequences()))


NOTHING_CHOSEN = Waking()


@dataclass(frozen=True, kw_only=True)
class StepOverride(Checked):
    """A lock of a step that a licensed person lifted, for good: who, when, why, what was said.

    lifted: what the step was waiting for; lock: which judgement said so, the one that it lifts. It
    holds for the present round of the sequence. from_file: it came with a job from elsewhere: it
    is that job's history, and lifts nothing here.
    """

    id: Identity
    at: datetime
    by: Name
    licence: Name
    key: Name
    reason: Reason
    lifted: Note
    lock: Annotated[str, Text("lock", 0, 300)] = ""
    from_file: bool = False

    def contradictions(self) -> Iterator[Problem]:
        if self.key not in wake_subjects():
            yield problem("$.key", self.key, "a step of a known sequence")
