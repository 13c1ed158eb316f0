"""Loading the demo: job files as any user has them, their dates moved so that they are current."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction

from core.assess import assess
from core.files.job import read_job, write_job
from core.job.job import Job
from core.job.leave import YieldLook
from core.job.readings import Reading
from core.job.station import Station
from server.evidence.models import keep_bytes
from server.jobs import actions
from server.jobs.models import JobRow
from server.people.membership import add_person, enter_licence, found_crew
from server.people.models import Member

JOBS_DIR = Path(__file__).parent / "jobs"
EVIDENCE_DIR = Path(__file__).parent / "evidence"
# The day on which the demo files stand still; its readings were taken before this hour.
WRITTEN_ON = date(2026, 11, 24)
LAST_READING_HOUR = 13
DEMO_LICENCE = "FENN-0417"
TAMS_LICENCE = ("tam", "ORRIN-0533", date(2029, 3, 31))
DEMO_CREW = "Fenn and Orrin"
# They show who does what; nobody signs in as one of them.
DEMO_PEOPLE = (
    ("tam", "Tam Orrin", "electrician"),
    ("bea", "Bea Holt", "installer"),
    ("ned", "Ned Pell", "apprentice"),
    ("jo", "Jo Mire", "office"),
)


def load() -> None:
    """Make the demo's user and jobs, once."""
    person, is_new = User.objects.get_or_create(
        username=settings.DEMO_USERNAME,
        defaults={"first_name": "Ada", "last_name": "Fenn"},
    )
    if is_new:
        person.set_unusable_password()
        person.save()
        crew = found_crew(DEMO_CREW)
        Member.objects.create(person=person, crew=crew, role="owner")
        enter_licence(person.username, DEMO_LICENCE)
        for username, name, role in DEMO_PEOPLE:
            add_person(crew, username, role, None, name)
        enter_licence(*TAMS_LICENCE)
    if JobRow.objects.exists():
        return
    with transaction.atomic():
        for paper in sorted(EVIDENCE_DIR.iterdir()):
            keep_bytes(paper.read_bytes())
        for file in sorted(JOBS_DIR.glob("*.json")):
            job = moved(read_job(file.read_bytes()), days_on(datetime.now(UTC)))
            actions.take_in(person, write_job(job).encode(), as_copy=False, file_name=file.name)


def days_on(now: datetime) -> timedelta:
    """Whole days from the files' day to the last day whose readings lie in the past."""
    last = now.date() if now.hour >= LAST_READING_HOUR else now.date() - timedelta(days=1)
    return last - WRITTEN_ON


def moved(job: Job, by: timedelta) -> Job:
    """The job with all its days and moments moved by whole days."""
    stations = tuple(replace(one, **_kept_later(one, by)) for one in job.stations)
    visits = tuple(replace(one, day=one.day + by) for one in job.days.visits)
    days = replace(job.days, visits=visits)
    later = replace(job, day=job.day + by, days=days, stations=stations, **_kept_later(job, by))
    return replace(later, readings=tuple(_relabelled(job, later)))


def _relabelled(job: Job, later: Job) -> Iterator[Reading]:
    """The readings of a moved job: a label that tells a day is stuck with the day that it tells."""
    old, new = ({(o.id, o.of): o.key for o in assess(one).leave.labels} for one in (job, later))
    keys = {key: new[of].partition("/")[2] for of, key in old.items() if of in new}
    for one in later.readings:
        key = f"{one.kind}/{one.subject}"
        yield replace(one, subject=keys[key]) if key in keys else one


def _look_later(look: YieldLook, by: timedelta) -> YieldLook:
    return replace(
        look,
        at=look.at + by,
        first_day=look.first_day + by,
        energy=tuple(replace(one, day=one.day + by) for one in look.energy),
        light=tuple(replace(one, day=one.day + by) for one in look.light),
    )


def _kept_later(of: Job | Station, by: timedelta) -> dict[str, Any]:
    return {
        "readings": tuple(
            replace(r, taken_at=r.taken_at + by, kept_at=r.kept_at + by) for r in of.readings
        ),
        "settings_written": tuple(replace(w, at=w.at + by) for w in of.settings_written),
        "step_overrides": tuple(replace(o, at=o.at + by) for o in of.step_overrides),
        "gateway_reads": tuple(replace(g, at=g.at + by) for g in of.gateway_reads),
        "yield_looks": tuple(_look_later(y, by) for y in of.yield_looks),
        "evidence": tuple(replace(e, kept_at=e.kept_at + by) for e in of.evidence),
    }
