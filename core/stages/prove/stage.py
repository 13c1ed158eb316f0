"""Stage 7, Prove: the test record after IEC 62446-1 category 1, made from the job."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, datetime
from zoneinfo import ZoneInfo

from core.assessment.common import Gate
from core.assessment.prove import InstrumentState, ProveStage, TestGroup, TestState
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import say
from core.base.trace import kept_ready
from core.job.job import Job
from core.job.reading_kinds import KINDS, ReadingKind
from core.job.testers import Instrument, Testing
from core.planning.dc.module_counts import strings_planned
from core.rules.dc.string_current import SOURCE, at_full_sun, string_currents_agree
from core.rules.prove.instrument import instrument_in_date, tests_complete
from core.stages.prove.prompts import test_asks
from core.stages.reading_index import Readings
from core.stages.string.expected import conditions

# What was asked for before Prove, and what of it stands in the record.
EARLIER: tuple[ReadingKind, ...] = (
    "continuity",
    "polarity",
    "open_circuit",
    "safety_voltage",
    "reporting",
    "supply_voltage",
    "loop_impedance",
)
# Group titles in the order of the record; strings and runs come by their own names.
STRING_KINDS: tuple[ReadingKind, ...] = (
    "polarity",
    "open_circuit",
    "safety_voltage",
    "reporting",
    "short_circuit",
    "operating",
    "insulation_volts",
    "insulation_plus",
    "insulation_minus",
)

LEAST_TO_COMPARE = 2
TESTS_KEPT = 4096


def prove_stage(
    job: Job, readings: Readings, earlier: tuple[Prompt, ...]
) -> tuple[ProveStage, tuple[Prompt, ...]]:
    """Every test that this job needs, grouped; and what is asked for here.

    earlier: everything that the stages before ask for.
    """
    own = test_asks(job, readings)
    chosen = [one for one in earlier if one.kind in EARLIER and not one.optional]
    # What may be tried counts once somebody has.
    made = tuple(one for one in own if not one.optional or one.reading is not None)
    groups = tuple(_groups(job, (*chosen, *made)))
    tests = [test for group in groups for test in group.tests]
    undone = sorted(
        (test for test in tests if test.verdict != "clear"),
        key=lambda test: ("stop", "waiting", "watch").index(test.verdict),
    )
    complete = tests_complete(
        verdicts=tuple(test.verdict for test in tests),
        undone=tuple(test.title for test in undone),
    )
    stage = ProveStage(
        gate=_gate(own),
        groups=groups,
        instruments=tuple(_instrument(job, one) for one in job.testing.instruments),
        tests=len(tests),
        clear=sum(test.verdict == "clear" for test in tests),
        note=say("prove", "optimisers") if job.optimiser else "",
        judgements=(*strings_planned(job), complete, *_currents_agree(job, readings)),
    )
    return stage, own


def _gate(asks: tuple[Prompt, ...]) -> Gate:
    """Covers prove to fit before anything is tested live."""
    looked = [one for one in asks if one.kind == "look_over"]
    bad = [one for one in looked if one.verdict not in ("clear", "watch")]
    if bad:
        line = say("prove", "gate_waits", what=bad[0].title)
        return Gate(verdict=worst(one.verdict for one in bad), line=line)
    return Gate(verdict="clear", line=say("prove", "gate_ready"))


def _groups(job: Job, asks: tuple[Prompt, ...]) -> Iterable[TestGroup]:
    titles: dict[str, list[Prompt]] = {}
    for one in sorted(asks, key=_place):
        titles.setdefault(_group(job, one), []).append(one)
    for title, members in titles.items():
        tests = tuple(_test(job.testing, one, job.site.timezone) for one in members)
        yield TestGroup(
            title=title,
            verdict=worst(test.verdict for test in tests),
            clear=sum(test.verdict == "clear" for test in tests),
            tests=tests,
        )


ORDER: tuple[ReadingKind, ...] = (
    "look_over",
    "continuity",
    *STRING_KINDS,
    "supply_voltage",
    "conductor_voltage",
    "supply_frequency",
    "rotation",
    "insulation_ac_volts",
    "insulation_ac",
    "loop_impedance",
    "residual_ms",
    "residual_ma",
    "electrode",
    "switch_works",
    "functional",
)


def _place(one: Prompt) -> tuple[int, str, int]:
    """Where a test stands: strings one after the other, each with all of its tests."""
    at = ORDER.index(one.kind)
    if one.kind in STRING_KINDS:
        return ORDER.index(STRING_KINDS[0]), one.subject, at
    return at, "", at


def _group(job: Job, one: Prompt) -> str:
    if one.kind in STRING_KINDS:
        return say("prove", "string", name=one.subject)
    if one.kind in ("insulation_ac_volts", "insulation_ac"):
        return say("prove", "run", name=one.subject)
    if one.kind in ("residual_ms", "residual_ma"):
        return say("prove", "residual", name=one.subject.rpartition(" ")[0])
    named = {
        "look_over": "look",
        "continuity": "earth",
        "loop_impedance": "circuit",
        "switch_works": "switches",
        "electrode": "circuit",
        "functional": "functional",
    }
    return say("prove", named.get(one.kind, "supply"))


@kept_ready(TESTS_KEPT)
def _test(testing: Testing, one: Prompt, timezone: str) -> TestState:
    reading = one.reading
    tester = testing.instrument(reading.instrument) if reading else None
    every = one.judgements
    if reading is not None and KINDS[one.kind].form == "measured":
        every = (*every, _in_date(tester, _day(reading.taken_at, timezone)))
    verdict = worst(judgement.verdict for judgement in every)
    return TestState(
        key=one.key,
        stage=one.stage,
        title=one.title,
        expected_text=one.expected_text,
        read_text=reading.text if reading else "",
        instrument=reading.instrument if reading else "",
        serial=tester.serial if tester else "",
        due_on=tester.due_on if tester else None,
        by=reading.by if reading else "",
        at=reading.taken_at if reading else None,
        retests=sum(kept.superseded_by is not None for kept in one.history),
        verdict=verdict,
        line=next(judgement.reason for judgement in every if judgement.verdict == verdict),
        judgements=every,
    )


def _day(at: datetime, timezone: str) -> date:
    return at.astimezone(ZoneInfo(timezone)).date()


def _in_date(tester: Instrument | None, taken_on: date) -> Judgement:
    return instrument_in_date(
        name=tester.name if tester else "",
        serial=tester.serial if tester else "",
        due_on=tester.due_on if tester else None,
        taken_on=taken_on,
    )


def _instrument(job: Job, one: Instrument) -> InstrumentState:
    return InstrumentState(
        name=one.name,
        serial=one.serial,
        calibrated_on=one.calibrated_on,
        due_on=one.due_on,
        readings=sum(reading.instrument == one.name for reading in job.readings),
        mapped=sum(bool(column.ours) for column in one.columns),
        judgement=_in_date(one, job.day),
    )


def _currents_agree(job: Job, readings: Readings) -> tuple[Judgement, ...]:
    """All strings beside each other, each current as it would be in full sun."""
    if len(job.strings) < LEAST_TO_COMPARE or job.optimiser is not None:
        return ()
    amps = []
    for string in job.strings:
        reading = readings.latest(job.testing.current, string.name)
        sun = conditions(job, readings, string.plane, reading.taken_at) if reading else None
        if reading is not None and sun is not None and sun.irradiance is not None:
            amps.append(max(at_full_sun(reading.number, sun.irradiance.number), 0.0))
    if len(amps) < LEAST_TO_COMPARE:
        return (waiting("string_currents_agree", "%", SOURCE, (say("needs", "two_currents"),)),)
    return (string_currents_agree(amps=tuple(amps), rule_pack=job.rules),)
