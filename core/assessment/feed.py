"""The shape of what is said of Feed: the path, its runs, the ladder of volts, ends, switches."""

from __future__ import annotations

from dataclasses import dataclass

from core.assessment.common import Gate
from core.base.judgement import Judgement, Verdict
from core.rules.ac.conductors import Ampacity
from core.rules.ac.voltage_rise import AcRise
from core.rules.dc.dc_drop import DcDrop
from core.rules.grid.export_response import Settled


@dataclass(frozen=True, kw_only=True)
class Rung:
    """One place on the ladder of volts: a device, and what the run before it adds."""

    name: str
    volts: float
    run: str
    rise_v: float
    note: str


@dataclass(frozen=True, kw_only=True)
class Ladder:
    """The ladder of volts for one supply, at full export.

    rise_pct: of nominal, over the runs that the limit counts. settled: where the inverter comes
    to rest when its profile answers the voltage; None where nothing is on.
    """

    title: str
    supply_v: float
    rungs: tuple[Rung, ...]
    terminal_v: float
    rise_v: float
    rise_pct: float
    room_v: float | None
    most_export_w: float | None
    export_text: str
    settled: Settled | None
    settled_text: str


@dataclass(frozen=True, kw_only=True)
class LadderLimit:
    """A voltage at which the inverter stops, and after how long. lasting: the one that counts."""

    name: str
    volts: float
    after: str
    lasting: bool


@dataclass(frozen=True, kw_only=True)
class SizeStep:
    """What a conductor size in one run gives: current, rise, room to the trip, what it saves."""

    section_mm2: float
    name: str
    chosen: bool
    verdict: Verdict
    iz_a: float | None
    rise_v: float
    terminal_v: float
    room_v: float | None
    export_text: str
    loss_kwh: float
    buys: str


@dataclass(frozen=True, kw_only=True)
class RunState:
    """One AC run judged. title: length, cores and size. line: what decides its verdict."""

    name: str
    start: str
    end: str
    title: str
    current_a: float
    ampacity: Ampacity | None
    rise_v: float | None
    loss_kwh: float | None
    sizes: tuple[SizeStep, ...]
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class DcSizeStep:
    """What a conductor size in a string's whole home run gives."""

    section_mm2: float
    name: str
    chosen: bool
    verdict: Verdict
    iz_a: float | None
    drop_v: float
    drop_pct: float
    loss_kwh: float
    buys: str


@dataclass(frozen=True, kw_only=True)
class DcRunState:
    """A string's home run judged: its current, its drop, what the next size buys."""

    string: str
    name: str
    title: str
    current_a: float
    string_v: float
    ampacity: Ampacity | None
    drop: DcDrop | None
    loss_kwh: float | None
    sizes: tuple[DcSizeStep, ...]
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class FeedDeviceState:
    """One thing of the AC side, or the DC switching, judged."""

    name: str
    kind: str
    title: str
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class DcMethodState:
    """One way to part the DC side at the roof's end, and its price.

    terminations: added, the weak spots. live: what stays live when it is OFF.
    """

    school: str
    title: str
    chosen: bool
    terminations: int
    switches: int
    parts: str
    live: str
    caution: str


@dataclass(frozen=True, kw_only=True)
class DrawnCore:
    """One core as it is drawn: its name, its colour, its inks, how much longer it is cut."""

    conductor: str
    colour: str
    inks: tuple[str, ...]
    longer_mm: float


@dataclass(frozen=True, kw_only=True)
class EndState:
    """One termination: how the end is made, what it is tightened to, what was reached.

    threading: parts in the order in which they go on before the end is made.
    """

    name: str
    run: str
    device: str
    cable: str
    strip_mm: float | None
    finish: str
    cores: tuple[DrawnCore, ...]
    threading: tuple[str, ...]
    torque_nm: float | None
    torque_read_nm: float | None
    torque_verdict: Verdict
    pull_verdict: Verdict
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class ContainmentState:
    """One way and what shares it."""

    name: str
    title: str
    fill_pct: float | None
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class PhaseLoad:
    """What one group of loads, backed up or not, draws on one phase."""

    phase: str
    backed_up: bool
    current_a: float
    limit_a: float
    loads: str
    verdict: Verdict


@dataclass(frozen=True, kw_only=True)
class BackupState:
    """Backup and battery judged.

    alone: what works without the supply, in a sentence; lasts_h: for how long, None where no sheet
    says what is stored.
    """

    phases: tuple[PhaseLoad, ...]
    judgements: tuple[Judgement, ...]
    verdict: Verdict
    line: str
    alone: str
    lasts_h: float | None


@dataclass(frozen=True, kw_only=True)
class PathPlace:
    """One element of the energy path: its symbol, where it stands, what it opens.

    column: from the roof towards the supply; row: from the top. opens: which bench it opens.
    lines: its data, under its name.
    """

    id: str
    symbol: str
    column: float
    row: float
    name: str
    lines: tuple[str, ...]
    verdict: Verdict
    opens: str


@dataclass(frozen=True, kw_only=True)
class PathWire:
    """One line between two elements. medium: dc, ac, earth or signal."""

    id: str
    start: str
    end: str
    medium: str
    lines: tuple[str, ...]
    verdict: Verdict
    opens: str


@dataclass(frozen=True, kw_only=True)
class EnergyPath:
    """The energy path from planes to supply, as places on a grid and lines between them."""

    places: tuple[PathPlace, ...]
    wires: tuple[PathWire, ...]
    columns: int
    rows: float


@dataclass(frozen=True, kw_only=True)
class SupplyState:
    """The supply as it was read. readings: how many still count."""

    volts: float
    pair: str
    measured: bool
    readings: int
    lowest_v: float | None
    highest_v: float | None


@dataclass(frozen=True, kw_only=True)
class FeedStage:
    """Stage 5: the energy path, every run, switch and termination on it, the ladder of volts.

    today, high: None while the path has a gap. dead: whether a compartment may be opened.
    """

    line: str
    service: str
    nominal_v: float
    export_w: float
    design_a: float
    supply: SupplyState
    trip_v: float | None
    trip_name: str
    limits: tuple[LadderLimit, ...]
    path: EnergyPath
    rise: AcRise | None
    today: Ladder | None
    high: Ladder | None
    runs: tuple[RunState, ...]
    dc_runs: tuple[DcRunState, ...]
    devices: tuple[FeedDeviceState, ...]
    dc_switching: FeedDeviceState | None
    dc_schools: tuple[DcMethodState, ...]
    containments: tuple[ContainmentState, ...]
    ends: tuple[EndState, ...]
    backup: BackupState | None
    dead: Gate
    judgements: tuple[Judgement, ...]
