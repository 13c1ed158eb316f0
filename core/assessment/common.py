"""Small shapes that every stage shows: a reading as it was kept, a gate."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from core.base.judgement import Verdict
from core.job.reading_kinds import Basis


@dataclass(frozen=True, kw_only=True)
class RecordedReading:
    """A reading as it was kept, and which reading superseded it, if any.

    value: None of what is read as no figure. text: it as the user reads it. is_past: it is of what
    no longer stands there. retest: what it superseded was not misread, it was made anew.
    """

    id: str
    value: float | None
    text: str
    basis: Basis
    taken_at: datetime
    kept_at: datetime
    by: str
    instrument: str
    note: str
    supersedes: str | None
    superseded_by: str | None
    is_past: bool = False
    retest: bool = False
    learner: bool = False


@dataclass(frozen=True, kw_only=True)
class Gate:
    """Whether the hand may move now, said in one line that names what is missing."""

    verdict: Verdict
    line: str


# What stages build: shut until the permissions, which know everything, open it.
SHUT = Gate(verdict="waiting", line="")
