"""Gateway endpoints."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Schema

from server.gateways import actions
from server.jobs.schemas import JobView
from server.jobs.views import job_answer
from server.people.current import person_of

router = Router(tags=["gateways"])


@router.post(
    "/{uuid:job_id}/gateway",
    response=JobView,
    operation_id="look_at_gateway",
)
def look_at_gateway(request: HttpRequest, job_id: UUID) -> JobView:
    actions.look(person_of(request), job_id)
    return job_answer(job_id)


class UnitListIn(Schema):
    """A gateway's list as it was typed; a serial on each line."""

    text: str
    source: actions.Seen = "typed"


@router.post(
    "/{uuid:job_id}/gateway/list",
    response=JobView,
    operation_id="take_unit_list",
)
def take_unit_list(request: HttpRequest, job_id: UUID, body: UnitListIn) -> JobView:
    actions.take_list(person_of(request), job_id, body.text, body.source)
    return job_answer(job_id)


@router.post(
    "/{uuid:job_id}/gateway/live",
    response={200: actions.GatewayNow},
    operation_id="follow_gateway",
)
def follow_gateway(request: HttpRequest, job_id: UUID) -> actions.GatewayNow:
    person_of(request)
    return actions.follow(job_id)
