"""Changing jobs: each action checks, writes and audits in one transaction."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction

from core.base.errors import Problem, Refused
from core.base.form import hints, read, write
from core.bench import PLANE as BENCH_PLANE
from core.bench import Bench, bench_readings
from core.edits.fields import Change, changed, typed
from core.equipment.catalogue import Kind
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.equipment.sheet import Sheet
from core.files.job import read_job
from core.job.feed import one_run, roof_run
from core.job.job import FORMAT, VERSION, Job, Site
from core.job.microinverter import MicroPlan
from core.sheet_offers import SheetOffer, offer
from server.catalogue.stored import one, own_packs, standing_one
from server.evidence.models import EvidenceRow, keep_bytes
from server.gateways.models import GatewayRow
from server.grid_settings.models import SettingsRow
from server.jobs.bundle import unbundled
from server.jobs.models import JobRow
from server.jobs.stored import Stored, plan_of, row_of, to_core
from server.people.actions import audit, shown_name
from server.platform.problems import Conflict
from server.readings.models import ReadingRow
from server.switching.models import OverrideRow

MOST_AUDIT_CHARS = 300
# A new job begins with these; the user changes them on the String and Feed stages.
NEW_PLANES = ({"name": "Front", "tilt_deg": 35.0, "azimuth_deg": 180.0},)
NEW_COUNT = 10
NEW_FEED = {"single": (15.0, 6.0, 3), "split": (15.0, 6.0, 4), "three": (15.0, 4.0, 5)}
NEW_DEVICE = {"profile": None, "host": "inverter.local", "port": 502, "unit_id": 1}


@dataclass(frozen=True, kw_only=True)
class NewJob:
    """What is typed to begin a job."""

    name: str
    day: str
    place: str
    latitude_deg: str
    longitude_deg: str
    altitude_m: str
    timezone: str
    t_air_min_c: str
    t_air_max_c: str
    climate_source: str
    rule_pack: str
    module: str
    inverter: str = ""
    micro: str = ""
    trunk: str = ""


def create(person: User, new: NewJob) -> UUID:
    """Begin a job from typed entries. Raises Refused with every problem."""
    job = _begun(new)
    with transaction.atomic():
        _store(person, job, "job begun")
    return UUID(job.id)


def from_bench(person: User, new: NewJob, bench: Bench) -> UUID:
    """Begin a job with what lies on the bench: count, mounting and readings come along."""
    job = _begun(new)
    first, plane = job.strings[0], job.planes[0]
    now = datetime.now(UTC)
    readings = tuple(
        replace(
            reading,
            id=str(uuid4()),
            subject=reading.subject.replace(BENCH_PLANE, plane.name),
            by=shown_name(person)[:60],
        )
        for reading in bench_readings(bench, now)
    )
    job = replace(
        job,
        planes=(replace(plane, mounting=bench.mounting),),
        strings=(replace(first, modules_in_series=bench.modules_in_series), *job.strings[1:]),
        readings=readings,
    )
    with transaction.atomic():
        _store(person, job, "job begun from the bench")
        for reading in readings:
            ReadingRow.keep(_uuid(job), reading)
    return _uuid(job)


def _begun(new: NewJob) -> Job:
    found: list[Problem] = []
    site: dict[str, object] = {}
    for name, hint in hints(Site).items():
        try:
            site[name] = typed(hint, getattr(new, name), f"$.site.{name}")
        except Refused as refused:
            found.extend(refused.problems)
    if found:
        raise Refused(found)
    module = one("modules", new.module, Module, "$.module")
    own = own_packs().get(new.rule_pack)
    data = {
        "format": FORMAT,
        "version": VERSION,
        "id": str(uuid4()),
        "name": new.name,
        "day": new.day or date.today().isoformat(),
        "rule_pack": new.rule_pack,
        "own_pack": None if own is None else write(own),
        "site": site,
        "planes": list(NEW_PLANES),
        "grid": NEW_DEVICE,
        "module": write(module),
        **(_new_roof(new) if new.micro else _new_strings(new)),
    }
    return read(Job, data)


def _new_strings(new: NewJob) -> dict[str, object]:
    """A wall inverter with a string on each tracker."""
    inverter = one("inverters", new.inverter, Inverter, "$.inverter")
    length_m, section_mm2, cores = NEW_FEED[inverter.service]
    return {
        "strings": [
            {
                "name": name,
                "tracker": tracker,
                "plane": NEW_PLANES[0]["name"],
                "modules_in_series": NEW_COUNT,
            }
            for tracker, name in zip(range(1, len(inverter.trackers) + 1), "ABCD", strict=False)
        ],
        "feed": write(one_run(length_m=length_m, section_mm2=section_mm2, cores=cores)),
        "inverter": write(inverter),
    }


def _new_roof(new: NewJob) -> dict[str, object]:
    """A roof of microinverters that is still to be drawn."""
    unit = one("micros", new.micro, Micro, "$.micro")
    trunk = one("trunks", new.trunk, Trunk, "$.trunk")
    length_m, section_mm2, cores = NEW_FEED[unit.service]
    return {
        "micro": write(MicroPlan(unit=unit, trunk=trunk)),
        "feed": write(roof_run(length_m=length_m, section_mm2=section_mm2, cores=cores)),
    }


def offers(job: Job) -> list[SheetOffer]:
    """The sheets of a job that have a newer revision on the shelf, and what that would change."""
    held: list[tuple[Kind, Sheet]] = [("modules", job.module)]
    if job.inverter is not None:
        held.append(("inverters", job.inverter))
    if job.micro is not None:
        held += [("micros", job.micro.unit), ("trunks", job.micro.trunk)]
    if job.optimiser is not None:
        held.append(("optimisers", job.optimiser))
    found = []
    for kind, sheet in held:
        newer = standing_one(kind, sheet.id)
        if newer is not None and newer.sheet_revision != sheet.sheet_revision:
            found.append(offer(kind, job, sheet, newer))
    return found


def change(person: User, job_id: UUID, revision: int, changes: tuple[Change, ...]) -> Stored:
    """Change fields of a job's plan as typed. Raises Refused; Conflict when it moved on."""
    said = ", ".join(f"{one.path} = {one.entered}" for one in changes)
    return edit(person, job_id, revision, lambda job: changed(job, changes), said)


def edit(
    person: User, job_id: UUID, revision: int, make: Callable[[Job], Job], said: str
) -> Stored:
    """Change a job's plan by a function of the core. Raises Refused; Conflict when it moved on."""
    with transaction.atomic():
        row = row_of(job_id)
        if row.revision != revision:
            raise Conflict(
                "Somebody changed this job a moment ago. It is shown as it stands now; "
                "make your change again if it is still wanted."
            )
        job = make(to_core(row))
        row.plan = plan_of(job)
        row.revision += 1
        row.save(update_fields=["plan", "revision"])
        audit(person, job_id, "plan changed", said[:MOST_AUDIT_CHARS])
    return Stored(job=job, revision=row.revision)


def take_in(person: User, raw: bytes, as_copy: bool) -> UUID:
    """Read a job in, whole: its file, or a ZIP of it with its pictures.

    Raises Refused; Conflict when the job is here already.
    """
    sent = unbundled(raw)
    job = read_job(sent.job)
    if as_copy:
        job = replace(job, id=str(uuid4()), name=f"{job.name[:50]} (copy)")
    with transaction.atomic():
        if JobRow.objects.filter(id=_uuid(job)).exists():
            raise Conflict(f"{job.name} is here already. Read it in as a copy to keep both.")
        _store(person, job, "job read in from a file")
        for reading in job.readings:
            ReadingRow.keep(_uuid(job), reading)
        for written in job.settings_written:
            SettingsRow.keep(_uuid(job), written)
        for looked in job.gateway_reads:
            GatewayRow.keep(_uuid(job), looked)
        for lifted in job.step_overrides:
            OverrideRow.keep(_uuid(job), lifted)
        for picture in sent.pictures:
            keep_bytes(picture)
        for kept in job.evidence:
            EvidenceRow.keep(_uuid(job), kept)
    return _uuid(job)


def _uuid(job: Job) -> UUID:
    return UUID(job.id)


def _store(person: User, job: Job, what: str) -> None:
    JobRow.objects.create(id=_uuid(job), plan=plan_of(job), created_by=person)
    audit(person, _uuid(job), what, job.name)
