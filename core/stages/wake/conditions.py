"""What of the job keeps a step from being taken: each condition, and why it does not hold yet."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from core.assessment.feed import FeedStage
from core.assessment.grid import GridStage
from core.assessment.microinverter import RoofStage
from core.assessment.prove import ProveStage
from core.assessment.site import ArriveStage
from core.assessment.whole import Prompt, StringStage
from core.base.judgement import Judgement, Verdict
from core.base.messages import figure, say
from core.job.job import Job
from core.job.reading_kinds import ReadingKind
from core.job.sequences import Condition
from core.job.subjects import NAMEPLATE_KINDS
from core.stages.reading_index import Readings

GOOD: tuple[Verdict, ...] = ("clear", "watch")
# Tests that can only be made while the inverter feeds, or reports.
MADE_LATER: tuple[ReadingKind, ...] = ("operating", "reporting")
# What in Set must hold before anything is left running; its trials are made while it runs.
SETTLED = (
    "grid_profile",
    "profile_fits_service",
    "profile_fits_supply",
    "profile_fits_hertz",
    "device_answer",
    "device_planned",
    "settings_agree",
    "settings_unchanged",
)


@dataclass(frozen=True, kw_only=True)
class SwitchingContext:
    """What the other stages say already. at: when the step before the one looked at was done."""

    job: Job
    readings: Readings
    arrive: ArriveStage
    earthed: Verdict
    string: StringStage | None
    roof: RoofStage | None
    feed: FeedStage
    prove: ProveStage
    grid: GridStage
    asks: tuple[Prompt, ...]
    at: datetime | None = None


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


def _nameplate(around: SwitchingContext) -> str:
    return _asked(around, *NAMEPLATE_KINDS)


def _permit(around: SwitchingContext) -> str:
    return _first_bad(j for j in around.arrive.judgements if j.rule_id == "permit_on_file")


def _tests(around: SwitchingContext) -> str:
    for group in around.prove.groups:
        for test in group.tests:
            made_later = test.key.partition("/")[0] in MADE_LATER
            if test.verdict not in GOOD and not made_later:
                return say("wake", "test", what=test.title, reason=test.line)
    return ""


def _covers(around: SwitchingContext) -> str:
    seen = around.readings.latest("look_over", "covers")
    return "" if seen and seen.is_good else say("wake", "covers")


def _supply(around: SwitchingContext) -> str:
    return _asked(around, "supply_voltage", "conductor_voltage")


def _strings_ready(around: SwitchingContext) -> str:
    strings = around.string.strings if around.string else ()
    return next((one.gate.line for one in strings if one.gate.verdict not in GOOD), "")


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


def _optimisers_counted(around: SwitchingContext) -> str:
    return _asked(around, "safety_voltage")


def _optimisers_report(around: SwitchingContext) -> str:
    return _asked(around, "reporting")


def _trunk_closed(around: SwitchingContext) -> str:
    return _asked(around, "trunk_marks", "drops_sealed")


def _map_complete(around: SwitchingContext) -> str:
    return _first_bad(around.roof.map.judgements) if around.roof else ""


def _map_synced(around: SwitchingContext) -> str:
    if around.roof is None:
        return ""
    agrees = (j for j in around.roof.gateway.judgements if j.rule_id == "gateway_agrees")
    looked = "" if around.roof.gateway.at else say("wake", "no_look")
    return _map_complete(around) or looked or _first_bad(agrees)


def _units_report(around: SwitchingContext) -> str:
    if around.roof is None:
        return ""
    gateway, units = around.roof.gateway, len(around.roof.units)
    count, of = str(gateway.reporting), str(units)
    return "" if gateway.reporting >= units else say("wake", "reporting", count=count, of=of)


def _branches_on(around: SwitchingContext) -> str:
    branches = around.roof.branches if around.roof else ()
    off = [one for one in branches if one.units and not one.is_on]
    return say("wake", "branch", name=off[0].name, reason=off[0].on.line) if off else ""


def _earth(around: SwitchingContext) -> str:
    return "" if around.earthed in GOOD else say("wake", "earth")


def _loads_fit(around: SwitchingContext) -> str:
    backup = around.feed.backup
    return _first_bad(backup.judgements) if backup else ""


def _battery_approved(around: SwitchingContext) -> str:
    backup = around.job.feed.backup
    battery = backup.battery if backup else None
    return "" if battery is None or battery.approved else say("wake", "battery")


def _shutdown_line(around: SwitchingContext) -> str:
    backup = around.job.feed.backup
    return "" if backup is None or backup.shutdown_line else say("wake", "line")


def _serial_new(around: SwitchingContext) -> str:
    return _asked(around, "nameplate_serial")


CHECKS: dict[Condition, Callable[[SwitchingContext], str]] = {
    "permit": _permit,
    "tests": _tests,
    "covers": _covers,
    "supply": _supply,
    "strings_ready": _strings_ready,
    "daylight": _daylight,
    "start_voltage": _start_voltage,
    "profile": _profile,
    "optimisers_counted": _optimisers_counted,
    "optimisers_report": _optimisers_report,
    "trunk_closed": _trunk_closed,
    "map_complete": _map_complete,
    "map_synced": _map_synced,
    "units_report": _units_report,
    "branches_on": _branches_on,
    "nameplate": _nameplate,
    "earth": _earth,
    "loads_fit": _loads_fit,
    "battery_approved": _battery_approved,
    "shutdown_line": _shutdown_line,
    "serial_new": _serial_new,
}
