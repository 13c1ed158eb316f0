"""What else feeds the house: what it adds to shared cables, to the board's busbar, to a phase."""

from __future__ import annotations

from math import fsum

from core.base.judgement import Judgement, waiting
from core.base.messages import say
from core.figures.rule_packs import BranchRule
from core.job.ac_source import AcSource
from core.job.feed import AcRun, FeedPlan, OtherSource
from core.job.microinverter import MicroPlan, phase_a
from core.rules.ac.phases import (
    UNBALANCE_SOURCE,
    Beside,
    beside_factor,
    unbalance_limit,
    unbalance_of,
)
from core.rules.ac.voltage_rise import PHASES

LINES = (1, 2, 3)
VA_PER_KVA = 1000.0


def current_a(feed: FeedPlan, source: AcSource, one: OtherSource) -> float:
    """What another source gives each line that it feeds: by its plate, else by its breaker."""
    if one.output_va is None:
        return one.breaker_a
    lines = PHASES[feed.supply_service or source.service] if one.phase == 0 else 1
    return one.output_va / (lines * source.nominal_v)


def beside(feed: FeedPlan, source: AcSource, run: AcRun) -> tuple[Beside, ...]:
    """The other sources whose way from the supply leads over a run.

    On a one-phase supply all of it is one phase, whichever was named.
    """
    supply = feed.supply_service or source.service
    return tuple(
        Beside(
            phase=1 if supply == "single" else one.phase,
            current_a=current_a(feed, source, one),
        )
        for one in feed.others or ()
        if run in feed.chain_to(one.board).runs
    )


def factor(feed: FeedPlan, source: AcSource, run: AcRun, own_a: float) -> float:
    """How often a run counts for the inverter's own current while all others feed."""
    others = beside(feed, source, run)
    if not others:
        return 1.0
    supply = feed.supply_service or source.service
    phase = 1 if supply == "single" else feed.phase
    return beside_factor(service=source.service, own_a=own_a, others=others, phase=phase)


def fullest_a(feed: FeedPlan, source: AcSource, run: AcRun) -> float:
    """What the others add to the fullest line of a run."""
    others = beside(feed, source, run)
    return max(fsum(one.current_a for one in others if one.phase in (0, line)) for line in LINES)


def on_bar_a(feed: FeedPlan, source: AcSource, board: str, own_a: float) -> float:
    """What the breakers of other sources add to a board's fullest busbar.

    Of a one-phase inverter whose phase is not said the fullest line is taken to be its own.
    """
    here = [one for one in feed.others or () if one.board == board]
    apart = feed.supply_service == "three" and source.service == "single" and feed.phase
    lines = [fsum(one.breaker_a for one in here if one.phase in (0, line)) for line in LINES]
    if not apart:
        return max(lines)
    own = [line_a + own_a * (line == feed.phase) for line, line_a in zip(LINES, lines, strict=True)]
    return max(own) - own_a


def unbalance(
    feed: FeedPlan, source: AcSource, micro: MicroPlan | None, rule: BranchRule
) -> tuple[Judgement, ...]:
    """How far the phases are apart with everything that feeds a three-phase house.

    Of a roof or a three-phase inverter alone nothing is said here: the fullest and the emptiest are
    one plant's then. A one-phase inverter loads one of them with all it gives.
    """
    on_one = source.service == "single" and micro is None
    if feed.supply_service != "three" or not (feed.others or on_one):
        return ()
    if on_one and feed.others and feed.phase == 0:
        needs = (say("needs", "own_phase"),)
        return (waiting("unbalance_limit", "kVA", UNBALANCE_SOURCE, needs),)
    parts = [_own_kva(feed, source, micro)]
    for one in feed.others or ():
        amps = current_a(feed, source, one)
        parts.append(tuple(_kva(amps, source) * (one.phase in (0, line)) for line in LINES))
    worst = unbalance_of(tuple(parts))
    limit_kva = _kva(rule.unbalance.value, source)
    judged = unbalance_limit(
        unbalance_kva=worst.worst_kva, limit_kva=limit_kva, over=rule.unbalance_over
    )
    return (judged,)


def _own_kva(feed: FeedPlan, source: AcSource, micro: MicroPlan | None) -> tuple[float, ...]:
    if micro is not None and micro.three_phase:
        return tuple(_kva(load_a, source) for load_a in phase_a(micro))
    whole = source.rated_ac_w / VA_PER_KVA
    if source.service == "three":
        return tuple(whole / len(LINES) for _ in LINES)
    # Which phase it is does not matter to how far they are apart, of one alone.
    return tuple(whole * (line == (feed.phase or 1)) for line in LINES)


def _kva(amps: float, source: AcSource) -> float:
    return amps * source.nominal_v / VA_PER_KVA
