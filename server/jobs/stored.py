"""Between rows and the core's value: the one place where a stored job becomes a Job."""

from __future__ import annotations

import json
from dataclasses import dataclass, fields
from functools import lru_cache
from typing import Any
from uuid import UUID

from django.http import Http404

from core.base.form import read, write
from core.job.house import view, with_kept
from core.job.house_views import is_shared
from core.job.job import KEPT_APART, KEPT_OF_HOUSE, Job
from core.job.older_versions import present
from core.job.readings import Reading
from core.job.station import Station
from server.evidence.models import EvidenceRow
from server.gateways.models import GatewayRow
from server.grid_settings.models import SettingsRow
from server.jobs.models import JobRow
from server.readings.models import ReadingRow
from server.signing.models import SignatureRow
from server.switching.models import OverrideRow
from server.yields.models import YieldRow

# Plans read lately: the next reading or look at one of them finds it ready.
PLANS_READY = 128


def to_core(row: JobRow) -> Job:
    """The job with everything read on it and written to its inverter; one inverter's of a house.

    Raises Http404 where the house has that inverter no longer.
    """
    try:
        return view(house_of(row), str(row.id))
    except KeyError:
        raise Http404 from None


def house_of(row: JobRow) -> Job:
    """The whole house of a job: with every inverter, and everything kept of each."""
    row = row.house or row
    signed = [one.as_file() for one in SignatureRow.of(row.id)]
    plan = dict(row.plan) | _apart(row.id) | {"signatures": signed}
    stations = plan.get("stations") or []
    plan["stations"] = [one | _apart(UUID(one["id"])) for one in stations]
    planned = _planned(json.dumps(plan))
    ids = (planned.id, *(one.id for one in planned.stations))
    read_on = {one: {"readings": ReadingRow.kept_of(UUID(one))} for one in ids}
    return with_kept(planned, read_on)


def _apart(row_id: UUID) -> dict[str, Any]:
    """What is kept of one inverter besides its readings, as the job file has it."""
    return {
        "settings_written": [written.as_file() for written in SettingsRow.of(row_id)],
        "evidence": [kept.as_file() for kept in EvidenceRow.of(row_id)],
        "step_overrides": [lifted.as_file() for lifted in OverrideRow.of(row_id)],
        "gateway_reads": [looked.as_file() for looked in GatewayRow.of(row_id)],
        "yield_looks": [looked.as_file() for looked in YieldRow.of(row_id)],
    }


@lru_cache(maxsize=PLANS_READY)
def _planned(text: str) -> Job:
    """A job without its readings, read once for as long as its text stays the same."""
    return read(Job, present(json.loads(text)))


@dataclass(frozen=True, kw_only=True)
class Stored:
    """A job as it stands, and the revision of its plan."""

    job: Job
    revision: int


def load(job_id: UUID) -> Stored:
    """The stored job. Raises Http404."""
    row = row_of(job_id)
    return Stored(job=to_core(row), revision=(row.house or row).revision)


def load_house(job_id: UUID) -> Job:
    """The house of a stored job. Raises Http404."""
    return house_of(row_of(job_id))


def kept_under(job: Job, reading: Reading) -> UUID:
    """Whose row a reading is kept under: its inverter's, or the house's where it is shared."""
    job_id = UUID(job.id)
    if not is_shared(job, reading):
        return job_id
    return JobRow.objects.values_list("house_id", flat=True).get(id=job_id) or job_id


def store_plan(row: JobRow, house: Job) -> None:
    """Write a house's plan down, with a row for each of its further inverters."""
    row.plan = plan_of(house)
    row.save()
    for one in house.stations:
        JobRow.objects.get_or_create(
            id=UUID(one.id),
            defaults={
                "plan": {},
                "house": row,
                "created_by": row.created_by,
                "crew": row.crew,
                "origin": row.origin,
            },
        )


def plan_of(job: Job) -> dict[str, Any]:
    """What a job row keeps of a job."""
    plan = _unkept(job)
    plan["stations"] = [_unkept(one) for one in job.stations]
    return plan


def _unkept(of: Job | Station) -> dict[str, Any]:
    return {
        field.name: write(getattr(of, field.name))
        for field in fields(of)
        if field.name not in (*KEPT_APART, *KEPT_OF_HOUSE)
    }


def row_of(job_id: UUID) -> JobRow:
    """The stored job. Raises Http404."""
    try:
        return JobRow.objects.select_related("house").get(id=job_id)
    except JobRow.DoesNotExist:
        raise Http404 from None
