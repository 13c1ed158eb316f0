"""What a part of a job is judged by, so that it is found ready when nothing of that changed."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, eq=False, kw_only=True)
class Keyed:
    """Two are the same when their keys are: all that is looked at, whatever else the job holds."""

    key: tuple[object, ...]

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Keyed) and self.key == other.key

    def __hash__(self) -> int:
        return hash(self.key)
