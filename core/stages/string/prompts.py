"""The readings that the String stage asks for, each judged."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import NamedTuple

from core.assessment.whole import Prompt
from core.base.judgement import Judgement, Verdict, holds, waiting
from core.base.messages import figure, say
from core.base.stage_numbers import STRING as STAGE
from core.base.trace import kept_ready
from core.job.job import Job
from core.job.reading_kinds import ReadingKind
from core.job.readings import INVERTER, SITE, Reading
from core.job.strings import StringPlan
from core.planning.dc.string_plans import StringPlanner
from core.rules.dc.diagnosis import Cause, OtherString, diagnose
from core.rules.dc.earth_fault import EarthFault, earth_fault_place, string_earth_leak
from core.rules.dc.expected_reading import ExpectedVoc
from core.rules.dc.optimiser_string import optimisers_connected, optimisers_reporting
from core.rules.dc.string_reading import (
    CONNECTOR_SOURCE,
    POLARITY_SOURCE,
    READING_SOURCE,
    SWITCH_SOURCE,
    coldest_air,
    connectors_alike,
    count_told,
    dc_switch_off,
    irradiance_enough,
    neighbour_judged,
    string_polarity,
    string_projection,
    string_under_max,
    string_voc_read,
)
from core.stages.reading_index import Kept, Readings, prompt
from core.stages.string.expected import Now

# What is asked of a thing that nothing was read of is the same in every job.
UNREAD_KEPT = 2048
# Readings judged lately: a key pressed on one string leaves the others as they were.
READINGS_KEPT = 2048
OHM_PER_MOHM = 1e6
NOTHING_READ = Readings(Kept(()))
TWO_WAY_RULES = {
    "polarity": (string_polarity, "string_polarity", POLARITY_SOURCE),
    "connectors": (connectors_alike, "connectors_alike", CONNECTOR_SOURCE),
    "dc_switch": (dc_switch_off, "dc_switch_off", SWITCH_SOURCE),
}


def condition_prompts(job: Job, readings: Readings) -> list[Prompt]:
    """Sun and temperature, by which the readings of the strings are judged."""
    planes = list(dict.fromkeys(string.plane for string in job.strings))
    least = job.rules.meter.least_irradiance.value
    asks = [_irradiance_prompt(readings, plane, least) for plane in planes]
    asks.append(_air_prompt(job, readings))
    asks += [_plain_prompt(readings, "module_temperature", plane) for plane in planes]
    asks.append(_plain_prompt(readings, "wind", SITE))
    return asks


def _irradiance_prompt(readings: Readings, plane: str, least_w_per_m2: float) -> Prompt:
    latest = readings.latest("irradiance", plane)
    judgement = (
        irradiance_enough(irradiance_w_per_m2=latest.number, least_w_per_m2=least_w_per_m2)
        if latest
        else waiting("irradiance_enough", "W/m²", READING_SOURCE, (say("needs", "reading"),))
    )
    return prompt(readings, STAGE, "irradiance", plane, (judgement,))


def _air_prompt(job: Job, readings: Readings) -> Prompt:
    """The air, and whether any that was read is colder than the plan's coldest."""
    read = [one.number for one in readings.counting("air_temperature", SITE)]
    plain = _plain_prompt(readings, "air_temperature", SITE)
    if not read or min(read) > job.site.t_air_min_c:
        return plain
    colder = coldest_air(read_c=min(read), planned_c=job.site.t_air_min_c)
    return prompt(readings, STAGE, "air_temperature", SITE, (*plain.judgements, colder))


def _plain_prompt(readings: Readings, kind: ReadingKind, subject: str) -> Prompt:
    judgement = (
        holds("temperature_read", True, READING_SOURCE)
        if readings.latest(kind, subject)
        else waiting("temperature_read", "", READING_SOURCE, ())
    )
    return prompt(readings, STAGE, kind, subject, (judgement,))


def two_way_prompt(readings: Readings, kind: ReadingKind, subject: str) -> Prompt:
    """A question with two answers: polarity, connectors, the DC switch."""
    latest = readings.latest(kind, subject)
    if latest is None:
        return _unasked_two_way(kind, subject)
    rule, _, _ = TWO_WAY_RULES[kind]
    return prompt(readings, STAGE, kind, subject, (rule(sign=latest.sign),))


@kept_ready(UNREAD_KEPT)
def _unasked_two_way(kind: ReadingKind, subject: str) -> Prompt:
    _, rule_id, source = TWO_WAY_RULES[kind]
    judgement = waiting(rule_id, "", source, (say("needs", "reading"),))
    return prompt(NOTHING_READ, STAGE, kind, subject, (judgement,))


def switch_prompt(job: Job, readings: Readings) -> Prompt:
    """Whether the DC switch is OFF; of several, every one: one that is ON is ON for all."""
    asked = two_way_prompt(readings, "dc_switch", INVERTER)
    variant = job.wall_inverter.variant(job.variant)
    if variant is None or variant.switches <= 1:
        return asked
    return replace(asked, expected_text=say("dc_switch", "all", count=str(variant.switches)))


def voc_prompt(
    job: Job,
    planner: StringPlanner,
    readings: Readings,
    now: Now,
    plan: StringPlan,
    others: tuple[OtherString, ...],
) -> Prompt:
    """The open-circuit voltage of one string, what it means and why it may be so."""
    causes: tuple[Cause, ...] = ()
    if now.reading is None:
        needs = (say("needs", "reading"), *now.needs)
        judgements: tuple[Judgement, ...] = (
            waiting("string_voc_read", "V", READING_SOURCE, needs),
        )
    elif now.expected is None:
        judgements = _unexpected(job, now.reading.number, now.needs)
    else:
        held = _held(job, planner, now.expected, now.reading.number, plan, others)
        judgements, causes = judge_held_voltage(held)
        if now.expected.neighbour:
            judged = neighbour_judged(neighbour=now.expected.neighbour, by_sun=now.by_sun)
            judgements = (*judgements, judged)
    expected = now.expected
    return prompt(
        readings,
        STAGE,
        "open_circuit",
        plan.name,
        judgements,
        expected=(expected.low_v, expected.high_v) if expected else None,
        expected_text=_band_text(expected) if expected else "",
        expected_because=_because(expected) if expected else "",
        causes=causes,
    )


def _band_text(expected: ExpectedVoc) -> str:
    band = f"{figure(expected.low_v, digits=0)} to {figure(expected.high_v, 'V', 0)}"
    return f"{band}, by string {expected.neighbour}" if expected.neighbour else band


@kept_ready(UNREAD_KEPT)
def _because(expected: ExpectedVoc) -> str:
    """What the expected band is made of, each doubt in volts."""
    centre = figure(expected.centre_v, "V")
    doubts = ", ".join(
        f"{part.name} −{figure(part.down_v)} +{figure(part.up_v, 'V')}" for part in expected.parts
    )
    if expected.t_cell_c is None or expected.irradiance_w_per_m2 is None:
        return say(
            "band",
            "neighbour",
            centre=centre,
            neighbour=expected.neighbour,
            doubts=doubts,
        )
    return say(
        "band",
        expected.cell_from,
        centre=centre,
        sun=figure(expected.irradiance_w_per_m2, "W/m²", 0),
        basis=say("basis", expected.basis),
        cell=figure(expected.t_cell_c, "°C"),
        doubts=doubts,
    )


class Held(NamedTuple):
    """A reading, and all that it is held against."""

    read_v: float
    low_v: float
    high_v: float
    centre_v: float
    one_module_v: float
    modules_in_series: int
    voc_cold_v: float | None
    max_dc_v: float
    limit_v: float
    bypass_sections: int
    near_zero_v: float
    others: tuple[OtherString, ...]
    is_beside: bool


def _held(
    job: Job,
    planner: StringPlanner,
    expected: ExpectedVoc,
    read_v: float,
    plan: StringPlan,
    others: tuple[OtherString, ...],
) -> Held:
    mounting, max_dc_v = job.plane(plan.plane).mounting, job.wall_inverter.dc.max_dc_v
    return Held(
        read_v=read_v,
        low_v=expected.low_v,
        high_v=expected.high_v,
        centre_v=expected.centre_v,
        one_module_v=expected.one_module_v,
        modules_in_series=plan.modules_in_series,
        voc_cold_v=planner.volts(plan.modules_in_series, mounting).voc_cold_v,
        max_dc_v=max_dc_v,
        limit_v=min(max_dc_v, planner.module.max_system_v),
        bypass_sections=planner.module.bypass_sections,
        near_zero_v=planner.pack.meter.near_zero.value,
        others=others,
        is_beside=sum(one.tracker == plan.tracker for one in job.strings) > 1,
    )


@kept_ready(READINGS_KEPT)
def judge_held_voltage(held: Held) -> tuple[tuple[Judgement, ...], tuple[Cause, ...]]:
    """What a reading means and why it may be so; found once for as long as nothing moves."""
    voc_read = string_voc_read(
        read_v=held.read_v,
        low_v=held.low_v,
        high_v=held.high_v,
        one_module_v=held.one_module_v,
    )
    judgements = (
        voc_read,
        string_under_max(read_v=held.read_v, max_dc_v=held.max_dc_v),
        _projection(held),
    )
    if voc_read.verdict != "clear":
        return judgements, _causes(held)
    told = count_told(
        read_v=held.read_v,
        low_v=held.low_v,
        high_v=held.high_v,
        modules_in_series=held.modules_in_series,
    )
    return (*judgements, told), () if told.verdict == "clear" else _causes(held)


def _unexpected(job: Job, read_v: float, needs: tuple[str, ...]) -> tuple[Judgement, ...]:
    """What can be said of a reading while nothing is known of sun or cells."""
    return (
        waiting("string_voc_read", "V", READING_SOURCE, needs),
        string_under_max(read_v=read_v, max_dc_v=job.wall_inverter.dc.max_dc_v),
    )


def _projection(held: Held) -> Judgement:
    if held.voc_cold_v is None:
        needs = (say("needs", "cold_factor"),)
        return waiting("string_projection", "V", READING_SOURCE, needs)
    return string_projection(
        read_v=held.read_v,
        expected_now_v=held.centre_v,
        voc_cold_v=held.voc_cold_v,
        limit_v=held.limit_v,
    )


def _causes(held: Held) -> tuple[Cause, ...]:
    return diagnose(
        read_v=held.read_v,
        modules_in_series=held.modules_in_series,
        expected_v=held.centre_v,
        low_v=held.low_v,
        high_v=held.high_v,
        bypass_sections=held.bypass_sections,
        near_zero_v=held.near_zero_v,
        others=held.others,
        is_beside=held.is_beside,
    )


def earth_prompts(
    planner: StringPlanner, readings: Readings, plan: StringPlan
) -> tuple[Prompt, Prompt]:
    """Both poles to earth: asked only when a fault is looked for."""
    plus, minus, between = _poles(planner, readings, plan)
    if plus is None and minus is None:
        return _unasked_to_earth(plan.name)
    if plus is None or minus is None:
        return _both_poles(readings, plan.name, _waiting_to_earth())
    rule = planner.pack.meter
    judgement = string_earth_leak(
        plus_to_earth_v=plus.number,
        minus_to_earth_v=minus.number,
        plus_to_minus_v=between.number if between else None,
        modules_in_series=plan.modules_in_series,
        meter_ohm=rule.input_resistance.value * OHM_PER_MOHM,
        least_kohm=rule.least_to_earth.value,
        sum_over_pct=rule.earth_sum.value,
        near_zero_v=rule.near_zero.value,
    )
    return _both_poles(readings, plan.name, judgement)


def _poles(
    planner: StringPlanner, readings: Readings, plan: StringPlan
) -> tuple[Reading | None, Reading | None, Reading | None]:
    """Plus and minus to earth, and the string between its poles, all of the same minutes.

    Of two poles read further apart the older says nothing any more.
    """
    plus = readings.latest("plus_to_earth", plan.name)
    minus = readings.latest("minus_to_earth", plan.name)
    if plus is None or minus is None:
        return plus, minus, None
    age = timedelta(minutes=planner.pack.meter.conditions_age.value)
    if plus.taken_at - minus.taken_at > age:
        return plus, None, None
    if minus.taken_at - plus.taken_at > age:
        return None, minus, None
    return plus, minus, readings.nearest("open_circuit", plan.name, plus.taken_at, age)


def _both_poles(readings: Readings, subject: str, judgement: Judgement) -> tuple[Prompt, Prompt]:
    """Both poles; what they say together stands at the second."""
    is_read = readings.latest("plus_to_earth", subject) is not None
    first = holds("pole_read", True, READING_SOURCE) if is_read else judgement
    return (
        prompt(readings, STAGE, "plus_to_earth", subject, (first,)),
        prompt(readings, STAGE, "minus_to_earth", subject, (judgement,)),
    )


def _waiting_to_earth() -> Judgement:
    needs = (say("needs", "reading"),)
    return waiting("string_earth_leak", "kΩ", READING_SOURCE, needs)


@kept_ready(UNREAD_KEPT)
def _unasked_to_earth(subject: str) -> tuple[Prompt, Prompt]:
    return _both_poles(NOTHING_READ, subject, _waiting_to_earth())


def earth_fault(
    planner: StringPlanner, readings: Readings, plan: StringPlan, verdict: Verdict
) -> EarthFault | None:
    """Where the string touches earth, when its readings say that it does."""
    plus, minus, between = _poles(planner, readings, plan)
    if verdict != "stop" or plus is None or minus is None or between is None:
        return None
    return earth_fault_place(
        plus_to_earth_v=plus.number,
        minus_to_earth_v=minus.number,
        plus_to_minus_v=between.number,
        modules_in_series=plan.modules_in_series,
        meter_ohm=planner.pack.meter.input_resistance.value * OHM_PER_MOHM,
    )


def safety_prompt(job: Job, readings: Readings, plan: StringPlan) -> Prompt:
    """The safety voltage of an optimiser string: a voltmeter that counts modules."""
    sheet, count = job.optimiser, plan.modules_in_series
    latest = readings.latest("safety_voltage", plan.name)
    if sheet is None or latest is None:
        needs = (say("needs", "reading"),)
        judgement = waiting("optimisers_connected", "V", READING_SOURCE, needs)
    else:
        judgement = optimisers_connected(
            read_v=latest.number,
            safety_v=sheet.safety_v,
            safety_tolerance_v=sheet.safety_tolerance_v,
            optimisers=count,
        )
    band = None
    if sheet is not None:
        reach_v = count * sheet.safety_tolerance_v
        band = (count * sheet.safety_v - reach_v, count * sheet.safety_v + reach_v)
    text = f"{figure(band[0])} to {figure(band[1], 'V')}" if band else ""
    return prompt(
        readings,
        STAGE,
        "safety_voltage",
        plan.name,
        (judgement,),
        expected=band,
        expected_text=text,
    )


def reporting_prompt(readings: Readings, plan: StringPlan) -> Prompt:
    """How many optimisers of a string report; asked once they are paired."""
    latest = readings.latest("reporting", plan.name)
    if latest is None:
        needs = (say("needs", "reading"),)
        judgement = waiting("optimisers_reporting", "", READING_SOURCE, needs)
    else:
        judgement = optimisers_reporting(reporting=latest.number, optimisers=plan.modules_in_series)
    return prompt(
        readings,
        STAGE,
        "reporting",
        plan.name,
        (judgement,),
        expected_text=str(plan.modules_in_series),
    )
