"""What of the job keeps a step from being taken: each condition, and why it does not hold yet."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from core.assessment.grid import GridStage
from core.assessment.microinverter import RoofStage
from core.assessment.talk import TalkStage
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, Verdict
from core.base.messages import figure, say
from core.job.job import Job
from core.job.reading_kinds import ReadingKind
from core.job.sequences import Condition
from core.stages.permissions.grants import Permissions
from core.stages.reading_index import Readings

GOOD: tuple[Verdict, ...] = ("clear", "watch")
# What in Set must hold before anything is left running; its trials are made while it runs.
SETTLED = (
    "grid_profile",
    "profile_fits_service",
    "profile_fits_supply",
    "profile_fits_hertz",
    "profile_here",
    "profile_permitted",
    "settings_profile",
    "device_answer",
    "device_planned",
    "settings_agree",
    "settings_unchanged",
)


@dataclass(frozen=True, kw_only=True)
class SwitchingContext:
    """What the other stages say already. at: the moment asked about. grants: what may be done."""

    job: Job
    readings: Readings
    roof: RoofStage | None
    talk: TalkStage
    grid: GridStage
    asks: tuple[Prompt, ...]
    grants: Permissions
    at: datetime | None


def unmet(around: SwitchingContext, condition: Condition) -> str:
    """Why a condition does not hold, in a sentence; empty when it does."""
    return CHECKS[condition](around)


def _first_bad(judgements: Iterable[Judgement]) -> str:
    """The gravest of what is not good enough, in its own words."""
    bad = [one for one in judgements if one.verdict not in GOOD]
    return max(bad, key=lambda one: one.verdict == "stop").reason if bad else ""


def _asked(around: SwitchingContext, *kinds: ReadingKind) -> str:
    """Why the readings of some kinds are not good; empty when all are."""
    for one in around.asks:
        if one.kind in kinds and not one.optional and one.verdict not in GOOD:
            reason = _first_bad(one.judgements)
            return say("wake", "because", what=one.title, reason=reason)
    return ""


def _daylight(around: SwitchingContext) -> str:
    job = around.job
    least = job.rules.wake.daylight.value
    rule = job.rules.wake.daylight_age
    age = timedelta(minutes=rule.value)
    read = [
        around.readings.nearest("irradiance", plane.name, around.at, age) for plane in job.planes
    ]
    sun = max((one.number for one in read if one is not None), default=None)
    if sun is None:
        return say("wake", "no_sun_read", age=figure(rule.value, rule.unit))
    short = figure(least, "W/m²", 0), figure(sun, "W/m²", 0)
    return "" if sun >= least else say("wake", "too_dark", least=short[0], sun=short[1])


def _start_voltage(around: SwitchingContext) -> str:
    job = around.job
    if job.inverter is None or job.optimiser is not None:
        return ""
    start_v = job.inverter.dc.start_v
    for string in job.strings:
        read = around.readings.latest("open_circuit", string.name)
        if read is None:
            return say("wake", "no_volts", name=string.name)
        if read.number < start_v:
            return say(
                "wake",
                "too_low",
                name=string.name,
                volts=figure(read.number, "V"),
                start=figure(start_v, "V"),
            )
    return ""


def _profile(around: SwitchingContext) -> str:
    settled = [one for one in around.grid.judgements if one.rule_id in SETTLED]
    hand = [point.judgement for point in around.grid.points if point.by_hand]
    return _first_bad((*settled, *hand))


def _optimisers_report(around: SwitchingContext) -> str:
    return _asked(around, "reporting")


def _map_complete(around: SwitchingContext) -> str:
    return _first_bad(around.roof.map.judgements) if around.roof else ""


def _units_report(around: SwitchingContext) -> str:
    if around.roof is None:
        return ""
    if any(one.verdict == "clear" for one in around.talk.reporting):
        # A gateway that lists nothing is counted by hand.
        return ""
    gateway, units = around.roof.gateway, len(around.roof.units)
    count, of = str(gateway.reporting), str(units)
    return "" if gateway.reporting >= units else say("wake", "reporting", count=count, of=of)


def _branches_on(around: SwitchingContext) -> str:
    branches = around.roof.branches if around.roof else ()
    off = [one for one in branches if one.units and not one.is_on]
    return say("wake", "branch", name=off[0].name, reason=off[0].on.line) if off else ""


def _controller_talks(around: SwitchingContext) -> str:
    """Before the battery's own button: its controller wired and booted, its chain ended right."""
    chain = (
        one
        for one in around.talk.judgements
        if one.rule_id in ("chain_resistor", "drain_wires", "battery_talks")
    )
    return _asked(around, "controller_up") or _first_bad(chain)


def _activation_in(around: SwitchingContext) -> str:
    return _asked(around, "activation_in")


def _serial_new(around: SwitchingContext) -> str:
    return _asked(around, "nameplate_serial")


CHECKS: dict[Condition, Callable[[SwitchingContext], str]] = {
    "daylight": _daylight,
    "start_voltage": _start_voltage,
    "profile": _profile,
    "optimisers_report": _optimisers_report,
    "map_complete": _map_complete,
    "units_report": _units_report,
    "branches_on": _branches_on,
    "serial_new": _serial_new,
    "controller_talks": _controller_talks,
    "activation_in": _activation_in,
}
