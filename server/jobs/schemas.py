"""What the API takes and gives about jobs. The core's own values are given as they are."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Annotated
from uuid import UUID

from ninja import Field, Schema
from pydantic import ConfigDict

from core.assess import assess
from core.assessment import Assessment, StageStanding
from core.equipment.inverter import Inverter
from core.equipment.module import Module
from core.job import FeedPlan, GridPlan, Job, Plane, Site, StringPlan
from core.judgement import Verdict
from server.jobs.stored import Stored

Entered = Annotated[str, Field(max_length=200)]


@dataclass(frozen=True, kw_only=True)
class Plan:
    """The plan of a job, as it can be changed."""

    site: Site
    planes: tuple[Plane, ...]
    module: Module
    inverter: Inverter
    strings: tuple[StringPlan, ...]
    feed: FeedPlan
    grid: GridPlan


@dataclass(frozen=True, kw_only=True)
class JobView:
    """A job as a stage shows it. revision: give it back with a change."""

    revision: int
    plan: Plan
    assessment: Assessment


@dataclass(frozen=True, kw_only=True)
class JobLine:
    """A job as the home shows it."""

    id: str
    name: str
    place: str
    day: date
    equipment: str
    verdict: Verdict
    stands_at: int
    stages: tuple[StageStanding, ...]
    blocks: tuple[str, ...]
    next: str


@dataclass(frozen=True, kw_only=True)
class PlaneSun:
    """Clear-sky irradiance on one roof plane now."""

    name: str
    irradiance_w_per_m2: float


@dataclass(frozen=True, kw_only=True)
class SunView:
    """The sun over a job's site today: times as ISO, clear-sky irradiance now on each plane."""

    now: str
    sunrise: str | None
    noon: str
    sunset: str | None
    elevation_deg: float
    planes: tuple[PlaneSun, ...]


class ChangeIn(Schema):
    """One field, by its path in the job file, and what was typed into it."""

    model_config = ConfigDict(extra="forbid")
    path: Entered
    entered: Entered


class ChangesIn(Schema):
    """Changes made together, to the revision that was shown."""

    model_config = ConfigDict(extra="forbid")
    revision: int
    changes: Annotated[list[ChangeIn], Field(min_length=1, max_length=40)]


class NewJobIn(Schema):
    """What is typed to begin a job."""

    model_config = ConfigDict(extra="forbid")
    name: Entered
    day: Entered
    place: Entered
    latitude_deg: Entered
    longitude_deg: Entered
    altitude_m: Entered
    timezone: Entered
    t_air_min_c: Entered
    t_air_max_c: Entered
    climate_source: Entered
    rule_pack: Entered
    module: Entered
    inverter: Entered


class JobId(Schema):
    """Identity of a job."""

    id: UUID


def job_view(stored: Stored) -> JobView:
    """The view of a job: its plan beside what the core says of it."""
    job = stored.job
    plan = Plan(
        site=job.site,
        planes=job.planes,
        module=job.module,
        inverter=job.inverter,
        strings=job.strings,
        feed=job.feed,
        grid=job.grid,
    )
    return JobView(revision=stored.revision, plan=plan, assessment=assess(job))


def job_line(job: Job) -> JobLine:
    """One line of the home."""
    assessment = assess(job)
    standing = assessment.stages[assessment.stands_at - 1]
    return JobLine(
        id=job.id,
        name=job.name,
        place=job.site.place,
        day=job.day,
        equipment=f"{job.inverter.label}, {sum(s.modules_in_series for s in job.strings)} × "
        f"{job.module.label}",
        verdict=assessment.verdict,
        stands_at=assessment.stands_at,
        stages=assessment.stages,
        blocks=standing.blocks,
        next=standing.next,
    )
