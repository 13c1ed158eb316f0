"""Several inverters and loads on the phases of one supply: currents, volts, who trips first."""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.adding import magnitude
from core.base.errors import Problem, Refused, problem
from core.base.form import Checked
from core.base.glossary import (
    LengthM,
    LimitV,
    Name,
    NominalV,
    PowerFactor,
    PowerW,
    Reactive,
    ROhmPerKm,
    Service,
    SupplyV,
    XOhmPerKm,
)
from core.base.quantity import Items
from core.base.rule import rule
from core.rules.ac.voltage_rise import M_PER_KM, REACTIVE_SIGN

Connection = Literal["L1-N", "L2-N", "L3-N", "L1-L2", "L2-L3", "L3-L1", "three-phase"]
SOURCE_NODE = "source"
NEUTRAL = "N"
# Where each live conductor's voltage points, in degrees (IEC 60038: 120 apart; split phase: 180).
ANGLES_DEG: dict[Service, dict[str, float]] = {
    "single": {"L1": 0.0},
    "split": {"L1": 0.0, "L2": 180.0},
    "three": {"L1": 0.0, "L2": -120.0, "L3": 120.0},
}
PHASE_PAIRS: tuple[Connection, ...] = ("L1-N", "L2-N", "L3-N")
# A sweep ends when no voltage moves further than this; a steady state is found in some twenty.
STEADY_V = 1e-10
MOST_SWEEPS = 500
# The supply at which something trips is found between these shares of the nominal voltage.
SUPPLY_LEAST, SUPPLY_MOST = 0.5, 2.0
SUPPLY_APART_V = 1e-7


@dataclass(frozen=True, kw_only=True)
class NetworkPiece(Checked):
    """One piece of cable away from the supply: a resistance and reactance of line and neutral."""

    name: Name
    start: Name
    end: Name
    length_m: LengthM
    phase_r_ohm_per_km: ROhmPerKm
    phase_x_ohm_per_km: XOhmPerKm
    neutral_r_ohm_per_km: ROhmPerKm
    neutral_x_ohm_per_km: XOhmPerKm


@dataclass(frozen=True, kw_only=True)
class NetworkLoad(Checked):
    """What draws a constant power at a node; its power factor is lagging."""

    name: Name
    node: Name
    connection: Connection
    power_w: PowerW
    power_factor: PowerFactor = 1.0


@dataclass(frozen=True, kw_only=True)
class NetworkInverter(Checked):
    """What gives a constant power at a node, and the voltage at which it lets go."""

    name: Name
    node: Name
    connection: Connection
    power_w: PowerW
    over_voltage_trip_v: LimitV
    power_factor: PowerFactor = 1.0
    reactive: Reactive = "none"

    @property
    def power_va(self) -> complex:
        """What it exports: the reactive part positive when injecting."""
        apparent = self.power_w / self.power_factor
        sine = math.sqrt(max(0.0, 1 - self.power_factor**2)) * REACTIVE_SIGN[self.reactive]
        return complex(self.power_w, apparent * sine)


Pieces = Annotated[tuple[NetworkPiece, ...], Items("pieces of cable", 1, 120)]
Loads = Annotated[tuple[NetworkLoad, ...], Items("loads", 0, 60)]
NetworkInverters = Annotated[tuple[NetworkInverter, ...], Items("inverters", 1, 60)]


@dataclass(frozen=True, kw_only=True)
class InverterVolts:
    """One inverter in the network, once solved exactly and once by the hand formula.

    Lists in the order of what it measures: its own pair, or each phase against the neutral.
    shared: from the source to where its own piece begins; own: from there to its terminals.
    """

    name: str
    pairs: tuple[str, ...]
    current_a: tuple[float, ...]
    current_closed_a: tuple[float, ...]
    terminal_v: tuple[float, ...]
    terminal_closed_v: tuple[float, ...]
    neutral_shift_v: float
    rise_shared_v: tuple[float, ...]
    rise_own_v: tuple[float, ...]
    rise_shared_closed_v: tuple[float, ...]
    rise_own_closed_v: tuple[float, ...]
    room_v: float
    highest_pair: str


@dataclass(frozen=True, kw_only=True)
class PhaseFlow:
    """The whole network in a steady state; first piece: the service, its far end the board.

    service_a, service_closed_a: each live conductor, then the neutral. board_v: each live
    conductor against the neutral there. net_w: exported by phase, before losses.
    """

    inverters: tuple[InverterVolts, ...]
    service_a: tuple[float, ...]
    service_closed_a: tuple[float, ...]
    board_v: tuple[float, ...]
    board_between_v: float | None
    board_neutral_shift_v: float
    net_w: tuple[float, ...]
    largest_closed_error_v: float


@dataclass(frozen=True, kw_only=True)
class TripOrder:
    """Who lets go as the supply rises, line to neutral, everything else as it stands.

    supply_v: by which each inverter in the order given trips while all run; None: no supply that
    could be brings it there. order, at_v: one after the other, the others running on.
    first_closed_v: the first trip by the hand formula.
    """

    supply_v: tuple[float | None, ...]
    order: tuple[str, ...]
    at_v: tuple[float, ...]
    first_closed_v: float


@dataclass(frozen=True)
class _Device:
    """What draws (positive) or gives (negative) a constant power between two conductors."""

    node: str
    pair: tuple[str, str]
    power: complex


@dataclass(frozen=True)
class _Network:
    """The tree from the source: pieces in order of their distance from it, and what hangs on it."""

    service: Service
    pieces: tuple[NetworkPiece, ...]
    devices: tuple[_Device, ...]

    @property
    def phases(self) -> tuple[str, ...]:
        return tuple(ANGLES_DEG[self.service])


Volts = dict[str, dict[str, complex]]


@rule
def phase_flow(
    *,
    service: Service,
    source_v: SupplyV,
    nominal_v: NominalV,
    pieces: Pieces,
    inverters: NetworkInverters,
    loads: Loads = (),
) -> PhaseFlow:
    """Which currents and volts stand on every phase while several inverters feed?

    source_v, nominal_v: line to neutral. The pieces form a tree from the node "source", whose
    neutral is at 0 V. Exact: constant powers, swept until no voltage moves. Closed: currents at
    nominal voltage and angle, rise as the part of Z_phase·I + Z_neutral·I_neutral in the
    direction of the voltage. A three-phase inverter gives a third to each phase.
    Raises Refused when no steady voltage exists.
    Source: circuit theory; IEC 60364-5-52:2009, annex G for the closed form.
    """
    network = _network(service, pieces, inverters, loads)
    volts = _solved(network, source_v)
    hand = _currents(network, _everywhere(network, nominal_v))
    first = network.pieces[0]
    exact = _currents(network, volts)
    board = volts[first.end]
    found = tuple(_inverter(network, one, volts, hand, (source_v, nominal_v)) for one in inverters)
    errors = (
        abs(exact_v - closed_v)
        for one in found
        for exact_v, closed_v in zip(one.terminal_v, one.terminal_closed_v, strict=True)
    )
    conductors = (*network.phases, NEUTRAL)
    between = magnitude(board["L1"] - board["L2"]) if service == "split" else None
    return PhaseFlow(
        inverters=found,
        service_a=tuple(magnitude(exact[first.name][one]) for one in conductors),
        service_closed_a=tuple(magnitude(hand[first.name][one]) for one in conductors),
        board_v=tuple(magnitude(board[one] - board[NEUTRAL]) for one in network.phases),
        board_between_v=between,
        board_neutral_shift_v=magnitude(board[NEUTRAL]),
        net_w=_net(network),
        largest_closed_error_v=max(errors),
    )


@rule
def trip_order(
    *,
    service: Service,
    source_v: SupplyV,
    nominal_v: NominalV,
    pieces: Pieces,
    inverters: NetworkInverters,
    loads: Loads = (),
) -> TripOrder:
    """As the supply rises, which inverter lets go first, and which after it?

    The supply is raised alike on all phases; an inverter trips when any voltage that it measures
    at its own terminals reaches its trip. After each the others run on; one that is past its
    trip by then goes at the same supply.
    Raises Refused when no steady voltage exists at the supply as it is.
    Source: circuit theory; grid profile.
    """
    flow = phase_flow(
        service=service,
        source_v=source_v,
        nominal_v=nominal_v,
        pieces=pieces,
        inverters=inverters,
        loads=loads,
    )
    left, reached = list(inverters), 0.0
    order: list[str] = []
    at_v: list[float] = []
    alone = _trips(service, nominal_v, pieces, inverters, loads)
    found: list[float | None] = alone
    while left:
        known = [(v, at) for at, v in enumerate(found) if v is not None]
        if not known:
            break
        supply_v, at = min(known)
        reached = max(reached, supply_v)
        order.append(left.pop(at).name)
        at_v.append(reached)
        found = _trips(service, nominal_v, pieces, tuple(left), loads) if left else []
    closed = (
        (inverter.over_voltage_trip_v - (rise_v + own_v)) / _length(service, pair)
        for inverter, one in zip(inverters, flow.inverters, strict=True)
        for pair, rise_v, own_v in zip(
            one.pairs, one.rise_shared_closed_v, one.rise_own_closed_v, strict=True
        )
    )
    return TripOrder(
        supply_v=tuple(alone), order=tuple(order), at_v=tuple(at_v), first_closed_v=min(closed)
    )


def _trips(
    service: Service,
    nominal_v: float,
    pieces: tuple[NetworkPiece, ...],
    inverters: tuple[NetworkInverter, ...],
    loads: tuple[NetworkLoad, ...],
) -> list[float | None]:
    """The supply at which each inverter reaches its trip while all of these run."""
    network = _network(service, pieces, inverters, loads)
    return [_trip_supply(network, one, nominal_v) for one in inverters]


def _trip_supply(network: _Network, one: NetworkInverter, nominal_v: float) -> float | None:
    def highest_v(supply_v: float) -> float:
        return max(_measured(network, one, _solved(network, supply_v)))

    # A supply too low to carry the export has no steady state: it lies below any trip.
    low, high = SUPPLY_LEAST * nominal_v, SUPPLY_MOST * nominal_v
    if highest_v(high) < one.over_voltage_trip_v:
        return None
    while high - low > SUPPLY_APART_V:
        middle = (low + high) / 2
        try:
            below = highest_v(middle) < one.over_voltage_trip_v
        except Refused:
            below = True
        low, high = (middle, high) if below else (low, middle)
    return (low + high) / 2


def _network(
    service: Service,
    pieces: tuple[NetworkPiece, ...],
    inverters: tuple[NetworkInverter, ...],
    loads: tuple[NetworkLoad, ...],
) -> _Network:
    """The pieces in order from the source, the devices as they draw. Raises Refused."""
    ordered: list[NetworkPiece] = []
    reached = {SOURCE_NODE}
    left = list(pieces)
    while left:
        begun = [one for one in left if one.start in reached]
        if not begun:
            raise Refused([problem("$.pieces", left[0].start, " · ".join(sorted(reached)))])
        for one in begun:
            if one.end in reached:
                said = f"{one.name} closes a loop: {one.end} is fed already."
                raise Refused([problem("$.pieces", one.end, "pieces without a loop", said)])
            reached.add(one.end)
            ordered.append(one)
            left.remove(one)
    wrong = list(_misplaced(service, reached, inverters, loads))
    if wrong:
        raise Refused(wrong)
    devices = [
        _Device(one.node, pair, -one.power_va / len(_pairs(one.connection)))
        for one in inverters
        for pair in _conductors(one.connection)
    ]
    for load in loads:
        sine = math.sqrt(max(0.0, 1 - load.power_factor**2))
        power = complex(load.power_w, load.power_w / load.power_factor * sine)
        share = power / len(_pairs(load.connection))
        devices += [_Device(load.node, pair, share) for pair in _conductors(load.connection)]
    return _Network(service, tuple(ordered), tuple(devices))


def _misplaced(
    service: Service,
    reached: set[str],
    inverters: tuple[NetworkInverter, ...],
    loads: tuple[NetworkLoad, ...],
) -> Iterator[Problem]:
    lines = {*ANGLES_DEG[service], NEUTRAL}
    groups: tuple[tuple[str, tuple[NetworkInverter | NetworkLoad, ...]], ...] = (
        ("inverters", inverters), ("loads", loads)
    )  # fmt: skip
    for group, devices in groups:
        for index, one in enumerate(devices):
            path = f"$.{group}[{index}]"
            if one.node not in reached or one.node == SOURCE_NODE:
                nodes = " · ".join(sorted(reached - {SOURCE_NODE}))
                yield problem(f"{path}.node", one.node, nodes)
            if any(end not in lines for pair in _conductors(one.connection) for end in pair):
                yield problem(f"{path}.connection", one.connection, " · ".join(sorted(lines)))


def _pairs(connection: Connection) -> tuple[Connection, ...]:
    return PHASE_PAIRS if connection == "three-phase" else (connection,)


def _conductors(connection: Connection) -> tuple[tuple[str, str], ...]:
    return tuple(ends_of(pair) for pair in _pairs(connection))


def ends_of(pair: str) -> tuple[str, str]:
    first, _, second = pair.partition("-")
    return first, second


def _at_source(network: _Network, volts: float) -> dict[str, complex]:
    angles = ANGLES_DEG[network.service].items()
    live = {one: cmath.rect(volts, math.radians(angle)) for one, angle in angles}
    return live | {NEUTRAL: 0j}


def _everywhere(network: _Network, volts: float) -> Volts:
    """Every node at the source's own voltage."""
    nodes = (SOURCE_NODE, *(one.end for one in network.pieces))
    return {node: _at_source(network, volts) for node in nodes}


def _currents(network: _Network, volts: Volts) -> dict[str, dict[str, complex]]:
    """The current of each conductor of each piece towards the source, by the piece's name."""
    conductors = (*network.phases, NEUTRAL)
    out = {node: dict.fromkeys(conductors, 0j) for node in volts}
    for one in network.devices:
        first, second = one.pair
        drawn = (one.power / (volts[one.node][first] - volts[one.node][second])).conjugate()
        out[one.node][first] -= drawn
        out[one.node][second] += drawn
    found = {}
    for piece in reversed(network.pieces):
        found[piece.name] = out[piece.end]
        for conductor in conductors:
            out[piece.start][conductor] += out[piece.end][conductor]
    return found


def _lifted(network: _Network, source_v: float, currents: dict[str, dict[str, complex]]) -> Volts:
    """The voltages that currents towards the source leave at each node."""
    volts = {SOURCE_NODE: _at_source(network, source_v)}
    for piece in network.pieces:
        volts[piece.end] = {
            one: at + _impedance(piece, one) * currents[piece.name][one]
            for one, at in volts[piece.start].items()
        }
    return volts


def _impedance(piece: NetworkPiece, conductor: str) -> complex:
    per_km = (
        complex(piece.neutral_r_ohm_per_km, piece.neutral_x_ohm_per_km)
        if conductor == NEUTRAL
        else complex(piece.phase_r_ohm_per_km, piece.phase_x_ohm_per_km)
    )
    return piece.length_m / M_PER_KM * per_km


def _solved(network: _Network, source_v: float) -> Volts:
    """The steady voltages at this supply. Raises Refused where there are none."""
    volts = _everywhere(network, source_v)
    for _ in range(MOST_SWEEPS):
        swept = _lifted(network, source_v, _currents(network, volts))
        moved = max(
            magnitude(swept[node][one] - was)
            for node, at in volts.items()
            for one, was in at.items()
        )
        volts = swept
        if not math.isfinite(moved) or moved > source_v:
            break
        if moved < STEADY_V * source_v:
            return volts
    allowed = "cables over which all of it can be carried"
    raise Refused([problem("$.pieces", f"{source_v:g} V", allowed)])


def _measured(network: _Network, one: NetworkInverter, volts: Volts) -> tuple[float, ...]:
    at = volts[one.node]
    return tuple(magnitude(at[first] - at[second]) for first, second in _conductors(one.connection))


def _length(service: Service, pair: str) -> float:
    """Volts between two conductors for one volt from line to neutral."""
    return magnitude(_direction(service, ends_of(pair)))


def _direction(service: Service, ends: tuple[str, str]) -> complex:
    unit = {one: cmath.rect(1.0, math.radians(at)) for one, at in ANGLES_DEG[service].items()}
    first, second = ends
    return unit[first] - unit.get(second, 0j)


def _inverter(
    network: _Network,
    one: NetworkInverter,
    volts: Volts,
    hand: dict[str, dict[str, complex]],
    supply: tuple[float, float],
) -> InverterVolts:
    source_v, nominal_v = supply
    own = next(piece for piece in network.pieces if piece.end == one.node)
    ends = _conductors(one.connection)
    lengths = [magnitude(_direction(network.service, pair)) for pair in ends]
    terminal_v = _measured(network, one, volts)
    before_v = _measured(network, replace(one, node=own.start), volts)
    power = magnitude(one.power_va) / len(ends)
    shared_closed = _closed(network, own.start, ends, hand)
    own_closed = tuple(
        whole - shared
        for whole, shared in zip(_closed(network, one.node, ends, hand), shared_closed, strict=True)
    )
    names = [f"{first}-{second}" for first, second in ends]
    highest = max(range(len(ends)), key=lambda at: terminal_v[at])
    source = [source_v * length for length in lengths]
    return InverterVolts(
        name=one.name,
        pairs=tuple(names),
        current_a=tuple(power / v for v in terminal_v),
        current_closed_a=tuple(power / (nominal_v * length) for length in lengths),
        terminal_v=terminal_v,
        terminal_closed_v=tuple(
            v + shared + end
            for v, shared, end in zip(source, shared_closed, own_closed, strict=True)
        ),
        neutral_shift_v=magnitude(volts[one.node][NEUTRAL]),
        rise_shared_v=tuple(v - at for v, at in zip(before_v, source, strict=True)),
        rise_own_v=tuple(v - at for v, at in zip(terminal_v, before_v, strict=True)),
        rise_shared_closed_v=shared_closed,
        rise_own_closed_v=own_closed,
        room_v=one.over_voltage_trip_v - terminal_v[highest],
        highest_pair=names[highest],
    )


def _closed(
    network: _Network,
    node: str,
    ends: tuple[tuple[str, str], ...],
    hand: dict[str, dict[str, complex]],
) -> tuple[float, ...]:
    """The rise from the source to a node by the hand formula, for each pair of conductors."""
    lifted = _lifted(network, 0.0, hand)[node]
    found = []
    for first, second in ends:
        direction = _direction(network.service, (first, second))
        rise = lifted[first] - lifted[second]
        found.append((rise * direction.conjugate()).real / magnitude(direction))
    return tuple(found)


def _net(network: _Network) -> tuple[float, ...]:
    """What each phase exports before losses, in watts; between two lines half is each one's."""
    return tuple(
        -math.fsum(
            one.power.real / (1 if NEUTRAL in one.pair else 2)
            for one in network.devices
            if phase in one.pair
        )
        for phase in network.phases
    )
