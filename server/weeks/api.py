"""Endpoints of the board of weeks, of absences and calendars."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from typing import Annotated
from uuid import UUID
from zoneinfo import ZoneInfo

from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router, Schema

from core.base.limits import MOST_CALENDAR_BYTES
from server.people.current import person_of
from server.people.policy import crew_of
from server.platform.http import body_up_to, download
from server.weeks import actions
from server.weeks.calendars import calendar_of
from server.weeks.planned import events_of, visits_of_crew, zone_of
from server.weeks.views import Board, Proposal, board, proposal

router = Router(tags=["weeks"])
Who = Annotated[str, Query(max_length=60)]
Weeks = Annotated[int, Query(ge=1, le=8)]
CALENDAR = "text/calendar; charset=utf-8"


class AbsenceIn(Schema):
    """Somebody away from a day to a day, both whole, or between two times of them."""

    who: Annotated[str, Field(max_length=60)]
    first: date
    last: date
    begins: Annotated[str, Field(pattern=r"^\d{2}:\d{2}$")] = "00:00"
    ends: Annotated[str, Field(pattern=r"^(\d{2}:\d{2})?$")] = ""
    what: Annotated[str, Field(max_length=120)] = ""


class ProposeIn(Schema):
    """For which jobs days are sought; none: for all that clash or have no visit. first: not
    before that day."""

    jobs: Annotated[list[UUID], Field(max_length=400)] = []
    first: date | None = None


class AbsenceKept(Schema):
    """An absence that was kept, or taken out, by its number."""

    number: int


class BusyTaken(Schema):
    """What was taken of a calendar file."""

    times: int
    cut: bool


@router.get("", response=Board, operation_id="get_weeks")
def get_weeks(request: HttpRequest, first: date | None = None, weeks: Weeks = 3) -> Board:
    now = datetime.now(UTC)
    monday = now.date() - timedelta(days=now.weekday())
    return board(crew_of(person_of(request)), first or monday, weeks, now)


@router.post("/propose", response=Proposal, operation_id="propose_visits")
def propose_visits(request: HttpRequest, body: ProposeIn) -> Proposal:
    crew = crew_of(person_of(request))
    return proposal(crew, datetime.now(UTC), frozenset(body.jobs), body.first)


@router.post("/absences", response=AbsenceKept, operation_id="keep_absence")
def keep_absence(request: HttpRequest, body: AbsenceIn) -> AbsenceKept:
    person = person_of(request)
    zone = _zone(request)
    kept = actions.keep_absence(person, body.who, *_hours(body, zone), body.what)
    return AbsenceKept(number=kept)


@router.delete("/absences/{int:number}", response=AbsenceKept, operation_id="end_absence")
def end_absence(request: HttpRequest, number: int) -> AbsenceKept:
    actions.remove_absence(person_of(request), number)
    return AbsenceKept(number=number)


@router.post("/busy", response=BusyTaken, operation_id="take_busy")
def take_busy(request: HttpRequest, who: Who, file_name: Who = "") -> BusyTaken:
    raw = body_up_to(request, MOST_CALENDAR_BYTES, "a calendar")
    times, cut = actions.take_busy(person_of(request), who, raw, file_name, _zone(request))
    return BusyTaken(times=times, cut=cut)


@router.get("/calendar", operation_id="get_calendar")
def get_calendar(request: HttpRequest, who: Who = "") -> HttpResponse:
    planned = visits_of_crew(crew_of(person_of(request)))
    own = [one for one in planned if not who or who in one.people]
    name = who or "visits"
    return download(calendar_of(events_of(own), name, datetime.now(UTC)), CALENDAR, f"{name}.ics")


def _zone(request: HttpRequest) -> ZoneInfo:
    return zone_of(visits_of_crew(crew_of(person_of(request))))


def _hours(body: AbsenceIn, zone: ZoneInfo) -> tuple[datetime, datetime]:
    """From when to when somebody is away. Raises Refused."""
    begins = actions.clock_at(body.first, body.begins, zone, "$.begins")
    if body.ends:
        return begins, actions.clock_at(body.last, body.ends, zone, "$.ends")
    return begins, actions.clock_at(body.last + timedelta(days=1), "00:00", zone, "$.ends")
