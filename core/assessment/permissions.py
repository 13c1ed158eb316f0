"""The shape of a permission: whether a hand may do it now, and every lock that keeps it from it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from core.base.judgement import Verdict

# Open a compartment; plug a string or a unit's leads in; wake it on one side to be set; switch the
# DC side on, the AC side or a branch on, so that it feeds; leave it running.
PermissionId = Literal["open", "plug", "awake", "dc", "ac", "run"]


@dataclass(frozen=True, kw_only=True)
class Lock:
    """One judgement that keeps a hand from doing it.

    id: by which an override names it. stage, where, key: where it is mended, key being what is
    read there. lift: what would lift it. hard: no override does.
    """

    id: str
    stage: int
    where: str
    key: str
    rule_id: str
    verdict: Verdict
    reason: str
    lift: str
    hard: bool


@dataclass(frozen=True, kw_only=True)
class PermissionState:
    """One permission as it stands.

    scope: of which string or branch; empty of the whole plant. locks: ids of what keeps it, which
    the assessment's `locks` tell. passed: how many open judgements this permission may pass, each
    with its reason in docs/permissions.md.
    """

    id: PermissionId
    title: str
    scope: str
    verdict: Verdict
    line: str
    locks: tuple[str, ...]
    passed: int
