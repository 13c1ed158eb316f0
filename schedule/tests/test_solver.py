"""The day's solver against worked cases: optima reached, never a broken rule, same again."""

from __future__ import annotations

import random
from itertools import combinations, permutations, product
from pathlib import Path
from unittest import TestCase

from core.planning.day.check import broken, makespan_min
from core.planning.day.list_schedule import in_order, listed
from core.planning.day.problem import Apart, DayProblem, Person, Span, Task, Tool, Visit
from core.tests.cases import load
from schedule.solver import lay
from schedule.tests.problems import problem_of, relaxed

CASES = Path(__file__).parent / "cases"


def small(chance: random.Random) -> DayProblem:
    """A day of a few tasks for one or two people, with windows, tools and what comes first."""
    people = tuple(
        Person(id=name, licensed=chance.random() < 0.6, roof=chance.random() < 0.8)
        for name in "AB"[: chance.choice((1, 2, 2))]
    )
    tasks: list[Task] = []
    for number in range(chance.choice((3, 4, 5))):
        minutes = chance.choice((1, 2, 3))
        start = chance.choice((0, 0, 2, 4))
        windows = (Span(start_min=start, end_min=start + minutes + chance.choice((0, 2, 6))),)
        hands = chance.choice((0, 1, 1, 1, 2))
        tasks.append(
            Task(
                id=f"t{number}",
                label=f"Task {number}",
                minutes=minutes,
                hands=hands,
                licensed=int(hands > 0 and chance.random() < 0.25),
                roof=chance.random() < 0.2,
                tools=("x",) if chance.random() < 0.3 else (),
                after=tuple(t.id for t in tasks if chance.random() < 0.2),
                windows=windows if chance.random() < 0.3 else None,
            )
        )
    return DayProblem(
        people=people,
        visits=(Visit(id="v", start_min=0, end_min=chance.choice((8, 10, 14))),),
        tasks=tuple(tasks),
        tools=(Tool(id="x", count=1),),
        not_together=(Apart(one="t0", other="t1"),) if chance.random() < 0.3 else (),
    )


def exact_min(problem: DayProblem) -> int | None:
    """The least makespan: every order, every team, each task as early as it can be."""
    known = {one.id: one for one in problem.tasks}
    best: int | None = None
    teams = {
        task.id: [
            tuple(one.id for one in team)
            for team in combinations(problem.people, task.hands)
            if sum(one.licensed for one in team) >= task.licensed
            and all(one.roof or not task.roof for one in team)
        ]
        for task in problem.tasks
    }
    for order in permutations(known):
        if any(
            order.index(name) > order.index(task) for task in order for name in known[task].after
        ):
            continue
        for chosen in product(*(teams[name] for name in order)):
            plan = in_order(problem, order, dict(zip(order, chosen, strict=True)))
            if plan and not broken(problem, plan):
                least = makespan_min(problem, plan)
                best = least if best is None else min(best, least)
    return best


class Exact(TestCase):
    def test_two_hundred_small_days_against_every_order_and_team(self) -> None:
        chance = random.Random(19)
        feasible = 0
        for number in range(200):
            problem = small(chance)
            wanted, found = exact_min(problem), lay(problem, limit_s=10)
            with self.subTest(number=number):
                if wanted is None:
                    self.assertEqual(found.standing, "impossible")
                    self.assertEqual(listed(problem), ())
                    continue
                feasible += 1
                self.assertEqual((found.standing, found.makespan_min), ("best", wanted))
                self.assertEqual(broken(problem, found.plan), ())
                quick = listed(problem)
                if quick:
                    self.assertEqual(broken(problem, quick), ())
                    self.assertGreaterEqual(makespan_min(problem, quick), wanted)
        self.assertGreater(feasible, 100)


class Worked(TestCase):
    def test_a_list_of_them_is_a_plan_too(self) -> None:
        for case in load(CASES, "days"):
            problem, wanted = problem_of(case["inputs"]["instance"]), case["expected"]
            plan = listed(problem)
            self.assertEqual(bool(plan), wanted["feasible"], case["id"])
            if plan:
                self.assertEqual(broken(problem, plan), ())
                self.assertLessEqual(makespan_min(problem, plan), 1.3 * wanted["makespan_min"])

    def test_optima_are_reached_and_nothing_is_broken(self) -> None:
        for case in load(CASES, "days"):
            wanted = case["expected"]
            problem = problem_of(case["inputs"]["instance"])
            shortest, fewest = lay(problem, limit_s=20), lay(problem, "fewest_visits", limit_s=20)
            with self.subTest(case=case["id"]):
                if not wanted["feasible"]:
                    self.assertEqual((shortest.standing, shortest.plan), ("impossible", ()))
                    continue
                for found in (shortest, fewest):
                    self.assertEqual(found.standing, "best")
                    self.assertEqual(broken(problem, found.plan), ())
                self.assertEqual(shortest.makespan_min, wanted["makespan_min"])
                self.assertEqual(shortest.visits, wanted["visits_at_makespan"])
                self.assertEqual(fewest.visits, wanted["fewest_visits"])
                self.assertEqual(fewest.makespan_min, wanted["makespan_at_fewest_visits"])
                self.assertEqual(lay(problem, limit_s=20).plan, shortest.plan)

    def test_the_smallest_change_that_makes_it_fit(self) -> None:
        for case in load(CASES, "days"):
            if "smallest_relaxation" not in case["expected"]:
                continue
            wanted, of = case["expected"], case["inputs"]
            enough = {}
            for one in sorted(of["relaxations"], key=lambda each: each["size"]):
                found = lay(problem_of(relaxed(of["instance"], one["changes"])), limit_s=20)
                if found.plan:
                    enough[one["id"]] = found.makespan_min
            self.assertEqual(list(enough), wanted["sufficient_relaxations"])
            self.assertEqual(list(enough.values()), wanted["makespan_after_each_sufficient_min"])
            self.assertEqual(next(iter(enough)), wanted["smallest_relaxation"])
