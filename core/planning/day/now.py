"""The rest of a day laid anew from now on, and what must not slip."""

from __future__ import annotations

from dataclasses import dataclass, replace

from core.base.messages import say
from core.planning.day.check import laid_of, makespan_min
from core.planning.day.list_schedule import waits
from core.planning.day.problem import MOST_MIN, DayProblem, Plan, Rest, Span, Task, Visit
from core.planning.day.why import MIN_PER_DAY, clock

# What is named of what must not slip.
MOST_NAMED, LITTLE_ROOM_MIN = 3, 90


@dataclass(frozen=True, kw_only=True)
class Slip:
    """A task, the last minute at which it may begin, and how far off that is."""

    task: str
    latest_min: int
    room_min: int
    said: str


def from_now(problem: DayProblem, now_min: int) -> DayProblem:
    """The same days from a minute on: what is over is over, nothing begins before now."""
    visits = tuple(
        replace(one, start_min=max(one.start_min, now_min), rest=_rest(one, now_min))
        for one in problem.visits
        if one.end_min > now_min
    )
    return replace(problem, visits=visits)


def _rest(visit: Visit, now_min: int) -> Rest | None:
    rest = visit.rest
    if rest is None or rest.latest_end_min - rest.minutes < now_min:
        return None
    return replace(rest, earliest_min=max(rest.earliest_min, now_min))


def latest_starts(problem: DayProblem) -> dict[str, int]:
    """For each task the last minute at which it may begin so that all after it still has room in
    the visits and hours; people and tools are not looked at. None that has no room at all."""
    before = waits(problem)
    after: dict[str, set[str]] = {one.id: set() for one in problem.tasks}
    for name, earlier in before.items():
        for one in earlier:
            after[one].add(name)
    tasks = {one.id: one for one in problem.tasks}
    found: dict[str, int | None] = {}

    def latest(name: str, on_way: frozenset[str]) -> int | None:
        if name not in found:
            ends: list[int] = []
            for following in after[name] - on_way:
                limit = latest(following, on_way | {name})
                if limit is None:
                    found[name] = None
                    return None
                ends.append(limit)
            found[name] = _last_start(problem, tasks[name], min(ends, default=None))
        return found[name]

    return {one.id: at for one in problem.tasks if (at := latest(one.id, frozenset())) is not None}


def _last_start(problem: DayProblem, task: Task, before_min: int | None) -> int | None:
    if task.unattended:
        return None if before_min is None else before_min - task.minutes
    windows = task.windows
    starts = [
        end - task.minutes
        for visit in problem.visits
        for window in (windows if windows is not None else (_whole(visit),))
        for start, end in [_common(visit, window, before_min)]
        if end - start >= task.minutes
    ]
    return max(starts, default=None)


def _whole(visit: Visit) -> Span:
    return Span(start_min=visit.start_min, end_min=visit.end_min)


def _common(visit: Visit, window: Span, before_min: int | None) -> tuple[int, int]:
    end = min(visit.end_min, window.end_min)
    return max(visit.start_min, window.start_min), end if before_min is None else min(
        end, before_min
    )


def must_not_slip(
    problem: DayProblem, plan: Plan, within_min: int = LITTLE_ROOM_MIN
) -> tuple[Slip, ...]:
    """The tasks with so little room before all after them has none, tightest first."""
    laid, latest = laid_of(problem, plan), latest_starts(problem)
    slips = [
        Slip(
            task=name,
            latest_min=latest[name],
            room_min=latest[name] - one.start_min,
            said=say("day_late", "slip", what=one.task.label, at=clock(latest[name])),
        )
        for name, one in laid.items()
        if name in latest and one.task.hands and latest[name] - one.start_min <= within_min
    ]
    slips.sort(key=lambda one: (one.room_min, one.latest_min))
    return tuple(slips[:MOST_NAMED])


def lateness(morning: tuple[DayProblem, Plan], now: tuple[DayProblem, Plan]) -> str:
    """How the rest stands against the plan of the morning, in a sentence."""
    if not now[1]:
        return say("day_late", "no_room")
    done_min = makespan_min(*now)
    planned_min = makespan_min(*morning) if morning[1] else done_min
    late_min = done_min - planned_min
    slips = must_not_slip(*now, within_min=MOST_MIN)
    key = "late" if late_min > 0 else "early" if late_min < 0 else "on_time"
    if done_min // MIN_PER_DAY > planned_min // MIN_PER_DAY:
        key = "other_day"
    facts = {"minutes": str(abs(late_min)), "now": clock(done_min), "planned": clock(planned_min)}
    said = say("day_late", key, **facts)
    return f"{said} {slips[0].said}" if late_min > 0 and slips else said
