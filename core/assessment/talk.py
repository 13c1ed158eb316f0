"""The shape of stage 6: devices and their ports, the bus, what is paired, who may enter."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from core.assessment.common import Gate
from core.assessment.making import ModuleSerials
from core.base.judgement import Judgement, Verdict

RungStands = Literal["good", "broken", "again", "unread"]
GroupId = Literal["inside", "outside", "alive"]


@dataclass(frozen=True, kw_only=True)
class PinState:
    """One terminal of a port as its plug shows it from the wire side.

    carries: the signal; empty where it stays empty. colour: of its core by the pack. twin: two
    wires share it, in one twin ferrule. is_shield: the shield goes here.
    """

    number: int
    carries: str
    colour: str
    twin: bool
    is_shield: bool


@dataclass(frozen=True, kw_only=True)
class PortState:
    """One port of a device with what is planned on it.

    key: device and port in one word. takes: its functions by id; words: the same as it is read.
    on: what is on it; wires: by their names. fits: wires that may be put here. make: how the end
    of the cable is made. pins: while something is on it.
    """

    key: str
    name: str
    connector: str
    takes: tuple[str, ...]
    words: tuple[str, ...]
    on: tuple[str, ...]
    wires: tuple[str, ...]
    fits: tuple[str, ...]
    block: str
    make: str
    pins: tuple[PinState, ...]
    verdict: Verdict
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class TalkerState:
    """A device that talks, with its ports and what is judged of it."""

    name: str
    what: str
    title: str
    label: str
    of: str
    place: str
    address: int | None
    serves: str
    ports: tuple[PortState, ...]
    lights: tuple[str, ...]
    verdict: Verdict
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class WireState:
    """One function carried from a port to another, and what is judged of it.

    far_ports: ports of the other device that take it.
    """

    name: str
    function: str
    title: str
    device: str
    port: str
    far: str
    far_port: str
    far_ports: tuple[str, ...]
    length_m: float | None
    outside_mm: float | None
    cores: int | None
    shield: str
    no_device_yet: bool
    line: str
    verdict: Verdict
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class Placing:
    """A wire and the port that it would go on."""

    wire: str
    device: str
    port: str


@dataclass(frozen=True, kw_only=True)
class PortOffer:
    """Where every function could go. idle: ports with nothing on them then; line: what stands
    against it, and what would free a port."""

    fits: bool
    places: tuple[Placing, ...]
    idle: tuple[str, ...]
    line: str


@dataclass(frozen=True, kw_only=True)
class BusState:
    """A bus as it is planned: its devices along the line, where its resistors belong, what an
    ohmmeter reads of it, dead; what it takes of ports, loggers and pages."""

    order: tuple[str, ...]
    lengths_m: tuple[float | None, ...]
    resistors: tuple[str, ...]
    expected_ohm: float | None
    ports: int
    loggers: int
    pages: int
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class TalkGroup:
    """One of the three groups of this stage, with what is read in it and whether it may begin."""

    id: GroupId
    title: str
    gate: Gate
    asks: tuple[str, ...]
    done: int


@dataclass(frozen=True, kw_only=True)
class LinkRung:
    """One rung between a device and its portal, as it was last read."""

    number: int
    name: str
    look: str
    mends: str
    stands: RungStands


@dataclass(frozen=True, kw_only=True)
class RowRead:
    """A row of digits as it was read, and when."""

    digits: str
    at: datetime
    by: str


@dataclass(frozen=True, kw_only=True)
class LinkLadder:
    """The way of one device out to its portal."""

    device: str
    rungs: tuple[LinkRung, ...]
    rows: tuple[RowRead, ...]
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class CountRead:
    """How many reported at a moment, in minutes since the start."""

    at_min: float
    count: int
    at: datetime


@dataclass(frozen=True, kw_only=True)
class SilentUnit:
    """One that does not report, by its place, with the nearest that do."""

    name: str
    place: str
    serial: str
    near: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class ReportState:
    """What of the devices behind one device reports, over time.

    by_name: the device says which; else only how many. silent: by place, where names are known.
    next_at: when the next look is due. ends_at: when the countdown of its start is over.
    """

    device: str
    plan: int
    looks_min: tuple[float, ...]
    began_at: datetime | None
    ends_at: datetime | None
    next_at: datetime | None
    counts: tuple[CountRead, ...]
    by_name: bool
    silent: tuple[SilentUnit, ...]
    verdict: Verdict
    line: str
    do: str


@dataclass(frozen=True, kw_only=True)
class SecretState:
    """Where a secret stands; never the secret."""

    key: str
    device: str
    secret: str
    title: str
    place: str
    by: str
    at: datetime | None
    verdict: Verdict
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class AccountLine:
    """One line of the plant's page, ready to copy."""

    label: str
    value: str


@dataclass(frozen=True, kw_only=True)
class MapRow:
    """One serial in walking order, as it goes into another device. cells: modules over it."""

    number: int
    name: str
    cells: tuple[str, ...]
    serial: str


@dataclass(frozen=True, kw_only=True)
class SignalState:
    """A signal of the operator with each of its steps."""

    signal: str
    title: str
    how: str
    reason: str
    asked_by: str
    steps: tuple[str, ...]
    verdict: Verdict
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class MeterState:
    """The meter: what it is needed for, its clamps, what its proof says so far."""

    label: str
    place: str
    ratio: float
    clamps: tuple[str, ...]
    wanted: tuple[str, ...]
    verdict: Verdict
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class FollowUp:
    """A day on which somebody looks again."""

    day: int
    what: str


@dataclass(frozen=True, kw_only=True)
class TalkStage:
    """Stage 6: how the devices talk, and the way out of the house.

    line: linked, or where it breaks and who mends it. judgements: of the whole.
    """

    planned: bool
    line: str
    school: str
    school_said: str
    way: str
    judgements: tuple[Judgement, ...]
    devices: tuple[TalkerState, ...]
    wires: tuple[WireState, ...]
    offer: PortOffer | None
    bus: BusState | None
    meter: MeterState | None
    signals: tuple[SignalState, ...]
    groups: tuple[TalkGroup, ...]
    ladders: tuple[LinkLadder, ...]
    reporting: tuple[ReportState, ...]
    secrets: tuple[SecretState, ...]
    account: tuple[AccountLine, ...]
    map: tuple[MapRow, ...]
    optimisers: ModuleSerials | None
    follow_up: tuple[FollowUp, ...]
