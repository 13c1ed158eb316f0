"""Between rows and the core's value: the one place where a stored job becomes a Job."""

from __future__ import annotations

import json
from dataclasses import dataclass, fields, replace
from functools import lru_cache
from typing import Any
from uuid import UUID

from django.http import Http404

from core.base.form import read, write
from core.job.job import KEPT_APART, Job
from core.job.older_versions import present
from server.evidence.models import EvidenceRow
from server.gateways.models import GatewayRow
from server.grid_settings.models import SettingsRow
from server.jobs.models import JobRow
from server.readings.models import ReadingRow
from server.switching.models import OverrideRow

# Plans read lately: the next reading or look at one of them finds it ready.
PLANS_READY = 128


def to_core(row: JobRow) -> Job:
    """The job with everything read on it and written to its inverter."""
    apart = {
        "settings_written": [written.as_file() for written in SettingsRow.of(row.id)],
        "evidence": [kept.as_file() for kept in EvidenceRow.of(row.id)],
        "step_overrides": [lifted.as_file() for lifted in OverrideRow.of(row.id)],
        "gateway_reads": [looked.as_file() for looked in GatewayRow.of(row.id)],
    }
    planned = _planned(json.dumps(row.plan | apart))
    return replace(planned, readings=ReadingRow.kept_of(row.id))


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
    return Stored(job=to_core(row), revision=row.revision)


def plan_of(job: Job) -> dict[str, Any]:
    """What a job row keeps of a job."""
    return {
        field.name: write(getattr(job, field.name))
        for field in fields(job)
        if field.name not in KEPT_APART
    }


def row_of(job_id: UUID) -> JobRow:
    """The stored job. Raises Http404."""
    try:
        return JobRow.objects.get(id=job_id)
    except JobRow.DoesNotExist:
        raise Http404 from None
