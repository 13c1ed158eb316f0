"""The ladder of volts: rung by rung at full export, today and on a day of high supply."""

from __future__ import annotations

import math
from itertools import zip_longest

from core.assessment.feed import Ladder, LadderLimit, Rung, SizeStep
from core.base.errors import Refused
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import figure, say
from core.base.units import gauge_of, size_name
from core.job.feed import AcRun
from core.rules.ac.cable_loss import cable_loss, yearly_loss
from core.rules.ac.circuit import conductor_carries, small_conductor
from core.rules.ac.conductors import Ampacity
from core.rules.ac.voltage_rise import (
    RISE_SOURCE,
    AcRise,
    RunSegment,
    ac_cores,
    ac_high_day,
    ac_most_export,
    ac_rise,
    ac_rise_limit,
    ac_terminal_room,
)
from core.rules.grid.export_response import Settled, export_settles
from core.stages.feed.context import Feed, not_in_tables

W_PER_KW = 1000.0
KILO_DIGITS = 2
TRIPS = ("over_voltage_1", "over_voltage_2")


def rise_at(feed: Feed, run: tuple[RunSegment, ...], supply_v: float) -> AcRise | None:
    """Voltages along a run at full export; None where no steady voltage exists."""
    try:
        return ac_rise(
            run=run,
            service=feed.ladder_service,
            nominal_v=feed.source.nominal_v,
            supply_v=supply_v,
            output_va=feed.ladder_va,
        )
    except Refused:
        return None


def own_rise_pct(feed: Feed, rise: AcRise) -> float:
    """The rise over the runs that the limit counts, in percent of nominal; a trunk counts."""
    ours = [
        after - before
        for run, before, after in zip_longest(feed.chain.runs, rise.node_v[:-1], rise.node_v[1:])
        if run is None or not run.of_network
    ]
    return 100 * math.fsum(ours) / feed.source.nominal_v


def ladder(feed: Feed, title: str, supply_v: float) -> Ladder | None:
    """The ladder of volts for one supply; None while the path has a gap."""
    run = feed.segments
    rise = rise_at(feed, run, supply_v) if run else None
    if run is None or rise is None:
        return None
    trip_v = feed.trip[0]
    most_w = most_export_w(feed, run, supply_v)
    settled = _settled(feed, run, supply_v)
    return Ladder(
        title=title,
        supply_v=supply_v,
        rungs=_rungs(feed, rise),
        terminal_v=rise.terminal_v,
        rise_v=rise.rise_v,
        rise_pct=own_rise_pct(feed, rise),
        room_v=None if trip_v is None else trip_v - rise.terminal_v,
        most_export_w=None if most_w is None else most_w / feed.share,
        export_text=export_text(feed, most_w),
        settled=settled,
        settled_text=_settled_text(feed, settled),
    )


def _rungs(feed: Feed, rise: AcRise) -> tuple[Rung, ...]:
    chain = feed.chain
    first = Rung(name=chain.rungs[0], volts=rise.node_v[0], run="", rise_v=0.0, note=feed.supply[1])
    pairs = zip(chain.runs, chain.rungs[1:], rise.node_v, rise.node_v[1:], strict=False)
    return (
        first,
        *(
            Rung(
                name=name,
                volts=after,
                run=run.name,
                rise_v=after - before,
                note=run_title(run),
            )
            for run, name, before, after in pairs
        ),
        *_last_unit(feed, rise),
    )


def _last_unit(feed: Feed, rise: AcRise) -> tuple[Rung, ...]:
    """The rung above the joint box: the unit of the branch that stands highest."""
    if feed.branch is None:
        return ()
    last = say("branches", "last", unit=feed.branch.units[-1], name=feed.branch.name)
    if feed.branch.feed == "centre":
        last = say("branches", "outer", name=feed.branch.name)
    return (
        Rung(
            name=last,
            volts=rise.terminal_v,
            run="",
            rise_v=rise.terminal_v - rise.node_v[-2],
            note=say("branches", "trunk_of", count=str(len(feed.branch.units))),
        ),
    )


def run_title(run: AcRun) -> str:
    """Length, cores and size of a run."""
    return say(
        "feed",
        "run",
        length=figure(run.length_m, "m"),
        cores=str(run.cores),
        size=size_name(run.section_mm2),
    )


def most_export_w(feed: Feed, run: tuple[RunSegment, ...], supply_v: float) -> float | None:
    """What may go up the ladder before the trip, at most all of it; None without a profile."""
    trip_v, rated_w = feed.trip[0], feed.ladder_va
    if trip_v is None:
        return None
    most = ac_most_export(run=run, service=feed.ladder_service, supply_v=supply_v, trip_v=trip_v)
    return min(most, rated_w) if math.isfinite(most) else rated_w


def export_text(feed: Feed, most_w: float | None) -> str:
    """How much may be exported, in words."""
    rated_w = feed.source.rated_ac_w
    if most_w is None:
        return ""
    if most_w >= feed.ladder_va:
        return say("feed", "whole", rated=figure(rated_w / W_PER_KW, "kW", KILO_DIGITS))
    return figure(most_w / feed.share / W_PER_KW, "kW", KILO_DIGITS)


def _settled(feed: Feed, run: tuple[RunSegment, ...], supply_v: float) -> Settled | None:
    watt, var = feed.responses
    if not watt and not var:
        return None
    return export_settles(
        run=run,
        service=feed.ladder_service,
        supply_v=supply_v,
        rated_va=feed.ladder_va,
        volt_watt=watt,
        volt_var=var,
    )


def _settled_text(feed: Feed, settled: Settled | None) -> str:
    if settled is None:
        return say("feed", "no_response")
    key = "settles_limited" if settled.limited else "settles_whole"
    reactive = abs(settled.reactive_var) / feed.share / W_PER_KW
    return say(
        "feed",
        key,
        volts=figure(settled.terminal_v, "V"),
        output=figure(settled.output_w / feed.share / W_PER_KW, "kW", KILO_DIGITS),
        reactive=figure(reactive, "kvar", KILO_DIGITS),
        way=say("feed", "absorbs" if settled.reactive_var <= 0 else "injects"),
    )


def limits(feed: Feed) -> tuple[LadderLimit, ...]:
    """Every over-voltage at which the profile stops the inverter, lowest first."""
    chosen = feed.profile
    if chosen is None:
        return ()
    found = []
    for step in TRIPS:
        volts, after_s = chosen.value(f"{step}_v"), chosen.value(f"{step}_s")
        if volts is not None:
            after = "" if after_s is None else figure(after_s, "s", KILO_DIGITS)
            found.append((volts, f"{step}_v", after))
    mean_v = chosen.value("over_voltage_mean_v")
    if mean_v is not None:
        found.append((mean_v, "over_voltage_mean_v", say("feed", "ten_minutes")))
    return tuple(
        LadderLimit(
            name=say("trip", point), volts=volts, after=after, lasting=volts == feed.trip[0]
        )
        for volts, point, after in sorted(found)
    )


def room_judgement(feed: Feed, rise: AcRise | None) -> Judgement:
    """Room to the trip on today's supply."""
    needs = _missing(feed, rise)
    if not feed.measured:
        needs = (say("needs", "supply"), *needs)
    trip_v = feed.trip[0]
    if needs or trip_v is None or rise is None:
        return waiting("ac_terminal_room", "V", RISE_SOURCE, needs)
    return ac_terminal_room(terminal_v=rise.terminal_v, trip_v=trip_v)


def high_day_judgement(feed: Feed, high: Ladder | None) -> Judgement:
    """Room to the trip on a day of high supply."""
    trip_v = feed.trip[0]
    if high is None or trip_v is None:
        return waiting("ac_high_day", "V", RISE_SOURCE, _missing(feed, high))
    return ac_high_day(
        terminal_v=high.terminal_v,
        trip_v=trip_v,
        supply_v=high.supply_v,
        settles_v=high.settled.terminal_v if high.settled else None,
    )


def _missing(feed: Feed, rung: object | None) -> tuple[str, ...]:
    profile = (say("needs", "profile"),) if feed.trip[0] is None else ()
    return (*profile, say("needs", "run_figures")) if rung is None else profile


def rise_judgement(feed: Feed, rise: AcRise | None) -> Judgement:
    """The rise of the runs that the limit counts."""
    if rise is None:
        return waiting("ac_rise_limit", "%", RISE_SOURCE, (say("needs", "run_figures"),))
    rule = feed.rules.ac
    return ac_rise_limit(
        rise_pct=own_rise_pct(feed, rise),
        limit_pct=rule.rise_limit.value,
        advisory_pct=rule.rise_advisory.value,
    )


def loss_kwh(feed: Feed, run: AcRun, segment: RunSegment) -> float:
    """What a run loses in a year, at the current that it carries itself."""
    loss_w = cable_loss(
        length_m=segment.length_m,
        r_ohm_per_km=segment.r_ohm_per_km / feed.shared(run),
        current_a=feed.run_a(run),
        service=feed.run_service(run),
    )
    return yearly_loss(loss_w=loss_w, loss_hours=feed.rules.run.loss_hours.value)


def sizes(feed: Feed, run: AcRun) -> tuple[SizeStep, ...]:
    """Every size of a run's own kind, metric or gauge, that the tables hold: what it would give.

    None for the operator's own cable: nobody here changes it.
    """
    if run.of_network or run not in feed.chain.runs or feed.segments is None:
        return ()
    by_gauge = gauge_of(run.section_mm2) is not None
    chosen = _size(feed, run, feed.segments[feed.chain.runs.index(run)], run.section_mm2, None)
    found = []
    for size in sorted(feed.rules.ac_sizes_mm2):
        if (gauge_of(size) is not None) != by_gauge:
            continue
        try:
            made = feed.segment(run, size)
        except Refused:
            continue
        found.append(_size(feed, run, made, size, chosen))
    return tuple(found)


def _size(
    feed: Feed, run: AcRun, made: RunSegment, size: float, chosen: SizeStep | None
) -> SizeStep:
    index = feed.chain.runs.index(run)
    whole = tuple(made if n == index else one for n, one in enumerate(feed.segments or ()))
    rise = rise_at(feed, whole, feed.supply[0])
    if rise is None:
        return _unknown(run, size)
    rise_v = rise.node_v[index + 1] - rise.node_v[index]
    trip_v, loss = feed.trip[0], loss_kwh(feed, run, made)
    ampacity, carries = carried(feed, run, size)
    judged = (room_judgement(feed, rise), rise_judgement(feed, rise), *carries)
    return SizeStep(
        section_mm2=size,
        name=size_name(size),
        chosen=size == run.section_mm2,
        verdict=worst(one.verdict for one in judged),
        iz_a=ampacity.iz_a if ampacity else None,
        rise_v=rise_v,
        terminal_v=rise.terminal_v,
        room_v=None if trip_v is None else trip_v - rise.terminal_v,
        export_text=export_text(feed, most_export_w(feed, whole, feed.supply[0])),
        loss_kwh=loss,
        buys=_buys(chosen, size, rise_v, loss),
    )


def carried(
    feed: Feed, run: AcRun, section_mm2: float | None = None
) -> tuple[Ampacity | None, tuple[Judgement, ...]]:
    """What a run carries as it is laid, of its own or of another size, and what is said of it."""
    # What lies behind the circuit's own breaker is ours, whatever is said of it.
    if run.of_network and not feed.behind_breaker(run):
        return None, ()
    cores = ac_cores(service=feed.run_service(run), cores=run.cores)
    size, source = section_mm2 or run.section_mm2, feed.rules.circuit.source
    try:
        ampacity = feed.ampacity(run, size)
    except Refused as refused:
        waits = not_in_tables("conductor_carries", "A", source, refused)
        return None, (waits, cores)
    by_a = feed.protected_by_a(run)
    if by_a is None:
        needs = (feed.breaker_needed(run),)
        return ampacity, (waiting("conductor_carries", "A", source, needs), cores)
    carries = conductor_carries(iz_a=ampacity.iz_a, breaker_a=by_a, rule_pack=feed.rules)
    if gauge_of(size) is None:
        return ampacity, (carries, cores)
    small = small_conductor(section_mm2=size, breaker_a=by_a, rule_pack=feed.rules)
    return ampacity, (carries, small, cores)


def _unknown(run: AcRun, size: float) -> SizeStep:
    return SizeStep(
        section_mm2=size,
        name=size_name(size),
        chosen=size == run.section_mm2,
        verdict="stop",
        iz_a=None,
        rise_v=0.0,
        terminal_v=0.0,
        room_v=None,
        export_text=say("feed", "no_voltage"),
        loss_kwh=0.0,
        buys="",
    )


def _buys(chosen: SizeStep | None, size: float, rise_v: float, loss: float) -> str:
    if chosen is None or size <= chosen.section_mm2:
        return ""
    return say(
        "feed",
        "buys",
        less=figure(chosen.rise_v - rise_v, "V", KILO_DIGITS),
        kwh=figure(chosen.loss_kwh - loss, "kWh", 0),
        more=f"{figure(size / chosen.section_mm2)} ×",
    )
