"""Days proposed for visits over weeks: as many as have room, the soonest all in all."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations
from typing import Any

from core.planning.day.problem import Span
from core.planning.weeks.check import by_itself, meets
from core.planning.weeks.problem import WeekPerson, WeekProblem, WeekVisit
from schedule.solver import SEED, WORKERS, Standing

# Effort in the solver's own deterministic time, so that the same weeks give the same proposal.
EFFORT, LIMIT_S = 4.0, 5.0
MIN_PER_DAY = 1440


@dataclass(frozen=True, kw_only=True)
class WeekPlan:
    """What came of it. placed: each visit by its identity with where it would lie; left: those
    that have no room among their options."""

    standing: Standing
    placed: tuple[tuple[str, Span], ...]
    left: tuple[str, ...]
    took_s: float


def propose(problem: WeekProblem, wanted: frozenset[str], limit_s: float = LIMIT_S) -> WeekPlan:
    """Where the wanted visits may lie, the others staying where they are.

    As many as there is room for, then the soonest all in all.
    """
    from ortools.sat.python import cp_model

    model = cp_model.CpModel()
    people = {one.id: one for one in problem.people}
    fixed = [one for one in problem.visits if one.id not in wanted and one.at is not None]
    moving = [one for one in problem.visits if one.id in wanted]
    chosen: dict[str, list[tuple[Span, Any]]] = {}
    for one in moving:
        free = [
            at for at in one.options if _may(one, at, fixed) and not _forbidden(one, at, people)
        ]
        chosen[one.id] = [(at, model.new_bool_var(f"{one.id} {at.start_min}")) for at in free]
        model.add_at_most_one([there for _, there in chosen[one.id]])
    for a, b in combinations(moving, 2):
        if a.job != b.job and not set(a.people) & set(b.people):
            continue
        for at, here in chosen[a.id]:
            for then, there in chosen[b.id]:
                if _bars(a, b, at, then):
                    model.add_bool_or([here.negated(), there.negated()])
    every = [(at, there) for own in chosen.values() for at, there in own]
    last = max((at.start_min // MIN_PER_DAY for at, _ in every), default=0)
    worth = (last + 1) * (len(moving) + 1)
    stays = {(one.id, one.at.start_min) for one in moving if one.at is not None}
    model.maximize(
        sum(
            # Of two that are as soon, the one that lies so already.
            there * (2 * (worth - at.start_min // MIN_PER_DAY) + ((name, at.start_min) in stays))
            for name, own in chosen.items()
            for at, there in own
        )
    )
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = WORKERS
    solver.parameters.interleave_search = True
    solver.parameters.random_seed = SEED
    solver.parameters.max_deterministic_time = EFFORT
    solver.parameters.max_time_in_seconds = limit_s
    status = solver.solve(model)
    found = status in (cp_model.OPTIMAL, cp_model.FEASIBLE)
    placed = {
        name: at
        for name, own in chosen.items()
        for at, there in own
        if found and solver.value(there)
    }
    return WeekPlan(
        standing="best" if status == cp_model.OPTIMAL else "good" if found else "unknown",
        placed=tuple((one.id, placed[one.id]) for one in moving if one.id in placed),
        left=tuple(one.id for one in moving if one.id not in placed),
        took_s=solver.wall_time,
    )


def _forbidden(visit: WeekVisit, at: Span, people: dict[str, WeekPerson]) -> bool:
    """Whether a place is forbidden; a permit still to come does not: it is what one waits for."""
    return any(one.rule != "permit" for one in by_itself(visit, at, people))


def _may(visit: WeekVisit, at: Span, fixed: list[WeekVisit]) -> bool:
    return not any(_bars(one, visit, one.at, at) for one in fixed if one.at is not None)


def _bars(a: WeekVisit, b: WeekVisit, at: Span, then: Span) -> bool:
    """Whether two visits may not lie so: one person at both, a job's own out of order or on one
    day."""
    if set(a.people) & set(b.people) and meets(a, b, at, then) is not None:
        return True
    apart_min = then.start_min - at.start_min
    in_order = (a.number < b.number) == (apart_min > 0)
    return a.job == b.job and (not in_order or abs(apart_min) < MIN_PER_DAY // 2)
