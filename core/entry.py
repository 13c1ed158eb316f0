"""A typed entry made a reading: one way, on the server and in the hand."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

from core.base.errors import Refused, problem
from core.base.limits import CLOCK_DOUBT, EARLIEST, LATEST
from core.edits.readings import parse_reading
from core.job.fingerprints import stamp
from core.job.job import Job
from core.job.reading_kinds import ReadingKind
from core.job.readings import Reading
from core.stages.prove.prompts import TESTS
from core.stages.reading_index import Readings, kept_of


@dataclass(frozen=True, kw_only=True)
class Entry:
    """A reading as typed. taken_at None: now, or when the corrected one was taken.

    retest: what it supersedes was not wrong, it was made anew. id: made in the hand, by which it
    is known however often it is sent; noted_at, device: when and on what it was pressed there.
    unseen: what it supersedes was not known where it was typed.
    """

    kind: ReadingKind
    subject: str
    entered: str
    taken_at: datetime | None
    instrument: str
    note: str
    supersedes: str | None
    retest: bool = False
    id: str | None = None
    noted_at: datetime | None = None
    device: str = ""
    unseen: bool = False


@dataclass(frozen=True, kw_only=True)
class Stamp:
    """Who keeps a reading, when it was taken and when it is kept."""

    id: str
    by: str
    taken_at: datetime
    kept_at: datetime


def stamped_now(by: str, taken_at: datetime | None, identity: str, now: datetime) -> Stamp:
    """The stamp of what is kept now. Raises Refused: a moment that cannot be."""
    taken = taken_at or now
    if taken.tzinfo is None:
        raise Refused([problem("$.taken_at", str(taken), "a time with its offset")])
    if not EARLIEST.year < taken.year < LATEST.year:
        allowed = f"a year from {EARLIEST.year} on"
        raise Refused([problem("$.taken_at", str(taken), allowed)])
    if taken > now + CLOCK_DOUBT:
        said = "A reading cannot be taken in the future: check the time."
        raise Refused([problem("$.taken_at", taken.isoformat(), "not after now", said)])
    return Stamp(id=identity, by=by, taken_at=taken, kept_at=now)


def placed(job: Job, entry: Entry, by: str) -> Entry:
    """An entry after what it takes the place of.

    A test that is made again supersedes the one before it; the first stays in the record. What
    corrects a reading that was corrected meanwhile comes after that correction; where another
    person made it, and says otherwise, one of the two is still to be chosen.
    """
    if entry.supersedes is None:
        if entry.kind not in TESTS:
            return entry
        before = Readings(kept_of(job)).latest(entry.kind, entry.subject)
        return replace(entry, supersedes=before.id, retest=True) if before else entry
    corrected_by = {one.supersedes: one for one in job.readings if one.supersedes}
    newest = None
    while (later := corrected_by.get(newest.id if newest else entry.supersedes)) is not None:
        newest = later
    if newest is None:
        return entry
    value = parse_reading(
        entry.kind, entry.subject, entry.entered, job.serial_form_of(entry.subject)
    )
    met = newest.by != by and newest.value != value
    return replace(entry, supersedes=newest.id, unseen=met)


def taken_when(job: Job, entry: Entry) -> datetime | None:
    """When an entry was taken: as it says, as what it corrects, or as it was pressed."""
    corrected = next((one for one in job.readings if one.id == entry.supersedes), None)
    # A unit's label is read anew, even where it takes the place of another: it may be a new unit.
    as_before = corrected is not None and entry.kind != "unit_serial" and not entry.retest
    before = corrected.taken_at if corrected and as_before else None
    return entry.taken_at or before or entry.noted_at


def reading_of(job: Job, entry: Entry, kept: Stamp, learner: bool) -> Reading:
    """The reading that an entry becomes, with what it is read of. Raises Refused."""
    form = job.serial_form_of(entry.subject)
    reading = Reading(
        kind=entry.kind,
        subject=entry.subject,
        value=parse_reading(entry.kind, entry.subject, entry.entered, form),
        basis="measured",
        instrument=entry.instrument,
        note=entry.note,
        supersedes=entry.supersedes,
        retest=entry.retest,
        learner=learner,
        device=entry.device,
        unseen=entry.unseen,
        **vars(kept),
    )
    return stamp(job, reading)
