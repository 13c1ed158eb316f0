"""A job's days laid by the solver, from now on too, and which changes would let them fit."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

from core.assess import assess
from core.base.messages import say
from core.job.day import MOST_VISITS, PlannedVisit
from core.job.job import Job
from core.planning.day.check import laid_of, makespan_min, visits_used
from core.planning.day.list_schedule import listed
from core.planning.day.now import from_now
from core.planning.day.problem import DayProblem, Person, Plan
from core.planning.day.tasks import MIN_PER_DAY, Crewed, day_problem, origin, visits_of
from core.planning.day.why import clock
from core.stages.day.counts import counted
from schedule.solver import DayPlan, Goal, lay
from server.day.light import MIN_PER_H, light_over
from server.platform.heavy import heavy

PLANS_KEPT = 64
# Each change is tried this long; the list schedule comes first and is most often enough.
RELAX_LIMIT_S = 0.4
LONGER_MIN, EARLIER_MIN = (30, 60, 120), 60
# A day begun is laid on from the next so many minutes.
NOW_STEP_MIN = 5


@dataclass(frozen=True, kw_only=True)
class Relax:
    """A change that would let it fit, and what the day would then be. goes: the work that then lies
    on a further visit."""

    what: str
    ends: str
    goes: tuple[str, ...]


def with_visit(job: Job) -> Job:
    """The job with its own day as the one visit, while nobody planned any."""
    if job.days.visits:
        return job
    return replace(job, days=replace(job.days, visits=(PlannedVisit(number=1, day=job.day),)))


@lru_cache(maxsize=PLANS_KEPT)
def laid(problem: DayProblem, goal: Goal) -> DayPlan:
    """The plan of a day; the same problem was laid already, most often."""
    with heavy("schedule"):
        return lay(problem, goal, hint=listed(problem))


def listed_plan(problem: DayProblem) -> DayPlan:
    """A good plan at once, while the best is sought."""
    plan = listed(problem)
    return DayPlan(
        standing="good" if plan else "unknown",
        plan=plan,
        makespan_min=makespan_min(problem, plan),
        visits=visits_used(problem, plan),
        bound=0,
        took_s=0.0,
    )


def now_of(job: Job, now: datetime) -> int:
    """A moment in minutes from the first visit's midnight, by the local clock, rounded up."""
    local = now.astimezone(ZoneInfo(job.site.timezone))
    days = (local.date() - origin(job)).days
    minute = days * MIN_PER_DAY + local.hour * MIN_PER_H + local.minute
    return -(-minute // NOW_STEP_MIN) * NOW_STEP_MIN


def begun(job: Job, now_min: int) -> bool:
    """Whether a visit has begun, and not all of them are over."""
    visits = visits_of(job)
    return bool(visits) and visits[0].start_min < now_min < visits[-1].end_min


def not_put_before(job: Job, now_min: int) -> Job:
    """The job without what somebody put at a time that is over."""
    first = origin(job)
    midnight = {one.number: (one.day - first).days * MIN_PER_DAY for one in job.days.visits}
    kept = tuple(
        one
        for one in job.days.moved
        if one.visit in midnight and midnight[one.visit] + one.at_min >= now_min
    )
    return replace(job, days=replace(job.days, moved=kept))


def what_would_let_it_fit(job: Job, crewed: Crewed, now: datetime | None = None) -> list[Relax]:
    """The smallest changes that would let the days of a job fit, tried one at a time; none where it
    fits or nobody is on the job."""
    job = with_visit(job)
    count = counted(job, assess(job))
    now_min = now_of(job, now) if now is not None else None

    def problem_of(job: Job) -> DayProblem:
        made = day_problem(job, count, light_over(job)[0], crewed)
        return made if now_min is None or not begun(job, now_min) else from_now(made, now_min)

    problem = problem_of(job)
    if not problem.people or laid(problem, "shortest").plan:
        return []
    found = []
    is_begun = now_min is not None and begun(job, now_min)
    for said, tried in (*_other_hours(problem, is_begun=is_begun), *_other_people(problem)):
        if plan := _tried(tried):
            found.append(Relax(what=said, ends=clock(makespan_min(tried, plan)), goes=()))
    if len(job.days.visits) == MOST_VISITS:
        return found
    tried = problem_of(_one_more_visit(job))
    if plan := _tried(tried):
        last = tried.visits[-1]
        goes = tuple(
            one.task.label
            for one in sorted(laid_of(tried, plan).values(), key=lambda one: one.start_min)
            if one.start_min >= last.start_min
        )
        ends = clock(makespan_min(tried, plan))
        found.append(Relax(what=say("day_relax", "visit"), ends=ends, goes=goes))
    return found


def _other_hours(problem: DayProblem, *, is_begun: bool) -> list[tuple[str, DayProblem]]:
    *others, last = problem.visits
    tries = [
        (
            say("day_relax", "later", minutes=str(minutes)),
            replace(problem, visits=(*others, replace(last, end_min=last.end_min + minutes))),
        )
        for minutes in LONGER_MIN
    ]
    if is_begun:
        return tries
    first = problem.visits[0]
    early = replace(first, start_min=max(0, first.start_min - EARLIER_MIN))
    tries.append(
        (say("day_relax", "earlier"), replace(problem, visits=(early, *problem.visits[1:])))
    )
    return tries


def _other_people(problem: DayProblem) -> list[tuple[str, DayProblem]]:
    people = problem.people
    tries = []
    if not any(one.roof for one in people):
        roofers = tuple(replace(one, roof=True) for one in people)
        tries.append((say("day_relax", "roof"), replace(problem, people=roofers)))
    hand = Person(id="another hand", licensed=False, roof=True)
    tries.append((say("day_relax", "hand"), replace(problem, people=(*people, hand))))
    return tries


def _tried(problem: DayProblem) -> Plan:
    """A plan, where one is found soon. A longer last visit first wants its list schedule."""
    plan = listed(problem)
    if plan:
        return plan
    with heavy("schedule"):
        return lay(problem, limit_s=RELAX_LIMIT_S).plan


def _one_more_visit(job: Job) -> Job:
    last = max(job.days.visits, key=lambda one: one.day)
    taken = {one.number for one in job.days.visits}
    number = min(set(range(1, len(taken) + 2)) - taken)
    more = replace(last, number=number, day=last.day + timedelta(days=1), sky=())
    return replace(job, days=replace(job.days, visits=(*job.days.visits, more)))
