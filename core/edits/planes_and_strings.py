"""Changing what a job is made of: planes, strings, the roof drawing, sheets, replaced figures.

Each takes a job and gives the changed one; a name that was read on and leaves the plan is kept
among the retired, so that its readings stay.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from string import ascii_uppercase

from core.base.errors import Refused, problem
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.equipment.sheet import Sheet
from core.figures.overrides import Override, OwnPack
from core.job.feed import FeedPlan, HomeRun, string_run
from core.job.job import Job, StringPlan, run_ends
from core.job.microinverter import MicroPlan, under
from core.job.roof import GAP_CELL, MODULE_CELL, ModulePlace, Plane, place_text
from core.planning.dc.arrangements import ArrangedString

MOST_ROWS, MOST_COLUMNS = 30, 40


def with_plane(job: Job, plane: Plane) -> Job:
    """The job with one more plane. Raises Refused when the name is taken."""
    return replace(job, planes=(*job.planes, plane))


def without_plane(job: Job, name: str) -> Job:
    """The job without a plane. Raises Refused while a string lies on it."""
    units = [u.name for u in job.micro.units if u.modules[0].plane == name] if job.micro else []
    if units:
        said = f"{name} carries {len(units)} units, first {units[0]}: take its modules off first."
        raise Refused([problem("$.plane", name, "a plane without units", said)])
    on_it = [
        s.name for s in job.strings if name == s.plane or any(p.plane == name for p in s.places)
    ]
    if on_it:
        said = f"{name} carries string {', '.join(on_it)}: move or remove those first."
        raise Refused([problem("$.plane", name, "a plane without strings", said)])
    planes = tuple(plane for plane in job.planes if plane.name != name)
    return replace(job, planes=planes, retired=retired(job, frozenset({name})))


def shaped(job: Job, name: str, rows: tuple[str, ...]) -> Job:
    """The job with a plane's modules drawn anew; modules that are gone leave strings and units."""
    planes = tuple(_drawn(p, rows) if p.name == name else p for p in job.planes)
    now = {plane.name: plane for plane in planes}
    strings = tuple(
        replace(
            string,
            places=tuple(
                place
                for place in string.places
                if place.plane in now and now[place.plane].holds(place.row, place.column)
            ),
        )
        for string in job.strings
    )
    if job.micro is None:
        return replace(job, planes=planes, strings=strings)
    left = under(job.micro, planes)
    gone = {unit.name for unit in job.micro.units} - {unit.name for unit in left.units}
    return replace(job, planes=planes, micro=left, retired=retired(job, frozenset(gone)))


def _drawn(plane: Plane, rows: tuple[str, ...]) -> Plane:
    """A plane drawn anew: measured gaps that are none any more go."""
    gaps = tuple(
        gap
        for gap in plane.gaps
        if gap.row <= len(rows)
        and gap.column <= len(rows[gap.row - 1])
        and rows[gap.row - 1][gap.column - 1] == GAP_CELL
    )
    return replace(plane, rows=rows, gaps=gaps)


def with_string(job: Job) -> Job:
    """The job with one more string, like the last, on the tracker that has fewest."""
    last = job.strings[-1]
    trackers = range(1, len(job.wall_inverter.trackers) + 1)
    used = [string.tracker for string in job.strings]
    added = StringPlan(
        name=next(iter(_free_names(job))),
        tracker=min(trackers, key=used.count),
        plane=last.plane,
        modules_in_series=last.modules_in_series,
    )
    return replace(job, strings=(*job.strings, added))


def without_string(job: Job, name: str) -> Job:
    """The job without a string. Raises Refused for the last one."""
    if len(job.strings) == 1:
        said = f"String {name} is the only one; a job has at least one."
        raise Refused([problem("$.string", name, "one of several strings", said)])
    return with_strings(job, tuple(string for string in job.strings if string.name != name))


def with_strings(job: Job, strings: tuple[StringPlan, ...]) -> Job:
    """The job with other strings: ways let go of those that are gone, what was read stays."""
    runs = {string_run(one.name) for one in job.strings} - {string_run(s.name) for s in strings}
    ways = tuple(
        replace(way, holds=tuple(name for name in way.holds if name not in runs))
        for way in job.feed.containments
    )
    feed = replace(job.feed, containments=ways)
    gone = _read_of(job.feed, job.strings) - _read_of(feed, strings)
    return replace(job, strings=strings, feed=feed, retired=retired(job, gone))


def _read_of(feed: FeedPlan, strings: tuple[StringPlan, ...]) -> frozenset[str]:
    return frozenset((*(string.name for string in strings), *run_ends(feed, strings)))


def with_home_run(job: Job, name: str, pieces: tuple[HomeRun, ...]) -> Job:
    """The job with a string's way to the inverter measured, piece by piece from the array.

    Raises Refused for no such string.
    """
    _known_string(job, name)
    return with_strings(
        job,
        tuple(replace(s, home_run=pieces) if s.name == name else s for s in job.strings),
    )


def _known_string(job: Job, name: str) -> None:
    if name not in {string.name for string in job.strings}:
        allowed = " · ".join(string.name for string in job.strings)
        raise Refused([problem("$.string", name, allowed)])


def painted(job: Job, name: str, places: tuple[ModulePlace, ...]) -> Job:
    """The job with a string drawn on the roof, minus end first.

    Its count follows the drawing; a module that another string had goes over to this one.
    Raises Refused when a place is no module of the roof.
    """
    _known_string(job, name)
    on_the_roof(job, places)
    taken = frozenset(places)
    return replace(
        job,
        strings=tuple(
            _painted(string, places)
            if string.name == name
            else replace(string, places=tuple(p for p in string.places if p not in taken))
            for string in job.strings
        ),
    )


def _painted(string: StringPlan, places: tuple[ModulePlace, ...]) -> StringPlan:
    if not places:
        return replace(string, places=())
    return replace(string, places=places, plane=places[0].plane, modules_in_series=len(places))


def on_the_roof(job: Job, places: Iterable[ModulePlace]) -> None:
    """Refuses places where no module is drawn."""
    planes = {plane.name: plane for plane in job.planes}
    found = [
        problem(f"$.places[{index}]", place_text(place), "a module that is drawn on the roof")
        for index, place in enumerate(places)
        if place.plane not in planes or not planes[place.plane].holds(place.row, place.column)
    ]
    if found:
        raise Refused(found)


def arranged(job: Job, strings: tuple[ArrangedString, ...]) -> Job:
    """The job strung as an arrangement says, its strings drawn on the roof row by row."""
    free = {plane.name: serpentine(plane) for plane in job.planes}
    plans = []
    for name, string in zip(ascii_uppercase, strings, strict=False):
        cells = free.get(string.plane, [])
        places, free[string.plane] = (
            cells[: string.modules_in_series],
            cells[string.modules_in_series :],
        )
        whole = len(places) == string.modules_in_series
        plans.append(
            StringPlan(
                name=name,
                tracker=string.tracker,
                plane=string.plane,
                modules_in_series=string.modules_in_series,
                places=tuple(places) if whole else (),
            )
        )
    return with_strings(job, tuple(plans))


def serpentine(plane: Plane) -> list[ModulePlace]:
    """A plane's modules in the order in which leads reach: along one row, back along the next."""
    return [
        ModulePlace(plane=plane.name, row=row, column=column)
        for row, cells in enumerate(plane.rows, start=1)
        for column in _along(cells, back=row % 2 == 0)
    ]


def _along(cells: str, *, back: bool) -> list[int]:
    columns = [column for column, cell in enumerate(cells, start=1) if cell == MODULE_CELL]
    return columns[::-1] if back else columns


def modules_by_plane(job: Job) -> dict[str, int]:
    """Modules on each plane: as drawn, or as its strings are planned while it is not drawn."""
    planned = {
        plane.name: sum(s.modules_in_series for s in job.strings if s.plane == plane.name)
        for plane in job.planes
    }
    return {plane.name: plane.modules or planned[plane.name] for plane in job.planes}


def with_sheet(job: Job, sheet: Sheet | None) -> Job:
    """The job with another sheet of a module, inverter or optimiser; None: without optimisers.

    Strings on trackers that the inverter has not move to its last. Raises Refused for a kind
    that a job does not hold.
    """
    match sheet:
        case None:
            return replace(job, optimiser=None)
        case Module():
            return replace(job, module=sheet)
        case Optimiser():
            return replace(job, optimiser=sheet)
        case Micro() | Trunk() if job.micro is not None:
            return with_roof_sheet(job, job.micro, sheet)
        case Inverter() if job.inverter is not None:
            last = len(sheet.trackers)
            strings = tuple(replace(s, tracker=min(s.tracker, last)) for s in job.strings)
            return replace(job, inverter=sheet, strings=strings)
    raise Refused([problem("$.sheet", sheet.label, "a sheet of a kind that this job holds")])


def with_roof_sheet(job: Job, plan: MicroPlan, sheet: Micro | Trunk) -> Job:
    """The job with another unit or trunk; a unit with one input keeps the first module of two."""
    if isinstance(sheet, Trunk):
        return replace(job, micro=replace(plan, trunk=sheet))
    units = tuple(replace(unit, modules=unit.modules[: sheet.inputs]) for unit in plan.units)
    return replace(job, micro=replace(plan, unit=sheet, units=units))


def with_pack(job: Job, pack_id: str, own: OwnPack | None) -> Job:
    """The job judged by another rule pack; figures replaced for the job stay replaced."""
    return replace(job, rule_pack=pack_id, own_pack=own)


def with_override(job: Job, override: Override) -> Job:
    """The job with one figure of its pack replaced; an earlier one of the same figure goes."""
    return replace(job, overrides=(*_others(job, override.path), override))


def without_override(job: Job, path: str) -> Job:
    """The job with the pack's own figure again."""
    return replace(job, overrides=_others(job, path))


def _others(job: Job, path: str) -> tuple[Override, ...]:
    return tuple(one for one in job.overrides if one.path != path)


def _free_names(job: Job) -> Iterable[str]:
    taken = {string.name for string in job.strings} | set(job.retired)
    singles = (name for name in ascii_uppercase if name not in taken)
    return (*singles, *(f"S{n}" for n in range(1, 400) if f"S{n}" not in taken))


def retired(job: Job, gone: frozenset[str]) -> tuple[str, ...]:
    """The retired names of a job with those that leave its plan and were read on."""
    read = {reading.subject for reading in job.readings}
    return tuple(dict.fromkeys((*job.retired, *sorted(gone & read))))
