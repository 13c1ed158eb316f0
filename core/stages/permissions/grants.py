"""The permissions of a job at a moment, each from everything that is open: closed by default."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from functools import cached_property
from typing import get_args

from core.assessment.common import Gate
from core.assessment.permissions import Lock, PermissionId, PermissionState
from core.assessment.whole import OpenPoint
from core.base.judgement import Judgement, Verdict, holds, waiting
from core.base.messages import say
from core.base.stage_numbers import FEED, WAKE
from core.job.job import Job
from core.job.sequences import StepOverride, SwitchId
from core.job.subjects import DEAD_SOURCE
from core.stages.permissions.dead import MadeDead, switch_title
from core.stages.permissions.switches import (
    BRANCH,
    Positions,
    Switch,
    ac_path,
    branch_switch,
    dc_path,
)
from core.stages.permissions.table import passing, table

PERMISSIONS: tuple[PermissionId, ...] = get_args(PermissionId)
PLUG: PermissionId = "plug"
GRAVEST: tuple[Verdict, ...] = ("stop", "waiting")


@dataclass(frozen=True)
class Weighed:
    """What of the open points locks a permission, and how many of them it may pass."""

    locks: tuple[Lock, ...]
    passed: int

    @cached_property
    def gravest(self) -> Lock | None:
        """The first stop, or else the first that waits."""
        return max(self.locks, key=lambda one: one.verdict == "stop", default=None)


NOTHING_OPEN = Weighed(locks=(), passed=0)


class Permissions:
    """What may be done now. points: every open judgement; said: where each switch stands."""

    def __init__(
        self, job: Job, at: datetime | None, points: tuple[OpenPoint, ...],
        said: Positions, dead: MadeDead,
    ) -> None:  # fmt: skip
        self.job, self.at, self.said = job, at, said
        self._dead = dead
        self._locks: dict[tuple[PermissionId, str], tuple[Lock, ...]] = {}
        self._whole: list[OpenPoint] = []
        self._own: dict[str, list[OpenPoint]] = defaultdict(list)
        for point in points:
            if point.judgement.verdict in GRAVEST:
                alone = point.part and point.judgement.rule_id in table().elsewhere.rules
                (self._own[point.part] if alone else self._whole).append(point)
        self._watched = {
            point.part: point.judgement for point in reversed(points) if _is_watch(point)
        }

    def locks(self, permission: PermissionId, scope: str = "") -> tuple[Lock, ...]:
        """Every lock of a permission; scope: of one string or branch, as ``string/A``.

        Without a scope every string's and branch's own locks hold it too.
        """
        key = permission, scope
        if key not in self._locks:
            groups = self._groups(permission, scope)
            self._locks[key] = tuple(lock for group in groups for lock in group.locks)
        return self._locks[key]

    def own_locks(self, permission: PermissionId, scope: str) -> tuple[Lock, ...]:
        """The locks of a permission that are one string's or branch's own."""
        return self._own_group(permission, scope).locks

    def gate(self, permission: PermissionId, scope: str = "") -> Gate:
        """Whether it may be done now; the line is what the gravest lock says.

        Of hundreds of strings each asks, so what is common to all is gone through once.
        """
        gravest = (group.gravest for group in self._groups(permission, scope))
        return gate_of(tuple(one for one in gravest if one is not None))

    def _groups(self, permission: PermissionId, scope: str) -> tuple[Weighed, ...]:
        """The locks of a permission: of the switches themselves, of the plant, of its parts."""
        stand = tuple(map(_lock, self._standing(permission, scope)))
        own = self._own_group(permission, scope) if scope else self._of_all(permission)
        return Weighed(locks=stand, passed=0), self._common(permission), own

    def _own_group(self, permission: PermissionId, scope: str) -> Weighed:
        points = [point for part in self._parts(scope) for point in self._own.get(part, ())]
        return _weighed(points)[permission] if points else NOTHING_OPEN

    def states(self) -> tuple[PermissionState, ...]:
        """Every permission of the plant, and plugging and switching on by string and branch."""
        found = [self._state(one, "") for one in PERMISSIONS]
        if self.job.micro is not None:
            scopes = [f"branch/{one.name}" for one in self.job.micro.branches if one.units]
            found += [self._state("ac", scope) for scope in scopes]
        found += [self._state(PLUG, f"string/{one.name}") for one in self.job.strings]
        return tuple(found)

    def every_lock(self) -> tuple[Lock, ...]:
        """Every lock of every permission, each once."""
        found = {lock.id: lock for one in PERMISSIONS for lock in self.locks(one)}
        return tuple(found.values())

    def watched(self, scope: str) -> Judgement | None:
        """What a careful person looks at first before a string or branch that may be."""
        return next(
            (self._watched[part] for part in self._parts(scope) if part in self._watched), None
        )

    def feeds_with(self, moved: SwitchId | None) -> bool:
        """Whether the plant feeds once a switch is ON; without one, as it stands."""
        if self.job.micro is not None:
            return moved == BRANCH or self.said.of(BRANCH) == "ON"
        return all(one == moved or self.said.of(one) == "ON" for one in self._path)

    def undecided(self, moved: SwitchId) -> tuple[SwitchId, ...]:
        """Switches of which it hangs whether the plant feeds with one more ON: nobody said where
        they stand, and none of the others is OFF."""
        if self.job.micro is not None or moved not in self._path:
            return ()
        others = [one for one in self._path if one != moved]
        if any(self.said.of(one) == "OFF" for one in others):
            return ()
        return tuple(one for one in others if self.said.of(one) is None)

    @cached_property
    def _path(self) -> tuple[SwitchId, ...]:
        """The switches between the array and the supply that this plant has."""
        return (*dc_path(self.job), *ac_path(self.job))

    def _state(self, permission: PermissionId, scope: str) -> PermissionState:
        gate = self.gate(permission, scope)
        locks = self.own_locks(permission, scope) if scope else self.locks(permission)
        weighed = (self._common(permission), self._of_all(permission))
        return PermissionState(
            id=permission,
            title=say("permissions", permission),
            scope=scope.partition("/")[2],
            verdict=gate.verdict,
            line=gate.line or say("permissions", f"{permission}_clear"),
            locks=tuple(dict.fromkeys(one.id for one in locks)),
            passed=0 if scope else sum(one.passed for one in weighed),
        )

    def _common(self, permission: PermissionId) -> Weighed:
        return self._of_whole[permission]

    def _of_all(self, permission: PermissionId) -> Weighed:
        return self._of_parts[permission]

    @cached_property
    def _of_whole(self) -> dict[PermissionId, Weighed]:
        return _weighed(self._whole)

    @cached_property
    def _of_parts(self) -> dict[PermissionId, Weighed]:
        return _weighed([point for group in self._own.values() for point in group])

    def _standing(self, permission: PermissionId, scope: str) -> tuple[OpenPoint, ...]:
        """What the switches themselves lock: nothing is plugged under load, nothing opened live."""
        if permission == "open":
            return tuple(
                OpenPoint(stage=FEED, where=say("where", "dead"), judgement=one, key="dead_step/")
                for one in self._dead.lacks
            )
        if permission == PLUG:
            kind, _, name = scope.partition("/")
            own = branch_switch(name) if kind == BRANCH else BRANCH
            return _must_be_off(self.said, "dc" if self.job.inverter else own)
        return ()

    def _parts(self, scope: str) -> tuple[str, ...]:
        """The parts that concern a string or a branch: itself, its plane, tracker, units."""
        return self._parts_of.get(scope, (scope,))

    @cached_property
    def _parts_of(self) -> dict[str, tuple[str, ...]]:
        strings: dict[str, tuple[str, ...]] = {
            f"string/{one.name}": (
                f"string/{one.name}", f"plane/{one.plane}", f"tracker/{one.tracker}"
            )
            for one in self.job.strings
        }  # fmt: skip
        if self.job.micro is None:
            return strings
        return {
            f"branch/{one.name}": (f"branch/{one.name}", *(f"unit/{unit}" for unit in one.units))
            for one in self.job.micro.branches
        }


def _weighed(points: Iterable[OpenPoint]) -> dict[PermissionId, Weighed]:
    """What of some open points locks each permission; one point is one and the same lock."""
    locks: dict[PermissionId, list[Lock]] = {one: [] for one in PERMISSIONS}
    passed = dict.fromkeys(PERMISSIONS, 0)
    for point in points:
        judged = point.judgement
        may_pass = passing(judged.rule_id, judged.verdict, point.key)
        lock = _lock(point) if len(may_pass) < len(PERMISSIONS) else None
        for one in PERMISSIONS:
            if lock is None or one in may_pass:
                passed[one] += 1
            else:
                locks[one].append(lock)
    return {one: Weighed(locks=tuple(locks[one]), passed=passed[one]) for one in PERMISSIONS}


def _is_watch(point: OpenPoint) -> bool:
    return bool(point.part) and point.judgement.verdict == "watch"


def _must_be_off(said: Positions, switch: Switch) -> tuple[OpenPoint, ...]:
    stands = said.of(switch)
    if stands == "OFF":
        return ()
    title = switch_title(switch)
    judged = (
        holds("switch_off_now", False, DEAD_SOURCE, switch=title)
        if stands == "ON"
        else waiting("switch_off_now", "", DEAD_SOURCE, (say("needs", "switch", switch=title),))
    )
    return (OpenPoint(stage=WAKE, where=title, judgement=judged, key=f"switch_stands/{switch}"),)


def _lock(point: OpenPoint) -> Lock:
    judged, rules = point.judgement, table()
    return Lock(
        id=lock_id(point),
        stage=point.stage,
        where=point.where or say("stages", str(point.stage)),
        key=point.key,
        rule_id=judged.rule_id,
        verdict=judged.verdict,
        reason=judged.reason,
        lift=say("lifts", judged.verdict, title=judged.title),
        hard=judged.verdict == "stop" and judged.rule_id in rules.hard,
    )


def lock_id(point: OpenPoint) -> str:
    """By what an override names the judgement that it overrides."""
    where = point.key or point.part or point.where
    return f"{point.stage} {point.judgement.rule_id} {where}".strip()


def without_lifted(locks: tuple[Lock, ...], lifted: tuple[StepOverride, ...]) -> tuple[Lock, ...]:
    """The locks that still hold beside overrides, each of which lifts the one that it names."""
    names = {one.lock for one in lifted if not one.from_file}
    return tuple(one for one in locks if one.hard or one.id not in names) if names else locks


def gate_of(locks: tuple[Lock, ...]) -> Gate:
    """A gate from its locks: shut while there is one, said by the gravest."""
    first = Weighed(locks=locks, passed=0).gravest
    if first is None:
        return Gate(verdict="clear", line="")
    return Gate(verdict=first.verdict, line=lock_line(first))


def lock_line(lock: Lock) -> str:
    """What a lock says, with where it is mended."""
    return say("permissions", "lock", where=lock.where, reason=lock.reason)


def open_gate(grants: Permissions) -> Gate:
    """Whether a compartment may be opened."""
    gate = grants.gate("open")
    return gate if gate.line else replace(gate, line=say("dead", "clear"))
