"""Open points by who must act, and what each of them holds up."""

from __future__ import annotations

from collections import defaultdict
from functools import cache
from typing import get_args

from core.assessment.leave import Actor, PointGroup, PointLine
from core.assessment.permissions import Lock, PermissionId, PermissionState
from core.assessment.whole import OpenPoint
from core.base.messages import say
from core.data import load

ACTORS: tuple[Actor, ...] = get_args(Actor)


@cache
def _acts() -> tuple[dict[str, Actor], dict[str, Actor]]:
    """Who must act, by rule and else by stage."""
    data = load("who_acts")
    by_rule = {rule: actor for actor, rules in data["rules"].items() for rule in rules}
    return by_rule, data["stages"]


def actor_of(point: OpenPoint) -> Actor:
    """Who must act on an open point."""
    by_rule, by_stage = _acts()
    return by_rule.get(point.judgement.rule_id) or by_stage[str(point.stage)]


def grouped(
    open_points: tuple[OpenPoint, ...],
    states: tuple[PermissionState, ...],
    locks: tuple[Lock, ...],
) -> tuple[PointGroup, ...]:
    """Every open point under who must act, the gravest first within it."""
    holds: dict[tuple[int, str, str, str], list[PermissionId]] = defaultdict(list)
    known = {lock.id: lock for lock in locks}
    for state in states:
        for lock_id in () if state.scope else state.locks:
            lock = known[lock_id]
            holds[lock.stage, lock.where, lock.key, lock.rule_id].append(state.id)
    lines: dict[Actor, list[PointLine]] = defaultdict(list)
    for index, point in enumerate(open_points):
        at = (point.stage, point.where, point.key, point.judgement.rule_id)
        lines[actor_of(point)].append(PointLine(index=index, holds=tuple(holds.get(at, ()))))
    gravity = {"stop": 0, "waiting": 1, "watch": 2, "clear": 3}
    titles = {state.id: state.title for state in states}
    found = []
    for actor in ACTORS:
        own = lines.get(actor)
        if own:
            own.sort(key=lambda one: gravity[open_points[one.index].judgement.verdict])
            held = dict.fromkeys(one for line in own for one in line.holds)
            said = ", ".join(titles[one] for one in held)
            found.append(
                PointGroup(
                    actor=actor,
                    title=say("actors", actor),
                    holds=say("actors", "holds", what=said) if said else "",
                    points=tuple(own),
                )
            )
    return tuple(found)
