"""Record endpoints."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from server.jobs.api import download
from server.jobs.stored import row_of, to_core
from server.records.pdf import record_pdf

router = Router(tags=["records"])


@router.get("/{uuid:job_id}/record", operation_id="get_record")
def get_record(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = to_core(row_of(job_id))
    return download(record_pdf(job), "application/pdf", f"{job.name}.pdf")
