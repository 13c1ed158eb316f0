"""A bus from device to device: order, cables, resistors, and what an ohmmeter reads of it."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from core.base.errors import same_count
from core.base.form import Checked
from core.base.glossary import Name
from core.base.judgement import NOISE_REL
from core.base.quantity import Items, Quantity
from core.base.rule import rule

WallM = Annotated[float, Quantity("place on the wall or floor", "m", -10_000, 10_000)]
BusAddress = Annotated[int, Quantity("bus address", "", -100_000, 100_000)]
SlackM = Annotated[float, Quantity("slack of a cable", "m", 0, 50)]
CoreOhmPerM = Annotated[float, Quantity("resistance of a core", "Ω/m", 0, 10)]
EndOhm = Annotated[float, Quantity("end resistor", "Ω", 1, 100_000)]
InputOhm = Annotated[float, Quantity("input of a device", "Ω", 1, 10_000_000)]
CablesM = Annotated[
    tuple[Annotated[float, Quantity("cable", "m", 0, 10_000)], ...], Items("cables", 0, 60)
]
Fitted = Annotated[tuple[bool, ...], Items("resistors, fitted or not", 1, 61)]
Devices = Annotated[int, Quantity("devices", "devices", 0, 10_000)]
PerLogger = Annotated[int, Quantity("devices to a logger", "devices", 1, 1000)]
PerPage = Annotated[int, Quantity("devices to a page", "devices", 1, 1000)]
# The addresses of Modbus (MODBUS over serial line V1.02, 2.2).
LOWEST_ADDRESS, HIGHEST_ADDRESS = 1, 247
LOGGER = "logger"


@dataclass(frozen=True, kw_only=True)
class BusDevice(Checked):
    """A device on a bus: where it hangs, and its address."""

    name: Name
    x_m: WallM
    y_m: WallM
    address: BusAddress


BusDevices = Annotated[tuple[BusDevice, ...], Items("devices", 1, 14)]


@dataclass(frozen=True, kw_only=True)
class BusOrder:
    """The line of least cable from the logger. orders: how many lines are as short.

    ports: bus ports that the devices use: one of the last, two of every other. resistors: where
    they belong. wrong_addresses: devices whose address is doubled or is none.
    """

    order: tuple[str, ...]
    total_m: float
    orders: int
    cables_m: tuple[float, ...]
    ports: int
    resistors: tuple[str, ...]
    wrong_addresses: tuple[str, ...]


@rule
def bus_order(
    *, logger_x_m: WallM, logger_y_m: WallM, devices: BusDevices, slack_m: SlackM = 0.0
) -> BusOrder:
    """In which order do devices follow each other on one line, with the least cable?

    The logger is one end; no branch. A cable is |dx| + |dy| + slack. Resistors at the two ends
    only; addresses 1 to 247, each once.
    Source: device sheet (bus); EIA-485-A; shortest path through all, by states (Held and Karp).
    """
    places = [(logger_x_m, logger_y_m), *((one.x_m, one.y_m) for one in devices)]
    best, orders, line = _shortest(places, slack_m)
    names = [LOGGER, *(one.name for one in devices)]
    addresses = Counter(one.address for one in devices)
    wrong = (
        one.name
        for one in devices
        if addresses[one.address] > 1 or not LOWEST_ADDRESS <= one.address <= HIGHEST_ADDRESS
    )
    return BusOrder(
        order=tuple(names[at] for at in line),
        total_m=best,
        orders=orders,
        cables_m=tuple(_cable_m(places[a], places[b], slack_m) for a, b in pairwise(line)),
        ports=2 * len(devices) - 1,
        resistors=(LOGGER, names[line[-1]]),
        wrong_addresses=tuple(sorted(wrong)),
    )


Place = tuple[float, float]


def _cable_m(one: Place, other: Place, slack_m: float) -> float:
    return abs(one[0] - other[0]) + abs(one[1] - other[1]) + slack_m


def _shortest(places: list[Place], slack_m: float) -> tuple[float, int, tuple[int, ...]]:
    """The least way from the first place through all others: length, how many, one of them."""
    count = len(places)
    # By the places seen and the one stood on: length, ways as short, the way.
    states: dict[tuple[int, int], tuple[float, int, tuple[int, ...]]] = {(1, 0): (0.0, 1, (0,))}
    for _ in range(count - 1):
        after: dict[tuple[int, int], tuple[float, int, tuple[int, ...]]] = {}
        for (seen, at), (length, ways, line) in states.items():
            for to in range(1, count):
                if seen & (1 << to):
                    continue
                key = seen | (1 << to), to
                longer = length + _cable_m(places[at], places[to], slack_m)
                after[key] = _better(after.get(key), (longer, ways, (*line, to)))
        states = after
    best: tuple[float, int, tuple[int, ...]] | None = None
    for found in states.values():
        best = _better(best, found)
    assert best is not None
    return best


def _better(
    one: tuple[float, int, tuple[int, ...]] | None, other: tuple[float, int, tuple[int, ...]]
) -> tuple[float, int, tuple[int, ...]]:
    """The shorter of two; of two as long, the first by its order, with the ways of both."""
    if one is None:
        return other
    if math.isclose(one[0], other[0], rel_tol=NOISE_REL, abs_tol=NOISE_REL):
        return min(one[0], other[0]), one[1] + other[1], min(one[2], other[2])
    return min(one, other, key=lambda found: found[0])


@rule
def bus_ohm(
    *,
    cables_m: CablesM,
    resistors: Fitted,
    core_ohm_per_m: CoreOhmPerM,
    end_resistor_ohm: EndOhm = 120.0,
    device_input_ohm: InputOhm = 12_000.0,
) -> float:
    """What does an ohmmeter read between A and B at the logger's plug, everything dead, in Ω?

    resistors: whether one is fitted, at the logger and then at each device along the line; every
    device, the logger too, loads the pair with its input. Both cores of a cable count.
    Formula: from the far end, R = (load ∥ R) + 2 · r · l.
    Source: EIA-485-A (two of 120 Ω are about 60 Ω); circuit theory.
    """
    same_count("$.resistors", len(resistors), len(cables_m) + 1, "the ends of the cables")
    ohm = math.inf
    lengths = (*cables_m, None)
    for length_m, fitted in reversed(list(zip(lengths, resistors, strict=True))):
        beyond = math.inf if length_m is None else ohm + 2 * core_ohm_per_m * length_m
        siemens = 1 / device_input_ohm + (1 / end_resistor_ohm if fitted else 0.0)
        ohm = 1 / (siemens + (0.0 if math.isinf(beyond) else 1 / beyond))
    return ohm


@dataclass(frozen=True, kw_only=True)
class TalkCounts:
    """What a number of devices takes: pages of a portal, loggers, cables and bus ports."""

    pages: int
    loggers: int
    cables: int
    ports: int


@rule
def talk_counts(
    *, devices: Devices, devices_per_page: PerPage, devices_per_logger: PerLogger
) -> TalkCounts:
    """How many pages, loggers, bus cables and bus ports does a plant of so many devices take?

    One chain to a logger, every logger but the last full: n cables, 2n − 1 ports of each chain.
    Source: sheets of portal and logger.
    """
    loggers = math.ceil(devices / devices_per_logger)
    return TalkCounts(
        pages=math.ceil(devices / devices_per_page),
        loggers=loggers,
        cables=devices,
        ports=max(2 * devices - loggers, 0),
    )
