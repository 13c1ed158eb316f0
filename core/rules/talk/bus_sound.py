"""Is a bus sound: one line, one address each, one speed, no longer than allowed, two resistors."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Annotated

from core.base.errors import same_count
from core.base.form import Checked
from core.base.glossary import Name
from core.base.judgement import Judgement, at_most, holds, waiting
from core.base.messages import figure, say
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.rules.talk.bus import Devices

# Cables that meet at a device in the middle of a line.
TWO = 2
# Below it there is a bridge between the wires.
BRIDGE_OHM = 1.0
BusNames = Annotated[tuple[Name, ...], Items("devices", 0, 60)]
BUS_SOURCE = "device sheet (bus); EIA-485-A"
# What a good pair may read beside its sum: contacts, warm cable, the meter's own error.
# Long Noon default, not from a standard.
OHM_OFF_SHARE = 0.15


@dataclass(frozen=True, kw_only=True)
class BusPiece(Checked):
    """One cable of a bus between two devices."""

    start: Name
    end: Name


BusPieces = Annotated[tuple[BusPiece, ...], Items("cables of the bus", 0, 60)]


@dataclass(frozen=True, kw_only=True)
class BusPath:
    """How cables join devices. order: along the path, empty where it is none. branches: where more
    than two cables meet; loop: it closes on itself; apart: devices that are on another piece."""

    order: tuple[str, ...]
    branches: tuple[str, ...]
    loop: bool
    apart: tuple[str, ...]


@rule
def bus_path(*, pieces: BusPieces) -> BusPath:
    """Is a bus one line, without branch, loop or gap?

    Source: device sheet (bus); EIA-485-A (daisy chain).
    """
    near: dict[str, list[str]] = {}
    for one in pieces:
        near.setdefault(one.start, []).append(one.end)
        near.setdefault(one.end, []).append(one.start)
    branches = tuple(name for name, others in near.items() if len(others) > TWO)
    ends = [name for name, others in near.items() if len(others) == 1]
    if not near:
        return BusPath(order=(), branches=(), loop=False, apart=())
    start = ends[0] if ends else next(iter(near))
    order, before, at = [start], "", start
    while True:
        ahead = [one for one in near[at] if one != before or near[at].count(one) > 1]
        following = next((one for one in ahead if one not in order), None)
        if following is None:
            break
        order.append(following)
        before, at = at, following
    loop = len(pieces) > len(near) - 1 and not branches and len(order) == len(near)
    loop = loop or any(one.start == one.end for one in pieces)
    apart = () if branches or loop else tuple(name for name in near if name not in order)
    whole = not (branches or loop or apart)
    return BusPath(order=tuple(order) if whole else (), branches=branches, loop=loop, apart=apart)


@rule
def bus_is_line(*, pieces: BusPieces) -> Judgement:
    """Is the bus one line from end to end?

    Source: device sheet (bus); EIA-485-A (daisy chain).
    """
    path = bus_path(pieces=pieces)
    said = ""
    if path.branches:
        said = say("bus_said", "branch", names=", ".join(path.branches))
    elif path.loop:
        said = say("bus_said", "loop")
    elif path.apart:
        said = say("bus_said", "apart", names=", ".join(path.apart))
    return holds("bus_is_line", not said, BUS_SOURCE, said=said, order=" → ".join(path.order))


@rule
def bus_addresses(*, devices: BusNames, addresses: tuple[int | None, ...]) -> Judgement:
    """Has every device on the bus an address of its own, 1 to 247?

    Source: MODBUS over serial line V1.02, 2.2.
    """
    same_count("$.addresses", len(addresses), len(devices), "the devices")
    counted = Counter(one for one in addresses if one is not None)
    source = "MODBUS over serial line V1.02, 2.2"
    doubled = sorted(
        name for name, one in zip(devices, addresses, strict=True) if one and counted[one] > 1
    )
    if doubled:
        said = say("bus_said", "doubled", names=", ".join(doubled))
        return holds("bus_addresses", False, source, said=said)
    unset = [name for name, one in zip(devices, addresses, strict=True) if one is None]
    if unset:
        needs = (say("needs", "address", names=", ".join(unset)),)
        return waiting("bus_addresses", "", source, needs)
    return holds("bus_addresses", True, source, count=str(len(devices)))


BusLengthM = Annotated[float, Quantity("length of the bus", "m", 0, 100_000)]
ReadOhm = Annotated[float, Quantity("between the bus wires", "Ω", 0, 10_000_000)]


@rule
def bus_length(*, length_m: BusLengthM, most_m: BusLengthM) -> Judgement:
    """Is the bus no longer than the device that allows least?

    Source: device sheet (bus).
    """
    return at_most("bus_length", length_m, most_m, "m", BUS_SOURCE, exact="clear")


@rule
def bus_devices(*, devices: Devices, most: Devices) -> Judgement:
    """Are there no more devices on the bus than its sheet allows?

    Source: device sheet (bus).
    """
    return at_most("bus_devices", devices, most, "", BUS_SOURCE, exact="clear")


@rule
def bus_one_speed(*, speeds: BusNames) -> Judgement:
    """Do all devices on the bus speak at one speed and parity?

    Source: device sheets (bus).
    """
    return holds("bus_one_speed", len(set(speeds)) <= 1, BUS_SOURCE, speeds=", ".join(speeds))


@rule
def bus_sound(*, read_ohm: ReadOhm, expected_ohm: ReadOhm, one_end_ohm: ReadOhm) -> Judgement:
    """Does the pair read, dead, what two end resistors make of it?

    one_end_ohm: what it would read with the far resistor missing.
    Source: EIA-485-A; sheets of the devices (end resistor).
    """
    near = abs(read_ohm - expected_ohm) <= OHM_OFF_SHARE * expected_ohm
    facts = {"read": figure(read_ohm, "Ω"), "expected": figure(expected_ohm, "Ω")}
    said = ""
    if not near:
        is_one = abs(read_ohm - one_end_ohm) <= OHM_OFF_SHARE * one_end_ohm
        key = "one_end" if is_one else "short" if read_ohm < BRIDGE_OHM else "open"
        if not is_one and BRIDGE_OHM <= read_ohm < expected_ohm:
            key = "third"
        said = say("bus_said", key, **facts)
    return holds("bus_sound", near, BUS_SOURCE, "stop", said=said, **facts)


@rule
def devices_served(*, devices: Devices, most: Devices, loggers: Devices) -> Judgement:
    """Do loggers or gateways serve as many devices as are behind them?

    Formula: devices ≤ most · loggers.
    Source: sheet of logger or gateway.
    """
    source = "sheet of logger or gateway"
    room = most * loggers
    return at_most("devices_served", devices, room, "", source, exact="clear", loggers=str(loggers))
