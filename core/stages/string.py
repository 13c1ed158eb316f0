"""Stage 4, String: the plan's volts and currents, and the readings that answer it."""

from __future__ import annotations

from datetime import timedelta

from core.assessment import (
    Ask,
    StringAssessment,
    StringStage,
    TrackerAssessment,
    WindowLimits,
)
from core.job import Job, Plane, Reading, StringPlan
from core.judgement import Judgement, holds, waiting, worst
from core.packs import MeterRule, RulePack
from core.planning.string_plans import StringPlanner, planner_for
from core.rules.cell_temperature import cell_from_air, cell_from_back
from core.rules.diagnosis import Cause, OtherString, diagnose
from core.rules.string_now import CellFrom, ExpectedVoc
from core.rules.string_reading import (
    READING_SOURCE,
    irradiance_enough,
    string_polarity,
    string_projection,
    string_under_max,
    string_voc_read,
)
from core.rules.tracker_current import tracker_alike, tracker_imp, tracker_isc
from core.stages.readings import Readings, ask
from core.words import figure, say

STAGE = 4


def string_stage(job: Job, readings: Readings) -> tuple[StringStage, tuple[Ask, ...]]:
    """Every string and tracker judged, and every reading of the stage asked for."""
    site = job.site
    planner = planner_for(
        job.module, job.inverter.dc, site.t_air_min_c, site.t_air_max_c, job.rule_pack
    )
    others = tuple(
        OtherString(name=s.name, modules_in_series=s.modules_in_series) for s in job.strings
    )
    by_count = {other.modules_in_series: other for other in others}
    asks: list[Ask] = list(_condition_asks(job, readings, planner.pack))
    strings: list[StringAssessment] = []
    for plan in job.strings:
        now = Now(planner, readings, plan)
        tails = tuple(o for count, o in by_count.items() if count != plan.modules_in_series)
        voc_ask = _voc_ask(job, planner, readings, now, plan, tails)
        asks += [voc_ask, _polarity_ask(readings, plan)]
        strings.append(_string(job, planner, now, plan, voc_ask))
    stage = StringStage(
        t_air_min_c=job.site.t_air_min_c,
        t_air_max_c=job.site.t_air_max_c,
        window=_window(job),
        strings=tuple(strings),
        trackers=_trackers(job, planner.pack),
    )
    return stage, tuple(asks)


class Now:
    """What a string should read at the moment of its reading, or now when it has none."""

    def __init__(self, planner: StringPlanner, readings: Readings, plan: StringPlan) -> None:
        rules = planner.pack.meter
        self.reading: Reading | None = readings.latest("open_circuit", plan.name)
        at = self.reading.taken_at if self.reading else None
        age = timedelta(minutes=rules.conditions_age.value)
        irradiance = readings.nearest("irradiance", plan.plane, at, age)
        back = readings.nearest("module_temperature", plan.plane, at, age)
        air = readings.nearest("air_temperature", "site", at, age)
        self.needs = _needs(plan, rules, irradiance, back or air)
        self.expected: ExpectedVoc | None = None
        if irradiance and not self.needs:
            cell = _cell(planner, irradiance.value, back, air)
            self.expected = cell and planner.expected(
                plan.modules_in_series, irradiance.value, irradiance.basis, *cell
            )


def _needs(
    plan: StringPlan, rules: MeterRule, irradiance: Reading | None, temperature: Reading | None
) -> tuple[str, ...]:
    age = figure(rules.conditions_age.value, rules.conditions_age.unit)
    needs = []
    if irradiance is None:
        needs.append(say("needs", "irradiance", plane=plan.plane, age=age))
    elif irradiance.value < rules.least_irradiance.value:
        needs.append(say("needs", "more_sun", plane=plan.plane))
    if temperature is None:
        needs.append(say("needs", "temperature", age=age))
    return tuple(needs)


def _cell(
    planner: StringPlanner, irradiance_w_per_m2: float, back: Reading | None, air: Reading | None
) -> tuple[float, CellFrom] | None:
    """Cell temperature from the back of a module, or else from the air."""
    if back is not None:
        rise_k = planner.pack.meter.back_to_cell.value
        cell_c = cell_from_back(
            t_module_c=back.value,
            irradiance_w_per_m2=irradiance_w_per_m2,
            rise_at_full_sun_k=rise_k,
        )
        return cell_c, "back"
    if air is not None:
        cell_c = cell_from_air(
            t_air_c=air.value,
            irradiance_w_per_m2=irradiance_w_per_m2,
            noct_c=planner.module.noct_c,
        )
        return cell_c, "air"
    return None


def _condition_asks(job: Job, readings: Readings, rules: RulePack) -> list[Ask]:
    planes = list(dict.fromkeys(string.plane for string in job.strings))
    asks = [_irradiance_ask(readings, plane, rules) for plane in planes]
    asks.append(_temperature_ask(readings, "air_temperature", "site", optional=False))
    asks += [
        _temperature_ask(readings, "module_temperature", plane, optional=True) for plane in planes
    ]
    return asks


def _irradiance_ask(readings: Readings, plane: str, rules: RulePack) -> Ask:
    latest = readings.latest("irradiance", plane)
    least = rules.meter.least_irradiance.value
    judgement = (
        irradiance_enough(irradiance_w_per_m2=latest.value, least_w_per_m2=least)
        if latest
        else waiting("irradiance_enough", "W/m²", READING_SOURCE, (say("needs", "reading"),))
    )
    return ask(readings, STAGE, "irradiance", plane, (judgement,))


def _temperature_ask(readings: Readings, kind: str, subject: str, *, optional: bool) -> Ask:
    is_air = kind == "air_temperature"
    known = readings.latest("air_temperature" if is_air else "module_temperature", subject)
    judgement = (
        holds("temperature_read", True, READING_SOURCE)
        if known
        else waiting("temperature_read", "°C", READING_SOURCE, ())
    )
    return ask(
        readings,
        STAGE,
        "air_temperature" if is_air else "module_temperature",
        subject,
        (judgement,),
        optional=optional,
    )


def _voc_ask(
    job: Job,
    planner: StringPlanner,
    readings: Readings,
    now: Now,
    plan: StringPlan,
    others: tuple[OtherString, ...],
) -> Ask:
    judgements: tuple[Judgement, ...]
    causes: tuple[Cause, ...] = ()
    if now.reading is None:
        needs = (say("needs", "reading"), *now.needs)
        judgements = (waiting("string_voc_read", "V", READING_SOURCE, needs),)
    else:
        judgements = _voc_judgements(job, planner, now, now.reading, plan)
        if now.expected and judgements[0].verdict != "clear":
            causes = _causes(planner, now.expected, now.reading, plan, others)
    expected = now.expected
    return ask(
        readings,
        STAGE,
        "open_circuit",
        plan.name,
        judgements,
        expected=(expected.low_v, expected.high_v) if expected else None,
        expected_text=_band_text(expected) if expected else "",
        causes=causes,
    )


def _band_text(expected: ExpectedVoc) -> str:
    return f"{figure(expected.low_v, digits=0)} to {figure(expected.high_v, 'V', 0)}"


def _voc_judgements(
    job: Job, planner: StringPlanner, now: Now, reading: Reading, plan: StringPlan
) -> tuple[Judgement, ...]:
    read_v = reading.value
    max_dc_v = job.inverter.dc.max_dc_v
    under_max = string_under_max(read_v=read_v, max_dc_v=max_dc_v)
    expected = now.expected
    if expected is None:
        return (waiting("string_voc_read", "V", READING_SOURCE, now.needs), under_max)
    voc_read = string_voc_read(
        read_v=read_v,
        low_v=expected.low_v,
        high_v=expected.high_v,
        one_module_v=expected.one_module_v,
    )
    cold_v = planner.volts(plan.modules_in_series, _mounting(job, plan)).voc_cold_v
    if cold_v is None:
        return (voc_read, under_max)
    projection = string_projection(
        read_v=read_v,
        expected_now_v=expected.centre_v,
        voc_cold_v=cold_v,
        limit_v=min(max_dc_v, job.module.max_system_v),
    )
    return (voc_read, under_max, projection)


def _causes(
    planner: StringPlanner,
    expected: ExpectedVoc,
    reading: Reading,
    plan: StringPlan,
    others: tuple[OtherString, ...],
) -> tuple[Cause, ...]:
    return diagnose(
        read_v=reading.value,
        modules_in_series=plan.modules_in_series,
        expected_v=expected.centre_v,
        low_v=expected.low_v,
        high_v=expected.high_v,
        bypass_sections=planner.module.bypass_sections,
        near_zero_v=planner.pack.meter.near_zero.value,
        others=others,
    )


def _polarity_ask(readings: Readings, plan: StringPlan) -> Ask:
    latest = readings.latest("polarity", plan.name)
    source = "IEC 62446-1:2016, 6.2"
    judgement = (
        string_polarity(sign=int(latest.value))
        if latest
        else waiting("string_polarity", "", source, (say("needs", "reading"),))
    )
    return ask(readings, STAGE, "polarity", plan.name, (judgement,))


def _mounting(job: Job, plan: StringPlan) -> str:
    return job.plane(plan.plane).mounting


def _string(
    job: Job, planner: StringPlanner, now: Now, plan: StringPlan, voc_ask: Ask
) -> StringAssessment:
    mounting = _mounting(job, plan)
    verdict, line = planner.line(plan.modules_in_series, mounting)
    return StringAssessment(
        name=plan.name,
        tracker=plan.tracker,
        plane=plan.plane,
        modules_in_series=plan.modules_in_series,
        power_w=plan.modules_in_series * planner.module.pmax_w,
        verdict=verdict,
        line=line,
        volts=planner.volts(plan.modules_in_series, mounting),
        count=planner.count(mounting),
        steps=planner.steps(mounting),
        judgements=planner.judged(plan.modules_in_series, mounting),
        expected=now.expected,
        read_v=now.reading.value if now.reading else None,
        read_verdict=voc_ask.verdict,
    )


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


def _trackers(job: Job, rules: RulePack) -> tuple[TrackerAssessment, ...]:
    return tuple(
        _tracker(job, rules, number, [s for s in job.strings if s.tracker == number])
        for number in sorted({string.tracker for string in job.strings})
    )


def _tracker(job: Job, rules: RulePack, number: int, plans: list[StringPlan]) -> TrackerAssessment:
    limits = job.inverter.trackers[number - 1]
    rear_gain = rules.current.rear_gain.value if job.module.bifacial else 0.0
    judgements = [
        tracker_isc(
            isc_a=job.module.isc_a,
            parallel_strings=len(plans),
            max_short_circuit_a=limits.max_short_circuit_a,
            isc_factor=rules.current.isc_factor.value,
            rear_gain=rear_gain,
        ),
        tracker_imp(
            imp_a=job.module.imp_a,
            parallel_strings=len(plans),
            max_operating_a=limits.max_operating_a,
            rear_gain=rear_gain,
        ),
    ]
    if len(plans) > 1:
        planes: list[Plane] = [job.plane(plan.plane) for plan in plans]
        judgements.append(
            tracker_alike(
                modules_in_series=tuple(plan.modules_in_series for plan in plans),
                tilts_deg=tuple(plane.tilt_deg for plane in planes),
                azimuths_deg=tuple(plane.azimuth_deg for plane in planes),
                tolerance_deg=rules.current.alike_deg.value,
            )
        )
    return TrackerAssessment(
        number=number,
        strings=tuple(plan.name for plan in plans),
        verdict=worst(j.verdict for j in judgements),
        judgements=tuple(judgements),
    )
