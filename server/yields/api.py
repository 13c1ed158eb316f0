"""Endpoints of the looks at the yield."""

from __future__ import annotations

from datetime import date
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema

from core.base.limits import MOST_WEATHER_BYTES
from server.jobs.schemas import JobView
from server.jobs.views import job_answer
from server.people.current import person_of
from server.platform.http import body_up_to
from server.yields import actions

router = Router(tags=["yields"])
Short = Annotated[str, Field(max_length=60)]
ShortQuery = Annotated[str, Query(max_length=60)]
NoteQuery = Annotated[str, Query(max_length=500)]


class DayIn(Schema):
    """A day's energy as it was typed; part: the plant, a string or a unit."""

    day: date
    part: Short = "plant"
    entered: Short


class YieldIn(Schema):
    """A look as it was typed. share: of a clear sky; t_air_c: mean air of the days."""

    days: Annotated[list[DayIn], Field(max_length=2000)]
    share: Short = ""
    t_air_c: Short = ""
    note: Annotated[str, Field(max_length=500)] = ""


class CounterIn(Schema):
    """What is said beside the device's own counter."""

    share: Short = ""
    t_air_c: Short = ""
    note: Annotated[str, Field(max_length=500)] = ""


@router.post("/{uuid:job_id}/yield", response=JobView, operation_id="keep_yield")
def keep_yield(request: HttpRequest, job_id: UUID, body: YieldIn) -> JobView:
    days = tuple(
        actions.TypedDay(day=one.day, part=one.part, entered=one.entered) for one in body.days
    )
    around = actions.Around(share=body.share, t_air_c=body.t_air_c, note=body.note)
    actions.keep_typed(person_of(request), job_id, days, around)
    return job_answer(job_id)


@router.post("/{uuid:job_id}/yield/file", response=JobView, operation_id="keep_yield_file")
def keep_yield_file(
    request: HttpRequest,
    job_id: UUID,
    unit: ShortQuery = "",
    share: ShortQuery = "",
    t_air_c: ShortQuery = "",
    note: NoteQuery = "",
) -> JobView:
    raw = body_up_to(request, MOST_WEATHER_BYTES, "a table of energy")
    around = actions.Around(share=share, t_air_c=t_air_c, note=note)
    actions.keep_file(person_of(request), job_id, raw, unit, around)
    return job_answer(job_id)


@router.post(
    "/{uuid:job_id}/yield/counter",
    response=JobView,
    operation_id="keep_yield_counter",
)
def keep_yield_counter(request: HttpRequest, job_id: UUID, body: CounterIn) -> JobView:
    around = actions.Around(share=body.share, t_air_c=body.t_air_c, note=body.note)
    actions.keep_counter(person_of(request), job_id, around)
    return job_answer(job_id)
