"""Record endpoints."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router

from core.assess import assess
from core.base.drawing import svg
from core.base.errors import Refused, problem
from core.files.serial_map import map_csv, map_json
from server.documents.drawings import map_drawings, path_drawing
from server.documents.pdf import drill_pdf, record_page, record_pdf
from server.documents.sheet_files import path_dxf, sheets_pdf
from server.jobs.stored import load
from server.platform.http import download

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
        return download(sheets_pdf((drawing,)), "application/pdf", name)
    if form == "dxf":
        return download(path_dxf(drawing).encode(), "image/vnd.dxf", name)
    return download(svg(drawing).encode(), "image/svg+xml", name)


MapForm = Literal["csv", "json", "svg", "pdf"]


@router.get("/{uuid:job_id}/serial-map", operation_id="get_serial_map")
def get_serial_map(
    request: HttpRequest, job_id: UUID, form: MapForm, sheet: int = 1
) -> HttpResponse:
    job = load(job_id).job
    sheets, name = map_drawings(job), f"{job.name} serial map.{form}"
    stage = assess(job).roof
    if stage is None or (form in ("svg", "pdf") and not 1 <= sheet <= max(len(sheets), 1)):
        raise Http404
    if form == "csv":
        return download(map_csv(stage).encode("utf-8-sig"), "text/csv", name)
    if form == "json":
        return download(map_json(job, stage).encode(), "application/json", name)
    if not sheets:
        raise Refused([problem("$.planes", 0, "a plane that is drawn, to print a map of it")])
    if form == "pdf":
        return download(sheets_pdf(sheets), "application/pdf", name)
    return download(svg(sheets[sheet - 1]).encode(), "image/svg+xml", name)


@router.get("/{uuid:job_id}/drill-sheet", operation_id="get_drill_sheet")
def get_drill_sheet(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load(job_id).job
    return download(drill_pdf(job), "application/pdf", f"{job.name} drill sheet.pdf")
