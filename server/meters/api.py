"""Meter endpoints."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Schema

from server.jobs.schemas import JobView
from server.jobs.views import job_answer
from server.meters import actions
from server.people.current import person_of

router = Router(tags=["meters"])


class MeterStepIn(Schema):
    """What is switched on while the meter is read."""

    step: str


@router.post("/{uuid:job_id}/meter", response=JobView, operation_id="look_at_meter")
def look_at_meter(request: HttpRequest, job_id: UUID, body: MeterStepIn) -> JobView:
    actions.look(person_of(request), job_id, body.step)
    return job_answer(job_id)
