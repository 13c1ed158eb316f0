"""Job in, assessment out: calls the stages in order, adds nothing of its own."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from core.assessment.feed import (
    ContainmentState,
    DcRunState,
    EndState,
    FeedDeviceState,
    FeedStage,
    RunState,
)
from core.assessment.grid import GridStage
from core.assessment.microinverter import RoofStage
from core.assessment.prove import ProveStage
from core.assessment.site import ArriveStage, EarthLinkState, EarthStage, HangStage
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
    ARRIVE,
    EARTH,
    FEED,
    HANG,
    LEAVE,
    PROVE,
    SET,
    STAGES,
    STRING,
    WAKE,
)
from core.figures.overrides import figures_of
from core.figures.rule_packs import pack
from core.job.job import Job
from core.job.microinverter import SWAP_STEPS, swap_key
from core.job.reading_kinds import ReadingKind
from core.job.readings import INVERTER
from core.rules.arrival.permit_people_goods import left_open
from core.stages.arrive import stage as arrive
from core.stages.earth import stage as earth
from core.stages.feed import stage as feed
from core.stages.hang import stage as hang
from core.stages.microinverter import stage as roof
from core.stages.prove import stage as prove
from core.stages.reading_index import Readings, prompt_key
from core.stages.set import stage as grid
from core.stages.string import stage as string
from core.stages.wake import stage as wake
from core.stages.wake.conditions import SwitchingContext

BUILT = (
    ARRIVE,
    HANG,
    EARTH,
    STRING,
    FEED,
    PROVE,
    WAKE,
    SET,
    LEAVE,
)
FeedPart = RunState | DcRunState | FeedDeviceState | EndState | ContainmentState
SHOWN_BLOCKS = 3
# Enough for a factor as 1.25.
DIGITS = 3


@dataclass(frozen=True, kw_only=True)
class _Stages:
    """What each stage says, by the names under which the assessment has them."""

    arrive: ArriveStage
    hang: HangStage
    earth: EarthStage
    string: StringStage | None
    roof: RoofStage | None
    feed: FeedStage
    prove: ProveStage
    wake: WakeStage
    grid: GridStage


@of_a_job()
def assess(job: Job) -> Assessment:
    """Everything that can be said of a job: each verdict with value, limit, reason and source."""
    readings = Readings(job.readings)
    stages, asks = _stages(job, readings)
    read = (
        point
        for ask in asks
        if not ask.optional
        for point in _points(ask.stage, ask.title, ask.judgements)
    )
    every = (*_planned(job, stages), *read)
    before = tuple(
        _standing(number, every, [ask for ask in asks if ask.stage == number])
        for number in BUILT
        if number != LEAVE
    )
    standings = {standing.number: standing for standing in (*before, _leave(before))}
    return Assessment(
        job_id=job.id,
        name=job.name,
        day=job.day,
        rule_pack=_pack_label(job),
        verdict=worst(standing.verdict for standing in before),
        stands_at=_stands_at(before),
        stages=tuple(standings.get(number) or _not_built(number) for number in STAGES),
        asks=asks,
        evidence=job.evidence,
        open_points=every,
        past_readings=readings.past(frozenset(_read_by(stages, asks))),
        **vars(stages),
    )


def _stages(job: Job, readings: Readings) -> tuple[_Stages, tuple[Prompt, ...]]:
    """The stages one after the other, each given what those before it say, and all they ask."""
    arrive_stage, arrive_prompts = arrive.arrive_stage(job, readings)
    hang_stage, hang_prompts = hang.hang_stage(job, readings)
    earth_stage, earth_prompts = earth.earth_stage(job, readings)
    string_stage, string_prompts = _strings(job, readings)
    earthed = _worst_of(earth_stage.judgements, earth_stage.links)
    strings = string_stage.strings if string_stage else ()
    feed_stage, feed_prompts = feed.feed_stage(job, readings, strings, earthed)
    permit = worst(j.verdict for j in arrive_stage.judgements if j.rule_id == "permit_on_file")
    roof_stage, roof_prompts = roof.roof_stage(job, readings, permit, earthed)
    site_prompts = (*arrive_prompts, *hang_prompts, *earth_prompts)
    before_tests = (*site_prompts, *string_prompts, *roof_prompts, *feed_prompts)
    prove_stage, prove_prompts = prove.prove_stage(job, readings, before_tests)
    grid_stage, grid_prompts = grid.grid_stage(job, readings)
    asks = (*before_tests, *prove_prompts, *grid_prompts)
    around = SwitchingContext(
        job=job,
        readings=readings,
        arrive=arrive_stage,
        earthed=earthed,
        string=string_stage,
        roof=roof_stage,
        feed=feed_stage,
        prove=prove_stage,
        grid=grid_stage,
        asks=asks,
    )
    stages = _Stages(
        arrive=arrive_stage,
        hang=hang_stage,
        earth=earth_stage,
        string=string_stage,
        roof=roof_stage,
        feed=feed_stage,
        prove=prove_stage,
        wake=wake.wake_stage(around),
        grid=grid_stage,
    )
    return stages, asks


def _planned(job: Job, stages: _Stages) -> Iterator[OpenPoint]:
    """What is open of the plan and of the stages themselves, apart from what is still to read."""
    yield from _points(ARRIVE, "", stages.arrive.judgements)
    for line in stages.arrive.lines:
        if line.judgement.verdict != "waiting":
            yield from _points(ARRIVE, line.what, (line.judgement,))
    yield from _left_open(job)
    yield from _points(HANG, say("where", "wall"), stages.hang.judgements)
    for device in stages.hang.devices:
        yield from _points(HANG, device.name, device.judgements)
    yield from _points(EARTH, "", stages.earth.judgements)
    for link in stages.earth.links:
        yield from _points(EARTH, link.name, link.judgements)
    yield from _string_points(stages.string) if stages.string else ()
    yield from _roof_points(stages.roof) if stages.roof else ()
    yield from _feed_points(stages.feed)
    yield from _points(PROVE, "", stages.prove.judgements)
    yield from _points(WAKE, "", stages.wake.judgements)
    yield from _points(SET, "", stages.grid.judgements)


def _read_by(stages: _Stages, asks: tuple[Prompt, ...]) -> Iterator[str]:
    """The keys of everything that is read in this job as it stands."""
    yield from (one.key for one in asks)
    yield from _goods_keys(stages.arrive)
    yield from _wake_keys(stages.wake)
    yield from (moment.key for moment in stages.grid.loss)
    yield from _roof_keys(stages.roof) if stages.roof else ()


def _left_open(job: Job) -> tuple[OpenPoint, ...]:
    """What was left open on purpose and is not settled yet, in the stage that it belongs to."""
    return tuple(
        OpenPoint(
            stage=item.stage,
            where=item.owner,
            judgement=left_open(what=item.what, owner=item.owner),
        )
        for item in job.arrival.open_items
        if not item.settled
    )


def _goods_keys(stage: ArriveStage) -> Iterator[str]:
    """What the load-in sheet asks for, as keys of readings."""
    kinds: tuple[ReadingKind, ...] = ("goods_found", "goods_damaged")
    return (prompt_key(kind, line.id) for line in stage.lines for kind in kinds)


def _roof_keys(stage: RoofStage) -> Iterator[str]:
    """What the map, the swaps and the branches' switches are read by, as keys of readings."""
    for unit in stage.units:
        yield prompt_key("unit_serial", unit.name)
        yield prompt_key("unit_covered", unit.name)
        yield from (prompt_key("swap_step", swap_key(unit.name, step)) for step in SWAP_STEPS)
    yield from (prompt_key("branch_on", branch.name) for branch in stage.branches)


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


def _points(stage: int, where: str, judgements: tuple[Judgement, ...]) -> tuple[OpenPoint, ...]:
    return tuple(
        OpenPoint(stage=stage, where=where, judgement=judgement)
        for judgement in judgements
        if judgement.verdict != "clear"
    )


def _strings(job: Job, readings: Readings) -> tuple[StringStage | None, tuple[Prompt, ...]]:
    """Strings and trackers, where the job has a wall inverter."""
    return string.string_stage(job, readings) if job.inverter else (None, ())


def _roof_points(stage: RoofStage) -> Iterator[OpenPoint]:
    """Units in Hang; branches, map and gateway where they are planned and read."""
    yield from _points(STRING, say("where", "roof"), stage.judgements)
    for unit in stage.units:
        yield from _points(HANG, say("where", "unit", name=unit.name), unit.judgements)
    for branch in stage.branches:
        yield from _points(STRING, say("where", "branch", name=branch.name), branch.judgements)
    yield from _points(STRING, say("where", "map"), stage.map.judgements)
    yield from _points(STRING, say("where", "gateway"), stage.gateway.judgements)


def _string_points(stage: StringStage) -> tuple[OpenPoint, ...]:
    strings = (
        _points(STRING, say("where", "string", name=one.name), one.judgements)
        for one in stage.strings
    )
    trackers = (
        _points(STRING, say("where", "tracker", name=str(one.number)), one.judgements)
        for one in stage.trackers
    )
    whole = _points(STRING, say("where", "inverter"), stage.whole)
    return (*(point for group in (*strings, *trackers) for point in group), *whole)


def _feed_points(stage: FeedStage) -> Iterator[OpenPoint]:
    yield from _points(FEED, "", stage.judgements)
    parts: tuple[FeedPart, ...] = (
        *stage.runs,
        *stage.dc_runs,
        *stage.devices,
        *((stage.dc_switching,) if stage.dc_switching else ()),
        *stage.ends,
        *stage.containments,
    )
    for part in parts:
        yield from _points(FEED, part.name, part.judgements)
    if stage.backup is not None:
        yield from _points(FEED, say("where", "backup"), stage.backup.judgements)


def _worst_of(judgements: tuple[Judgement, ...], links: tuple[EarthLinkState, ...]) -> Verdict:
    """The gravest of a stage's own judgements and its parts'."""
    verdicts = (one.verdict for one in judgements)
    return worst(("clear", *verdicts, *(one.verdict for one in links)))


def _standing(number: int, every: tuple[OpenPoint, ...], asks: list[Prompt]) -> StageStanding:
    judgements = [point.judgement for point in every if point.stage == number]
    stops = [judgement.reason for judgement in judgements if judgement.verdict == "stop"]
    return StageStanding(
        number=number,
        title=say("stages", str(number)),
        built=True,
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


def _leave(before: tuple[StageStanding, ...]) -> StageStanding:
    undone = [standing for standing in before if standing.verdict in ("stop", "waiting")]
    verdict: Verdict = "waiting" if undone else "clear"
    return StageStanding(
        number=LEAVE,
        title=say("stages", str(LEAVE)),
        built=True,
        verdict=verdict,
        blocks=(),
        next=say("next", "waits", stage=undone[0].title) if undone else say("next", "leave"),
    )


def _not_built(number: int) -> StageStanding:
    return StageStanding(
        number=number,
        title=say("stages", str(number)),
        built=False,
        verdict="waiting",
        blocks=(),
        next="",
    )
