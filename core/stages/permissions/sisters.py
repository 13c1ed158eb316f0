"""What the other inverters of the house lock here, from where their switches stand."""

from __future__ import annotations

from collections.abc import Iterator

from core.assessment.whole import OpenPoint
from core.base.judgement import holds, waiting
from core.base.messages import say
from core.base.stage_numbers import WAKE
from core.job.house import View
from core.job.job import Job
from core.job.subjects import DEAD_SOURCE
from core.stages.permissions.points import points
from core.stages.permissions.switches import BRANCH, ac_path, dc_path, positions

ONE_BY_ONE = "trade practice: one inverter is put on and watched before the next"


def of_sisters(job: Job) -> Iterator[OpenPoint]:
    """Nothing is opened while another inverter is ON; none is put on while another is half on."""
    for one in job.sisters if isinstance(job, View) else ():
        stands = positions(one)
        path = (BRANCH,) if one.micro is not None else ac_path(one)
        on = [switch for switch in path if stands.of(switch) == "ON"]
        if not on:
            continue
        off = holds("sister_off", False, DEAD_SOURCE, name=one.name)
        yield from points(WAKE, one.name, (off,))
        whole = path if one.micro is not None else (*dc_path(one), *path)
        if any(stands.of(switch) != "ON" for switch in whole):
            needs = (say("needs", "sister", name=one.name),)
            yield from points(WAKE, one.name, (waiting("sister_done", "", ONE_BY_ONE, needs),))
