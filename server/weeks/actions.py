"""Saying that somebody is away, by hand or by a calendar file."""

from __future__ import annotations

from datetime import UTC, date, datetime, time
from zoneinfo import ZoneInfo

from django.contrib.auth.models import User
from django.db import transaction

from core.base.errors import Refused, problem
from core.base.signs import unwritten
from server.people.policy import crew_of
from server.weeks.calendars import busy_of
from server.weeks.models import MOST_WHAT_CHARS, MOST_WHO_CHARS, Absence

MOST_SPAN_DAYS = 366


def keep_absence(person: User, who: str, begins_at: datetime, ends_at: datetime, what: str) -> int:
    """Somebody is away: the number of what is kept. Raises Refused."""
    name = _named(who)
    if ends_at <= begins_at:
        raise Refused([problem("$.ends", ends_at.isoformat(), f"after {begins_at.isoformat()}")])
    if (ends_at - begins_at).days > MOST_SPAN_DAYS:
        raise Refused([problem("$.ends", ends_at.isoformat(), f"{MOST_SPAN_DAYS} days at most")])
    kept = Absence.objects.create(
        crew=crew_of(person),
        who=name,
        begins_at=begins_at,
        ends_at=ends_at,
        what=_written("$.what", what)[:MOST_WHAT_CHARS],
        added_by=person,
    )
    return kept.pk


def remove_absence(person: User, number: int) -> None:
    """Somebody is there after all. Raises Refused."""
    gone, _ = Absence.objects.filter(crew=crew_of(person), pk=number).delete()
    if not gone:
        raise Refused([problem("$.number", number, "an absence of this crew")])


def take_busy(person: User, who: str, raw: bytes, source: str, zone: ZoneInfo) -> tuple[int, bool]:
    """The busy times of a calendar file in place of those that one like it gave before: how many,
    and whether a series without an end was cut. Raises Refused; then nothing is changed."""
    name = _named(who)
    found, endless = busy_of(raw, zone, datetime.now(UTC))
    with transaction.atomic():
        crew = crew_of(person)
        Absence.objects.filter(crew=crew, who=name).exclude(source="").delete()
        Absence.objects.bulk_create(
            Absence(
                crew=crew,
                who=name,
                begins_at=one.begins_at,
                ends_at=one.ends_at,
                what="".join(c for c in one.what if c.isprintable())[:MOST_WHAT_CHARS],
                source=(source or "calendar")[:MOST_WHAT_CHARS],
                added_by=person,
            )
            for one in found
        )
    return len(found), endless


def _named(who: str) -> str:
    name = _written("$.who", who)
    if not 1 <= len(name) <= MOST_WHO_CHARS:
        raise Refused([problem("$.who", name[:MOST_WHO_CHARS], f"1 to {MOST_WHO_CHARS} signs")])
    return name


def _written(path: str, text: str) -> str:
    wrong = unwritten(text)
    if wrong is not None:
        raise Refused([problem(path, ascii(text)[:60], "a text", wrong)])
    return text.strip()


def clock_at(day: date, clock: str, zone: ZoneInfo, path: str) -> datetime:
    """A time of a day by the local clock. Raises Refused."""
    try:
        return datetime.combine(day, time.fromisoformat(clock), zone).astimezone(UTC)
    except ValueError:
        raise Refused([problem(path, clock, "a time of day, as 07:30")]) from None
