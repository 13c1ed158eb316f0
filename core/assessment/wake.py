"""The shape of stage 8: the sequence with its locks, and what the device's lights mean."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from core.assessment.common import Gate
from core.assessment.permissions import Lock, PermissionId
from core.base.glossary import LightState
from core.base.judgement import Judgement, Verdict
from core.job.sequences import Phase, Position, StepOverride, SwitchId

StepStanding = Literal["done", "failed", "now", "locked", "later"]


@dataclass(frozen=True, kw_only=True)
class LightMeaning:
    """One pattern of the device's own table, and what it means."""

    shows: str
    state: LightState
    means: str
    do: str


@dataclass(frozen=True, kw_only=True)
class WakeStep:
    """One step as it stands. key: what it is read by. gate: whether it may be done now, and what
    keeps it. due_at: before it, the wait is not over; late_at: after it, what is expected is
    late. permission: what it asks for; locks: every judgement that
    keeps it. hard: one of them no override lifts. only_waits: nothing but
    the wait keeps it: it may be said once that is over. lights: patterns that show what is
    expected."""

    id: str
    key: str
    number: int
    title: str
    caution: str
    expect: str
    otherwise: str
    lights: tuple[str, ...]
    switch: SwitchId | None
    to: Position | None
    standing: StepStanding
    at: datetime | None
    by: str
    gate: Gate
    permission: PermissionId | None
    locks: tuple[Lock, ...]
    hard: bool
    only_waits: bool
    due_at: datetime | None
    late_at: datetime | None
    wait_text: str
    overrides: tuple[StepOverride, ...]


@dataclass(frozen=True, kw_only=True)
class WakePhase:
    """One phase of a sequence: its steps, how many are done, whether it is under way."""

    sequence: str
    phase: Phase
    title: str
    steps: tuple[WakeStep, ...]
    done: int
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class SequenceOffer:
    """A sequence that fits this plant; chosen: the job's own, or what its plan leads to."""

    id: str
    name: str
    about: str
    chosen: bool


@dataclass(frozen=True, kw_only=True)
class SwitchStanding:
    """Where a switch stands by what was last said of it; None while nothing was."""

    switch: SwitchId
    title: str
    position: Position | None


@dataclass(frozen=True, kw_only=True)
class WakeStage:
    """Stage 8: switching on, off, replacing, and all off in an emergency.

    why: what led to the chosen sequence. lights: the device's whole table; light: what was last
    seen.
    """

    offers: tuple[SequenceOffer, ...]
    why: str
    phases: tuple[WakePhase, ...]
    emergency: WakePhase
    switches: tuple[SwitchStanding, ...]
    lights: tuple[LightMeaning, ...]
    light: LightMeaning | None
    light_at: datetime | None
    overrides: tuple[StepOverride, ...]
    judgements: tuple[Judgement, ...]
