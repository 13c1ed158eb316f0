"""Endpoints of guests' links, and what a guest sees."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Field, Query, Router, Schema

from server.documents.pages import record_page
from server.documents.record import record_pdf
from server.guests import actions
from server.guests.models import GuestLink
from server.jobs.stored import load
from server.people.audit import shown_name
from server.people.current import person_of
from server.platform.http import download

PAGE_FORM = "image/svg+xml"
router = Router(tags=["guests"])
Ticket = Annotated[str, Query(max_length=100)]


class GuestIn(Schema):
    """Who gets a link, and until when it holds."""

    name: Annotated[str, Field(max_length=60)]
    ends_on: date


class GuestLine(Schema):
    """One link of a job."""

    number: int
    name: str
    made_by: str
    made_at: datetime
    ends_on: date
    ended_at: datetime | None


class GuestMade(Schema):
    """The path of a link that is shown once, and all links of the job."""

    path: str
    guests: list[GuestLine]


class GuestRecord(Schema):
    """What a guest sees first."""

    name: str
    place: str
    crew: str
    ends_on: date


@router.get(
    "/jobs/{uuid:job_id}/guests",
    response=list[GuestLine],
    operation_id="list_guests",
)
def list_guests(request: HttpRequest, job_id: UUID) -> list[GuestLine]:
    return list(map(_line, actions.links_of(job_id)))


@router.post("/jobs/{uuid:job_id}/guests", response={201: GuestMade}, operation_id="invite_guest")
def invite_guest(request: HttpRequest, job_id: UUID, body: GuestIn) -> tuple[int, GuestMade]:
    secret = actions.invite(person_of(request), job_id, body.name, body.ends_on)
    return 201, GuestMade(path=f"/guest/{secret}", guests=list_guests(request, job_id))


@router.delete(
    "/jobs/{uuid:job_id}/guests/{int:number}",
    response=list[GuestLine],
    operation_id="end_guest",
)
def end_guest(request: HttpRequest, job_id: UUID, number: int) -> list[GuestLine]:
    actions.end(person_of(request), job_id, number)
    return list_guests(request, job_id)


@router.get("/guest", auth=None, response=GuestRecord, operation_id="get_guest_record")
def get_guest_record(request: HttpRequest, ticket: Ticket) -> GuestRecord:
    link = actions.link_of(ticket)
    job = load(link.job_id).job
    actions.looked(link, "record")
    return GuestRecord(
        name=job.name,
        place=job.site.place,
        crew=link.job.crew.name if link.job.crew else "",
        ends_on=link.ends_on,
    )


@router.get("/guest/pages/{int:number}", auth=None, operation_id="get_guest_page")
def get_guest_page(request: HttpRequest, number: int, ticket: Ticket) -> HttpResponse:
    page = record_page(actions.link_of(ticket).job_id, number)
    if page is None:
        raise Http404
    return HttpResponse(page, content_type=PAGE_FORM)


@router.get("/guest/file", auth=None, operation_id="get_guest_file")
def get_guest_file(request: HttpRequest, ticket: Ticket) -> HttpResponse:
    link = actions.link_of(ticket)
    job = load(link.job_id).job
    actions.looked(link, "file")
    return download(record_pdf(job), "application/pdf", f"{job.name}.pdf")


def _line(link: GuestLink) -> GuestLine:
    return GuestLine(
        number=link.pk,
        name=link.name,
        made_by=shown_name(link.made_by),
        made_at=link.made_at,
        ends_on=link.ends_on,
        ended_at=link.ended_at,
    )
