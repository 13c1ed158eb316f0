"""What devices take along, and what they tell."""

from __future__ import annotations

import logging
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema
from pydantic import ConfigDict

from core.version import core_version
from server.hand.views import Given, given_text
from server.people.audit import audit
from server.people.current import person_of

router = Router(tags=["hand"])
log = logging.getLogger("long_noon.hand")


@router.get("/{uuid:job_id}/hand", response=Given, operation_id="take_along")
def take_along(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """A job with all that a device needs to judge it by itself."""
    text = given_text(person_of(request), job_id)
    return HttpResponse(text, content_type="application/json")


class ApartIn(Schema):
    """Two digests of one job at one moment that are not the same."""

    model_config = ConfigDict(extra="forbid")
    core: Annotated[str, Field(max_length=12)]
    here: Annotated[str, Field(max_length=64)]
    there: Annotated[str, Field(max_length=64)]


@router.post("/{uuid:job_id}/apart", response={204: None}, operation_id="judged_apart")
def judged_apart(request: HttpRequest, job_id: UUID, body: ApartIn) -> tuple[int, None]:
    """A device judged otherwise than the server: written down for whoever runs it."""
    said = f"core {body.core} there, {core_version()} here: {body.here[:12]}, {body.there[:12]}"
    log.error("%s judged apart on a device: %s", job_id, said)
    audit(person_of(request), job_id, "judged apart on a device", said)
    return 204, None
