"""Changing jobs: each action checks, writes and audits in one transaction."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, date, datetime
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction

from core.base.errors import Refused, problem
from core.base.form import write
from core.base.messages import say
from core.bench import BenchRead, bench_readings
from core.edits.commission import PutLetter
from core.edits.edit import Edit
from core.edits.fields import Change, changed
from core.edits.house import applied, remade
from core.edits.new_job import NewJob, begun
from core.equipment.catalogue import Kind
from core.equipment.sheet import Sheet
from core.files.job import copied, read_job, refuse_future
from core.files.touches import Touch, put_back, told_of, touches
from core.job.fingerprints import stamped
from core.job.house import view
from core.job.job import Job
from core.job.readings import Evidence
from core.job.station import Station
from core.sheet_offers import SheetOffer, offer
from server.catalogue.stored import shelf_of
from server.evidence.models import EvidenceRow, digest, keep_bytes
from server.evidence.pictures import brought
from server.gateways.models import GatewayRow
from server.grid_settings.models import SettingsRow
from server.jobs.bundle import unbundled
from server.jobs.models import JobRow, PlanChange, PressRow, SourceFile, source_file
from server.jobs.stored import Stored, house_of, load, row_of, store_plan
from server.people.audit import audit, shown_name
from server.people.policy import crew_of, licence_of
from server.platform.problems import Conflict
from server.readings.models import ReadingRow
from server.signing.models import SignatureRow
from server.switching.models import OverrideRow
from server.yields.models import YieldRow

MOST_AUDIT_CHARS = 300
MOST_UNDONE = 50
NOTHING_TAKEN = BenchRead()


def create(person: User, new: NewJob, read: BenchRead = NOTHING_TAKEN) -> UUID:
    """Begin a job from typed entries, with what was read on the bench before.

    Raises Refused with every problem; also where what was read is of a string that is not there.
    """
    job = begun(new, shelf_of(person), job_id=str(uuid4()), today=date.today())
    readings = tuple(
        replace(reading, id=str(uuid4()), by=shown_name(person)[:60])
        for reading in bench_readings(read, datetime.now(UTC))
    )
    return keep(person, stamped(replace(job, readings=readings)), "job begun")


def keep(person: User, job: Job, what: str) -> UUID:
    """Keep a new job. what: how it came to be, for the audit."""
    with transaction.atomic():
        _store(person, job, what)
        for reading in job.readings:
            ReadingRow.keep(_uuid(job), reading, person)
    return _uuid(job)


def offers(person: User, job: Job) -> list[SheetOffer]:
    """The sheets of a job that have a newer revision on the shelf, and what that would change."""
    held: list[tuple[Kind, Sheet, str]] = [("modules", job.module, "")]
    held += [("modules", one.module, one.name) for one in job.planes if one.module is not None]
    if job.inverter is not None:
        held.append(("inverters", job.inverter, ""))
    if job.micro is not None:
        held += [("micros", job.micro.unit, ""), ("trunks", job.micro.trunk, "")]
        held += [("micros", one.unit, one.plane) for one in job.micro.types if one.unit]
        held += [("trunks", one.trunk, one.plane) for one in job.micro.types if one.trunk]
    if job.optimiser is not None:
        held.append(("optimisers", job.optimiser, ""))
    found, shelf = [], shelf_of(person)
    for kind, sheet, plane in held:
        newer = shelf.standing_one(kind, sheet.id)
        if newer is not None and newer.sheet_revision != sheet.sheet_revision:
            found.append(offer(kind, job, sheet, newer, plane))
    return found


def change(
    person: User,
    job_id: UUID,
    revision: int,
    changes: tuple[Change, ...],
    identity: str | None = None,
) -> Stored:
    """Change fields of a job's plan as typed. Raises Refused; Conflict when it moved on."""
    said = ", ".join(f"{one.path} = {one.entered}" for one in changes)
    return _remade(
        person,
        job_id,
        revision,
        lambda house: remade(house, str(job_id), lambda job: changed(job, changes)),
        said,
        identity,
    )


def edit(
    person: User, job_id: UUID, revision: int, wanted: Edit, identity: str | None = None
) -> Stored:
    """Make an edit of a job's plan. Raises Refused; Conflict when it moved on."""
    if isinstance(wanted, PutLetter):
        wanted = _signed_for(person, wanted)
    said = json.dumps(write(wanted), ensure_ascii=False)
    return _remade(
        person,
        job_id,
        revision,
        lambda house: applied(house, str(job_id), wanted, shelf_of(person)),
        said,
        identity,
    )


def undo(person: User, job_id: UUID, revision: int, of: int | None = None) -> Stored:
    """Put back one's own last change of a plan, or the one of one's own that made a revision.

    An undoing is a change too: what it put back can be made again by undoing it. Raises Refused:
    there is none, or somebody changed the same since; Conflict when the plan moved on.
    """
    own = row_of(job_id)
    row = own.house or own
    mine = PlanChange.objects.filter(job=row, by=person).order_by("-id")[:MOST_UNDONE]
    undone = set(PlanChange.objects.filter(job=row).values_list("undoes", flat=True))
    can = [one for one in mine if one.revision not in undone]
    wanted = (one for one in can if (one.undoes is None if of is None else one.revision == of))
    last = next(wanted, None)
    if last is None:
        raise Refused(
            [problem("$.of", str(of or ""), say("undo", "untouched"), say("undo", "nothing"))]
        )
    made = tuple(Touch(**one) for one in last.touches)
    said = "undone: " + ", ".join(told_of(one).what for one in made)
    return _remade(
        person, job_id, revision, lambda house: put_back(house, made), said, undoes=last.revision
    )


def _signed_for(person: User, letter: PutLetter) -> PutLetter:
    """A profile from the operator's letter with who fills it in. Raises Refused: no licence."""
    licence = licence_of(person)
    if not licence:
        said = "A profile is filled from the operator's letter by somebody with a licence in force."
        raise Refused([problem("$.edit", shown_name(person), "somebody with a licence", said)])
    return replace(letter, by=shown_name(person)[:60], licence=licence)


def _remade(
    person: User,
    job_id: UUID,
    revision: int,
    make: Callable[[Job], Job],
    said: str,
    identity: str | None = None,
    undoes: int | None = None,
) -> Stored:
    with transaction.atomic():
        if identity is not None and _is_made(job_id, identity, said):
            # Its answer was lost on the way, and it was sent again.
            return load(job_id)
        own = row_of(job_id)
        row = own.house or own
        if row.revision != revision:
            raise Conflict(
                "Somebody changed this job a moment ago. It is shown as it stands now; "
                "make your change again if it is still wanted."
            )
        before = house_of(row)
        house = make(before)
        if job_id != row.id and str(job_id) not in [one.id for one in house.stations]:
            said = "This inverter cannot take itself out: do it from another one's page."
            raise Refused([problem("$.edit", str(job_id), "another inverter of the house", said)])
        row.revision += 1
        store_plan(row, house)
        PlanChange.objects.create(
            job=row,
            revision=row.revision,
            by=person,
            touches=[vars(one) for one in touches(before, house)],
            undoes=undoes,
        )
        if identity is not None:
            made = digest(said.encode())
            PressRow.objects.create(job=own, identity=identity, digest=made, by=person)
        audit(person, job_id, "plan changed", said[:MOST_AUDIT_CHARS])
    return Stored(job=view(house, str(job_id)), revision=row.revision)


def _is_made(job_id: UUID, identity: str, said: str) -> bool:
    """Whether this very change was made already. Raises Conflict: another has its identity."""
    row = PressRow.objects.filter(identity=identity).first()
    if row is None:
        return False
    if (row.job_id, row.digest) != (job_id, digest(said.encode())):
        text = "Another change was made under this identity. It stays; this one was not made."
        raise Conflict(text)
    return True


def take_in(person: User, raw: bytes, as_copy: bool, file_name: str = "") -> UUID:
    """Read a job in, whole: its file, or a ZIP of it with its pictures.

    Raises Refused; Conflict when the job is here already.
    """
    sent = unbundled(raw)
    job = read_job(sent.job)
    refuse_future(job, datetime.now(UTC))
    job, pictures = _with_pictures(job, sent.pictures)
    if as_copy:
        job = copied(job, str(uuid4()))
    with transaction.atomic():
        if JobRow.objects.filter(id__in=[job.id, *(one.id for one in job.stations)]).exists():
            raise Conflict(f"{job.name} is here already. Read it in as a copy to keep both.")
        origin = source_file(person, raw, file_name, "job")
        _store(person, job, "job read in from a file", origin)
        for picture in pictures:
            keep_bytes(picture)
        _keep_all(job, origin)
        for station in job.stations:
            _keep_all(station, origin)
    return _uuid(job)


def _with_pictures(job: Job, sent: dict[str, bytes]) -> tuple[Job, list[bytes]]:
    """The pictures that a file brings, as they are kept, and the job whose evidence names them so.

    One that nothing in the job refers to is not kept; one that says where it was taken, and whose
    line does not, is kept without. Raises Refused for one that cannot be opened.
    """
    every = (*job.evidence, *(one for station in job.stations for one in station.evidence))
    located = {one.sha256 for one in every if one.located}
    kept = {
        sha256: brought(sent[sha256], may_be_located=sha256 in located)
        for sha256 in dict.fromkeys(one.sha256 for one in every)
        if sha256 in sent
    }

    def named(evidence: tuple[Evidence, ...]) -> tuple[Evidence, ...]:
        return tuple(
            replace(one, sha256=digest(data), size_bytes=len(data))
            if (data := kept.get(one.sha256)) is not None
            else one
            for one in evidence
        )

    stations = tuple(replace(one, evidence=named(one.evidence)) for one in job.stations)
    made = replace(job, evidence=named(job.evidence), stations=stations)
    return made, list(kept.values())


def _keep_all(of: Job | Station, origin: SourceFile) -> None:
    """Write down everything that a file brings of one inverter."""
    row_id = UUID(of.id)
    for reading in of.readings:
        ReadingRow.keep(row_id, reading, None, origin)
    for written in of.settings_written:
        SettingsRow.keep(row_id, written)
    for looked in of.gateway_reads:
        GatewayRow.keep(row_id, looked)
    for lifted in of.step_overrides:
        OverrideRow.keep(row_id, lifted)
    for seen in of.yield_looks:
        YieldRow.keep(row_id, seen)
    for signed in of.signatures if isinstance(of, Job) else ():
        SignatureRow.keep(row_id, signed)
    for kept in of.evidence:
        EvidenceRow.keep(row_id, kept)


def _uuid(job: Job) -> UUID:
    return UUID(job.id)


def _store(person: User, job: Job, what: str, origin: SourceFile | None = None) -> None:
    row = JobRow(id=_uuid(job), plan={}, created_by=person, crew=crew_of(person), origin=origin)
    store_plan(row, job)
    said = f"{job.name}, {origin.name or 'file'} {origin.sha256[:12]}" if origin else job.name
    audit(person, _uuid(job), what, said)
