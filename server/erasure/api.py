"""Endpoints of a customer's data."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from server.erasure import actions
from server.people.current import person_of
from server.platform.http import download

router = Router(tags=["erasure"])


class EraseIn(Schema):
    """The job's name typed once more, and why it is erased."""

    name: Annotated[str, Field(max_length=120)]
    why: Annotated[str, Field(max_length=400)]


@router.get("/{uuid:job_id}/personal-data", operation_id="personal_data")
def personal_data(request: HttpRequest, job_id: UUID) -> HttpResponse:
    data = actions.personal_data(person_of(request), job_id)
    return download(data, "application/zip", "personal data.zip")


@router.post("/{uuid:job_id}/erase", response={204: None}, operation_id="erase_job")
def erase_job(request: HttpRequest, job_id: UUID, body: EraseIn) -> tuple[int, None]:
    actions.erase(person_of(request), job_id, body.name, body.why)
    return 204, None
