"""Which open judgement a permission may pass, and why; which lock no override lifts: as data."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Annotated, Literal

from core.assessment.permissions import PermissionId
from core.assessment.whole import OpenPoint
from core.base.form import Checked, read
from core.base.glossary import Name, Note
from core.base.quantity import Items
from core.data import load

Passable = Literal["waiting", "stop"]
Names = Annotated[tuple[Name, ...], Items("names", 0, 200)]


@dataclass(frozen=True, kw_only=True)
class Pass(Checked):
    """Judgements that permissions may pass.

    permissions: which. rules: ids of the judgements. keys: only of these readings, by their kind
    or by kind and subject; empty: of all. verdicts: what of them may be passed.
    """

    permissions: Annotated[tuple[PermissionId, ...], Items("permissions", 1, 6)]
    rules: Annotated[Names, Items("rules", 1, 200)]
    keys: Names = ()
    verdicts: Annotated[tuple[Passable, ...], Items("verdicts", 1, 2)]
    reason: Note

    def fits(self, point: OpenPoint) -> bool:
        """Whether an open point is one of these."""
        return point.judgement.verdict in self.verdicts and (
            not self.keys or point.key in self.keys or point.key.partition("/")[0] in self.keys
        )


@dataclass(frozen=True, kw_only=True)
class Elsewhere(Checked):
    """Judgements that lock only the string or branch that they are of, and why."""

    rules: Names
    reason: Note


@dataclass(frozen=True, kw_only=True)
class Table(Checked):
    """All passes; hard: judgements whose stop no override lifts; elsewhere: what of another string
    or branch does not lock this one."""

    passes: Annotated[tuple[Pass, ...], Items("passes", 1, 100)]
    hard: Names
    elsewhere: Elsewhere


@cache
def table() -> Table:
    """The shipped table."""
    return read(Table, load("permissions"), "$permissions")


@cache
def passes_of(permission: PermissionId) -> dict[str, tuple[Pass, ...]]:
    """The passes of one permission by the judgement that they name."""
    found: dict[str, tuple[Pass, ...]] = {}
    for one in table().passes:
        if permission in one.permissions:
            for rule_id in one.rules:
                found[rule_id] = (*found.get(rule_id, ()), one)
    return found


def pass_for(permission: PermissionId, point: OpenPoint) -> Pass | None:
    """What lets a permission pass an open point; None: it locks."""
    return next(
        (one for one in passes_of(permission).get(point.judgement.rule_id, ()) if one.fits(point)),
        None,
    )
