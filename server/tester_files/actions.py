"""Taking in a tester's file, and the testers that the crew has used before."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth.models import User

from core.base.errors import Refused, problem
from core.base.form import read
from core.entry import Entry
from core.files.tester_readings import FileLook, look, read_file
from core.job.job import Job
from core.job.testers import Instrument
from server.jobs.models import JobRow, source_file
from server.jobs.stored import Stored, load
from server.people.policy import of_crew
from server.readings.actions import keep_all


def look_at(job_id: UUID, instrument: str, raw: bytes) -> FileLook:
    """What a file would give; nothing is kept. Raises Refused when it is no table."""
    job = load(job_id).job
    return look(job, _tester(job, instrument), raw)


def take_in(person: User, job_id: UUID, instrument: str, raw: bytes, file_name: str = "") -> Stored:
    """Keep every reading of a file; each supersedes the one before it of the same thing.

    Raises Refused with all that is wrong; then nothing is kept.
    """
    job = load(job_id).job
    entries = tuple(
        Entry(
            kind=one.kind,
            subject=one.subject,
            entered=one.entered,
            taken_at=one.taken_at,
            instrument=instrument,
            note=one.note,
            supersedes=one.supersedes,
            retest=True,
        )
        for one in read_file(job, _tester(job, instrument), raw)
    )
    return keep_all(person, job_id, entries, source_file(person, raw, file_name, "tests"))


def _tester(job: Job, name: str) -> Instrument:
    found = job.testing.instrument(name)
    if found is None:
        known = " · ".join(one.name for one in job.testing.instruments)
        said = "Name the tester first: its file is kept with its serial and calibration."
        raise Refused([problem("$.instrument", name, known or "a tester of this job", said)])
    return found


def used_before(person: User, job_id: UUID) -> tuple[Instrument, ...]:
    """Testers of the crew's other jobs that this one has not yet, the latest calibration first."""
    own = {one.serial for one in load(job_id).job.testing.instruments}
    found: dict[str, Instrument] = {}
    rows = of_crew(person, JobRow.objects.exclude(id=job_id))
    for plan in rows.values_list("plan", flat=True):
        for data in plan.get("testing", {}).get("instruments", []):
            one = read(Instrument, data)
            other = found.get(one.serial)
            newer = other is None or (one.due_on or other.due_on) != other.due_on
            if one.serial not in own and newer:
                found[one.serial] = one
    return tuple(sorted(found.values(), key=lambda one: (one.due_on is None, one.name)))
