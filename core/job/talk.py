"""How the devices of a house talk to each other and out of it: what is planned, never what is read.

The plan is the house's: of several inverters each is a device in it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal, get_args

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Name, Note, OutsideMm, Port, Signal, UnitId
from core.base.quantity import Items, Quantity, Text
from core.equipment.cables_switches_fixings import Meter
from core.equipment.talker import FITTED, Function, Secret, Talker, Way

School = Literal[
    "inside_first", "before_power", "cover_open", "after_power", "before_branch", "separate"
]
SCHOOLS: tuple[School, ...] = get_args(School)
# Where a radio signal is read: at the device, at the gateway, at the plane furthest from it.
PLACES = ("device", "gateway", "furthest plane")
SIGNALS: tuple[Signal, ...] = get_args(Signal)
AccountStep = Literal["entered", "owner", "installer", "first_value"]
ACCOUNT_STEPS: tuple[AccountStep, ...] = get_args(AccountStep)
# What alone may stay open with an owner and a date when everybody leaves.
MayStayOpen = Literal["meter_sign", "count_complete", "link_complete", "default_password_gone"]
# The loads that are switched on one after the other while a meter is proved, and the feeding.
NOTHING_ON, FEEDING = "nothing on", "feeding"
CHAIN_ENDS = ("battery", "controller")
# Where a portal listens that nobody gave another port.
PORTAL_PORT = 8090
# IANA: Modbus over TCP.
MODBUS_PORT = 502
# What runs on one pair from device to device; what stands between a device and a part of it.
ON_BUS: tuple[Function, ...] = ("bus", "logger")
PART_OF = " · "

TalkerName = Annotated[str, Text("device", 1, 24)]
BusAddress = Annotated[int, Quantity("bus address", "", 1, 247)]
LengthM = Annotated[float, Quantity("length of a cable", "m", 0.1, 2000)]
RouterM = Annotated[float, Quantity("distance to the router", "m", 0, 500)]
Cores = Annotated[int, Quantity("cores", "", 1, 40)]
ClampPhase = Annotated[int, Quantity("phase of a clamp", "", 1, 3)]
Ratio = Annotated[float, Quantity("ratio of the clamps", "", 0.001, 10_000)]
PlantKw = Annotated[float, Quantity("power entered in the portal", "kW", 0.01, 1000)]
ModuleCount = Annotated[int, Quantity("modules entered in the portal", "", 1, 2000)]
StepPct = Annotated[float, Quantity("step of a signal", "%", 0, 100)]
WithinS = Annotated[float, Quantity("within", "s", 1, 3600)]


@dataclass(frozen=True, kw_only=True)
class WayOut(Checked):
    """By which way the house speaks to the outside, and why.

    standby: a second way that takes over. consent: of the owner to use the house's own network.
    spare_port, by_router: whether the router has one, and gives addresses; None: nobody has asked.
    """

    way: Way
    reason: Note = ""
    standby: Way | None = None
    consent: bool | None = None
    router_m: RouterM | None = None
    spare_port: bool | None = None
    by_router: bool | None = None


@dataclass(frozen=True, kw_only=True)
class TalkDevice(Checked):
    """A device that talks. of: the device of the feed, or the inverter's name, that it is the face
    of or sits in; empty for what stands by itself. place: where it hangs, as the hand finds it."""

    name: TalkerName
    sheet: Talker
    of: Note = ""
    place: Note = ""
    address: BusAddress | None = None


@dataclass(frozen=True, kw_only=True)
class TalkWire(Checked):
    """One function carried from a device's port to another's.

    port, far_port: empty while it is on none; far: the other device, or what is outside the plan.
    outside_mm: of its cable. shield: on earth at this end, the far end, both, or none. shield_pin:
    on which terminal it was planned; None: where the sheet has it. no_device_yet: the cable waits
    with slack, label and a blank for a device that comes later.
    """

    name: Name
    function: Function
    device: TalkerName
    port: Note = ""
    far: Note = ""
    far_port: Note = ""
    length_m: LengthM | None = None
    outside_mm: OutsideMm | None = None
    cores: Cores | None = None
    shield: Literal["this", "far", "both", "none"] = "none"
    shield_pin: Annotated[int, Quantity("pin of the shield", "", 0, 40)] | None = None
    no_device_yet: bool = False

    def touches(self, device: str, port: str) -> bool:
        """Whether it ends on that port."""
        return (device, port) in ((self.device, self.port), (self.far, self.far_port))


@dataclass(frozen=True, kw_only=True)
class ClampPlan(Checked):
    """One clamp: round which phase, its arrow towards the house (import counts as plus)."""

    phase: ClampPhase
    to_house: bool = True


@dataclass(frozen=True, kw_only=True)
class MeterPlan(Checked):
    """The meter by which the plant knows what the house takes.

    place: at the supply point, or of a sub-circuit alone. host, port, unit_id: where it answers;
    an empty host: it is read by eye.
    """

    sheet: Meter
    place: Literal["supply", "sub_circuit"] = "supply"
    ratio: Ratio = 1.0
    host: Note = ""
    port: Port = MODBUS_PORT
    unit_id: UnitId = 1
    clamps: Annotated[tuple[ClampPlan, ...], Items("clamps", 0, 6)] = ()

    def contradictions(self) -> Iterator[Problem]:
        phases = [one.phase for one in self.clamps]
        for index, phase in enumerate(phases):
            if phase in phases[:index]:
                said = f"Two clamps on L{phase}: each phase has one of its own."
                yield problem(f"$.clamps[{index}].phase", phase, "each phase once", said)


@dataclass(frozen=True, kw_only=True)
class SignalPlan(Checked):
    """A signal by which the operator, or a switch, holds the plant back.

    how: wired, blanked, or not required with a reason. steps_pct: what is left at each step.
    """

    signal: Signal
    how: Literal["wired", "blanked", "not_required"]
    reason: Note = ""
    steps_pct: Annotated[tuple[StepPct, ...], Items("steps", 1, 8)] = (0.0,)
    within_s: WithinS = 5.0


@dataclass(frozen=True, kw_only=True)
class SecretPlace(Checked):
    """Where a secret stands. Never the secret: only one of a few places can be named."""

    device: TalkerName
    secret: Secret
    place: Literal["type_plate", "profile_page", "envelope", "owner", "crew_safe"]


@dataclass(frozen=True, kw_only=True)
class AccountPlan(Checked):
    """What is entered in the portal for this plant, as it was entered. host, port: where the portal
    itself is spoken to; an empty host: it is not."""

    portal: Name
    owner_name: Name
    owner_mail: Annotated[str, Text("mail of the owner", 3, 120)]
    address: Annotated[str, Text("address of the plant", 1, 120)]
    power_kw: PlantKw
    modules: ModuleCount
    tariff: Note = ""
    host: Note = ""
    port: Port = PORTAL_PORT

    def contradictions(self) -> Iterator[Problem]:
        before, at, after = self.owner_mail.partition("@")
        if not (before and at and "." in after) or " " in self.owner_mail:
            yield problem("$.owner_mail", self.owner_mail, "a mail address as name@place.example")


@dataclass(frozen=True, kw_only=True)
class LeftOpen(Checked):
    """One of the few things of this stage that may stay open: who sees to it, until when."""

    what: MayStayOpen
    owner: Name
    due: date


@dataclass(frozen=True, kw_only=True)
class TalkPlan(Checked):
    """Everything that is planned of this stage. school_reason: why another than the sheet's."""

    school: School | None = None
    school_reason: Note = ""
    way_out: WayOut | None = None
    devices: Annotated[tuple[TalkDevice, ...], Items("devices that talk", 0, 40)] = ()
    wires: Annotated[tuple[TalkWire, ...], Items("wires", 0, 60)] = ()
    meter: MeterPlan | None = None
    consumption_wanted: bool = False
    signals: Annotated[tuple[SignalPlan, ...], Items("signals", 0, 8)] = ()
    secrets: Annotated[tuple[SecretPlace, ...], Items("secrets", 0, 60)] = ()
    account: AccountPlan | None = None
    left_open: Annotated[tuple[LeftOpen, ...], Items("left open", 0, 4)] = ()

    def contradictions(self) -> Iterator[Problem]:
        yield from _once("devices", [one.name for one in self.devices])
        yield from _once("wires", [one.name for one in self.wires])
        yield from _once("signals", [one.signal for one in self.signals], "signal")
        names = {one.name for one in self.devices}
        for index, one in enumerate(self.wires):
            path = f"$.wires[{index}]"
            if one.device not in names:
                yield problem(f"{path}.device", one.device, " · ".join(names) or "no device yet")
            elif one.port and self.device(one.device).sheet.port(one.port) is None:
                yield _no_port(f"{path}.port", self.device(one.device), one.port)
            if one.far_port and one.far not in names:
                yield problem(f"{path}.far", one.far, " · ".join(names) or "no device yet")
            elif one.far_port and self.device(one.far).sheet.port(one.far_port) is None:
                yield _no_port(f"{path}.far_port", self.device(one.far), one.far_port)
            if one.far == one.device:
                said = f"{one.name} begins and ends at {one.device}."
                yield problem(f"{path}.far", one.far, "another device", said)
        for index, secret in enumerate(self.secrets):
            if secret.device not in names:
                allowed = " · ".join(names) or "no device yet"
                yield problem(f"$.secrets[{index}].device", secret.device, allowed)

    def device(self, name: str) -> TalkDevice:
        """The device of that name. Raises KeyError for one that is not planned."""
        for one in self.devices:
            if one.name == name:
                return one
        raise KeyError(name)

    def of_kind(self, *kinds: str) -> tuple[TalkDevice, ...]:
        """The devices of some kinds, in the order of the plan."""
        return tuple(one for one in self.devices if one.sheet.what in kinds)

    def on(self, device: str, port: str) -> tuple[TalkWire, ...]:
        """The wires that end on a port."""
        return tuple(one for one in self.wires if one.touches(device, port))


def _once(group: str, names: list[str], field: str = "name") -> Iterator[Problem]:
    for index, name in enumerate(names):
        if name in names[:index]:
            yield problem(f"$.{group}[{index}].{field}", name, f"each {field} once")


def _no_port(path: str, device: TalkDevice, port: str) -> Problem:
    ports = " · ".join(one.name for one in device.sheet.ports) or "it has none"
    return problem(path, port, ports, f"{device.name} has no port {port}: {ports}.")


def step_name(signal: str, pct: float) -> str:
    """What one step of a signal is called."""
    return f"{signal} {pct:g} %"


def of_two(first: str, second: str) -> str:
    """A device and something of it in one word, as a reading's subject."""
    return f"{first}{PART_OF}{second}"


def meter_phases(meter: MeterPlan) -> tuple[int, ...]:
    """The phases that a meter tells apart, in the order of its channels."""
    return tuple(range(1, (3 if meter.sheet.phases == "three" else 1) + 1))


def meter_steps(meter: MeterPlan | None) -> tuple[str, ...]:
    """What is switched while a meter is proved: nothing, a load on each phase, the inverter."""
    if meter is None:
        return ()
    return (NOTHING_ON, *(f"load on L{one}" for one in meter_phases(meter)), FEEDING)


def talk_subjects(plan: TalkPlan | None) -> dict[str, frozenset[str]]:
    """What may be read of in this stage, by what it is."""
    devices = plan.devices if plan else ()
    steps = meter_steps(plan.meter) if plan else ()
    phases = meter_phases(plan.meter) if plan and plan.meter else ()
    secrets = (of_two(d.name, s) for d in devices for s in d.sheet.secrets)
    return {
        "talk_place": frozenset(PLACES),
        "talk_device": frozenset(one.name for one in devices),
        "talk_wire": frozenset(one.name for one in plan.wires) if plan else frozenset(),
        "talk_port": frozenset(of_two(d.name, p.name) for d in devices for p in d.sheet.ports),
        "talk_secret": frozenset(secrets),
        "talk_page": frozenset(of_two(d.name, p.name) for d in devices for p in d.sheet.pages),
        "talk_ready": frozenset(of_two(d.name, r) for d in devices for r in d.sheet.before_office),
        "meter_load": frozenset(steps[1:]),
        "meter_step": frozenset(of_two(step, f"L{at}") for step in steps for at in phases),
        "signal_step": frozenset(
            step_name(one.signal, pct) for one in (plan.signals if plan else ())
            for pct in one.steps_pct
        ),
        "chain_battery": frozenset(chain_of(plan)),
        "chain_end": frozenset(CHAIN_ENDS),
        "account_step": frozenset(ACCOUNT_STEPS),
    }  # fmt: skip


def chain_names(units: int) -> tuple[str, ...]:
    """The batteries of a chain from the controller on."""
    return tuple(f"Battery {number}" for number in range(1, units + 1))


def chain_of(plan: TalkPlan | None) -> tuple[str, ...]:
    """The batteries of a plan, named from the controller on."""
    return chain_names(len(plan.of_kind("battery"))) if plan else ()


def is_fitted(device: TalkDevice) -> bool:
    """Whether a device sits in or on another."""
    return device.sheet.what in FITTED
