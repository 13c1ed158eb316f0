"""What a laid day breaks, task by task: asked whenever somebody moves one."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations
from typing import NamedTuple

from core.base.messages import say
from core.planning.day.problem import DayProblem, Person, Plan, Span, Task, Visit


@dataclass(frozen=True, kw_only=True)
class Broken:
    """One thing that a plan breaks: which rule, at which task, and with whom or what."""

    rule: str
    task: str
    other: str
    said: str


@dataclass(frozen=True, kw_only=True)
class Laid:
    """A task where it lies."""

    task: Task
    start_min: int
    people: tuple[str, ...]

    @property
    def end_min(self) -> int:
        """When it ends."""
        return self.start_min + self.task.minutes

    def overlaps(self, start_min: int, end_min: int) -> bool:
        """Whether any of it lies between two minutes."""
        return self.start_min < end_min and start_min < self.end_min


def broken(problem: DayProblem, plan: Plan) -> tuple[Broken, ...]:
    """Everything that a plan breaks; nothing where it may be worked so."""
    labels = {task.id: task.label for task in problem.tasks}
    return tuple(_worded(one, labels) for one in _broken(problem, laid_of(problem, plan)))


def laid_of(problem: DayProblem, plan: Plan) -> dict[str, Laid]:
    """The tasks of a plan where they lie, by identity."""
    known = {one.id: one for one in problem.tasks}
    return {
        one.task: Laid(task=known[one.task], start_min=one.start_min, people=one.people)
        for one in plan
        if one.task in known
    }


def makespan_min(problem: DayProblem, plan: Plan) -> int:
    """The last end of any task; 0 of an empty plan."""
    return max((one.end_min for one in laid_of(problem, plan).values()), default=0)


def visits_used(problem: DayProblem, plan: Plan) -> int:
    """In how many visits anything lies that somebody has to be there for."""
    laid = laid_of(problem, plan).values()
    there = (visit_of(problem, one) for one in laid if not one.task.unattended)
    return len({visit.id for visit in there if visit is not None})


def visit_of(problem: DayProblem, one: Laid) -> Visit | None:
    """The visit in which a task lies whole."""
    return next(
        (v for v in problem.visits if v.start_min <= one.start_min and one.end_min <= v.end_min),
        None,
    )


class Found(NamedTuple):
    """A rule that is broken, by identity, before it is put in words."""

    rule: str
    task: str
    other: str = ""
    fact: str = ""


def _worded(one: Found, labels: dict[str, str]) -> Broken:
    """What is broken in words. fact: the one figure, reason or further task of its rule."""
    task, other, fact = (labels.get(name, name) for name in one[1:])
    words = say("day_broken", one.rule, task=task, other=other, fact=fact)
    return Broken(rule=one.rule, task=one.task, other=one.other, said=words.strip())


def _broken(problem: DayProblem, laid: dict[str, Laid]) -> Iterator[Found]:
    people = {one.id: one for one in problem.people}
    for task in problem.tasks:
        one = laid.get(task.id)
        if one is None:
            yield Found("not_laid", task.id)
            continue
        yield from _by_itself(problem, one, people)
        for name in task.after:
            before = laid.get(name)
            if before is not None and one.start_min < before.end_min:
                yield Found("after", task.id, name)
    yield from _of_people(problem, laid, people)
    yield from _of_tools(problem, laid)
    for pair in problem.not_together:
        a, b = laid.get(pair.one), laid.get(pair.other)
        if a is not None and b is not None and a.overlaps(b.start_min, b.end_min):
            yield Found("together", pair.one, pair.other)
    yield from _of_supply(problem, laid)


def _by_itself(problem: DayProblem, one: Laid, people: dict[str, Person]) -> Iterator[Found]:
    task = one.task
    if not task.unattended and visit_of(problem, one) is None:
        yield Found("visit", task.id)
    if len(set(one.people)) != task.hands or len(one.people) != task.hands:
        yield Found("hands", task.id, fact=str(task.hands))
    for name in one.people:
        person = people.get(name)
        if person is None:
            yield Found("nobody", task.id, name)
        elif task.roof and not person.roof:
            yield Found("roof", task.id, name)
    licensed = sum(people[name].licensed for name in one.people if name in people)
    if licensed < task.licensed:
        yield Found("licence", task.id)
    if task.windows is not None and not _inside(task.windows, one.start_min, one.end_min):
        yield Found("window", task.id, fact=task.because)
    for goods in problem.goods:
        if goods.id in task.goods and one.start_min < goods.comes_min:
            yield Found("goods", task.id, goods.id)


def _inside(windows: tuple[Span, ...], start_min: int, end_min: int) -> bool:
    return any(one.start_min <= start_min and end_min <= one.end_min for one in windows)


def _of_people(
    problem: DayProblem, laid: dict[str, Laid], people: dict[str, Person]
) -> Iterator[Found]:
    for person in problem.people:
        own = sorted(
            (one for one in laid.values() if person.id in one.people),
            key=lambda one: one.start_min,
        )
        for a, b in combinations(own, 2):
            if a.overlaps(b.start_min, b.end_min):
                yield Found("twice", b.task.id, person.id, fact=a.task.id)
        for one in own:
            if any(one.overlaps(span.start_min, span.end_min) for span in person.away):
                yield Found("away", one.task.id, person.id)
        for visit in problem.visits:
            inside = [one for one in own if visit_of(problem, one) == visit]
            rest = visit.rest
            late = rest and any(one.end_min > rest.latest_end_min for one in inside)
            if (
                rest
                and late
                and not _free(inside, rest.minutes, rest.earliest_min, rest.latest_end_min)
            ):
                yield Found("rest", inside[-1].task.id, person.id)


def _free(own: list[Laid], minutes: int, earliest_min: int, latest_end_min: int) -> bool:
    """Whether so long in a row is without work between two minutes."""
    free_from = earliest_min
    for one in sorted(own, key=lambda each: each.start_min):
        if one.end_min <= free_from or one.task.minutes == 0:
            continue
        if min(one.start_min, latest_end_min) - free_from >= minutes:
            return True
        free_from = max(free_from, one.end_min)
    return latest_end_min - free_from >= minutes


def _of_tools(problem: DayProblem, laid: dict[str, Laid]) -> Iterator[Found]:
    for tool in problem.tools:
        own = [one for one in laid.values() if tool.id in one.task.tools]
        for one in own:
            at = one.start_min
            held = sum(other.start_min <= at < other.end_min for other in own)
            if held > tool.count:
                yield Found("tool", one.task.id, tool.id)


def _of_supply(problem: DayProblem, laid: dict[str, Laid]) -> Iterator[Found]:
    supply = problem.supply
    if supply is None or supply.off_task not in laid or supply.on_task not in laid:
        return
    off, on = laid[supply.off_task], laid[supply.on_task]
    if on.start_min < off.end_min:
        yield Found("supply_order", supply.on_task, supply.off_task)
    if not _inside(supply.windows, off.start_min, on.end_min):
        yield Found("supply_hours", supply.off_task, supply.on_task)
    if on.end_min - off.start_min > supply.longest_min:
        yield Found("supply_long", supply.on_task, fact=str(supply.longest_min))
    for one in laid.values():
        if one.task.supply == "dead" and not (
            off.end_min <= one.start_min and one.end_min <= on.start_min
        ):
            yield Found("supply_dead", one.task.id)
        if one.task.supply == "live" and one.overlaps(off.start_min, on.end_min):
            yield Found("supply_live", one.task.id)
