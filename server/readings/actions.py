"""Keeping readings: a correction is a new reading that supersedes."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction

from core.base.errors import Refused, problem
from core.base.limits import EARLIEST, LATEST
from core.edits.readings import SERIALS, parse_reading
from core.files.serial_map import read_map
from core.interlocks import refuse_if_locked
from core.job.fingerprints import stamp
from core.job.job import Job
from core.job.reading_kinds import ReadingKind
from core.job.reading_values import Measured
from core.job.readings import Reading
from core.stages.microinverter.serial_map import SerialMap
from core.stages.prove.prompts import TESTS
from core.stages.reading_index import Readings, kept_of
from server.jobs.models import JobRow, SourceFile, source_file
from server.jobs.stored import Stored, kept_under, load
from server.people.audit import audit, shown_name
from server.people.policy import is_learner, may_read, of_crew
from server.readings.models import ReadingRow
from server.sun.views import plane_sun

# Clocks of a phone and of the server differ by a little.
CLOCK_DOUBT = timedelta(minutes=5)
MOST_NOTE_CHARS = 500


@dataclass(frozen=True, kw_only=True)
class Entry:
    """A reading as typed. taken_at None: now, or when the corrected one was taken.

    retest: what it supersedes was not wrong, it was made anew.
    """

    kind: ReadingKind
    subject: str
    entered: str
    taken_at: datetime | None
    instrument: str
    note: str
    supersedes: str | None
    retest: bool = False


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
            if not may_read(person, entry.kind):
                said = "Switching, and making dead, is for who answers for it. Nothing was kept."
                raise Refused([problem("$.kind", entry.kind, "what an apprentice reads", said)])
            reading = entry_reading(person, stored.job, _as_retest(stored.job, entry))
            _once_only(person, job_id, reading)
            refuse_if_locked(stored.job, reading)
            stored = _keep(person, job_id, stored, reading, source)
        return stored


def _as_retest(job: Job, entry: Entry) -> Entry:
    """A test that is made again supersedes the one before it; the first stays in the record."""
    if entry.supersedes is not None or entry.kind not in TESTS:
        return entry
    before = Readings(kept_of(job)).latest(entry.kind, entry.subject)
    return replace(entry, supersedes=before.id, retest=True) if before else entry


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


def keep_clear_sky(person: User, job_id: UUID, plane: str, at: datetime | None) -> Stored:
    """Keep the clear-sky figure of a plane at a moment as its irradiance, marked as such."""
    with transaction.atomic():
        stored = load(job_id)
        reading = _clear_sky_reading(person, stored.job, plane, at)
        return _keep(person, job_id, stored, reading)


def tried(person: User, job_id: UUID, entry: Entry) -> Job:
    """The job as it would be with the typed reading; nothing is kept."""
    job = load(job_id).job
    return _with(job, entry_reading(person, job, entry))


def entry_reading(person: User, job: Job, entry: Entry) -> Reading:
    """The reading that an entry would become."""
    corrected = next((r for r in job.readings if r.id == entry.supersedes), None)
    # A unit's label is read anew, even where it takes the place of another: it may be a new unit.
    as_before = corrected is not None and entry.kind != "unit_serial" and not entry.retest
    taken_at = entry.taken_at or (corrected.taken_at if corrected and as_before else None)
    reading = Reading(
        kind=entry.kind,
        subject=entry.subject,
        value=parse_reading(
            entry.kind, entry.subject, entry.entered, job.serial_form_of(entry.subject)
        ),
        basis="measured",
        instrument=entry.instrument,
        note=entry.note,
        supersedes=entry.supersedes,
        retest=entry.retest,
        learner=is_learner(person),
        **vars(_stamp(person, taken_at)),
    )
    return stamp(job, reading)


def _clear_sky_reading(person: User, job: Job, plane: str, at: datetime | None) -> Reading:
    chosen = next((one for one in job.planes if one.name == plane), None)
    if chosen is None:
        raise Refused([problem("$.plane", plane, " · ".join(p.name for p in job.planes))])
    taken = _stamp(person, at)
    sun = plane_sun(job, chosen, taken.taken_at)
    if sun is None:
        allowed = "a plane whose tilt and facing are entered"
        raise Refused([problem("$.plane", plane, allowed)])
    if sun.poa_w_per_m2 < 1:
        local = f"{sun.elevation_deg:.0f}° above the horizon".replace("-", "−")
        said = (
            f"There is no clear-sky figure for {plane} at that hour: the sun stands {local}. "
            "Choose an hour of daylight, or measure."
        )
        raise Refused([problem("$.at", str(taken.taken_at), "an hour of daylight", said)])
    reading = Reading(
        kind="irradiance",
        subject=plane,
        value=Measured(float(round(sun.poa_w_per_m2))),
        basis="clear_sky",
        note=f"Clear sky on {chosen.tilt_deg:g}° facing {chosen.azimuth_deg:g}°, computed.",
        **vars(taken),
    )
    return stamp(job, reading)


@dataclass(frozen=True, kw_only=True)
class _Stamp:
    """Who keeps a reading, when it was taken and when it is kept."""

    id: str
    by: str
    taken_at: datetime
    kept_at: datetime


def _stamp(person: User, taken_at: datetime | None) -> _Stamp:
    now = datetime.now(UTC)
    taken = taken_at or now
    if taken.tzinfo is None:
        raise Refused([problem("$.taken_at", str(taken), "a time with its offset")])
    if not EARLIEST.year < taken.year < LATEST.year:
        allowed = f"a year from {EARLIEST.year} on"
        raise Refused([problem("$.taken_at", str(taken), allowed)])
    if taken > now + CLOCK_DOUBT:
        said = "A reading cannot be taken in the future: check the time."
        raise Refused([problem("$.taken_at", taken.isoformat(), "not after now", said)])
    return _Stamp(id=str(uuid4()), by=shown_name(person)[:60], taken_at=taken, kept_at=now)


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
    return Stored(job=job, revision=stored.revision)
