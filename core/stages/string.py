"""Stage 4, String: the plan's volts and currents, and the readings that answer it."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from core.assessment import (
    Ask,
    CountStep,
    PlugGate,
    StringAssessment,
    StringStage,
    WindowLimits,
)
from core.equipment.optimiser import Optimiser
from core.job import Job, StringPlan
from core.judgement import Judgement, Verdict, waiting, worst
from core.planning.string_plans import StringPlanner, planner_for
from core.rules.diagnosis import OtherString
from core.rules.string_agreement import SOURCE as AGREE_SOURCE
from core.rules.string_agreement import string_agreement, strings_agree
from core.rules.string_roof import string_drawn, string_one_plane
from core.stages import optimised
from core.stages.readings import Readings
from core.stages.string_asks import (
    condition_asks,
    earth_asks,
    earth_fault,
    reporting_ask,
    safety_ask,
    switch_ask,
    two_way_ask,
    voc_ask,
)
from core.stages.string_now import Now
from core.stages.trackers import array_judgement, array_w, trackers
from core.words import say

LEAST_TO_COMPARE = 2
# A reading is compared as so many hundredths of what it should be.
WHOLE_PCT = 100.0


def string_stage(job: Job, readings: Readings) -> tuple[StringStage, tuple[Ask, ...]]:
    """Every string and tracker judged, and every reading of the stage asked for."""
    site, sheet = job.site, job.optimiser
    planner = planner_for(
        job.module, job.inverter.dc, site.t_air_min_c, site.t_air_max_c, job.rules
    )
    switch = switch_ask(readings)
    if sheet is None:
        strings, asks = _wall(job, planner, readings, switch)
    else:
        strings, asks = _optimised(job, planner, sheet, readings, switch)
    mounting = job.plane(job.strings[0].plane).mounting
    whole = (array_judgement(job), *_agreement(strings, planner))
    stage = StringStage(
        t_air_min_c=site.t_air_min_c,
        t_air_max_c=site.t_air_max_c,
        t_cell_hot_c=planner.hot_cell_c(mounting),
        array_w=array_w(job),
        window=_window(job),
        optimiser=optimised.window(sheet) if sheet else None,
        whole=whole,
        strings=_with_distances(strings),
        trackers=trackers(job),
    )
    return stage, tuple(asks)


Judged = tuple[list[StringAssessment], list[Ask]]


def _wall(job: Job, planner: StringPlanner, readings: Readings, switch: Ask) -> Judged:
    others = tuple(
        OtherString(name=s.name, modules_in_series=s.modules_in_series) for s in job.strings
    )
    by_count = {other.modules_in_series: other for other in others}
    asks = [*condition_asks(job, planner, readings), switch]
    strings = []
    for plan in job.strings:
        now = Now(job, planner, readings, plan)
        tails = tuple(o for count, o in by_count.items() if count != plan.modules_in_series)
        volts = voc_ask(job, planner, readings, now, plan, tails)
        polarity = two_way_ask(readings, "polarity", plan.name)
        connectors = two_way_ask(readings, "connectors", plan.name)
        to_earth = earth_asks(readings, plan)
        asks += [volts, polarity, connectors, *to_earth]
        strings.append(
            _string(
                job,
                planner,
                readings,
                plan,
                now,
                (volts, polarity, connectors, switch),
                to_earth[0],
            )
        )
    return strings, asks


def _optimised(
    job: Job, planner: StringPlanner, sheet: Optimiser, readings: Readings, switch: Ask
) -> Judged:
    asks, strings = [switch], []
    steps = _optimised_steps(planner, sheet)
    for plan in job.strings:
        count = plan.modules_in_series
        safety = safety_ask(job, readings, plan)
        polarity = two_way_ask(readings, "polarity", plan.name)
        connectors = two_way_ask(readings, "connectors", plan.name)
        asks += [safety, polarity, connectors, reporting_ask(readings, plan)]
        planned = optimised.judged(planner, sheet, count)
        on_roof = _on_roof(job, plan)
        verdict, line = _with_roof(*optimised.line(planned), on_roof)
        judgements = (*planned, *on_roof)
        strings.append(
            StringAssessment(
                name=plan.name,
                tracker=plan.tracker,
                plane=plan.plane,
                modules_in_series=count,
                power_w=count * planner.module.pmax_w,
                verdict=verdict,
                line=line,
                volts=None,
                count=None,
                steps=steps,
                judgements=judgements,
                expected=None,
                read_v=safety.reading.value if safety.reading else None,
                read_verdict=safety.verdict,
                off_pct=None,
                earth=None,
                gate=_gate(plan, judgements, (safety, polarity, connectors, switch)),
            )
        )
    return strings, asks


@lru_cache(maxsize=32)
def _optimised_steps(planner: StringPlanner, sheet: Optimiser) -> tuple[CountStep, ...]:
    return optimised.steps(planner, sheet)


def _string(
    job: Job,
    planner: StringPlanner,
    readings: Readings,
    plan: StringPlan,
    now: Now,
    before: tuple[Ask, ...],
    to_earth: Ask,
) -> StringAssessment:
    mounting, count = job.plane(plan.plane).mounting, plan.modules_in_series
    on_roof = _on_roof(job, plan)
    verdict, line = _with_roof(*planner.line(count, mounting), on_roof)
    judgements = (*planner.judged(count, mounting), *on_roof)
    gate_asks = before if to_earth.reading is None else (*before, to_earth)
    return StringAssessment(
        name=plan.name,
        tracker=plan.tracker,
        plane=plan.plane,
        modules_in_series=count,
        power_w=count * planner.module.pmax_w,
        verdict=verdict,
        line=line,
        volts=planner.volts(count, mounting),
        count=planner.count(mounting),
        steps=planner.steps(mounting),
        judgements=judgements,
        expected=now.expected,
        read_v=now.reading.value if now.reading else None,
        read_verdict=before[0].verdict,
        off_pct=None,
        earth=earth_fault(readings, plan, to_earth.verdict),
        gate=_gate(plan, judgements, gate_asks),
    )


def _on_roof(job: Job, plan: StringPlan) -> tuple[Judgement, ...]:
    """What the roof drawing says of a string, where it is drawn."""
    if not plan.places:
        return ()
    return (
        string_one_plane(
            planes=tuple(place.plane for place in plan.places),
            each_module_tracked=job.optimiser is not None,
        ),
        string_drawn(modules_in_series=plan.modules_in_series, drawn=len(plan.places)),
    )


def _with_roof(verdict: Verdict, line: str, on_roof: tuple[Judgement, ...]) -> tuple[Verdict, str]:
    """A string's verdict and its one sentence, with what the roof says where that is worse."""
    both = worst((verdict, *(one.verdict for one in on_roof)))
    if both == verdict:
        return verdict, line
    return both, next(one.reason for one in on_roof if one.verdict == both)


def _gate(plan: StringPlan, planned: tuple[Judgement, ...], asks: tuple[Ask, ...]) -> PlugGate:
    """Nothing says "plug in" until plan and readings all allow it."""
    conditions = [j for j in planned if j.verdict in ("stop", "waiting")]
    conditions += [judgement for one in asks for judgement in one.judgements]
    verdict: Verdict = worst(one.verdict for one in conditions)
    said = {"clear": "ready", "watch": "look", "stop": "stop", "waiting": "waits"}[verdict]
    decisive = next(one for one in conditions if one.verdict == verdict)
    reason = decisive.reason if decisive.needs == () else _waits(decisive)
    return PlugGate(verdict=verdict, line=say("plug_in", said, name=plan.name, reason=reason))


def _waits(judgement: Judgement) -> str:
    return f"{judgement.title.lower()}, {' and '.join(judgement.needs)}."


def _agreement(strings: list[StringAssessment], planner: StringPlanner) -> tuple[Judgement, ...]:
    """All strings of the job beside each other, each as a share of what it should read."""
    shares = _shares(strings)
    rule = planner.pack.agree
    if len(strings) < LEAST_TO_COMPARE or strings[0].volts is None:
        return ()
    if len(shares) < LEAST_TO_COMPARE:
        return (waiting("strings_agree_mean", "%", AGREE_SOURCE, ()),)
    return (
        strings_agree(volts=tuple(shares.values()), school=rule.on, limit_pct=rule.limit.value),
    )


def _shares(strings: list[StringAssessment]) -> dict[str, float]:
    """Each read string in hundredths of its expected voltage: sun and count fall out."""
    return {
        one.name: WHOLE_PCT * one.read_v / one.expected.centre_v
        for one in strings
        if one.read_v is not None and one.expected is not None and one.expected.irradiance_w_per_m2
    }


def _with_distances(strings: list[StringAssessment]) -> tuple[StringAssessment, ...]:
    shares = _shares(strings)
    if len(shares) < LEAST_TO_COMPARE:
        return tuple(strings)
    found = string_agreement(volts=tuple(shares.values()))
    off = dict(zip(shares, found.off_pct, strict=True))
    return tuple(replace(one, off_pct=off.get(one.name)) for one in strings)


def _window(job: Job) -> WindowLimits:
    dc = job.inverter.dc
    return WindowLimits(
        start_v=dc.start_v,
        track_min_v=dc.track_min_v,
        full_power_min_v=dc.full_power_min_v,
        full_power_max_v=dc.full_power_max_v,
        track_max_v=dc.track_max_v,
        never_above_v=min(dc.max_dc_v, job.module.max_system_v),
    )
