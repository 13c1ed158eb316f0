"""Stage 5, Feed: every metre, switch and termination between the roof and the supply."""

from __future__ import annotations

from dataclasses import dataclass

from core.assessment.common import SHUT
from core.assessment.feed import FeedStage, Ladder, SupplyState
from core.assessment.microinverter import TrunkPlan
from core.assessment.whole import Prompt, StringAssessment
from core.base.judgement import Judgement, Verdict, holds, waiting
from core.base.messages import figure, say
from core.base.stage_numbers import ARRIVE
from core.base.stage_numbers import FEED as STAGE
from core.base.trace import kept_ready
from core.job.job import PACK_PARTS, Job
from core.job.reading_kinds import kinds_of
from core.planning.dc.switching import dc_schools
from core.rules.ac.circuit import CHAIN_SOURCE, feed_chain
from core.rules.ac.voltage_rise import AcRise, ac_supply
from core.stages.feed import containment_backup_dead as feed_around
from core.stages.feed import devices as feed_devices
from core.stages.feed import other_sources
from core.stages.feed import runs as feed_runs
from core.stages.feed import terminations as feed_ends
from core.stages.feed import voltage_profile as feed_ladder
from core.stages.feed.context import Feed, feed_of
from core.stages.feed.runs import StringLoad
from core.stages.feed.single_line import Judged, energy_path
from core.stages.reading_index import Kept, Readings, prompt

FEEDS_KEPT = 32
# Where the breaker that guards the way sits, and what parts the inverter from it. A backup
# controller has its own switch on the inverter's side.
BREAKERS_IN = ("board", "branches", "isolator", "backup", "meter")
AC_PARTED_BY = frozenset({"isolator", "backup"})
# What is read in Feed.
FEED_KINDS = frozenset(kinds_of(stage=STAGE))
FEED_PARTS = (
    "feed",
    "strings",
    "inverter",
    "micro",
    "planes",
    "module",
    "optimiser",
    "grid",
    *PACK_PARTS,
)


@dataclass(frozen=True, kw_only=True)
class Inputs:
    """What Feed is judged by, and nothing else. hung: names of what hangs on the wall."""

    job: Job
    readings: Kept
    strings: tuple[StringLoad, ...]
    earth: Verdict
    hung: frozenset[str]


def feed_stage(
    job: Job, readings: Readings, strings: tuple[StringAssessment, ...], earth: Verdict
) -> tuple[FeedStage, tuple[Prompt, ...]]:
    """The path, its runs, the ladder of volts, what stands on the way, and what is asked.

    strings, earth: what String and Earth say already. A key pressed elsewhere in the job finds
    it ready.
    """
    inputs = Inputs(
        job=job.only(*FEED_PARTS),
        readings=readings.of_kinds(FEED_KINDS),
        strings=tuple(
            StringLoad(power_w=one.power_w, voc_cold_v=one.volts.voc_cold_v if one.volts else None)
            for one in strings
        ),
        earth=earth,
        hung=frozenset(one.name for one in job.wall.devices) if job.wall else frozenset(),
    )
    return _judged(inputs)


@kept_ready(FEEDS_KEPT)
def _judged(of: Inputs) -> tuple[FeedStage, tuple[Prompt, ...]]:
    job, strings = of.job, of.strings
    feed = feed_of(job, Readings(of.readings), of.hung)
    rise = _rise(feed)
    today = feed_ladder.ladder(feed, say("feed", "today"), feed.supply[0])
    high = feed_ladder.ladder(feed, say("feed", "high"), feed.high_supply_v)
    rises = {feed: rise} | {view: _rise(view) for view in feed.others}
    runs = tuple(
        feed_runs.run_state(feed.of(one), one, rises[feed.of(one)]) for one in job.feed.runs
    )
    dc_runs = tuple(
        feed_runs.dc_run_state(job, string, assessed)
        for string, assessed in zip(job.strings, strings, strict=True)
    )
    devices = tuple(feed_devices.device_state(feed, one) for one in job.feed.devices)
    dc_switching = feed_devices.dc_switching_state(job, strings) if job.inverter else None
    ends, end_prompts = feed_ends.ends(feed)
    ways = [feed_around.containment(feed, one, ends) for one in job.feed.containments]
    backup = feed_around.backup_state(job, job.feed.backup) if job.feed.backup else None
    dead_prompts = feed_around.dead_prompts(feed)
    stage = FeedStage(
        line=_line(feed, today),
        service=feed.service,
        nominal_v=feed.source.nominal_v,
        export_w=feed.source.rated_ac_w,
        design_a=feed.design_a,
        supply=_supply(feed),
        trip_v=feed.trip[0],
        trip_name=feed.trip[1],
        limits=feed_ladder.limits(feed),
        path=energy_path(
            Judged(
                job=job,
                runs={one.name: one for one in runs},
                strings=dc_runs,
                devices={one.name: one for one in devices},
                dc=dc_switching,
                backup=backup,
                earth=of.earth,
                trunks=_trunks((feed, *feed.others)),
            )
        ),
        rise=rise,
        today=today,
        high=high,
        runs=runs,
        dc_runs=dc_runs,
        devices=devices,
        dc_switching=dc_switching,
        dc_schools=dc_schools(job),
        containments=tuple(state for state, _ in ways),
        ends=ends,
        backup=backup,
        dead=SHUT,
        judgements=_judgements(feed, rise, high),
    )
    asks = (
        *dead_prompts,
        *(_supply_prompt(feed, pair) for pair in feed.pairs),
        *feed_devices.switch_prompts(feed),
        *end_prompts,
        feed_devices.loop_prompt(feed),
        *(lid for _, lid in ways if lid is not None),
    )
    return stage, asks


def _trunks(views: tuple[Feed, ...]) -> dict[str, TrunkPlan]:
    """The trunk of each branch that is looked at."""
    return {
        view.branch.name: view.trunk
        for view in views
        if view.branch is not None and view.trunk is not None
    }


def _rise(feed: Feed) -> AcRise | None:
    """What the way lifts on the supply as it is; None while the way is not known."""
    way = feed.segments
    return feed_ladder.rise_at(feed, way, feed.supply[0]) if way else None


def _supply(feed: Feed) -> SupplyState:
    volts = [one.number for one in feed.supply_readings]
    return SupplyState(
        volts=feed.supply[0],
        pair=feed.supply[1],
        measured=feed.measured,
        readings=len(volts),
        lowest_v=min(volts, default=None),
        highest_v=max(volts, default=None),
    )


def _judgements(feed: Feed, rise: AcRise | None, high: Ladder | None) -> tuple[Judgement, ...]:
    return (
        _chain(feed),
        *_path_has(feed),
        feed_ladder.room_judgement(feed, rise),
        feed_ladder.rise_judgement(feed, rise),
        feed_ladder.high_day_judgement(feed, high),
        *other_sources.unbalance(feed.job.feed, feed.source, feed.job.micro, feed.rules.branch),
    )


def _chain(feed: Feed) -> Judgement:
    gap = _gap(feed)
    if gap is None:
        return feed_chain(whole=True)
    if not feed.job.feed.runs:
        return waiting("feed_chain", "", CHAIN_SOURCE, (say("needs", "cable"),))
    return feed_chain(whole=False, here=gap[0], there=gap[1])


def _path_has(feed: Feed) -> tuple[Judgement, ...]:
    """What every way needs and this one lacks; nothing while the way itself has a gap."""
    if _gap(feed) is not None:
        return ()
    kinds = [one.kind for one in feed.job.feed.devices if one.name in feed.chain.rungs]
    has_breaker = any(
        one.breaker is not None for one in feed.job.feed.devices if one.kind in BREAKERS_IN
    )
    is_roof = feed.job.micro is not None
    needs = []
    if "board" not in kinds and not (is_roof and "branches" in kinds):
        needs.append(say("needs", "board"))
    elif is_roof and "board" in kinds and not has_breaker:
        board = feed.job.feed.of_kind("board")
        needs.append(say("needs", "board_breaker", name=board.name if board else ""))
    wanted = feed.rules.circuit.ac_isolator == "needed" and not is_roof
    if wanted and not AC_PARTED_BY.intersection(kinds):
        needs.append(say("needs", "ac_isolator", pack=feed.rules.name))
    source = feed.rules.circuit.source
    return (
        (waiting("path_has", "", source, tuple(needs)),)
        if needs
        else (holds("path_has", True, source),)
    )


def _gap(feed: Feed) -> tuple[str, str] | None:
    """The first gap on the way to the inverter, or on the way of any branch to its joint box."""
    for view in (feed, *feed.others):
        if view.chain.gap is not None:
            board, joint = view.job.feed.chain, view.branch.joint if view.branch else None
            return (board.rungs[-1], joint) if joint and not board.gap else view.chain.gap
        if view.branch is not None and view.branch.joint is None:
            return view.chain.rungs[-1], say("branches", "named", name=view.branch.name)
    return None


def _line(feed: Feed, today: Ladder | None) -> str:
    gap = _gap(feed)
    if gap is not None:
        return say("feed", "gap", here=gap[0], there=gap[1])
    if today is None or today.room_v is None or feed.trip[0] is None:
        return say("feed", "no_trip")
    trip = figure(feed.trip[0], "V")
    if today.room_v < 0:
        return say("feed", "over", over=figure(-today.room_v, "V"), trip=trip)
    return say("feed", "room", room=figure(today.room_v, "V"), trip=trip)


def _supply_prompt(feed: Feed, pair: str) -> Prompt:
    nominal_v = feed.source.nominal_v
    tolerance, below = feed.rules.ac.supply_tolerance, feed.rules.ac.supply_below
    latest = feed.readings.latest("supply_voltage", pair)
    judgement = (
        ac_supply(
            supply_v=latest.number,
            nominal_v=nominal_v,
            tolerance_pct=tolerance.value,
            below_pct=below.value,
            source=tolerance.source,
        )
        if latest
        else waiting("ac_supply", "V", tolerance.source, (say("needs", "reading"),))
    )
    low = nominal_v * (1 - below.value / 100)
    high = nominal_v * (1 + tolerance.value / 100)
    text = f"{figure(low, digits=0)} to {figure(high, 'V', 0)}"
    return prompt(
        feed.readings,
        STAGE,
        "supply_voltage",
        pair,
        (judgement,),
        expected=(low, high),
        expected_text=text,
        also_at=(ARRIVE,),
    )
