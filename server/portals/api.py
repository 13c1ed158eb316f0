"""Portal endpoints."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.jobs.schemas import JobView
from server.jobs.views import job_answer
from server.people.current import person_of
from server.portals import actions

router = Router(tags=["portals"])


@router.post(
    "/{uuid:job_id}/portal/plant",
    response=JobView,
    operation_id="register_plant",
)
def register_plant(request: HttpRequest, job_id: UUID) -> JobView:
    actions.register(person_of(request), job_id)
    return job_answer(job_id)


@router.post(
    "/{uuid:job_id}/portal",
    response=JobView,
    operation_id="look_at_portal",
)
def look_at_portal(request: HttpRequest, job_id: UUID) -> JobView:
    actions.look(person_of(request), job_id)
    return job_answer(job_id)
