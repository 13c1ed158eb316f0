"""Job endpoints."""

from __future__ import annotations

import json
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from core.assess import assess
from core.change import Change
from core.form import write
from core.jobfile import BYTES_PER_MB, MOST_BYTES, write_job
from server.jobs import actions
from server.jobs.models import JobRow
from server.jobs.schemas import (
    ChangesIn,
    JobId,
    JobLine,
    JobView,
    NewJobIn,
    SunView,
    job_line,
    job_view,
)
from server.jobs.stored import load, to_core
from server.jobs.sun import sun_view
from server.people.api import person_of
from server.problems import ProblemReport, TooLarge

router = Router(tags=["jobs"])
ERRORS = dict.fromkeys((401, 403, 404, 409, 413, 422), ProblemReport)
DRAIN_BYTES = 1024 * 1024
MOST_DRAINED = 256 * BYTES_PER_MB


@router.get("", response={200: list[JobLine], **ERRORS}, operation_id="list_jobs")
def list_jobs(request: HttpRequest) -> list[JobLine]:
    lines = [job_line(to_core(row)) for row in JobRow.objects.order_by("created_at")]
    return sorted(lines, key=lambda line: line.day)


@router.post("", response={201: JobId, **ERRORS}, operation_id="create_job")
def create_job(request: HttpRequest, body: NewJobIn) -> tuple[int, JobId]:
    new = actions.NewJob(**body.dict())
    return 201, JobId(id=actions.create(person_of(request), new))


@router.post("/file", response={201: JobId, **ERRORS}, operation_id="take_in_job")
def take_in_job(request: HttpRequest, as_copy: bool = False) -> tuple[int, JobId]:
    return 201, JobId(id=actions.take_in(person_of(request), _body(request), as_copy))


def _body(request: HttpRequest) -> bytes:
    """The body up to the limit; a larger one is read to its end so that the answer arrives."""
    raw: bytes = request.read(MOST_BYTES + 1)
    drained = len(raw)
    while len(raw) > MOST_BYTES and drained < MOST_DRAINED:
        part = request.read(DRAIN_BYTES)
        if not part:
            break
        drained += len(part)
    if len(raw) > MOST_BYTES:
        size, allowed = drained / BYTES_PER_MB, MOST_BYTES // BYTES_PER_MB
        raise TooLarge(f"This file has {size:.0f} MB; a job file has at most {allowed} MB.")
    return raw


@router.get("/{uuid:job_id}", response={200: JobView, **ERRORS}, operation_id="get_job")
def get_job(request: HttpRequest, job_id: UUID) -> JobView:
    return job_view(load(job_id))


@router.post(
    "/{uuid:job_id}/changes",
    response={200: JobView, **ERRORS},
    operation_id="change_job",
)
def change_job(request: HttpRequest, job_id: UUID, body: ChangesIn) -> JobView:
    changes = tuple(Change(path=one.path, entered=one.entered) for one in body.changes)
    return job_view(actions.change(person_of(request), job_id, body.revision, changes))


@router.get("/{uuid:job_id}/sun", response={200: SunView, **ERRORS}, operation_id="get_sun")
def get_sun(request: HttpRequest, job_id: UUID) -> SunView:
    return sun_view(load(job_id).job)


@router.get("/{uuid:job_id}/file", operation_id="get_job_file")
def get_job_file(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load(job_id).job
    return download(write_job(job).encode(), "application/json", f"{job.name}.noon.json")


@router.get("/{uuid:job_id}/assessment", operation_id="get_assessment_file")
def get_assessment_file(request: HttpRequest, job_id: UUID) -> HttpResponse:
    text = json.dumps(write(assess(load(job_id).job)), indent=2, ensure_ascii=False)
    return download(text.encode(), "application/json", "assessment.json")


def download(data: bytes, kind: str, name: str) -> HttpResponse:
    """A file to keep, under a name that every system takes."""
    response = HttpResponse(data, content_type=kind)
    safe = "".join(c if c.isascii() and (c.isalnum() or c in ".-") else "-" for c in name)
    response["Content-Disposition"] = f'attachment; filename="{safe}"'
    return response
