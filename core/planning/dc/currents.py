"""The current that everything of a string must bear: its own in the strongest sun, or what the
strings beside it drive back through it.
"""

from __future__ import annotations

from core.job.job import Job
from core.job.strings import StringPlan


def rear_gain(job: Job) -> float:
    """By how much light from behind strengthens a bifacial module; 0 for any other."""
    return job.rules.current.rear_gain.value if job.module.bifacial else 0.0


def string_bears_a(job: Job, string: StringPlan) -> float:
    """What wire, switch and connector of one string must bear, with the pack's factor.

    Formula: max(f · Isc · (1 + g), reverse), reverse = (Np − 1) · 1.25 · Isc · (1 + g), at most
    what a fuse in it lets through.
    Source: IEC 62548-1:2023, 6.2 and 7.3.
    """
    strong_a = job.module.isc_a * (1 + rear_gain(job))
    beside = sum(other.tracker == string.tracker for other in job.strings) - 1
    reverse_a = beside * job.rules.fuse.reverse_factor.value * strong_a
    if string.fuse_a is not None:
        reverse_a = min(reverse_a, string.fuse_a)
    return max(job.rules.current.isc_factor.value * strong_a, reverse_a)


def strongest_a(job: Job) -> float:
    """The most that any string's switch must bear."""
    if job.optimiser is not None:
        return job.rules.current.isc_factor.value * job.module.isc_a * (1 + rear_gain(job))
    return max(string_bears_a(job, one) for one in job.strings)
