"""The tasks of a job, counted from its plan, with first times of the trade and what binds them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date
from functools import cache
from typing import Annotated

from core.base.form import Checked, read
from core.base.glossary import Name, Note
from core.base.messages import figure, say
from core.base.quantity import Items, Quantity
from core.data import load
from core.job.day import Sky
from core.job.job import Job
from core.planning.day.problem import (
    Apart,
    DayProblem,
    Goods,
    Hands,
    Id,
    Ids,
    Person,
    Rest,
    Span,
    Supply,
    SupplyOff,
    Task,
    Tool,
    Visit,
)

MIN_PER_DAY = 1440
# A break lies around the middle of a visit, and this far to both sides of it (own default).
REST_SLACK_MIN = 60
# There is one of each unless somebody says more.
TOOLS = ("tester", "torque", "ladder")
INVERTER = "inverter"
# What ends a visit, whatever was left for the next.
AT_THE_END = ("clear_up",)
TaskMin = Annotated[float, Quantity("minutes of a task", "min", 0, 600)]


@dataclass(frozen=True, kw_only=True)
class Heavier(Checked):
    """Pieces of a kind that take longer, and more hands."""

    of: Id
    each_min: TaskMin
    hands: Hands


@dataclass(frozen=True, kw_only=True)
class TaskKind(Checked):
    """One kind of task as data: its time, by piece, and what it binds. everybody: all who are
    there. sun, daylight, dry: when it may be done. reads: by what is read it is known to be done;
    timed_by: one reading for each piece, from whose moments the crew's own time comes. lift_min: a
    piece with a lift."""

    id: Id
    label: Name
    label_one: Note = ""
    base_min: TaskMin = 0
    each_min: TaskMin = 0
    hands: Hands
    licensed: Hands = 0
    roof: bool = False
    tools: Ids = ()
    after: Ids = ()
    goods: Ids = ()
    supply: Supply = "any"
    everybody: bool = False
    sun: bool = False
    daylight: bool = False
    dry: bool = False
    lift_min: TaskMin | None = None
    heavier: Annotated[tuple[Heavier, ...], Items("heavier pieces", 0, 4)] = ()
    timed_by: Annotated[tuple[Name, ...], Items("kinds of reading", 0, 4)] = ()
    reads: Annotated[tuple[Name, ...], Items("kinds of reading", 0, 12)] = ()


@dataclass(frozen=True, kw_only=True)
class Counted:
    """How much of each kind there is to do, and what of it is done. planes: strings by plane."""

    counts: tuple[tuple[str, float], ...]
    planes: tuple[tuple[str, int], ...]
    done: frozenset[str]


@dataclass(frozen=True, kw_only=True)
class Light:
    """When there is light over the visits, in minutes from the first one's midnight. planes: spans
    in which a plane has what a reading wants, with why in words."""

    daylight: tuple[Span, ...]
    planes: tuple[tuple[str, tuple[Span, ...], str], ...]


@dataclass(frozen=True, kw_only=True)
class OwnTime(Checked):
    """What a crew was seen to take for a piece of a kind of work: the middle, and the spread in
    which half of it lies. seen: how often."""

    kind: Id
    each_min: TaskMin
    low_min: TaskMin
    high_min: TaskMin
    seen: Annotated[int, Quantity("times seen", "", 1, 100_000)]


@dataclass(frozen=True, kw_only=True)
class Crewed:
    """What the crew brings besides the job: its own times, who is away when, in minutes from the
    first visit's midnight."""

    times: tuple[OwnTime, ...] = ()
    away: tuple[tuple[str, tuple[Span, ...]], ...] = ()


AS_FIRST = Crewed()


@cache
def kinds() -> tuple[TaskKind, ...]:
    """Every kind of task, in the order of the work."""
    return tuple(read(TaskKind, one) for one in load("day_tasks"))


def day_problem(job: Job, counted: Counted, light: Light, crewed: Crewed = AS_FIRST) -> DayProblem:
    """The days of a job as a solver takes them, in minutes from the first visit's midnight.

    What waits for an inverter that comes on a visit nobody planned yet is left out.
    """
    visits = visits_of(job)
    people = tuple(_people(job, crewed))
    every = tuple(_tasks(job, counted, light, len(people), crewed))
    left = left_for_later(job, every)
    tasks = tuple(_pinned(job, one) for one in every if one.id not in left)
    there = {one.id for one in tasks}
    late = {one.what for one in job.days.late}
    tasks = tuple(
        replace(
            one,
            after=_known(one.after, there),
            goods=tuple(name for name in one.goods if name in late),
        )
        for one in tasks
    )
    dark = job.days.dark
    supply = None
    if dark is not None and {"off", "on_again"} <= there:
        spans = tuple(
            Span(start_min=day + dark.begins_min, end_min=day + dark.ends_min) for day in _days(job)
        )
        supply = SupplyOff(
            off_task="off", on_task="on_again", windows=spans, longest_min=dark.longest_min
        )
    elif {"off", "on_again"} <= there:
        # No hours are agreed: the house may be dark at any time of a visit, but as one.
        spans = tuple(Span(start_min=v.start_min, end_min=v.end_min) for v in visits)
        longest = max((one.end_min - one.start_min for one in visits), default=0)
        supply = SupplyOff(off_task="off", on_task="on_again", windows=spans, longest_min=longest)
    first = min((one.day for one in job.days.visits), default=job.day)
    return DayProblem(
        people=people,
        visits=visits,
        tasks=tasks,
        tools=tuple(_tools(job)),
        goods=tuple(
            Goods(id=one.what, comes_min=(one.day - first).days * MIN_PER_DAY)
            for one in job.days.late
            if any(one.what in task.goods for task in tasks)
        ),
        supply=supply,
        not_together=tuple(_apart(there)),
    )


def left_for_later(job: Job, tasks: tuple[Task, ...]) -> frozenset[str]:
    """What waits for an inverter that no planned visit brings, by identity, with all after it."""
    comes = {one.what for one in job.days.late}
    if not job.arrival.first_visit or INVERTER in comes:
        return frozenset()
    left = {one.id for one in tasks if INVERTER in one.goods}
    while True:
        more = {one.id for one in tasks if left & set(one.after)} - left - set(AT_THE_END)
        if not more:
            return frozenset(left)
        left |= more


def _tools(job: Job) -> Iterator[Tool]:
    counts = {one.tool: one.count for one in job.days.tools}
    for name in TOOLS:
        yield Tool(id=name, count=counts.get(name, 1))


def _apart(there: set[str]) -> Iterator[Apart]:
    """Nobody is on the roof while its strings are read at the wall."""
    for reading in sorted(one for one in there if one.startswith("readings")):
        for work in ("units", "modules"):
            if work in there:
                yield Apart(one=reading, other=work)


def _days(job: Job) -> tuple[int, ...]:
    """The midnight of each visit, in minutes from the first one's."""
    days = sorted(one.day for one in job.days.visits)
    return tuple((one - days[0]).days * MIN_PER_DAY for one in days)


def midnight_of(job: Job, number: int) -> int | None:
    """The midnight of a visit, by its number, in minutes from the first one's."""
    numbers = [one.number for one in sorted(job.days.visits, key=lambda one: one.day)]
    return _days(job)[numbers.index(number)] if number in numbers else None


def origin(job: Job) -> date:
    """The day at whose midnight the minutes begin."""
    return min((one.day for one in job.days.visits), default=job.day)


def visits_of(job: Job) -> tuple[Visit, ...]:
    """The visits of a job in their order, in minutes from the first one's midnight."""
    return tuple(_visits(job))


def _visits(job: Job) -> Iterator[Visit]:
    ordered = sorted(job.days.visits, key=lambda one: one.day)
    for one, day in zip(ordered, _days(job), strict=True):
        start, end = day + one.begins_min, day + one.ends_min
        middle = (start + end) // 2
        rest = None
        if one.rest_min and end - start > 2 * REST_SLACK_MIN + one.rest_min:
            rest = Rest(
                minutes=one.rest_min,
                earliest_min=middle - REST_SLACK_MIN - one.rest_min // 2,
                latest_end_min=middle + REST_SLACK_MIN + one.rest_min - one.rest_min // 2,
            )
        yield Visit(id=f"visit {one.number}", start_min=start, end_min=end, rest=rest)


def _people(job: Job, crewed: Crewed) -> Iterator[Person]:
    away = dict(crewed.away)
    # Two of one name in an old file are one: who of them is meant nobody can tell.
    crew = {one.name: one for one in reversed(job.arrival.crew) if one.present}
    for one in reversed(crew.values()):
        yield Person(
            id=one.name,
            licensed=bool(one.licence.strip()),
            roof=one.name in job.days.roof,
            away=away.get(one.name, ()),
        )


def without(spans: tuple[Span, ...], cut: tuple[Span, ...]) -> tuple[Span, ...]:
    """Spans with others cut out of them."""
    left = spans
    for gap in cut:
        parts = (
            ((one.start_min, min(one.end_min, gap.start_min)) for one in left),
            ((max(one.start_min, gap.end_min), one.end_min) for one in left),
        )
        pieces = sorted({piece for part in parts for piece in part if piece[0] < piece[1]})
        left = tuple(Span(start_min=a, end_min=b) for a, b in pieces)
    return left


def _bad_sky(job: Job, *kinds_of: Sky) -> tuple[Span, ...]:
    """When somebody expects wind or rain, over every visit."""
    ordered = sorted(job.days.visits, key=lambda one: one.day)
    return tuple(
        Span(start_min=day + one.begins_min, end_min=day + one.ends_min)
        for visit, day in zip(ordered, _days(job), strict=True)
        for one in visit.sky
        if one.what in kinds_of
    )


def _tasks(job: Job, counted: Counted, light: Light, crew: int, crewed: Crewed) -> Iterator[Task]:
    counts = dict(counted.counts)
    times = {one.kind: one.each_min for one in crewed.times}
    for kind in kinds():
        if kind.id in counted.done:
            continue
        if kind.sun:
            for plane, strings in counted.planes:
                spans, why = next(
                    ((s, w) for name, s, w in light.planes if name == plane), (None, "")
                )
                made = _task(kind, strings, crew, plane, times.get(kind.id))
                yield replace(made, id=f"{kind.id} {plane}", windows=spans, because=why)
            continue
        count = counts.get(kind.id, 0 if kind.each_min else 1)
        heavier = [(one, counts.get(f"{kind.id} {one.of}", 0)) for one in kind.heavier]
        if count <= 0 and not any(more for _, more in heavier):
            continue
        each = kind.lift_min if job.days.lift and kind.lift_min is not None else None
        task = _task(kind, count, crew, "", each if each is not None else times.get(kind.id))
        more_min = math.fsum(one.each_min * more for one, more in heavier)
        hands = max([task.hands, *(one.hands for one, more in heavier if more)])
        label = _label(kind, count + sum(more for _, more in heavier), "")
        task = replace(task, label=label, minutes=task.minutes + math.ceil(more_min), hands=hands)
        yield _in_its_hours(job, kind, task, light)


def _in_its_hours(job: Job, kind: TaskKind, task: Task, light: Light) -> Task:
    """A task in daylight where it wants that, out of wind and rain on the roof, dry."""
    if kind.daylight and not kind.roof:
        return replace(task, windows=light.daylight, because=say("day_why", "daylight"))
    bad = _bad_sky(job, "wind", "rain") if kind.roof else _bad_sky(job, "rain")
    if kind.roof:
        key = "roof_sky" if bad else "daylight"
        return replace(task, windows=without(light.daylight, bad), because=say("day_why", key))
    if kind.dry and bad:
        whole = tuple(Span(start_min=v.start_min, end_min=v.end_min) for v in visits_of(job))
        return replace(task, windows=without(whole, bad), because=say("day_why", "dry"))
    return task


def _pinned(job: Job, task: Task) -> Task:
    """The task at the minute that somebody put it at; as it is where nobody did."""
    moved = next((one for one in job.days.moved if one.task == task.id), None)
    midnight = midnight_of(job, moved.visit) if moved is not None else None
    if moved is None or midnight is None:
        return task
    at = midnight + moved.at_min
    pinned = (Span(start_min=at, end_min=at + max(1, task.minutes)),)
    return replace(task, windows=pinned, because=moved.reason or say("day_why", "moved"))


def may_be_moved(job: Job) -> tuple[str, ...]:
    """The tasks that somebody may put at a time: each kind, readings by their plane."""
    return tuple(
        name
        for kind in kinds()
        for name in ([f"{kind.id} {one.name}" for one in job.planes] if kind.sun else [kind.id])
    )


def _task(kind: TaskKind, count: float, crew: int, plane: str, own_min: float | None) -> Task:
    each_min = kind.each_min if own_min is None else own_min
    minutes = math.ceil(kind.base_min + each_min * count)
    return Task(
        id=kind.id,
        label=_label(kind, count, plane),
        minutes=minutes,
        hands=crew if kind.everybody else kind.hands,
        licensed=kind.licensed,
        roof=kind.roof,
        tools=kind.tools,
        after=kind.after,
        goods=kind.goods,
        supply=kind.supply,
    )


def _label(kind: TaskKind, count: float, plane: str) -> str:
    pieces = figure(count, "", 0)
    words = kind.label_one if pieces == "1" and kind.label_one else kind.label
    return words.format(count=pieces, plane=plane)[:60]


def _known(after: tuple[str, ...], there: set[str]) -> tuple[str, ...]:
    """What a task comes after, of what is still to be done: past what is not there to what stands
    before it."""
    own = {one.id: one.after for one in kinds()}
    found: list[str] = []
    seen: set[str] = set()

    def reach(name: str) -> None:
        if name in seen:
            return
        seen.add(name)
        named = [one for one in there if one == name or one.startswith(f"{name} ")]
        if named:
            found.extend(sorted(named))
        else:
            for before in own.get(name, ()):
                reach(before)

    for name in after:
        reach(name)
    return tuple(dict.fromkeys(found))
