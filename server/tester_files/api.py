"""Endpoints of testers and their files."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from core.assess import assess
from core.base.limits import MOST_TESTER_BYTES
from core.files.record_table import record_csv
from core.files.tester_readings import FileLook, template
from core.job.tester_columns import KNOWN
from core.job.testers import Instrument
from server.jobs.schemas import JobView
from server.jobs.stored import load
from server.jobs.views import job_view
from server.people.current import person_of
from server.platform.http import body_up_to
from server.tester_files import actions

router = Router(tags=["testing"])
FileName = Annotated[str, Query(max_length=200)]


@router.get(
    "/{uuid:job_id}/testers",
    response=list[Instrument],
    operation_id="testers_used_before",
)
def testers(request: HttpRequest, job_id: UUID) -> list[Instrument]:
    return list(actions.used_before(person_of(request), job_id))


@router.get(
    "/{uuid:job_id}/tests/columns",
    response=list[str],
    operation_id="test_columns",
)
def test_columns(request: HttpRequest, job_id: UUID) -> list[str]:
    person_of(request)
    return list(KNOWN)


@router.get("/{uuid:job_id}/tests/template", operation_id="test_template")
def test_template(request: HttpRequest, job_id: UUID) -> HttpResponse:
    person_of(request)
    return _csv(template(load(job_id).job), "tests.csv")


@router.get("/{uuid:job_id}/tests/record", operation_id="test_record")
def test_record(request: HttpRequest, job_id: UUID) -> HttpResponse:
    person_of(request)
    return _csv(record_csv(assess(load(job_id).job).prove), "test-record.csv")


def _csv(text: str, name: str) -> HttpResponse:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


@router.post(
    "/{uuid:job_id}/tests/look",
    response=FileLook,
    operation_id="look_at_test_file",
)
def look_at_test_file(request: HttpRequest, job_id: UUID, instrument: str) -> FileLook:
    person_of(request)
    raw = body_up_to(request, MOST_TESTER_BYTES, "a tester's file")
    return actions.look_at(job_id, instrument, raw)


@router.post(
    "/{uuid:job_id}/tests/file",
    response=JobView,
    operation_id="take_test_file",
)
def take_test_file(
    request: HttpRequest, job_id: UUID, instrument: str, file_name: FileName = ""
) -> JobView:
    raw = body_up_to(request, MOST_TESTER_BYTES, "a tester's file")
    return job_view(actions.take_in(person_of(request), job_id, instrument, raw, file_name))
