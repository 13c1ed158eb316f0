"""What each tracker and the whole inverter carry."""

from __future__ import annotations

from collections.abc import Iterator

from core.assessment.whole import TrackerAssessment
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import say
from core.equipment.inverter import Tracker
from core.figures.rule_packs import RulePack
from core.job.job import Job
from core.job.strings import StringPlan
from core.planning.dc.currents import rear_gain, strong_a
from core.planning.dc.module_counts import strings_w
from core.rules.dc.dc_power import array_power, tracker_inputs, tracker_power
from core.rules.dc.string_fuses import module_fuse, string_fuse
from core.rules.dc.tracker_current import (
    ALIKE_SOURCE,
    tracker_alike,
    tracker_imp,
    tracker_isc,
    tracker_one_type,
)


def array_w(job: Job) -> float:
    """Power of all modules at STC."""
    return strings_w(job, job.strings)


def array_judgement(job: Job) -> Judgement:
    """The module power on the inverter."""
    inverter = job.wall_inverter
    return array_power(
        array_w=array_w(job), rated_ac_w=inverter.rated_ac_w, max_dc_w=inverter.max_dc_w
    )


def trackers(job: Job) -> tuple[TrackerAssessment, ...]:
    """Every tracker in use."""
    by_number: dict[int, list[StringPlan]] = {}
    for string in job.strings:
        by_number.setdefault(string.tracker, []).append(string)
    return tuple(_tracker(job, job.rules, n, by_number[n]) for n in sorted(by_number))


def _tracker(job: Job, rules: RulePack, number: int, plans: list[StringPlan]) -> TrackerAssessment:
    limits = job.wall_inverter.trackers[number - 1]
    power_w = strings_w(job, plans)
    judgements = tuple(
        _optimised(limits, plans, power_w)
        if job.optimiser is not None
        else _judged(job, rules, limits, plans, power_w)
    )
    return TrackerAssessment(
        number=number,
        strings=tuple(plan.name for plan in plans),
        power_w=power_w,
        verdict=worst(j.verdict for j in judgements),
        judgements=judgements,
    )


def _optimised(limits: Tracker, plans: list[StringPlan], power_w: float) -> Iterator[Judgement]:
    """Where optimisers shape the string's current, only inputs and power are the tracker's."""
    yield tracker_inputs(strings=len(plans), inputs=limits.inputs)
    if limits.max_power_w is not None:
        yield tracker_power(power_w=power_w, max_power_w=limits.max_power_w)


def _judged(
    job: Job, rules: RulePack, limits: Tracker, plans: list[StringPlan], power_w: float
) -> Iterator[Judgement]:
    modules, parallel = [job.module_on(plan.plane) for plan in plans], len(plans)
    # Of several types side by side the strongest of each figure counts.
    isc = max(modules, key=lambda one: strong_a(job, one))
    imp = max(modules, key=lambda one: one.imp_a * (1 + rear_gain(job, one)))
    yield tracker_isc(
        isc_a=isc.isc_a,
        parallel_strings=parallel,
        max_short_circuit_a=limits.max_short_circuit_a,
        isc_factor=rules.current.isc_factor.value,
        rear_gain=rear_gain(job, isc),
    )
    yield tracker_imp(
        imp_a=imp.imp_a,
        parallel_strings=parallel,
        max_operating_a=limits.max_operating_a,
        rear_gain=rear_gain(job, imp),
    )
    if limits.max_power_w is not None:
        yield tracker_power(power_w=power_w, max_power_w=limits.max_power_w)
    fuses = [one.max_series_fuse_a for one in modules]
    least_fuse_a = None if None in fuses else min(one for one in fuses if one is not None)
    if parallel == 1:
        if plans[0].fuse_a is not None and least_fuse_a is not None:
            yield module_fuse(fuse_a=plans[0].fuse_a, max_series_fuse_a=least_fuse_a)
        return
    yield tracker_inputs(strings=parallel, inputs=limits.inputs)
    yield from _alike(job, plans)
    for fuse_a in dict.fromkeys(plan.fuse_a for plan in plans):
        yield string_fuse(
            isc_a=isc.isc_a,
            parallel_strings=parallel,
            max_series_fuse_a=least_fuse_a,
            fuse_a=fuse_a,
            rear_gain=rear_gain(job, isc),
            rule_pack=rules,
        )


def _alike(job: Job, plans: list[StringPlan]) -> Iterator[Judgement]:
    planes = [job.plane(plan.plane) for plan in plans]
    tilts = [plane.tilt_deg for plane in planes if plane.tilt_deg is not None]
    facings = [plane.azimuth_deg for plane in planes if plane.azimuth_deg is not None]
    if len(job.module_types) > 1:
        yield tracker_one_type(modules=tuple(job.module_on(plan.plane).label for plan in plans))
    if len({plan.plane for plan in plans}) == 1:
        # One plane is like itself, however it lies.
        tilts, facings = [0.0] * len(plans), [0.0] * len(plans)
    if len(tilts) < len(planes) or len(facings) < len(planes):
        yield waiting("tracker_alike", "", ALIKE_SOURCE, (say("needs", "facing"),))
        return
    yield tracker_alike(
        modules_in_series=tuple(plan.modules_in_series for plan in plans),
        tilts_deg=tuple(tilts),
        azimuths_deg=tuple(facings),
        tolerance_deg=job.rules.current.alike_deg.value,
    )
