"""Days proposed for visits: held against every way there is, and never with a clash."""

from __future__ import annotations

import random
from dataclasses import replace
from itertools import product
from unittest import TestCase

from core.planning.day.now import latest_starts
from core.planning.day.problem import DayProblem, Person, Span, Task, Visit
from core.planning.weeks.check import clashes
from core.planning.weeks.problem import WeekPerson, WeekProblem, WeekVisit
from schedule.solver import lay
from schedule.weeks import MIN_PER_DAY, propose


def weeks_of(chance: random.Random, visits: int, days: int, crews: int) -> WeekProblem:
    """Visits of some crews of two, some of them of one job, with absences and goods."""
    people = tuple(
        WeekPerson(
            id=f"{crew}{one}",
            licensed=one == "a",
            away=tuple(
                Span(start_min=day * MIN_PER_DAY, end_min=(day + 1) * MIN_PER_DAY)
                for day in range(days)
                if chance.random() < 0.15
            ),
        )
        for crew in range(crews)
        for one in "ab"
    )
    made: list[WeekVisit] = []
    for number in range(visits):
        crew = chance.randrange(crews)
        before = [one for one in made if one.people[0] == f"{crew}a"]
        again = before[-1] if before and chance.random() < 0.3 else None
        begins, long = chance.choice(((450, 540), (450, 240), (780, 240)))
        made.append(
            WeekVisit(
                id=f"v{number}",
                job=again.job if again else f"j{number}",
                label=f"Visit {number}",
                number=again.number + 1 if again else 1,
                people=(f"{crew}a", f"{crew}b")[: chance.choice((1, 2))],
                latitude_deg=53.0 + chance.random() / 3,
                longitude_deg=-3.0,
                options=tuple(
                    Span(
                        start_min=day * MIN_PER_DAY + begins,
                        end_min=day * MIN_PER_DAY + begins + long,
                    )
                    for day in range(days)
                ),
                goods_min=chance.choice((None, None, MIN_PER_DAY)),
            )
        )
    return WeekProblem(people=people, visits=tuple(made))


def worth(problem: WeekProblem, at: dict[str, Span], days: int) -> tuple[int, int] | None:
    """How many visits lie, and on which days all in all; None where anything clashes."""
    put = replace(problem, visits=tuple(replace(one, at=at.get(one.id)) for one in problem.visits))
    # No two visits of a job on one day: each is a time at the house.
    same = len({(one.job, one.at.start_min // MIN_PER_DAY) for one in put.visits if one.at})
    if clashes(put) or same < len(at):
        return None
    return len(at), -sum(span.start_min // MIN_PER_DAY for span in at.values())


class Proposed(TestCase):
    def test_small_weeks_against_every_way_there_is(self) -> None:
        chance = random.Random(19)
        for _ in range(60):
            days = chance.choice((2, 3))
            problem = weeks_of(chance, chance.choice((2, 3, 4)), days, chance.choice((1, 2)))
            ways = product(*([None, *one.options] for one in problem.visits))
            best = max(
                found
                for way in ways
                if (
                    found := worth(
                        problem,
                        {v.id: at for v, at in zip(problem.visits, way, strict=True) if at},
                        days,
                    )
                )
                is not None
            )
            plan = propose(problem, frozenset(one.id for one in problem.visits))
            self.assertEqual(plan.standing, "best")
            self.assertEqual(worth(problem, dict(plan.placed), days), best)
            self.assertEqual(len(plan.placed) + len(plan.left), len(problem.visits))

    def test_thirty_visits_of_four_crews_beside_what_stays(self) -> None:
        problem = weeks_of(random.Random(4), 30, 25, 4)
        every = frozenset(one.id for one in problem.visits)
        plan = propose(problem, every)
        self.assertIn(plan.standing, ("best", "good"))
        self.assertIsNotNone(worth(problem, dict(plan.placed), 25))
        self.assertEqual(propose(problem, every).placed, plan.placed)
        at = dict(plan.placed)
        stays = replace(
            problem, visits=tuple(replace(one, at=at.get(one.id)) for one in problem.visits)
        )
        some = frozenset(sorted(every)[:5])
        again = propose(stays, some)
        self.assertIsNotNone(worth(problem, at | dict(again.placed), 25))
        self.assertLessEqual({name for name, _ in again.placed}, some)


class LatestStarts(TestCase):
    def test_at_the_latest_start_it_still_fits_and_a_minute_later_no_more(self) -> None:
        chance = random.Random(7)
        for _ in range(40):
            tasks: list[Task] = []
            for number in range(chance.choice((3, 4, 5))):
                start = chance.choice((0, 5, 10))
                tasks.append(
                    Task(
                        id=f"t{number}",
                        label=f"Task {number}",
                        minutes=chance.choice((2, 5, 9)),
                        hands=0,
                        after=tuple(one.id for one in tasks if chance.random() < 0.4),
                        windows=(Span(start_min=start, end_min=start + 30),)
                        if chance.random() < 0.5
                        else None,
                    )
                )
            problem = DayProblem(
                people=(Person(id="A"),),
                visits=(Visit(id="v", start_min=0, end_min=45),),
                tasks=tuple(tasks),
            )
            if not lay(problem).plan:
                continue
            for name, latest in latest_starts(problem).items():
                self.assertTrue(lay(_begun_at(problem, name, latest)).plan, (problem, name))
                self.assertFalse(lay(_begun_at(problem, name, latest + 1)).plan, (problem, name))


def _begun_at(problem: DayProblem, name: str, minute: int) -> DayProblem:
    """The day in which a task begins at that minute or later, inside its own windows."""
    tasks = (
        replace(one, windows=tuple(_from(minute, one.windows or WHOLE))) if one.id == name else one
        for one in problem.tasks
    )
    return replace(problem, tasks=tuple(tasks))


WHOLE = (Span(start_min=0, end_min=45),)


def _from(minute: int, windows: tuple[Span, ...]) -> list[Span]:
    return [
        Span(start_min=max(minute, one.start_min), end_min=one.end_min)
        for one in windows
        if one.end_min > max(minute, one.start_min)
    ]
