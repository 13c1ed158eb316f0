"""How many modules of which type a plan has, and their power."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable

from core.base.judgement import Judgement, waiting
from core.base.messages import say
from core.equipment.module import Module
from core.job.job import Job
from core.job.strings import StringPlan
from core.rules.dc.string_voltage import SHEET


def module_counts(job: Job) -> dict[Module, int]:
    """Modules of each type, in the order of the plan: in strings, or as drawn under units."""
    found = Counter[Module]()
    if job.micro is not None:
        for plane in job.planes:
            found[job.module_on(plane.name)] += plane.modules
    for string in job.strings:
        found[job.module_on(string.plane)] += string.modules_in_series
    return {module: count for module, count in found.items() if count}


def modules_text(counts: dict[Module, int]) -> str:
    """Counts and types as a line tells them."""
    return ", ".join(f"{count} × {module.label}" for module, count in counts.items())


def strings_w(job: Job, strings: Iterable[StringPlan]) -> float:
    """Power at STC of the modules of some strings."""
    return math.fsum(one.modules_in_series * job.module_on(one.plane).pmax_w for one in strings)


def strings_planned(job: Job) -> tuple[Judgement, ...]:
    """A roof of which no string is planned is a question, not an empty plan that is right."""
    if job.strings or job.inverter is None:
        return ()
    needs = say("needs", "strings" if job.planes else "planes")
    return (waiting("strings_planned", "", SHEET, (needs,)),)
