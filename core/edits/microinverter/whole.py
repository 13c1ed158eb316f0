"""The roof changed as a whole: every branch with units has its box, what was read stays."""

from __future__ import annotations

from dataclasses import replace

from core.base.messages import say
from core.edits.edit import known, retired
from core.job.feed import (
    FeedDevice,
    FeedPlan,
)
from core.job.job import Job
from core.job.microinverter import (
    SWAP_STEPS,
    MicroPlan,
    swap_key,
)


def known_unit(job: Job, name: str) -> None:
    """Refuses a unit that there is not."""
    names = [unit.name for unit in job.roof_plan.units]
    known("$.unit", name, names)


def known_branch(job: Job, name: str) -> None:
    """Refuses a branch that there is not."""
    known("$.branch", name, [branch.name for branch in job.roof_plan.branches])


def with_micro(job: Job, plan: MicroPlan) -> Job:
    """The job with another roof: every branch with units has its box, what was read stays."""
    feed, branches = job.feed, []
    for branch in plan.branches:
        if branch.joint is None and branch.units:
            feed, box = _with_box(feed, branch.name)
            branches.append(replace(branch, joint=box))
        else:
            branches.append(branch)
    made = replace(plan, branches=tuple(branches))
    gone = _read_of(job.roof_plan) - _read_of(made)
    return replace(job, micro=made, feed=feed, retired=retired(job, gone))


def _with_box(feed: FeedPlan, branch: str) -> tuple[FeedPlan, str]:
    """The feed with a joint box for a branch; one of that name that stands there already serves."""
    name = say("branches", "box", name=branch)
    if any(one.name == name for one in feed.devices):
        return feed, name
    box = FeedDevice(name=name, kind="joint", outdoors=True)
    return replace(feed, devices=(*feed.devices, box)), name


def _read_of(plan: MicroPlan) -> frozenset[str]:
    units = [unit.name for unit in plan.units]
    steps = (swap_key(unit, step) for unit in units for step in SWAP_STEPS)
    return frozenset((*units, *(branch.name for branch in plan.branches), *steps))
