"""Each branch judged: current, rise, count, trunk; whether it may be ON; who reports."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime
from math import fsum

from core.assessment.common import SHUT, Gate
from core.assessment.microinverter import (
    BranchState,
    FeedChoice,
    LinkPlan,
    ReportIn,
    TrunkPlan,
    UnitState,
)
from core.base.glossary import BranchFeed
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import figure, say
from core.equipment.micro import Trunk
from core.job.feed import AcRun
from core.job.job import Job
from core.job.microinverter import Branch, LinkHow, MicroPlan
from core.planning.microinverter.branches import most_units
from core.planning.microinverter.linked import pieces_laid
from core.planning.microinverter.parts import Roof
from core.planning.microinverter.trunk import trunk_plan
from core.rules.ac.voltage_rise import LOOP_FACTOR, RISE_SOURCE, AcRise
from core.rules.microinverter.branch import (
    BRANCH_SOURCE,
    BranchMost,
    BranchRise,
    branch_breaker,
    branch_count,
    branch_one_type,
    branch_rise,
    branch_rise_limit,
    branch_trunk,
    trunk_guarded,
)
from core.rules.microinverter.serial_map import units_report
from core.rules.microinverter.trunk import (
    NEARLY,
    TRUNK_SOURCE,
    middle_link,
    trunk_lead_in,
    trunk_reach,
    units_spread,
)
from core.rules.microinverter.trunk_links import marks_met, trunk_links_meet, trunk_pieces
from core.stages.feed.context import Feed, deciding
from core.stages.feed.voltage_profile import rise_at
from core.stages.making import log_judged, unit_steps
from core.stages.microinverter.replacement import swap_to_come
from core.stages.microinverter.serial_map import last_list
from core.stages.reading_index import Readings

M_PER_KM = 1000.0
SECONDS_PER_MIN = 60.0
WAYS: tuple[BranchFeed, ...] = ("end", "centre")
LEAST_CENTRE = 2

# Ways that no pitch bridges: in a box the cable is as long as it is made, links have their own.
NOT_BY_PITCH: tuple[LinkHow, ...] = ("joint", "links")


@dataclass(frozen=True, kw_only=True)
class BranchContext:
    """What is known around a branch: its units, and which branches are ON."""

    units: dict[str, UnitState]
    on: frozenset[str]


def branch_states(
    job: Job, readings: Readings, roof: Roof, around: BranchContext
) -> tuple[BranchState, ...]:
    """Every branch of the roof, those without units too."""
    return tuple(_state(job, readings, roof, around, one) for one in roof.plan.branches)


def _state(
    job: Job, readings: Readings, roof: Roof, around: BranchContext, branch: Branch
) -> BranchState:
    plan, trunk = roof.plan, roof.trunks[branch.name]
    types = plan.types_of(branch)
    most = most_units(job, types, branch.breaker.rated_a if branch.breaker else None)
    current_a = len(branch.units) * types.unit.line_a
    view = Feed(job, readings, frozenset(), branch) if branch.units else None
    rise = _risen(view)
    home = _home_run(view)
    feeds = _feeds(job, roof, view, branch, home)
    judgements = (
        *_judged(job, roof, branch, trunk, current_a),
        *_rise(job, view, feeds, branch),
        *_log(plan, branch, around),
    )
    last_v = rise.terminal_v if rise else None
    trip_v = view.trip[0] if view else None
    latest = readings.latest("branch_on", branch.name)
    is_on = branch.name in around.on
    verdict = worst(one.verdict for one in judgements)
    return BranchState(
        name=branch.name,
        units=branch.units,
        phase=branch.phase,
        phase_name=f"L{branch.phase}" if branch.phase else "",
        feed=branch.feed,
        joint=branch.joint or "",
        breaker_a=branch.breaker.rated_a if branch.breaker else None,
        current_a=current_a,
        most=most,
        most_line=_most_line(most),
        rise=_even(roof, view, branch, home),
        feeds=feeds,
        last_v=last_v,
        room_v=None if last_v is None or trip_v is None else trip_v - last_v,
        trip_v=trip_v,
        trunk=trunk,
        judgements=judgements,
        verdict=verdict,
        line=deciding(judgements, _clear_line(branch, current_a, last_v, trip_v))[0],
        is_on=is_on,
        on=SHUT,
        report=_report(job, around, branch, latest.taken_at if latest and is_on else None),
        swap=swap_to_come(branch.name, is_on),
    )


def _log(plan: MicroPlan, branch: Branch, around: BranchContext) -> tuple[Judgement, ...]:
    """What is said of its units as they are bolted, clicked and labelled, once that is logged."""
    return log_judged(tuple(around.units[name].made for name in branch.units), unit_steps(plan))


def _clear_line(
    branch: Branch, current_a: float, last_v: float | None, trip_v: float | None
) -> str:
    shown = {"count": str(len(branch.units)), "current": figure(current_a, "A")}
    if last_v is None or trip_v is None:
        return say("branches", "flows", **shown)
    return say("branches", "room", room=figure(trip_v - last_v, "V"), **shown)


def _most_line(most: BranchMost) -> str:
    by = say("branches", "and").join(say("branches", f"by_{one}") for one in most.binding)
    return say("branches", "most", count=str(most.most), by=by)


def _risen(view: Feed | None) -> AcRise | None:
    run = view.segments if view else None
    return rise_at(view, run, view.supply[0]) if view and run else None


def _home_run(view: Feed | None) -> tuple[AcRun, ...]:
    if view is None or view.branch is None or view.branch.joint is None:
        return ()
    return tuple(run for run in view.chain.runs if view.is_home(run))


def _judged(
    job: Job, roof: Roof, branch: Branch, trunk: TrunkPlan, current_a: float
) -> tuple[Judgement, ...]:
    plan = roof.plan
    if not branch.units:
        needs = (say("needs", "units_of", name=branch.name),)
        return (waiting("branch_count", "", BRANCH_SOURCE, needs),)
    planes = tuple(plan.unit_named(name).modules[0].plane for name in branch.units)
    unit, cable = plan.types_of(branch)
    found = [branch_count(units=len(branch.units), most=unit.most_on_branch)]
    if plan.types:
        kinds = {plan.types_on(plane) for plane in planes}
        found.append(branch_one_type(types=len(kinds)))
    if branch.breaker is None:
        needs = (say("needs", "branch_breaker", name=branch.name),)
        found.append(waiting("branch_breaker", "A", BRANCH_SOURCE, needs))
    else:
        rated_a = branch.breaker.rated_a
        found.append(branch_breaker(branch_a=current_a, breaker_a=rated_a, rule_pack=job.rules))
        found.append(trunk_guarded(breaker_a=rated_a, trunk_a=cable.rated_a))
    fed_a = current_a
    if branch.feed == "centre":
        fed_a = unit.line_a * (len(branch.units) - len(branch.units) // 2)
    found.append(branch_trunk(branch_a=fed_a, trunk_a=cable.rated_a, feed=branch.feed))
    return (*found, units_spread(planes=planes), *_links(roof, branch, trunk))


def _links(roof: Roof, branch: Branch, trunk: TrunkPlan) -> tuple[Judgement, ...]:
    """The trunk bridges every way: judged by the way that it bridges worst."""
    found, cable = list[Judgement](), roof.plan.types_of(branch).trunk
    open_links = [one for one in trunk.links if one.distance_m is None]
    if open_links:
        needs = tuple(say("needs", "way", start=one.start, end=one.end) for one in open_links)
        found.append(waiting("trunk_reach", "m", TRUNK_SOURCE, needs))
    by_pitch = (one for one in trunk.links if one.how not in NOT_BY_PITCH)
    tried = (_reach(one, cable.pitch_m) for one in by_pitch)
    reached = [judged for judged in tried if judged is not None]
    short = [one for one in reached if one.verdict != "clear"]
    found += _linked(cable, trunk)
    found += short or sorted(reached, key=lambda one: one.margin or 0.0)[:1]
    if branch.feed == "end":
        found.append(_lead_in(branch, cable.lead_in_m))
    return tuple(found)


def _linked(cable: Trunk, trunk: TrunkPlan) -> Iterator[Judgement]:
    """Of a trunk put together link by link: links for every way, and marks that can meet."""
    parts = cable.linked
    if parts is None:
        return
    for link in trunk.links:
        if link.how == "links" and link.distance_m is not None:
            yield trunk_links_meet(
                distance_m=link.distance_m,
                start=link.start,
                end=link.end,
                links_mm=link.links_mm,
            )
    rows = pieces_laid(parts, trunk.links)
    yield trunk_pieces(can_meet=all(marks_met(pieces=row).turned is not None for row in rows))


def _lead_in(branch: Branch, lead_in_m: float) -> Judgement:
    """The trunk's own cable to the box; waiting while nobody measured the way."""
    if branch.lead_m is None:
        needs = (say("needs", "way", start=branch.joint or branch.name, end=branch.units[0]),)
        return waiting("trunk_lead_in", "m", TRUNK_SOURCE, needs)
    return trunk_lead_in(lead_m=branch.lead_m, lead_in_m=lead_in_m)


def _reach(link: LinkPlan, pitch_m: float) -> Judgement | None:
    """One way judged; one that a pitch misses by a little is told, though it is bridged."""
    if link.distance_m is None or link.reach_m is None:
        return None
    bridged = link.reach_m > pitch_m and link.distance_m <= NEARLY * pitch_m and not link.jumps
    return trunk_reach(
        distance_m=link.distance_m,
        reach_m=pitch_m if bridged else link.reach_m,
        start=link.start,
        end=link.end,
        bridged=bridged,
    )


def _rise(
    job: Job, view: Feed | None, feeds: tuple[FeedChoice, ...], branch: Branch
) -> tuple[Judgement, ...]:
    if view is None:
        return ()
    chosen = next((one for one in feeds if one.chosen), None)
    if chosen is None:
        needs = (say("needs", "branch_way", name=branch.name),)
        return (waiting("branch_rise_limit", "%", RISE_SOURCE, needs),)
    limit_pct = job.rules.branch.rise_limit.value
    return (branch_rise_limit(rise_pct=chosen.rise_pct, limit_pct=limit_pct),)


def _feeds(
    job: Job, roof: Roof, view: Feed | None, branch: Branch, home: tuple[AcRun, ...]
) -> tuple[FeedChoice, ...]:
    """End-fed beside fed in the middle: volts of home run and trunk, and the parts of each."""
    if view is None or not home:
        return ()
    home_v = _home_ohm(view, home) * len(branch.units) * roof.plan.types_of(branch).unit.line_a
    return tuple(
        choice
        for way in WAYS
        if (way == "end" or len(branch.units) >= LEAST_CENTRE)
        and (choice := _choice(job, roof, view, branch, way, home_v)) is not None
    )


def _home_ohm(view: Feed, home: tuple[AcRun, ...]) -> float:
    """Out and back over the home run, in ohm: one conductor's of a balanced three."""
    factor = LOOP_FACTOR[view.ladder_service] / M_PER_KM
    return factor * fsum(run.length_m * view.segment(run).r_ohm_per_km for run in home)


def _choice(
    job: Job, roof: Roof, view: Feed, branch: Branch, way: BranchFeed, home_v: float
) -> FeedChoice | None:
    plan, (unit, cable) = roof.plan, roof.plan.types_of(branch)
    fed = replace(branch, feed=way)
    trunk = roof.trunks[branch.name] if way == branch.feed else trunk_plan(plan, fed, roof.places)
    if trunk.moment_m is None or trunk.parts is None:
        return None
    factor = LOOP_FACTOR[view.ladder_service] * unit.line_a
    trunk_v = factor * cable.r_ohm_per_m * trunk.moment_m
    pct = 100 * (home_v + trunk_v) / unit.nominal_v
    limit_pct = job.rules.branch.rise_limit.value
    return FeedChoice(
        feed=way,
        chosen=way == branch.feed,
        trunk_rise_v=trunk_v,
        rise_v=home_v + trunk_v,
        rise_pct=pct,
        end_caps=trunk.parts.end_caps,
        tees=1 if way == "centre" and middle_link(len(branch.units)) is not None else 0,
        verdict=branch_rise_limit(rise_pct=pct, limit_pct=limit_pct).verdict,
    )


def _even(
    roof: Roof, view: Feed | None, branch: Branch, home: tuple[AcRun, ...]
) -> BranchRise | None:
    """The hand rule with every unit one pitch apart, for comparison with paper."""
    unit, cable = roof.plan.types_of(branch)
    if view is None or not home or len(branch.units) > unit.most_on_branch:
        return None
    length_m = fsum(run.length_m for run in home)
    ohm = fsum(run.length_m * view.segment(run).r_ohm_per_km for run in home) / M_PER_KM
    return branch_rise(
        units=len(branch.units),
        unit_a=unit.line_a,
        nominal_v=unit.nominal_v,
        spacing_m=cable.pitch_m,
        trunk_ohm_per_m=cable.r_ohm_per_m,
        lead_in_m=cable.lead_in_m,
        home_run_m=length_m,
        home_run_ohm_per_m=ohm / length_m,
        service=view.ladder_service,
    )


def on_gate(branch: BranchState, gate: Gate) -> Gate:
    """Whether a branch may be ON, told of it by name."""
    name = branch.name
    if gate.verdict == "clear":
        return Gate(
            verdict="clear", line=say("branch_on", "is_on" if branch.is_on else "now", name=name)
        )
    key = "must_off" if branch.is_on else gate.verdict
    return Gate(verdict=gate.verdict, line=say("branch_on", key, name=name, reason=gate.line))


def _report(job: Job, around: BranchContext, branch: Branch, since: datetime | None) -> ReportIn:
    """How many units report at the last look, against the time that their sheet gives."""
    expected = job.roof_plan.types_of(branch).unit.report_min
    names, listed = branch.units, last_list(job)
    reporting = [name for name in names if around.units[name].reporting]
    if since is None or listed is None or listed.at < since:
        line = say("report_in", "off" if since is None else "look")
        return ReportIn(
            reporting=0, of=len(names), since=since, minutes=None, expected_min=expected,
            verdict="waiting", line=line,
        )  # fmt: skip
    minutes = (listed.at - since).total_seconds() / SECONDS_PER_MIN
    late = tuple(name for name in names if name not in reporting)
    judged = units_report(late=late, of=len(names), minutes=minutes, expected_min=expected)
    return ReportIn(
        reporting=len(reporting),
        of=len(names),
        since=since,
        minutes=minutes,
        expected_min=expected,
        verdict=judged.verdict,
        line=judged.reason,
    )
