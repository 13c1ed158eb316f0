"""The board of weeks: every visit of a crew's jobs, what clashes, what is proposed."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from uuid import UUID
from zoneinfo import ZoneInfo

from core.base.messages import say
from core.planning.weeks.check import Clash, clashes
from core.planning.weeks.problem import MIN_PER_H
from schedule.weeks import WeekPlan, propose
from server.people.models import Crew
from server.platform.heavy import heavy
from server.weeks.models import Absence
from server.weeks.planned import (
    Planned,
    absences_of,
    visits_of_crew,
    week_problem,
    zone_of,
)


@dataclass(frozen=True, kw_only=True)
class BoardVisit:
    """A visit as the board shows it. number: None of a job that nobody planned a visit for yet, on
    its own day; done: its record is signed; comes: what of its goods comes on a later day."""

    id: str
    job: str
    name: str
    number: int | None
    day: date
    begins: str
    ends: str
    people: tuple[str, ...]
    travel_min: int
    done: bool
    permit: bool
    comes: tuple[str, ...]
    clashes: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class AbsenceLine:
    """Somebody away, by the local clock."""

    number: int
    who: str
    begins: str
    ends: str
    first: date
    last: date
    what: str
    source: str


@dataclass(frozen=True, kw_only=True)
class Board:
    """Weeks of a crew. lanes: who works together, each once; clashes: of visits still to come."""

    days: tuple[date, ...]
    today: date
    lanes: tuple[tuple[str, ...], ...]
    visits: tuple[BoardVisit, ...]
    absences: tuple[AbsenceLine, ...]
    people: tuple[str, ...]
    clashes: tuple[Clash, ...]


@dataclass(frozen=True, kw_only=True)
class Proposed:
    """A day proposed for a visit. number: None for a job without one."""

    job: str
    name: str
    number: int | None
    was: date
    day: date
    begins: str
    ends: str


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """Days proposed for what clashes or is not planned. left: what has no room in the weeks."""

    visits: tuple[Proposed, ...]
    left: tuple[str, ...]
    standing: str


def board(crew: Crew, first: date, weeks: int, now: datetime) -> Board:
    """The board of some weeks."""
    days = tuple(first + timedelta(days=n) for n in range(7 * weeks))
    planned = visits_of_crew(crew)
    zone = zone_of(planned)
    problem = week_problem(crew, planned, first)
    coming = {one.id for one in planned if one.moments(one.visit.day)[1] > now and not one.done}
    found = tuple(one for one in clashes(problem) if one.visit in coming)
    said: dict[str, list[str]] = defaultdict(list)
    for one in found:
        said[one.visit].append(one.said)
    shown = [one for one in planned if days[0] <= one.visit.day <= days[-1]]
    away = [_line(one, zone) for one in absences_of(crew, first, first + timedelta(days=len(days)))]
    return Board(
        days=days,
        today=now.astimezone(zone).date(),
        lanes=tuple(sorted({one.people for one in shown})),
        visits=tuple(_shown(one, said[one.id]) for one in shown),
        absences=tuple(away),
        people=tuple(sorted({name for one in planned for name in one.people})),
        clashes=found,
    )


def proposal(
    crew: Crew, now: datetime, jobs: frozenset[UUID] = frozenset(), since: date | None = None
) -> Proposal:
    """Days for the visits of some jobs, or for all that clash or that nobody planned yet, from a
    day on, tomorrow at the soonest. What lies on a day that is over stays."""
    planned = [one for one in visits_of_crew(crew) if not one.done]
    today = now.astimezone(zone_of(planned)).date()
    first = max(today, since - timedelta(days=1)) if since is not None else today
    problem = week_problem(crew, planned, first)
    told = [one for one in clashes(problem) if one.rule != "permit"]
    bad = {name for one in told for name in (one.visit, one.other)}
    wanted = {
        one.id: one
        for one in planned
        if (one.row.id in jobs if jobs else one.id in bad or not one.is_planned)
        and (jobs or one.visit.day > today)
    }
    with heavy("schedule"):
        found: WeekPlan = propose(problem, frozenset(wanted))
    at = datetime.combine(first, time(), UTC)
    lines = []
    for name, span in found.placed:
        own = wanted[name]
        begins, ends = (
            (at + timedelta(minutes=minute)).astimezone(own.zone)
            for minute in (span.start_min, span.end_min)
        )
        if begins.date() != own.visit.day or not own.is_planned:
            lines.append(
                Proposed(
                    job=str(own.row.id),
                    name=own.name,
                    number=own.visit.number if own.is_planned else None,
                    was=own.visit.day,
                    day=begins.date(),
                    begins=f"{begins:%H:%M}",
                    ends=f"{ends:%H:%M}",
                )
            )
    left = tuple(wanted[name].name for name in found.left)
    return Proposal(visits=tuple(lines), left=left, standing=found.standing)


def _shown(one: Planned, said: list[str]) -> BoardVisit:
    return BoardVisit(
        id=one.id,
        job=str(one.row.id),
        name=one.name,
        number=one.visit.number if one.is_planned else None,
        day=one.visit.day,
        begins=_clock(one.visit.begins_min),
        ends=_clock(one.visit.ends_min),
        people=one.people,
        travel_min=one.visit.travel_min,
        done=one.done,
        permit=one.arrival.permit is not None,
        comes=tuple(
            say("week", "comes", what=o.what, day=f"{o.day:%-d %b}") for o in one.days.late
        ),
        clashes=tuple(said),
    )


def _clock(minute: int) -> str:
    return f"{minute // MIN_PER_H:02}:{minute % MIN_PER_H:02}"


def _line(one: Absence, zone: ZoneInfo) -> AbsenceLine:
    begins, ends = one.begins_at.astimezone(zone), one.ends_at.astimezone(zone)
    return AbsenceLine(
        number=one.pk,
        who=one.who,
        begins=f"{begins:%-d %b %H:%M}",
        ends=f"{ends:%-d %b %H:%M}",
        first=begins.date(),
        last=(ends - timedelta(minutes=1)).date(),
        what=one.what,
        source=one.source,
    )
