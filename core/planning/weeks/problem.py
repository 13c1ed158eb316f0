"""Visits of many jobs over weeks as plain values, in whole minutes from one midnight."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Name
from core.base.quantity import Items, Quantity
from core.planning.day.problem import Id, Ids, Minute, Span, Spans

EARTH_KM = 6371.0
# Roads are so much longer than the line through the air, and driven so fast (own defaults).
ROAD_FACTOR, ROAD_KM_PER_H = 1.3, 45.0
MIN_PER_H = 60
Latitude = Annotated[float, Quantity("latitude", "°", -90, 90)]
Longitude = Annotated[float, Quantity("longitude", "°", -180, 180)]


@dataclass(frozen=True, kw_only=True)
class WeekPerson(Checked):
    """Somebody who works at houses. away: when not there."""

    id: Id
    licensed: bool = False
    away: Spans = ()


@dataclass(frozen=True, kw_only=True)
class WeekVisit(Checked):
    """A visit of a job. at: where it lies, None while it lies nowhere; options: where it might be
    put; number: its place among the job's own; goods_min: when what it waits for comes; licensed:
    somebody licensed has to be there."""

    id: Id
    job: Id
    label: Name
    number: Annotated[int, Quantity("visit", "", 1, 60)]
    people: Ids
    latitude_deg: Latitude
    longitude_deg: Longitude
    at: Span | None = None
    options: Spans = ()
    goods_min: Minute | None = None
    licensed: bool = True
    permit: bool = True


@dataclass(frozen=True, kw_only=True)
class WeekProblem(Checked):
    """Everything that binds the weeks."""

    people: Annotated[tuple[WeekPerson, ...], Items("people", 0, 200)]
    visits: Annotated[tuple[WeekVisit, ...], Items("visits", 0, 2000)]

    def contradictions(self) -> Iterator[Problem]:
        for field in ("people", "visits"):
            seen: set[str] = set()
            for index, one in enumerate(getattr(self, field)):
                if one.id in seen:
                    yield problem(f"$.{field}[{index}].id", one.id, "each once")
                seen.add(one.id)


def way_min(one: WeekVisit, other: WeekVisit) -> int:
    """Minutes on the road between two houses: the line over the ground, by own factors."""
    here, there = math.radians(one.latitude_deg), math.radians(other.latitude_deg)
    across = math.radians(other.longitude_deg - one.longitude_deg)
    half = (
        math.sin((there - here) / 2) ** 2
        + math.cos(here) * math.cos(there) * math.sin(across / 2) ** 2
    )
    km = 2 * EARTH_KM * math.asin(min(1.0, math.sqrt(half)))
    return math.ceil(km * ROAD_FACTOR / ROAD_KM_PER_H * MIN_PER_H)
