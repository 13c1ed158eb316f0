"""Which open judgement a permission may pass, and why; which lock no override lifts: as data."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Annotated, Literal

from core.assessment.permissions import PermissionId
from core.base.form import Checked, read
from core.base.glossary import Name, Note
from core.base.judgement import Verdict
from core.base.quantity import Items
from core.base.trace import kept_ready
from core.data import load

JUDGED_KEPT = 8192
Passable = Literal["waiting", "stop"]
Names = Annotated[tuple[Name, ...], Items("names", 0, 400)]


@dataclass(frozen=True, kw_only=True)
class Pass(Checked):
    """Judgements that permissions may pass.

    permissions: which. rules: ids of the judgements. keys: only of these readings, by their kind
    or by kind and subject; empty: of all. verdicts: what of them may be passed.
    """

    permissions: Annotated[tuple[PermissionId, ...], Items("permissions", 1, 6)]
    rules: Annotated[Names, Items("rules", 1, 400)]
    keys: Names = ()
    verdicts: Annotated[tuple[Passable, ...], Items("verdicts", 1, 2)]
    reason: Note

    def fits(self, verdict: Verdict, key: str) -> bool:
        """Whether what is so judged, of that reading, is one of these."""
        of_these = not self.keys or key in self.keys or key.partition("/")[0] in self.keys
        return verdict in self.verdicts and of_these


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


@kept_ready(JUDGED_KEPT)
def passing(rule_id: str, verdict: Verdict, key: str) -> frozenset[PermissionId]:
    """The permissions that may pass a judgement of that rule, so judged, of that reading."""
    return frozenset(
        permission
        for one in _by_rule().get(rule_id, ())
        if one.fits(verdict, key)
        for permission in one.permissions
    )


@cache
def _by_rule() -> dict[str, tuple[Pass, ...]]:
    found: dict[str, tuple[Pass, ...]] = {}
    for one in table().passes:
        for rule_id in one.rules:
            found[rule_id] = (*found.get(rule_id, ()), one)
    return found
