"""Around the runs: containment, backup and battery, and the supply made dead."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import product

from core.assessment.feed import BackupState, ContainmentState, EndState, PhaseLoad
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, holds, waiting, worst
from core.base.messages import figure, say
from core.base.stage_numbers import FEED as STAGE
from core.job.feed import (
    SIGNAL,
    STRING_RUN,
    BackupPlan,
    Containment,
    LoadGroup,
    string_run,
)
from core.job.job import Job
from core.job.subjects import DEAD_SOURCE, dead_steps
from core.rules.ac.backup import (
    BACKUP_SOURCE,
    backup_current,
    backup_one_phase,
    backup_units,
    shutdown_line,
)
from core.rules.ac.terminations import containment_fill, containment_parted
from core.rules.prove.yes_no_steps import step_seen, step_waits
from core.stages.feed.battery import battery_judgements
from core.stages.feed.context import Feed, deciding
from core.stages.feed.island import island
from core.stages.reading_index import prompt

FILL_SOURCE = "trade practice (space factor)"
WIRES = 2
# The fill of a conduit by trade size is told apart for one, two, and three or more conductors.
MOST_TOLD_APART = 3
PHASES = (1, 2, 3)


def containment(
    feed: Feed, one: Containment, ends: tuple[EndState, ...]
) -> tuple[ContainmentState, Prompt | None]:
    """One way and what shares it; its lid asked for where it has one."""
    strings = [name for name in one.holds if name.startswith(STRING_RUN)]
    has_signal = SIGNAL in one.holds
    has_ac = len(one.holds) > len(strings) + has_signal
    fill = _fill(feed, one)
    parted = (
        containment_parted(dc=bool(strings), ac=has_ac, signal=has_signal, parted=one.parted)
        if one.holds
        else waiting("containment_alone", "", FILL_SOURCE, (say("needs", "holds", name=one.name),))
    )
    judgements = (parted, *([fill] if fill else []))
    lid = None if one.way == "open" else _lid_prompt(feed, one, ends)
    every = (*judgements, *(lid.judgements if lid else ()))
    slack = say("feed", "slack", length=figure(one.slack_m, "m")) if one.slack_m else ""
    line, _ = deciding(every, slack or say("feed", "way_clear"))
    state = ContainmentState(
        name=one.name,
        title=say("ways", one.way, holds=", ".join(one.holds) or say("ways", "nothing")),
        fill_pct=fill.value if fill else None,
        judgements=judgements,
        verdict=worst(one.verdict for one in every),
        line=line,
    )
    return state, lid


def _fill(feed: Feed, one: Containment) -> Judgement | None:
    if one.way == "open" or not one.holds:
        return None
    inside_mm2 = _inside_mm2(feed, one)
    outsides = [size for name in one.holds for size in _outsides(feed, one, name)]
    known = [size for size in outsides if size is not None]
    needs = tuple(
        [say("needs", "inside", name=one.name)] * (inside_mm2 is None)
        + [say("needs", "outsides", name=one.name)] * (len(known) < len(outsides))
    )
    if needs or inside_mm2 is None or not known:
        return waiting("containment_fill", "%", FILL_SOURCE, needs)
    rule = feed.rules.run
    limit = rule.conduit_fill if one.way == "pipe" else rule.trunking_fill
    most_pct = limit.value
    if one.way == "pipe" and one.trade_size is not None:
        # By count: one conductor, two, or more of them.
        row = str(min(len(known), MOST_TOLD_APART))
        most_pct = feed.rules.table("trade_fill").at(row, "share") or most_pct
    return containment_fill(outsides_mm=tuple(known), inside_mm2=inside_mm2, limit_pct=most_pct)


def _inside_mm2(feed: Feed, one: Containment) -> float | None:
    if one.way == "pipe" and one.trade_size is not None:
        return feed.rules.table("trade_size").at(one.trade_size, "area")
    if one.width_mm is None or (one.way == "trunking" and one.height_mm is None):
        return None
    if one.way == "pipe":
        return math.pi / 4 * one.width_mm**2
    return one.width_mm * (one.height_mm or 0.0)


def _outsides(feed: Feed, one: Containment, name: str) -> list[float | None]:
    if name == SIGNAL:
        return [one.signal_mm]
    for string in feed.job.strings:
        if name == string_run(string.name):
            return [string.home_run[-1].outside_mm if string.home_run else None] * WIRES
    return [next(run.outside_mm for run in feed.job.feed.runs if run.name == name)]


def _lid_prompt(feed: Feed, one: Containment, ends: tuple[EndState, ...]) -> Prompt:
    latest = feed.readings.latest("lid", one.name)
    unmade = [end.name for end in ends if end.run in one.holds and end.pull_verdict != "clear"]
    if latest is None:
        judgement = step_waits(step="lid")
    elif unmade and latest.is_good:
        judgement = waiting("step_lid", "", DEAD_SOURCE, (say("needs", "end", name=unmade[0]),))
    else:
        judgement = step_seen(step="lid", sign=latest.sign)
    return prompt(feed.readings, STAGE, "lid", one.name, (judgement,))


def backup_state(job: Job, plan: BackupPlan) -> BackupState:
    """Loads of each phase, the battery and the shutdown line judged."""
    loads, alone = tuple(_phase_loads(plan)), island(job, plan)
    all_three = ", ".join(one.name for one in plan.loads if one.backed_up and one.phase == 0)
    unplanned = waiting("backup_current", "A", BACKUP_SOURCE, (say("needs", "loads"),))
    judgements = (
        *(() if plan.loads else (unplanned,)),
        *(judged for _, judged in loads),
        backup_one_phase(three_phase_loads=all_three, three_phase=plan.three_phase),
        *battery_judgements(job, plan.battery),
        *_units_held(job, plan),
        shutdown_line(wired=plan.shutdown_line),
        *alone.judgements,
    )
    line, _ = deciding(judgements, say("feed", "backup_clear"))
    return BackupState(
        phases=tuple(load for load, _ in loads),
        judgements=judgements,
        verdict=worst(one.verdict for one in judgements),
        line=line,
        alone=alone.line,
        lasts_h=alone.lasts_h,
    )


def _units_held(job: Job, plan: BackupPlan) -> tuple[Judgement, ...]:
    """Roof units beside a backup: what it can hold back of them when the supply is gone."""
    if job.micro is None:
        return ()
    if plan.held_back_va is None:
        needs = (say("needs", "units_va"),)
        return (waiting("backup_units", "VA", BACKUP_SOURCE, needs),)
    return (backup_units(units_va=job.source.rated_ac_w, limit_va=plan.held_back_va),)


def _phase_loads(plan: BackupPlan) -> Iterator[tuple[PhaseLoad, Judgement]]:
    """What each phase carries, backed up and not; a phase without loads only where all are."""
    for number, backed_up in product(PHASES if plan.three_phase else PHASES[:1], (True, False)):
        on_it = [
            one for one in plan.loads if one.backed_up == backed_up and _is_on(plan, one, number)
        ]
        if not on_it and (not backed_up or not plan.loads):
            continue
        name = f"L{number}" if plan.three_phase else "L"
        current_a = math.fsum(one.current_a for one in on_it)
        judged = backup_current(
            current_a=current_a, limit_a=plan.most_a, phase=name, backed_up=backed_up
        )
        load = PhaseLoad(
            phase=name,
            backed_up=backed_up,
            current_a=current_a,
            limit_a=plan.most_a,
            loads=", ".join(one.name for one in on_it),
            verdict=judged.verdict,
        )
        yield load, judged


def _is_on(plan: BackupPlan, load: LoadGroup, phase: int) -> bool:
    return load.phase in (0, phase) or not plan.three_phase


def dead_prompts(feed: Feed) -> tuple[Prompt, ...]:
    """The steps of making dead, each asked for; whether all is dead now the permissions say."""
    asks = []
    for step in dead_steps(on_wall=feed.job.inverter is not None):
        latest = feed.readings.latest("dead_step", step)
        shown = say("dead_steps", step)
        judgement = (
            holds("dead_step", latest.is_good, DEAD_SOURCE, step=shown)
            if latest
            else waiting("dead_step", "", DEAD_SOURCE, (shown,))
        )
        asks.append(
            prompt(feed.readings, STAGE, "dead_step", step, (judgement,), shown_subject=shown)
        )
    return tuple(asks)
