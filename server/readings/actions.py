"""Keeping readings: a correction is a new reading that supersedes."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction

from core.base.errors import Refused, problem
from core.edits.readings import SERIALS, parse_reading
from core.entry import Entry, Stamp, placed, reading_of, stamped_now, taken_when
from core.files.serial_map import read_map
from core.interlocks import refuse_if_locked
from core.job.house import View
from core.job.job import Job
from core.job.reading_values import as_pair
from core.job.readings import Reading
from core.sky import ClearSky, clear_sky_reading, plane_lying
from core.stages.microinverter.serial_map import SerialMap
from core.stages.reading_index import Readings, kept_of
from server.jobs.models import JobRow, SourceFile, source_file
from server.jobs.stored import Stored, kept_under, load
from server.people.audit import audit, shown_name
from server.people.policy import is_learner, may_read, of_crew
from server.platform.problems import Conflict
from server.readings.models import ReadingRow
from server.sun.views import plane_sun

MOST_NOTE_CHARS = 500
OTHER_KEPT = "Another reading was kept under this identity. It stays; this one was not kept."


def keep(person: User, job_id: UUID, entry: Entry) -> Stored:
    """Keep a typed reading for good. Raises Refused; then nothing is kept."""
    return keep_all(person, job_id, (entry,))


def keep_all(
    person: User, job_id: UUID, entries: tuple[Entry, ...], source: SourceFile | None = None
) -> Stored:
    """Keep several typed readings together. Raises Refused; then none of them is kept."""
    with transaction.atomic():
        stored = load(job_id)
        for entry in entries:
            if _is_kept(job_id, entry):
                # Its answer was lost on the way, and it was sent again.
                continue
            if not may_read(person, entry.kind):
                said = "Switching, and making dead, is for who answers for it. Nothing was kept."
                raise Refused([problem("$.kind", entry.kind, "what an apprentice reads", said)])
            after = placed(stored.job, entry, shown_name(person)[:60])
            reading = entry_reading(person, stored.job, after)
            _once_only(person, job_id, reading)
            refuse_if_locked(stored.job, reading)
            stored = _keep(person, job_id, stored, reading, source)
        return stored


def _is_kept(job_id: UUID, entry: Entry) -> bool:
    """Whether this very reading is kept already. Raises Conflict: another has its identity."""
    row = ReadingRow.of(job_id).filter(identity=entry.id).first() if entry.id else None
    if row is None:
        return False
    given = (entry.kind, entry.subject, entry.instrument, entry.note)
    same = given == (row.kind, row.subject, row.instrument, row.note)
    job = load(job_id).job
    value = parse_reading(
        entry.kind, entry.subject, entry.entered, job.serial_form_of(entry.subject)
    )
    after = {None} if row.retest else _before(job, row.supersedes)
    if not same or entry.supersedes not in after or as_pair(value) != (row.value, row.text):
        raise Conflict(OTHER_KEPT)
    return True


def _before(job: Job, reading_id: str | None) -> set[str | None]:
    """A reading with all that it came to stand in the place of, by identity."""
    supersedes = {one.id: one.supersedes for one in job.readings}
    found = {reading_id}
    while (reading_id := supersedes.get(reading_id or "")) is not None:
        found.add(reading_id)
    return found


def _once_only(person: User, job_id: UUID, reading: Reading) -> None:
    """A serial stands on one device in the world: on two jobs one of them was misread.

    Raises Refused, unless a note says why it is right. A serial that was corrected since does
    not count.
    """
    if reading.kind not in SERIALS or reading.note.strip():
        return
    own = of_crew(person, ReadingRow.objects.all(), "job__crew")
    others = own.filter(kind__in=SERIALS, text=reading.text)
    for other in others.exclude(job_id=job_id).select_related("job__house"):
        if ReadingRow.of(other.job_id).filter(supersedes=other.identity).exists():
            continue
        said = (
            f"{reading.text} is on {_name_of(other.job)} already, kept by {other.by}: read the "
            "label again. If the device moved here, say so in the note."
        )
        raise Refused([problem("$.entered", reading.text, "a serial of no other job", said)])


def _name_of(row: JobRow) -> str:
    """The name of a job; of a further inverter, that of its house too."""
    return load(row.id).job.name


def countersign(person: User, job_id: UUID, reading_ids: tuple[str, ...]) -> Stored:
    """Answer for what a learner read: the same value again, under one's own name.

    Raises Refused for what no learner read, or what no longer counts; then nothing is kept.
    """
    with transaction.atomic():
        stored = load(job_id)
        for reading_id in reading_ids:
            was = next((one for one in stored.job.readings if one.id == reading_id), None)
            gone = {one.supersedes for one in stored.job.readings}
            if was is None or not was.learner or reading_id in gone:
                allowed = "a reading of a learner that stands"
                raise Refused([problem("$.readings", reading_id, allowed)])
            reading = replace(
                was,
                id=str(uuid4()),
                by=shown_name(person)[:60],
                kept_at=datetime.now(UTC),
                note=f"Read by {was.by}, countersigned. {was.note}".strip()[:MOST_NOTE_CHARS],
                supersedes=was.id,
                learner=False,
            )
            stored = _keep(person, job_id, stored, reading)
        return stored


def take_map(person: User, job_id: UUID, raw: bytes, file_name: str = "") -> Stored:
    """Keep the serials of a map file; one that a unit has already is not kept again.

    Another serial than the unit has supersedes it. Raises Refused; then none is kept.
    """
    job = load(job_id).job
    serials = SerialMap(job.roof_plan, Readings(kept_of(job)))
    entries = tuple(
        Entry(
            kind="unit_serial",
            subject=unit,
            entered=serial,
            taken_at=datetime.now(UTC),
            instrument="",
            note="",
            supersedes=serials.by_unit[unit].id if unit in serials.by_unit else None,
        )
        for unit, serial in read_map(job, raw)
        if serials.serial(unit) != serial
    )
    source = source_file(person, raw, file_name, "serial map")
    return keep_all(person, job_id, entries, source)


def keep_clear_sky(person: User, job_id: UUID, sky: ClearSky) -> Stored:
    """Keep the clear-sky figure of a plane at a moment as its irradiance, marked as such."""
    with transaction.atomic():
        stored = load(job_id)
        row = ReadingRow.of(job_id).filter(identity=sky.id).first() if sky.id else None
        if row is not None:
            if (row.basis, row.subject) != ("clear_sky", sky.plane):
                raise Conflict(OTHER_KEPT)
            return stored
        return _keep(person, job_id, stored, _clear_sky_reading(person, stored.job, sky))


def tried(person: User, job_id: UUID, entry: Entry) -> Job:
    """The job as it would be with the typed reading; nothing is kept."""
    job = load(job_id).job
    return _with(job, entry_reading(person, job, entry))


def entry_reading(person: User, job: Job, entry: Entry) -> Reading:
    """The reading that an entry would become."""
    kept = _stamp(person, taken_when(job, entry), entry.id)
    return reading_of(job, entry, kept, learner=is_learner(person))


def _clear_sky_reading(person: User, job: Job, sky: ClearSky) -> Reading:
    plane = plane_lying(job, sky.plane)
    kept = _stamp(person, sky.at or sky.noted_at, sky.id)
    light = plane_sun(job, plane, kept.taken_at)
    assert light is not None, "a plane that lies somewhere has its sun"
    return replace(clear_sky_reading(job, plane, light, kept), device=sky.device)


def _stamp(person: User, taken_at: datetime | None, identity: str | None = None) -> Stamp:
    by = shown_name(person)[:60]
    return stamped_now(by, taken_at, identity or str(uuid4()), datetime.now(UTC))


def _with(job: Job, reading: Reading) -> Job:
    return replace(job, readings=(*job.readings, reading))


def _keep(
    person: User, job_id: UUID, stored: Stored, reading: Reading, source: SourceFile | None = None
) -> Stored:
    job = _with(stored.job, reading)
    ReadingRow.keep(kept_under(job, reading), reading, person, source)
    what = "reading corrected" if reading.supersedes else "reading kept"
    audit(
        person,
        job_id,
        what,
        f"{reading.kind} {reading.subject} {reading.value.plain()}",
    )
    if isinstance(job, View):
        # What the house shares counts for its other inverters too.
        return load(job_id)
    return Stored(job=job, revision=stored.revision)
