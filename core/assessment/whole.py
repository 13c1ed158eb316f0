"""The shape of what `assess` returns: everything that screen, record and command line show."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from core.assessment.common import Gate, RecordedReading
from core.assessment.feed import FeedStage
from core.assessment.grid import GridStage
from core.assessment.leave import LeaveStage
from core.assessment.making import MadePiece, MakingStep, ModuleSerials
from core.assessment.microinverter import RoofStage
from core.assessment.permissions import Lock, PermissionState
from core.assessment.prove import ProveStage
from core.assessment.site import ArriveStage, EarthStage, HangStage
from core.assessment.talk import TalkStage
from core.assessment.wake import WakeStage
from core.base.form import schema
from core.base.judgement import Judgement, Verdict
from core.job.reading_kinds import ReadingKind
from core.job.readings import Evidence
from core.rules.dc.diagnosis import Cause
from core.rules.dc.earth_fault import EarthFault
from core.rules.dc.expected_reading import ExpectedVoc
from core.rules.dc.string_voltage import SeriesCount, StringVolts


@dataclass(frozen=True, kw_only=True)
class MetCorrection:
    """One of two people's corrections of one reading. entered, supersedes: what is kept to choose
    it: the same value again, in the place of both."""

    reading: RecordedReading
    entered: str
    supersedes: str


@dataclass(frozen=True, kw_only=True)
class Prompt:
    """One thing to read: what is expected first, then what was read and what it means.

    key: kind and subject in one word. expected_because: what the expected band is made of.
    answers: the good one and the bad one of a question with two, else empty. is_text: it is
    read as a text. may_be_beyond: the tester may show more than its range, as ``>200``. also_at:
    other stages that show it. history: every reading of it, superseded ones too.
    causes: ranked diagnosis when the reading is not as expected. choices: two corrections that do
    not know of each other; neither counts until one is chosen.
    """

    key: str
    stage: int
    kind: ReadingKind
    subject: str
    title: str
    unit: str
    caution: str
    optional: bool
    is_text: bool
    may_be_beyond: bool
    also_at: tuple[int, ...]
    expected_low: float | None
    expected_high: float | None
    expected_text: str
    expected_because: str
    verdict: Verdict
    judgements: tuple[Judgement, ...]
    reading: RecordedReading | None
    history: tuple[RecordedReading, ...]
    causes: tuple[Cause, ...] = ()
    look_next: str = ""
    not_told_apart: tuple[str, ...] = ()
    answers: tuple[str, ...] = ()
    choices: tuple[MetCorrection, ...] = ()


@dataclass(frozen=True, kw_only=True)
class CountStep:
    """The verdict that a string would get with this many modules in series."""

    count: int
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class StringAssessment:
    """One string: its volts, its verdicts, what each other count would give, what to expect now.

    volts, count: None where optimisers hold the string's voltage. off_pct: how far it reads from
    the mean of what all strings should. earth: where it touches earth, when that was
    measured; earth_line: the same in a sentence. ends: of its leads, as they are made.
    """

    name: str
    tracker: int
    plane: str
    modules_in_series: int
    power_w: float
    verdict: Verdict
    line: str
    volts: StringVolts | None
    count: SeriesCount | None
    steps: tuple[CountStep, ...]
    judgements: tuple[Judgement, ...]
    expected: ExpectedVoc | None
    read_v: float | None
    read_verdict: Verdict
    off_pct: float | None
    earth: EarthFault | None
    earth_line: str
    ends: tuple[MadePiece, ...]
    gate: Gate


@dataclass(frozen=True, kw_only=True)
class TrackerAssessment:
    """One tracker in use: its strings, their power and currents."""

    number: int
    strings: tuple[str, ...]
    power_w: float
    verdict: Verdict
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class WindowLimits:
    """The voltages that the window picture draws."""

    start_v: float
    track_min_v: float
    full_power_min_v: float
    full_power_max_v: float
    track_max_v: float
    never_above_v: float


@dataclass(frozen=True, kw_only=True)
class OptimiserWindow:
    """The windows of a string whose voltage optimisers hold.

    most_here: the most of this job's modules in a string; power_binds: by power, not by count.
    """

    most_here: int
    power_binds: bool
    fixed_string_v: float
    least_in_string: int
    most_in_string: int
    most_string_w: float
    safety_v: float


@dataclass(frozen=True, kw_only=True)
class StringStage:
    """Stage 4: strings, trackers, the window they must stay in.

    whole: judgements of the inverter's module power, and of all strings beside each other.
    end_steps: what is done at every end of a lead; plug: with which parts, a line each.
    """

    t_air_min_c: float
    t_air_max_c: float
    t_cell_hot_c: float | None
    array_w: float
    window: WindowLimits
    optimiser: OptimiserWindow | None
    whole: tuple[Judgement, ...]
    strings: tuple[StringAssessment, ...]
    trackers: tuple[TrackerAssessment, ...]
    end_steps: tuple[MakingStep, ...]
    plug: tuple[str, ...]
    serials: ModuleSerials


@dataclass(frozen=True, kw_only=True)
class StageStanding:
    """Where one stage stands: its verdict, what blocks it, what is next in it."""

    number: int
    title: str
    verdict: Verdict
    blocks: tuple[str, ...]
    next: str


@dataclass(frozen=True, kw_only=True)
class Lead:
    """Where something is entered: the stage, its face, and what is read there.

    face, key: empty where the stage has one face, or where nothing is read.
    field: the short name of what is missing, by which a screen finds the field that takes it.
    """

    stage: int
    face: str
    key: str
    field: str = ""


@dataclass(frozen=True, kw_only=True)
class OpenPoint:
    """A judgement that is not clear, and what it is about.

    key: what is read there, empty of a plan's own. part: the one string, plane, tracker, branch
    or unit that it concerns alone, as ``string/A``; empty where it concerns the whole plant.
    lead: where what it waits for is entered.
    """

    stage: int
    where: str
    judgement: Judgement
    key: str = ""
    part: str = ""
    lead: Lead | None = None


@dataclass(frozen=True, kw_only=True)
class NextStep:
    """What comes next on a job: where, what is done, and why now."""

    lead: Lead
    does: str
    why: str


@dataclass(frozen=True, kw_only=True)
class PastReading:
    """A reading of something that the plan no longer asks for."""

    title: str
    reading: RecordedReading


@dataclass(frozen=True, kw_only=True)
class Replaced:
    """A figure of the rule pack replaced for this job, and why."""

    path: str
    title: str
    was: str
    now: str
    reason: str


@dataclass(frozen=True, kw_only=True)
class PackLabel:
    """The rule pack that the job is judged by, and what of it was replaced for this job."""

    id: str
    name: str
    edition: str
    note: str
    replaced: tuple[Replaced, ...]


@dataclass(frozen=True, kw_only=True)
class Assessment:
    """The whole judgement of a job at a moment. stands_at: number of the first stage not yet done.

    at: the moment asked about; None of a job on which nothing was read yet. next: what comes next;
    None where nothing is left.
    """

    job_id: str
    name: str
    day: date
    at: datetime | None
    rule_pack: PackLabel
    verdict: Verdict
    stands_at: int
    stages: tuple[StageStanding, ...]
    asks: tuple[Prompt, ...]
    arrive: ArriveStage
    hang: HangStage
    earth: EarthStage
    string: StringStage | None
    roof: RoofStage | None
    feed: FeedStage
    talk: TalkStage
    prove: ProveStage
    wake: WakeStage
    grid: GridStage
    leave: LeaveStage
    permissions: tuple[PermissionState, ...]
    locks: tuple[Lock, ...]
    evidence: tuple[Evidence, ...]
    open_points: tuple[OpenPoint, ...]
    next: NextStep | None
    past_readings: tuple[PastReading, ...]


def assessment_schema() -> dict[str, Any]:
    """JSON Schema of the assessment."""
    return schema(Assessment, "Long Noon assessment, version 1")
