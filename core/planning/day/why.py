"""Why each task lies where it lies, in a sentence."""

from __future__ import annotations

from core.base.messages import say
from core.planning.day.check import Laid, laid_of
from core.planning.day.list_schedule import waits
from core.planning.day.problem import DayProblem, Plan, Task, circle

MIN_PER_DAY, MIN_PER_H = 1440, 60


def clock(minute: int) -> str:
    """A minute as the clock shows it; of a later day with how many days on."""
    days, left = divmod(minute, MIN_PER_DAY)
    shown = f"{left // MIN_PER_H:02}:{left % MIN_PER_H:02}"
    return say("day_why", "later_day", day=str(days + 1), clock=shown) if days else shown


def why(problem: DayProblem, plan: Plan) -> dict[str, str]:
    """For each task what it waits for, by identity."""
    laid = laid_of(problem, plan)
    before = waits(problem)
    return {name: _why(problem, laid, before[name], one) for name, one in laid.items()}


def nowhere(problem: DayProblem) -> tuple[str, ...]:
    """For each task that no plan of these days has room for, by itself, what keeps it out."""
    labels = {one.id: one.label for one in problem.tasks}
    round_about = [labels[name] for name in circle(problem.tasks)]
    if round_about:
        return (say("day_nowhere", "circle", tasks=" · ".join(round_about)),)
    return tuple(said for task in problem.tasks if (said := _kept_out(problem, task)))


def _kept_out(problem: DayProblem, task: Task) -> str:
    able = [one for one in problem.people if one.roof or not task.roof]
    licensed = sum(one.licensed for one in able)
    facts = {"task": task.label, "minutes": str(task.minutes)}
    if len(able) < task.hands and task.roof:
        return say("day_nowhere", "roof", hands=str(task.hands), able=str(len(able)), **facts)
    if len(able) < task.hands:
        return say("day_nowhere", "hands", hands=str(task.hands), able=str(len(able)), **facts)
    if licensed < task.licensed:
        return say("day_nowhere", "licence", **facts)
    spans = [
        min(visit.end_min, window.end_min) - max(visit.start_min, window.start_min)
        for visit in problem.visits
        for window in (task.windows if task.windows is not None else (visit,))
    ]
    longest = max(spans, default=0)
    if not task.unattended and longest < task.minutes:
        key = "visit" if task.windows is None else "window"
        return say(
            "day_nowhere", key, longest=str(max(0, longest)), because=task.because, **facts
        ).strip()
    return ""


def _why(problem: DayProblem, laid: dict[str, Laid], before: set[str], one: Laid) -> str:
    start = one.start_min
    labels = {task.id: task.label for task in problem.tasks}
    for name in sorted(before):
        if name in laid and laid[name].end_min == start:
            return say("day_why", "after", at=clock(start), what=labels[name])
    for window in one.task.windows or ():
        if window.start_min == start:
            return say("day_why", "from", at=clock(start), because=one.task.because)
    for name in one.people:
        busy = [
            o for o in laid.values() if name in o.people and o.end_min == start and o is not one
        ]
        if busy:
            return say("day_why", "hands", at=clock(start), who=name, what=busy[0].task.label)
    for tool in one.task.tools:
        held = [o for o in laid.values() if tool in o.task.tools and o.end_min == start]
        if held:
            tool_said = say("day_tools", tool)
            return say("day_why", "tool", at=clock(start), tool=tool_said, what=held[0].task.label)
    for visit in problem.visits:
        if start == visit.start_min:
            return say("day_why", "begins", at=clock(start))
        rest = visit.rest
        if rest and rest.earliest_min + rest.minutes <= start <= rest.latest_end_min:
            return say("day_why", "rest", at=clock(start), minutes=str(rest.minutes))
    return say("day_why", "fits", at=clock(start))
