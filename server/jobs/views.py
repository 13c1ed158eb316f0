"""A job as its screens show it: what was planned beside what the core says of it."""

from __future__ import annotations

from collections import Counter
from datetime import UTC, datetime
from uuid import UUID

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.judgement import worst
from core.edits.strings import modules_by_plane
from core.equipment.module import Module
from core.job.house import View, strings_elsewhere, views
from core.job.job import Job
from core.planning.dc.module_counts import module_counts, modules_text
from server.jobs.schemas import InverterLine, JobLine, JobView, Plan
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
        variant=job.variant,
        strings=job.strings,
        elsewhere=strings_elsewhere(job),
        feed=job.feed,
        grid=job.grid,
        arrival=job.arrival,
        wall=job.wall,
        earthing=job.earthing,
        testing=job.testing,
    )
    now = datetime.now(UTC)
    assessment = assess(job, at=now)
    sisters = job.sisters if isinstance(job, View) else ()
    every = [(job, assessment), *((one, assess(one, at=now)) for one in sisters)]
    return JobView(
        revision=stored.revision,
        plan=plan,
        assessment=assessment,
        inverters=_lines(job.house_id, every) if isinstance(job, View) else [],
    )


def _lines(house_id: str, every: list[tuple[Job, Assessment]]) -> list[InverterLine]:
    """The inverters of a house in one order, whichever is looked at."""
    lines = [
        InverterLine(
            id=job.id,
            name=job.feed.far_end or job.name,
            label=job.source.label,
            first=job.id == house_id,
            verdict=said.verdict,
            stands_at=said.stands_at,
        )
        for job, said in every
    ]
    return sorted(lines, key=lambda one: (not one.first, one.name))


def _sources(every: list[tuple[Job, Assessment]]) -> str:
    """What makes the power of a house: its inverter, units, or how many of them."""
    job = every[0][0]
    units = f"{len(job.micro.units)} × " if job.micro else ""
    more = f" and {len(every) - 1} more" if len(every) > 1 else ""
    return f"{units}{job.source.label}{more}"


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
        next=standing.next,
        inverters=tuple(_lines(house.id, every)) if house.stations else (),
    )
