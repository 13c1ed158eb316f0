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
from core.bench import Bench, bench_plan, bench_readings
from core.edits.commission import PutLetter
from core.edits.edit import Edit
from core.edits.fields import Change, changed
from core.edits.house import applied, remade
from core.edits.new_job import NewJob, begun
from core.equipment.catalogue import Kind
from core.equipment.sheet import Sheet
from core.files.job import copied, read_job, refuse_future
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
from server.jobs.models import JobRow, SourceFile, source_file
from server.jobs.stored import Stored, house_of, row_of, store_plan
from server.people.audit import audit, shown_name
from server.people.policy import crew_of, licence_of
from server.platform.problems import Conflict
from server.readings.models import ReadingRow
from server.signing.models import SignatureRow
from server.switching.models import OverrideRow
from server.yields.models import YieldRow

MOST_AUDIT_CHARS = 300


def create(person: User, new: NewJob) -> UUID:
    """Begin a job from typed entries. Raises Refused with every problem."""
    job = _begun(person, new)
    with transaction.atomic():
        _store(person, job, "job begun")
    return UUID(job.id)


def from_bench(person: User, new: NewJob, bench: Bench) -> UUID:
    """Begin a job with what lies on the bench: count, mounting and readings come along."""
    job = _begun(person, new)
    planes, strings = bench_plan(bench)
    readings = tuple(
        replace(reading, id=str(uuid4()), by=shown_name(person)[:60])
        for reading in bench_readings(bench, datetime.now(UTC))
    )
    job = replace(job, planes=planes, strings=strings, readings=readings)
    job = stamped(job)
    with transaction.atomic():
        _store(person, job, "job begun from the bench")
        for reading in job.readings:
            ReadingRow.keep(_uuid(job), reading, person)
    return _uuid(job)


def _begun(person: User, new: NewJob) -> Job:
    return begun(new, shelf_of(person), job_id=str(uuid4()), today=date.today())


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


def change(person: User, job_id: UUID, revision: int, changes: tuple[Change, ...]) -> Stored:
    """Change fields of a job's plan as typed. Raises Refused; Conflict when it moved on."""
    said = ", ".join(f"{one.path} = {one.entered}" for one in changes)
    return _remade(
        person,
        job_id,
        revision,
        lambda house: remade(house, str(job_id), lambda job: changed(job, changes)),
        said,
    )


def edit(person: User, job_id: UUID, revision: int, wanted: Edit) -> Stored:
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
    )


def _signed_for(person: User, letter: PutLetter) -> PutLetter:
    """A profile from the operator's letter with who fills it in. Raises Refused: no licence."""
    licence = licence_of(person)
    if not licence:
        said = "A profile is filled from the operator's letter by somebody with a licence in force."
        raise Refused([problem("$.edit", shown_name(person), "somebody with a licence", said)])
    return replace(letter, by=shown_name(person)[:60], licence=licence)


def _remade(
    person: User, job_id: UUID, revision: int, make: Callable[[Job], Job], said: str
) -> Stored:
    with transaction.atomic():
        own = row_of(job_id)
        row = own.house or own
        if row.revision != revision:
            raise Conflict(
                "Somebody changed this job a moment ago. It is shown as it stands now; "
                "make your change again if it is still wanted."
            )
        house = make(house_of(row))
        if job_id != row.id and str(job_id) not in [one.id for one in house.stations]:
            said = "This inverter cannot take itself out: do it from another one's page."
            raise Refused([problem("$.edit", str(job_id), "another inverter of the house", said)])
        row.revision += 1
        store_plan(row, house)
        audit(person, job_id, "plan changed", said[:MOST_AUDIT_CHARS])
    return Stored(job=view(house, str(job_id)), revision=row.revision)


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
