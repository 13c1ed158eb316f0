"""The energy path as a picture: every element a place on a grid, every run a line."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from core.assessment.feed import (
    BackupState,
    DcRunState,
    EnergyPath,
    FeedDeviceState,
    PathPlace,
    PathWire,
    RunState,
)
from core.assessment.microinverter import TrunkPlan
from core.base.glossary import SurgeType
from core.base.judgement import Verdict, worst
from core.base.messages import figure, say
from core.base.units import size_name
from core.job.feed import DeviceKind, FeedDevice, HomeRun
from core.job.job import Job
from core.job.microinverter import Branch
from core.job.strings import StringPlan
from core.job.subjects import DC_SWITCHES, SAFETY_SWITCH
from core.planning.dc.module_counts import strings_w

# Above so many strings they are drawn tracker by tracker.
MOST_STRINGS = 4
SYMBOLS: dict[DeviceKind, str] = {
    "supply": "supply",
    "meter": "meter",
    "board": "board",
    "isolator": "isolator",
    "backup": "changeover",
    "surge": "surge",
    "clamp": "clamp",
    "inverter": "inverter",
    "branches": "board",
    "joint": "joint",
}
# Places of a row on the roof's side: a branch and its joint box, or a string and its switches.
BRANCH_COLUMNS = 1
# What a touch opens, where it is no device, run or string.
DC, BACKUP, EARTH = "dc", "backup", "earth"


@dataclass(frozen=True, kw_only=True)
class Judged:
    """Everything on the path, judged already."""

    job: Job
    runs: dict[str, RunState]
    strings: tuple[DcRunState, ...]
    devices: dict[str, FeedDeviceState]
    dc: FeedDeviceState | None
    backup: BackupState | None
    earth: Verdict
    trunks: dict[str, TrunkPlan]

    @property
    def dc_verdict(self) -> Verdict:
        return self.dc.verdict if self.dc else "clear"

    @property
    def branches(self) -> tuple[Branch, ...]:
        """The branches that have units, in the order in which they are drawn."""
        plan = self.job.micro
        return tuple(one for one in plan.branches if one.units) if plan else ()

    @property
    def roof_columns(self) -> int:
        """Columns right of the arrays: switches of the DC side, or the boxes of the branches."""
        return BRANCH_COLUMNS if self.job.micro else len(self.switches)

    @property
    def switches(self) -> tuple[str, ...]:
        return DC_SWITCHES[self.job.feed.dc.school]

    @property
    def chain(self) -> tuple[str, ...]:
        """Devices from the inverter to the supply; with a gap, all in the order of the plan."""
        names = [
            one.name
            for one in self.job.feed.devices
            if one.name != self.inverter and one.kind != "joint"
        ]
        rungs = self.job.feed.chain.rungs or (*names, self.inverter)
        return tuple(name for name in reversed(rungs) if name)

    @property
    def inverter(self) -> str:
        """The inverter, or the branch board to which the roof comes down."""
        return self.job.feed.far_end


def energy_path(of: Judged) -> EnergyPath:
    """The path from planes to supply, from the job's own data."""
    groups = tuple(_groups(of))
    middle = (max(len(groups) + len(of.branches), 1) - 1) / 2
    places = [*_strings(of, groups), *_branches(of), *_devices(of, middle)]
    places += _below(of, {one.id: one for one in places})
    known = {one.id for one in places}
    wires = (*_dc_wires(of, groups), *_trunk_wires(of), *_ac_wires(of), *_side_wires(of))
    return EnergyPath(
        places=tuple(places),
        wires=tuple(one for one in wires if {one.start, one.end} <= known),
        columns=1 + int(max(one.column for one in places)),
        rows=1 + max(one.row for one in places),
    )


Group = tuple[str, tuple[tuple[StringPlan, DcRunState], ...]]


def _groups(of: Judged) -> Iterator[Group]:
    """What is drawn on the roof's side: each string, or the strings of each tracker."""
    both = tuple(zip(of.job.strings, of.strings, strict=True))
    if len(both) <= MOST_STRINGS:
        for string, state in both:
            yield say("path", "string", name=string.name), ((string, state),)
        return
    for number in sorted({string.tracker for string, _ in both}):
        own = tuple(one for one in both if one[0].tracker == number)
        yield say("path", "tracker", number=str(number), count=str(len(own))), own


def _strings(of: Judged, groups: tuple[Group, ...]) -> Iterator[PathPlace]:
    for row, (name, own) in enumerate(groups):
        verdict = worst(state.verdict for _, state in own)
        yield PathPlace(
            id=name,
            symbol="array",
            column=0.0,
            row=float(row),
            name=name,
            lines=_string_lines(of.job, own),
            verdict=verdict,
            opens=f"string {own[0][0].name}",
        )
        for column, switch in enumerate(of.switches, start=1):
            yield PathPlace(
                id=f"{switch} {name}",
                symbol="safety" if switch == SAFETY_SWITCH else "isolator",
                column=float(column),
                row=float(row),
                name=switch,
                lines=_switch_lines(of.job, switch),
                verdict=of.dc_verdict,
                opens=DC,
            )


def _branches(of: Judged) -> Iterator[PathPlace]:
    """Each branch of a roof of microinverters, with its units."""
    plan = of.job.roof_plan if of.branches else None
    for row, branch in enumerate(of.branches):
        if plan is None:
            return
        count = len(branch.units)
        unit = plan.types_of(branch).unit
        power = figure(count * unit.max_va / 1000, "kVA", 2)
        phase = f", L{branch.phase}" if branch.phase else ""
        yield PathPlace(
            id=_branch_id(branch),
            symbol="array",
            column=0.0,
            row=float(row),
            name=say("branches", "named", name=branch.name),
            lines=(f"{count} × {unit.model}", f"{power}{phase}"),
            verdict=_trunk_verdict(of, branch),
            opens=f"branch {branch.name}",
        )


def _branch_id(branch: Branch) -> str:
    return f"branch {branch.name}"


def _trunk_verdict(of: Judged, branch: Branch) -> Verdict:
    return "clear" if of.trunks[branch.name].parts else "waiting"


def _trunk_wires(of: Judged) -> Iterator[PathWire]:
    for branch in of.branches:
        length_m = of.trunks[branch.name].length_m
        yield PathWire(
            id=f"trunk {branch.name}",
            start=_branch_id(branch),
            end=branch.joint or "",
            medium="ac",
            lines=(say("branches", "cable"),) if length_m is None else (figure(length_m, "m"),),
            verdict=_trunk_verdict(of, branch),
            opens=f"branch {branch.name}",
        )


def _string_lines(job: Job, own: tuple[tuple[StringPlan, DcRunState], ...]) -> tuple[str, ...]:
    counts = Counter[str]()
    for string, _ in own:
        counts[job.module_on(string.plane).model] += string.modules_in_series
    power = figure(strings_w(job, (string for string, _ in own)) / 1000, "kW", 2)
    planes = ", ".join(dict.fromkeys(string.plane for string, _ in own))
    return *(f"{count} × {model}" for model, count in counts.items()), f"{power}, {planes}"


def _switch_lines(job: Job, switch: str) -> tuple[str, ...]:
    sheet = job.feed.dc.safety if switch == SAFETY_SWITCH else job.feed.dc.isolator
    if sheet is None:
        return (say("path", "no_sheet"),)
    return (f"{figure(sheet.rated_v, 'V')}, {figure(sheet.rated_a, 'A')}",)


def _devices(of: Judged, middle: float) -> Iterator[PathPlace]:
    """The chain in one line; what is off it below the device that it hangs on."""
    first = 1.0 + of.roof_columns
    columns = {name: first + step for step, name in enumerate(of.chain)}
    boxes = {branch.joint: float(row) for row, branch in enumerate(of.branches)}
    taken: dict[float, float] = {}
    for device in of.job.feed.devices:
        column, row = columns.get(device.name), middle
        if device.name in boxes:
            column, row = float(BRANCH_COLUMNS), boxes[device.name]
        elif column is None:
            column = columns.get(_neighbour(of.job, device.name), first + len(columns))
            row = taken.get(column, middle) + 1.0
            taken[column] = row
        state = of.devices[device.name]
        yield PathPlace(
            id=device.name,
            symbol=_symbol(device),
            column=column,
            row=row,
            name=device.name,
            lines=_device_lines(of.job, device),
            verdict=state.verdict,
            opens=f"device {device.name}",
        )


def _neighbour(job: Job, name: str) -> str:
    """The device at the other end of the first run that ends at this one."""
    for run in job.feed.runs:
        if name in (run.start, run.end):
            return run.end if run.start == name else run.start
    return ""


def _symbol(device: FeedDevice) -> str:
    breaker = device.breaker
    if breaker is None or device.kind == "inverter":
        return SYMBOLS[device.kind]
    return "breaker" if breaker.residual_ma is None else "residual"


def _device_lines(job: Job, device: FeedDevice) -> tuple[str, ...]:
    source, breaker, isolator = job.source, device.breaker, device.isolator
    if device.kind == "inverter":
        kilo = figure(source.rated_ac_w / 1000, "kW", 2)
        return (source.model, f"{kilo}, {figure(source.nominal_v, 'V')}")
    if device.kind == "supply":
        service = job.feed.supply_service
        shown = say("service_names", service) if service else say("path", "not_known")
        return (shown, job.feed.earth_system)
    if breaker is not None:
        rating = f"{breaker.curve}{figure(breaker.rated_a)}, {breaker.poles}P"
        if breaker.residual_ma is None:
            return (rating, *_beside(job, device))
        residual = f"{figure(breaker.residual_ma, 'mA')} {breaker.residual_type}"
        return (rating, residual, *_beside(job, device))
    if isolator is not None:
        return (f"{figure(isolator.rated_a, 'A')}, {isolator.poles}P",)
    return _beside(job, device)


def _beside(job: Job, device: FeedDevice) -> tuple[str, ...]:
    """How many other sources feed into a board."""
    count = sum(one.board == device.name for one in job.feed.others or ())
    return (say("path", "beside", count=str(count)),) if count else ()


def _below(of: Judged, at: dict[str, PathPlace]) -> Iterator[PathPlace]:
    """Under the chain: earth, surge devices, backed-up loads, battery; each in a free column."""
    inverter, plan = at.get(of.inverter), of.job.feed
    if inverter is None:
        return
    row = 1.0 + inverter.row
    taken = {one.column for one in at.values() if one.row >= row} | {inverter.column}
    yield _place(EARTH, "earth", inverter.column, row, of.earth, EARTH)
    for device in plan.devices:
        if device.surge != "none" and device.name in at:
            column = at[device.name].column
            column = _free(taken, column) if column in taken else column
            taken.add(column)
            verdict, opens = of.devices[device.name].verdict, f"device {device.name}"
            name = f"surge {device.name}"
            yield _place(name, "surge", column, row, verdict, opens, device.surge)
    backup = of.backup
    if plan.backup is not None and backup is not None:
        loads = tuple(
            f"{one.phase} {figure(one.current_a, 'A')}" for one in backup.phases if one.backed_up
        )
        column = _free(taken, inverter.column)
        yield _place("loads", "loads", column, row, backup.verdict, BACKUP, lines=loads)
        if plan.backup.battery is not None:
            units = (say("path", "units", count=str(plan.backup.battery.units)),)
            column = _free(taken, inverter.column)
            yield _place("battery", "battery", column, row, backup.verdict, BACKUP, lines=units)
    if plan.dc.surge != "none":
        column = _free(taken, inverter.column)
        yield _place("surge_dc", "surge", column, row, of.dc_verdict, DC, plan.dc.surge)


def _free(taken: set[float], column: float) -> float:
    """The next column to the right in which nothing hangs; it is taken with that."""
    while column in taken:
        column += 1.0
    taken.add(column)
    return column


def _place(
    of: str,
    symbol: str,
    column: float,
    row: float,
    verdict: Verdict,
    opens: str,
    surge: SurgeType = "none",
    lines: tuple[str, ...] = (),
) -> PathPlace:
    return PathPlace(
        id=of,
        symbol=symbol,
        column=column,
        row=row,
        name=say("path", "surge_ac" if of.startswith("surge ") else of),
        lines=lines if surge == "none" else (say("path", "type", type=surge),),
        verdict=verdict,
        opens=opens,
    )


def _dc_wires(of: Judged, groups: tuple[Group, ...]) -> Iterator[PathWire]:
    for name, own in groups:
        way = (name, *(f"{switch} {name}" for switch in of.switches), of.inverter)
        pieces = own[0][0].home_run
        for step, (start, end) in enumerate(pairwise(way)):
            yield PathWire(
                id=f"{start} to {end}",
                start=start,
                end=end,
                medium="dc",
                lines=_piece_lines(pieces[step]) if step < len(pieces) else (),
                verdict=worst(state.verdict for _, state in own),
                opens=f"string {own[0][0].name}",
            )


def _piece_lines(piece: HomeRun) -> tuple[str, ...]:
    return figure(piece.length_m, "m"), size_name(piece.section_mm2)


def _ac_wires(of: Judged) -> Iterator[PathWire]:
    for run in of.job.feed.runs:
        state = of.runs[run.name]
        yield PathWire(
            id=f"run {run.name}",
            start=run.end,
            end=run.start,
            medium="ac",
            lines=(
                figure(run.length_m, "m"),
                say("feed_ends", "cable", cores=str(run.cores), size=size_name(run.section_mm2)),
            ),
            verdict=state.verdict,
            opens=f"run {run.name}",
        )


def _side_wires(of: Judged) -> Iterator[PathWire]:
    yield _side(of.inverter, EARTH, "earth", of.earth, EARTH)
    yield _side(of.inverter, "surge_dc", "dc", of.dc_verdict, DC)
    for device in of.job.feed.devices:
        verdict, opens = of.devices[device.name].verdict, f"device {device.name}"
        yield _side(device.name, f"surge {device.name}", "ac", verdict, opens)
    if of.backup is not None:
        hub = of.job.feed.of_kind("backup")
        start = hub.name if hub else of.inverter
        yield _side(start, "loads", "ac", of.backup.verdict, BACKUP)
        yield _side(of.inverter, "battery", "dc", of.backup.verdict, BACKUP)


def _side(start: str, end: str, medium: str, verdict: Verdict, opens: str) -> PathWire:
    return PathWire(
        id=f"{start} to {end}",
        start=start,
        end=end,
        medium=medium,
        lines=(),
        verdict=verdict,
        opens=opens,
    )
