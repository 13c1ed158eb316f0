"""Job in, assessment out: calls the stages in order, adds nothing of its own."""

from __future__ import annotations

from collections.abc import Iterable

from core.assessment import (
    Ask,
    Assessment,
    PackLabel,
    StageStanding,
    StringStage,
)
from core.job import Job
from core.judgement import Judgement, Verdict, worst
from core.packs import pack
from core.stages import feed, grid, string
from core.stages.readings import Readings
from core.words import say

STAGES = range(1, 11)
LEAVE = 10
BUILT = (string.STAGE, feed.STAGE, grid.STAGE, LEAVE)
SHOWN_BLOCKS = 3


def assess(job: Job) -> Assessment:
    """Everything that can be said of a job: each verdict with value, limit, reason and source."""
    readings = Readings(job)
    string_stage, string_asks = string.string_stage(job, readings)
    feed_stage, feed_asks = feed.feed_stage(job, readings)
    grid_stage, grid_asks = grid.grid_stage(job, readings)
    asks = (*string_asks, *feed_asks, *grid_asks)
    judgements = {
        string.STAGE: _string_judgements(string_stage),
        feed.STAGE: feed_stage.judgements,
        grid.STAGE: grid_stage.judgements,
    }
    before = tuple(
        _standing(number, judgements[number], [a for a in asks if a.stage == number])
        for number in judgements
    )
    leave = _leave(before)
    standings = {standing.number: standing for standing in (*before, leave)}
    rules = pack(job.rule_pack)
    return Assessment(
        job_id=job.id,
        name=job.name,
        day=job.day,
        rule_pack=PackLabel(id=rules.id, name=rules.name, edition=rules.edition, note=rules.note),
        verdict=worst(standing.verdict for standing in before),
        stands_at=_stands_at(before),
        stages=tuple(standings.get(number) or _not_built(number) for number in STAGES),
        asks=asks,
        string=string_stage,
        feed=feed_stage,
        grid=grid_stage,
        open_points=_open_points(judgements.values(), asks),
    )


def _string_judgements(stage: StringStage) -> tuple[Judgement, ...]:
    parts = (*stage.strings, *stage.trackers)
    return tuple(judgement for part in parts for judgement in part.judgements)


def _standing(number: int, judgements: tuple[Judgement, ...], asks: list[Ask]) -> StageStanding:
    needed = [ask for ask in asks if not ask.optional]
    every = [*judgements, *(j for ask in needed for j in ask.judgements)]
    stops = [judgement for judgement in every if judgement.verdict == "stop"]
    return StageStanding(
        number=number,
        title=say("stages", str(number)),
        built=True,
        verdict=worst(judgement.verdict for judgement in every),
        blocks=tuple(judgement.reason for judgement in stops[:SHOWN_BLOCKS]),
        next=_next(number, stops, needed, judgements),
    )


def _next(
    number: int, stops: list[Judgement], asks: list[Ask], judgements: tuple[Judgement, ...]
) -> str:
    if stops:
        return stops[0].reason
    waiting_rules = {j.rule_id for j in judgements if j.verdict == "waiting"}
    if number == grid.STAGE and "grid_profile" in waiting_rules:
        return say("next", "pick_profile")
    if number == grid.STAGE and "device_answer" in waiting_rules:
        return say("next", "write_profile")
    unread = next((ask for ask in asks if ask.reading is None), None)
    if unread:
        return say("next", "read", title=unread.title)
    unsettled = next((ask for ask in asks if ask.verdict == "waiting"), None)
    if unsettled:
        return say("next", "read", title=unsettled.title)
    open_judgement = next((j for j in judgements if j.verdict == "waiting"), None)
    return open_judgement.reason if open_judgement else say("next", "done")


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
        next=undone[0].next if undone else say("next", "leave"),
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


def _open_points(
    judgements: Iterable[tuple[Judgement, ...]], asks: tuple[Ask, ...]
) -> tuple[Judgement, ...]:
    every = [
        *(judgement for group in judgements for judgement in group),
        *(judgement for ask in asks if not ask.optional for judgement in ask.judgements),
    ]
    return tuple(judgement for judgement in every if judgement.verdict != "clear")


