"""What each tracker and the whole inverter carry."""

from __future__ import annotations

from collections.abc import Iterator

from core.assessment.whole import TrackerAssessment
from core.base.judgement import Judgement, worst
from core.equipment.inverter import Tracker
from core.figures.rule_packs import RulePack
from core.job.job import Job
from core.job.strings import StringPlan
from core.planning.dc.currents import rear_gain
from core.rules.dc.dc_power import array_power, tracker_inputs, tracker_power
from core.rules.dc.string_fuses import module_fuse, string_fuse
from core.rules.dc.tracker_current import tracker_alike, tracker_imp, tracker_isc


def array_w(job: Job) -> float:
    """Power of all modules at STC."""
    return sum(string.modules_in_series for string in job.strings) * job.module.pmax_w


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
    power_w = sum(plan.modules_in_series for plan in plans) * job.module.pmax_w
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
    module, parallel = job.module, len(plans)
    gain = rear_gain(job)
    yield tracker_isc(
        isc_a=module.isc_a,
        parallel_strings=parallel,
        max_short_circuit_a=limits.max_short_circuit_a,
        isc_factor=rules.current.isc_factor.value,
        rear_gain=gain,
    )
    yield tracker_imp(
        imp_a=module.imp_a,
        parallel_strings=parallel,
        max_operating_a=limits.max_operating_a,
        rear_gain=gain,
    )
    if limits.max_power_w is not None:
        yield tracker_power(power_w=power_w, max_power_w=limits.max_power_w)
    if parallel == 1 and plans[0].fuse_a is not None and module.max_series_fuse_a is not None:
        yield module_fuse(fuse_a=plans[0].fuse_a, max_series_fuse_a=module.max_series_fuse_a)
    if parallel > 1:
        planes = [job.plane(plan.plane) for plan in plans]
        yield tracker_inputs(strings=parallel, inputs=limits.inputs)
        yield tracker_alike(
            modules_in_series=tuple(plan.modules_in_series for plan in plans),
            tilts_deg=tuple(plane.tilt_deg for plane in planes),
            azimuths_deg=tuple(plane.azimuth_deg for plane in planes),
            tolerance_deg=rules.current.alike_deg.value,
        )
        for fuse_a in dict.fromkeys(plan.fuse_a for plan in plans):
            yield string_fuse(
                isc_a=module.isc_a,
                parallel_strings=parallel,
                max_series_fuse_a=module.max_series_fuse_a,
                fuse_a=fuse_a,
                rear_gain=gain,
                rule_pack=rules,
            )
