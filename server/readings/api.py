"""Reading endpoints."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema
from pydantic import ConfigDict

from core.assess import ask_of
from core.assessment.whole import Prompt
from core.base.errors import Refused, problem
from core.base.limits import MOST_MAP_BYTES
from core.entry import Entry
from core.job.reading_kinds import ReadingKind
from core.sky import ClearSky
from server.hand.views import answered
from server.jobs.schemas import Brief, Entered, JobView, PressId
from server.jobs.views import job_view
from server.people.current import person_of
from server.platform.http import body_up_to
from server.readings import actions

router = Router(tags=["readings"])
FileName = Annotated[str, Query(max_length=200)]


class FromHand(Schema):
    """What was pressed in a hand, maybe without signal.

    id: made there, so that it is kept once however often it is sent. noted_at, sent_at: when it
    was pressed and when it was sent, both by the clock in the hand, which may be wrong by hours.
    """

    model_config = ConfigDict(extra="forbid")
    id: PressId = None
    noted_at: datetime | None = None
    sent_at: datetime | None = None
    device: Annotated[str, Field(max_length=60)] = ""


class ReadingIn(FromHand):
    """A reading as typed."""

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


class ClearSkyIn(FromHand):
    """A plane and the hour for which a clear sky is computed."""

    plane: Entered
    at: datetime | None = None


def _entry(body: ReadingIn) -> Entry:
    fields = body.dict(exclude={"sent_at", "noted_at"})
    return Entry(**fields, noted_at=_noted(body, datetime.now(UTC)))


def _noted(body: FromHand, now: datetime) -> datetime | None:
    """When it was pressed, by the server's clock: so long before it was sent. Raises Refused."""
    if body.noted_at is None or body.sent_at is None:
        return None
    for name, moment in (("noted_at", body.noted_at), ("sent_at", body.sent_at)):
        if moment.tzinfo is None:
            raise Refused([problem(f"$.{name}", str(moment), "a time with its offset")])
    waited = body.sent_at - body.noted_at
    if waited < timedelta(0):
        raise Refused([problem("$.noted_at", str(body.noted_at), "not after it was sent")])
    return now - waited


@router.post(
    "/{uuid:job_id}/readings",
    response={200: JobView, 201: Brief},
    operation_id="keep_reading",
)
def keep_reading(
    request: HttpRequest, job_id: UUID, body: ReadingIn
) -> tuple[int, JobView | Brief]:
    stored = actions.keep(person_of(request), job_id, _entry(body))
    return answered(request, stored, reading=body.id)


class CountersignIn(Schema):
    """Readings of a learner, by their identity."""

    model_config = ConfigDict(extra="forbid")
    readings: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=200)]


@router.post(
    "/{uuid:job_id}/countersign",
    response=JobView,
    operation_id="countersign",
)
def countersign(request: HttpRequest, job_id: UUID, body: CountersignIn) -> JobView:
    found = actions.countersign(person_of(request), job_id, tuple(body.readings))
    return job_view(found)


@router.post(
    "/{uuid:job_id}/readings/try",
    response=Prompt,
    operation_id="try_reading",
)
def try_reading(request: HttpRequest, job_id: UUID, body: ReadingIn) -> Prompt:
    job = actions.tried(person_of(request), job_id, _entry(body))
    key = f"{body.kind}/{body.subject}"
    found = ask_of(job, key)
    if found is None:
        raise Refused([problem("$.subject", body.subject, "something that this job asks for")])
    return found


@router.post(
    "/{uuid:job_id}/readings/clear-sky",
    response={200: JobView, 201: Brief},
    operation_id="keep_clear_sky",
)
def keep_clear_sky(
    request: HttpRequest, job_id: UUID, body: ClearSkyIn
) -> tuple[int, JobView | Brief]:
    fields = body.dict(exclude={"sent_at", "noted_at"})
    wanted = ClearSky(**fields, noted_at=_noted(body, datetime.now(UTC)))
    stored = actions.keep_clear_sky(person_of(request), job_id, wanted)
    return answered(request, stored, reading=body.id)


@router.post(
    "/{uuid:job_id}/serial-map/file",
    response=JobView,
    operation_id="take_serial_map",
)
def take_serial_map(request: HttpRequest, job_id: UUID, file_name: FileName = "") -> JobView:
    raw = body_up_to(request, MOST_MAP_BYTES, "a serial map")
    return job_view(actions.take_map(person_of(request), job_id, raw, file_name))


@router.post("/{uuid:job_id}/goods", response=JobView, operation_id="count_goods")
def count_goods(request: HttpRequest, job_id: UUID, body: CountedIn) -> JobView:
    entries = tuple(entry for one in body.lines for entry in _counted(one))
    return job_view(actions.keep_all(person_of(request), job_id, entries))


def _counted(line: GoodsIn) -> list[Entry]:
    counts: list[tuple[ReadingKind, str]] = [("goods_found", line.found)]
    if line.damaged.strip():
        counts.append(("goods_damaged", line.damaged))
    return [
        Entry(
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
