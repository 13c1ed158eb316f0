"""Jobs that are proved, woken and set, in the order in which it is done."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any

from core.assess import assess
from core.assessment.wake import WakeStep
from core.assessment.whole import Prompt
from core.base.stage_numbers import FEED, HANG, PROVE, STRING, TALK
from core.edits.every import read_edit
from core.edits.feed.devices import with_device, with_supply
from core.edits.feed.runs import with_run
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Breaker, Isolator
from core.figures.grid_profiles import point_kinds, profile
from core.job.arrival import Arrival, CrewMember, Permit
from core.job.job import Job
from core.job.microinverter import GatewayRead, GatewayUnit
from core.job.readings import LOSS_MOMENTS, Outcome, SettingsWritten, SettingValue
from core.job.sequences import PHASES
from core.job.subjects import dead_steps
from core.job.testers import Instrument, Testing
from core.planning.talk.faces import house_sums
from core.rehearsal.play import Act
from core.rehearsal.rehearse import Rehearsal, rehearse
from core.stages.arrive.stage import planned_figures
from core.stages.permissions import dead as proving
from core.stages.permissions.grants import Permissions
from core.stages.permissions.switches import positions
from core.stages.reading_index import Readings, kept_of
from core.stages.wake.conditions import SwitchingContext
from core.tests.samples import (
    DISCHARGE_MIN,
    NOON,
    TESTER,
    measured_job,
    settled,
    whole_earth,
    wired,
    wired_roof,
    with_feed,
    with_reading,
)

IN_DATE = Instrument(
    name=TESTER, serial="T-1", calibrated_on=date(2026, 1, 10), due_on=date(2027, 1, 10)
)
# What a sound job reads where the middle of the expected band is not it.
SOUND = {
    "insulation_plus": 40.0,
    "insulation_minus": 38.0,
    "insulation_ac": 200.0,
    "supply_frequency": 50.0,
    "loop_impedance": 0.4,
    "residual_ms": 28.0,
    "residual_ma": 22.0,
}
TEST_VOLTS = {"insulation_volts": 1000.0, "insulation_ac_volts": 500.0}
BEGIN_MIN = 30.0
# What is switched while a meter is proved, its power, and what the meter shows.
METER_PROOF = (
    ("nothing on", None, 400.0),
    ("load on L1", 2000.0, 2390.0),
    ("feeding", 1500.0, -1090.0),
)


def ready_job() -> Job:
    """A one-phase job with strings, wall, earth and feed done, a tester at hand."""
    job = with_reading(measured_job(), "dc_switch", "inverter", 1)
    for name, volts in (("A", 418.0), ("B", 342.0)):
        job = with_reading(job, "open_circuit", name, volts)
        job = with_reading(job, "polarity", name, 1)
        job = with_reading(job, "connectors", name, 1)
    job = with_reading(job, "supply_voltage", "L-N", 232.0)
    job = wired(settled(with_feed(job)))
    return replace(job, testing=Testing(instruments=(IN_DATE,)))


def talking(job: Job) -> Job:
    """The job with a meter, a network cable and a stick, all of it wired, read and linked."""
    edits: tuple[dict[str, Any], ...] = (
        {"do": "begin_talk"},
        {
            "do": "put_talk_device", "was": None, "name": "Board", "sheet": "veyrick-link-n",
            "of": "Inverter",
        },
        {"do": "put_talk_device", "was": None, "name": "Meter", "sheet": "fenbrow-m3-talk"},
        {"do": "set_talk_meter", "sheet": "fenbrow-m1-100", "consumption_wanted": True},
        {
            "do": "put_talk_wire", "was": None, "name": "Meter", "function": "meter",
            "device": "Inverter", "far": "Meter", "length_m": "9", "outside_mm": "5.5",
            "cores": "4", "shield": "this",
        },
        {
            "do": "put_talk_wire", "was": None, "name": "Network", "function": "network",
            "device": "Board", "length_m": "12", "outside_mm": "5", "cores": "8",
        },
        {"do": "take_port_offer"},
        {"do": "set_way_out", "way": "cable", "consent": True, "spare_port": True},
        {"do": "put_signal", "signal": "dry_contact", "how": "not_required", "reason": "by letter"},
        {"do": "put_secret_place", "device": "Inverter", "secret": "device", "place": "envelope"},
        {"do": "put_secret_place", "device": "Inverter", "secret": "wifi", "place": "type_plate"},
    )  # fmt: skip
    for edit in edits:
        job = read_edit(edit).apply(job, catalogue.SHIPPED)
    for line in assess(job).arrive.lines:
        if line.id.startswith("talk ") and line.needed is not None:
            job = with_reading(job, "goods_found", line.id, line.needed)
    sums = house_sums(job)
    account = {
        "do": "set_account", "portal": "Shoreline", "owner_name": "Mina Tarrow",
        "owner_mail": "mina@tarrow.example", "address": job.site.place,
        "power_kw": f"{sums.array_w / 1000:g}", "modules": str(sums.modules),
    }  # fmt: skip
    job = read_edit(account).apply(job, catalogue.SHIPPED)
    for minute, (step, load_w, shown_w) in enumerate(METER_PROOF):
        job = with_reading(job, "meter_reads", f"{step} · L1", shown_w, minute=minute)
        if load_w is not None:
            job = with_reading(job, "meter_load", step, load_w, minute=minute)
    job = with_reading(job, "status_row", "Inverter", 0.0, text="1111")
    job = with_reading(job, "device_serial", "Board", 0.0, text="BN26000001")
    for ask in assess(job).asks:
        if ask.stage == TALK and ask.reading is None and ask.answers:
            job = with_reading(job, ask.kind, ask.subject, 1)
    return job


def sound_value(ask: Prompt) -> float:
    """What a sound plant reads."""
    if ask.answers:
        return 1.0
    middle = ((ask.expected_low or 0.0) + (ask.expected_high or 0.0)) / 2
    return SOUND.get(ask.kind, TEST_VOLTS.get(ask.kind, middle))


def proved(job: Job) -> Job:
    """The job with every test of Prove made."""
    for ask in assess(job).asks:
        if ask.stage == PROVE:
            job = with_reading(job, ask.kind, ask.subject, sound_value(ask))
    return job


def written(
    job: Job, outcome: Outcome = "read_back", *, minute: float = 0, **changed: float
) -> Job:
    """The job with its profile written; `changed` settings read back otherwise."""
    assert job.grid.profile is not None
    values = {p.id: p.value for p in profile(job.grid.profile).points} | changed
    carried = [i for i in values if not point_kinds()[i].by_hand]
    attempt = SettingsWritten(
        id=f"attempt-{len(job.settings_written):04d}",
        at=NOON + timedelta(minutes=minute),
        by="Tester",
        profile=job.grid.profile,
        host="h",
        port=1,
        unit_id=1,
        outcome=outcome,
        detail="",
        device=None,
        readback=tuple(SettingValue(id=i, value=values[i]) for i in carried),
    )
    return replace(job, settings_written=(*job.settings_written, attempt))


def settings_made(job: Job) -> Job:
    """The job with its profile written and what no register carries made by hand."""
    for point, value in (("over_voltage_mean_v", 253.0), ("loss_of_mains_s", 2.0)):
        job = with_reading(job, "setting", point, value)
    return written(job)


def has_trials(job: Job) -> bool:
    """Whether the trials that are made while it feeds were made."""
    return any(one.kind == "mean_voltage" for one in job.readings)


def made_dead(job: Job, minute: float) -> Job:
    """The job with everything made dead from a minute on, each step in its order and time."""
    for step in dead_steps(on_wall=job.inverter is not None):
        minute += DISCHARGE_MIN if step == "waited" else 1.0
        job = with_reading(job, "dead_step", step, 1, minute=minute)
    return job


def tried(
    job: Job, *, stopped_s: float = 1.0, returned_s: float = 62.0, minute: float = 200.0
) -> Job:
    """The job with its loss-of-supply test and its mean of the supply made."""
    seconds = (0.0, stopped_s, 10.0, 10.0 + returned_s)
    for moment, at_s in zip(LOSS_MOMENTS, seconds, strict=True):
        job = with_reading(job, "loss_moment", moment, 1, minute=minute + at_s / 60)
    return with_reading(job, "mean_voltage", "site", 235.0, minute=minute + 12)


def minutes_after_noon(at: datetime) -> float:
    return (at - NOON).total_seconds() / 60


def step_now(job: Job, phase: int = 0) -> WakeStep | None:
    """The step that is next in a phase of the job's sequence."""
    steps = assess(job).wake.phases[phase].steps
    return next((one for one in steps if one.standing in ("now", "locked", "failed")), None)


def taken(job: Job, step: WakeStep, value: float = 1, *, minute: float) -> Job:
    """The job with a step done, or not as expected."""
    return with_reading(job, "wake_step", step.key.partition("/")[2], value, minute=minute)


def woken(job: Job, phase: int = 0, begin_min: float = BEGIN_MIN) -> Job:
    """The job with a phase of its sequence gone through, each wait waited out."""
    minute = begin_min
    for _ in assess(job).wake.phases[phase].steps:
        step = step_now(job, phase)
        if step is not None and step.id == "normal" and not has_trials(job):
            # Its trials are made while it feeds, before it is left to itself.
            job, minute = tried(job, minute=minute + 1), minute + 20
            step = step_now(job, phase)
        if step is not None and step.id == "dead":
            job, minute = made_dead(job, minute + 1), minute + 20
            step = step_now(job, phase)
        if step is None or (step.standing == "locked" and step.due_at is None):
            break
        minute += 0.1
        if step.due_at is not None:
            minute = max(minute, minutes_after_noon(step.due_at))
        job = taken(job, step, minute=minute)
    return job


def followed(job: Job, phase: int, **more: object) -> Rehearsal:
    """A phase rehearsed in its order, each light and wait waited for."""
    acts: tuple[Act, ...] = ()
    at_s = 0.0
    for _ in range(200):
        played = rehearse(job, phase=PHASES[phase], acts=acts, until_s=at_s, **more)  # type: ignore[arg-type]
        left = next((one for one in played.steps if one.done_s is None), None)
        if left is None or at_s > 4000:
            break
        if left.switch is not None:
            acts = (*acts, Act(at_s=at_s, switch=left.switch, to=left.to))  # type: ignore[arg-type]
        elif left.needs_seen or left.id == "paired":
            acts = (*acts, Act(at_s=at_s, seen=left.id))
        at_s += 10 if left.switch else 31
    return played


def answered(job: Job, *stages: int) -> Job:
    """The job with every thing that these stages ask for read as a sound plant reads."""
    minute = 0.0
    for ask in assess(job).asks:
        if ask.stage not in stages or ask.optional or ask.is_text:
            continue
        minute += DISCHARGE_MIN if ask.subject == "waited" else 1.0
        job = with_reading(job, ask.kind, ask.subject, sound_value(ask), minute=minute)
    return job


def sound_roof() -> Job:
    """A roof of microinverters that lacks nothing but being switched on: wired, mapped, proved,
    its gateway looked at and given the profile."""
    job = mapped(with_board(wired_roof()))
    crew = (CrewMember(name="A", licence="L 1"), CrewMember(name="B"))
    permit = Permit(operator="O", reference="R", granted_on=NOON.date())
    job = replace(whole_earth(job), arrival=Arrival(permit=permit, crew=crew))
    model = with_reading(job, "nameplate_model", "inverter", 0, text=job.source.model)
    plate = planned_figures(model)
    for ask in assess(model).asks:
        if ask.kind in plate:
            model = with_reading(model, ask.kind, ask.subject, plate[ask.kind])
    job = answered(model, HANG, STRING, FEED)
    job = proved(replace(job, testing=Testing(instruments=(IN_DATE,))))
    return settings_made(looked(job, *listed(job)))


def with_board(job: Job) -> Job:
    """The roof with its board and branch board known: busbar, supply, breaker, terminals."""
    breaker = catalogue.pick(catalogue.sheets("breakers"), "stobmoor-b25", Breaker, "$")
    isolator = catalogue.pick(catalogue.sheets("isolators"), "stobmoor-ac-40", Isolator, "$")
    wide = replace(
        isolator, rated_a=63.0, poles=2, most_mm2=25.0, gland_least_mm=10.0, gland_most_mm=25.0
    )
    guarded = replace(breaker, rated_a=63.0, residual_type="A", residual_ma=30.0)
    board = replace(
        job.feed.device("Board"), breaker=guarded, busbar_a=160.0, supply_a=63.0, surge="2"
    )
    boxes = replace(job.feed.device("Branch board"), isolator=wide, busbar_a=160.0, supply_a=63.0)
    job = with_device(with_device(job, "Board", board), "Branch board", boxes)
    (feeds,) = [one for one in job.feed.runs if one.name == "Roof feed"]
    job = with_run(job, feeds.name, replace(feeds, outside_mm=13.5))
    return with_supply(job, job.source.service, "TN")


def serial_of(number: int) -> str:
    """The serial of the unit of a number."""
    return f"TN{10_000_000 + number}"


def mapped(job: Job) -> Job:
    """The roof with every serial on its map."""
    for number, one in enumerate(job.roof_plan.units):
        job = with_reading(job, "unit_serial", one.name, 0, text=serial_of(number))
    return job


def looked(job: Job, *units: GatewayUnit, minutes: float = 0.0) -> Job:
    """The roof with a look at its gateway, which listed these units."""
    look = GatewayRead(
        id=f"look-{len(job.gateway_reads):04d}", at=NOON + timedelta(minutes=minutes), by="Tester",
        host="h", port=502, outcome="read", detail="", units=units,
    )  # fmt: skip
    return replace(job, gateway_reads=(*job.gateway_reads, look))


def listed(job: Job, *late: str) -> list[GatewayUnit]:
    """What the gateway lists: every unit of the map, some of them not reporting yet."""
    return [
        GatewayUnit(serial=serial_of(number), reporting=one.name not in late)
        for number, one in enumerate(job.roof_plan.units)
    ]


def switching(job: Job) -> SwitchingContext:
    """What a step of Wake is asked with."""
    readings = Readings(kept_of(job))
    said = assess(job)
    stands = positions(job)
    dead = proving.made_dead(job, readings, stands, said.at)
    return SwitchingContext(
        job=job, readings=readings, roof=said.roof, talk=said.talk, grid=said.grid, asks=said.asks,
        at=said.at,
        grants=Permissions(job, said.at, said.open_points, stands, dead),
    )  # fmt: skip
