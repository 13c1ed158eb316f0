"""One line of what a job needs on the drive."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Needed:
    """One line of what a job needs. count: None while the plan does not say; because says why."""

    id: str
    group: str
    what: str
    unit: str
    count: float | None
    because: str
    must: bool
    keep: str = ""
    kind: str = ""
