"""Ways to part the DC side at the roof's end: how many switches, which price."""

from __future__ import annotations

import math

from core.assessment.feed import DcMethodState
from core.base.messages import say
from core.job.feed import DcMethod
from core.job.job import Job
from core.job.subjects import DC_ISOLATOR, DC_SWITCHES, SAFETY_SWITCH

SCHOOLS: tuple[DcMethod, ...] = ("none", "manual", "automatic", "both")
# Both conductors of a string, in and out of a switch; the automatic one's own AC feed: L, N, PE.
ENDS_PER_STRING = 4
POLES = 2
FEED_ENDS = 3
# Where no sheet is chosen yet: four poles part two strings.
STRINGS_PER_SWITCH = 2


def switch_count(job: Job, switch: str) -> int:
    """How many switches of one kind part all strings: by its sheet, or four poles for two."""
    dc, strings = job.feed.dc, len(job.strings)
    each = STRINGS_PER_SWITCH
    if switch == DC_ISOLATOR and dc.isolator is not None:
        each = max(dc.isolator.poles // (POLES * dc.isolator.poles_in_series), 1)
    elif switch == SAFETY_SWITCH and dc.safety is not None:
        each = dc.safety.strings
    return math.ceil(strings / each)


def dc_schools(job: Job) -> tuple[DcMethodState, ...]:
    """The ways to part the DC side at the roof's end side by side; none without strings."""
    return tuple(_method(job, school) for school in SCHOOLS) if job.inverter else ()


def _method(job: Job, school: DcMethod) -> DcMethodState:
    kinds = DC_SWITCHES[school]
    switches = sum(switch_count(job, kind) for kind in kinds)
    by_string = ENDS_PER_STRING * len(job.strings) * len(kinds)
    fed = FEED_ENDS * switch_count(job, SAFETY_SWITCH) if SAFETY_SWITCH in kinds else 0
    glands = by_string + (1 if fed else 0)
    parts = say("dc_schools", "parts", switches=str(switches), glands=str(glands))
    return DcMethodState(
        school=school,
        title=say("dc_schools", school),
        chosen=school == job.feed.dc.school,
        terminations=by_string + fed,
        switches=switches,
        parts=parts if kinds else say("dc_schools", "no_parts"),
        live=say("dc_schools", f"{school}_live"),
        caution=say("dc_schools", f"{school}_caution"),
    )
