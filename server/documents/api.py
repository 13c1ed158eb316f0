"""Record endpoints."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Query, Router

from core.assess import assess
from core.base.drawing import svg
from core.base.errors import Refused, problem
from core.files.job import write_job
from core.files.serial_map import map_csv, map_json
from core.sheets.labels import label_svg
from core.sheets.owner import serials_csv
from server.documents.drawings import map_drawings, path_drawing
from server.documents.pages import record_page
from server.documents.papers import (
    OWNER_PARTS,
    OwnerPart,
    dossier_pdf,
    dossier_zip,
    label_of,
    labels_pdf,
    owner_pdf,
)
from server.documents.record import RecordPart, drill_pdf, record_pdf
from server.documents.sheet_files import path_dxf, sheets_pdf
from server.documents.support import support_zip
from server.jobs.stored import load, load_house
from server.platform.http import download

router = Router(tags=["records"])
Key = Annotated[str, Query(max_length=120)]


@router.get("/{uuid:job_id}/record", operation_id="get_record")
def get_record(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load(job_id).job
    return download(record_pdf(job), "application/pdf", f"{job.name}.pdf")


@router.get("/{uuid:job_id}/record/pages/{int:number}", operation_id="get_record_page")
def get_record_page(request: HttpRequest, job_id: UUID, number: int) -> HttpResponse:
    page = record_page(job_id, number)
    if page is None:
        raise Http404
    response = HttpResponse(page, content_type="image/svg+xml")
    response["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; sandbox"
    return response


@router.get("/{uuid:job_id}/record/parts/{part}", operation_id="get_record_part")
def get_record_part(request: HttpRequest, job_id: UUID, part: RecordPart) -> HttpResponse:
    job = load(job_id).job
    return download(record_pdf(job, (part,)), "application/pdf", f"{job.name} {part}.pdf")


@router.get("/{uuid:job_id}/owner", operation_id="get_owner_pages")
def get_owner_pages(
    request: HttpRequest, job_id: UUID, part: OwnerPart | None = None
) -> HttpResponse:
    job = load(job_id).job
    data = owner_pdf(job, (part,) if part else OWNER_PARTS)
    return download(data, "application/pdf", f"{job.name} {part or 'owner'}.pdf")


@router.get("/{uuid:job_id}/labels", operation_id="get_labels")
def get_labels(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load(job_id).job
    return download(labels_pdf(job), "application/pdf", f"{job.name} labels.pdf")


@router.get("/{uuid:job_id}/label", operation_id="get_label")
def get_label(request: HttpRequest, job_id: UUID, key: Key) -> HttpResponse:
    job = load(job_id).job
    label = label_of(job, key)
    if label is None:
        raise Http404
    return download(label_svg(label).encode(), "image/svg+xml", f"{label.id} {label.of}.svg")


@router.get("/{uuid:job_id}/serials", operation_id="get_serials")
def get_serials(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load(job_id).job
    data = serials_csv(job, assess(job)).encode("utf-8-sig")
    return download(data, "text/csv", f"{job.name} serials.csv")


DossierForm = Literal["pdf", "zip"]


@router.get("/{uuid:job_id}/dossier", operation_id="get_dossier")
def get_dossier(request: HttpRequest, job_id: UUID, form: DossierForm = "pdf") -> HttpResponse:
    house = load_house(job_id)
    if form == "pdf":
        return download(dossier_pdf(house), "application/pdf", f"{house.name} dossier.pdf")
    data = dossier_zip(house, write_job(house).encode())
    return download(data, "application/zip", f"{house.name} dossier.zip")


@router.get("/{uuid:job_id}/support", operation_id="get_support")
def get_support(request: HttpRequest, job_id: UUID, personal: bool = False) -> HttpResponse:
    data = support_zip(load_house(job_id), personal=personal)
    return download(data, "application/zip", "support.zip")


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
