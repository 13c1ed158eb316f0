"""What of a house's goods is counted for one of its inverters."""

from __future__ import annotations

from dataclasses import replace

from core.job.feed import (
    FeedPlan,
)
from core.job.house import View, alone, planes_used
from core.job.job import Job


def own_goods(job: Job) -> Job:
    """A job with what is counted for it: of what a house shares, each piece for one inverter alone.

    A plane goes with the first inverter that hangs on it, boards and cables that all use with the
    first of the house. It is for counting only: strings may lie on planes that it has not.
    """
    if not isinstance(job, View):
        return job
    before = job.sisters[: job.earlier]
    taken = {plane for one in before for plane in planes_used(one)}
    used = taken | {plane for one in job.sisters for plane in planes_used(one)} - set(
        planes_used(job)
    )
    planes = tuple(one for one in job.planes if one.name not in (used if before else used - taken))
    made = object.__new__(Job)
    vars(made).update(vars(alone(job)) | {"planes": planes})
    if before:
        vars(made)["feed"] = _beyond(job.feed, before[0].feed)
    return made


def _beyond(feed: FeedPlan, first: FeedPlan) -> FeedPlan:
    """What of a feed is not the first inverter's already; its own breaker in a shared board is."""
    end = feed.far_end
    board = next((one.board for one in first.others or () if one.name == end), "")
    shared = {one.name for one in first.devices}
    devices = tuple(
        one
        if one.name not in shared
        else replace(
            one, surge="none", isolator=None, breaker=one.breaker if one.name == board else None
        )
        for one in feed.devices
    )
    runs = {one.name for one in first.runs}
    return replace(
        feed, devices=devices, runs=tuple(one for one in feed.runs if one.name not in runs)
    )
