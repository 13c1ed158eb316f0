"""What Prove asks for on top of what the stages before it have read."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import fsum

from core.assessment.whole import Prompt
from core.base.judgement import Judgement, waiting
from core.base.messages import figure, say
from core.base.stage_numbers import PROVE as STAGE
from core.base.stage_numbers import SET
from core.base.trace import kept_ready
from core.figures.rule_packs import RulePack
from core.job.feed import FeedDevice
from core.job.job import PACK_PARTS, Job
from core.job.reading_kinds import ReadingKind, kinds_of
from core.job.readings import EARTH, FUNCTIONAL, HALF_WAVES, INVERTER, LOOKED_OVER, SITE, Reading
from core.job.strings import StringPlan
from core.job.subjects import MORE_PAIRS, residual_name
from core.rules.ac.supply_conductors import (
    conductors_agree,
    frequency_kept,
    pair_text,
    pair_volts,
    phases_turn,
)
from core.rules.ac.supply_safety import electrode_holds
from core.rules.dc.array_safety import insulation_by_area
from core.rules.dc.string_current import (
    band_text,
    current_sun_enough,
    current_waits,
    expected_current,
    string_current_read,
)
from core.rules.prove.insulation import (
    insulation_bears,
    insulation_holds,
    insulation_test,
    insulation_test_voltage,
)
from core.rules.prove.residual_trip import residual_band, residual_trips_at, residual_trips_in
from core.rules.prove.yes_no_steps import Step, step_seen, step_waits
from core.stages.reading_index import Kept, Readings, prompt
from core.stages.string.expected import conditions

SOURCE = "IEC 62446-1:2016, 6"
# Tests that are made here: made again, the new one takes the place of the one before.
TESTS = frozenset(kinds_of(stage=STAGE))


# By what the currents are judged.
SUN: frozenset[ReadingKind] = frozenset(
    {"irradiance", "air_temperature", "module_temperature", "wind"}
)
W_PER_KW = 1000.0
TESTS_KEPT = 32


TESTED_PARTS = (
    "strings",
    "feed",
    "inverter",
    "micro",
    "module",
    "optimiser",
    "testing",
    "planes",
    *PACK_PARTS,
)


@dataclass(frozen=True, kw_only=True)
class Inputs:
    """What the tests are made from and judged by, and nothing else."""

    job: Job
    readings: Kept


def test_asks(job: Job, readings: Readings) -> tuple[Prompt, ...]:
    """Every test that is made here, in the order of the record.

    A key pressed elsewhere in the job finds them ready.
    """
    return _asked(Inputs(job=job.only(*TESTED_PARTS), readings=readings.of_kinds(TESTS | SUN)))


@kept_ready(TESTS_KEPT)
def _asked(of: Inputs) -> tuple[Prompt, ...]:
    job, readings = of.job, Readings(of.readings)
    return (
        *(_step(readings, "look_over", one, say("look_over", one)) for one in LOOKED_OVER),
        *_string_prompts(job, readings),
        *_supply_prompts(job, readings),
        *_run_prompts(job, readings),
        *_residual_prompts(job, readings),
        *_switch_prompts(job, readings),
        *_electrode_prompts(job, readings),
        *(_step(readings, "functional", one, say("functional", one)) for one in FUNCTIONAL),
    )


def _step(readings: Readings, kind: Step, subject: str, shown: str) -> Prompt:
    latest = readings.latest(kind, subject)
    judgement = step_seen(step=kind, sign=latest.sign) if latest else step_waits(step=kind)
    return prompt(readings, STAGE, kind, subject, (judgement,), shown_subject=shown)


Judge = Callable[[Reading], tuple[Judgement, ...]]


def _read(
    readings: Readings,
    kind: ReadingKind,
    subject: str,
    rule_id: str,
    unit: str,
    judge: Judge,
    expected_text: str,
    expected: tuple[float, float] | None = None,
    also_at: tuple[int, ...] = (),
    because: str = "",
) -> Prompt:
    """A figure that is read and judged, or waited for."""
    latest = readings.latest(kind, subject)
    judgements = (
        judge(latest) if latest else (waiting(rule_id, unit, SOURCE, (say("needs", "reading"),)),)
    )
    return prompt(
        readings,
        STAGE,
        kind,
        subject,
        judgements,
        expected=expected,
        expected_text=expected_text,
        expected_because=because,
        also_at=also_at,
    )


# -- strings


def _string_prompts(job: Job, readings: Readings) -> Iterator[Prompt]:
    for string in job.strings:
        if job.optimiser is None:
            yield _current_prompt(job, readings, string)
            yield from _insulation_prompts(job, readings, string, system_v(job, string))
        else:
            # The safe voltage of the optimisers is all that a dark string has.
            volts = string.modules_in_series * job.optimiser.safety_v
            yield from _insulation_prompts(job, readings, string, volts)


def system_v(job: Job, string: StringPlan) -> float:
    """The voltage by which a string's insulation test is chosen."""
    factor = job.rules.prove.system_factor.value
    return string.modules_in_series * job.module_on(string.plane).voc_v * factor


def _current_prompt(job: Job, readings: Readings, string: StringPlan) -> Prompt:
    kind = job.testing.current
    latest = readings.latest(kind, string.name)
    sun = conditions(job, readings, string.plane, latest.taken_at if latest else None)
    if sun.irradiance is None or sun.t_cell_c is None:
        needs = ((say("needs", "reading"),) if latest is None else ()) + sun.needs
        return prompt(readings, STAGE, kind, string.name, (current_waits(needs),))
    band = expected_current(
        module=job.module_on(string.plane),
        irradiance_w_per_m2=sun.irradiance.number,
        t_cell_c=sun.t_cell_c,
        test=kind,
        basis=sun.irradiance.basis,
        rule_pack=job.rules,
    )
    judgements = (
        (
            string_current_read(read_a=latest.number, low_a=band.low_a, high_a=band.high_a),
            current_sun_enough(irradiance_w_per_m2=sun.irradiance.number, rule_pack=job.rules),
        )
        if latest
        else (current_waits((say("needs", "reading"),)),)
    )
    return prompt(
        readings,
        STAGE,
        kind,
        string.name,
        judgements,
        expected=(band.low_a, band.high_a),
        expected_text=band_text(band),
    )


def _insulation_prompts(
    job: Job, readings: Readings, string: StringPlan, volts: float
) -> Iterator[Prompt]:
    rules, test = job.rules, insulation_test(system_v=volts, rule_pack=job.rules)
    shown = figure(test.test_v, "V")

    def used(reading: Reading) -> tuple[Judgement, ...]:
        most = job.module_on(string.plane).max_system_v
        return (insulation_test_voltage(used_v=reading.number, needed_v=test.test_v, most_v=most),)

    module = job.module_on(string.plane)
    area_m2 = None if module.area_m2 is None else string.modules_in_series * module.area_m2
    powers = (one.modules_in_series * job.module_on(one.plane).pmax_w for one in job.strings)
    array_kw = fsum(powers) / W_PER_KW

    def held(reading: Reading) -> tuple[Judgement, ...]:
        plain = insulation_holds(mohm=reading.number, system_v=volts, rule_pack=rules)
        if area_m2 is None or array_kw <= rules.safety.area_above.value:
            return (plain,)
        by_area = insulation_by_area(
            mohm=reading.number, area_m2=area_m2, array_kw=array_kw, rule_pack=rules
        )
        return plain, by_area

    rule = "insulation_test_voltage"
    because = "" if job.optimiser else _system_because(job, string, volts)
    yield _read(readings, "insulation_volts", string.name, rule, "V", used, shown, because=because)
    text = say("prove", "least", least=figure(test.least_mohm, "MΩ"), test=shown)
    poles: tuple[ReadingKind, ...] = ("insulation_plus", "insulation_minus")
    for kind in poles:
        yield _read(readings, kind, string.name, "insulation_holds", "MΩ", held, text)


def _system_because(job: Job, string: StringPlan, volts: float) -> str:
    """How the system voltage came about, and what the plain one would ask for where it differs."""
    count, voc_v = string.modules_in_series, job.module_on(string.plane).voc_v
    plain = insulation_test(system_v=count * voc_v, rule_pack=job.rules)
    said = say(
        "prove",
        "system",
        count=str(count),
        voc=figure(voc_v, "V"),
        factor=figure(job.rules.prove.system_factor.value, digits=2),
        system=figure(volts, "V", 0),
    )
    if plain == insulation_test(system_v=volts, rule_pack=job.rules):
        return said
    other = say(
        "prove", "plain", volts=figure(count * voc_v, "V", 0), test=figure(plain.test_v, "V")
    )
    return f"{said} {other}"


# -- supply, runs, protection, switches


def _supply_prompts(job: Job, readings: Readings) -> Iterator[Prompt]:
    service = job.feed.supply_service or job.source.service
    nominal_v, rules = job.source.nominal_v, job.rules
    for pair in MORE_PAIRS[service]:
        band = pair_volts(pair=pair, service=service, nominal_v=nominal_v, rule_pack=rules)

        def judge(reading: Reading, pair: str = pair) -> tuple[Judgement, ...]:
            return (
                conductors_agree(
                    pair=pair,
                    read_v=reading.number,
                    service=service,
                    nominal_v=nominal_v,
                    rule_pack=rules,
                ),
            )

        text, between = pair_text(band, pair), (band.low_v, band.high_v)
        rule = "conductors_agree"
        yield _read(readings, "conductor_voltage", pair, rule, "V", judge, text, between)
    yield _frequency_prompt(readings)
    if service == "three":
        turns = readings.latest("rotation", SITE)
        yield prompt(
            readings,
            STAGE,
            "rotation",
            SITE,
            (phases_turn(sign=turns.sign),) if turns else (waiting("phases_turn", "", SOURCE, ()),),
        )


def _frequency_prompt(readings: Readings) -> Prompt:
    """Kept here; whether the grid profile is made for it is judged in Set."""

    def kept(reading: Reading) -> tuple[Judgement, ...]:
        return (frequency_kept(hertz=reading.number),)

    return _read(
        readings, "supply_frequency", SITE, "frequency_kept", "Hz", kept, "", also_at=(SET,)
    )


def _run_prompts(job: Job, readings: Readings) -> Iterator[Prompt]:
    rules = job.rules
    needed_v, least = rules.prove.ac_test.value, figure(rules.prove.ac_least.value, "MΩ")
    shown = figure(needed_v, "V")

    def used(reading: Reading) -> tuple[Judgement, ...]:
        return (insulation_test_voltage(used_v=reading.number, needed_v=needed_v),)

    def held(reading: Reading) -> tuple[Judgement, ...]:
        return (insulation_bears(mohm=reading.number, rule_pack=rules),)

    for run in job.feed.runs:
        if run.of_network:
            continue
        rule = "insulation_test_voltage"
        yield _read(readings, "insulation_ac_volts", run.name, rule, "V", used, shown)
        text = say("prove", "ac_least", least=least, test=shown)
        yield _read(readings, "insulation_ac", run.name, "insulation_holds", "MΩ", held, text)


def _electrode_prompts(job: Job, readings: Readings) -> Iterator[Prompt]:
    """The electrode of a house that has its own, against the device that trips for it."""
    guard = next((o.breaker for o in job.feed.devices if o.breaker and o.breaker.residual_ma), None)
    if job.feed.earth_system != "TT" or guard is None or guard.residual_ma is None:
        return
    residual_ma, rules = guard.residual_ma, job.rules

    def held(reading: Reading) -> tuple[Judgement, ...]:
        return (
            electrode_holds(electrode_ohm=reading.number, residual_ma=residual_ma, rule_pack=rules),
        )

    yield _read(readings, "electrode", EARTH, "electrode_holds", "Ω", held, "")


def _residual_prompts(job: Job, readings: Readings) -> Iterator[Prompt]:
    for device in job.feed.devices:
        rated_ma = device.breaker.residual_ma if device.breaker else None
        if rated_ma is not None:
            yield from _trips(job.rules, readings, device, rated_ma)


def _trips(
    rules: RulePack, readings: Readings, device: FeedDevice, rated_ma: float
) -> Iterator[Prompt]:
    low_ma, high_ma = residual_band(rated_ma=rated_ma, rule_pack=rules)
    most_ms = figure(rules.prove.residual_most_ms.value, "ms", 0)
    in_time = say("prove", "trip_ms", limit=most_ms)
    at_current = say("prove", "trip_ma", low=figure(low_ma), high=figure(high_ma, "mA"))

    def timed(reading: Reading) -> tuple[Judgement, ...]:
        return (residual_trips_in(trip_ms=reading.number, rule_pack=rules),)

    def ramped(reading: Reading) -> tuple[Judgement, ...]:
        return (residual_trips_at(trip_ma=reading.number, rated_ma=rated_ma, rule_pack=rules),)

    for half in HALF_WAVES:
        name = residual_name(device.name, half)
        yield _read(readings, "residual_ms", name, "residual_trips_in", "ms", timed, in_time)
        yield _read(
            readings,
            "residual_ma",
            name,
            "residual_trips_at",
            "mA",
            ramped,
            at_current,
            (low_ma, high_ma),
        )


def _switch_prompts(job: Job, readings: Readings) -> Iterator[Prompt]:
    if job.inverter is not None:
        yield _step(readings, "switch_works", INVERTER, say("prove", "inverter_switch"))
    for name in dict.fromkeys((*job.switches, *job.breakers)):
        yield _step(readings, "switch_works", name, name)
