"""What is judged once there is power: meter, status rows, counts, secrets, the plant's page."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime, timedelta

from core.assessment.talk import (
    AccountLine,
    CountRead,
    LinkLadder,
    LinkRung,
    MapRow,
    MeterState,
    ReportState,
    RowRead,
    RungStands,
    SecretState,
    SignalState,
    SilentUnit,
)
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, worst
from core.base.messages import figure, say
from core.equipment.talker import StatusRung
from core.job.job import Job
from core.job.microinverter import GatewayUnit
from core.job.readings import Reading
from core.job.roof import place_text
from core.job.talk import (
    ACCOUNT_STEPS,
    FEEDING,
    NOTHING_ON,
    SignalPlan,
    TalkDevice,
    TalkPlan,
    meter_phases,
    meter_steps,
    of_two,
    step_name,
)
from core.planning.talk.faces import HouseSums, meter_wanted
from core.planning.talk.reach import nearest, unit_places
from core.rules.talk.access import account_agrees, account_whole, link_complete
from core.rules.talk.meter_live import MeterProof, meter_loads, meter_sign
from core.rules.talk.needs import clamps_fit, meter_present, signal_settled
from core.rules.talk.reporting import SeenAt, plant_kw, reporting_counts, rungs_read
from core.stages.microinverter.serial_map import READ, walk
from core.stages.reading_index import Readings
from core.stages.talk.prompts import out_by

S_PER_MIN, W_PER_KW = 60.0, 1000.0
MISREAD_SHOWN = 40
# What a typed list says of a unit is that it is listed, not that it was heard.
PROTOCOL = "protocol"


# -- meter


def meter_state(job: Job, sums: HouseSums, plan: TalkPlan, readings: Readings) -> MeterState | None:
    """The meter with its proof; None where there is none and none is needed."""
    meter, wanted = plan.meter, meter_wanted(job, sums.rated_w)
    if meter is None and not wanted:
        return None
    wired = any(one.function == "meter" and one.port for one in plan.wires)
    judged = [meter_present(wanted=wanted, fitted=meter is not None, wired=wired)]
    if meter is not None:
        phases = len(meter_phases(meter))
        own = meter.sheet.clamps
        judged.append(clamps_fit(clamps=len(meter.clamps), phases=phases, own=own))
        if wanted:
            judged += _proof(plan, readings)
    return MeterState(
        label=meter.sheet.label if meter else "",
        place=say("meter_places", meter.place) if meter else "",
        ratio=meter.ratio if meter else 1.0,
        clamps=tuple(
            say("talk", "clamp" if one.to_house else "clamp_away", phase=f"L{one.phase}")
            for one in (meter.clamps if meter else ())
        ),
        wanted=tuple(say("meter_wanted", one) for one in wanted),
        verdict=worst(one.verdict for one in judged),
        judgements=tuple(judged),
    )


def _proof(plan: TalkPlan, readings: Readings) -> Iterator[Judgement]:
    assert plan.meter is not None
    phases = meter_phases(plan.meter)
    steps = meter_steps(plan.meter)
    reads = {
        step: [readings.latest("meter_reads", of_two(step, f"L{one}")) for one in phases]
        for step in steps
    }
    loads = {one: readings.latest("meter_load", one) for one in steps[1:]}
    first = [one for one in steps if one != FEEDING]
    lacking = [
        step for step in first
        if None in reads[step] or (step != NOTHING_ON and loads[step] is None)
    ]  # fmt: skip
    single = len(phases) == 1
    if lacking:
        needs = (say("needs", "meter_step", step=say("meter_steps", lacking[0])),)
        yield meter_loads(proof=None, single=single, missing=needs)
        yield meter_sign(proof=None, missing=needs)
        return
    feeding = loads[FEEDING]
    proof = MeterProof(
        base_w=_numbers(reads[NOTHING_ON]),
        loads_w=_numbers([loads[one] for one in first[1:]]),
        load_reads_w=tuple(_numbers(reads[one]) for one in first[1:]),
        feeding_w=feeding.number if feeding else None,
        feeding_reads_w=None if None in reads[FEEDING] else _numbers(reads[FEEDING]),
    )
    yield meter_loads(proof=proof, single=single, missing=())
    yield meter_sign(proof=proof)


def _numbers(readings: list[Reading | None]) -> tuple[float, ...]:
    return tuple(one.number for one in readings if one is not None)


# -- signals


def signal_states(job: Job, sums: HouseSums, plan: TalkPlan) -> tuple[SignalState, ...]:
    """Every signal that the pack asks for or the plan has."""
    asked = {one.signal: one for one in job.rules.talk.signals if sums.rated_w >= one.from_w}
    own = {one.signal: one for one in plan.signals}
    found = []
    for signal in dict.fromkeys((*asked, *own)):
        one: SignalPlan | None = own.get(signal)
        wired = any(wire.function == signal and wire.port for wire in plan.wires)
        judgement = signal_settled(
            signal=signal,
            how=one.how if one else "",
            reason=one.reason if one else "",
            wired=wired,
        )
        steps = one.steps_pct if one else asked[signal].steps_pct
        found.append(
            SignalState(
                signal=signal,
                title=say("signals", signal),
                how=one.how if one else "",
                reason=one.reason if one else "",
                asked_by=asked[signal].source if signal in asked else "",
                steps=tuple(step_name(signal, pct) for pct in steps),
                verdict=judgement.verdict,
                judgements=(judgement,),
            )
        )
    return tuple(found)


# -- the way out, rung by rung


def ladders(plan: TalkPlan, readings: Readings) -> tuple[tuple[LinkLadder, Judgement], ...]:
    """The row of rungs of every device that goes out itself."""
    return tuple(_ladder(one, readings) for one in out_by(plan) if one.sheet.rungs)


def _ladder(device: TalkDevice, readings: Readings) -> tuple[LinkLadder, Judgement]:
    rungs, latest = device.sheet.rungs, readings.latest("status_row", device.name)
    digits = _plain(latest.text) if latest else ""
    read = rungs_read(digits=digits, rungs=len(rungs)) if digits else None
    if read is None:
        judgement = link_complete(read=False, misread=digits[:MISREAD_SHOWN], wanted=len(rungs))
    else:
        at: StatusRung | None = rungs[read.broken - 1] if read.broken else None
        judgement = link_complete(
            read=True,
            broken=read.broken,
            name=at.name if at else "",
            look=at.look if at else "",
            mends=at.mends if at else "",
            again=", ".join(map(str, read.again)),
        )
    rows = [
        RowRead(digits=one.text, at=one.taken_at, by=one.by)
        for one in readings.history("status_row", device.name)
    ]
    said = LinkLadder(
        device=device.name,
        rungs=tuple(
            LinkRung(
                number=number,
                name=one.name,
                look=one.look,
                mends=say("mends", one.mends),
                stands=_stands(number, read.broken, read.again) if read else "unread",
            )
            for number, one in enumerate(rungs, start=1)
        ),
        rows=tuple(rows),
        verdict=judgement.verdict,
        line=judgement.reason,
    )
    return said, judgement


def _plain(text: str) -> str:
    return "".join(text.split())


def _stands(number: int, broken: int, again: tuple[int, ...]) -> RungStands:
    if number == broken:
        return "broken"
    if number in again:
        return "again"
    return "good" if not broken or number < broken else "unread"


# -- what reports


def reports(
    job: Job, sums: HouseSums, plan: TalkPlan, readings: Readings
) -> tuple[tuple[ReportState, Judgement], ...]:
    """How the devices behind each device come to report."""
    return tuple(
        _report(job, sums, one, readings)
        for one in plan.devices
        if one.sheet.pairing is not None and planned_behind(job, sums, one)
    )


def _report(
    job: Job, sums: HouseSums, device: TalkDevice, readings: Readings
) -> tuple[ReportState, Judgement]:
    pairing = device.sheet.pairing
    assert pairing is not None
    planned = planned_behind(job, sums, device)
    begun = readings.latest("pairing_began", device.name)
    read = sorted(readings.counting("report_count", device.name), key=lambda one: one.taken_at)
    looked = [(one.taken_at, round(one.number)) for one in read]
    listed = _listed(job) if device.sheet.what == "gateway" else {}
    by_name = bool(listed)
    if by_name:
        looks = [one for one in job.gateway_reads if one.outcome == READ and one.source == PROTOCOL]
        names = set(listed)
        looked = sorted(
            (one.at, sum(u.reporting and u.serial in names for u in one.units)) for one in looks
        )
    first = looked[0][0] if looked else None
    began = begun.taken_at if begun is not None and begun.is_good else first
    counts = tuple(
        CountRead(at_min=max((at - began).total_seconds() / S_PER_MIN, 0.0), count=count, at=at)
        for at, count in looked
        if began is not None
    )
    judgement = reporting_counts(
        plan=planned,
        last_min=pairing.looks_min[-1],
        counts=tuple(SeenAt(at_min=one.at_min, count=one.count) for one in counts),
    )
    silent = _silent(job, readings, listed) if by_name and judgement.verdict != "clear" else ()
    short = judgement.verdict in ("stop", "watch") and not silent and counts
    return (
        ReportState(
            device=device.name,
            plan=planned,
            looks_min=pairing.looks_min,
            began_at=began,
            ends_at=began + timedelta(minutes=pairing.countdown_min) if began else None,
            next_at=_next_look(began, counts, pairing.looks_min),
            counts=counts,
            by_name=by_name,
            silent=silent,
            verdict=judgement.verdict,
            line=judgement.reason,
            do=say("talk", "ask_names") if short else say("talk", "swap") if silent else "",
        ),
        judgement,
    )


def planned_behind(job: Job, sums: HouseSums, device: TalkDevice) -> int:
    """How many devices should report to one: roof units to a gateway, optimisers to an inverter."""
    if device.sheet.what == "gateway":
        return len(job.micro.units) if job.micro else 0
    return sums.modules_behind(device.of) if job.optimiser is not None else 0


def _listed(job: Job) -> dict[str, GatewayUnit]:
    """What the gateway last listed, by serial; nothing where it never answered by name."""
    asked = [one for one in job.gateway_reads if one.outcome == READ and one.source == PROTOCOL]
    return {one.serial: one for one in asked[-1].units} if asked else {}


def _silent(job: Job, readings: Readings, listed: dict[str, GatewayUnit]) -> tuple[SilentUnit, ...]:
    """Units that are not heard, each with the nearest that are."""
    places = unit_places(job)
    serials = {name: _serial(readings, name) for name in places}
    heard = {
        name: places[name][0]
        for name, serial in serials.items()
        if name in places and serial in listed and listed[serial].reporting
    }
    return tuple(
        SilentUnit(
            name=name,
            place=" · ".join(map(place_text, where)),
            serial=serials.get(name, ""),
            near=nearest(where[0], heard),
        )
        for name, where in places.items()
        if name not in heard
    )


def _serial(readings: Readings, unit: str) -> str:
    latest = readings.latest("unit_serial", unit)
    return latest.text if latest else ""


def _next_look(
    began: datetime | None, counts: tuple[CountRead, ...], looks_min: tuple[float, ...]
) -> datetime | None:
    if began is None:
        return None
    last = counts[-1].at_min if counts else -1.0
    due = next((one for one in looks_min if one > last), None)
    return began + timedelta(minutes=due) if due is not None else None


# -- secrets, account


def secret_states(plan: TalkPlan, asks: tuple[Prompt, ...]) -> tuple[SecretState, ...]:
    """Where every secret stands, and whether the maker's own is gone."""
    places = {(one.device, one.secret): one.place for one in plan.secrets}
    by_subject = {one.subject: one for one in asks if one.kind == "default_replaced"}
    found = []
    for device in plan.devices:
        for secret in device.sheet.secrets:
            ask = by_subject[of_two(device.name, secret)]
            place = places.get((device.name, secret))
            found.append(
                SecretState(
                    key=ask.key,
                    device=device.name,
                    secret=secret,
                    title=say("secrets", secret),
                    place=place or "",
                    by=ask.reading.by if ask.reading else "",
                    at=ask.reading.taken_at if ask.reading else None,
                    verdict=ask.verdict,
                    judgements=ask.judgements,
                )
            )
    return tuple(found)


def account_judged(
    job: Job, sums: HouseSums, plan: TalkPlan, readings: Readings
) -> Iterator[Judgement]:
    """Whether the plant's page agrees with the job, and whether its account is whole."""
    if not out_by(plan):
        return
    if plan.account is None:
        yield account_whole(missing=(say("needs", "account"),), denied=())
        return
    count = sums.modules
    mean_w = sums.array_w / count if count else job.module.pmax_w
    yield plant_kw(modules=count, module_w=mean_w, entered_kw=plan.account.power_kw)
    yield account_agrees(what="address", entered=plan.account.address, plan=job.site.place)
    yield account_agrees(what="modules", entered=str(plan.account.modules), plan=str(count))
    signs = {step: readings.latest("account_step", step) for step in ACCOUNT_STEPS}
    yield account_whole(
        missing=tuple(say("account_steps", step) for step, one in signs.items() if one is None),
        denied=tuple(
            say("account_steps", step)
            for step, one in signs.items()
            if one is not None and not one.is_good
        ),
    )


def account_lines(
    job: Job, sums: HouseSums, plan: TalkPlan, rows: tuple[MapRow, ...]
) -> tuple[AccountLine, ...]:
    """The plant's page, ready to copy line by line."""
    account = plan.account
    pages = [one.sheet.page_of for one in plan.devices if one.sheet.page_of]
    behind = max((planned_behind(job, sums, one) for one in plan.devices), default=0)
    inverters = len(plan.of_kind("inverter"))
    lines = [
        ("plant", job.name),
        ("address", job.site.place),
        ("place", f"{job.site.latitude_deg:.5f}, {job.site.longitude_deg:.5f}"),
        ("timezone", job.site.timezone),
        ("power", figure(sums.array_w / W_PER_KW, "kW", 2)),
        ("modules", str(sums.modules)),
        *(
            ("plane", say("account", "lies", name=one.name, tilt=_deg(one.tilt_deg),
                          azimuth=_deg(one.azimuth_deg)))
            for one in job.planes
        ),
        ("owner", account.owner_name if account else ""),
        ("mail", account.owner_mail if account else ""),
        ("tariff", account.tariff if account else ""),
        ("pages", str(-(-max(behind, inverters, 1) // pages[0])) if pages else ""),
        *(("serial", f"{row.name}: {row.serial}") for row in rows if row.serial),
    ]  # fmt: skip
    return tuple(
        AccountLine(label=say("account", key), value=value) for key, value in lines if value
    )


def _deg(value: float | None) -> str:
    return "–" if value is None else figure(value, "°", 0)


def map_rows(job: Job, readings: Readings) -> tuple[MapRow, ...]:
    """Every serial in walking order, as it goes into the other device; the devices' own first."""
    talkers = job.talk.devices if job.talk else ()
    own = [
        MapRow(number=0, name=one.name, cells=(), serial=latest.text)
        for one in talkers
        if (latest := readings.latest("device_serial", one.name)) is not None
    ]
    return tuple(
        replace(row, number=number)
        for number, row in enumerate((*own, *_of_roof(job, readings)), start=1)
    )


def _of_roof(job: Job, readings: Readings) -> tuple[MapRow, ...]:
    if job.micro is not None:
        units = {unit.name: unit for unit in job.micro.units}
        names = [name for name in walk(job.micro) if name in units]
        return tuple(
            _row(number, name, tuple(map(place_text, units[name].modules)), readings, "unit_serial")
            for number, name in enumerate(names, start=1)
        )
    plate = readings.latest("nameplate_serial", "inverter")
    found = [
        MapRow(number=1, name=say("where", "inverter"), cells=(), serial=plate.text)
    ] if plate else []  # fmt: skip
    if job.optimiser is not None:
        places = [place_text(place) for one in job.strings for place in one.places]
        found += [
            _row(number, name, (name,), readings, "optimiser_serial")
            for number, name in enumerate(places, start=len(found) + 1)
        ]
    return tuple(found)


def _row(number: int, name: str, cells: tuple[str, ...], readings: Readings, kind: str) -> MapRow:
    latest = readings.latest(kind, name)  # type: ignore[arg-type]
    return MapRow(number=number, name=name, cells=cells, serial=latest.text if latest else "")
