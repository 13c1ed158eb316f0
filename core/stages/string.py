"""Stage 4, String: the plan's volts and currents, and the readings that answer it."""

from __future__ import annotations

from datetime import timedelta
from functools import cache

from core.assessment import (
    Ask,
    CountStep,
    StringAssessment,
    StringStage,
    TrackerAssessment,
    WindowLimits,
)
from core.job import Job, Plane, Reading, StringPlan
from core.judgement import Judgement, Verdict, holds, waiting, worst
from core.packs import RulePack, pack
from core.rules.cell_temperature import cell_from_air, cell_from_back
from core.rules.diagnosis import Cause, OtherString, diagnose
from core.rules.string_now import CellFrom, ExpectedVoc, expected_voc
from core.rules.string_reading import (
    READING_SOURCE,
    irradiance_enough,
    string_polarity,
    string_projection,
    string_under_max,
    string_voc_read,
)
from core.rules.string_voltage import (
    SeriesCount,
    StringVolts,
    series_count,
    string_full_power_cold,
    string_full_power_hot,
    string_start,
    string_track_cold,
    string_track_hot,
    string_voc_cold,
    string_volts,
)
from core.rules.tracker_current import tracker_alike, tracker_imp, tracker_isc
from core.stages.readings import Readings, ask
from core.words import figure, say

STAGE = 4
# Steps offered on either side of the counts that fit, so that the bounds can be seen.
STEPS_BEYOND = 2


class StringPlanner:
    """The volts and verdicts of any count on any plane of one job, each computed once."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self.pack: RulePack = pack(job.rule_pack)
        self.judged = cache(self._judged)
        self.volts = cache(self._volts)
        self.count = cache(self._count)
        self.steps = cache(self._steps)

    def hot_cell_c(self, mounting: str) -> float:
        """Cell temperature on the hottest day, by how the modules are mounted."""
        hot = self.pack.hot
        rise = {
            "close": hot.rise_close,
            "raised": hot.rise_raised,
            "open": hot.rise_open,
        }
        return self.job.site.t_air_max_c + rise[mounting].value

    def _volts(self, count: int, mounting: str) -> StringVolts:
        return string_volts(
            module=self.job.module,
            modules_in_series=count,
            t_air_min_c=self.job.site.t_air_min_c,
            t_cell_hot_c=self.hot_cell_c(mounting),
            school=self.pack.cold.school,
            rule_pack=self.pack.id,
        )

    def _count(self, mounting: str) -> SeriesCount:
        return series_count(
            module=self.job.module,
            dc=self.job.inverter.dc,
            t_air_min_c=self.job.site.t_air_min_c,
            t_cell_hot_c=self.hot_cell_c(mounting),
            school=self.pack.cold.school,
            start_on=self.pack.hot.start_on,
            rule_pack=self.pack.id,
        )

    def _judged(self, count: int, mounting: str) -> tuple[Judgement, ...]:
        module, dc = self.job.module, self.job.inverter.dc
        volts = self.volts(count, mounting)
        return (
            string_voc_cold(
                modules_in_series=count,
                voc_v=module.voc_v,
                beta_voc_pct_per_k=module.beta_voc_pct_per_k,
                t_air_min_c=self.job.site.t_air_min_c,
                max_dc_v=dc.max_dc_v,
                max_system_v=module.max_system_v,
                school=self.pack.cold.school,
                rule_pack=self.pack.id,
            ),
            string_start(
                vmp_hot_v=volts.vmp_hot_v,
                voc_hot_v=volts.voc_hot_v,
                start_v=dc.start_v,
                start_on=self.pack.hot.start_on,
            ),
            string_track_hot(vmp_hot_v=volts.vmp_hot_v, track_min_v=dc.track_min_v),
            string_full_power_hot(vmp_hot_v=volts.vmp_hot_v, full_power_min_v=dc.full_power_min_v),
            string_full_power_cold(
                vmp_cold_v=volts.vmp_cold_v, full_power_max_v=dc.full_power_max_v
            ),
            string_track_cold(vmp_cold_v=volts.vmp_cold_v, track_max_v=dc.track_max_v),
        )

    def line(self, count: int, mounting: str) -> tuple[Verdict, str]:
        """The verdict of a count and the one sentence that says why."""
        judgements = self.judged(count, mounting)
        verdict = worst(j.verdict for j in judgements)
        decisive = next(j for j in judgements if j.verdict == verdict)
        cold = judgements[0]
        room = figure(cold.margin, "V", 0) if cold.margin is not None else ""
        return verdict, say(
            "string_line", verdict, count=str(count), room=room, reason=decisive.reason
        )

    def _steps(self, mounting: str) -> tuple[CountStep, ...]:
        bounds = self.count(mounting)
        most = bounds.most or bounds.least
        low = max(1, min(bounds.least, most) - STEPS_BEYOND)
        steps = []
        for count in range(low, max(bounds.least, most) + STEPS_BEYOND + 1):
            verdict, line = self.line(count, mounting)
            steps.append(CountStep(count=count, verdict=verdict, line=line))
        return tuple(steps)


def string_stage(job: Job, readings: Readings) -> tuple[StringStage, tuple[Ask, ...]]:
    """Every string and tracker judged, and every reading of the stage asked for."""
    planner = StringPlanner(job)
    others = tuple(
        OtherString(name=s.name, modules_in_series=s.modules_in_series) for s in job.strings
    )
    by_count = {other.modules_in_series: other for other in others}
    asks: list[Ask] = list(_condition_asks(job, readings, planner.pack))
    strings: list[StringAssessment] = []
    for plan in job.strings:
        now = Now(job, readings, planner.pack, plan)
        tails = tuple(o for count, o in by_count.items() if count != plan.modules_in_series)
        voc_ask = _voc_ask(planner, readings, now, plan, tails)
        asks += [voc_ask, _polarity_ask(readings, plan)]
        strings.append(_string(planner, now, plan, voc_ask))
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

    def __init__(self, job: Job, readings: Readings, rules: RulePack, plan: StringPlan) -> None:
        self.reading: Reading | None = readings.latest("open_circuit", plan.name)
        at = self.reading.taken_at if self.reading else None
        age = timedelta(minutes=rules.meter.conditions_age.value)
        self.irradiance = readings.nearest("irradiance", plan.plane, at, age)
        self.back = readings.nearest("module_temperature", plan.plane, at, age)
        self.air = readings.nearest("air_temperature", "site", at, age)
        self.needs = self._needs(plan, rules)
        self.expected = None if self.needs else self._expected(job, plan, rules)

    def _needs(self, plan: StringPlan, rules: RulePack) -> tuple[str, ...]:
        age = figure(rules.meter.conditions_age.value, rules.meter.conditions_age.unit)
        needs = []
        if self.irradiance is None:
            needs.append(say("needs", "irradiance", plane=plan.plane, age=age))
        elif self.irradiance.value < rules.meter.least_irradiance.value:
            needs.append(say("needs", "more_sun", plane=plan.plane))
        if self.back is None and self.air is None:
            needs.append(say("needs", "temperature", age=age))
        return tuple(needs)

    def _expected(self, job: Job, plan: StringPlan, rules: RulePack) -> ExpectedVoc | None:
        if self.irradiance is None:
            return None
        cell_c, cell_from = self._cell(job, self.irradiance.value, rules)
        return expected_voc(
            module=job.module,
            modules_in_series=plan.modules_in_series,
            irradiance_w_per_m2=self.irradiance.value,
            t_cell_c=cell_c,
            basis=self.irradiance.basis,
            cell_from=cell_from,
            rule_pack=rules.id,
        )

    def _cell(self, job: Job, irradiance: float, rules: RulePack) -> tuple[float, CellFrom]:
        if self.back is not None:
            rise_k = rules.meter.back_to_cell.value
            cell_c = cell_from_back(
                t_module_c=self.back.value,
                irradiance_w_per_m2=irradiance,
                rise_at_full_sun_k=rise_k,
            )
            return cell_c, "back"
        air_c = self.air.value if self.air else job.site.t_air_max_c
        noct_c = job.module.noct_c
        return cell_from_air(t_air_c=air_c, irradiance_w_per_m2=irradiance, noct_c=noct_c), "air"


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
        judgements = _voc_judgements(planner, now, now.reading, plan)
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
    planner: StringPlanner, now: Now, reading: Reading, plan: StringPlan
) -> tuple[Judgement, ...]:
    job, read_v = planner.job, reading.value
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
        bypass_sections=planner.job.module.bypass_sections,
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


def _string(planner: StringPlanner, now: Now, plan: StringPlan, voc_ask: Ask) -> StringAssessment:
    mounting = _mounting(planner.job, plan)
    verdict, line = planner.line(plan.modules_in_series, mounting)
    return StringAssessment(
        name=plan.name,
        tracker=plan.tracker,
        plane=plan.plane,
        modules_in_series=plan.modules_in_series,
        power_w=plan.modules_in_series * planner.job.module.pmax_w,
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
