"""Reading endpoints."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema
from pydantic import ConfigDict

from core.assess import assess
from core.assessment.whole import Prompt
from core.base.errors import Refused, problem
from core.base.limits import MOST_MAP_BYTES
from core.job.reading_kinds import ReadingKind
from server.jobs.schemas import Entered, JobView
from server.jobs.views import job_view
from server.people.current import person_of
from server.platform.http import body_up_to
from server.platform.problems import ERRORS
from server.readings import actions

router = Router(tags=["readings"])
FileName = Annotated[str, Query(max_length=200)]


class ReadingIn(Schema):
    """A reading as typed."""

    model_config = ConfigDict(extra="forbid")
    kind: ReadingKind
    subject: Entered
    entered: Entered
    taken_at: datetime | None = None
    instrument: Annotated[str, Field(max_length=200)] = ""
    note: Annotated[str, Field(max_length=500)] = ""
    supersedes: Annotated[str, Field(max_length=64)] | None = None


class GoodsIn(Schema):
    """What is here of one line of the load-in sheet, as typed; damaged may stay empty."""

    model_config = ConfigDict(extra="forbid")
    line: Entered
    found: Entered
    damaged: Entered = ""
    note: Annotated[str, Field(max_length=500)] = ""


class CountedIn(Schema):
    """Lines of the load-in sheet counted together."""

    model_config = ConfigDict(extra="forbid")
    lines: Annotated[list[GoodsIn], Field(min_length=1, max_length=200)]


class ClearSkyIn(Schema):
    """A plane and the hour for which a clear sky is computed."""

    model_config = ConfigDict(extra="forbid")
    plane: Entered
    at: datetime | None = None


def _entry(body: ReadingIn) -> actions.Entry:
    return actions.Entry(**body.dict())


@router.post(
    "/{uuid:job_id}/readings",
    response={200: JobView, **ERRORS},
    operation_id="keep_reading",
)
def keep_reading(request: HttpRequest, job_id: UUID, body: ReadingIn) -> JobView:
    return job_view(actions.keep(person_of(request), job_id, _entry(body)))


class CountersignIn(Schema):
    """Readings of a learner, by their identity."""

    model_config = ConfigDict(extra="forbid")
    readings: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=200)]


@router.post(
    "/{uuid:job_id}/countersign",
    response={200: JobView, **ERRORS},
    operation_id="countersign",
)
def countersign(request: HttpRequest, job_id: UUID, body: CountersignIn) -> JobView:
    found = actions.countersign(person_of(request), job_id, tuple(body.readings))
    return job_view(found)


@router.post(
    "/{uuid:job_id}/readings/try",
    response={200: Prompt, **ERRORS},
    operation_id="try_reading",
)
def try_reading(request: HttpRequest, job_id: UUID, body: ReadingIn) -> Prompt:
    job = actions.tried(person_of(request), job_id, _entry(body))
    key = f"{body.kind}/{body.subject}"
    found = next((ask for ask in assess(job).asks if ask.key == key), None)
    if found is None:
        raise Refused([problem("$.subject", body.subject, "something that this job asks for")])
    return found


@router.post(
    "/{uuid:job_id}/readings/clear-sky",
    response={200: JobView, **ERRORS},
    operation_id="keep_clear_sky",
)
def keep_clear_sky(request: HttpRequest, job_id: UUID, body: ClearSkyIn) -> JobView:
    return job_view(actions.keep_clear_sky(person_of(request), job_id, body.plane, body.at))


@router.post(
    "/{uuid:job_id}/serial-map/file",
    response={200: JobView, **ERRORS},
    operation_id="take_serial_map",
)
def take_serial_map(request: HttpRequest, job_id: UUID, file_name: FileName = "") -> JobView:
    raw = body_up_to(request, MOST_MAP_BYTES, "a serial map")
    return job_view(actions.take_map(person_of(request), job_id, raw, file_name))


@router.post("/{uuid:job_id}/goods", response={200: JobView, **ERRORS}, operation_id="count_goods")
def count_goods(request: HttpRequest, job_id: UUID, body: CountedIn) -> JobView:
    entries = tuple(entry for one in body.lines for entry in _counted(one))
    return job_view(actions.keep_all(person_of(request), job_id, entries))


def _counted(line: GoodsIn) -> list[actions.Entry]:
    counts: list[tuple[ReadingKind, str]] = [("goods_found", line.found)]
    if line.damaged.strip():
        counts.append(("goods_damaged", line.damaged))
    return [
        actions.Entry(
            kind=kind,
            subject=line.line,
            entered=entered,
            taken_at=None,
            instrument="",
            note=line.note,
            supersedes=None,
        )
        for kind, entered in counts
    ]
