"""Stage 4, String: the plan's volts and currents, and the readings that answer it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from core.assessment.common import SHUT, Gate
from core.assessment.whole import CountStep, Prompt, StringAssessment, StringStage, WindowLimits
from core.base.judgement import Judgement, Verdict, waiting, worst
from core.base.messages import figure, say
from core.base.trace import kept_ready
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.job.job import Job
from core.job.strings import StringPlan
from core.job.subjects import END_STEPS
from core.planning.dc import optimiser_plans
from core.planning.dc.module_counts import strings_planned
from core.planning.dc.string_plans import StringPlanner, planner_on
from core.rules.dc.diagnosis import OtherString
from core.rules.dc.earth_fault import OHM_PER_KOHM, EarthFault
from core.rules.dc.module_sheet import module_plausible
from core.rules.dc.string_agreement import SOURCE as AGREE_SOURCE
from core.rules.dc.string_agreement import string_agreement, strings_agree
from core.rules.dc.string_roof import string_drawn, string_one_plane
from core.rules.dc.variant import variant_surge, variant_told
from core.stages.making import ends_made, log_judged, serials_of, steps_told
from core.stages.permissions.grants import Permissions
from core.stages.reading_index import Readings
from core.stages.string.expected import Now
from core.stages.string.plugs import plug_judged, plug_told
from core.stages.string.prompts import (
    condition_prompts,
    earth_fault,
    earth_prompts,
    reporting_prompt,
    safety_prompt,
    switch_prompt,
    two_way_prompt,
    voc_prompt,
)
from core.stages.string.trackers import array_judgement, array_w, trackers

LEAST_TO_COMPARE = 2
# A reading is compared as so many hundredths of what it should be.
WHOLE_PCT = 100.0


def string_stage(job: Job, readings: Readings) -> tuple[StringStage, tuple[Prompt, ...]]:
    """Every string and tracker judged, and every reading of the stage asked for."""
    site, sheet = job.site, job.optimiser
    switch = switch_prompt(job, readings)
    # Of no string nothing is said of its power either.
    carried, array = trackers(job), (array_judgement(job),) if job.strings else ()
    if sheet is None:
        strings, asks, together = _wall(job, readings, switch)
    else:
        strings, asks, together = _optimised(job, sheet, readings, switch)
    plausible = (module_plausible(module=one) for one in job.module_types)
    serials = serials_of(job, readings)
    of_all = (*strings_planned(job), *_variant(job), *array, *plausible, *together)
    stage = StringStage(
        t_air_min_c=site.t_air_min_c,
        t_air_max_c=site.t_air_max_c,
        t_cell_hot_c=_hottest_c(job),
        array_w=array_w(job),
        window=_window(job),
        optimiser=optimiser_plans.window(sheet, _heaviest_w(job)) if sheet else None,
        whole=(*of_all, *serials.judgements),
        strings=tuple(_logged(job, readings, one) for one in strings),
        trackers=carried,
        end_steps=steps_told(END_STEPS),
        plug=plug_told(job.feed.dc.plug),
        serials=serials,
    )
    return stage, tuple(asks)


def _logged(job: Job, readings: Readings, one: StringAssessment) -> StringAssessment:
    """A string with its leads: whether the plugs fit it, and how far their ends are made."""
    plan = next(string for string in job.strings if string.name == one.name)
    cold_v = one.volts.voc_cold_v if one.volts else None
    ends = ends_made(readings, one.name)
    made = (*plug_judged(job, plan, cold_v), *log_judged(ends, END_STEPS))
    verdict, line = _with_more(one.verdict, one.line, made)
    judgements = (*one.judgements, *made)
    return replace(one, ends=ends, judgements=judgements, verdict=verdict, line=line)


def _variant(job: Job) -> Iterator[Judgement]:
    """Which make-up of its family the inverter is, and whether it brings a surge module."""
    sheet = job.wall_inverter
    names = tuple(one.name for one in sheet.variants)
    if names:
        yield variant_told(told=job.variant, variants=names)
    variant = sheet.variant(job.variant)
    if variant is not None:
        planned = job.feed.dc.surge != "none"
        yield variant_surge(built_in=variant.surge != "none", planned=planned)


# The strings, what is asked of them, and what is said of all of them together.
Judged = tuple[list[StringAssessment], list[Prompt], tuple[Judgement, ...]]


def _hottest_c(job: Job) -> float | None:
    """The hottest cells of the roof: of the plane that holds most heat."""
    planes = {one.plane for one in job.strings} or {one.name for one in job.planes}
    hot = (planner_on(job, name).hot_cell_c(job.plane(name).mounting) for name in planes)
    return max(hot, default=None)


def _heaviest_w(job: Job) -> float:
    return max(one.pmax_w for one in job.module_types)


def _alike(job: Job) -> dict[str, dict[int, OtherString]]:
    """By plane: of the strings of the same modules one of each count, for their ends may be mixed
    up."""
    module_of = {plan.plane: job.module_on(plan.plane) for plan in job.strings}
    of_module: dict[Module, dict[int, str]] = {module: {} for module in module_of.values()}
    names = {plane: of_module[module] for plane, module in module_of.items()}
    for plan in job.strings:
        names[plan.plane][plan.modules_in_series] = plan.name
    return {
        plane: {
            count: OtherString(name=name, modules_in_series=count) for count, name in found.items()
        }
        for plane, found in names.items()
    }


def _wall(job: Job, readings: Readings, switch: Prompt) -> Judged:
    asks = [*condition_prompts(job, readings), switch]
    planners = {plan.name: planner_on(job, plan.plane) for plan in job.strings}
    nows = {plan.name: Now(job, planners[plan.name], readings, plan) for plan in job.strings}
    alike = _alike(job)
    shares = _shares(nows)
    off_pct = _distances(shares)
    strings = []
    for plan in job.strings:
        now, planner = nows[plan.name], planners[plan.name]
        same = alike[plan.plane].items()
        tails = tuple(one for count, one in same if count != plan.modules_in_series)
        volts = voc_prompt(job, planner, readings, now, plan, tails)
        polarity = two_way_prompt(readings, "polarity", plan.name)
        connectors = two_way_prompt(readings, "connectors", plan.name)
        to_earth = earth_prompts(planner, readings, plan)
        asks += [volts, polarity, connectors, *to_earth]
        strings.append(
            _string(
                job,
                planner,
                readings,
                plan,
                now,
                volts,
                to_earth,
                off_pct.get(plan.name),
            )
        )
    return strings, asks, _agreement(job, shares)


def _optimised(
    job: Job,
    sheet: Optimiser,
    readings: Readings,
    switch: Prompt,
) -> Judged:
    asks, strings = [switch], []
    for plan in job.strings:
        count, planner = plan.modules_in_series, planner_on(job, plan.plane)
        safety = safety_prompt(job, readings, plan)
        polarity = two_way_prompt(readings, "polarity", plan.name)
        connectors = two_way_prompt(readings, "connectors", plan.name)
        asks += [safety, polarity, connectors, reporting_prompt(readings, plan)]
        planned = optimiser_plans.judged(planner, sheet, count)
        on_roof = _on_roof(job, plan)
        verdict, line = _with_more(*optimiser_plans.line(planned), on_roof)
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
                steps=_optimised_steps(planner, sheet),
                judgements=judgements,
                expected=None,
                read_v=safety.reading.value if safety.reading else None,
                read_verdict=safety.verdict,
                off_pct=None,
                earth=None,
                earth_line="",
                ends=(),
                gate=SHUT,
            )
        )
    return strings, asks, ()


@kept_ready(32)
def _optimised_steps(planner: StringPlanner, sheet: Optimiser) -> tuple[CountStep, ...]:
    return optimiser_plans.steps(planner, sheet)


def _string(
    job: Job,
    planner: StringPlanner,
    readings: Readings,
    plan: StringPlan,
    now: Now,
    volts_read: Prompt,
    to_earth: tuple[Prompt, Prompt],
    off_pct: float | None,
) -> StringAssessment:
    mounting, count = job.plane(plan.plane).mounting, plan.modules_in_series
    on_roof = _on_roof(job, plan)
    verdict, line = _with_more(*planner.line(count, mounting), on_roof)
    judgements = (*planner.judged(count, mounting), *on_roof)
    earth = earth_fault(planner, readings, plan, to_earth[1].verdict)
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
        read_v=now.reading.number if now.reading else None,
        read_verdict=volts_read.verdict,
        off_pct=off_pct,
        earth=earth,
        earth_line=_earth_line(earth),
        ends=(),
        gate=SHUT,
    )


def _earth_line(earth: EarthFault | None) -> str:
    if earth is None:
        return ""
    return say(
        "earth_place",
        "line",
        place=figure(earth.place, digits=2),
        fault=figure(earth.fault_ohm / OHM_PER_KOHM, "kΩ"),
        share=figure(WHOLE_PCT * earth.sum_over_total, "%"),
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


def _with_more(verdict: Verdict, line: str, more: tuple[Judgement, ...]) -> tuple[Verdict, str]:
    """A string's verdict and its one sentence, with what more is said of it where that is worse."""
    both = worst((verdict, *(one.verdict for one in more)))
    if both == verdict:
        return verdict, line
    gravest = next(one.reason for one in more if one.verdict == both)
    return both, f"{line.rstrip('.')}. {gravest}"


def opened(stage: StringStage, grants: Permissions) -> StringStage:
    """The stage with its gates as the permissions have them."""
    strings = tuple(replace(one, gate=_gate(one.name, grants)) for one in stage.strings)
    return replace(stage, strings=strings)


def _gate(name: str, grants: Permissions) -> Gate:
    """Nothing says "plug in" until everything that is known allows it."""
    scope = f"string/{name}"
    gate = grants.gate("plug", scope)
    verdict, reason = gate.verdict, gate.line
    if verdict == "clear" and (watched := grants.watched(scope)) is not None:
        verdict, reason = "watch", watched.reason
    said = {"clear": "ready", "watch": "look", "stop": "stop", "waiting": "waits"}[verdict]
    return Gate(verdict=verdict, line=say("plug_in", said, name=name, reason=reason))


def _agreement(job: Job, shares: dict[str, float]) -> tuple[Judgement, ...]:
    """All strings of the job beside each other, each as a share of what it should read."""
    rule = job.rules.agree
    if len(job.strings) < LEAST_TO_COMPARE:
        return ()
    if len(shares) < LEAST_TO_COMPARE:
        return (waiting("strings_agree_mean", "%", AGREE_SOURCE, ()),)
    volts = tuple(shares.values())
    return (strings_agree(volts=volts, school=rule.on, limit_pct=rule.limit.value),)


def _shares(nows: dict[str, Now]) -> dict[str, float]:
    """Each read string in hundredths of its expected voltage: sun and count fall out."""
    return {
        name: WHOLE_PCT * now.reading.number / now.expected.centre_v
        for name, now in nows.items()
        if now.reading is not None and now.expected is not None and not now.expected.neighbour
    }


def _distances(shares: dict[str, float]) -> dict[str, float]:
    """How far each string reads from the mean of all, in %."""
    if len(shares) < LEAST_TO_COMPARE:
        return {}
    off_pct = string_agreement(volts=tuple(shares.values())).off_pct
    return dict(zip(shares, off_pct, strict=True))


def _window(job: Job) -> WindowLimits:
    dc = job.wall_inverter.dc
    return WindowLimits(
        start_v=dc.start_v,
        track_min_v=dc.track_min_v,
        full_power_min_v=dc.full_power_min_v,
        full_power_max_v=dc.full_power_max_v,
        track_max_v=dc.track_max_v,
        never_above_v=min(dc.max_dc_v, *(one.max_system_v for one in job.module_types)),
    )
