"""The day laid by a constraint solver: the best plan found, with the bound it is held against."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, Literal

from core.planning.day.check import makespan_min, visits_used
from core.planning.day.problem import DayProblem, PlacedTask, Plan, Span, Task, circle

Goal = Literal["shortest", "fewest_visits", "least_waiting"]
Standing = Literal["best", "good", "impossible", "unknown"]
# Effort in the solver's own deterministic time, so that the same problem gives the same plan, and a
# clock beyond which nobody waits.
EFFORT, FIRST_EFFORT, LIMIT_S, LEAST_S = 2.0, 1.5, 2.0, 0.5
WORKERS, SEED = 4, 18


@dataclass(frozen=True, kw_only=True)
class DayPlan:
    """What came of it. standing: proved best, good as far as was looked, none there, or not known.
    bound: no plan is better than that, in the unit of the goal's first measure."""

    standing: Standing
    plan: Plan
    makespan_min: int
    visits: int
    bound: int
    took_s: float


NOTHING = DayPlan(standing="impossible", plan=(), makespan_min=0, visits=0, bound=0, took_s=0.0)


@dataclass
class _Model:
    """The variables of one task each."""

    model: Any
    start: dict[str, Any]
    end: dict[str, Any]
    visit: dict[str, dict[str, Any]]
    who: dict[str, dict[str, Any]]


def lay(
    problem: DayProblem, goal: Goal = "shortest", hint: Plan = (), limit_s: float = LIMIT_S
) -> DayPlan:
    """The best plan of a day that is found within the limit.

    hint: a plan to begin from. Rules: as `core.planning.day.check.broken` has them.
    """
    if circle(problem.tasks):
        return NOTHING
    if not problem.tasks:
        return replace(NOTHING, standing="best")
    took_s = 0.0
    for count in range(1, len(problem.visits)) if goal == "shortest" else ():
        # What fits into the first visits ends before anything that needs a further one, and is
        # far sooner found among them alone.
        following = problem.visits[count].start_min
        first = replace(problem, visits=problem.visits[:count])
        found = _lay(first, goal, hint, FIRST_EFFORT, limit_s - took_s)
        took_s += found.took_s
        if found.plan and found.makespan_min <= following:
            return replace(found, took_s=took_s)
        if found.standing != "impossible":
            break
    found = _lay(problem, goal, hint, EFFORT, max(LEAST_S, limit_s - took_s))
    return replace(found, took_s=took_s + found.took_s)


def _lay(problem: DayProblem, goal: Goal, hint: Plan, effort: float, limit_s: float) -> DayPlan:
    from ortools.sat.python import cp_model

    made = _made(problem)
    if made is None:
        return NOTHING
    bound_of = _aim(problem, made, goal)
    for one in hint:
        if one.task in made.start:
            made.model.add_hint(made.start[one.task], one.start_min)
            for name, variable in made.who[one.task].items():
                made.model.add_hint(variable, name in one.people)
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = WORKERS
    solver.parameters.interleave_search = True
    solver.parameters.random_seed = SEED
    solver.parameters.max_deterministic_time = effort
    solver.parameters.max_time_in_seconds = limit_s
    status = solver.solve(made.model)
    if status == cp_model.INFEASIBLE:
        return replace(NOTHING, took_s=solver.wall_time)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return replace(NOTHING, standing="unknown", took_s=solver.wall_time)
    plan = tuple(
        PlacedTask(
            task=task.id,
            start_min=solver.value(made.start[task.id]),
            people=tuple(name for name, v in made.who[task.id].items() if solver.value(v)),
        )
        for task in problem.tasks
    )
    return DayPlan(
        standing="best" if status == cp_model.OPTIMAL else "good",
        plan=plan,
        makespan_min=makespan_min(problem, plan),
        visits=visits_used(problem, plan),
        bound=int(solver.best_objective_bound) // bound_of,
        took_s=solver.wall_time,
    )


def _made(problem: DayProblem) -> _Model | None:
    """The model of a day; None where a task can lie nowhere at all."""
    from ortools.sat.python import cp_model

    model = cp_model.CpModel()
    made = _Model(model=model, start={}, end={}, visit={}, who={})
    for task in problem.tasks:
        spans = _where(problem, task)
        if not spans:
            return None
        starts = cp_model.Domain.from_intervals([[a, b - task.minutes] for a, b in spans])
        made.start[task.id] = model.new_int_var_from_domain(starts, f"start {task.id}")
        made.end[task.id] = made.start[task.id] + task.minutes
        made.visit[task.id] = {}
        if not task.unattended:
            _in_visits(problem, made, task)
        made.who[task.id] = {}
        if task.hands and not _who(problem, made, task):
            return None
    for task in problem.tasks:
        for name in task.after:
            model.add(made.start[task.id] >= made.end[name])
    _people(problem, made)
    _tools(problem, made)
    for pair in problem.not_together:
        model.add_no_overlap(
            [_interval(problem, made, pair.one), _interval(problem, made, pair.other)]
        )
    _supply(problem, made)
    return made


def _where(problem: DayProblem, task: Task) -> list[tuple[int, int]]:
    """Spans in which a task may lie whole: of visits, its own windows, once its goods are there."""
    ends = [one.end_min for one in problem.visits]
    if not ends:
        return []
    first = min(one.start_min for one in problem.visits)
    whole = [(one.start_min, one.end_min) for one in problem.visits]
    if task.unattended:
        # A wait runs on after the last visit, as long as all of it may take.
        whole = [(first, max(ends) + sum(one.minutes for one in problem.tasks))]
    comes = max((g.comes_min for g in problem.goods if g.id in task.goods), default=first)
    windows = (
        [(w.start_min, w.end_min) for w in task.windows] if task.windows is not None else whole
    )
    found = [
        (max(a, c, comes), min(b, d)) for a, b in whole for c, d in windows if max(a, c) < min(b, d)
    ]
    # A wait of no minutes may stand at the very end of a span.
    return sorted({(a, b) for a, b in found if b - a >= task.minutes})


def _in_visits(problem: DayProblem, made: _Model, task: Task) -> None:
    """One visit, and only one, holds the task whole."""
    chosen = []
    for visit in problem.visits:
        inside = made.model.new_bool_var(f"{task.id} in {visit.id}")
        made.model.add(made.start[task.id] >= visit.start_min).only_enforce_if(inside)
        made.model.add(made.end[task.id] <= visit.end_min).only_enforce_if(inside)
        made.visit[task.id][visit.id] = inside
        chosen.append(inside)
    made.model.add_exactly_one(chosen)


def _who(problem: DayProblem, made: _Model, task: Task) -> bool:
    """Just so many do it, so many of them licensed; only those who may be on the roof are there."""
    able = [one for one in problem.people if one.roof or not task.roof]
    if len(able) < task.hands or sum(one.licensed for one in able) < task.licensed:
        return False
    for person in able:
        made.who[task.id][person.id] = made.model.new_bool_var(f"{person.id} at {task.id}")
    made.model.add(sum(made.who[task.id].values()) == task.hands)
    if task.licensed:
        licensed = [made.who[task.id][one.id] for one in able if one.licensed]
        made.model.add(sum(licensed) >= task.licensed)
    return True


def _people(problem: DayProblem, made: _Model) -> None:
    """Nobody at two things, none while away, a break for who works past it; and, for the bound, the
    crew as a whole, the licensed of it, and those for the roof."""
    model = made.model
    busy: dict[str, list[Any]] = {one.id: [] for one in problem.people}
    for task in problem.tasks:
        for name, there in made.who[task.id].items():
            if task.minutes:
                busy[name].append(
                    model.new_optional_fixed_size_interval_var(
                        made.start[task.id], task.minutes, there, f"{name} busy {task.id}"
                    )
                )
    for person in problem.people:
        for span in person.away:
            busy[person.id].append(_fixed(made, span))
        busy[person.id] += _rests(problem, made, person.id)
        model.add_no_overlap(busy[person.id])
    for demand, count in (
        ([(task, task.hands) for task in problem.tasks], len(problem.people)),
        ([(t, t.licensed) for t in problem.tasks], sum(one.licensed for one in problem.people)),
        ([(t, t.hands * t.roof) for t in problem.tasks], sum(one.roof for one in problem.people)),
    ):
        wanted = [(task, hands) for task, hands in demand if hands and task.minutes]
        intervals = [_interval(problem, made, task.id) for task, _ in wanted]
        if intervals:
            model.add_cumulative(intervals, [hands for _, hands in wanted], count)


def _rests(problem: DayProblem, made: _Model, person: str) -> list[Any]:
    model = made.model
    found = []
    for visit in problem.visits:
        rest = visit.rest
        if rest is None:
            continue
        taken = model.new_bool_var(f"{person} rests {visit.id}")
        start = model.new_int_var(
            rest.earliest_min, rest.latest_end_min - rest.minutes, f"{person} rest {visit.id}"
        )
        found.append(model.new_optional_fixed_size_interval_var(start, rest.minutes, taken, "rest"))
        for task in problem.tasks:
            there = made.who[task.id].get(person)
            if there is None:
                continue
            late = model.new_bool_var(f"{task.id} late in {visit.id}")
            model.add(made.end[task.id] > rest.latest_end_min).only_enforce_if(late)
            model.add(made.end[task.id] <= rest.latest_end_min).only_enforce_if(late.negated())
            inside = made.visit[task.id].get(visit.id)
            held = [there, late, *([inside] if inside is not None else [])]
            model.add_bool_or([one.negated() for one in held] + [taken])
    return found


def _tools(problem: DayProblem, made: _Model) -> None:
    for tool in problem.tools:
        own = [task for task in problem.tasks if tool.id in task.tools and task.minutes]
        if own:
            intervals = [_interval(problem, made, task.id) for task in own]
            made.model.add_cumulative(intervals, [1] * len(own), tool.count)


def _supply(problem: DayProblem, made: _Model) -> None:
    """Off and on again inside agreed hours; dead work between them, live work outside."""
    supply = problem.supply
    if supply is None:
        return
    model = made.model
    off, on = made.start[supply.off_task], made.end[supply.on_task]
    model.add(made.start[supply.on_task] >= made.end[supply.off_task])
    model.add(on - off <= supply.longest_min)
    chosen = []
    for number, span in enumerate(supply.windows):
        inside = model.new_bool_var(f"dark in {number}")
        model.add(off >= span.start_min).only_enforce_if(inside)
        model.add(on <= span.end_min).only_enforce_if(inside)
        chosen.append(inside)
    model.add_exactly_one(chosen)
    for task in problem.tasks:
        if task.supply == "dead":
            model.add(made.start[task.id] >= made.end[supply.off_task])
            model.add(made.end[task.id] <= made.start[supply.on_task])
        elif task.supply == "live":
            before = model.new_bool_var(f"{task.id} before it is dark")
            model.add(made.end[task.id] <= off).only_enforce_if(before)
            model.add(made.start[task.id] >= on).only_enforce_if(before.negated())


def _aim(problem: DayProblem, made: _Model, goal: Goal) -> int:
    """Sets what is sought; gives by what the objective is divided to get its first measure."""
    model = made.model
    last = max(one.end_min for one in problem.visits) + sum(t.minutes for t in problem.tasks)
    first = min(0, *(one.start_min for one in problem.visits))
    makespan = model.new_int_var(first, last, "makespan")
    model.add_max_equality(makespan, [made.end[task.id] for task in problem.tasks])
    used = []
    for visit in problem.visits:
        inside = [by[visit.id] for by in made.visit.values() if visit.id in by]
        visited = model.new_bool_var(f"visit {visit.id}")
        model.add_max_equality(visited, [*inside, 0] if inside else [0])
        used.append(visited)
    visits = sum(used)
    weight = last - first + 1
    if goal == "fewest_visits":
        model.minimize(visits * weight + makespan)
        return weight
    if goal == "least_waiting":
        waits = _waiting(problem, made, first, last)
        model.minimize(waits * weight + makespan)
        return weight
    count = len(problem.visits) + 1
    model.minimize(makespan * count + visits)
    return count


def _waiting(problem: DayProblem, made: _Model, first: int, last: int) -> Any:
    """Minutes in which somebody is at the house between their first and last task."""
    model, spans = made.model, []
    for person in problem.people:
        begins = model.new_int_var(first, last, f"{person.id} begins")
        ends = model.new_int_var(first, last, f"{person.id} ends")
        for task in problem.tasks:
            there = made.who[task.id].get(person.id)
            if there is not None:
                model.add(begins <= made.start[task.id]).only_enforce_if(there)
                model.add(ends >= made.end[task.id]).only_enforce_if(there)
        model.add(ends >= begins)
        spans.append(ends - begins)
    return sum(spans)


def _interval(problem: DayProblem, made: _Model, name: str) -> Any:
    minutes = next(one.minutes for one in problem.tasks if one.id == name)
    return made.model.new_fixed_size_interval_var(made.start[name], minutes, name)


def _fixed(made: _Model, span: Span) -> Any:
    return made.model.new_fixed_size_interval_var(
        span.start_min, span.end_min - span.start_min, "away"
    )
