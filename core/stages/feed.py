"""Stage 5, Feed: the AC run, the ladder of volts on it, and what the next size buys."""

from __future__ import annotations

import math

from core.assessment import Ask, FeedStage, Rung, SizeStep
from core.job import SUPPLY_PAIRS, Job
from core.judgement import Judgement, waiting, worst
from core.packs import AcRule, Conductor
from core.profiles import profile, steady_trip_v
from core.rules.voltage_rise import (
    RISE_SOURCE,
    AcRise,
    RunSegment,
    ac_cores,
    ac_most_export,
    ac_rise,
    ac_rise_limit,
    ac_supply,
    ac_terminal_room,
    resistance_at,
)
from core.stages.readings import Readings, ask
from core.words import figure, say

STAGE = 5
# The supply is measured on arriving, against the nameplate.
ARRIVE = 1


class Feed:
    """One job's AC run for any conductor size."""

    def __init__(self, job: Job, readings: Readings) -> None:
        self.job = job
        self.rules: AcRule = job.rules.ac
        self.pairs = SUPPLY_PAIRS[job.inverter.service]
        measured = [
            (reading.value, pair)
            for pair in self.pairs
            if (reading := readings.latest("supply_voltage", pair)) is not None
        ]
        self.measured = len(measured) == len(self.pairs)
        # The highest conductor is the one that trips first.
        self.supply_v, self.pair = max(measured, default=(job.inverter.nominal_v, self.pairs[0]))
        self.trip_v, self.trip_name = self._trip()

    def _trip(self) -> tuple[float | None, str]:
        if self.job.grid.profile is None:
            return None, ""
        trip_v, point_id = steady_trip_v(profile(self.job.grid.profile))
        return trip_v, say("trip", point_id)

    def run(self, conductor: Conductor) -> tuple[RunSegment, ...]:
        """The run made of this conductor, at its working temperature."""
        warm = resistance_at(
            r20_ohm_per_km=conductor.r20_ohm_per_km,
            conductor_c=self.rules.conductor_temp.value,
        )
        return (
            RunSegment(
                name=say("feed", "inverter_rung"),
                length_m=self.job.feed.length_m,
                r_ohm_per_km=warm,
                x_ohm_per_km=self.rules.reactance.value,
            ),
        )

    def rise(self, conductor: Conductor) -> AcRise:
        """The voltages along the run at full export."""
        inverter = self.job.inverter
        return ac_rise(
            run=self.run(conductor),
            service=inverter.service,
            nominal_v=inverter.nominal_v,
            supply_v=self.supply_v,
            output_va=inverter.rated_ac_w,
        )

    def rise_judgement(self, rise: AcRise) -> Judgement:
        return ac_rise_limit(
            rise_pct=rise.rise_pct,
            limit_pct=self.rules.rise_limit.value,
            advisory_pct=self.rules.rise_advisory.value,
        )

    def room_judgement(self, rise: AcRise) -> Judgement:
        needs = () if self.measured else (say("needs", "supply"),)
        if self.trip_v is None:
            needs = (*needs, say("needs", "profile"))
        if needs or self.trip_v is None:
            return waiting("ac_terminal_room", "V", RISE_SOURCE, needs)
        return ac_terminal_room(terminal_v=rise.terminal_v, trip_v=self.trip_v)

    def most_export_w(self, conductor: Conductor) -> float | None:
        if self.trip_v is None:
            return None
        most = ac_most_export(
            run=self.run(conductor),
            service=self.job.inverter.service,
            supply_v=self.supply_v,
            trip_v=self.trip_v,
        )
        return min(most, self.job.inverter.rated_ac_w) if math.isfinite(most) else None


def feed_stage(job: Job, readings: Readings) -> tuple[FeedStage, tuple[Ask, ...]]:
    """The run judged, each size compared, and the supply asked for."""
    feed = Feed(job, readings)
    chosen = _conductor(feed)
    rise = feed.rise(chosen) if chosen else None
    judgements = _judgements(feed, rise)
    stage = FeedStage(
        service=job.inverter.service,
        nominal_v=job.inverter.nominal_v,
        supply_v=feed.supply_v,
        supply_measured=feed.measured,
        supply_pair=feed.pair,
        export_w=job.inverter.rated_ac_w,
        trip_v=feed.trip_v,
        trip_name=feed.trip_name,
        line=_line(feed, rise),
        rungs=_rungs(feed, rise),
        rise=rise,
        sizes=_sizes(feed, rise),
        judgements=judgements,
    )
    return stage, tuple(_supply_ask(feed, readings, pair) for pair in feed.pairs)


def _conductor(feed: Feed) -> Conductor | None:
    size = feed.job.feed.section_mm2
    return next((c for c in feed.rules.conductors if c.section_mm2 == size), None)


def _judgements(feed: Feed, rise: AcRise | None) -> tuple[Judgement, ...]:
    cores = ac_cores(service=feed.job.inverter.service, cores=feed.job.feed.cores)
    if rise is None:
        needs = (say("needs", "size"),)
        return (waiting("ac_rise_limit", "%", RISE_SOURCE, needs), cores)
    return (feed.room_judgement(rise), feed.rise_judgement(rise), cores)


def _rungs(feed: Feed, rise: AcRise | None) -> tuple[Rung, ...]:
    if rise is None:
        return ()
    names = (say("feed", "supply_rung"), say("feed", "inverter_rung"))
    size = f"{figure(feed.job.feed.length_m, 'm')} of {figure(feed.job.feed.section_mm2, 'mm²')}"
    notes = (feed.pair, size)
    return tuple(
        Rung(name=name, volts=volts, note=note)
        for name, volts, note in zip(names, rise.node_v, notes, strict=True)
    )


def _line(feed: Feed, rise: AcRise | None) -> str:
    if rise is None or feed.trip_v is None:
        return say("feed", "no_trip")
    room_v = feed.trip_v - rise.terminal_v
    trip = figure(feed.trip_v, "V")
    if room_v < 0:
        return say("feed", "over", over=figure(-room_v, "V"), trip=trip)
    return say("feed", "room", room=figure(room_v, "V"), trip=trip)


def _sizes(feed: Feed, chosen: AcRise | None) -> tuple[SizeStep, ...]:
    return tuple(_size(feed, conductor, chosen) for conductor in feed.rules.conductors)


def _size(feed: Feed, conductor: Conductor, chosen: AcRise | None) -> SizeStep:
    rise = feed.rise(conductor)
    most_w = feed.most_export_w(conductor)
    rated_w = feed.job.inverter.rated_ac_w
    is_whole = most_w is not None and most_w >= rated_w
    export_text = "" if most_w is None else figure(most_w / 1000, "kW", 2)
    if is_whole:
        export_text = say("feed", "whole", rated=figure(rated_w / 1000, "kW", 2))
    verdicts = [j.verdict for j in (feed.room_judgement(rise), feed.rise_judgement(rise))]
    return SizeStep(
        section_mm2=conductor.section_mm2,
        chosen=conductor.section_mm2 == feed.job.feed.section_mm2,
        verdict=worst(verdicts),
        rise_v=rise.rise_v,
        rise_pct=rise.rise_pct,
        terminal_v=rise.terminal_v,
        room_v=None if feed.trip_v is None else feed.trip_v - rise.terminal_v,
        most_export_w=most_w,
        export_text=export_text,
        buys=_buys(feed, conductor, rise, chosen),
    )


def _buys(feed: Feed, conductor: Conductor, rise: AcRise, chosen: AcRise | None) -> str:
    if chosen is None or conductor.section_mm2 <= feed.job.feed.section_mm2:
        return ""
    more = conductor.section_mm2 / feed.job.feed.section_mm2
    less_v = chosen.rise_v - rise.rise_v
    return say("feed", "buys", less=figure(less_v, "V", 2), more=f"{figure(more)} ×")


def _supply_ask(feed: Feed, readings: Readings, pair: str) -> Ask:
    nominal_v = feed.job.inverter.nominal_v
    tolerance_pct = feed.rules.supply_tolerance.value
    latest = readings.latest("supply_voltage", pair)
    judgement = (
        ac_supply(supply_v=latest.value, nominal_v=nominal_v, tolerance_pct=tolerance_pct)
        if latest
        else waiting(
            "ac_supply",
            "V",
            feed.rules.supply_tolerance.source,
            (say("needs", "reading"),),
        )
    )
    low, high = (nominal_v * (1 + sign * tolerance_pct / 100) for sign in (-1, 1))
    text = f"{figure(low, digits=0)} to {figure(high, 'V', 0)}"
    return ask(
        readings,
        STAGE,
        "supply_voltage",
        pair,
        (judgement,),
        expected=(low, high),
        expected_text=text,
        also_at=(ARRIVE,),
    )
