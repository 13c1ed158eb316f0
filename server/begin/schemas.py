"""What the API takes and gives about beginning a job."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated
from uuid import UUID

from ninja import Field, Schema
from pydantic import ConfigDict

from core.base.form import read
from core.begin.questions import Answers, Beginning
from server.jobs.schemas import read_by_core

AnswersIn = Annotated[Answers, read_by_core(lambda data: read(Answers, data))]


@dataclass(frozen=True, kw_only=True)
class BegunLine:
    """A job that is being begun, as the home shows it. open: what keeps it from being a job."""

    id: UUID
    name: str
    place: str
    by: str
    at: datetime
    open: tuple[str, ...]


class BegunView(Schema):
    """What was answered so far, and how it stands."""

    id: UUID
    answers: Answers
    asked: Beginning


@dataclass(frozen=True, kw_only=True)
class Spot:
    """A place that may be meant. country: by two letters; near: what is near it, in words."""

    place: str
    country: str
    near: str
    latitude_deg: float
    longitude_deg: float
    timezone: str


@dataclass(frozen=True, kw_only=True)
class Dot:
    """A town on the drawn map."""

    name: str
    latitude_deg: float
    longitude_deg: float
    people: int


class RoofTableIn(Schema):
    """A planner's table of a roof."""

    model_config = ConfigDict(extra="forbid")
    text: Annotated[str, Field(max_length=200_000)]


@dataclass(frozen=True, kw_only=True)
class RoofLine:
    """The same roof in one line."""

    roof: str
