"""A good plan at once: task after task at the earliest minute at which everything it binds is free.

Not the best one: a start for the solver, and what stands while it looks.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Sequence
from itertools import combinations

from core.planning.day.check import broken, makespan_min
from core.planning.day.problem import (
    DayProblem,
    PlacedTask,
    Plan,
    Span,
    Task,
    Visit,
    circle,
)

# Teams that are tried for a task: of large crews not every one.
MOST_TEAMS = 40
SHUFFLES, SEED = 16, 19
MOST_TASKS_PLACED = 360


def listed(problem: DayProblem) -> Plan:
    """The best of a few orders of work; empty where none of them holds."""
    if circle(problem.tasks) or not problem.tasks:
        return ()
    found: list[Plan] = []
    tries = 0
    for order in _orders(problem):
        for late in (True, False):
            # Of a large day fewer are tried, once one holds: it is to be there at once.
            if found and tries * len(problem.tasks) > MOST_TASKS_PLACED:
                break
            tries += 1
            plan = in_order(problem, order, late=late)
            if plan and not broken(problem, plan):
                found.append(plan)
    return min(found, key=lambda plan: makespan_min(problem, plan), default=())


def in_order(
    problem: DayProblem,
    order: Sequence[str],
    teams: dict[str, tuple[str, ...]] | None = None,
    *,
    late: bool = False,
) -> Plan:
    """Every task at its earliest minute, one after the other in this order; empty where one finds
    no place. teams: who does what, where that is said; late: breaks as late as they may be."""
    books = _Books(problem, late=late)
    known = {one.id: one for one in problem.tasks}
    for name in order:
        task = known[name]
        team = teams.get(name) if teams else None
        if not books.place(task, team):
            return ()
    return tuple(books.placed[one.id] for one in problem.tasks)


def _orders(problem: DayProblem) -> Iterator[list[str]]:
    """Orders that keep what comes after what: by what hangs on a task, by its windows, by place."""
    known = {one.id: one for one in problem.tasks}
    before = waits(problem)
    supply = problem.supply
    dark = [one.id for one in problem.tasks if one.supply == "dead"]
    tail: dict[str, int] = {}

    def length(name: str) -> int:
        if name not in tail:
            tail[name] = 0
            own = [length(other) for other, waits in before.items() if name in waits]
            tail[name] = known[name].minutes + max(own, default=0)
        return tail[name]

    def first(name: str) -> int:
        windows = known[name].windows
        return windows[-1].end_min if windows else 10**6

    place = {one.id: number for number, one in enumerate(problem.tasks)}
    group = {supply.off_task, supply.on_task, *dark} if supply else set()
    chance = random.Random(SEED)
    shuffled = [{name: chance.random() for name in known} for _ in range(SHUFFLES)]
    keys: list[Callable[[str], tuple[float, ...]]] = [
        lambda name: (-length(name), first(name), place[name]),
        lambda name: (first(name), -length(name), place[name]),
        lambda name: (place[name],),
        lambda name: (-known[name].hands, -length(name), place[name]),
        # Some by chance, the same each time: one of them often finds a way round a band of sun.
        *(_by(of) for of in shuffled),
    ]
    for key in keys:
        left, order = dict(before), []
        while left:
            ready = [name for name, waits in left.items() if not waits & set(left)]
            if not ready:
                return
            # Once the house is dark, what is done dead comes first.
            begun = supply is not None and supply.off_task in order and supply.on_task not in order
            among = [name for name in ready if name in group] if begun else []
            chosen = min(among or ready, key=key)
            order.append(chosen)
            del left[chosen]
        yield order


def _by(of: dict[str, float]) -> Callable[[str], tuple[float, ...]]:
    return lambda name: (of[name],)


def waits(problem: DayProblem) -> dict[str, set[str]]:
    """What each task comes after, with what the dark hours add: off, what is done dead, on again.

    Dark as short as may be: the supply goes off once all that waits for it can begin.
    """
    before = {one.id: set(one.after) for one in problem.tasks}
    supply = problem.supply
    if supply is not None:
        dark = {one.id for one in problem.tasks if one.supply == "dead"}
        inside = {supply.off_task, supply.on_task, *dark}
        outside = set().union(*(before[name] for name in inside)) - inside
        before[supply.on_task] |= {supply.off_task, *dark}
        for name in dark:
            before[name].add(supply.off_task)
        before[supply.off_task] |= outside
    return before


class _Books:
    """What is taken already, minute by minute, of people, tools and the supply."""

    def __init__(self, problem: DayProblem, *, late: bool) -> None:
        self.problem = problem
        self.waits = waits(problem)
        self.placed: dict[str, PlacedTask] = {}
        self.ends: dict[str, int] = {}
        rests = [(one.start_min, one.end_min) for one in _rests(problem, late=late)]
        self.busy: dict[str, list[tuple[int, int]]] = {
            one.id: [*((away.start_min, away.end_min) for away in one.away), *rests]
            for one in problem.people
        }
        self.tools: dict[str, list[tuple[int, int]]] = {one.id: [] for one in problem.tools}

    def place(self, task: Task, team: tuple[str, ...] | None) -> bool:
        """Put a task where it can begin first; False where it can nowhere."""
        comes = [one.comes_min for one in self.problem.goods if one.id in task.goods]
        before = (self.ends.get(name, 0) for name in self.waits[task.id])
        ready = max([*before, *comes], default=None)
        best: tuple[int, tuple[str, ...]] | None = None
        for people in [team] if team is not None else self._teams(task):
            for span in self._spans(task):
                at = self._earliest(task, people, span, ready)
                if at is not None and (best is None or at < best[0]):
                    best = (at, people)
                    break
        if best is None:
            return False
        start, people = best
        self.placed[task.id] = PlacedTask(task=task.id, start_min=start, people=people)
        self.ends[task.id] = start + task.minutes
        if task.minutes:
            for name in people:
                self.busy[name].append((start, start + task.minutes))
            for name in task.tools:
                self.tools[name].append((start, start + task.minutes))
        return True

    def _teams(self, task: Task) -> list[tuple[str, ...]]:
        able = [one for one in self.problem.people if one.roof or not task.roof]
        # Who may do more is kept for what needs it.
        able.sort(key=lambda one: (one.licensed, one.roof))
        found = []
        for team in combinations(able, task.hands):
            if sum(one.licensed for one in team) >= task.licensed:
                found.append(tuple(one.id for one in team))
            if len(found) == MOST_TEAMS:
                break
        return found

    def _spans(self, task: Task) -> list[Span]:
        problem = self.problem
        if task.unattended:
            first = min(one.start_min for one in problem.visits)
            last = max(one.end_min for one in problem.visits)
            whole = sum(one.minutes for one in problem.tasks)
            return [Span(start_min=first, end_min=last + whole + 1)]
        found = []
        for visit in problem.visits:
            for window in self._windows(task, visit):
                start = max(visit.start_min, window.start_min)
                end = min(visit.end_min, window.end_min)
                if end - start >= task.minutes and end > start:
                    found.append(Span(start_min=start, end_min=end))
        return sorted(found, key=lambda one: one.start_min)

    def _windows(self, task: Task, visit: Visit) -> tuple[Span, ...]:
        supply = self.problem.supply
        if supply is not None and task.id in (supply.off_task, supply.on_task):
            return supply.windows
        whole = Span(start_min=visit.start_min, end_min=visit.end_min)
        return task.windows if task.windows is not None else (whole,)

    def _earliest(
        self, task: Task, people: tuple[str, ...], span: Span, ready: int | None
    ) -> int | None:
        """The first minute of a span at which all that a task binds is free as long as it takes."""
        at = max(span.start_min, ready if ready is not None else span.start_min)
        taken = [one for name in people for one in self.busy[name]]
        taken += self._apart(task)
        changes = sorted({end for _, end in taken} | self._tool_ends(task))
        for start in [at, *(one for one in changes if one > at)]:
            end = start + task.minutes
            if end > span.end_min:
                return None
            free = not any(a < end and start < b for a, b in taken) or not task.minutes
            if free and self._tools_free(task, start, end):
                return start
        return None

    def _tool_ends(self, task: Task) -> set[int]:
        return {end for name in task.tools for _, end in self.tools[name]}

    def _tools_free(self, task: Task, start: int, end: int) -> bool:
        counts = {one.id: one.count for one in self.problem.tools}
        for name in task.tools:
            held = [one for one in self.tools[name] if one[0] < end and start < one[1]]
            moments = [start, *(a for a, _ in held if a >= start)]
            if any(sum(a <= m < b for a, b in held) >= counts[name] for m in moments):
                return False
        return True

    def _apart(self, task: Task) -> list[tuple[int, int]]:
        """Minutes of what is never done beside it, and of a house that is dark."""
        found = []
        for pair in self.problem.not_together:
            other = {pair.one: pair.other, pair.other: pair.one}.get(task.id)
            if other in self.placed:
                found.append((self.placed[other].start_min, self.ends[other]))
        supply = self.problem.supply
        if supply and task.supply == "live" and supply.off_task in self.placed:
            begins = self.placed[supply.off_task].start_min
            found.append((begins, self.ends.get(supply.on_task, begins + supply.longest_min)))
        return found


def _rests(problem: DayProblem, *, late: bool) -> Iterator[Span]:
    """A break for everybody at one end of its time, where a visit goes on past it."""
    for visit in problem.visits:
        rest = visit.rest
        if rest is not None and visit.end_min > rest.latest_end_min:
            start = rest.latest_end_min - rest.minutes if late else rest.earliest_min
            yield Span(start_min=start, end_min=start + rest.minutes)
