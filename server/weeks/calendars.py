"""iCalendar (RFC 5545): visits out with identities that stay, busy times in."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import icalendar
import recurring_ical_events

from core.base.errors import Refused, problem

# A year of a full calendar has less; a series that never ends is taken so far.
MOST_EVENTS, MOST_SERIES, MOST_TIMES, WEEKS_AHEAD = 4000, 200, 2000, 26
# More often than once a day nobody is busy.
TOO_OFTEN = ("SECONDLY", "MINUTELY", "HOURLY")
WITHIN_A_DAY = ("BYHOUR", "BYMINUTE", "BYSECOND")
OURS = "@long-noon"
DAYS_BACK = 7


@dataclass(frozen=True, kw_only=True)
class VisitEvent:
    """A visit as a calendar shows it. revision: of its job, so that a newer one replaces it."""

    job: str
    number: int
    revision: int
    title: str
    begins_at: datetime
    ends_at: datetime
    note: str = ""
    latitude_deg: float | None = None
    longitude_deg: float | None = None


@dataclass(frozen=True, kw_only=True)
class Busy:
    """A span in which somebody is busy."""

    begins_at: datetime
    ends_at: datetime
    what: str


def calendar_of(events: list[VisitEvent], name: str, at: datetime) -> bytes:
    """A calendar of visits; each keeps its identity when it is moved, so that it is replaced."""
    calendar = icalendar.Calendar()
    calendar.add("prodid", "-//Long Noon//Visits//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("name", name)
    calendar.add("x-wr-calname", name)
    for one in events:
        event = icalendar.Event()
        event.add("uid", f"{one.job}-{one.number}{OURS}")
        event.add("sequence", one.revision)
        event.add("dtstamp", at)
        event.add("summary", one.title)
        event.add("dtstart", one.begins_at.astimezone(UTC))
        event.add("dtend", one.ends_at.astimezone(UTC))
        if one.note:
            event.add("description", one.note)
        if one.latitude_deg is not None and one.longitude_deg is not None:
            event.add("geo", (one.latitude_deg, one.longitude_deg))
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def busy_of(raw: bytes, zone: ZoneInfo, now: datetime) -> tuple[list[Busy], bool]:
    """The busy times of a calendar file over the weeks ahead, and whether a series that never ends
    was cut at their end. Free and cancelled ones and our own visits are left out. Raises Refused.
    """
    calendar = _read(raw)
    events = list(calendar.walk("VEVENT"))
    if len(events) > MOST_EVENTS:
        raise Refused([problem("$.events", len(events), f"at most {MOST_EVENTS}")])
    series = [rule for one in events for rule in _rules(one)]
    if len(series) > MOST_SERIES:
        raise Refused([problem("$.events", f"{len(series)} series", f"at most {MOST_SERIES}")])
    endless = [_endless(rule) for rule in series].count(True) > 0
    first, last = now - timedelta(days=DAYS_BACK), now + timedelta(weeks=WEEKS_AHEAD)
    found = []
    for one in _times(calendar, first, last):
        begins, ends = _moment(one["DTSTART"].dt, zone), _moment(_end(one), zone)
        if ends > begins and _counts(one):
            what = str(one.get("SUMMARY", ""))
            found.append(Busy(begins_at=begins, ends_at=ends, what=what))
        if len(found) > MOST_TIMES:
            raise Refused([problem("$.times", f"over {MOST_TIMES}", f"at most {MOST_TIMES}")])
    return found, endless


def _read(raw: bytes) -> Any:
    try:
        calendar = icalendar.Calendar.from_ical(raw)
    except (ValueError, KeyError, IndexError, UnicodeDecodeError) as fault:
        said = str(fault)[:80]
        raise Refused([problem("$.file", said, "a calendar file (iCalendar, .ics)")]) from None
    return calendar


def _rules(event: Any) -> list[Any]:
    rules = event.get("RRULE")
    return rules if isinstance(rules, list) else [rules] if rules else []


def _endless(rule: Any) -> bool:
    """Whether a series never ends. Raises Refused for one that is too often to be somebody's."""
    often = [str(one).upper() for one in rule.get("FREQ", [])]
    dense = [name for name in WITHIN_A_DAY if len(rule.get(name, [])) > 1]
    if dense or any(one in TOO_OFTEN for one in often):
        allowed = "DAILY, WEEKLY, MONTHLY or YEARLY, once a day"
        raise Refused([problem("$.events.RRULE", rule.to_ical().decode()[:80], allowed)])
    return "UNTIL" not in rule and "COUNT" not in rule


def _times(calendar: Any, first: datetime, last: datetime) -> Iterator[Any]:
    try:
        yield from recurring_ical_events.of(calendar).between(first, last)
    except (ValueError, KeyError, TypeError, OverflowError, AttributeError) as fault:
        said = str(fault)[:80]
        raise Refused([problem("$.events", said, "events with a begin and an end")]) from None


def _end(event: Any) -> date | datetime:
    if "DTEND" in event:
        ends: date | datetime = event["DTEND"].dt
        return ends
    begins: date | datetime = event["DTSTART"].dt
    if "DURATION" in event:
        lasts: timedelta = event["DURATION"].dt
        return begins + lasts
    return begins if isinstance(begins, datetime) else begins + timedelta(days=1)


def _moment(at: date | datetime, zone: ZoneInfo) -> datetime:
    """A time of a calendar in UTC; a day begins at its midnight, a time without zone is local."""
    whole = at if isinstance(at, datetime) else datetime.combine(at, time())
    return (whole if whole.tzinfo else whole.replace(tzinfo=zone)).astimezone(UTC)


def _counts(event: Any) -> bool:
    free = str(event.get("TRANSP", "")).upper() == "TRANSPARENT"
    cancelled = str(event.get("STATUS", "")).upper() == "CANCELLED"
    return not free and not cancelled and not str(event.get("UID", "")).endswith(OURS)
