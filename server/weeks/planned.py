"""The visits of stored jobs, as weeks, days and calendars take them; who of a crew is away."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import QuerySet

from core.base.form import read
from core.base.messages import say
from core.job.arrival import Arrival
from core.job.day import DayLayout, PlannedVisit
from core.job.job import Job
from core.planning.day.problem import Span
from core.planning.day.tasks import MIN_PER_DAY, origin
from core.planning.weeks.problem import MIN_PER_H, WeekPerson, WeekProblem, WeekVisit
from server.jobs.models import JobRow
from server.people.models import Crew
from server.signing.models import SealedRow
from server.weeks.calendars import VisitEvent
from server.weeks.models import Absence

S_PER_MIN = 60
MOST_DAYS, DAYS_PROPOSED, WORKDAYS = 60, 42, 5
UTC_ZONE = "UTC"
# What lies further off than sixty days is no matter of these weeks.
FURTHEST_MIN = MOST_DAYS * MIN_PER_DAY - 1


@dataclass(frozen=True, kw_only=True)
class Planned:
    """A visit of a stored job, with what the board needs of that job. place: among the job's own by
    day; its number stays with it when it is moved."""

    row: JobRow
    name: str
    zone: ZoneInfo
    visit: PlannedVisit
    place: int
    is_planned: bool
    is_last: bool
    arrival: Arrival
    days: DayLayout
    latitude_deg: float
    longitude_deg: float
    done: bool

    @property
    def id(self) -> str:
        """By which it is known on the board."""
        return f"{self.row.id} {self.visit.number}"

    @property
    def people(self) -> tuple[str, ...]:
        """Who is there, by name."""
        return tuple(sorted({one.name for one in self.arrival.crew if one.present}))

    def moments(self, day: date) -> tuple[datetime, datetime]:
        """When it begins and ends, were it on that day, by the clock of the house."""
        return (
            _at(day, self.visit.begins_min, self.zone),
            _at(day, self.visit.ends_min, self.zone),
        )


def visits_of_crew(crew: Crew) -> list[Planned]:
    """Every visit of every job of a crew, by its day."""
    rows: QuerySet[JobRow] = JobRow.objects.filter(crew=crew, house=None)
    sealed = set(SealedRow.objects.filter(job__crew=crew).values_list("job_id", flat=True))
    found = [one for row in rows for one in _of_row(row, done=row.id in sealed)]
    return sorted(found, key=lambda one: (one.visit.day, one.visit.begins_min, one.id))


def visits_of_job(row: JobRow) -> list[Planned]:
    """Every visit of one job."""
    return _of_row(row, done=SealedRow.objects.filter(job=row).exists())


def _of_row(row: JobRow, *, done: bool) -> list[Planned]:
    plan: dict[str, Any] = row.plan
    days = read(DayLayout, plan.get("days") or {})
    arrival = read(Arrival, plan.get("arrival") or {})
    site = plan["site"]
    day = date.fromisoformat(plan["day"])
    visits = sorted(days.visits, key=lambda one: one.day) or [PlannedVisit(number=1, day=day)]
    return [
        Planned(
            row=row,
            name=str(plan["name"]),
            zone=ZoneInfo(site["timezone"]),
            visit=one,
            place=place,
            is_planned=bool(days.visits),
            is_last=one is visits[-1],
            arrival=arrival,
            days=days,
            latitude_deg=float(site["latitude_deg"]),
            longitude_deg=float(site["longitude_deg"]),
            done=done,
        )
        for place, one in enumerate(visits, start=1)
    ]


def week_problem(crew: Crew, planned: list[Planned], first: date) -> WeekProblem:
    """The visits of a crew as plain values, in minutes from a midnight."""
    at = datetime.combine(first, time(), UTC)
    away: dict[str, list[Span]] = defaultdict(list)
    for one in absences_of(crew, first, first + timedelta(days=MOST_DAYS)):
        away[one.who].append(_span(one.begins_at, one.ends_at, at))
    licensed = {o.name for p in planned for o in p.arrival.crew if o.present and o.licence.strip()}
    names = sorted({name for one in planned for name in one.people})
    return WeekProblem(
        people=tuple(
            WeekPerson(id=name, licensed=name in licensed, away=tuple(away[name])) for name in names
        ),
        visits=tuple(_week_visit(one, at) for one in planned),
    )


def _week_visit(one: Planned, at: datetime) -> WeekVisit:
    first = at.date()
    workdays = [
        day
        for day in (first + timedelta(days=n) for n in range(1, DAYS_PROPOSED + 1))
        if day.weekday() < WORKDAYS
    ]
    late = max((goods.day for goods in one.days.late), default=None)
    comes = _at(late, 0, one.zone) if late is not None and one.is_last else None
    return WeekVisit(
        id=one.id,
        job=str(one.row.id),
        label=say("week", "visit", name=one.name, day=f"{one.visit.day:%-d %b}")[:60],
        number=one.place,
        people=one.people,
        latitude_deg=one.latitude_deg,
        longitude_deg=one.longitude_deg,
        at=_near(_span(*one.moments(one.visit.day), at)),
        options=tuple(_span(*one.moments(day), at) for day in workdays),
        goods_min=_span(comes, comes, at).end_min if comes else None,
        permit=one.arrival.permit is not None or not one.is_last,
    )


def _span(begins: datetime, ends: datetime, at: datetime) -> Span:
    start, end = (
        max(-FURTHEST_MIN, min(FURTHEST_MIN, int((one - at).total_seconds()) // S_PER_MIN))
        for one in (begins, ends)
    )
    return Span(start_min=min(start, end - 1), end_min=end)


def _near(span: Span) -> Span | None:
    """A visit's place, of those that may meet one on the board or among the options."""
    return span if span.start_min > -FURTHEST_MIN and span.end_min < FURTHEST_MIN else None


def absences_of(crew: Crew, first: date, last: date) -> QuerySet[Absence]:
    """The absences of a crew that touch some days."""
    begins, ends = (datetime.combine(day, time(), UTC) for day in (first, last))
    return Absence.objects.filter(crew=crew, ends_at__gt=begins, begins_at__lt=ends)


def _at(day: date, minute: int, zone: ZoneInfo) -> datetime:
    """A minute of a day by the clock of the house, in UTC."""
    days, left = divmod(minute, MIN_PER_DAY)
    clock = time(left // MIN_PER_H, left % MIN_PER_H)
    return datetime.combine(day + timedelta(days=days), clock, zone).astimezone(UTC)


def zone_of(planned: list[Planned]) -> ZoneInfo:
    """The time zone of most houses of a crew."""
    keys = [one.zone.key for one in planned]
    return ZoneInfo(max(sorted(set(keys)), key=keys.count) if keys else UTC_ZONE)


def away_of(crew: Crew, job: Job) -> tuple[tuple[str, tuple[Span, ...]], ...]:
    """When each of a job's people is away, in minutes by the clock from its first midnight."""
    first, zone = origin(job), ZoneInfo(job.site.timezone)
    last = max((one.day for one in job.days.visits), default=job.day)
    at = datetime.combine(first, time())
    spans: dict[str, list[Span]] = defaultdict(list)
    for one in absences_of(crew, first - timedelta(days=1), last + timedelta(days=2)):
        begins, ends = (
            moment.astimezone(zone).replace(tzinfo=UTC) for moment in (one.begins_at, one.ends_at)
        )
        spans[one.who].append(_span(begins, ends, at.replace(tzinfo=UTC)))
    return tuple((name, tuple(own)) for name, own in sorted(spans.items()))


def events_of(planned: list[Planned]) -> list[VisitEvent]:
    """Visits as a calendar takes them; those that nobody planned yet are not among them."""
    return [
        VisitEvent(
            job=str(one.row.id),
            number=one.visit.number,
            revision=one.row.revision,
            title=one.name,
            begins_at=one.moments(one.visit.day)[0],
            ends_at=one.moments(one.visit.day)[1],
            note=", ".join(one.people),
            latitude_deg=one.latitude_deg,
            longitude_deg=one.longitude_deg,
        )
        for one in planned
        if one.is_planned
    ]
