"""The day as a solver takes it: tasks, people, visits, tools, goods, the supply, in whole minutes.

One axis of minutes from the first visit's morning; intervals are half open; a task is not stopped
once begun.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Name, Note
from core.base.quantity import Items, Quantity, Text

# Sixty days of minutes.
MOST_MIN = 86_400
Minute = Annotated[int, Quantity("minute", "min", -MOST_MIN, MOST_MIN)]
Minutes = Annotated[int, Quantity("minutes", "min", 0, MOST_MIN)]
Hands = Annotated[int, Quantity("hands", "", 0, 20)]
Id = Annotated[str, Text("identity", 1, 80)]
Ids = Annotated[tuple[Id, ...], Items("identities", 0, 400)]
Supply = Literal["any", "dead", "live"]


@dataclass(frozen=True, kw_only=True)
class Span(Checked):
    """From one minute up to another."""

    start_min: Minute
    end_min: Minute

    def contradictions(self) -> Iterator[Problem]:
        if self.end_min <= self.start_min:
            yield problem("$.end_min", self.end_min, f"after {self.start_min}")


Spans = Annotated[tuple[Span, ...], Items("spans", 0, 200)]


@dataclass(frozen=True, kw_only=True)
class Person(Checked):
    """Somebody of the crew. away: when not there."""

    id: Id
    licensed: bool = False
    roof: bool = False
    away: Spans = ()


@dataclass(frozen=True, kw_only=True)
class Rest(Checked):
    """A break: so long in a row without work, inside these minutes, of who works past them."""

    minutes: Annotated[int, Quantity("break", "min", 1, 240)]
    earliest_min: Minute
    latest_end_min: Minute

    def contradictions(self) -> Iterator[Problem]:
        if self.latest_end_min - self.earliest_min < self.minutes:
            yield problem("$.latest_end_min", self.latest_end_min, "room for the break")


@dataclass(frozen=True, kw_only=True)
class Visit(Checked):
    """One time at the house."""

    id: Id
    start_min: Minute
    end_min: Minute
    rest: Rest | None = None

    def contradictions(self) -> Iterator[Problem]:
        if self.end_min <= self.start_min:
            yield problem("$.end_min", self.end_min, f"after {self.start_min}")


@dataclass(frozen=True, kw_only=True)
class Task(Checked):
    """One piece of work. hands: how many it binds from start to end, none for a wait; licensed: how
    many of them are. windows: None where it may lie at any time; unattended: a wait that runs on
    between visits. supply: dead or live while it is done. because: why its windows are as they
    are, in words."""

    id: Id
    label: Name
    minutes: Minutes
    hands: Hands = 1
    licensed: Hands = 0
    roof: bool = False
    tools: Ids = ()
    after: Ids = ()
    goods: Ids = ()
    windows: Spans | None = None
    supply: Supply = "any"
    unattended: bool = False
    because: Note = ""

    def contradictions(self) -> Iterator[Problem]:
        if self.licensed > self.hands:
            yield problem("$.licensed", self.licensed, f"at most {self.hands}, its hands")


@dataclass(frozen=True, kw_only=True)
class SupplyOff(Checked):
    """When the house may be without its supply: from the start of one task to the end of another,
    whole in one agreed span."""

    off_task: Id
    on_task: Id
    windows: Spans
    longest_min: Minutes


@dataclass(frozen=True, kw_only=True)
class Tool(Checked):
    """So many of a thing that a task binds."""

    id: Id
    count: Annotated[int, Quantity("tools", "", 0, 50)]


@dataclass(frozen=True, kw_only=True)
class Goods(Checked):
    """Goods that come at a minute."""

    id: Id
    comes_min: Minute


@dataclass(frozen=True, kw_only=True)
class Apart(Checked):
    """Two tasks that are never done at the same time."""

    one: Id
    other: Id


@dataclass(frozen=True, kw_only=True)
class DayProblem(Checked):
    """Everything that binds a day."""

    people: Annotated[tuple[Person, ...], Items("people", 0, 40)]
    visits: Annotated[tuple[Visit, ...], Items("visits", 0, 120)]
    tasks: Annotated[tuple[Task, ...], Items("tasks", 0, 400)]
    tools: Annotated[tuple[Tool, ...], Items("tools", 0, 40)] = ()
    goods: Annotated[tuple[Goods, ...], Items("goods", 0, 200)] = ()
    supply: SupplyOff | None = None
    not_together: Annotated[tuple[Apart, ...], Items("pairs", 0, 400)] = ()

    def contradictions(self) -> Iterator[Problem]:
        for field in ("people", "visits", "tasks", "tools", "goods"):
            ids = [one.id for one in getattr(self, field)]
            for index, name in enumerate(ids):
                if name in ids[:index]:
                    yield problem(f"$.{field}[{index}].id", name, "each once")
        known = {one.id for one in self.tasks}
        tools, goods = {one.id for one in self.tools}, {one.id for one in self.goods}
        for index, task in enumerate(self.tasks):
            for field, names in (("after", known), ("tools", tools), ("goods", goods)):
                for name in getattr(task, field):
                    if name not in names:
                        allowed = " · ".join(sorted(names)) or "none is there"
                        yield problem(f"$.tasks[{index}].{field}", name, allowed)
        for index, pair in enumerate(self.not_together):
            for name in (pair.one, pair.other):
                if name not in known:
                    yield problem(f"$.not_together[{index}]", name, "a task of the day")
        for name in (self.supply.off_task, self.supply.on_task) if self.supply else ():
            if name not in known:
                yield problem("$.supply", name, "a task of the day")


@dataclass(frozen=True, kw_only=True)
class PlacedTask(Checked):
    """When a task begins, and who does it."""

    task: Id
    start_min: Minute
    people: Ids = ()


Plan = Annotated[tuple[PlacedTask, ...], Items("tasks placed", 0, 400)]


def circle(tasks: tuple[Task, ...]) -> tuple[str, ...]:
    """Tasks that wait for each other in a circle, in order; none where there is no circle."""
    left = {one.id: set(one.after) for one in tasks}
    while True:
        ready = [name for name, before in left.items() if not before & set(left)]
        if not ready:
            break
        for name in ready:
            del left[name]
    if not left:
        return ()
    path = [next(iter(left))]
    while True:
        following = next(name for name in left[path[-1]] if name in left)
        if following in path:
            return tuple(path[path.index(following) :])
        path.append(following)
