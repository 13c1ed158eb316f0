"""Changing how the days of a job are laid: visits, roof, dark hours, sky, what is moved or late."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from datetime import date
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.glossary import Name
from core.base.quantity import Items
from core.edits.edit import Catalogue, Edit, Entered, known
from core.edits.fields import typed
from core.job.day import (
    BadSky,
    DarkHours,
    DarkMin,
    DayLayout,
    LateGoods,
    MovedTask,
    PlannedVisit,
    RestMin,
    Share,
    Sky,
    ToolCount,
    ToolNumber,
    TravelMin,
)
from core.job.job import Job
from core.planning.day.tasks import TOOLS, kinds, may_be_moved

CLOCK = re.compile(r"^(\d{1,2})[:.h](\d{2})$")
MIN_PER_H, H_PER_DAY = 60, 24
# Set like a tool: there is one or there is none.
LIFT = "lift"


class DayEdit(Edit):
    """Base of every change to how the days of a house are laid."""

    of_house = True

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return replace(job, days=self.changed(job, job.days))

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        """The layout with this change made. Raises Refused; then nothing is changed."""
        raise NotImplementedError


def clock_min(text: str, path: str) -> int:
    """A time of day, as 07:30, in minutes from midnight. Raises Refused."""
    match = CLOCK.match(text.strip())
    hours, minutes = (int(one) for one in match.groups()) if match else (H_PER_DAY, 1)
    at = hours * MIN_PER_H + minutes
    if minutes >= MIN_PER_H or at > H_PER_DAY * MIN_PER_H:
        raise Refused([problem(path, text, "a time of day, as 07:30")])
    return at


@dataclass(frozen=True, kw_only=True)
class PutVisit(DayEdit):
    """One time at the house. number: of the visit that is changed, moved to another day it may be;
    none: a further one, or what is planned on that day already."""

    do: Literal["put_visit"] = "put_visit"
    number: int | None = None
    day: date
    begins: Entered = "07:30"
    ends: Entered = "16:30"
    rest_min: Entered = "30"
    travel_min: Entered = "0"

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        number = self.number
        if number is not None:
            known("$.number", str(number), [str(one.number) for one in days.visits])
        before = next(
            (o for o in days.visits if (o.number == number if number else o.day == self.day)), None
        )
        taken = {one.number for one in days.visits}
        made = PlannedVisit(
            number=before.number if before else min(set(range(1, len(taken) + 2)) - taken),
            day=self.day,
            begins_min=clock_min(self.begins, "$.begins"),
            ends_min=clock_min(self.ends, "$.ends"),
            rest_min=typed(RestMin, self.rest_min or "0", "$.rest_min"),
            travel_min=typed(TravelMin, self.travel_min or "0", "$.travel_min"),
            sky=before.sky if before else (),
        )
        return _with(days, made)


@dataclass(frozen=True, kw_only=True)
class MoveVisit(DayEdit):
    """A visit to another day, with its hours; number: none for the first of a job without any."""

    do: Literal["move_visit"] = "move_visit"
    number: int | None = None
    day: date

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        if self.number is None:
            return PutVisit(day=self.day).changed(job, days)
        visit = _visit(days, self.number, "$.number")
        return _with(days, replace(visit, day=self.day))


@dataclass(frozen=True, kw_only=True)
class RemoveVisit(DayEdit):
    """A visit out of the plan, with what was put on it by hand."""

    do: Literal["remove_visit"] = "remove_visit"
    number: int

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        _visit(days, self.number, "$.number")
        left = tuple(one for one in days.visits if one.number != self.number)
        moved = tuple(one for one in days.moved if one.visit != self.number)
        return replace(days, visits=left, moved=moved)


@dataclass(frozen=True, kw_only=True)
class SetSky(DayEdit):
    """Wind or rain expected in hours of a visit; no hours: none of it."""

    do: Literal["set_sky"] = "set_sky"
    number: int
    what: Sky
    begins: Entered = ""
    ends: Entered = ""

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        visit = _visit(days, self.number, "$.number")
        sky = [one for one in visit.sky if one.what != self.what]
        if self.begins.strip() or self.ends.strip():
            begins, ends = clock_min(self.begins, "$.begins"), clock_min(self.ends, "$.ends")
            sky.append(BadSky(what=self.what, begins_min=begins, ends_min=ends))
        made = replace(visit, sky=tuple(sky))
        visits = tuple(made if one is visit else one for one in days.visits)
        return replace(days, visits=visits)


@dataclass(frozen=True, kw_only=True)
class SetTools(DayEdit):
    """How many of a tool there are, and whether modules go up by a lift."""

    do: Literal["set_tools"] = "set_tools"
    tool: Entered
    count: Entered

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        known("$.tool", self.tool, [*TOOLS, LIFT])
        if self.tool == LIFT:
            return replace(days, lift=typed(ToolNumber, self.count, "$.count") > 0)
        made = ToolCount(tool=self.tool, count=typed(ToolNumber, self.count, "$.count"))
        others = (one for one in days.tools if one.tool != self.tool)
        return replace(days, tools=(*others, made))


@dataclass(frozen=True, kw_only=True)
class SetDays(DayEdit):
    """Who may be on the roof, how much sky is hoped for, when the house may be dark."""

    do: Literal["set_days"] = "set_days"
    roof: Annotated[tuple[Name, ...], Items("people for the roof", 0, 12)]
    sky: Entered
    dark_begins: Entered = ""
    dark_ends: Entered = ""
    dark_longest_min: Entered = ""

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        crew = [one.name for one in job.arrival.crew]
        for name in self.roof:
            known("$.roof", name, crew)
        dark = None
        if self.dark_begins.strip() or self.dark_ends.strip():
            dark = DarkHours(
                begins_min=clock_min(self.dark_begins, "$.dark_begins"),
                ends_min=clock_min(self.dark_ends, "$.dark_ends"),
                longest_min=typed(DarkMin, self.dark_longest_min or "0", "$.dark_longest_min"),
            )
        return replace(days, roof=self.roof, sky=typed(Share, self.sky, "$.sky"), dark=dark)


@dataclass(frozen=True, kw_only=True)
class MoveTask(DayEdit):
    """A task put at a time of a visit; no time: laid as it fits again."""

    do: Literal["move_task"] = "move_task"
    task: Entered
    visit: int = 1
    at: Entered = ""
    reason: Entered = ""

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        known("$.task", self.task, may_be_moved(job))
        others = tuple(one for one in days.moved if one.task != self.task)
        if not self.at.strip():
            return replace(days, moved=others)
        _visit(days, self.visit, "$.visit")
        made = MovedTask(
            task=self.task, visit=self.visit, at_min=clock_min(self.at, "$.at"),
            reason=self.reason.strip(),
        )  # fmt: skip
        return replace(days, moved=(*others, made))


@dataclass(frozen=True, kw_only=True)
class SetLateGoods(DayEdit):
    """What comes on a later day; no day: it is here."""

    do: Literal["set_late_goods"] = "set_late_goods"
    what: Entered
    day: date | None = None

    def changed(self, job: Job, days: DayLayout) -> DayLayout:
        goods = sorted({name for one in kinds() for name in one.goods})
        known("$.what", self.what, goods)
        others = tuple(one for one in days.late if one.what != self.what)
        made = (LateGoods(what=self.what, day=self.day),) if self.day is not None else ()
        return replace(days, late=(*others, *made))


def _with(days: DayLayout, made: PlannedVisit) -> DayLayout:
    """The layout with a visit in the place of what has its number. Raises Refused: one a day."""
    others = [one for one in days.visits if one.number != made.number]
    if any(one.day == made.day for one in others):
        raise Refused([problem("$.day", made.day.isoformat(), "a day of no other visit")])
    return replace(days, visits=tuple(sorted((*others, made), key=lambda one: one.day)))


def _visit(days: DayLayout, number: int, path: str) -> PlannedVisit:
    """The visit of a number. Raises Refused."""
    known(path, str(number), [str(one.number) for one in days.visits])
    return next(one for one in days.visits if one.number == number)


AnyDayEdit = (
    PutVisit | MoveVisit | RemoveVisit | SetSky | SetTools | SetDays | MoveTask | SetLateGoods
)
