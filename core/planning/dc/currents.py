"""The current that everything of a string must bear: its own in the strongest sun, or what the
strings beside it drive back through it.
"""

from __future__ import annotations

from core.equipment.module import Module
from core.job.job import Job
from core.job.strings import StringPlan


def rear_gain(job: Job, module: Module) -> float:
    """By how much light from behind strengthens a bifacial module; 0 for any other."""
    return job.rules.current.rear_gain.value if module.bifacial else 0.0


def strong_a(job: Job, module: Module) -> float:
    """Short-circuit current of a module with what comes from behind."""
    return module.isc_a * (1 + rear_gain(job, module))


def string_bears_a(job: Job, string: StringPlan) -> float:
    """What wire, switch and connector of one string must bear, with the pack's factor.

    Formula: max(f · Isc · (1 + g), reverse), reverse = (Np − 1) · 1.25 · Isc · (1 + g), at most
    what a fuse in it lets through; Isc of the strongest of those beside it.
    Source: IEC 62548-1:2023, 6.5 and 7.3.
    """
    own_a = strong_a(job, job.module_on(string.plane))
    beside_a = [
        strong_a(job, job.module_on(other.plane))
        for other in job.strings
        if other.tracker == string.tracker and other.name != string.name
    ]
    reverse_a = len(beside_a) * job.rules.fuse.reverse_factor.value * max(beside_a, default=0.0)
    if string.fuse_a is not None:
        reverse_a = min(reverse_a, string.fuse_a)
    return max(job.rules.current.isc_factor.value * own_a, reverse_a)


def strongest_a(job: Job) -> float:
    """The most that any string's switch must bear; with no string yet, of any module's."""
    if job.optimiser is None and job.strings:
        return max(string_bears_a(job, one) for one in job.strings)
    most_a = max(strong_a(job, module) for module in job.module_types)
    return job.rules.current.isc_factor.value * most_a
