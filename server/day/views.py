"""The days of a job as their screen shows them: tasks where they lie, why, and what breaks."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.form import write
from core.base.messages import say
from core.job.job import Job
from core.planning.day.check import Broken, broken, visits_used
from core.planning.day.now import Slip, from_now, lateness, must_not_slip
from core.planning.day.problem import DayProblem, Person, Plan, Span
from core.planning.day.tasks import AS_FIRST, Counted, Crewed, Light, day_problem
from core.planning.day.why import clock, nowhere, why
from core.stages.day.counts import counted, whole
from core.stages.day.errands import Errand, errands
from schedule.solver import DayPlan, Goal
from server.day.laying import begun, laid, listed_plan, not_put_before, now_of, with_visit
from server.day.light import VisitSun, light_over


@dataclass(frozen=True, kw_only=True)
class TaskLine:
    """A task where it lies. start_min: None while it lies nowhere; visit: which one, from 0; waits:
    it binds nobody; why: why there."""

    id: str
    label: str
    minutes: int
    start_min: int | None
    visit: int | None
    clock: str
    people: tuple[str, ...]
    waits: bool
    roof: bool
    licensed: bool
    moved: bool
    why: str


@dataclass(frozen=True, kw_only=True)
class Band:
    """Spans of minutes in which a plane has the light that a reading wants."""

    plane: str
    spans: tuple[Span, ...]


@dataclass(frozen=True, kw_only=True)
class OwnLine:
    """What a crew was seen to take for a piece of a kind of work, with its spread."""

    kind: str
    label: str
    each_min: float
    low_min: float
    high_min: float
    seen: int


@dataclass(frozen=True, kw_only=True)
class DayView:
    """The days of a job. standing: proved best, good, impossible or not known; ends: when all is
    done; bound: no plan ends earlier; now_min: now, where a visit has begun; late: how the rest
    stands against the plan of the morning; slips: what has least room; later: what waits for goods
    of no visit yet; nowhere: what keeps a task out of these days altogether."""

    goal: Goal
    standing: str
    line: str
    ends: str
    bound: str
    visits_used: int
    now_min: int | None
    late: str
    people: tuple[Person, ...]
    visits: tuple[VisitSun, ...]
    tasks: tuple[TaskLine, ...]
    done: tuple[str, ...]
    slips: tuple[Slip, ...]
    later: tuple[str, ...]
    errands: tuple[Errand, ...]
    times: tuple[OwnLine, ...]
    bands: tuple[Band, ...]
    broken: tuple[Broken, ...]
    nowhere: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class LaidDay:
    """A job's days as they were laid: what every view, file and sheet of them is made from."""

    job: Job
    said: Assessment
    count: Counted
    problem: DayProblem
    found: DayPlan
    light: Light
    visits: tuple[VisitSun, ...]
    now_min: int | None
    late: str


@dataclass(frozen=True, kw_only=True)
class Asked:
    """How the days are asked for. now: where a visit has begun, the rest of it from then on;
    at_once: a good plan instead of the best."""

    goal: Goal = "shortest"
    crewed: Crewed = AS_FIRST
    now: datetime | None = None
    at_once: bool = False

    def lay(self, problem: DayProblem) -> DayPlan:
        """The plan of a day, as it is asked for."""
        return listed_plan(problem) if self.at_once else laid(problem, self.goal)


AS_IT_IS = Asked()


def laid_day(job: Job, asked: Asked = AS_IT_IS) -> LaidDay:
    """The days of a job, laid."""
    crewed, now = asked.crewed, asked.now
    job = with_visit(job)
    said = assess(job)
    count = counted(job, said)
    light, visits = light_over(job)
    problem = day_problem(job, count, light, crewed)
    now_min = now_of(job, now) if now is not None else None
    late = ""
    if now_min is not None and begun(job, now_min):
        morning = day_problem(job, whole(job, said), light, crewed)
        job = not_put_before(job, now_min)
        problem = from_now(day_problem(job, count, light, crewed), now_min)
        late = lateness((morning, asked.lay(morning).plan), (problem, asked.lay(problem).plan))
    else:
        now_min = None
    return LaidDay(
        job=job,
        said=said,
        count=count,
        problem=problem,
        found=asked.lay(problem),
        light=light,
        visits=visits,
        now_min=now_min,
        late=late,
    )


def day_view(job: Job, asked: Asked = AS_IT_IS, moved: Plan = ()) -> DayView:
    """The days of a job, laid; moved: tasks put elsewhere for a look, everything else as it lay."""
    day = laid_day(job, asked)
    goal, crewed = asked.goal, asked.crewed
    problem, found = day.problem, day.found
    plan = _put(found.plan, moved)
    there = {one.id for one in problem.tasks}
    every = day_problem(_all_on_one_visit(day.job), day.count, day.light, crewed).tasks
    return DayView(
        goal=goal,
        standing=found.standing,
        line=_line(found),
        ends=clock(found.makespan_min) if plan else "",
        bound=clock(found.bound) if plan and goal == "shortest" and not asked.at_once else "",
        visits_used=visits_used(problem, plan) if plan else 0,
        now_min=day.now_min,
        late=day.late,
        people=problem.people,
        visits=day.visits,
        tasks=task_lines(day, plan),
        done=tuple(sorted(day.count.done)),
        slips=must_not_slip(problem, plan),
        later=tuple(one.label for one in every if one.id not in there),
        errands=errands(day.job, day.said),
        times=tuple(OwnLine(label=say("day_own", one.kind), **write(one)) for one in crewed.times),
        bands=tuple(Band(plane=name, spans=spans) for name, spans, _ in day.light.planes),
        broken=broken(problem, plan) if plan else (),
        nowhere=() if plan else nowhere(problem),
    )


def _all_on_one_visit(job: Job) -> Job:
    """The job as if what comes on a later visit came on this one."""
    return replace(job, arrival=replace(job.arrival, first_visit=False))


def task_lines(day: LaidDay, plan: Plan) -> tuple[TaskLine, ...]:
    """Every task of the days where a plan puts it, in the order of the work."""
    problem = day.problem
    said, at = why(problem, plan), {one.task: one for one in plan}
    by_hand = {one.task for one in day.job.days.moved}
    lines = []
    for task in problem.tasks:
        lies = at.get(task.id)
        start = lies.start_min if lies else None
        lines.append(
            TaskLine(
                id=task.id,
                label=task.label,
                minutes=task.minutes,
                start_min=start,
                visit=None if start is None else _visit_at(day.visits, start),
                clock="" if start is None else clock(start),
                people=lies.people if lies else (),
                waits=task.hands == 0,
                roof=task.roof,
                licensed=task.licensed > 0,
                moved=task.id in by_hand,
                why=said.get(task.id, ""),
            )
        )
    return tuple(lines)


def _put(plan: Plan, moved: Plan) -> Plan:
    put = {one.task: one.start_min for one in moved}
    return tuple(replace(one, start_min=put.get(one.task, one.start_min)) for one in plan)


def in_visits(found: DayPlan) -> str:
    """How many visits a plan takes, in words."""
    if found.visits == 1:
        return say("day_line", "one_visit")
    return say("day_line", "visits", count=str(found.visits))


def _line(found: DayPlan) -> str:
    key = found.standing if found.plan else "impossible"
    return say("day_line", key, ends=clock(found.makespan_min), visits=in_visits(found))


def _visit_at(visits: tuple[VisitSun, ...], minute: int) -> int | None:
    for number, one in enumerate(visits):
        if one.visit.start_min <= minute < one.visit.end_min:
            return number
    return None
