"""The shape of what is said of Arrive, Hang and Earth."""

from __future__ import annotations

from dataclasses import dataclass

from core.assessment.common import Gate, RecordedReading
from core.base.judgement import Judgement, Verdict
from core.rules.earth.earth_bonding import ContinuityBand
from core.rules.wall.hole_marks import HoleMark
from core.rules.wall.wall_fixings import Behind, FixingLoad, Lift


@dataclass(frozen=True, kw_only=True)
class LoadInLine:
    """One line of the load-in sheet: what the job needs, counted from the plan, and what is here.

    needed: None while the plan does not say enough, which `because` then names. keep: where a
    small part is kept so that it is not thrown away. kind: of the shelf, where another sheet may
    come instead.
    """

    id: str
    group: str
    what: str
    unit: str
    needed: float | None
    because: str
    keep: str
    must: bool
    kind: str
    found: float | None
    damaged: float | None
    judgement: Judgement
    history: tuple[RecordedReading, ...]


@dataclass(frozen=True, kw_only=True)
class ArriveStage:
    """Stage 1: the load-in sheet, permit, people, nameplate. start: whether work may begin."""

    line: str
    lines: tuple[LoadInLine, ...]
    judgements: tuple[Judgement, ...]
    start: Gate


@dataclass(frozen=True, kw_only=True)
class Missing:
    """The part of a clearance that is not there, mm on the wall."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    text: str


@dataclass(frozen=True, kw_only=True)
class SideSpace:
    """The space on one side of a device: needed, free, and what stands there."""

    side: str
    needed_mm: float
    free_mm: float
    beside: str
    verdict: Verdict
    missing: Missing | None


@dataclass(frozen=True, kw_only=True)
class MarkedHole:
    """One hole, and what lies behind it."""

    mark: HoleMark
    behind: Behind
    bears: bool


@dataclass(frozen=True, kw_only=True)
class HungDevice:
    """One device on the wall: its space, its holes, its load, and whether it may be drilled for.

    load: on the fixings that bear. drill: the gate before the drill. lock: the gate after it,
    before the locking screw of what hangs on hooks, before an enclosure goes up.
    """

    name: str
    kind: str
    label: str
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    display_mm: float | None
    sides: tuple[SideSpace, ...]
    holes: tuple[MarkedHole, ...]
    diagonal_mm: float | None
    fixing: str
    drill_mm: float | None
    hole_mm: float | None
    load: FixingLoad | None
    lift: Lift
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str
    drill: Gate
    lock: Gate


@dataclass(frozen=True, kw_only=True)
class TapeRow:
    """The rails under one unbroken run of modules: marks in mm from their left end.

    modules_mm: left edges of its modules, each module_mm wide.
    hooks_mm: empty while the rafters are not known, or none reach. judgement: of the hooks; None
    while nobody said where the rafters are.
    """

    plane: str
    title: str
    rail_mm: float
    module_mm: float
    modules_mm: tuple[float, ...]
    clamps_mm: tuple[float, ...]
    hooks_mm: tuple[float, ...]
    judgement: Judgement | None


@dataclass(frozen=True, kw_only=True)
class RoofRect:
    """A rectangle on a roof plane, from its lower left corner: along the eave, up the slope."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


@dataclass(frozen=True, kw_only=True)
class PlaneEdges:
    """One plane inside its own edges: where its modules lie, and what is said of that."""

    plane: str
    modules: tuple[RoofRect, ...]
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class HangStage:
    """Stage 2: the wall to scale and everything that hangs on it.

    tape: the rails of the roof; edges: its planes inside their own edges, where those are measured.
    """

    line: str
    studs_mm: tuple[float, ...]
    top_mm: float
    devices: tuple[HungDevice, ...]
    judgements: tuple[Judgement, ...]
    tape: tuple[TapeRow, ...] = ()
    edges: tuple[PlaneEdges, ...] = ()


@dataclass(frozen=True, kw_only=True)
class EarthPart:
    """What a way of bonding the roof needs, counted from the plan."""

    what: str
    count: float | None
    unit: str


@dataclass(frozen=True, kw_only=True)
class RoofMethod:
    """One way to bond the frames, and what it needs."""

    school: str
    title: str
    chosen: bool
    default: bool
    parts: tuple[EarthPart, ...]
    caution: str


@dataclass(frozen=True, kw_only=True)
class EarthNodeState:
    """One thing that is bonded, and whether it reaches the electrode."""

    name: str
    kind: str
    reaches: bool


@dataclass(frozen=True, kw_only=True)
class EarthLinkState:
    """One step of the path: the size it must have, the lug, what its continuity should read.

    line: what decides its verdict, plan and reading together.
    """

    name: str
    start: str
    end: str
    how: str
    least_mm2: float | None
    band: ContinuityBand | None
    lug: str
    read_ohm: float | None
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class EarthStage:
    """Stage 3: the earth path from frame to electrode."""

    line: str
    nodes: tuple[EarthNodeState, ...]
    links: tuple[EarthLinkState, ...]
    schools: tuple[RoofMethod, ...]
    judgements: tuple[Judgement, ...]
