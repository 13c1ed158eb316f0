"""Endpoints of the day."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from core.job.job import Job
from core.planning.day.problem import PlacedTask
from schedule.solver import Goal
from server.day.crewed import crewed_of
from server.day.files import day_calendar, day_csv, day_sheet
from server.day.laying import Relax, what_would_let_it_fit
from server.day.views import Asked, DayView, LaidDay, day_view, laid_day
from server.jobs.stored import load, row_of
from server.platform.http import download

router = Router(tags=["day"])


class MovedIn(Schema):
    """A task put at a minute for a look."""

    task: Annotated[str, Field(max_length=80)]
    start_min: Annotated[int, Field(ge=0, le=86_400)]


class LookIn(Schema):
    """What is moved for a look; nothing of it is kept. from_now: the rest of a day begun."""

    goal: Goal = "shortest"
    moved: Annotated[list[MovedIn], Field(max_length=40)]
    from_now: bool = False


@router.get("/{uuid:job_id}/day", response=DayView, operation_id="get_day")
def get_day(
    request: HttpRequest,
    job_id: UUID,
    goal: Goal = "shortest",
    from_now: bool = False,
    at_once: bool = False,
) -> DayView:
    job, asked = _asked(job_id, goal, from_now=from_now)
    return day_view(job, replace(asked, at_once=at_once))


@router.post("/{uuid:job_id}/day", response=DayView, operation_id="try_day")
def try_day(request: HttpRequest, job_id: UUID, body: LookIn) -> DayView:
    moved = tuple(PlacedTask(task=one.task, start_min=one.start_min) for one in body.moved)
    job, asked = _asked(job_id, body.goal, from_now=body.from_now)
    return day_view(job, asked, moved)


@router.get("/{uuid:job_id}/day/relax", response=list[Relax], operation_id="get_day_relax")
def get_day_relax(request: HttpRequest, job_id: UUID, from_now: bool = False) -> list[Relax]:
    job = load(job_id).job
    now = datetime.now(UTC) if from_now else None
    return what_would_let_it_fit(job, crewed_of(row_of(job_id), job), now)


@router.get("/{uuid:job_id}/day/sheet", operation_id="get_day_sheet")
def get_day_sheet(request: HttpRequest, job_id: UUID) -> HttpResponse:
    day = _laid(job_id)
    return download(day_sheet(day), "application/pdf", f"{day.job.name} day.pdf")


@router.get("/{uuid:job_id}/day/tasks", operation_id="get_day_tasks")
def get_day_tasks(request: HttpRequest, job_id: UUID) -> HttpResponse:
    day = _laid(job_id)
    return download(day_csv(day).encode(), "text/csv; charset=utf-8", f"{day.job.name} day.csv")


@router.get("/{uuid:job_id}/day/calendar", operation_id="get_day_calendar")
def get_day_calendar(request: HttpRequest, job_id: UUID) -> HttpResponse:
    day = _laid(job_id)
    data = day_calendar(day, row_of(job_id), datetime.now(UTC))
    return download(data, "text/calendar; charset=utf-8", f"{day.job.name}.ics")


def _asked(job_id: UUID, goal: Goal, *, from_now: bool) -> tuple[Job, Asked]:
    job = load(job_id).job
    now = datetime.now(UTC) if from_now else None
    return job, Asked(goal=goal, crewed=crewed_of(row_of(job_id), job), now=now)


def _laid(job_id: UUID) -> LaidDay:
    return laid_day(*_asked(job_id, "shortest", from_now=False))
