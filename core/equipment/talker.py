"""What talks: the ports, lights and status rungs of a device, and what carries its word on."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal, get_args

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Minutes, Name, Note, OutsideMm
from core.base.quantity import Items, Quantity, Text
from core.equipment.battery import Listed
from core.equipment.sheet import Sheet

Function = Literal[
    "bus",
    "logger",
    "meter",
    "battery",
    "network",
    "demand_response",
    "ripple",
    "dry_contact",
    "shutdown",
    "alarm",
    "backup",
    "surge",
    "stick",
    "aerial",
]
FUNCTIONS: tuple[Function, ...] = get_args(Function)
TalkerKind = Literal[
    "inverter",
    "board",
    "stick",
    "logger",
    "gateway",
    "modem",
    "receiver",
    "controller",
    "battery",
    "meter",
]
# What is fitted into or onto another device rather than standing by itself.
FITTED: tuple[TalkerKind, ...] = ("board", "stick", "modem")
Way = Literal["cable", "wifi", "short_radio", "radio_gateway", "mobile", "logger", "none"]
Secret = Literal["device", "grid_menu", "wifi", "portal"]
Ready = Literal["role", "code", "points", "option"]

PinSignal = Annotated[str, Text("signal of a pin", 1, 24)]
# What a pin is called that carries nothing.
FREE = "free"
# Short enough that a device and its part are one subject of a reading.
PartName = Annotated[str, Text("name on the device", 1, 32)]
SignalDbm = Annotated[float, Quantity("radio signal", "dBm", -120, 0)]
BusM = Annotated[float, Quantity("length of a bus", "m", 1, 2000)]
EndOhm = Annotated[float, Quantity("end resistor", "Ω", 1, 100_000)]
InputOhm = Annotated[float, Quantity("input of a device on the bus", "Ω", 1, 10_000_000)]
StripMm = Annotated[float, Quantity("strip", "mm", 1, 40)]
TorqueNm = Annotated[float, Quantity("torque", "Nm", 0.1, 20)]
SealMm = OutsideMm
CountOf = Annotated[int, Quantity("devices", "", 1, 10_000)]
FewOf = Annotated[int, Quantity("pieces", "", 0, 40)]


@dataclass(frozen=True, kw_only=True)
class Apart(Checked):
    """Two functions that never go together: on this port, or on the ports of its block."""

    one: Function
    other: Function


@dataclass(frozen=True, kw_only=True)
class PortFace(Checked):
    """One port of a device, as the housing shows it.

    name: as printed. functions: what it takes; most: how many of them at once. apart: what never
    shares it; block: ports of one name share something inside, and `apart` holds for all of them.
    cores, section_mm2, shielded, cable_m: the cable that it wants. end: how the cable ends there.
    seal_*_mm: cables that its seal closes on. pins: the signal at each terminal, from 1.
    shield_pin: where the shield goes; 0 for none. idle_capped: closed with a plug while unused.
    """

    name: PartName
    connector: Literal["pins", "socket", "round", "slot", "terminals", "aerial"]
    functions: Annotated[tuple[Function, ...], Items("functions", 1, 6)]
    most: Annotated[int, Quantity("functions at once", "", 1, 6)] = 1
    apart: Annotated[tuple[Apart, ...], Items("functions that do not go together", 0, 3)] = ()
    block: Note = ""
    cores: FewOf = 0
    section_mm2: Annotated[float, Quantity("conductor", "mm²", 0.08, 16)] | None = None
    shielded: bool = False
    cable_m: BusM | None = None
    end: Literal["ferrule", "crimped", "bare", "plug", "none"] = "none"
    strip_mm: StripMm | None = None
    torque_nm: TorqueNm | None = None
    seal_least_mm: SealMm | None = None
    seal_most_mm: SealMm | None = None
    shield_pin: FewOf = 0
    shield_both: bool = False
    idle_capped: bool = True
    pins: Annotated[tuple[PinSignal, ...], Items("pins", 0, 12)] = ()

    def contradictions(self) -> Iterator[Problem]:
        if self.shield_pin > max(len(self.pins), 1):
            yield problem("$.shield_pin", self.shield_pin, f"0 to {len(self.pins)}")
        least, most = self.seal_least_mm, self.seal_most_mm
        if (least is None) != (most is None) or (least and most and least > most):
            yield problem("$.seal_most_mm", most or 0.0, "the greatest beside the least, above it")


@dataclass(frozen=True, kw_only=True)
class StatusRung(Checked):
    """One rung between the device and its portal, as its row of digits has it.

    look: what to look at when it is the first that fails; mends: who sees to it.
    """

    name: Name
    look: Note
    mends: Literal["installer", "router", "owner", "maker"]


@dataclass(frozen=True, kw_only=True)
class LinkLight(Checked):
    """What a light shows while the device looks for its way out. within_s: after that it is so."""

    shows: Name
    state: Literal["linking", "linked", "no_network", "feeds_silent"]
    within_s: Annotated[float, Quantity("within", "s", 0, 7200)] | None = None


@dataclass(frozen=True, kw_only=True)
class BusFace(Checked):
    """A device's bus: what it loads the pair with, the resistor at an end, how far and how many."""

    end_ohm: EndOhm = 120.0
    input_ohm: InputOhm = 12_000.0
    most_m: BusM
    most_devices: CountOf
    speed: Note = ""


@dataclass(frozen=True, kw_only=True)
class Pairing(Checked):
    """How devices behind it are paired: when it is looked, what must be in before, the countdown.

    looks_min: minutes after the start at which the count is read; the last decides.
    """

    looks_min: Annotated[tuple[Minutes, ...], Items("looks", 1, 6)]
    countdown_min: Minutes = 0.0
    activation_part: Note = ""

    def contradictions(self) -> Iterator[Problem]:
        if list(self.looks_min) != sorted(set(self.looks_min)):
            yield problem("$.looks_min", len(self.looks_min), "minutes that rise")


@dataclass(frozen=True, kw_only=True)
class SetUpPage(Checked):
    """One page of a device that is set by display, browser or phone. grid: settings are named on
    it; caution: what to mind there."""

    name: PartName
    caution: Note = ""
    grid: bool = False


@dataclass(frozen=True, kw_only=True)
class Talker(Sheet):
    """One device that talks, as its sheet gives it.

    works_with: models that it belongs to: an inverter's own face names that inverter; none: any.
    slot, tool: where and with what it is fitted. before: what it goes in before. seals: that come
    with it. serves: devices behind it, at most; page_of: devices to a page of its portal.
    least_dbm: signal that it wants at its place. lists: it lists what is behind it over an open
    protocol. aerials: that it needs. chain_both: the end resistor also at the controller.
    drain_both: the drain wire on earth at both ends. before_office: what must be had while there
    is a network. ways: by which it leaves the house.
    """

    what: TalkerKind
    works_with: Annotated[tuple[Listed, ...], Items("models it belongs to", 0, 8)] = ()
    slot: Note = ""
    tool: Note = ""
    before: Literal["none", "wiring", "cover", "power"] = "none"
    seals: FewOf | None = None
    serves: CountOf | None = None
    page_of: CountOf | None = None
    least_dbm: SignalDbm | None = None
    lists: bool = False
    aerials: FewOf = 0
    supply: Literal["device", "outlet", "breaker"] = "device"
    chain_both: bool = False
    drain_both: bool = True
    set_by: Literal["registers", "display", "browser", "phone", "none"] = "none"
    school: Literal[
        "inside_first", "before_power", "cover_open", "after_power", "before_branch", "separate"
    ] = "before_power"
    ways: Annotated[tuple[Way, ...], Items("ways out", 0, 6)] = ()
    secrets: Annotated[tuple[Secret, ...], Items("secrets", 0, 4)] = ()
    before_office: Annotated[tuple[Ready, ...], Items("what must be had before", 0, 4)] = ()
    bus: BusFace | None = None
    pairing: Pairing | None = None
    ports: Annotated[tuple[PortFace, ...], Items("ports", 0, 8)] = ()
    pages: Annotated[tuple[SetUpPage, ...], Items("pages", 0, 10)] = ()
    rungs: Annotated[tuple[StatusRung, ...], Items("rungs", 0, 10)] = ()
    lights: Annotated[tuple[LinkLight, ...], Items("lights", 0, 6)] = ()

    def contradictions(self) -> Iterator[Problem]:
        names = [one.name for one in self.ports]
        for index, name in enumerate(names):
            if name in names[:index]:
                yield problem(f"$.ports[{index}].name", name, "each port once")

    def port(self, name: str) -> PortFace | None:
        """The port of that name."""
        return next((one for one in self.ports if one.name == name), None)
