"""What a job needs on the drive, counted from its plan: equipment, small parts, cable, tools."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cache
from typing import Annotated

from core.base.form import Checked, read
from core.base.glossary import Name, Note
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.units import size_name
from core.data import load
from core.job.job import Job
from core.job.subjects import DC_ISOLATOR, DC_SWITCHES, SAFETY_SWITCH
from core.job.wall import DeviceKind
from core.planning.dc.module_counts import module_counts
from core.planning.dc.switching import switch_count
from core.planning.earth.path import planned_modules
from core.planning.goods.counts import POLES, TRUNK_BASES, Basis, plan_counts
from core.planning.goods.needed import Needed
from core.planning.goods.of_house import own_goods
from core.planning.goods.talk_goods import talk_goods
from core.planning.microinverter.linked import linked_goods
from core.planning.microinverter.parts import TrunkNeeds, roof_of
from core.planning.wall.space import body_of

LINES = "load_in"
# A long DC run is guarded at its array and at its inverter.
DC_ENDS = 2
SEVERAL = 2
# On which shelf the sheet of a device on the wall lies, where it is not among the wall units.
SHELF_OF: dict[DeviceKind, str] = {"isolator": "isolators", "safety_switch": "safety_switches"}


@dataclass(frozen=True, kw_only=True)
class PerLine(Checked):
    """One line of the load-in sheet that is counted by something of the plan."""

    id: Name
    group: Name
    what: Name
    unit: Name
    per: Basis
    each: Annotated[float, Quantity("for each", "", 0, 100)]
    must: bool
    keep: Note


@cache
def per_lines() -> tuple[PerLine, ...]:
    """The lines that are counted by something of the plan, as the data file has them."""
    return read(tuple[PerLine, ...], load(LINES), "$load_in")


def load_in(job: Job) -> tuple[Needed, ...]:
    """Everything the job needs, from the goods on the drive to the gloves; none counted twice.

    Of a house with several inverters, what this one brings.
    """
    job = own_goods(job)
    return (
        *_equipment(job),
        *_cables(job),
        *_fixings(job),
        *_linked(job),
        *talk_goods(job),
        *_counted(job),
    )


def _equipment(job: Job) -> Iterator[Needed]:
    modules = planned_modules(job)
    for module, count in (module_counts(job) or {job.module: 0}).items():
        line = _sheet("modules", module.label, count, say("load_in", "modules"))
        # Each type is counted on the drive by itself.
        yield line if module == job.module else replace(line, id=f"modules {module.id}"[:60])
    if job.inverter is not None:
        yield _sheet("inverters", job.inverter.label, 1, say("load_in", "inverters"))
    if job.micro is not None:
        units = Counter(job.micro.sheet_of(one).label for one in job.micro.units)
        own = job.micro.unit.label
        for label, count in (units or {own: 0}).items():
            line = _sheet("micros", label, count, say("load_in", "units"))
            # Each type is counted on the drive by itself.
            yield line if label == own else replace(line, id=f"micros {label}"[:60])
    if job.optimiser is not None:
        yield _sheet("optimisers", job.optimiser.label, modules, say("load_in", "optimisers"))
    devices = job.wall.devices if job.wall else ()
    by_label = Counter((one.label, one.kind) for one in devices if one.kind != "inverter")
    for (label, kind), count in by_label.items():
        yield _device(f"wall {label}", label, count, "on_wall", SHELF_OF.get(kind, "wall_units"))
    # What hangs on the wall is there once, though the path shows it too.
    hung = Counter(one.label for one in devices)
    for (label, shelf), count in _on_the_path(job).items():
        beyond = count - hung[label]
        if beyond > 0:
            yield _device(f"path {label}", label, beyond, "on_path", shelf)
    for what, count in _surges(job).items():
        yield _device(what, say("load_in", "surge", what=what), count, "on_path", "")


def _on_the_path(job: Job) -> Counter[tuple[str, str]]:
    """What the energy path is made of but cable, by its sheet and the shelf that it lies on."""
    found = Counter[tuple[str, str]]()
    dc = job.feed.dc
    for device in job.feed.devices:
        if device.breaker is not None:
            found[device.breaker.label, "breakers"] += 1
        if device.isolator is not None:
            found[device.isolator.label, "isolators"] += 1
        if device.meter is not None:
            found[device.meter.label, "meters"] += 1
    backup = job.feed.backup
    if backup is not None and backup.controller is not None:
        found[backup.controller.label, "backup_units"] += 1
    if backup is not None and backup.battery is not None and backup.battery.sheet is not None:
        found[backup.battery.sheet.label, "batteries"] += backup.battery.units
    for branch in job.micro.branches if job.micro else ():
        if branch.breaker is not None:
            found[branch.breaker.label, "breakers"] += 1
    if dc.isolator is not None and DC_ISOLATOR in DC_SWITCHES[dc.school]:
        found[dc.isolator.label, "isolators"] += switch_count(job, DC_ISOLATOR)
    if dc.safety is not None and SAFETY_SWITCH in DC_SWITCHES[dc.school]:
        found[dc.safety.label, "safety_switches"] += switch_count(job, SAFETY_SWITCH)
    return found


def _surges(job: Job) -> Counter[str]:
    """Surge devices by side and type; on the DC side one at each end."""
    found = Counter(f"AC, type {one.surge}" for one in job.feed.devices if one.surge != "none")
    if job.feed.dc.surge != "none":
        found[f"DC, type {job.feed.dc.surge}"] += DC_ENDS
    return found


def _device(line: str, what: str, count: int, because: str, kind: str) -> Needed:
    return Needed(
        id=line[:60],
        group="equipment",
        what=what,
        unit=say("load_in", "pieces"),
        count=float(count),
        because=say("load_in", because),
        must=True,
        kind=kind,
    )


def _sheet(kind: str, label: str, count: int, because: str) -> Needed:
    return Needed(
        id=kind,
        group="equipment",
        what=label,
        unit=say("load_in", "pieces"),
        count=float(count),
        because=because,
        must=True,
        kind=kind,
    )


def _cables(job: Job) -> Iterator[Needed]:
    spare = 1 + job.rules.load_in.cable_spare.value / 100
    yield from _dc_cables(job, spare)
    yield from _ac_cables(job, spare)
    yield from _earth_cables(job, spare)
    yield from _unit_wire(job, spare)
    yield from _lugs(job)


def _dc_cables(job: Job, spare: float) -> Iterator[Needed]:
    unknown = [string.name for string in job.strings if not string.home_run]
    by_size: dict[float, float] = defaultdict(float)
    for string in job.strings:
        for piece in string.home_run:
            by_size[piece.section_mm2] += POLES * piece.length_m
    for size, length_m in sorted(by_size.items()):
        yield _cable(f"dc {size:g}", "dc_cable", size, length_m * spare, not unknown)
    if unknown:
        names = ", ".join(unknown)
        yield _unknown_cable("dc", "dc_cable", say("load_in", "no_run", names=names))


def _ac_cables(job: Job, spare: float) -> Iterator[Needed]:
    by_size: dict[tuple[float, int], float] = defaultdict(float)
    for run in job.feed.runs:
        if not run.of_network:
            by_size[run.section_mm2, run.cores] += run.length_m
    for (size, cores), length_m in sorted(by_size.items()):
        what = say("load_in", "ac_cable", cores=str(cores), size=size_name(size))
        yield _length(f"ac {cores} x {size:g}", what, length_m * spare)


def _earth_cables(job: Job, spare: float) -> Iterator[Needed]:
    by_size: dict[float, float] = defaultdict(float)
    for link in job.earthing.links:
        if link.how == "wire" and link.length_m is not None and link.section_mm2 is not None:
            by_size[link.section_mm2] += link.length_m
    for size, length_m in sorted(by_size.items()):
        yield _cable(f"earth {size:g}", "earth_cable", size, length_m * spare, True)


def _lugs(job: Job) -> Iterator[Needed]:
    lugs = Counter(
        (link.section_mm2, link.stud_mm)
        for link in job.earthing.links
        if link.stud_mm is not None and link.section_mm2 is not None
    )
    for (section, stud), count in sorted(lugs.items()):
        yield Needed(
            id=f"lug {section:g}-{stud:g}",
            group="earth",
            what=say("load_in", "lug", size=size_name(section), stud=figure(stud)),
            unit=say("load_in", "pieces"),
            count=float(count),
            because=say("load_in", "lugs"),
            must=True,
        )


def _unit_wire(job: Job, spare: float) -> Iterator[Needed]:
    """The separate earth wire along the rows of units, where they are earthed by one."""
    if job.micro is None or job.micro.earth != "wire":
        return
    wire_m, size = roof_of(job).parts.wire_m, job.rules.earth.bond_least.value
    if wire_m is not None:
        what = say("load_in", "unit_wire", size=size_name(size))
        yield _length("unit wire", what, wire_m * spare)


def _linked(job: Job) -> Iterator[Needed]:
    """Links by their length and the parts of end cables, of a trunk put together link by link."""
    if job.micro is None:
        return
    goods = (
        one
        for needs in roof_of(job).parts.trunks
        for one in linked_goods(needs.trunk.linked, needs.links, needs.branches)
    )
    for one in goods:
        yield Needed(
            id=f"linked {one.what}"[:60],
            group="connectors",
            what=one.what,
            unit=say("load_in", "pieces"),
            count=one.needed,
            because=one.by,
            must=True,
        )


def _cable(line: str, what: str, size: float, length_m: float, whole: bool) -> Needed:
    return _length(line, say("load_in", what, size=size_name(size)), length_m, whole)


def _length(line: str, what: str, length_m: float, whole: bool = True) -> Needed:
    return Needed(
        id=f"cable {line}",
        group="cable",
        what=what,
        unit="m",
        count=float(math.ceil(round(length_m, 6))),
        because=say("load_in", "with_spare" if whole else "without_some"),
        must=True,
    )


def _unknown_cable(line: str, what: str, because: str) -> Needed:
    return Needed(
        id=f"cable {line}",
        group="cable",
        what=say("load_in", what, size="?"),
        unit="m",
        count=None,
        because=because,
        must=True,
    )


def _fixings(job: Job) -> Iterator[Needed]:
    counts: dict[str, float] = defaultdict(float)
    drills: dict[float, str] = {}
    for device in job.wall.devices if job.wall else ():
        body = body_of(device, job.inverter)
        if body is None or body.bracket is None or device.fixing is None:
            continue
        counts[device.fixing.label] += body.bracket.all_fixings
        drills[device.fixing.drill_mm] = device.fixing.label
    for label, count in counts.items():
        yield Needed(
            id=f"fixing {label}"[:60],
            group="fixings",
            what=label,
            unit=say("load_in", "pieces"),
            count=count,
            because=say("load_in", "fixings"),
            must=True,
            kind="fixings",
        )
    for diameter, label in sorted(drills.items()):
        yield Needed(
            id=f"drill {diameter:g}",
            group="tools",
            what=say("load_in", "drill", size=figure(diameter, "mm")),
            unit=say("load_in", "pieces"),
            count=1.0,
            because=say("load_in", "drill_for", fixing=label),
            must=True,
        )


def _counted(job: Job) -> Iterator[Needed]:
    bases = plan_counts(job)
    is_drawn = any(plane.rows for plane in job.planes)
    has_sides = all(one.short_mm is not None for one in job.module_types)
    missing = "not_drawn" if has_sides or not is_drawn else "no_sides"
    if job.micro is not None and is_drawn and has_sides:
        missing = "no_branches"
    trunks = roof_of(job).parts.trunks if job.micro else ()
    lines = ((one, *each) for one in per_lines() for each in _each(one, bases, trunks))
    for line, name, what, count in lines:
        if count == 0:
            continue
        yield Needed(
            id=name,
            group=line.group,
            what=what,
            unit=line.unit,
            count=None if count is None else count * line.each,
            because=say("load_in", missing) if count is None else say("per", line.per),
            must=line.must,
            keep=line.keep,
        )


def _each(
    line: PerLine, bases: dict[Basis, float | None], trunks: tuple[TrunkNeeds, ...]
) -> Iterator[tuple[str, str, float | None]]:
    """A line by its name, what it is and its count; of several types of trunk each by itself."""
    part = TRUNK_BASES.get(line.per)
    if part is None or len(trunks) < SEVERAL:
        yield line.id, line.what, bases[line.per]
        return
    for needs in trunks:
        what = f"{line.what}, {needs.trunk.label}"
        yield f"{line.id} {needs.trunk.id}"[:60], what, getattr(needs, part)
