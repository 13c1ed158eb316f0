"""The job file: one job as JSON, read strictly and written whole."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from core.base.errors import Refused, problem
from core.base.form import read, schema, write
from core.base.json_text import parse_json
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.older_versions import present

MOST_NAME_CHARS = 50
CLOCK_DOUBT = timedelta(minutes=5)


def read_job(raw: bytes) -> Job:
    """The job in a job file. Raises Refused with every problem and its JSON path.

    A file brings no authority: locks that were lifted elsewhere are told and lift nothing here.
    """
    job = stamped(read(Job, present(parse_json(raw))))
    told = tuple(replace(one, from_file=True) for one in job.step_overrides)
    return replace(job, step_overrides=told)


def copied(job: Job, job_id: str) -> Job:
    """The plan of a job for another house, under another identity.

    What was read, written, photographed, permitted and left open there is that house's history:
    none of it is carried over.
    """
    return replace(
        job,
        id=job_id,
        name=f"{job.name[:MOST_NAME_CHARS]} (copy)",
        readings=(),
        settings_written=(),
        evidence=(),
        gateway_reads=(),
        step_overrides=(),
        retired=(),
        arrival=replace(job.arrival, permit=None, open_items=()),
    )


def refuse_future(job: Job, now: datetime) -> None:
    """Refuses a file that claims what has not been yet, with the path of every claim.

    Raises Refused. Clocks of two devices may differ by some minutes.
    """
    latest = now + CLOCK_DOUBT
    claims = (
        *((f"$.readings[{n}].taken_at", one.taken_at) for n, one in enumerate(job.readings)),
        *((f"$.readings[{n}].kept_at", one.kept_at) for n, one in enumerate(job.readings)),
        *((f"$.settings_written[{n}].at", one.at) for n, one in enumerate(job.settings_written)),
        *((f"$.gateway_reads[{n}].at", one.at) for n, one in enumerate(job.gateway_reads)),
        *((f"$.step_overrides[{n}].at", one.at) for n, one in enumerate(job.step_overrides)),
        *((f"$.evidence[{n}].kept_at", one.kept_at) for n, one in enumerate(job.evidence)),
    )
    found = [
        problem(path, at.isoformat(), "not after now", "This has not been yet: check the clock.")
        for path, at in claims
        if at > latest
    ]
    if found:
        raise Refused(found)


def write_job(job: Job) -> str:
    """The job file's text: reading it back gives the same job, its readings with fingerprints."""
    return json.dumps(write(job), indent=2, ensure_ascii=False) + "\n"


def job_schema() -> dict[str, Any]:
    """JSON Schema of the job file."""
    return schema(Job, "Long Noon job file, version 3")
