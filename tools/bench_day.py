"""The day and the weeks measured: a plan at once, the best of it proved, a move said, a board."""

from __future__ import annotations

import random
from dataclasses import replace

from core.planning.day.check import broken, makespan_min
from core.planning.day.list_schedule import listed
from core.planning.day.problem import DayProblem, Person, Span, Task, Visit
from core.planning.day.tasks import kinds
from core.planning.day.why import why
from core.planning.weeks.check import clashes
from core.planning.weeks.problem import WeekPerson, WeekProblem, WeekVisit
from schedule.solver import lay
from schedule.weeks import propose
from tools.measuring import median_ms, show

TASKS, VISITS, CREWS, DAYS, MIN_PER_DAY, SEED = 60, 30, 4, 30, 1440, 11


def three_inverters() -> DayProblem:
    """Sixty tasks for three people: the kinds of the data for three inverters of a house."""
    made: list[Task] = []
    for house in "abc":
        for kind in kinds():
            if len(made) < TASKS and kind.id not in ("off", "on_again", "board", "ac_ends"):
                made.append(
                    Task(
                        id=f"{kind.id} {house}",
                        label=kind.id,
                        minutes=int(kind.base_min + 4 * kind.each_min),
                        hands=2 if kind.everybody else kind.hands,
                        licensed=kind.licensed,
                        roof=kind.roof,
                        after=tuple(
                            f"{name} {house}" for name in kind.after if not name.startswith("o")
                        ),
                        windows=LIGHT if kind.daylight or kind.sun else None,
                    )
                )
    there = {one.id for one in made}
    people = (
        Person(id="Ada", licensed=True, roof=True), Person(id="Jory", roof=True),
        Person(id="Kit", licensed=True, roof=True),
    )  # fmt: skip
    visits = tuple(
        Visit(id=str(day), start_min=day * MIN_PER_DAY + 450, end_min=day * MIN_PER_DAY + 1020)
        for day in range(6)
    )
    tasks = tuple(replace(o, after=tuple(n for n in o.after if n in there)) for o in made)
    return DayProblem(people=people, visits=visits, tasks=tasks)


LIGHT = tuple(
    Span(start_min=day * MIN_PER_DAY + 480, end_min=day * MIN_PER_DAY + 960) for day in range(6)
)


def thirty_visits() -> WeekProblem:
    """Thirty visits of four crews, none of them planned yet."""
    chance = random.Random(SEED)
    people = tuple(
        WeekPerson(id=f"{crew} {one}", licensed=one == "first")
        for crew in range(CREWS)
        for one in ("first", "second")
    )
    visits = tuple(
        WeekVisit(
            id=f"visit {number}",
            job=f"job {number // 2}",
            label=f"Visit {number}",
            number=number % 2 + 1,
            people=(f"{number // 2 % CREWS} first", f"{number // 2 % CREWS} second"),
            latitude_deg=53 + chance.random() / 2,
            longitude_deg=-3 + chance.random() / 2,
            options=tuple(
                Span(start_min=day * MIN_PER_DAY + 450, end_min=day * MIN_PER_DAY + 990)
                for day in range(DAYS)
            ),
        )
        for number in range(VISITS)
    )
    return WeekProblem(people=people, visits=visits)


def bench_day() -> list[bool]:
    """One job of sixty tasks, and a board of thirty visits."""
    day, weeks = three_inverters(), thirty_visits()
    first = listed(day)
    found = lay(day, hint=first)
    off_pct = 100 * (found.makespan_min - found.bound) / found.makespan_min
    last = day.tasks[-1].id
    moved = tuple(replace(o, start_min=o.start_min + 7) if o.task == last else o for o in first)
    wanted = frozenset(one.id for one in weeks.visits)
    plan = propose(weeks, wanted)
    at = dict(plan.placed)
    board = replace(weeks, visits=tuple(replace(o, at=at.get(o.id)) for o in weeks.visits))
    print(
        f"  {len(day.tasks)} tasks: listed {makespan_min(day, first)} min, "
        f"laid {found.makespan_min} min, none ends before {found.bound} ({found.standing}); "
        f"{len(plan.placed)} of {VISITS} visits placed ({plan.standing})"
    )
    return [
        show(
            "a good plan of 60 tasks and 3 people, median",
            median_ms(lambda: listed(day), 5),
            150,
            "ms",
        ),
        show("the best found", found.took_s, 2.1, "s"),
        show("it is off its bound by", off_pct, 5, "%"),
        show(
            "a moved task said, median",
            median_ms(lambda: (broken(day, moved), why(day, moved)), 20),
            100,
            "ms",
        ),
        show("30 visits of 4 crews proposed", plan.took_s, 5, "s"),
        show(
            "clashes of a board of 30 visits, median",
            median_ms(lambda: clashes(board), 20),
            100,
            "ms",
        ),
        show("clashes left by the proposal, and one", 1 + len(clashes(board)), 1, ""),
    ]


if __name__ == "__main__":
    bench_day()
