"""Changing strings: how many, on which tracker and plane, as painted on the roof."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, replace
from string import ascii_uppercase
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.form import hints
from core.base.messages import say
from core.base.quantity import Items
from core.edits.edit import Catalogue, Edit, Entered, known, retired
from core.edits.fields import typed
from core.job.feed import (
    FeedPlan,
    HomeRun,
    string_run,
)
from core.job.house import modules_elsewhere, strings_elsewhere
from core.job.job import Job, run_ends
from core.job.roof import MODULE_CELL, ModulePlace, Plane, place_text
from core.job.strings import StringPlan
from core.planning.dc.arrangements import ArrangedString


@dataclass(frozen=True, kw_only=True)
class AddString(Edit):
    """One more string: its plane and its count as typed, or like the last.

    tracker: empty for the one that has fewest.
    """

    do: Literal["add_string"] = "add_string"
    plane: Entered = ""
    modules_in_series: Entered = ""
    tracker: Entered = ""

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_string(job, self)


@dataclass(frozen=True, kw_only=True)
class RemoveString(Edit):
    """A string out of the plan; its readings stay."""

    do: Literal["remove_string"] = "remove_string"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_string(job, self.name)


@dataclass(frozen=True, kw_only=True)
class PaintString(Edit):
    """A string drawn on the roof, minus end first."""

    do: Literal["paint_string"] = "paint_string"
    name: Entered
    places: Annotated[tuple[ModulePlace, ...], Items("places", 0, 100)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return painted(job, self.name, self.places)


@dataclass(frozen=True, kw_only=True)
class TakeArrangement(Edit):
    """The strings as an arrangement has them."""

    do: Literal["take_arrangement"] = "take_arrangement"
    strings: Annotated[tuple[ArrangedString, ...], Items("strings", 1, 26)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return arranged(job, self.strings)


def with_string(job: Job, new: AddString) -> Job:
    """The job with one more string. Raises Refused for what is neither typed nor known by one."""
    numbers = range(1, len(job.wall_inverter.trackers) + 1)
    last = job.strings[-1] if job.strings else None
    used = [string.tracker for string in job.strings]
    plane = new.plane or (last.plane if last else "")
    known("$.plane", plane, [one.name for one in job.planes], none=say("strings", "no_plane"))
    added = StringPlan(
        name=next(iter(_free_names(job))),
        tracker=_count("tracker", new.tracker) if new.tracker else min(numbers, key=used.count),
        plane=plane,
        modules_in_series=last.modules_in_series
        if last and not new.modules_in_series
        else _count("modules_in_series", new.modules_in_series),
    )
    return replace(job, strings=(*job.strings, added))


def _count(field: str, entered: str) -> int:
    count: int = typed(hints(StringPlan)[field], entered, f"$.{field}")
    return count


def without_string(job: Job, name: str) -> Job:
    """The job without a string. Raises Refused when there is none of that name."""
    _known_string(job, name)
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
    known("$.string", name, [one.name for one in job.strings], none=say("strings", "none_yet"))


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
    apart, others = modules_elsewhere(job), {one.name for one in strings_elsewhere(job)}
    free = {
        plane.name: [one for one in serpentine(plane) if one not in apart] for plane in job.planes
    }
    names = (name for name in ascii_uppercase if name not in others)
    plans = []
    for name, string in zip(names, strings, strict=False):
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
    """Modules on each plane: as drawn, or as its strings are planned while it is not drawn.

    In a house of several inverters, without those that hang on the others.
    """
    planned = {
        plane.name: sum(s.modules_in_series for s in job.strings if s.plane == plane.name)
        for plane in job.planes
    }
    apart = Counter(place.plane for place in modules_elsewhere(job))
    for string in strings_elsewhere(job):
        apart[string.plane] += 0 if string.places else string.modules_in_series
    drawn = {one.name: max(one.modules - apart[one.name], 0) for one in job.planes if one.modules}
    return planned | drawn


def _free_names(job: Job) -> Iterable[str]:
    every = (*job.strings, *strings_elsewhere(job))
    taken = {string.name for string in every} | set(job.retired)
    singles = (name for name in ascii_uppercase if name not in taken)
    return (*singles, *(f"S{n}" for n in range(1, 400) if f"S{n}" not in taken))


StringEdit = AddString | RemoveString | PaintString | TakeArrangement
