"""Which devices of a job talk: its inverters, roof gateway, backup controller, batteries."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from itertools import pairwise
from math import fsum

from core.equipment.cables_switches_fixings import Meter
from core.equipment.sheet import Sheet
from core.equipment.talker import Function, Talker, TalkerKind
from core.job.house import View, house_rated_w
from core.job.job import Job
from core.job.subjects import DC_SWITCHES
from core.job.talk import (
    ClampPlan,
    MeterPlan,
    SignalPlan,
    TalkDevice,
    TalkPlan,
    TalkWire,
    chain_names,
)
from core.rules.talk.needs import Wanted

GATEWAY, CONTROLLER, METER = "Gateway", "Controller", "Meter"


def inverters_of(job: Job) -> tuple[tuple[str, Sheet], ...]:
    """Every wall inverter of the house by the name of its device in the feed, with its sheet."""
    every = (job, *(job.sisters if isinstance(job, View) else ()))
    found = [(one.own_device or "Inverter", one.inverter) for one in every if one.inverter]
    found += [(one.name, one.inverter) for one in job.stations]
    return tuple(sorted(found, key=lambda one: one[0]))


def fitted_meter(job: Job) -> Meter | None:
    """The meter that stands in the feed; None where there is none, or nobody named its sheet."""
    return next((one.meter for one in job.feed.devices if one.meter is not None), None)


@dataclass(frozen=True, kw_only=True)
class HouseSums:
    """What all inverters of a house come to. behind: modules on the strings of each by name;
    profiles: the grid profile of each."""

    rated_w: float
    modules: int
    array_w: float
    behind: tuple[tuple[str, int], ...]
    profiles: tuple[tuple[str, str | None], ...]

    def profile(self, inverter: str) -> str | None:
        """The grid profile of one inverter, by the name of its device in the feed."""
        known = dict(self.profiles)
        return known[inverter] if inverter in known else next(iter(known.values()), None)

    def modules_behind(self, inverter: str) -> int:
        """Modules on the strings of one inverter, by the name of its device in the feed."""
        return dict(self.behind).get(inverter, self.modules if len(self.behind) == 1 else 0)


def house_sums(job: Job) -> HouseSums:
    """What all inverters of the house come to, this one's view among them or the house itself."""
    every = (job, *(job.sisters if isinstance(job, View) else ()))
    strings = {one.own_device or "Inverter": one.strings for one in every if one.inverter}
    strings |= {one.name: one.strings for one in job.stations}
    wired = [one for some in strings.values() for one in some]
    places = [
        at for one in every if one.micro is not None for u in one.micro.units for at in u.modules
    ]
    array = [one.modules_in_series * job.module_on(one.plane).pmax_w for one in wired]
    array += [job.module_on(at.plane).pmax_w for at in places]
    return HouseSums(
        rated_w=house_rated_w(job),
        modules=sum(one.modules_in_series for one in wired) + len(places),
        array_w=fsum(array),
        behind=tuple(
            (name, sum(one.modules_in_series for one in some)) for name, some in strings.items()
        ),
        profiles=(
            *((one.own_device or "Inverter", one.grid.profile) for one in every),
            *((one.name, one.grid.profile) for one in job.stations),
        ),
    )


def meter_wanted(job: Job, rated_w: float) -> tuple[Wanted, ...]:
    """Why this job needs a meter that its devices read; empty: it needs none."""
    permit, backup = job.arrival.permit, job.feed.backup
    limit = permit.export_w if permit else None
    found: list[Wanted] = []
    if limit is not None and limit < rated_w:
        found.append("export")
    if backup is not None and backup.battery is not None:
        found.append("battery")
    if backup is not None:
        found.append("backup")
    if job.talk is not None and job.talk.consumption_wanted:
        found.append("consumption")
    return tuple(found)


def face_of(sheet: Sheet | None, shelf: Iterable[Talker], what: TalkerKind) -> Talker | None:
    """The ports of a device as a sheet of the shelf has them; None where nobody entered them."""
    if sheet is None:
        return None
    return next(
        (
            one
            for one in shelf
            if one.what == what
            and one.maker == sheet.maker
            and any(model.model == sheet.model for model in one.works_with)
        ),
        None,
    )


def first_plan(job: Job, shelf: tuple[Talker, ...]) -> TalkPlan:
    """A plan to begin with: the devices that the job has, and the functions that they must have.

    No function is on a port yet. The way out is left to be chosen.
    """
    devices = tuple(_devices(job, shelf))
    plan = TalkPlan(devices=devices, meter=_meter(job), signals=_signals(job))
    return replace(plan, wires=tuple(_wires(job, plan)))


def _devices(job: Job, shelf: tuple[Talker, ...]) -> Iterator[TalkDevice]:
    for name, sheet in inverters_of(job):
        face = face_of(sheet, shelf, "inverter")
        if face is not None:
            yield TalkDevice(name=name[:24], sheet=face, of=name)
    if job.micro is not None:
        gateway = next((one for one in shelf if one.what == "gateway" and one.lists), None)
        if gateway is not None:
            yield TalkDevice(name=GATEWAY, sheet=gateway)
    backup = job.feed.backup
    if backup is not None:
        face = face_of(backup.controller, shelf, "controller") or next(
            (one for one in shelf if one.what == "controller"), None
        )
        if face is not None:
            yield TalkDevice(name=CONTROLLER, sheet=face)
        cell = backup.battery
        face = face_of(cell.sheet, shelf, "battery") if cell else None
        face = face or next((one for one in shelf if one.what == "battery"), None)
        if cell is not None and face is not None:
            for number, name in enumerate(chain_names(cell.units), start=1):
                yield TalkDevice(name=name, sheet=face, address=number)
    meter = fitted_meter(job)
    if meter is not None:
        face = face_of(meter, shelf, "meter")
        if face is not None:
            yield TalkDevice(name=METER, sheet=face)


def _meter(job: Job) -> MeterPlan | None:
    meter = fitted_meter(job)
    if meter is None:
        return None
    phases = 3 if meter.phases == "three" else 1
    clamps = tuple(ClampPlan(phase=one + 1) for one in range(phases)) if meter.clamps else ()
    return MeterPlan(sheet=meter, clamps=clamps)


def _signals(job: Job) -> tuple[SignalPlan, ...]:
    shutdown = job.feed.backup is not None and job.feed.backup.shutdown_line
    safe = DC_SWITCHES[job.feed.dc.school]
    wanted = shutdown and not safe
    return (SignalPlan(signal="shutdown", how="wired"),) if wanted else ()


def _wires(job: Job, plan: TalkPlan) -> Iterator[TalkWire]:
    """The functions that the plan's devices must have, each on no port yet."""
    names = {one.name for one in plan.devices}
    lead = next((one for one in plan.devices if one.sheet.what in ("inverter", "gateway")), None)
    if lead is None:
        return
    holder = plan.device(CONTROLLER) if CONTROLLER in names else lead
    if METER in names and meter_wanted(job, house_sums(job).rated_w) and _takes(holder, "meter"):
        yield TalkWire(name="Meter", function="meter", device=holder.name, far=METER)
    if CONTROLLER in names and _takes(lead, "backup"):
        yield TalkWire(name="Backup", function="backup", device=lead.name, far=CONTROLLER)
    batteries = plan.of_kind("battery")
    chain = (holder, *batteries)
    for number, (one, after) in enumerate(pairwise(chain), start=1):
        if _takes(one, "battery"):
            yield TalkWire(
                name=f"Chain {number}", function="battery", device=one.name, far=after.name
            )
    for signal in plan.signals:
        if signal.how == "wired" and _takes(holder, signal.signal):
            name = signal.signal.replace("_", " ").capitalize()
            yield TalkWire(name=name, function=signal.signal, device=holder.name)
    inverters = plan.of_kind("inverter")
    for number, (one, after) in enumerate(pairwise(inverters), start=1):
        if _takes(one, "bus") and _takes(after, "bus"):
            yield TalkWire(name=f"Bus {number}", function="bus", device=one.name, far=after.name)


def _takes(device: TalkDevice, function: Function) -> bool:
    return any(function in port.functions for port in device.sheet.ports)
