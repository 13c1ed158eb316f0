"""The job file: one job as JSON, read strictly and written whole."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

from core.base.form import read, schema, write
from core.base.json_text import parse_json
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.older_versions import present


def read_job(raw: bytes) -> Job:
    """The job in a job file. Raises Refused with every problem and its JSON path.

    A file brings no authority: locks that were lifted elsewhere are told and lift nothing here.
    """
    job = stamped(read(Job, present(parse_json(raw))))
    told = tuple(replace(one, from_file=True) for one in job.step_overrides)
    return replace(job, step_overrides=told)


def write_job(job: Job) -> str:
    """The job file's text: reading it back gives the same job, its readings with fingerprints."""
    return json.dumps(write(job), indent=2, ensure_ascii=False) + "\n"


def job_schema() -> dict[str, Any]:
    """JSON Schema of the job file."""
    return schema(Job, "Long Noon job file, version 3")
