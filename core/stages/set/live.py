"""One poll of the inverter judged: by the plan of its strings, its sheet, the profile, the sun."""

from __future__ import annotations

from collections.abc import Iterator

from core.base.judgement import Judgement
from core.base.messages import say
from core.job.job import Job
from core.job.live import Live
from core.planning.dc.string_plans import planner_on
from core.rules.grid.live_values import (
    live_dark,
    live_open,
    live_power,
    live_supply,
    live_tracker_volts,
)
from core.stages.permissions.switches import ac_path, all_on

READ = "read_back"
# A register of an open input wanders this far below nothing; further is a pole the wrong way round.
NOISE_V = 1.0


def judged_live(job: Job, live: Live, elevation_deg: float) -> tuple[Judgement, ...]:
    """What a poll says that was not planned. elevation_deg: of the sun over the site then."""
    if live.outcome != READ:
        return ()
    return (*_trackers(job, live), *_power(job, live, elevation_deg), *_supply(job, live))


def _trackers(job: Job, live: Live) -> Iterator[Judgement]:
    if job.inverter is None or job.optimiser is not None:
        return
    for tracker in live.trackers:
        cold = [
            planner_on(job, one.plane)
            .volts(one.modules_in_series, job.plane(one.plane).mounting)
            .voc_cold_v
            for one in job.strings
            if one.tracker == tracker.number
        ]
        known = [volts for volts in cold if volts is not None]
        if tracker.volts is not None and known:
            yield live_tracker_volts(
                measured_v=_without_noise(tracker.volts),
                voc_cold_v=max(known),
                name=say("where", "tracker", name=str(tracker.number)),
            )


def _power(job: Job, live: Live, elevation_deg: float) -> Iterator[Judgement]:
    if live.power_w is None:
        return
    yield live_power(power_w=live.power_w, rated_ac_w=job.source.rated_ac_w)
    if job.feed.backup is None:
        yield live_dark(power_w=live.power_w, elevation_deg=elevation_deg)


def _supply(job: Job, live: Live) -> Iterator[Judgement]:
    chosen = job.grid_profile
    low_v, high_v = (
        (chosen.value("under_voltage_1_v"), chosen.value("over_voltage_1_v"))
        if chosen
        else (None, None)
    )
    if low_v is None or high_v is None:
        return
    if not job.feed.backup and not all_on(job, ac_path(job)):
        for line in live.lines:
            yield live_open(measured_v=_without_noise(line.volts), pair=line.pair)
        return
    for line in live.lines:
        yield live_supply(measured_v=line.volts, low_v=low_v, high_v=high_v, pair=line.pair)


def _without_noise(volts: float) -> float:
    return 0.0 if -NOISE_V < volts < 0 else volts
