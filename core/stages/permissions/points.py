"""Every judgement of every stage that is not clear, with where it is and what it concerns alone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

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
from core.assessment.site import ArriveStage, EarthStage, HangStage
from core.assessment.talk import TalkStage
from core.assessment.whole import OpenPoint, Prompt, StringStage
from core.base.judgement import Judgement, waiting
from core.base.messages import say
from core.base.stage_numbers import ARRIVE, EARTH, FEED, HANG, PROVE, SET, STRING, TALK
from core.job.job import Job
from core.job.reading_kinds import KINDS
from core.rules.arrival.permit_people_goods import left_open
from core.stages.microinverter.replacement import underway

FeedPart = RunState | DcRunState | FeedDeviceState | EndState | ContainmentState
# What a reading may be of and concern nothing else.
OWN_PARTS = ("string", "plane", "branch", "unit")


@dataclass(frozen=True, kw_only=True)
class StagesBefore:
    """What the stages say from which everything is allowed or not: all but Wake."""

    arrive: ArriveStage
    hang: HangStage
    earth: EarthStage
    string: StringStage | None
    roof: RoofStage | None
    feed: FeedStage
    talk: TalkStage
    prove: ProveStage
    grid: GridStage


def points(
    stage: int, where: str, judgements: tuple[Judgement, ...], *, key: str = "", part: str = ""
) -> tuple[OpenPoint, ...]:
    """What of some judgements is open."""
    return tuple(
        OpenPoint(stage=stage, where=where, judgement=judgement, key=key, part=part)
        for judgement in judgements
        if judgement.verdict != "clear"
    )


def asked(asks: tuple[Prompt, ...]) -> Iterator[OpenPoint]:
    """What is open of what is read; what may be left out counts once it was read."""
    for ask in asks:
        if not ask.optional or ask.reading is not None:
            yield from points(ask.stage, ask.title, ask.judgements, key=ask.key, part=part_of(ask))


def part_of(ask: Prompt) -> str:
    """The one thing that a reading concerns alone; empty where it concerns the whole plant."""
    of = KINDS[ask.kind].of
    return f"{of}/{ask.subject}" if of in OWN_PARTS else ""


def planned(job: Job, stages: StagesBefore) -> Iterator[OpenPoint]:
    """What is open of the plan and of the stages themselves, apart from what is still to read."""
    yield from points(ARRIVE, "", stages.arrive.judgements)
    for line in stages.arrive.lines:
        if line.judgement.verdict != "waiting":
            yield from points(ARRIVE, line.what, (line.judgement,))
    yield from _left_open(job)
    of_roof = {one for plane in stages.hang.edges for one in plane.judgements}
    own = tuple(one for one in stages.hang.judgements if one not in of_roof)
    yield from points(HANG, say("where", "wall"), own)
    for plane in stages.hang.edges:
        yield from points(HANG, plane.plane, plane.judgements)
    for row in stages.hang.tape:
        if row.judgement is not None:
            yield from points(HANG, f"{row.plane}, {row.title}", (row.judgement,))
    for device in stages.hang.devices:
        yield from points(HANG, device.name, device.judgements)
    yield from points(EARTH, "", stages.earth.judgements)
    for link in stages.earth.links:
        yield from points(EARTH, link.name, link.judgements)
    yield from _of_strings(stages.string) if stages.string else ()
    yield from _of_roof(stages.roof) if stages.roof else ()
    yield from _of_feed(stages.feed)
    yield from _of_talk(stages.talk)
    yield from points(PROVE, "", stages.prove.judgements)
    yield from points(SET, "", stages.grid.judgements)


def testers(stage: ProveStage) -> Iterator[OpenPoint]:
    """Tests whose tester nobody named, or whose calibration nobody knows: told in the record, and
    no permission rests on them."""
    for group in stage.groups:
        for test in group.tests:
            told = tuple(
                one
                for one in test.judgements
                if one.rule_id == "instrument_in_date" and one.verdict != "watch"
            )
            yield from points(PROVE, test.title, told, key=test.key)


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


def _of_roof(stage: RoofStage) -> Iterator[OpenPoint]:
    """Units in Hang; branches, map and gateway where they are planned and read."""
    yield from points(STRING, say("where", "roof"), stage.judgements)
    for unit in stage.units:
        where = say("where", "unit", name=unit.name)
        yield from points(HANG, where, unit.judgements, part=f"unit/{unit.name}")
        if underway(unit.swap):
            needs = (say("needs", "swap", unit=unit.name),)
            swapped = waiting("unit_in_swap", "", say("where", "roof"), needs)
            yield from points(STRING, where, (swapped,), part=f"unit/{unit.name}")
    for branch in stage.branches:
        where = say("where", "branch", name=branch.name)
        yield from points(STRING, where, branch.judgements, part=f"branch/{branch.name}")
    yield from points(STRING, say("where", "map"), stage.map.judgements)
    yield from points(STRING, say("where", "gateway"), stage.gateway.judgements)


def _of_strings(stage: StringStage) -> Iterator[OpenPoint]:
    for one in stage.strings:
        where = say("where", "string", name=one.name)
        yield from points(STRING, where, one.judgements, part=f"string/{one.name}")
    for tracker in stage.trackers:
        where = say("where", "tracker", name=str(tracker.number))
        part = f"tracker/{tracker.number}"
        yield from points(STRING, where, tracker.judgements, part=part)
    yield from points(STRING, say("where", "inverter"), stage.whole)


def _of_feed(stage: FeedStage) -> Iterator[OpenPoint]:
    yield from points(FEED, "", stage.judgements)
    parts: tuple[FeedPart, ...] = (
        *stage.runs,
        *stage.dc_runs,
        *stage.devices,
        *((stage.dc_switching,) if stage.dc_switching else ()),
        *stage.ends,
        *stage.containments,
    )
    for part in parts:
        yield from points(FEED, part.name, part.judgements)
    if stage.backup is not None:
        yield from points(FEED, say("where", "backup"), stage.backup.judgements)


def _of_talk(stage: TalkStage) -> Iterator[OpenPoint]:
    yield from points(TALK, "", stage.judgements)
    for device in stage.devices:
        yield from points(TALK, device.name, device.judgements)
        for port in device.ports:
            yield from points(TALK, port.key, port.judgements)
    for wire in stage.wires:
        yield from points(TALK, wire.name, wire.judgements)
    if stage.bus is not None:
        yield from points(TALK, say("where", "bus"), stage.bus.judgements)
    if stage.meter is not None:
        yield from points(TALK, say("where", "meter"), stage.meter.judgements)
    if stage.optimisers is not None:
        yield from points(TALK, say("where", "map"), stage.optimisers.judgements)
    for signal in stage.signals:
        yield from points(TALK, signal.title, signal.judgements)
