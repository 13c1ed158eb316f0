"""The job file: one job as JSON, read strictly and written whole."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime
from typing import Any
from uuid import UUID, uuid5

from core.base.errors import Refused, problem
from core.base.form import read, schema, write
from core.base.json_text import parse_json
from core.base.limits import CLOCK_DOUBT
from core.job.house import NOTHING_KEPT, NOTHING_KEPT_OF_HOUSE, alone, stamped_house
from core.job.job import Job
from core.job.older_versions import present
from core.job.sequences import StepOverride
from core.job.station import Station
from core.job.wall import Wall

MOST_NAME_CHARS = 50


def read_job(raw: bytes) -> Job:
    """The job in a job file. Raises Refused with every problem and its JSON path.

    A file brings no authority: locks that were lifted elsewhere are told and lift nothing here,
    and signatures made elsewhere sign nothing here.
    """
    job = stamped_house(read(Job, present(parse_json(raw))))
    stations = tuple(replace(one, step_overrides=_told(one.step_overrides)) for one in job.stations)
    return replace(
        job,
        step_overrides=_told(job.step_overrides),
        signatures=tuple(replace(one, from_file=True) for one in job.signatures),
        stations=stations,
    )


def _told(lifted: tuple[StepOverride, ...]) -> tuple[StepOverride, ...]:
    return tuple(replace(one, from_file=True) for one in lifted)


def copied(job: Job, job_id: str) -> Job:
    """The plan of a job for another house, under another identity.

    What was read, written, photographed, permitted and left open there is that house's history:
    none of it is carried over.
    """
    ids = {one.id: str(uuid5(UUID(job_id), one.id)) for one in job.stations}
    return replace(
        job,
        id=job_id,
        name=f"{job.name[:MOST_NAME_CHARS]} (copy)",
        **NOTHING_KEPT_OF_HOUSE,
        stations=tuple(replace(one, id=ids[one.id], **NOTHING_KEPT) for one in job.stations),
        wall=_hung_anew(job.wall, ids),
        retired=(),
        arrival=replace(job.arrival, permit=None, open_items=()),
    )


def _hung_anew(wall: Wall | None, ids: dict[str, str]) -> Wall | None:
    if wall is None:
        return None
    return replace(
        wall, devices=tuple(replace(one, of=ids.get(one.of, "")) for one in wall.devices)
    )


def refuse_future(job: Job, now: datetime) -> None:
    """Refuses a file that claims what has not been yet, with the path of every claim.

    Raises Refused. Clocks of two devices may differ by some minutes.
    """
    latest = now + CLOCK_DOUBT
    claims = [*_claims("$", job)]
    for number, station in enumerate(job.stations):
        claims += _claims(f"$.stations[{number}]", station)
    found = [
        problem(path, at.isoformat(), "not after now", "This has not been yet: check the clock.")
        for path, at in claims
        if at > latest
    ]
    if found:
        raise Refused(found)


def _claims(path: str, of: Job | Station) -> Iterator[tuple[str, datetime]]:
    """Every moment that a file claims of what was kept, with its path."""
    for n, reading in enumerate(of.readings):
        yield f"{path}.readings[{n}].taken_at", reading.taken_at
        yield f"{path}.readings[{n}].kept_at", reading.kept_at
    names = ("settings_written", "gateway_reads", "step_overrides", "yield_looks", "signatures")
    for name in names:
        for n, one in enumerate(getattr(of, name, ())):
            yield f"{path}.{name}[{n}].at", one.at
    for n, kept in enumerate(of.evidence):
        yield f"{path}.evidence[{n}].kept_at", kept.kept_at


def write_job(job: Job) -> str:
    """The job file's text: reading it back gives the same job, its readings with fingerprints."""
    return json.dumps(write(alone(job)), indent=2, ensure_ascii=False) + "\n"


def job_schema() -> dict[str, Any]:
    """JSON Schema of the job file."""
    return schema(Job, "Long Noon job file, version 3")
