"""What is said of a roof of microinverters: its planes, units, branches, trunks, map, gateway."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from core.assessment.common import Gate, RecordedReading
from core.assessment.making import MadePiece, MakingStep, ModuleSerials
from core.base.glossary import BranchFeed
from core.base.judgement import Judgement, Verdict
from core.job.microinverter import GatewayOutcome, LinkHow
from core.rules.microinverter.branch import BranchMost, BranchRise
from core.rules.microinverter.trunk import TrunkParts


@dataclass(frozen=True, kw_only=True)
class RoofModule:
    """One module as it lies, and the unit and input that it goes to; 0: to none."""

    row: int
    column: int
    x_mm: float
    y_mm: float
    unit: str
    input: int


@dataclass(frozen=True, kw_only=True)
class RoofGapBox:
    """One gap inside a row as it is drawn, with what stands there and how wide it is."""

    x_mm: float
    y_mm: float
    width_mm: float
    text: str


@dataclass(frozen=True, kw_only=True)
class Rail:
    """One rail, from end to end."""

    x_mm: float
    y_mm: float
    length_mm: float


@dataclass(frozen=True, kw_only=True)
class RoofPlane:
    """One plane to scale. drawn: False while it has no modules, or their sides are not known."""

    name: str
    drawn: bool
    facing: str
    width_mm: float
    height_mm: float
    module_w_mm: float
    module_h_mm: float
    modules: tuple[RoofModule, ...]
    rails: tuple[Rail, ...]
    gaps: tuple[RoofGapBox, ...]


@dataclass(frozen=True, kw_only=True)
class SwapStep:
    """One step of replacing a unit. due_at: not before, where it is a wait."""

    step: str
    title: str
    done: bool
    at: datetime | None
    due_at: datetime | None
    gate: Gate


@dataclass(frozen=True, kw_only=True)
class DcLead:
    """One module's way to its unit. extension: a made lead goes between."""

    module: str
    input: int
    distance_m: float
    extension: bool


@dataclass(frozen=True, kw_only=True)
class LinkPlan:
    """The trunk from one unit to the next. distance_m: None while it is not known.

    reach_m: what the trunk as it is linked bridges. cable_m: what of it lies in the current's
    way. jumps: it leaves the row or the plane. links_mm: of a trunk put together link by link, what
    lies here; empty where nothing made bridges it.
    """

    start: str
    end: str
    distance_m: float | None
    measured: bool
    jumps: bool
    how: LinkHow
    segments: int
    extensions: int
    reach_m: float | None
    cable_m: float | None
    links_mm: tuple[int, ...] = ()


@dataclass(frozen=True, kw_only=True)
class CutPiece:
    """One length of trunk cable to cut, by its drops. first, last: the units at its ends."""

    branch: str
    number: int
    drops: int
    length_m: float
    first: str
    last: str


@dataclass(frozen=True, kw_only=True)
class TrunkPlan:
    """One branch's trunk: its links, its parts, its cut pieces. parts: None while a link is open.

    moment_m: metres of trunk, each counted for every unit whose current it carries; the trunk's
    rise is this times current and resistance. length_m: from the fed end's box, or between the
    ends of a trunk fed in its middle; units_m: how far along it each unit stands.
    """

    branch: str
    links: tuple[LinkPlan, ...]
    parts: TrunkParts | None
    cuts: tuple[CutPiece, ...]
    joints: int
    moment_m: float | None
    length_m: float | None
    units_m: tuple[float, ...]


@dataclass(frozen=True, kw_only=True)
class UnitState:
    """One unit: where it hangs, its modules, its serial on the map, whether it may be covered.

    x_mm, y_mm: of its middle; None while its plane is not drawn to scale. number: its place on
    the walk over its branch, from 1. capped: an input without a module. swap: the steps of its
    replacement once that has begun; until then its branch has them. made: the steps at the unit.
    """

    name: str
    plane: str
    row: int
    x_mm: float | None
    y_mm: float | None
    auto_x_mm: float | None
    modules: tuple[str, ...]
    leads: tuple[DcLead, ...]
    capped: bool
    branch: str
    number: int
    serial: str
    serial_verdict: Verdict
    serial_line: str
    serials: tuple[RecordedReading, ...]
    covered: bool
    cover: Gate
    reporting: bool | None
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str
    made: MadePiece
    swap: tuple[SwapStep, ...]


@dataclass(frozen=True, kw_only=True)
class FeedChoice:
    """One way to feed a branch's trunk: what it lifts and what it needs."""

    feed: BranchFeed
    chosen: bool
    trunk_rise_v: float
    rise_v: float
    rise_pct: float
    end_caps: int
    tees: int
    verdict: Verdict


@dataclass(frozen=True, kw_only=True)
class ReportIn:
    """How many of a branch's units report. since: when it was switched ON.

    minutes: from then to the last look at the gateway; expected_min: by the unit's sheet.
    """

    reporting: int
    of: int
    since: datetime | None
    minutes: float | None
    expected_min: float
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class BranchState:
    """One branch: its units in walking order, what flows, what it lifts, what it may hold.

    rise: both ways to feed it at even spacing; feeds: the same for the trunk as it lies, None
    while a link or the home run is not known. room_v: to the trip at the last unit, through the
    ladder of Feed. swap: the steps by which any unit of it is replaced, none of them done.
    """

    name: str
    units: tuple[str, ...]
    phase: int
    phase_name: str
    feed: BranchFeed
    joint: str
    breaker_a: float | None
    current_a: float
    most: BranchMost
    most_line: str
    rise: BranchRise | None
    feeds: tuple[FeedChoice, ...]
    last_v: float | None
    room_v: float | None
    trip_v: float | None
    trunk: TrunkPlan
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str
    is_on: bool
    on: Gate
    report: ReportIn
    swap: tuple[SwapStep, ...]


@dataclass(frozen=True, kw_only=True)
class RoofPart:
    """One line of the cut and parts list."""

    what: str
    count: float | None
    unit: str
    because: str


@dataclass(frozen=True, kw_only=True)
class UnitMethod:
    """One way to earth the units, and what it needs."""

    school: str
    title: str
    chosen: bool
    allowed: bool
    parts: tuple[RoofPart, ...]
    caution: str


@dataclass(frozen=True, kw_only=True)
class MapState:
    """The serial map: how far it is, what is missing, doubled or malformed; by unit names."""

    taken: int
    of: int
    missing: tuple[str, ...]
    doubled: tuple[str, ...]
    malformed: tuple[str, ...]
    next: str
    form: str
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class GatewayLine:
    """One serial of the comparison. standing: reporting, late, missing, foreign, or unplaced."""

    serial: str
    unit: str
    branch: str
    standing: str
    said: str
    power_w: float | None
    verdict: Verdict


@dataclass(frozen=True, kw_only=True)
class GatewayState:
    """The map beside what the gateway listed when it was last looked at.

    reporting, late: how many of the map's units do, and are listed but do not yet.
    """

    at: datetime | None
    by: str
    outcome: GatewayOutcome | None
    looks: int
    reporting: int
    late: int
    lines: tuple[GatewayLine, ...]
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class RoofStage:
    """Stage 4 of a roof of microinverters: units per branch, the trunk, the map, switching on.

    parts: the trunk's parts and the DC leads by count; earth: the ways to earth the units.
    phase_units: on each phase, where the roof feeds three. unit_steps: what is done at every unit.
    """

    line: str
    unit: str
    trunk: str
    planes: tuple[RoofPlane, ...]
    units: tuple[UnitState, ...]
    free_modules: tuple[str, ...]
    branches: tuple[BranchState, ...]
    phase_units: tuple[int, ...]
    parts: tuple[RoofPart, ...]
    earth: tuple[UnitMethod, ...]
    unit_steps: tuple[MakingStep, ...]
    serials: ModuleSerials
    map: MapState
    gateway: GatewayState
    judgements: tuple[Judgement, ...]
