"""Evidence endpoints."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from core.base.limits import MOST_PICTURE_BYTES
from server.evidence import actions
from server.jobs.schemas import UUID_FORM, JobView
from server.jobs.views import job_view
from server.people.current import person_of
from server.platform.http import body_up_to, download

router = Router(tags=["evidence"])
PressIdentity = Annotated[str | None, Query(pattern=UUID_FORM)]
Words = Annotated[str, Query(max_length=500)]


@router.post("/{uuid:job_id}/evidence", response=JobView, operation_id="keep_evidence")
def keep_evidence(
    request: HttpRequest,
    job_id: UUID,
    step: Words,
    name: Words = "",
    note: Words = "",
    keep_location: bool = False,
    id: PressIdentity = None,
) -> JobView:
    raw = body_up_to(request, MOST_PICTURE_BYTES, "a picture or document")
    offered = actions.Offered(
        step=step, name=name, note=note, keep_location=keep_location, raw=raw, id=id
    )
    return job_view(actions.keep(person_of(request), job_id, offered))


@router.get("/{uuid:job_id}/evidence/{uuid:evidence_id}", operation_id="get_evidence")
def get_evidence(request: HttpRequest, job_id: UUID, evidence_id: UUID) -> HttpResponse:
    evidence, data = actions.found(job_id, evidence_id)
    if evidence.form == "application/pdf":
        return download(data, evidence.form, evidence.name)
    response = HttpResponse(data, content_type=evidence.form)
    response["Content-Security-Policy"] = "default-src 'none'; sandbox"
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response
