"""How the day is laid: the visits, who may be on the roof, when it may be dark, what was moved."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Name, Note
from core.base.quantity import Items, Quantity, Text

ClockMin = Annotated[int, Quantity("minute of the day", "min", 0, 1440)]
Share = Annotated[float, Quantity("share of a clear sky", "", 0.05, 1.0)]
TaskId = Annotated[str, Text("task", 1, 80)]
MOST_VISITS = 20
VisitNumber = Annotated[int, Quantity("visit", "", 1, 60)]
Sky = Literal["wind", "rain"]
RestMin = Annotated[int, Quantity("break", "min", 0, 180)]
DarkMin = Annotated[int, Quantity("dark at most", "min", 10, 720)]
ToolNumber = Annotated[int, Quantity("how many", "", 0, 20)]
TravelMin = Annotated[int, Quantity("way there", "min", 0, 600)]


@dataclass(frozen=True, kw_only=True)
class BadSky(Checked):
    """Hours of a visit in which somebody expects wind or rain."""

    what: Sky
    begins_min: ClockMin
    ends_min: ClockMin

    def contradictions(self) -> Iterator[Problem]:
        if self.ends_min <= self.begins_min:
            yield problem("$.ends_min", self.ends_min, f"after {self.begins_min}")


@dataclass(frozen=True, kw_only=True)
class PlannedVisit(Checked):
    """One time at the house, by the local clock. number: by which it is known, moved or not;
    rest_min: of the break in the middle of it, 0 for none; travel_min: the way there, before it
    begins; sky: when nobody works on the roof."""

    number: VisitNumber
    day: date
    begins_min: ClockMin = 450
    ends_min: ClockMin = 990
    rest_min: RestMin = 30
    travel_min: TravelMin = 0
    sky: Annotated[tuple[BadSky, ...], Items("wind and rain", 0, 12)] = ()

    def contradictions(self) -> Iterator[Problem]:
        if self.ends_min <= self.begins_min:
            yield problem("$.ends_min", self.ends_min, f"after {self.begins_min}")


@dataclass(frozen=True, kw_only=True)
class DarkHours(Checked):
    """When the owner agreed that the house is without its supply, and for how long at most."""

    begins_min: ClockMin
    ends_min: ClockMin
    longest_min: DarkMin

    def contradictions(self) -> Iterator[Problem]:
        if self.ends_min <= self.begins_min:
            yield problem("$.ends_min", self.ends_min, f"after {self.begins_min}")


@dataclass(frozen=True, kw_only=True)
class MovedTask(Checked):
    """A task that somebody put at a minute of a visit's day, and why."""

    task: TaskId
    visit: VisitNumber
    at_min: ClockMin
    reason: Note = ""


@dataclass(frozen=True, kw_only=True)
class LateGoods(Checked):
    """What comes on a later day: a line of the load-in sheet, or the inverter."""

    what: Name
    day: date


@dataclass(frozen=True, kw_only=True)
class ToolCount(Checked):
    """How many of a thing the crew has with it."""

    tool: Name
    count: ToolNumber


@dataclass(frozen=True, kw_only=True)
class DayLayout(Checked):
    """What a person says of the days of a job. roof: who may be on it; sky: how much of a clear sky
    is hoped for; tools: where there is not one of it; lift: modules go up by one."""

    visits: Annotated[tuple[PlannedVisit, ...], Items("visits", 0, MOST_VISITS)] = ()
    roof: Annotated[tuple[Name, ...], Items("people for the roof", 0, 12)] = ()
    dark: DarkHours | None = None
    sky: Share = 0.6
    moved: Annotated[tuple[MovedTask, ...], Items("tasks moved", 0, 200)] = ()
    late: Annotated[tuple[LateGoods, ...], Items("goods that come later", 0, 40)] = ()
    tools: Annotated[tuple[ToolCount, ...], Items("tools", 0, 12)] = ()
    lift: bool = False

    def contradictions(self) -> Iterator[Problem]:
        for field, names in (
            ("visits", [one.day.isoformat() for one in self.visits]),
            ("visits", [str(one.number) for one in self.visits]),
            ("moved", [one.task for one in self.moved]),
            ("late", [one.what for one in self.late]),
            ("tools", [one.tool for one in self.tools]),
        ):
            for index, name in enumerate(names):
                if name in names[:index]:
                    yield problem(f"$.{field}[{index}]", name, "each once")


NOTHING_LAID = DayLayout()
