"""What Talk asks for, in its three groups: inside and dead, outside and closing, alive."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.assessment.talk import GroupId
from core.assessment.whole import Prompt
from core.base.judgement import waiting
from core.base.messages import figure, say
from core.base.stage_numbers import ARRIVE, HANG
from core.base.stage_numbers import TALK as STAGE
from core.equipment.talker import Ready, Way
from core.job.job import Job
from core.job.reading_kinds import ReadingKind
from core.job.readings import INVERTER, SITE, Reading
from core.job.talk import (
    ACCOUNT_STEPS,
    CHAIN_ENDS,
    NOTHING_ON,
    PLACES,
    TalkDevice,
    TalkPlan,
    chain_of,
    is_fitted,
    meter_phases,
    meter_steps,
    of_two,
    step_name,
)
from core.planning.talk.faces import HouseSums, meter_wanted
from core.rules.prove.yes_no_steps import Step, step_seen, step_waits
from core.rules.talk.access import (
    default_password_gone,
    grid_named,
    network_up,
    other_page_saved,
    page_saved,
    role_ready,
)
from core.rules.talk.battery_chain import chain_found
from core.rules.talk.bus_sound import OHM_OFF_SHARE, bus_sound
from core.rules.talk.meter_live import export_held, export_limit_kept, signal_tested
from core.rules.talk.needs import USABLE_DBM, range_ok, talk_noted
from core.stages.reading_index import Readings, prompt
from core.stages.talk.bus import bus_state, expected_ohm

ALIVE_SOURCE = "device sheets; trade practice"
RADIO: tuple[Way, ...] = ("wifi", "short_radio", "radio_gateway", "mobile")
# What comes with a sticker of its own; the inverter's plate is read in Arrive.
BROUGHT = ("board", "stick", "logger", "gateway", "modem", "receiver")
BY_PAGE = ("display", "browser", "phone")


@dataclass(frozen=True, kw_only=True)
class Asked:
    """One thing to read, and in which group of the stage."""

    group: GroupId
    ask: Prompt


def asked(job: Job, sums: HouseSums, plan: TalkPlan, readings: Readings) -> tuple[Asked, ...]:
    """Everything that is asked for, in the order of the hand."""
    inside = (*_boards(plan, readings), *_wires(plan, readings), *_bus(plan, readings))
    outside = (
        *_chain(job, plan, readings),
        *_entries(plan, readings),
        *_sticks(plan, readings),
        *_codes(plan, readings),
    )
    alive = (
        *_signal(plan, readings),
        *_network(plan, readings),
        *_secrets(plan, readings),
        *_pages(job, sums, plan, readings),
        *_meter(job, sums, plan, readings),
        *_operator(sums, plan, readings),
        *_pairing(job, plan, readings),
        *_ladder(plan, readings),
        *_account(plan, readings),
    )
    return (
        *(Asked(group="inside", ask=one) for one in inside),
        *(Asked(group="outside", ask=one) for one in outside),
        *(Asked(group="alive", ask=one) for one in (*_ready(plan, readings), *alive)),
    )


def _step(readings: Readings, kind: Step, subject: str, because: str = "") -> Prompt:
    latest = readings.latest(kind, subject)
    judgement = step_seen(step=kind, sign=latest.sign) if latest else step_waits(step=kind)
    return prompt(readings, STAGE, kind, subject, (judgement,), expected_because=because)


def _sign(latest: Reading | None) -> int:
    return latest.sign if latest else 0


def _noted(
    readings: Readings, kind: ReadingKind, subject: str, shown: str = "", told: str = ""
) -> Prompt:
    """Something that is judged together with the rest: here only whether it was read."""
    judgement = talk_noted(read=readings.latest(kind, subject) is not None)
    return prompt(
        readings, STAGE, kind, subject, (judgement,), shown_subject=shown or None,
        expected_text=told,
    )  # fmt: skip


# -- inside, dead


def _boards(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for one in plan.devices:
        if is_fitted(one) and one.sheet.before != "none":
            yield _step(readings, "board_in", one.name, because=_where(one))


def _where(device: TalkDevice) -> str:
    sheet = device.sheet
    parts = (sheet.slot, sheet.tool, say("fit_before_said", sheet.before))
    return ", ".join(one for one in parts if one)


def _wires(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for one in plan.wires:
        if one.port and not one.no_device_yet:
            yield _step(readings, "pins_seen", one.name)


def _bus(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    bus = bus_state(plan)
    if bus is None:
        return
    latest = readings.latest("bus_ohm", SITE)
    expected = bus.expected_ohm
    known = {one.name: one for one in plan.devices}
    members = [known[name] for name in bus.order if name in known]
    one_end = expected_ohm(members, bus.lengths_m, far_end=False) if bus.order else None
    if latest is None or expected is None or one_end is None:
        needs = say("needs", "reading" if expected is not None else "bus_line")
        judgement = waiting("bus_sound", "Ω", ALIVE_SOURCE, (needs,))
    else:
        judgement = bus_sound(read_ohm=latest.number, expected_ohm=expected, one_end_ohm=one_end)
    told = figure(expected, "Ω") if expected is not None else ""
    band = (
        (expected * (1 - OHM_OFF_SHARE), expected * (1 + OHM_OFF_SHARE))
        if expected is not None
        else None
    )
    yield prompt(
        readings, STAGE, "bus_ohm", SITE, (judgement,), expected=band, expected_text=told,
        expected_because=say("talk", "bus_ohm"),
    )  # fmt: skip


# -- outside, closing


def _chain(job: Job, plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    if not batteries(job):
        return
    for name in chain_of(plan):
        yield _noted(readings, "end_resistor", name)
    for end in CHAIN_ENDS:
        yield _step(readings, "drain_wire", end)


def batteries(job: Job) -> int:
    """Batteries in the chain."""
    backup = job.feed.backup
    return backup.battery.units if backup is not None and backup.battery is not None else 0


def _entries(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for device in plan.devices:
        for face in device.sheet.ports:
            here = plan.on(device.name, face.name)
            if here or face.idle_capped:
                key = "entry_used" if here else "entry_idle"
                told = say("talk", key, names=", ".join(one.name for one in here))
                yield _step(readings, "entry_closed", of_two(device.name, face.name), because=told)


def _sticks(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for one in plan.devices:
        if is_fitted(one) and one.sheet.before == "none":
            yield _step(readings, "board_in", one.name, because=_where(one))


def _codes(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    """Codes off the sticker while it can still be seen: later it is inside."""
    goes_out = {one.name for one in out_by(plan)}
    for one in plan.devices:
        if one.sheet.what in BROUGHT:
            yield _noted(readings, "device_serial", one.name)
        if one.name in goes_out:
            yield _noted(readings, "check_code", one.name)


# -- alive


def _ready(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for device in plan.devices:
        for what in device.sheet.before_office:
            yield _ready_prompt(readings, device.name, what)


def _ready_prompt(readings: Readings, device: str, what: Ready) -> Prompt:
    subject = of_two(device, what)
    judgement = role_ready(
        device=device, what=what, sign=_sign(readings.latest("talk_ready", subject))
    )
    shown = of_two(device, say("ready", what))
    return prompt(
        readings, STAGE, "talk_ready", subject, (judgement,), shown_subject=shown,
        also_at=(ARRIVE,),
    )  # fmt: skip


def radio_places(plan: TalkPlan) -> tuple[tuple[str, float], ...]:
    """Where a signal is read, and what it must be there."""
    way = plan.way_out.way if plan.way_out else None
    gateways = plan.of_kind("gateway")
    least = [one.sheet.least_dbm for one in plan.devices if one.sheet.least_dbm is not None]
    found = []
    if way in RADIO and not gateways:
        found.append((PLACES[0], max(least, default=USABLE_DBM)))
    for one in gateways[:1]:
        dbm = one.sheet.least_dbm if one.sheet.least_dbm is not None else USABLE_DBM
        found += [(PLACES[1], dbm), (PLACES[2], dbm)]
    return tuple(found)


def _signal(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for place, least in radio_places(plan):
        latest = readings.latest("signal_dbm", place)
        judgement = (
            range_ok(read_dbm=latest.number, least_dbm=least)
            if latest
            else waiting("range_ok", "dBm", "device sheet (signal)", (say("needs", "reading"),))
        )
        yield prompt(
            readings, STAGE, "signal_dbm", place, (judgement,),
            shown_subject=say("talk_places", place), expected=(least, 0.0),
            expected_text=say("talk", "at_least", least=figure(least, "dBm")), also_at=(HANG,),
        )  # fmt: skip


def _network(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for one in out_by(plan):
        judgement = network_up(
            device=one.name, sign=_sign(readings.latest("network_answers", one.name))
        )
        yield prompt(readings, STAGE, "network_answers", one.name, (judgement,))
    for one in plan.of_kind("controller"):
        yield _step(readings, "controller_up", one.name)


def out_by(plan: TalkPlan) -> tuple[TalkDevice, ...]:
    """The devices that go out themselves: loggers and gateways where there are some, else the
    devices that know the chosen way; none where no way out is wanted."""
    way = plan.way_out.way if plan.way_out else None
    if way is None or way == "none":
        return ()
    leads = plan.of_kind("logger", "gateway")
    own = tuple(
        one
        for one in plan.devices
        if one.sheet.what in ("inverter", "controller") and way in one.sheet.ways
    )
    wired = {
        name for one in plan.wires if one.function == "network" for name in (one.device, one.far)
    }
    boards = {one.of for one in plan.devices if one.name in wired}
    joined = tuple(one for one in own if one.name in wired or one.name in boards)
    return leads or joined or own


def _secrets(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    places = {(one.device, one.secret): one.place for one in plan.secrets}
    for device in plan.devices:
        for secret in device.sheet.secrets:
            subject = of_two(device.name, secret)
            judgement = default_password_gone(
                device=device.name,
                secret=secret,
                place=places.get((device.name, secret), ""),
                sign=_sign(readings.latest("default_replaced", subject)),
            )
            shown = of_two(device.name, say("secrets", secret))
            yield prompt(
                readings, STAGE, "default_replaced", subject, (judgement,), shown_subject=shown
            )


def _pages(job: Job, sums: HouseSums, plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for device in plan.devices:
        if device.sheet.set_by not in BY_PAGE:
            continue
        has_grid = any(page.grid for page in device.sheet.pages)
        for page in device.sheet.pages:
            subject = of_two(device.name, page.name)
            judgement = (page_saved if has_grid else other_page_saved)(
                device=device.name,
                page=page.name,
                sign=_sign(readings.latest("page_saved", subject)),
            )
            yield prompt(
                readings, STAGE, "page_saved", subject, (judgement,),
                caution=page.caution or None,
            )  # fmt: skip
        if has_grid:
            yield _grid(job, sums, device, readings)
        yield _noted(readings, "firmware", device.name)


def _grid(job: Job, sums: HouseSums, device: TalkDevice, readings: Readings) -> Prompt:
    latest = readings.latest("grid_by_name", device.name)
    permit = job.arrival.permit
    profile = sums.profile(device.of) or ""
    judgement = grid_named(
        named=latest.text if latest else "",
        profile=profile,
        permitted=(permit.profile or "") if permit else "",
    )
    return prompt(readings, STAGE, "grid_by_name", device.name, (judgement,), expected_text=profile)


def _meter(job: Job, sums: HouseSums, plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    if plan.meter is not None and meter_wanted(job, sums.rated_w):
        for step in meter_steps(plan.meter):
            told = say("meter_steps", step)
            if step != NOTHING_ON:
                yield _noted(readings, "meter_load", step, told)
            for phase in meter_phases(plan.meter):
                at = f"L{phase}"
                yield _noted(readings, "meter_reads", of_two(step, at), of_two(told, at))
    permit = job.arrival.permit
    limit = permit.export_w if permit else None
    if limit is None or limit >= sums.rated_w:
        return
    latest, seen = (
        readings.latest("export_limit", INVERTER),
        readings.latest("export_seen", INVERTER),
    )
    judgement = (
        export_limit_kept(set_w=latest.number, permit_w=limit)
        if latest
        else waiting("export_limit_kept", "W", "operator's permit", (say("needs", "reading"),))
    )
    yield prompt(
        readings, STAGE, "export_limit", INVERTER, (judgement,), expected=(0.0, limit),
        expected_text=figure(limit, "W", 0),
    )  # fmt: skip
    held = export_held(seen_w=seen.number, permit_w=limit) if seen else talk_noted(read=False)
    yield prompt(readings, STAGE, "export_seen", INVERTER, (held,))


def _operator(sums: HouseSums, plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for one in plan.signals:
        if one.how != "wired":
            continue
        for pct in one.steps_pct:
            step = step_name(one.signal, pct)
            before, at, after = (
                readings.latest(kind, step)
                for kind in ("signal_before", "signal_at", "signal_after")
            )
            judgement = signal_tested(
                step_pct=pct,
                rated_w=sums.rated_w,
                before_w=before.number if before else None,
                at_w=at.number if at else None,
                after_w=after.number if after else None,
            )
            shown = say("talk", "step", signal=say("signals", one.signal), pct=f"{pct:g}")
            told = say("talk", "at_most", most=figure(pct / 100 * sums.rated_w, "W", 0))
            yield _noted(readings, "signal_before", step, shown)
            yield _noted(readings, "signal_at", step, shown, told)
            yield prompt(readings, STAGE, "signal_after", step, (judgement,), shown_subject=shown)


def _pairing(job: Job, plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for one in plan.devices:
        pairing = one.sheet.pairing
        behind = job.micro if one.sheet.what == "gateway" else job.optimiser
        if pairing is None or behind is None:
            continue
        if one.sheet.what == "inverter":
            if pairing.activation_part:
                yield _step(readings, "activation_in", one.name, because=pairing.activation_part)
            yield _began(readings, one, pairing.activation_part)
        if not one.sheet.lists:
            yield _noted(readings, "report_count", one.name)
        if one.sheet.what == "gateway" and not one.sheet.lists:
            yield _noted(readings, "listed_count", one.name)
    units = batteries(job)
    for one in plan.of_kind("controller") if units and plan.of_kind("battery") else ():
        found = readings.latest("chain_count", one.name)
        judgement = (
            chain_found(found=found.number, planned=float(units))
            if found
            else waiting("chain_found", "", ALIVE_SOURCE, (say("needs", "reading"),))
        )
        yield prompt(
            readings, STAGE, "chain_count", one.name, (judgement,), expected_text=str(units)
        )


def _began(readings: Readings, device: TalkDevice, part: str) -> Prompt:
    """Pairing does not begin before the activation part is in."""
    latest, activation = (
        readings.latest("pairing_began", device.name),
        readings.latest("activation_in", device.name),
    )
    if latest is None and part and _sign(activation) < 1:
        needs = (say("needs", "activation", part=part),)
        judgement = waiting("step_pairing_began", "", ALIVE_SOURCE, needs)
    elif latest is None:
        judgement = step_waits(step="pairing_began")
    else:
        judgement = step_seen(step="pairing_began", sign=latest.sign)
    return prompt(readings, STAGE, "pairing_began", device.name, (judgement,))


def _ladder(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    for one in out_by(plan):
        if one.sheet.rungs:
            told = say("talk", "digits", count=str(len(one.sheet.rungs)))
            yield _noted(readings, "status_row", one.name, told=told)


def _account(plan: TalkPlan, readings: Readings) -> Iterator[Prompt]:
    if plan.account is None or not out_by(plan):
        return
    silent = [
        one.name for one in out_by(plan)
        if _sign(readings.latest("network_answers", one.name)) < 1
    ]  # fmt: skip
    for step in ACCOUNT_STEPS:
        latest = readings.latest("account_step", step)
        if latest is None and silent:
            needs = (say("needs", "network", of=silent[0]),)
            judgement = waiting("step_account_step", "", ALIVE_SOURCE, needs)
        elif latest is None:
            judgement = step_waits(step="account_step")
        else:
            judgement = step_seen(step="account_step", sign=latest.sign)
        yield prompt(
            readings, STAGE, "account_step", step, (judgement,),
            shown_subject=say("account_steps", step),
        )  # fmt: skip
