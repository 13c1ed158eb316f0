"""Runs judged one by one: AC pieces between devices, and strings' home runs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import fsum

from core.assessment.feed import DcRunState, DcSizeStep, RunState
from core.base.errors import Refused
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import figure, say
from core.base.trace import kept_ready
from core.base.units import gauge_of, size_name
from core.figures.rule_packs import RulePack
from core.job.feed import AcRun, HomeRun, string_run
from core.job.job import Job
from core.job.strings import StringPlan
from core.planning.dc.currents import string_bears_a
from core.rules.ac.cable_loss import yearly_loss
from core.rules.ac.conductors import Ampacity, dc_resistance, pv_wire_ampacity
from core.rules.ac.supply_safety import SHARED_SOURCE, shared_cable
from core.rules.ac.voltage_rise import AcRise
from core.rules.dc.array_safety import cable_voltage, roof_raceway_air
from core.rules.dc.dc_drop import (
    AMPACITY_SOURCE,
    DROP_SOURCE,
    DcDrop,
    DcPiece,
    dc_ampacity,
    dc_drop,
    dc_drop_limit,
    dc_terminals,
)
from core.stages.feed.context import Feed, deciding, not_in_tables
from core.stages.feed.voltage_profile import KILO_DIGITS, carried, loss_kwh, run_title, sizes

# Strings that are alike, and a size looked at again, are judged once.
RUNS_KEPT = 4096
SHOWN_PIECES = 2


def run_state(feed: Feed, run: AcRun, rise: AcRise | None) -> RunState:
    """One AC run: what it carries, what it lifts, what the next size buys."""
    ampacity, judgements = carried(feed, run)
    judgements = (*judgements, *_shared(feed, run, ampacity))
    in_chain = run in feed.chain.runs
    index = feed.chain.runs.index(run) if in_chain else -1
    lifted = rise.node_v[index + 1] - rise.node_v[index] if rise and in_chain else None
    line, _ = deciding(judgements, _clear_line(ampacity, lifted))
    return RunState(
        name=run.name,
        start=run.start,
        end=run.end,
        title=run_title(run),
        current_a=feed.run_a(run),
        ampacity=ampacity,
        rise_v=lifted,
        loss_kwh=_loss(feed, run),
        sizes=sizes(feed, run),
        judgements=judgements,
        verdict=worst(("clear", *(one.verdict for one in judgements))),
        line=line,
    )


def _shared(feed: Feed, run: AcRun, ampacity: Ampacity | None) -> Iterator[Judgement]:
    """A cable on which loads hang too: both ends feed into it."""
    if not run.shared or ampacity is None:
        return
    by_a = feed.protected_by_a(run)
    if by_a is None:
        yield waiting("shared_cable", "A", SHARED_SOURCE, (feed.breaker_needed(run),))
        return
    yield shared_cable(iz_a=ampacity.iz_a, breaker_a=by_a, inverter_a=feed.run_a(run))


def _clear_line(ampacity: Ampacity | None, lifted: float | None) -> str:
    carries = "" if ampacity is None else say("feed", "carries", iz=figure(ampacity.iz_a, "A"))
    lifts = "" if lifted is None else say("feed", "lifts", rise=figure(lifted, "V", KILO_DIGITS))
    return " ".join(one for one in (carries, lifts) if one)


def _loss(feed: Feed, run: AcRun) -> float | None:
    try:
        return loss_kwh(feed, run, feed.segment(run))
    except Refused:
        return None


@dataclass(frozen=True, kw_only=True)
class StringLoad:
    """What Feed looks at of a string: its power, and its volts on the coldest morning."""

    power_w: float
    voc_cold_v: float | None


def dc_run_state(job: Job, string: StringPlan, assessed: StringLoad) -> DcRunState:
    """One string's home run: what it carries, what it drops, what the next size buys."""
    current_a, string_v, most_a = _string_figures(job, string, assessed)
    pieces = in_the_sun(job, string)
    ampacity, drop, judgements = _dc_judged(job.rules, pieces, current_a, string_v, most_a)
    judgements = (*judgements, *_insulated(pieces, assessed))
    volts = "" if drop is None else figure(drop.drop_v, "V", KILO_DIGITS)
    share = "" if drop is None else figure(drop.drop_pct, "%", KILO_DIGITS)
    line, _ = deciding(judgements, say("feed", "drops", volts=volts, share=share))
    return DcRunState(
        string=string.name,
        name=string_run(string.name),
        title=dc_title(string.home_run),
        current_a=current_a,
        string_v=string_v,
        ampacity=ampacity,
        drop=drop,
        loss_kwh=None if drop is None else _dc_loss(job, drop),
        sizes=_dc_sizes(job, string, current_a, string_v, most_a),
        judgements=judgements,
        verdict=worst(one.verdict for one in judgements),
        line=line,
    )


def in_the_sun(job: Job, string: StringPlan) -> tuple[HomeRun, ...]:
    """A string's way, hotter where it lies in a raceway low over a roof."""
    name = string_run(string.name)
    low = [
        one.above_roof_mm
        for one in job.feed.containments
        if name in one.holds and one.above_roof_mm is not None
    ]
    if not low:
        return string.home_run
    return tuple(
        replace(
            one,
            air_c=roof_raceway_air(air_c=one.air_c, above_roof_mm=min(low), rule_pack=job.rules),
        )
        for one in string.home_run
    )


def _insulated(pieces: tuple[HomeRun, ...], assessed: StringLoad) -> Iterator[Judgement]:
    """Whether the cable is made for the volts of the string, where its print is known."""
    known = [one.rated_v for one in pieces if one.rated_v is not None]
    if known and assessed.voc_cold_v is not None:
        yield cable_voltage(rated_v=min(known), voc_cold_v=assessed.voc_cold_v)


def _string_figures(
    job: Job, string: StringPlan, assessed: StringLoad
) -> tuple[float, float, float]:
    """Current and voltage at full sun, and the current that the wire must bear."""
    factor = job.rules.current.isc_factor.value
    if job.optimiser is not None:
        volts = job.optimiser.fixed_string_v
        amps = assessed.power_w / volts
        return amps, volts, factor * amps
    module = job.module_on(string.plane)
    volts = string.modules_in_series * module.vmp_v
    return module.imp_a, volts, string_bears_a(job, string)


def dc_title(pieces: tuple[HomeRun, ...]) -> str:
    """Lengths and sizes of a home run; of a long one its whole length."""
    if len(pieces) > SHOWN_PIECES:
        return say(
            "feed",
            "dc_pieces",
            length=figure(fsum(one.length_m for one in pieces), "m"),
            count=str(len(pieces)),
            sizes=", ".join(dict.fromkeys(size_name(one.section_mm2) for one in pieces)),
        )
    return " + ".join(
        say("feed", "dc_run", length=figure(one.length_m, "m"), size=size_name(one.section_mm2))
        for one in pieces
    )


@kept_ready(RUNS_KEPT)
def _dc_judged(
    rules: RulePack,
    pieces: tuple[HomeRun, ...],
    current_a: float,
    string_v: float,
    most_a: float,
) -> tuple[Ampacity | None, DcDrop | None, tuple[Judgement, ...]]:
    if not pieces:
        needs = (say("needs", "home_run"),)
        waits = (
            waiting("dc_ampacity", "A", AMPACITY_SOURCE, needs),
            waiting("dc_drop_limit", "%", DROP_SOURCE, needs),
        )
        return None, None, waits
    ampacity, carries = _weakest(rules, pieces, most_a)
    bears = _terminals(rules, ampacity, most_a)
    try:
        drop = dc_drop(
            pieces=tuple(_piece(rules, one) for one in pieces),
            current_a=current_a,
            string_vmp_v=string_v,
        )
    except Refused as refused:
        return (
            ampacity,
            None,
            (*bears, carries, not_in_tables("dc_drop_limit", "%", DROP_SOURCE, refused)),
        )
    rule = rules.run
    limit = dc_drop_limit(
        drop_pct=drop.drop_pct,
        limit_pct=rule.dc_limit.value,
        advisory_pct=rule.dc_advisory.value,
    )
    return ampacity, drop, (carries, *bears, limit)


def _piece(rules: RulePack, piece: HomeRun) -> DcPiece:
    return DcPiece(
        length_m=piece.length_m,
        r_ohm_per_km=dc_resistance(
            section_mm2=piece.section_mm2,
            conductor_c=rules.run.dc_conductor_temp.value,
            material=piece.material,
            rule_pack=rules,
        ),
    )


def _weakest(
    rules: RulePack, pieces: tuple[HomeRun, ...], most_a: float
) -> tuple[Ampacity | None, Judgement]:
    """The piece that carries least decides."""
    try:
        found = [
            pv_wire_ampacity(
                section_mm2=piece.section_mm2,
                laid=piece.laid,
                air_c=piece.air_c,
                grouped=piece.grouped,
                material=piece.material,
                rule_pack=rules,
            )
            for piece in pieces
        ]
    except Refused as refused:
        return None, not_in_tables("dc_ampacity", "A", AMPACITY_SOURCE, refused)
    ends = [one.terminal_a for one in found if one.terminal_a is not None]
    # The smallest gauge has the smallest ends, wherever the heat takes most of another.
    weakest = replace(min(found, key=lambda one: one.iz_a), terminal_a=min(ends, default=None))
    return weakest, dc_ampacity(iz_a=weakest.iz_a, string_a=most_a, source=weakest.source)


def _terminals(rules: RulePack, weakest: Ampacity | None, most_a: float) -> tuple[Judgement, ...]:
    """What the ends bear, where a wire by gauge has terminals with a limit of their own."""
    if weakest is None or weakest.terminal_a is None:
        return ()
    return (dc_terminals(terminal_a=weakest.terminal_a, string_a=most_a, rule_pack=rules),)


def _dc_loss(job: Job, drop: DcDrop) -> float:
    return yearly_loss(loss_w=drop.loss_w, loss_hours=job.rules.run.loss_hours.value)


def _dc_sizes(
    job: Job, string: StringPlan, current_a: float, string_v: float, most_a: float
) -> tuple[DcSizeStep, ...]:
    pieces = string.home_run
    if not pieces:
        return ()
    by_gauge = gauge_of(pieces[0].section_mm2) is not None
    own = {piece.section_mm2 for piece in pieces}
    sized = [size for size in job.rules.dc_sizes_mm2 if (gauge_of(size) is not None) == by_gauge]
    found: list[DcSizeStep] = []
    now = _dc_judged(job.rules, pieces, current_a, string_v, most_a)[1]
    for size in sorted(sized):
        made = tuple(_resized(piece, size) for piece in pieces)
        ampacity, drop, judged = _dc_judged(job.rules, made, current_a, string_v, most_a)
        if drop is None:
            continue
        loss = _dc_loss(job, drop)
        is_larger = now is not None and drop.drop_v < now.drop_v and size > max(own)
        buys = ""
        if is_larger and now is not None:
            buys = say(
                "feed",
                "buys",
                less=figure(now.drop_v - drop.drop_v, "V", KILO_DIGITS),
                kwh=figure(_dc_loss(job, now) - loss, "kWh", 0),
                more=f"{figure(size / max(own))} ×",
            )
        found.append(
            DcSizeStep(
                section_mm2=size,
                name=size_name(size),
                chosen=own == {size},
                verdict=worst(one.verdict for one in judged),
                iz_a=ampacity.iz_a if ampacity else None,
                drop_v=drop.drop_v,
                drop_pct=drop.drop_pct,
                loss_kwh=loss,
                buys=buys,
            )
        )
    return tuple(found)


def _resized(piece: HomeRun, size: float) -> HomeRun:
    return HomeRun(**(vars(piece) | {"section_mm2": size}))
