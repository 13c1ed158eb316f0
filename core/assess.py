"""Job in, assessment out: calls the stages in order, adds nothing of its own."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime

from core.assessment.making import ModuleSerials
from core.assessment.microinverter import RoofStage
from core.assessment.site import ArriveStage, EarthStage
from core.assessment.wake import WakeStage
from core.assessment.whole import (
    Assessment,
    OpenPoint,
    PackLabel,
    Prompt,
    Replaced,
    StageStanding,
    StringStage,
)
from core.base.judgement import Judgement, Verdict, worst
from core.base.messages import figure, say
from core.base.rule import of_a_job
from core.base.stage_numbers import (
    LEAVE,
    STAGES,
    WAKE,
)
from core.figures.overrides import figures_of
from core.figures.rule_packs import pack
from core.job.house import view, views
from core.job.job import Job
from core.job.microinverter import SWAP_STEPS, swap_key
from core.job.reading_kinds import ReadingKind
from core.job.readings import INVERTER
from core.stages.arrive import stage as arrive
from core.stages.earth import stage as earth
from core.stages.feed import stage as feed
from core.stages.hang import stage as hang
from core.stages.leads import led, next_step
from core.stages.leave import stage as leave
from core.stages.making import MODULE_SERIAL
from core.stages.microinverter import stage as roof
from core.stages.permissions.age import last_word, left_running, outdated
from core.stages.permissions.dead import made_dead
from core.stages.permissions.grants import Permissions, open_gate
from core.stages.permissions.points import StagesBefore, asked, planned, points, testers
from core.stages.permissions.sisters import of_sisters
from core.stages.permissions.switches import Positions, positions
from core.stages.prove import stage as prove
from core.stages.reading_index import Readings, kept_of, prompt_key
from core.stages.set import stage as grid
from core.stages.string import stage as string
from core.stages.talk import stage as talk
from core.stages.wake import stage as wake
from core.stages.wake.conditions import SwitchingContext

SHOWN_BLOCKS = 3
# Enough for a factor as 1.25.
DIGITS = 3


@of_a_job()
def assess(job: Job, *, at: datetime | None = None) -> Assessment:
    """Everything that can be said of a job: each verdict with value, limit, reason and source.

    at: the moment that is asked about, by which readings are old and a day is over; None: when
    the job was last read, so that a file always gives the same answer. Of a house with several
    inverters it is the first one's; another one's is that of its view.
    """
    if job.stations:
        return assess(view(job, job.id), at=at)
    moment = at or last_word(job)
    readings = Readings(kept_of(job))
    said = positions(job)
    before, asks = _before_wake(job, readings, said)
    every = (*planned(job, before), *asked(asks))
    alarm = points(WAKE, say("where", "light"), wake.light_alarm(job, readings))
    old = tuple(outdated(asks, left_running(job, readings, said) or moment))
    dead = made_dead(job, readings, said, moment)
    grants = Permissions(
        job, moment, (*every, *alarm, *old, *testers(before.prove), *of_sisters(job)), said, dead
    )
    woken = wake.wake_stage(_switching(job, readings, before, asks, grants))
    stages = _granted(before, grants)
    every = (*every, *points(WAKE, "", woken.judgements))
    left, labels = leave.leave_stage(job, readings, before, woken, every, moment)
    every, asks = (*every, *leave.open_of(left, labels)), (*asks, *labels)
    standings = tuple(
        _standing(number, every, [ask for ask in asks if ask.stage == number]) for number in STAGES
    )
    before_leave = standings[: LEAVE - 1]
    shown = {
        standing.number: standing
        for standing in (*before_leave, _leave(before_leave, standings[LEAVE - 1]))
    }
    states, locks = grants.states(), grants.every_lock()
    every = led(every, asks)
    tested = frozenset(test.key for group in before.prove.groups for test in group.tests)
    return Assessment(
        job_id=job.id,
        name=job.name,
        day=job.day,
        at=moment,
        rule_pack=_pack_label(job),
        verdict=worst(standing.verdict for standing in before_leave),
        stands_at=_stands_at(before_leave),
        stages=tuple(shown[number] for number in STAGES),
        asks=asks,
        wake=woken,
        leave=leave.with_groups(left, every, states, locks),
        permissions=states,
        locks=locks,
        evidence=job.evidence,
        open_points=every,
        next=next_step(job, every, asks, tested),
        past_readings=readings.past(frozenset(_read_by(stages, woken, asks))),
        **vars(stages),
    )


def assess_every(house: Job, *, at: datetime | None = None) -> tuple[Assessment, ...]:
    """The assessment of every inverter of a house, the first first."""
    return tuple(assess(one, at=at) for one in views(house))


@of_a_job()
def ask_of(job: Job, key: str, *, at: datetime | None = None) -> Prompt | None:
    """What a job asks for by that key, as `assess` has it; None where it asks for no such thing.

    Before the switching nothing that follows it is worked out: a reading that is being typed is
    answered so much sooner.
    """
    if job.stations:
        return ask_of(view(job, job.id), key, at=at)
    _, before = _before_wake(job, Readings(kept_of(job)), positions(job))
    found = next((one for one in before if one.key == key), None)
    return found or next((one for one in assess(job, at=at).asks if one.key == key), None)


def _before_wake(
    job: Job, readings: Readings, said: Positions
) -> tuple[StagesBefore, tuple[Prompt, ...]]:
    """The stages one after the other, each given what those before it say, and all they ask."""
    talk_stage, talk_prompts = talk.talk_stage(job, readings)
    hang_stage, hang_prompts = hang.hang_stage(job, readings)
    hang_stage = hang.after_signal(hang_stage, talk_prompts)
    arrive_stage, arrive_prompts = arrive.arrive_stage(job, readings, talk_prompts)
    earth_stage, earth_prompts = earth.earth_stage(job, readings)
    string_stage, string_prompts = _strings(job, readings)
    strings = string_stage.strings if string_stage else ()
    feed_stage, feed_prompts = feed.feed_stage(job, readings, strings, _earthed(earth_stage))
    roof_stage, roof_prompts = roof.roof_stage(job, readings, said.branches_on())
    site_prompts = (*arrive_prompts, *hang_prompts, *earth_prompts)
    before_tests = (*site_prompts, *string_prompts, *roof_prompts, *feed_prompts, *talk_prompts)
    prove_stage, prove_prompts = prove.prove_stage(job, readings, before_tests)
    grid_stage, grid_prompts = grid.grid_stage(job, readings)
    stages = StagesBefore(
        arrive=arrive_stage,
        hang=hang_stage,
        earth=earth_stage,
        string=string_stage,
        roof=roof_stage,
        feed=feed_stage,
        talk=talk_stage,
        prove=prove_stage,
        grid=grid_stage,
    )
    return stages, (*before_tests, *prove_prompts, *grid_prompts)


def _switching(
    job: Job,
    readings: Readings,
    stages: StagesBefore,
    asks: tuple[Prompt, ...],
    grants: Permissions,
) -> SwitchingContext:
    return SwitchingContext(
        job=job,
        readings=readings,
        roof=stages.roof,
        talk=stages.talk,
        grid=stages.grid,
        asks=asks,
        grants=grants,
        at=grants.at,
    )


def _granted(stages: StagesBefore, grants: Permissions) -> StagesBefore:
    """The stages with their gates, which are built shut and opened by the permissions alone."""
    return replace(
        stages,
        feed=replace(stages.feed, dead=open_gate(grants)),
        talk=talk.opened(stages.talk, grants),
        string=string.opened(stages.string, grants) if stages.string else None,
        roof=roof.opened(stages.roof, grants) if stages.roof else None,
    )


def _read_by(stages: StagesBefore, woken: WakeStage, asks: tuple[Prompt, ...]) -> Iterator[str]:
    """The keys of everything that is read in this job as it stands."""
    yield from (one.key for one in asks)
    yield from _goods_keys(stages.arrive)
    yield from _wake_keys(woken)
    yield from (moment.key for moment in stages.grid.loss)
    yield from _roof_keys(stages.roof) if stages.roof else ()
    yield from _made_keys(stages.string) if stages.string else ()
    yield from (prompt_key("optimiser_serial", row.name) for row in stages.talk.map)
    planned = stages.string or stages.roof
    yield from _serial_keys(planned.serials) if planned else ()


def _goods_keys(stage: ArriveStage) -> Iterator[str]:
    """What the load-in sheet asks for, as keys of readings."""
    kinds: tuple[ReadingKind, ...] = ("goods_found", "goods_damaged")
    return (prompt_key(kind, line.id) for line in stage.lines for kind in kinds)


def _roof_keys(stage: RoofStage) -> Iterator[str]:
    """What the map, the swaps and the branches' switches are read by, as keys of readings."""
    for unit in stage.units:
        yield from (prompt_key(step.kind, unit.name) for step in stage.unit_steps)
        yield prompt_key("unit_serial", unit.name)
        yield prompt_key("unit_covered", unit.name)
        yield from (prompt_key("swap_step", swap_key(unit.name, step)) for step in SWAP_STEPS)
    yield from (prompt_key("branch_on", branch.name) for branch in stage.branches)


def _made_keys(stage: StringStage) -> Iterator[str]:
    """What the log of the strings' ends is read by, as keys of readings."""
    for one in stage.strings:
        yield from (prompt_key(s.kind, end.subject) for end in one.ends for s in stage.end_steps)


def _serial_keys(serials: ModuleSerials) -> Iterator[str]:
    """What the serials of modules are read by, as keys of readings."""
    return (prompt_key(MODULE_SERIAL, one.place) for one in serials.modules)


def _wake_keys(stage: WakeStage) -> Iterator[str]:
    """What the sequences, the switches and the lights are read by, as keys of readings."""
    yield from (one.key for phase in (*stage.phases, stage.emergency) for one in phase.steps)
    yield from (prompt_key("switch_stands", one.switch) for one in stage.switches)
    yield prompt_key("light", INVERTER)


def _pack_label(job: Job) -> PackLabel:
    rules = job.rules
    return PackLabel(
        id=rules.id,
        name=rules.name,
        edition=rules.edition,
        note=rules.note,
        replaced=_replaced(job) if job.own_pack or job.overrides else (),
    )


def _replaced(job: Job) -> tuple[Replaced, ...]:
    """What the user's own pack and then the job itself replaced, each beside what it replaced."""
    own = job.own_pack
    base = pack(own.based_on if own else job.rule_pack)
    before = {known.path: known for known in figures_of(base)}
    found = []
    for one in (*(own.figures if own else ()), *job.overrides):
        was = before[one.path]
        old = figure(was.value, was.unit, DIGITS) if was.value is not None else was.choice or ""
        new = figure(one.value, was.unit, DIGITS) if one.value is not None else one.choice or ""
        found.append(Replaced(path=one.path, title=was.title, was=old, now=new, reason=one.reason))
        before[one.path] = replace(was, value=one.value, choice=one.choice)
    return tuple(found)


def _strings(job: Job, readings: Readings) -> tuple[StringStage | None, tuple[Prompt, ...]]:
    """Strings and trackers, where the job has a wall inverter."""
    return string.string_stage(job, readings) if job.inverter else (None, ())


def _earthed(stage: EarthStage) -> Verdict:
    """The gravest of the earth stage's own judgements and its links'."""
    verdicts = (one.verdict for one in stage.judgements)
    return worst(("clear", *verdicts, *(one.verdict for one in stage.links)))


def _standing(number: int, every: tuple[OpenPoint, ...], asks: list[Prompt]) -> StageStanding:
    judgements = [point.judgement for point in every if point.stage == number]
    stops = [judgement.reason for judgement in judgements if judgement.verdict == "stop"]
    return StageStanding(
        number=number,
        title=say("stages", str(number)),
        verdict=worst(("clear", *(judgement.verdict for judgement in judgements))),
        blocks=tuple(stops[:SHOWN_BLOCKS]),
        next=stops[0] if stops else _next(judgements, [a for a in asks if not a.optional]),
    )


def _next(judgements: list[Judgement], asks: list[Prompt]) -> str:
    waits = {judgement.rule_id for judgement in judgements if judgement.verdict == "waiting"}
    for rule_id, key in (
        ("grid_profile", "pick_profile"),
        ("device_answer", "write_profile"),
    ):
        if rule_id in waits:
            return say("next", key)
    unread = [ask for ask in asks if ask.reading is None]
    unsettled = [ask for ask in asks if ask.verdict == "waiting"]
    for ask in (*unread, *unsettled):
        return say("next", "read", title=ask.title)
    reasons = [judgement.reason for judgement in judgements if judgement.verdict == "waiting"]
    return reasons[0] if reasons else say("next", "done")


def _stands_at(before: tuple[StageStanding, ...]) -> int:
    undone = (s.number for s in before if s.verdict in ("stop", "waiting"))
    return next(undone, LEAVE)


def _leave(before: tuple[StageStanding, ...], own: StageStanding) -> StageStanding:
    """Leave waits for all the others, and then for what is its own."""
    undone = [standing for standing in before if standing.verdict in ("stop", "waiting")]
    if not undone:
        return own if own.verdict != "clear" else replace(own, next=say("next", "leave"))
    waits: Verdict = "waiting"
    return StageStanding(
        number=LEAVE,
        title=own.title,
        verdict=waits,
        blocks=(),
        next=say("next", "waits", stage=undone[0].title),
    )
