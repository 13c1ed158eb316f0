"""The feed as it is planned: runs of cable, what stands between them, what switches the DC side."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import (
    ApparentVa,
    BusbarA,
    Cores,
    CurrentA,
    EarthSystem,
    Entry,
    FeedParted,
    Grouped,
    Insulation,
    Laid,
    LengthM,
    Material,
    Method,
    Name,
    Note,
    OutsideMm,
    Phase,
    RatedA,
    RatedV,
    RunAirC,
    SectionMm2,
    Service,
    Strands,
    SurgeType,
    Terminals,
)
from core.base.quantity import Items, Quantity, Text
from core.equipment.backup_unit import BackupUnit
from core.equipment.battery import Battery
from core.equipment.cables_switches_fixings import Breaker, Isolator, Meter, Plug, SafetySwitch
from core.job.safety import NOTHING_KNOWN, SafetyFacts

DeviceKind = Literal[
    "supply",
    "meter",
    "board",
    "isolator",
    "backup",
    "surge",
    "clamp",
    "inverter",
    "branches",
    "joint",
]
DcMethod = Literal["none", "manual", "automatic", "both"]
Way = Literal["pipe", "trunking", "open"]
NeutralLink = Literal["unit", "fixed", "none"]
IslandResidual = Literal["30", "more", "none"]
SourceKind = Literal["inverter", "battery", "generator", "charger"]

# Kinds of which a path has one: where it begins, and where it ends.
ENDS: tuple[DeviceKind, ...] = ("supply", "inverter", "branches")
# A house may have several inverters, each its own device.
MOST_OF: dict[DeviceKind, int] = {"inverter": 6}
# Where the breaker of a source may sit.
BOARDS: tuple[DeviceKind, ...] = ("board", "branches", "backup")
# Short, so that the name of an end, a run at a device, stays inside what a name may be.
FeedName = Annotated[str, Text("name", 1, 28)]
InsideMm = Annotated[float, Quantity("inside", "mm", 5, 500)]
AboveMm = Annotated[float, Quantity("above the roof", "mm", 0, 2000)]
TradeSize = Literal["1/2", "3/4", "1", "1-1/4", "1-1/2", "2"]
SlackM = Annotated[float, Quantity("slack", "m", 0, 50)]
BreakingA = Annotated[float, Quantity("breaking capacity", "A", 100, 200_000)]
Units = Annotated[int, Quantity("battery units", "", 1, 20)]

Inrush = Annotated[float, Quantity("inrush over the running current", "", 1, 20)]
Hours = Annotated[float, Quantity("hours", "h", 0.1, 240)]

# What stands for the circuit of the inverter, and for cables that carry signals.
CIRCUIT, SIGNAL = "inverter circuit", "signal"
STRING_RUN = "string "


@dataclass(frozen=True, kw_only=True)
class HomeRun(Checked):
    """One piece of a string's way to the inverter: two conductors, one-way length, one size.

    to: what stands at its far end. laid: two touching on a surface, or each free in air.
    outside_mm: of one conductor. rated_v: what its insulation is made for, where it is printed.
    """

    length_m: LengthM
    section_mm2: SectionMm2
    to: FeedName = "Inverter"
    laid: Laid = "touching"
    air_c: RunAirC = 60.0
    grouped: Grouped = 1
    material: Material = "copper"
    outside_mm: OutsideMm | None = None
    rated_v: RatedV | None = None


@dataclass(frozen=True, kw_only=True)
class AcRun(Checked):
    """One piece of the AC run. of_network: the operator's own cable, outside the limit of rise.

    grouped: circuits side by side, this one among them. outside_mm: of the cable. terminals: what
    both ends bear, °C. shared: loads hang on this cable too, between its ends.
    """

    name: FeedName
    start: FeedName
    end: FeedName
    length_m: LengthM
    section_mm2: SectionMm2
    cores: Cores
    material: Material = "copper"
    strands: Strands = "stranded"
    insulation: Insulation = "pvc"
    terminals: Terminals = "70"
    method: Method = "C"
    air_c: RunAirC = 30.0
    grouped: Grouped = 1
    outside_mm: OutsideMm | None = None
    of_network: bool = False
    shared: bool = False

    def contradictions(self) -> Iterator[Problem]:
        if self.start == self.end:
            yield problem("$.end", self.end, "another device than its start")


@dataclass(frozen=True, kw_only=True)
class FeedDevice(Checked):
    """One thing on the AC side: with its breaker or switch, where it has one.

    busbar_a, supply_a: a board's busbar, and the breaker that feeds it. far_end: the inverter's
    breaker sits at the end of the busbar away from that one.
    """

    name: FeedName
    kind: DeviceKind
    breaker: Breaker | None = None
    isolator: Isolator | None = None
    meter: Meter | None = None
    busbar_a: BusbarA | None = None
    supply_a: RatedA | None = None
    far_end: bool = False
    surge: SurgeType = "none"
    outdoors: bool = False
    entry: Entry = "bottom"


# What every path begins and ends with, before anything else is known of it.
SUPPLY_END = FeedDevice(name="Supply point", kind="supply")
INVERTER_END = FeedDevice(name="Inverter", kind="inverter")
BRANCHES_END = FeedDevice(name="Branch board", kind="branches")


@dataclass(frozen=True, kw_only=True)
class DcSwitching(Checked):
    """What parts the DC side at the roof's end: the school, its switches, who decided and why.

    plug: the make and series in which the ends of the strings' leads are made.
    """

    school: DcMethod = "none"
    isolator: Isolator | None = None
    safety: SafetySwitch | None = None
    plug: Plug | None = None
    surge: SurgeType = "none"
    reason: Note = ""
    by: Note = ""


NOT_PARTED = DcSwitching()


@dataclass(frozen=True, kw_only=True)
class Containment(Checked):
    """One pipe, trunking or open way, and the circuits that share it.

    width_mm: of a trunking, or the inside diameter of a pipe. holds: AC runs by name, strings as
    ``string A``, or ``signal``. parted: how DC and AC are kept apart. slack_m: left on purpose.
    signal_mm: outside diameter of the signal cable. trade_size: of a pipe sold by one; then its
    table has the inside. above_roof_mm: of a pipe in the sun over a roof; None: it lies elsewhere.
    """

    name: FeedName
    way: Way
    holds: Annotated[tuple[Name, ...], Items("circuits", 0, 40)] = ()
    width_mm: InsideMm | None = None
    height_mm: InsideMm | None = None
    parted: FeedParted = "alone"
    slack_m: SlackM = 0.0
    signal_mm: OutsideMm | None = None
    trade_size: TradeSize | None = None
    above_roof_mm: AboveMm | None = None


@dataclass(frozen=True, kw_only=True)
class LoadGroup(Checked):
    """Loads that hang together: on which phase, how much current, backed up or not.

    inrush: the current of their start, over the running one.
    """

    name: FeedName
    phase: Phase
    current_a: CurrentA
    backed_up: bool
    inrush: Inrush = 1.0


@dataclass(frozen=True, kw_only=True)
class BatteryLeads(Checked):
    """What leads from a battery to an inverter's input: two conductors and the fuse in them."""

    length_m: LengthM
    section_mm2: SectionMm2
    fuse_a: RatedA
    fuse_rated_v: RatedV
    fuse_breaks_a: BreakingA


@dataclass(frozen=True, kw_only=True)
class BatteryPlan(Checked):
    """The battery: how many units of how many allowed, its current and its breaker.

    sheet: the battery's own, where it is on the shelf; then its figures count. leads: of one on a
    DC input. approved: on the maker's list, where no sheet says so. phase: which one on the AC
    side feeds, 0 for all.
    """

    units: Units
    most_units: Units
    discharge_a: CurrentA
    breaker_a: RatedA
    approved: bool = False
    sheet: Battery | None = None
    leads: BatteryLeads | None = None
    phase: Phase = 0


@dataclass(frozen=True, kw_only=True)
class BackupPlan(Checked):
    """Backup: the controller's limit on each phase, its phases, the loads, the shutdown line.

    controller: its sheet, where it is on the shelf; then its figures count. units_va: the most of
    roof units that it holds back by shifting the frequency. neutral_link: what ties neutral to
    earth while the supply is parted; residual: the residual-current devices, in mA, before what is
    backed up; None while nobody has said. wanted_h: how long it shall last, as agreed.
    """

    limit_a: RatedA
    controller: BackupUnit | None = None
    three_phase: bool = False
    loads: Annotated[tuple[LoadGroup, ...], Items("groups of loads", 0, 40)] = ()
    battery: BatteryPlan | None = None
    shutdown_line: bool = False
    units_va: ApparentVa | None = None
    neutral_link: NeutralLink | None = None
    residual: IslandResidual | None = None
    wanted_h: Hours | None = None

    @property
    def most_a(self) -> float:
        """What the controller bears on each phase without end."""
        return self.controller.rated_a if self.controller else self.limit_a

    @property
    def held_back_va(self) -> float | None:
        """The most of roof units that the controller holds back; None where nobody says."""
        return self.controller.units_va if self.controller else self.units_va


@dataclass(frozen=True, kw_only=True)
class OtherSource(Checked):
    """What feeds the house beside this job: an inverter, battery, generator, charger that feeds.

    board: where its breaker sits. phase: which it feeds, 0 for all. output_va: by its plate; None:
    what its breaker lets through. comes: it is not there yet.
    """

    name: FeedName
    kind: SourceKind
    board: FeedName
    breaker_a: RatedA
    phase: Phase = 0
    output_va: ApparentVa | None = None
    comes: bool = False


@dataclass(frozen=True, kw_only=True)
class FeedPlan(Checked):
    """The AC side from the supply point to the inverter, and what parts the DC side.

    supply_service: what the house is fed with; None while nobody has looked. phase: which a
    one-phase inverter feeds on a three-phase supply; 0 while that is not said. others: what else
    feeds the house; None while nobody has looked. safety: what is known beside the plan.
    """

    devices: Annotated[tuple[FeedDevice, ...], Items("devices", 1, 90)]
    runs: Annotated[tuple[AcRun, ...], Items("AC runs", 0, 90)] = ()
    supply_service: Service | None = None
    earth_system: EarthSystem = "TN"
    dc: DcSwitching = NOT_PARTED
    containments: Annotated[tuple[Containment, ...], Items("containments", 0, 20)] = ()
    backup: BackupPlan | None = None
    phase: Phase = 0
    others: Annotated[tuple[OtherSource, ...], Items("other sources", 0, 12)] | None = ()
    safety: SafetyFacts = NOTHING_KNOWN

    def contradictions(self) -> Iterator[Problem]:
        yield from _doubled("devices", [one.name for one in self.devices])
        yield from _doubled("runs", [one.name for one in self.runs])
        yield from _doubled("containments", [one.name for one in self.containments])
        for kind in ENDS:
            if sum(one.kind == kind for one in self.devices) > MOST_OF.get(kind, 1):
                yield problem("$.devices", f"too many of {kind}", f"{MOST_OF.get(kind, 1)} at most")
        yield from self._loops()
        yield from self._other_problems()

    def _other_problems(self) -> Iterator[Problem]:
        others = self.others or ()
        yield from _doubled("others", [one.name for one in others])
        boards = [one.name for one in self.devices if one.kind in BOARDS]
        for index, one in enumerate(others):
            if one.board not in boards:
                allowed = " · ".join(boards) or "no board is planned yet: put one in first"
                yield problem(f"$.others[{index}].board", one.board, allowed)

    def _loops(self) -> Iterator[Problem]:
        names = [one.name for one in self.devices]
        group = {name: name for name in names}
        for index, run in enumerate(self.runs):
            unknown = [field for field in ("start", "end") if getattr(run, field) not in names]
            for field in unknown:
                allowed = " · ".join(names)
                yield problem(f"$.runs[{index}].{field}", getattr(run, field), allowed)
            if unknown:
                continue
            here, there = group[run.start], group[run.end]
            if here == there and run.start != run.end:
                said = f"{run.name} closes a loop: {run.start} and {run.end} are joined already."
                yield problem(f"$.runs[{index}].end", run.end, "runs without a loop", said)
            group = {name: there if of == here else of for name, of in group.items()}

    def device(self, name: str) -> FeedDevice:
        """The device of that name."""
        return next(one for one in self.devices if one.name == name)

    def of_kind(self, kind: DeviceKind) -> FeedDevice | None:
        """The first device of a kind; None where there is none."""
        return next((one for one in self.devices if one.kind == kind), None)

    @property
    def chain(self) -> Chain:
        """The runs from the supply point to the inverter, or to the branch board of a roof of
        microinverters; or where the way is broken."""
        return chain_of(self.devices, self.runs, self.far_end)

    @property
    def far_end(self) -> str:
        """The device at which the path ends: the inverter, or the branch board."""
        found = self.of_kind("inverter") or self.of_kind("branches")
        return found.name if found else ""

    def chain_to(self, name: str) -> Chain:
        """The runs from the supply point to a device, or where the way is broken."""
        return chain_of(self.devices, self.runs, name)

    @property
    def last(self) -> AcRun | None:
        """The run that ends at the inverter, or at the branch board."""
        end = self.far_end
        chain = self.chain.runs
        return chain[-1] if chain else next((r for r in self.runs if end in (r.start, r.end)), None)


@dataclass(frozen=True, kw_only=True)
class Chain:
    """The way from the supply point to a device.

    rungs: names of the devices, one more than runs. gap: the two between which nothing runs.
    """

    runs: tuple[AcRun, ...]
    rungs: tuple[str, ...]
    gap: tuple[str, str] | None


@lru_cache(maxsize=256)
def chain_of(devices: tuple[FeedDevice, ...], runs: tuple[AcRun, ...], end: str) -> Chain:
    """The runs in order from the supply point to a device; as far as they lead."""
    beside: dict[str, list[tuple[AcRun, str]]] = defaultdict(list)
    for run in runs:
        beside[run.start].append((run, run.end))
        beside[run.end].append((run, run.start))
    supply = next((one.name for one in devices if one.kind == "supply"), "")
    back: dict[str, tuple[AcRun, str]] = {}
    ahead, reached = [supply], {supply}
    for name in ahead:
        for run, other in beside[name]:
            if other not in reached:
                reached.add(other)
                back[other] = (run, name)
                ahead.append(other)
    if end in reached:
        way, at = [], end
        while at != supply:
            run, before = back[at]
            way.append((run, at))
            at = before
        way.reverse()
        names = (supply, *(name for _, name in way))
        return Chain(runs=tuple(run for run, _ in way), rungs=names, gap=None)
    return Chain(runs=(), rungs=(), gap=(ahead[-1] or "supply", end or "inverter"))


def end_name(run: str, device: str) -> str:
    """What the end of a run at a device is called."""
    return f"{run} at {device}"


def string_run(string: str) -> str:
    """What a string's home run is called among circuits."""
    return f"{STRING_RUN}{string}"


def one_run(*, length_m: float, section_mm2: float, cores: int) -> FeedPlan:
    """The simplest feed: a supply point, an inverter, one run between them."""
    run = AcRun(
        name="Supply run",
        start=SUPPLY_END.name,
        end=INVERTER_END.name,
        length_m=length_m,
        section_mm2=section_mm2,
        cores=cores,
    )
    return FeedPlan(devices=(SUPPLY_END, INVERTER_END), runs=(run,))


def _doubled(group: str, names: list[str]) -> Iterator[Problem]:
    for index, name in enumerate(names):
        if name in names[:index]:
            yield problem(f"$.{group}[{index}].name", name, "each name once")
