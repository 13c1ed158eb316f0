"""Changing how the devices of a house talk: devices, wires, ports, meter, signals, account."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal, TypeVar

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.quantity import Items, Text
from core.edits.edit import Catalogue, Edit, Entered, known, picked, retired
from core.edits.fields import typed, typed_value
from core.equipment.cables_switches_fixings import Meter
from core.equipment.talker import Function, Talker, Way
from core.job.job import Job
from core.job.talk import (
    MODBUS_PORT,
    PORTAL_PORT,
    AccountPlan,
    ClampPlan,
    LeftOpen,
    MayStayOpen,
    MeterPlan,
    School,
    SecretPlace,
    SignalPlan,
    StepPct,
    TalkDevice,
    TalkPlan,
    TalkWire,
    WayOut,
    talk_subjects,
)
from core.planning.talk.faces import first_plan
from core.planning.talk.ports import against, places

Planned = TypeVar("Planned", TalkDevice, TalkWire)


class TalkEdit(Edit):
    """Base of every change to the plan of Talk; without a plan it begins an empty one."""

    of_house = True

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_talk(job, self.changed(job, job.talk or TalkPlan(), catalogue))

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        """The plan with this change made. Raises Refused; then nothing is changed."""
        raise NotImplementedError


@dataclass(frozen=True, kw_only=True)
class BeginTalk(TalkEdit):
    """A plan to begin with: the devices that the job has and what they must tell each other."""

    do: Literal["begin_talk"] = "begin_talk"

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        if plan.devices:
            said = "There is a plan already: take its devices away one by one to begin anew."
            raise Refused([problem("$.talk", len(plan.devices), "a job without a plan", said)])
        return first_plan(job, catalogue.every("talkers", Talker))


@dataclass(frozen=True, kw_only=True)
class SetWayOut(TalkEdit):
    """By which way the house speaks to the outside."""

    do: Literal["set_way_out"] = "set_way_out"
    way: Way
    reason: Entered = ""
    standby: Way | None = None
    consent: bool | None = None
    router_m: Entered = ""
    spare_port: bool | None = None
    by_router: bool | None = None

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        return replace(plan, way_out=typed_value(WayOut, self))


@dataclass(frozen=True, kw_only=True)
class SetTalkSchool(TalkEdit):
    """When it is wired and set; None: as the sheet says."""

    do: Literal["set_talk_school"] = "set_talk_school"
    school: School | None
    reason: Entered = ""

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        return replace(plan, school=self.school, school_reason=self.reason.strip())


@dataclass(frozen=True, kw_only=True)
class PutTalkDevice(TalkEdit):
    """A device that talks, by its sheet; `was` names the one that it replaces."""

    do: Literal["put_talk_device"] = "put_talk_device"
    was: Entered | None
    name: Entered
    sheet: Entered | None = None
    of: Entered = ""
    place: Entered = ""
    address: Entered = ""

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        old = _old(plan.devices, self.was)
        sheet = picked(catalogue, "talkers", self.sheet, Talker, old.sheet if old else None)
        if sheet is None:
            raise Refused([problem("$.sheet", "none", "a sheet of the shelf, Communication")])
        made = typed_value(TalkDevice, self, sheet=sheet)
        if old is None:
            return _put_device(plan, old, made)
        if old.sheet != made.sheet:
            # Ports that the new sheet has not are free again.
            plan = _freed(plan, old.name, {one.name for one in made.sheet.ports})
        return _renamed(plan, old, made)


@dataclass(frozen=True, kw_only=True)
class RemoveTalkDevice(TalkEdit):
    """A device that talks no longer, with the wires that began there."""

    do: Literal["remove_talk_device"] = "remove_talk_device"
    name: Entered

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        known("$.name", self.name, [one.name for one in plan.devices])
        wires = tuple(
            replace(one, far="", far_port="") if one.far == self.name else one
            for one in plan.wires
            if one.device != self.name
        )
        return replace(
            plan,
            devices=tuple(one for one in plan.devices if one.name != self.name),
            wires=wires,
            secrets=tuple(one for one in plan.secrets if one.device != self.name),
        )


@dataclass(frozen=True, kw_only=True)
class PutTalkWire(TalkEdit):
    """One function from a device to another, as typed; `was` names the wire that it replaces."""

    do: Literal["put_talk_wire"] = "put_talk_wire"
    was: Entered | None
    name: Entered
    function: Function
    device: Entered
    port: Entered = ""
    far: Entered = ""
    far_port: Entered = ""
    length_m: Entered = ""
    outside_mm: Entered = ""
    cores: Entered = ""
    shield: Literal["this", "far", "both", "none"] = "none"
    shield_pin: Entered = ""
    no_device_yet: bool = False

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        old = _old(plan.wires, self.was)
        return _put_wire(plan, old, typed_value(TalkWire, self))


@dataclass(frozen=True, kw_only=True)
class PlaceTalkWire(TalkEdit):
    """One end of a wire put on a port of a device, or (empty) taken off its port."""

    do: Literal["place_talk_wire"] = "place_talk_wire"
    wire: Entered
    device: Entered
    port: Entered

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        known("$.wire", self.wire, [one.name for one in plan.wires])
        return _placed(plan, ((self.wire, self.device, self.port),))


@dataclass(frozen=True, kw_only=True)
class RemoveTalkWire(TalkEdit):
    """A wire that is not wanted any more."""

    do: Literal["remove_talk_wire"] = "remove_talk_wire"
    name: Entered

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        known("$.name", self.name, [one.name for one in plan.wires])
        return replace(plan, wires=tuple(one for one in plan.wires if one.name != self.name))


@dataclass(frozen=True, kw_only=True)
class TakePortOffer(TalkEdit):
    """Every function on the port that is proposed for it."""

    do: Literal["take_port_offer"] = "take_port_offer"

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        found = places(plan)
        if not found:
            said = against(plan) or "There is nothing to put on a port."
            raise Refused([problem("$.talk.wires", len(plan.wires), "wires that all fit", said)])
        return _placed(plan, found)


@dataclass(frozen=True, kw_only=True)
class Clamp(Checked):
    """One clamp as it is planned."""

    phase: Entered
    to_house: bool


@dataclass(frozen=True, kw_only=True)
class SetTalkMeter(TalkEdit):
    """The meter that the plant reads; an empty sheet takes it out of the plan."""

    do: Literal["set_talk_meter"] = "set_talk_meter"
    sheet: Entered | None
    place: Literal["supply", "sub_circuit"] = "supply"
    ratio: Entered = "1"
    host: Entered = ""
    port: Entered = str(MODBUS_PORT)
    unit_id: Entered = "1"
    clamps: Annotated[tuple[Clamp, ...], Items("clamps", 0, 6)] = ()
    consumption_wanted: bool = False

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        old = plan.meter.sheet if plan.meter else None
        sheet = picked(catalogue, "meters", self.sheet, Meter, old)
        clamps = tuple(typed_value(ClampPlan, one) for one in self.clamps)
        meter = typed_value(MeterPlan, self, sheet=sheet, clamps=clamps) if sheet else None
        return replace(plan, meter=meter, consumption_wanted=self.consumption_wanted)


@dataclass(frozen=True, kw_only=True)
class PutSignal(TalkEdit):
    """A signal of the operator: wired, blanked, or not required with a reason."""

    do: Literal["put_signal"] = "put_signal"
    signal: Literal["demand_response", "ripple", "dry_contact", "shutdown"]
    how: Literal["wired", "blanked", "not_required"]
    reason: Entered = ""
    steps_pct: Annotated[tuple[Entered, ...], Items("steps", 0, 8)] = ()
    within_s: Entered = "5"

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        asked = next((one for one in job.rules.talk.signals if one.signal == self.signal), None)
        steps = tuple(
            typed(StepPct, one, f"$.steps_pct[{index}]") for index, one in enumerate(self.steps_pct)
        ) or (asked.steps_pct if asked else (0.0,))
        made = typed_value(SignalPlan, self, steps_pct=steps)
        kept = tuple(one for one in plan.signals if one.signal != made.signal)
        return replace(plan, signals=(*kept, made))


@dataclass(frozen=True, kw_only=True)
class PutSecretPlace(TalkEdit):
    """Where a secret stands; never the secret itself, so only one of a few places is taken."""

    do: Literal["put_secret_place"] = "put_secret_place"
    device: Entered
    secret: Literal["device", "grid_menu", "wifi", "portal"]
    place: Entered

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        made = typed_value(SecretPlace, self)
        kept = (
            one for one in plan.secrets if (one.device, one.secret) != (self.device, made.secret)
        )
        return replace(plan, secrets=(*kept, made))


@dataclass(frozen=True, kw_only=True)
class SetAccount(TalkEdit):
    """What is entered in the portal; an empty portal takes it away."""

    do: Literal["set_account"] = "set_account"
    portal: Entered
    owner_name: Entered = ""
    owner_mail: Entered = ""
    address: Entered = ""
    power_kw: Entered = ""
    modules: Entered = ""
    tariff: Entered = ""
    host: Entered = ""
    port: Entered = str(PORTAL_PORT)

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        made = typed_value(AccountPlan, self) if self.portal.strip() else None
        return replace(plan, account=made)


@dataclass(frozen=True, kw_only=True)
class LeaveTalkOpen(TalkEdit):
    """One of the few things that may stay open: who sees to it, until when; no owner: settled."""

    do: Literal["leave_talk_open"] = "leave_talk_open"
    what: MayStayOpen
    owner: Annotated[str, Text("owner", 0, 60)]
    due: Entered = ""

    def changed(self, job: Job, plan: TalkPlan, catalogue: Catalogue) -> TalkPlan:
        kept = tuple(one for one in plan.left_open if one.what != self.what)
        made = (typed_value(LeftOpen, self),) if self.owner.strip() else ()
        return replace(plan, left_open=(*kept, *made))


def with_talk(job: Job, plan: TalkPlan) -> Job:
    """The job with another plan of Talk; what was read of what is gone is kept.

    Raises Refused with paths below ``$.talk``.
    """
    gone = _subjects(job.talk) - _subjects(plan)
    return replace(job, talk=plan, retired=retired(job, gone))


def _subjects(plan: TalkPlan | None) -> frozenset[str]:
    return frozenset().union(*talk_subjects(plan).values())


def _old(group: tuple[Planned, ...], was: str | None) -> Planned | None:
    if was is None:
        return None
    known("$.was", was, [one.name for one in group])
    return next(one for one in group if one.name == was)


def _put_device(plan: TalkPlan, old: TalkDevice | None, made: TalkDevice) -> TalkPlan:
    if old is None:
        return replace(plan, devices=(*plan.devices, made))
    return replace(plan, devices=tuple(made if one is old else one for one in plan.devices))


def _put_wire(plan: TalkPlan, old: TalkWire | None, made: TalkWire) -> TalkPlan:
    if old is None:
        return replace(plan, wires=(*plan.wires, made))
    return replace(plan, wires=tuple(made if one is old else one for one in plan.wires))


def _freed(plan: TalkPlan, device: str, ports: set[str]) -> TalkPlan:
    def own(wire: TalkWire) -> TalkWire:
        if wire.device == device and wire.port not in ports:
            wire = replace(wire, port="")
        if wire.far == device and wire.far_port not in ports:
            wire = replace(wire, far_port="")
        return wire

    return replace(plan, wires=tuple(map(own, plan.wires)))


def _renamed(plan: TalkPlan, old: TalkDevice, made: TalkDevice) -> TalkPlan:
    """The plan with a device in place of another, and what named the old one naming the new."""
    was, now = old.name, made.name
    devices = (made if one is old else one for one in plan.devices)
    return replace(
        plan,
        devices=tuple(replace(one, of=now) if one.of == was else one for one in devices),
        wires=tuple(
            replace(
                one,
                device=now if one.device == was else one.device,
                far=now if one.far == was else one.far,
            )
            for one in plan.wires
        ),
        secrets=tuple(
            replace(one, device=now) if one.device == was else one for one in plan.secrets
        ),
    )


def _placed(plan: TalkPlan, where: tuple[tuple[str, str, str], ...]) -> TalkPlan:
    """The plan with ends of wires on these ports: the wire, the device, the port."""
    wires = {one.name: one for one in plan.wires}
    for wire, device, port in where:
        one = wires[wire]
        if device not in (one.device, one.far):
            allowed = " · ".join(name for name in (one.device, one.far) if name)
            raise Refused([problem("$.device", device, allowed)])
        here = one.device == device
        wires[wire] = replace(one, port=port) if here else replace(one, far_port=port)
    return replace(plan, wires=tuple(wires.values()))


AnyTalkEdit = (
    BeginTalk
    | SetWayOut
    | SetTalkSchool
    | PutTalkDevice
    | RemoveTalkDevice
    | PutTalkWire
    | PlaceTalkWire
    | RemoveTalkWire
    | TakePortOffer
    | SetTalkMeter
    | PutSignal
    | PutSecretPlace
    | SetAccount
    | LeaveTalkOpen
)
