"""Record endpoints."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router

from core.drawing import svg
from server.http import download
from server.jobs.stored import load
from server.records.drawings import path_drawing
from server.records.path_files import path_dxf, path_pdf
from server.records.pdf import drill_pdf, record_page, record_pdf

router = Router(tags=["records"])


@router.get("/{uuid:job_id}/record", operation_id="get_record")
def get_record(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load(job_id).job
    return download(record_pdf(job), "application/pdf", f"{job.name}.pdf")


@router.get("/{uuid:job_id}/record/pages/{int:number}", operation_id="get_record_page")
def get_record_page(request: HttpRequest, job_id: UUID, number: int) -> HttpResponse:
    page = record_page(load(job_id).job, number)
    if page is None:
        raise Http404
    return HttpResponse(page, content_type="image/png")


PathForm = Literal["svg", "pdf", "dxf"]


@router.get("/{uuid:job_id}/energy-path", operation_id="get_energy_path")
def get_energy_path(request: HttpRequest, job_id: UUID, form: PathForm) -> HttpResponse:
    job = load(job_id).job
    drawing = path_drawing(job)
    name = f"{job.name} energy path.{form}"
    if form == "pdf":
        return download(path_pdf(drawing), "application/pdf", name)
    if form == "dxf":
        return download(path_dxf(drawing).encode(), "image/vnd.dxf", name)
    return download(svg(drawing).encode(), "image/svg+xml", name)


@router.get("/{uuid:job_id}/drill-sheet", operation_id="get_drill_sheet")
def get_drill_sheet(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load(job_id).job
    return download(drill_pdf(job), "application/pdf", f"{job.name} drill sheet.pdf")
