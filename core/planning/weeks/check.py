"""What clashes over the weeks: one person at two houses, away, goods that come later, the order."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

from core.base.messages import say
from core.planning.day.problem import Span
from core.planning.weeks.problem import WeekPerson, WeekProblem, WeekVisit, way_min

# Nobody drives longer than that from one house to the next on one day.
MOST_WAY_MIN = 600
Rule = Literal["twice", "way", "away", "goods", "nobody", "licence", "order", "permit"]


@dataclass(frozen=True, kw_only=True)
class Clash:
    """One thing because of which a visit cannot be as it lies."""

    rule: Rule
    visit: str
    other: str
    said: str


def clashes(problem: WeekProblem) -> tuple[Clash, ...]:
    """Everything that clashes; nothing where every visit may be made as it lies."""
    return tuple(_clashes(problem))


def _clashes(problem: WeekProblem) -> Iterator[Clash]:
    people = {one.id: one for one in problem.people}
    by_job: dict[str, list[WeekVisit]] = defaultdict(list)
    for one in problem.visits:
        if one.at is None:
            continue
        yield from by_itself(one, one.at, people)
        by_job[one.job].append(one)
    yield from _of_people(problem)
    for own in by_job.values():
        own.sort(key=lambda one: one.number)
        for a, b in combinations(own, 2):
            if a.at and b.at and a.at.start_min > b.at.start_min:
                yield _said("order", b, a)


def _of_people(problem: WeekProblem) -> Iterator[Clash]:
    """Who is wanted at two houses at once, or has no time for the way; each pair of visits once."""
    own = [(one, one.at) for one in problem.visits if one.at is not None and one.people]
    own.sort(key=lambda each: each[1].start_min)
    for index, (a, at) in enumerate(own):
        for b, then in own[index + 1 :]:
            if then.start_min > at.end_min + MOST_WAY_MIN:
                break
            both = sorted(set(a.people) & set(b.people))
            rule = meets(a, b, at, then) if both else None
            if rule is not None:
                yield _said(rule, b, a, who=", ".join(both))


def by_itself(visit: WeekVisit, at: Span, people: dict[str, WeekPerson]) -> Iterator[Clash]:
    """What clashes at one visit, put there, whatever else is planned."""
    there = [people[name] for name in visit.people if name in people]
    if not there:
        yield _said("nobody", visit)
    elif visit.licensed and not any(one.licensed for one in there):
        yield _said("licence", visit)
    for one in there:
        if any(gap.start_min < at.end_min and at.start_min < gap.end_min for gap in one.away):
            yield _said("away", visit, who=one.id)
    if visit.goods_min is not None and at.start_min < visit.goods_min:
        yield _said("goods", visit)
    if not visit.permit:
        yield _said("permit", visit)


def meets(a: WeekVisit, b: WeekVisit, at: Span | None, then: Span | None) -> Rule | None:
    """Why nobody can be at both visits, put there: at once, or no time for the way."""
    if at is None or then is None:
        return None
    if at.start_min < then.end_min and then.start_min < at.end_min:
        return "twice"
    gap = max(then.start_min - at.end_min, at.start_min - then.end_min)
    return "way" if gap < way_min(a, b) else None


def _said(rule: Rule, visit: WeekVisit, other: WeekVisit | None = None, who: str = "") -> Clash:
    words = say(
        "week_clash",
        rule,
        visit=visit.label,
        other=other.label if other else "",
        who=who,
        minutes=str(way_min(visit, other)) if other else "",
    )
    return Clash(rule=rule, visit=visit.id, other=other.id if other else "", said=words)
