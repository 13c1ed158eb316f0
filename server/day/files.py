"""The days of a job as files: the sheet on A4, CSV, a calendar with the tasks in it."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import Any

from core.base.csv_text import csv_text
from core.base.form import write
from core.base.messages import say
from core.planning.day.tasks import MIN_PER_DAY
from core.planning.day.why import clock
from server.day.light import VisitSun
from server.day.views import LaidDay, TaskLine, in_visits, task_lines
from server.documents.typesetting import TEMPLATES, typeset
from server.jobs.models import JobRow
from server.weeks.calendars import calendar_of
from server.weeks.planned import events_of, visits_of_job

# A lane begins and ends so much outside its visit, so that what lies at its edge is seen whole.
EDGE_MIN = 15
MIN_PER_H = 60


def day_sheet(day: LaidDay) -> bytes:
    """The days on A4: each visit in lanes, and as a list to tick."""
    lines = task_lines(day, day.found.plan)
    data = {
        "name": day.job.name,
        "place": day.job.site.place,
        "line": say("day_line", _standing(day), ends=_ends(day), visits=in_visits(day.found)),
        "visits": [_visit(day, number, lines) for number in range(len(day.visits))],
        "nowhere": [one.label for one in lines if one.start_min is None],
    }
    return typeset(TEMPLATES / "day.typ", data, "pdf")[0]


def day_csv(day: LaidDay) -> str:
    """Every task: its visit, begin, end, minutes, who, and why there."""
    rows: list[list[object]] = [["day", "begins", "ends", "minutes", "task", "who", "why"]]
    for one in sorted(task_lines(day, day.found.plan), key=_by_start):
        if one.start_min is None or one.visit is None:
            rows.append(["", "", "", one.minutes, one.label, "", one.why])
            continue
        visit = day.visits[one.visit]
        rows.append(
            [
                visit.day.isoformat(),
                _of_day(one.start_min),
                _of_day(one.start_min + one.minutes),
                one.minutes,
                one.label,
                " · ".join(one.people),
                one.why,
            ]
        )
    return csv_text(rows)


def day_calendar(day: LaidDay, row: JobRow, at: datetime) -> bytes:
    """The visits of a job as a calendar, each with what is done on it and by whom."""
    numbers = {one.number: number for number, one in enumerate(day.visits)}
    lines = sorted(task_lines(day, day.found.plan), key=_by_start)
    events = []
    for one in events_of(visits_of_job(row)):
        own = [line for line in lines if line.visit == numbers.get(one.number)]
        said = [
            f"{_of_day(line.start_min or 0)} {line.label}"
            + (f" ({', '.join(line.people)})" if line.people else "")
            for line in own
        ]
        events.append(replace(one, note="\n".join(said)))
    return calendar_of(events, day.job.name, at)


def _visit(day: LaidDay, number: int, lines: tuple[TaskLine, ...]) -> dict[str, Any]:
    visit = day.visits[number]
    own = sorted((one for one in lines if one.visit == number), key=_by_start)
    begins, ends = visit.visit.start_min - EDGE_MIN, visit.visit.end_min + EDGE_MIN
    lanes = [*(one.id for one in day.problem.people), ""]

    def across(minute: int) -> float:
        return max(0.0, min(1.0, (minute - begins) / (ends - begins)))

    boxes = [
        {
            "lane": lanes.index(who),
            "from": across(one.start_min or 0),
            "to": across((one.start_min or 0) + one.minutes),
            "number": place,
            "waits": one.waits,
        }
        for place, one in enumerate(own, start=1)
        for who in (one.people or ("",))
    ]
    hours = range(-(-begins // MIN_PER_H), ends // MIN_PER_H + 1)
    return {
        "day": f"{visit.day:%A %-d %B %Y}",
        "sun": _sun(visit),
        "lanes": lanes,
        "boxes": boxes,
        "hours": [{"at": across(one * MIN_PER_H), "said": str(one % 24)} for one in hours],
        "bands": [
            {"plane": name, "from": across(span.start_min), "to": across(span.end_min)}
            for name, spans, _ in day.light.planes
            for span in spans
            if span.start_min < ends and begins < span.end_min
        ],
        "rows": [
            {"begins": _of_day(one.start_min or 0), "number": place, **write(one)}
            for place, one in enumerate(own, start=1)
        ],
    }


def _sun(visit: VisitSun) -> str:
    if visit.sunrise_min is None or visit.sunset_min is None:
        return ""
    rise, fall = _of_day(visit.sunrise_min), _of_day(visit.sunset_min)
    return say("day_sheet", "sun", rise=rise, fall=fall)


def _standing(day: LaidDay) -> str:
    return day.found.standing if day.found.plan else "impossible"


def _ends(day: LaidDay) -> str:
    return clock(day.found.makespan_min)


def _of_day(minute: int) -> str:
    return clock(minute % MIN_PER_DAY)


def _by_start(one: TaskLine) -> tuple[int, str]:
    return (one.start_min if one.start_min is not None else 10**9, one.id)
