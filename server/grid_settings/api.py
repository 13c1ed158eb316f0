"""Grid setting endpoints."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.grid_settings import actions
from server.grid_settings.actions import Watched
from server.jobs.schemas import JobView
from server.jobs.views import job_answer
from server.people.current import person_of

router = Router(tags=["gridset"])


@router.post(
    "/{uuid:job_id}/settings",
    response=JobView,
    operation_id="write_profile",
)
def write_profile(request: HttpRequest, job_id: UUID) -> JobView:
    actions.write_profile(person_of(request), job_id)
    return job_answer(job_id)


@router.post(
    "/{uuid:job_id}/settings/look",
    response=JobView,
    operation_id="look_at_settings",
)
def look_at_settings(request: HttpRequest, job_id: UUID) -> JobView:
    actions.look_at_settings(person_of(request), job_id)
    return job_answer(job_id)


@router.post("/{uuid:job_id}/live", response=Watched, operation_id="watch_live")
def watch_live(request: HttpRequest, job_id: UUID) -> Watched:
    person_of(request)
    return actions.watch(job_id)
