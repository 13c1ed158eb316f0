"""A job as its screens show it: what was planned beside what the core says of it."""

from __future__ import annotations

import contextlib
import time
from collections import Counter, defaultdict
from dataclasses import dataclass
from datetime import UTC, date, datetime
from functools import lru_cache
from typing import Any
from uuid import UUID

import orjson
from django.db import connections
from django.db.models import Max, QuerySet
from django.http import Http404

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.errors import Refused
from core.base.judgement import worst
from core.base.messages import say
from core.equipment.module import Module
from core.explain.shape import Sum
from core.explain.sums import sum_of
from core.job.house import views
from core.job.job import Job
from core.planning.dc.module_counts import module_counts, modules_text
from core.shown import inverter_lines, shown
from server.evidence.models import EvidenceRow
from server.gateways.models import GatewayRow
from server.grid_settings.models import SettingsRow
from server.jobs.models import JobRow, SourceFile
from server.jobs.schemas import FileLine, JobLine, JobView
from server.jobs.stored import Stored, house_of, load, row_of
from server.people.audit import shown_name
from server.readings.models import ReadingRow
from server.signing.models import SignatureRow
from server.switching.models import OverrideRow
from server.yields.models import YieldRow

# A line may stand so long: what it says of a reading's age is in days and hours.
LINES_HOLD_S = 1800
KEPT: tuple[Any, ...] = (
    ReadingRow, SettingsRow, GatewayRow, OverrideRow, EvidenceRow, YieldRow, SignatureRow,
)  # fmt: skip
LINES_KEPT, LINES_WARMED, WARM_PAUSE_S = 6000, 300, 0.02


def job_answer(job_id: UUID) -> JobView:
    """The stored job as a screen shows it. Raises Http404."""
    return job_view(load(job_id))


def job_view(stored: Stored) -> JobView:
    """The view of a job: its plan beside what the core says of it."""
    made = shown(stored.job, datetime.now(UTC))
    return JobView(
        revision=stored.revision,
        files=files_of(UUID(stored.job.id)),
        **vars(made),
    )


def sum_view(job: Job, rule_id: str, reason: str) -> Sum:
    """How one judgement was found. Raises Http404 where the job says something else by now."""
    found = sum_of(job, rule_id, reason, at=datetime.now(UTC))
    if found is None:
        raise Http404
    return found


def files_of(job_id: UUID) -> list[FileLine]:
    """The files that something of a stored job was read in from, the first first."""
    brought: dict[int, list[str]] = defaultdict(list)
    rows = ReadingRow.of(job_id).exclude(source=None)
    origin = JobRow.objects.values_list("origin_id", flat=True).filter(id=job_id).first()
    for source, identity in rows.exclude(source=origin).values_list("source_id", "identity"):
        brought[source].append(identity)
    known = [*([origin] if origin else []), *brought]
    return [
        FileLine(
            name=one.name,
            what=one.what,
            by=shown_name(one.by),
            at=one.at,
            sha256=one.sha256,
            readings=brought.get(one.pk, []),
        )
        for one in SourceFile.objects.filter(id__in=known).select_related("by").order_by("id")
    ]


def _look_due(said: Assessment) -> str:
    """The look after the day that is due next, or is over due; empty while none is."""
    for one in said.leave.looks_due:
        if one.due is not None and one.seen is None:
            key = "is_due" if one.late else "comes"
            return say("looks", key, title=one.title, due=f"{one.due.day} {one.due:%B}")
    return ""


def _sources(every: list[tuple[Job, Assessment]]) -> str:
    """What makes the power of a house: its inverter, units, or how many of them."""
    job = every[0][0]
    units = f"{len(job.micro.units)} × " if job.micro else ""
    more = f" and {len(every) - 1} more" if len(every) > 1 else ""
    return f"{units}{job.source.label}{more}"


@dataclass(frozen=True, kw_only=True)
class WrittenLine:
    """One line of the home as it goes out, and the day by which it is put in order."""

    day: date
    text: bytes


def job_lines(rows: QuerySet[JobRow]) -> list[WrittenLine]:
    """The lines of some jobs: each is worked out anew only where something of its job changed."""
    found = list(rows.values_list("id", "revision"))
    marks = _marks([job_id for job_id, _ in found])
    lines = []
    for one, revision in found:
        # One that somebody erased since it was found has no line.
        with contextlib.suppress(JobRow.DoesNotExist):
            lines.append(_written(one, revision, tuple(marks[one]), _turn(one)))
    return lines


def mark_of(job_id: UUID) -> tuple[int, ...]:
    """What changes whenever anything of a job, or of its house, does. Raises Http404."""
    own = row_of(job_id)
    house = own.house or own
    return (house.revision, *_marks([house.id])[house.id])


def _marks(ids: list[UUID]) -> dict[UUID, list[int]]:
    """The last of everything that is kept of some houses."""
    houses = dict(JobRow.objects.filter(house__in=ids).values_list("id", "house_id"))
    marks: dict[UUID, list[int]] = defaultdict(list)
    for kept in KEPT:
        last = kept._default_manager.filter(job_id__in=[*ids, *houses])
        for job_id, number in (
            last.values_list("job_id").annotate(last=Max("id")).order_by("job_id")
        ):
            marks[houses.get(job_id, job_id)].append(number)
    return marks


def _turn(job_id: UUID) -> int:
    """Which while this is for a job's line: theirs do not all end at once."""
    return int((time.time() + job_id.int % LINES_HOLD_S) // LINES_HOLD_S)


def warm_lines() -> None:
    """Work out the lines of the latest jobs, one after the other, while nobody waits for them."""
    for row in JobRow.objects.filter(house=None).order_by("-created_at")[:LINES_WARMED]:
        with contextlib.suppress(JobRow.DoesNotExist, Refused, KeyError):
            job_lines(JobRow.objects.filter(id=row.id))
        time.sleep(WARM_PAUSE_S)
    connections.close_all()


@lru_cache(maxsize=LINES_KEPT)
def _written(job_id: UUID, revision: int, marks: tuple[int, ...], turn: int) -> WrittenLine:
    """A job's line, kept for as long as nothing of it changes and its readings grow no older."""
    line = job_line(house_of(JobRow.objects.get(id=job_id)))
    return WrittenLine(day=line.day, text=orjson.dumps(line))


def job_line(house: Job) -> JobLine:
    """One line of the home: a job, or a house with all its inverters."""
    now = datetime.now(UTC)
    every = [(one, assess(one, at=now)) for one in views(house)]
    job, assessment = every[0]
    standing = assessment.stages[assessment.stands_at - 1]
    modules = Counter[Module]()
    for one, _ in every:
        modules.update(module_counts(one))
    return JobLine(
        id=job.id,
        name=job.name,
        place=job.site.place,
        day=job.day,
        equipment=f"{_sources(every)}, {modules_text(modules or {job.module: 0})}",
        verdict=worst(said.verdict for _, said in every),
        stands_at=assessment.stands_at,
        stages=assessment.stages,
        blocks=standing.blocks,
        next=assessment.next,
        look_due=_look_due(assessment),
        inverters=inverter_lines(house.id, every) if house.stations else (),
    )
