"""A crew's own times, from the moments of what it read: they replace the first guesses."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise
from statistics import quantiles

from core.planning.day.tasks import OwnTime, kinds

# Two readings nearer than that came from a file or one press; further apart, something else lay
# between them (own defaults).
LEAST_MIN, MOST_MIN = 0.25, 45.0
# With fewer, a first guess of the trade is the better one (own default).
LEAST_SEEN = 8
S_PER_MIN = 60.0


@dataclass(frozen=True, kw_only=True)
class Moment:
    """When something was read first: of which kind, on which job, by whom."""

    job: str
    kind: str
    by: str
    at: datetime


def own_times(moments: Iterable[Moment]) -> tuple[OwnTime, ...]:
    """The time of a piece of each kind of work, from the gaps between readings that follow each
    other on one job, by one person; only where enough of them were seen."""
    timed = {name: kind.id for kind in kinds() for name in kind.timed_by}
    rows: dict[tuple[str, str, str], list[datetime]] = defaultdict(list)
    for one in moments:
        if one.kind in timed:
            rows[timed[one.kind], one.job, one.by].append(one.at)
    gaps: dict[str, list[float]] = defaultdict(list)
    for (kind, _, _), times in rows.items():
        gaps[kind] += _gaps(sorted(times))
    return tuple(
        _own(kind, found) for kind, found in sorted(gaps.items()) if len(found) >= LEAST_SEEN
    )


def _own(kind: str, gaps: list[float]) -> OwnTime:
    low, middle, high = (round(one, 2) for one in quantiles(gaps, n=4, method="inclusive"))
    return OwnTime(kind=kind, each_min=middle, low_min=low, high_min=high, seen=len(gaps))


def _gaps(times: list[datetime]) -> Iterator[float]:
    for before, after in pairwise(times):
        gap = (after - before).total_seconds() / S_PER_MIN
        if LEAST_MIN <= gap <= MOST_MIN:
            yield gap
