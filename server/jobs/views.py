"""A job as its screens show it: what was planned beside what the core says of it."""

from __future__ import annotations

from datetime import UTC, datetime
from uuid import UUID

from core.assess import assess
from core.edits.strings import modules_by_plane
from core.job.job import Job
from core.planning.earth.path import planned_modules
from server.jobs.schemas import JobLine, JobView, Plan
from server.jobs.stored import Stored, load


def job_answer(job_id: UUID) -> JobView:
    """The stored job as a screen shows it. Raises Http404."""
    return job_view(load(job_id))


def job_view(stored: Stored) -> JobView:
    """The view of a job: its plan beside what the core says of it."""
    job = stored.job
    plan = Plan(
        site=job.site,
        planes=job.planes,
        modules=tuple(modules_by_plane(job)[plane.name] for plane in job.planes),
        module=job.module,
        inverter=job.inverter,
        micro=job.micro,
        optimiser=job.optimiser,
        strings=job.strings,
        feed=job.feed,
        grid=job.grid,
        arrival=job.arrival,
        wall=job.wall,
        earthing=job.earthing,
        testing=job.testing,
    )
    return JobView(
        revision=stored.revision, plan=plan, assessment=assess(job, at=datetime.now(UTC))
    )


def _units(job: Job) -> str:
    return f"{len(job.micro.units)} × " if job.micro else ""


def job_line(job: Job) -> JobLine:
    """One line of the home."""
    assessment = assess(job, at=datetime.now(UTC))
    standing = assessment.stages[assessment.stands_at - 1]
    return JobLine(
        id=job.id,
        name=job.name,
        place=job.site.place,
        day=job.day,
        equipment=f"{_units(job)}{job.source.label}, {planned_modules(job)} × {job.module.label}",
        verdict=assessment.verdict,
        stands_at=assessment.stands_at,
        stages=assessment.stages,
        blocks=standing.blocks,
        next=standing.next,
    )
