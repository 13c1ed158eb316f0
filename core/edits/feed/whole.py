"""The feed changed as a whole: what was read of ends and switches that are gone is kept."""

from __future__ import annotations

from dataclasses import replace

from core.edits.edit import retired
from core.job.feed import (
    FeedPlan,
)
from core.job.job import Job, run_ends
from core.job.strings import StringPlan
from core.job.subjects import switches, test_names


def with_feed(job: Job, feed: FeedPlan, boxes: dict[str, str | None] | None = None) -> Job:
    """The job with another feed; what was read of ends and switches that are gone is kept.

    boxes: joint boxes with another name, or none any more: their trunks follow.
    """
    gone = _read_of(job.feed, job.strings) - _read_of(feed, job.strings)
    micro = job.micro
    if micro is not None and boxes:
        branches = tuple(
            replace(one, joint=boxes.get(one.joint, one.joint)) if one.joint else one
            for one in micro.branches
        )
        micro = replace(micro, branches=branches)
    return replace(job, feed=feed, micro=micro, retired=retired(job, gone))


def _read_of(feed: FeedPlan, strings: tuple[StringPlan, ...]) -> frozenset[str]:
    ways = (one.name for one in feed.containments)
    return frozenset((*run_ends(feed, strings), *switches(feed), *ways)) | test_names(feed)
