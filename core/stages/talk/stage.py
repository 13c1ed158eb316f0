"""Stage 6, Talk: devices, ports, bus, meter, pairing, access, account; three groups of work."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from core.assessment.common import Gate
from core.assessment.talk import (
    FollowUp,
    GroupId,
    LinkLadder,
    ReportState,
    TalkGroup,
    TalkStage,
)
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, worst
from core.base.messages import say
from core.base.stage_numbers import TALK as STAGE
from core.base.trace import kept_ready
from core.equipment.talker import Way
from core.job.job import PACK_PARTS, Job
from core.job.reading_kinds import kinds_of
from core.job.talk import CHAIN_ENDS, ON_BUS, LeftOpen, TalkDevice, TalkPlan, chain_of
from core.planning.talk.faces import HouseSums, house_sums
from core.rules.talk.access import kept_open
from core.rules.talk.battery_chain import chain_planned, chain_resistor, drain_wires
from core.rules.talk.bus_sound import BusPiece, bus_is_line, devices_served
from core.rules.talk.needs import battery_talks, export_limit_planned, talk_planned, way_out_chosen
from core.rules.talk.wiring import fitted_in_order
from core.stages.making import optimiser_serials
from core.stages.permissions.grants import Permissions, open_gate
from core.stages.reading_index import Kept, Readings
from core.stages.talk.alive import (
    account_judged,
    account_lines,
    ladders,
    map_rows,
    meter_state,
    reports,
    secret_states,
    signal_states,
)
from core.stages.talk.bus import bus_state
from core.stages.talk.prompts import Asked, asked, batteries, out_by
from core.stages.talk.wiring import offer, talkers, wires

STAGES_KEPT = 32
# Days after which somebody looks again (own default, not from a standard).
FOLLOW_UP_DAYS = (1, 3, 7, 14)
# What Talk is made from, and nothing else.
TALK_PARTS = (
    "name", "site", "planes", "module", "inverter", "strings", "micro", "feed", "grid",
    "optimiser", "arrival", "talk", "stations", "gateway_reads", *PACK_PARTS,
)  # fmt: skip
KINDS_READ = frozenset({*kinds_of(stage=STAGE), "unit_serial", "nameplate_serial"})
MAY_STAY: dict[str, str] = {
    "meter_sign": "meter_sign",
    "meter_loads": "meter_sign",
    "reporting_counts": "count_complete",
    "link_complete": "link_complete",
    "default_password_gone": "default_password_gone",
}
# Ways out that are a device of their own.
LEADS: dict[Way, str] = {"radio_gateway": "gateway", "logger": "logger"}
GROUPS: tuple[GroupId, ...] = ("inside", "outside", "alive")


@dataclass(frozen=True, kw_only=True)
class Inputs:
    """What the stage is made from, by which it is found again."""

    job: Job
    sums: HouseSums
    readings: Kept


def talk_stage(job: Job, readings: Readings) -> tuple[TalkStage, tuple[Prompt, ...]]:
    """How the devices of the house talk, and everything that is asked for.

    A key pressed elsewhere in the job finds it ready.
    """
    return _stage(
        Inputs(
            job=job.only(*TALK_PARTS),
            sums=house_sums(job),
            readings=readings.of_kinds(KINDS_READ),
        )
    )


@kept_ready(STAGES_KEPT)
def _stage(of: Inputs) -> tuple[TalkStage, tuple[Prompt, ...]]:
    job, sums, readings = of.job, of.sums, Readings(of.readings)
    plan = job.talk
    if plan is None:
        return _unplanned(job, sums, readings), ()
    found = tuple(
        replace(one, ask=_with_left_open(one.ask, plan)) for one in asked(job, sums, plan, readings)
    )
    asks = tuple(one.ask for one in found)
    climbs = ladders(plan, readings)
    counted = reports(job, sums, plan, readings)
    meter = meter_state(job, sums, plan, readings)
    if meter is not None:
        judged = _settled(meter.judgements, plan)
        meter = replace(meter, judgements=judged, verdict=worst(one.verdict for one in judged))
    rows = map_rows(job, readings)
    alive = _settled((*(judgement for _, judgement in climbs), *_counts(counted)), plan)
    judgements = (
        talk_planned(planned=True),
        *_backed_up(job, plan),
        *_held_back(job, sums),
        *_way(plan),
        *_served(job, sums, plan),
        *_chain(job, plan, readings),
        *_order(plan, readings),
        *alive,
        *account_judged(job, sums, plan, readings),
    )
    way = plan.way_out.way if plan.way_out else ""
    school, said = _school(plan)
    return (
        TalkStage(
            planned=True,
            line=_line(plan, climbs, judgements, asks),
            school=school,
            school_said=said,
            way=say("ways_out", way) if way else "",
            judgements=judgements,
            devices=talkers(plan, job.rules.talk),
            wires=wires(plan),
            offer=offer(plan),
            bus=bus_state(plan),
            meter=meter,
            signals=signal_states(job, sums, plan),
            groups=_groups(found),
            ladders=tuple(one for one, _ in climbs),
            reporting=tuple(one for one, _ in counted),
            secrets=secret_states(plan, asks),
            account=account_lines(job, sums, plan, rows),
            map=rows,
            optimisers=optimiser_serials(job, readings),
            follow_up=tuple(
                FollowUp(day=day, what=say("talk", "look_again")) for day in FOLLOW_UP_DAYS
            ),
        ),
        asks,
    )


def _unplanned(job: Job, sums: HouseSums, readings: Readings) -> TalkStage:
    """Nobody planned anything: the stage says so and asks for nothing."""
    waits = talk_planned(planned=False)
    lacks = (battery_talks(planned=False),) if _lines_wanted(job) else ()
    return TalkStage(
        planned=False, line=waits.reason, school="", school_said="", way="",
        judgements=(waits, *lacks, *_held_back(job, sums)),
        devices=(), wires=(), offer=None, bus=None, meter=None, signals=(), groups=(), ladders=(),
        reporting=(), secrets=(), account=(), map=map_rows(job, readings),
        optimisers=optimiser_serials(job, readings), follow_up=(),
    )  # fmt: skip


def _school(plan: TalkPlan) -> tuple[str, str]:
    """When it is wired and set: the person's with a reason, else the first sheet's."""
    own = next((one.sheet.school for one in plan.devices if one.sheet.what == "inverter"), None)
    sheet: str = own or next((one.sheet.school for one in plan.devices), "before_power")
    chosen: str = plan.school or sheet
    said = say("talk_schools", chosen)
    if plan.school and plan.school != sheet:
        reason = plan.school_reason or say("talk", "no_reason")
        said = say("talk", "own_school", said=said, reason=reason)
    return chosen, said


def _way(plan: TalkPlan) -> Iterator[Judgement]:
    out = plan.way_out
    if out is None:
        yield way_out_chosen(way="", missing=(say("needs", "way_out"),), said="")
        return
    missing = []
    if out.way in ("cable", "wifi") and out.consent is None:
        missing.append(say("needs", "consent"))
    if out.way == "cable" and out.spare_port is None:
        missing.append(say("needs", "spare_port"))
    if out.way == "none" and not out.reason.strip():
        missing.append(say("needs", "way_reason"))
    by_cable = out.way == "cable" or any(one.sheet.ways == ("cable",) for one in out_by(plan))
    if by_cable and not any(one.function == "network" for one in plan.wires):
        first = next(iter(out_by(plan)), None)
        missing.append(say("needs", "network_wire", of=first.name if first else say("talk", "out")))
    if out.way != "none" and not _known_to_all(out.way, out_by(plan)):
        missing.append(say("needs", "goes_out", way=say("ways_out", out.way)))
    lead = LEADS.get(out.way)
    if lead and not plan.of_kind(lead):
        missing.append(say("needs", "lead", what=say("talkers", lead)))
    said = ""
    if out.consent is False and out.way in ("cable", "wifi"):
        said = say("way_said", "no_consent")
    elif out.way == "cable" and out.spare_port is False:
        said = say("way_said", "no_port")
    elif out.way == "none":
        said = say("way_said", "none", reason=out.reason.strip().rstrip("."))
    yield way_out_chosen(way=out.way, missing=tuple(missing), said=said)


def _known_to_all(way: Way, devices: tuple[TalkDevice, ...]) -> bool:
    """Whether what goes out can go that way by its own sheet. A logger or gateway chosen as the
    way itself only has to know some way on."""
    return bool(devices) and all(
        way in one.sheet.ways or (one.sheet.what == LEADS.get(way) and bool(one.sheet.ways))
        for one in devices
    )


def _served(job: Job, sums: HouseSums, plan: TalkPlan) -> Iterator[Judgement]:
    """Loggers and gateways against what is behind them."""
    gateways = plan.of_kind("gateway")
    if gateways and job.micro is not None and gateways[0].sheet.serves:
        yield devices_served(
            devices=len(job.micro.units), most=gateways[0].sheet.serves, loggers=len(gateways)
        )
    loggers = plan.of_kind("logger")
    if loggers and loggers[0].sheet.serves:
        behind = {
            name for one in plan.wires if one.function in ON_BUS for name in (one.device, one.far)
        } - {"", *(one.name for one in loggers)}
        yield devices_served(
            devices=len(behind), most=loggers[0].sheet.serves, loggers=len(loggers)
        )


def _backed_up(job: Job, plan: TalkPlan) -> Iterator[Judgement]:
    """What parts the house, and the battery, are devices of the plan: an empty one says nothing."""
    if _lines_wanted(job):
        by_hand = _by_hand(job)
        yield battery_talks(planned=by_hand or bool(plan.of_kind("controller")))


def _held_back(job: Job, sums: HouseSums) -> Iterator[Judgement]:
    """Where the permit grants less than the plant gives, what holds it back is planned here."""
    permit = job.arrival.permit
    limit = permit.export_w if permit else None
    if limit is not None and limit < sums.rated_w:
        yield export_limit_planned(
            planned=job.talk is not None, rated_w=sums.rated_w, permit_w=limit
        )


def _by_hand(job: Job) -> bool:
    """Whether the house is parted by a plain switch, which nothing has to be told."""
    backup = job.feed.backup
    return bool(backup and backup.controller and backup.controller.what == "switch")


def _lines_wanted(job: Job) -> bool:
    backup = job.feed.backup
    return backup is not None and (backup.battery is not None or not _by_hand(job))


def _chain(job: Job, plan: TalkPlan, readings: Readings) -> Iterator[Judgement]:
    """The battery's chain: one line, one resistor, drain wires."""
    pieces = tuple(
        BusPiece(start=one.device, end=one.far)
        for one in plan.wires
        if one.function == "battery" and one.far
    )
    units, kinds = batteries(job), plan.of_kind("battery")
    if len(pieces) > 1:
        yield bus_is_line(pieces=pieces)
    if not units:
        return
    names = chain_of(plan)
    yield chain_planned(devices=len(names), units=units, wires=len(pieces))
    if not kinds:
        return
    fitted = tuple(
        latest.sign if (latest := readings.latest("end_resistor", name)) else None for name in names
    )
    yield chain_resistor(batteries=names, fitted=fitted)
    ends = CHAIN_ENDS if kinds[0].sheet.drain_both else CHAIN_ENDS[1:]
    signs = tuple(
        latest.sign if (latest := readings.latest("drain_wire", end)) else None for end in ends
    )
    yield drain_wires(ends=ends, signs=signs)


def _order(plan: TalkPlan, readings: Readings) -> Iterator[Judgement]:
    """A part that goes in first, and what was made before it."""
    for device in plan.devices:
        part = readings.latest("board_in", device.name)
        if device.sheet.before == "none" or part is None:
            continue
        made = [
            latest
            for wire in plan.wires
            if device.of in (wire.device, wire.far)
            and device.name not in (wire.device, wire.far)
            and (latest := readings.latest("pins_seen", wire.name)) is not None
        ]
        late = any(one.taken_at < part.taken_at for one in made)
        yield fitted_in_order(device=device.name, late=late, before=device.sheet.before)


def _counts(counted: tuple[tuple[ReportState, Judgement], ...]) -> Iterator[Judgement]:
    return (judgement for _, judgement in counted)


def _left_open(plan: TalkPlan, rule_id: str) -> LeftOpen | None:
    what = MAY_STAY.get(rule_id)
    return next((one for one in plan.left_open if one.what == what), None)


def _settled(judgements: tuple[Judgement, ...], plan: TalkPlan) -> tuple[Judgement, ...]:
    """The few that may stay open, where somebody answers for them until a day."""
    found = []
    for one in judgements:
        left = _left_open(plan, one.rule_id)
        is_open = left is not None and one.verdict in ("stop", "waiting")
        found.append(_kept_open(one, left) if left is not None and is_open else one)
    return tuple(found)


def _kept_open(one: Judgement, left: LeftOpen) -> Judgement:
    due = left.due.isoformat()
    return kept_open(what=one.title, owner=left.owner, due=due, reason=one.reason)


def _with_left_open(ask: Prompt, plan: TalkPlan) -> Prompt:
    judged = _settled(ask.judgements, plan)
    if judged == ask.judgements:
        return ask
    return replace(ask, judgements=judged, verdict=worst(one.verdict for one in judged))


def _groups(found: tuple[Asked, ...]) -> tuple[TalkGroup, ...]:
    """The three groups; each begins once the one before has nothing wrong or open."""
    groups: list[TalkGroup] = []
    for name in GROUPS:
        own = [one.ask for one in found if one.group == name]
        done = sum(one.reading is not None or one.optional for one in own)
        groups.append(
            TalkGroup(
                id=name,
                title=say("talk_groups", name),
                gate=_gate(name, found),
                asks=tuple(one.key for one in own),
                done=done,
            )
        )
    return tuple(groups)


def _gate(name: GroupId, found: tuple[Asked, ...]) -> Gate:
    """Outside waits for inside. Inside is made dead: who may open says the permission."""
    if name != "outside":
        return Gate(verdict="clear", line=say("talk_groups", f"{name}_when"))
    before = [one.ask for one in found if one.group == "inside"]
    bad = [one for one in before if one.verdict in ("stop", "waiting")]
    if not bad:
        return Gate(verdict="clear", line=say("talk_groups", "outside_when"))
    line = say("talk_groups", "after", what=bad[0].title)
    return Gate(verdict=worst(one.verdict for one in bad), line=line)


def opened(stage: TalkStage, grants: Permissions) -> TalkStage:
    """The stage with its inside shut until the permissions say that a compartment may be opened."""
    groups = tuple(
        replace(one, gate=open_gate(grants))
        if one.id == GROUPS[0] and one.done < len(one.asks)
        else one
        for one in stage.groups
    )
    return replace(stage, groups=groups)


def _line(
    plan: TalkPlan,
    climbs: tuple[tuple[LinkLadder, Judgement], ...],
    judged: tuple[Judgement, ...],
    asks: tuple[Prompt, ...],
) -> str:
    """Linked, or not, and for whom to mend."""
    if plan.way_out is not None and plan.way_out.way == "none":
        return say("talk", "no_way")
    open_ones = [one for _, one in climbs if one.verdict != "clear"]
    answered = [one.verdict for one in asks if one.kind == "network_answers"]
    if answered and not open_ones and worst(answered) == "clear":
        return say("talk", "linked")
    stop = next((one for one in judged if one.verdict == "stop"), None)
    first = stop or next(iter(open_ones), None)
    return say("talk", "not_linked", reason=first.reason if first else say("talk", "nothing_read"))
