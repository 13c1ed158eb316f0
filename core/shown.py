"""A job as its screens show it: what was planned beside what is said of it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.judgement import Verdict
from core.edits.strings import modules_by_plane
from core.equipment.inverter import Inverter
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.job.arrival import Arrival
from core.job.day import DayLayout
from core.job.earthing import Earthing
from core.job.feed import FeedPlan
from core.job.grid import GridPlan
from core.job.house import View, strings_elsewhere
from core.job.job import Job, Site
from core.job.leave import LeavePlan
from core.job.microinverter import MicroPlan
from core.job.roof import Plane
from core.job.strings import StringPlan
from core.job.talk import TalkPlan
from core.job.testers import Testing
from core.job.wall import Wall


@dataclass(frozen=True, kw_only=True)
class Plan:
    """The plan of a job, as it can be changed. modules: on each plane, in the planes' order.

    elsewhere: strings of the other inverters of the house, on the same roof.
    """

    site: Site
    planes: tuple[Plane, ...]
    modules: tuple[int, ...]
    module: Module
    inverter: Inverter | None
    micro: MicroPlan | None
    optimiser: Optimiser | None
    variant: str
    strings: tuple[StringPlan, ...]
    elsewhere: tuple[StringPlan, ...]
    feed: FeedPlan
    grid: GridPlan
    arrival: Arrival
    wall: Wall | None
    earthing: Earthing
    talk: TalkPlan | None
    leave: LeavePlan
    days: DayLayout
    testing: Testing


@dataclass(frozen=True, kw_only=True)
class InverterLine:
    """One of the inverters of a house, each a job to itself on the screens; first: it stays."""

    id: str
    name: str
    label: str
    first: bool
    verdict: Verdict
    stands_at: int


@dataclass(frozen=True, kw_only=True)
class Shown:
    """A job as it is shown at a moment. inverters: of a house with several, all of them."""

    plan: Plan
    assessment: Assessment
    inverters: tuple[InverterLine, ...]


def shown(job: Job, at: datetime) -> Shown:
    """What a screen shows of a job at a moment."""
    assessment = assess(job, at=at)
    if not isinstance(job, View):
        return Shown(plan=plan_of(job), assessment=assessment, inverters=())
    every = [(job, assessment), *((one, assess(one, at=at)) for one in job.sisters)]
    lines = inverter_lines(job.house_id, every)
    return Shown(plan=plan_of(job), assessment=assessment, inverters=lines)


def plan_of(job: Job) -> Plan:
    """The plan of a job beside its assessment."""
    return Plan(
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
        talk=job.talk,
        leave=job.leave,
        days=job.days,
        testing=job.testing,
    )


def inverter_lines(house_id: str, every: list[tuple[Job, Assessment]]) -> tuple[InverterLine, ...]:
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
    return tuple(sorted(lines, key=lambda one: (not one.first, one.name)))
