"""What a reading was read of, as a fingerprint: when the plan or the device changes, it is past.

Which parts a kind rests on stands beside the kind; here is what each part is made of. A thing is
known by its sheet's id, its size and its place, not by the figures of its sheet, which may be
corrected without anything on the roof having changed.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import replace
from functools import cached_property, lru_cache
from typing import Any

from core.job.feed import FeedDevice
from core.job.grid import LETTER
from core.job.job import Job
from core.job.reading_kinds import KINDS, Part, ReadingKind
from core.job.readings import INVERTER, Reading, superseded_ids
from core.job.subjects import of_which_string
from core.job.talk import ON_BUS, PART_OF, TalkDevice

CHARS = 12
AT = " at "
DIGESTS_KEPT = 4096
Made = tuple[Any, ...]


class Parts:
    """The parts of a job as its readings rest on them, each looked up once."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self._made: dict[tuple[Part, str], Made] = {}

    def fingerprint(self, kind: ReadingKind, subject: str, serials: dict[str, int]) -> str:
        """What a reading of this kind and subject would rest on now; empty where on nothing.

        serials: how often the serial of the inverter and of each unit had changed by then.
        """
        parts = KINDS[kind].rests_on
        if not parts:
            return ""
        made = tuple(self._part(part, subject) for part in parts)
        device = tuple(serials.get(self._serial_of(part, subject), 0) for part in parts)
        return _digest((made, device))

    def _serial_of(self, part: Part, subject: str) -> str:
        """Whose serial a part changes with."""
        if part == "device" or (part == "wall_device" and self._is_inverter(subject)):
            return INVERTER
        return subject if part == "unit" else ""

    def _is_inverter(self, name: str) -> bool:
        return any(one.name == name and one.kind == "inverter" for one in self._wall.values())

    def _part(self, part: Part, subject: str) -> Made:
        key = part, subject
        if key not in self._made:
            self._made[key] = MAKE[part](self, subject)
        return self._made[key]

    @cached_property
    def _strings(self) -> dict[str, Any]:
        return {one.name: one for one in self.job.strings}

    @cached_property
    def _planes(self) -> dict[str, Any]:
        return {one.name: one for one in self.job.planes}

    @cached_property
    def _runs(self) -> dict[str, Any]:
        return {one.name: one for one in self.job.feed.runs}

    @cached_property
    def _devices(self) -> dict[str, FeedDevice]:
        return {one.name: one for one in self.job.feed.devices}

    @cached_property
    def _links(self) -> dict[str, Any]:
        return {one.name: one for one in self.job.earthing.links}

    @cached_property
    def _wall(self) -> dict[str, Any]:
        return {one.name: one for one in self.job.wall.devices} if self.job.wall else {}

    @cached_property
    def _branches(self) -> dict[str, Any]:
        return {one.name: one for one in self.job.micro.branches} if self.job.micro else {}

    def string(self, name: str) -> Made:
        """Its modules, their count, plane and tracker, and its home run piece by piece."""
        one = self._strings.get(name)
        if one is None:
            return ()
        optimiser = self.job.optimiser.id if self.job.optimiser else ""
        run = tuple((piece.length_m, piece.section_mm2) for piece in one.home_run)
        modules = self.job.module_on(one.plane).id, optimiser, one.modules_in_series
        return (*modules, one.plane, one.tracker, run)

    def string_end(self, name: str) -> Made:
        """The make of the plug, and the cable that it is made on."""
        one = self._strings.get(of_which_string(name))
        plug = self.job.feed.dc.plug
        sizes = tuple(piece.section_mm2 for piece in one.home_run) if one else ()
        return plug.id if plug else "", sizes

    def plane(self, name: str) -> Made:
        """How it lies."""
        one = self._planes.get(name)
        return () if one is None else (one.tilt_deg, one.azimuth_deg, one.mounting)

    def run(self, name: str) -> Made:
        """Its length, its conductor and how it is laid."""
        one = self._runs.get(name)
        if one is None:
            return ()
        return one.length_m, one.section_mm2, one.cores, one.material, one.insulation

    def run_end(self, name: str) -> Made:
        """A run, and the sheet of the device at one of its ends; of a home run, its string."""
        run, _, device = name.partition(AT)
        own = self.run(run) if run in self._runs else self._dc_end(run)
        return own, self._sheet_of(device)

    def _dc_end(self, run: str) -> Made:
        # Of A and AA the longer name is meant.
        strings = (one for one in self._strings.values() if run.endswith(one.name))
        one = max(strings, key=lambda one: len(one.name), default=None)
        return tuple((p.length_m, p.section_mm2) for p in one.home_run) if one else ()

    def _sheet_of(self, device: str) -> Made:
        one = self._devices.get(device)
        if one is None:
            return ()
        breaker = one.breaker
        rated = (breaker.id, breaker.rated_a, breaker.curve) if breaker else ()
        inverter = self.job.inverter.id if one.kind == "inverter" and self.job.inverter else ""
        return one.kind, rated, one.isolator.id if one.isolator else "", inverter

    def breaker(self, name: str) -> Made:
        """The breaker of a device, or of the one whose half-wave is tried."""
        device = name if name in self._devices else name.rpartition(" ")[0]
        one = self._devices.get(device)
        breaker = one.breaker if one else None
        if breaker is None:
            return ()
        residual = breaker.residual_type, breaker.residual_ma
        return breaker.id, breaker.rated_a, breaker.curve, *residual

    def circuit(self, _: str) -> Made:
        """The whole way of the inverter's circuit, and every breaker on it."""
        runs = tuple(self.run(one.name) for one in self.job.feed.runs)
        return runs, tuple(self.breaker(name) for name in self._devices)

    def supply(self, _: str) -> Made:
        """What the house is fed with."""
        return self.job.feed.supply_service, self.job.feed.earth_system

    def device(self, _: str) -> Made:
        """The inverter, or the units' kind."""
        if self.job.inverter is not None:
            return (self.job.inverter.id,)
        return tuple(one.id for one in self.job.micro.unit_types) if self.job.micro else ()

    def profile(self, _: str) -> Made:
        """The grid profile of the plan."""
        grid = self.job.grid
        return (grid.profile, grid.letter) if grid.profile == LETTER else (grid.profile,)

    def earth_link(self, name: str) -> Made:
        """One step of the earth path."""
        one = self._links.get(name)
        return () if one is None else (one.how, one.length_m, one.section_mm2, one.joints)

    def wall_device(self, name: str) -> Made:
        """What hangs on the wall, and where."""
        one = self._wall.get(name)
        if one is None:
            return ()
        fixing = one.fixing.id if one.fixing else ""
        own = self.device(name) if one.kind == "inverter" else ()
        return one.kind, one.label, one.x_mm, one.y_mm, fixing, own

    def switch(self, name: str) -> Made:
        """A switch of either side."""
        dc = self.job.feed.dc
        fitted = (dc.isolator.id if dc.isolator else "", dc.safety.id if dc.safety else "")
        return self._sheet_of(name) or (dc.school, fitted)

    def own_switch(self, _: str) -> Made:
        """The DC switches that are built into the inverter, by its sheet and its variant."""
        return *self.device(""), self.job.variant

    def containment(self, name: str) -> Made:
        """What shares a way."""
        return next((one.holds for one in self.job.feed.containments if one.name == name), ())

    def branch(self, name: str) -> Made:
        """A branch's units in their order, its breaker, and where it begins."""
        one = self._branches.get(name)
        if one is None:
            return ()
        return one.units, one.joint, one.feed, one.breaker.id if one.breaker else ""

    def unit(self, name: str) -> Made:
        """One unit under its modules."""
        plan = self.job.micro
        if plan is None:
            return "", ()
        own = next((one for one in plan.units if one.name == name), None)
        places = own.modules if own else ()
        sheet = plan.sheet_of(own) if own else plan.unit
        return sheet.id, tuple((p.plane, p.row, p.column) for p in places)

    @cached_property
    def _talkers(self) -> dict[str, TalkDevice]:
        return {one.name: one for one in self.job.talk.devices} if self.job.talk else {}

    def talk_device(self, name: str) -> Made:
        """A device that talks, or something of it: its sheet, what it sits in, its address."""
        one = self._talkers.get(name) or self._talkers.get(name.rpartition(PART_OF)[0])
        return () if one is None else (one.sheet.id, one.of, one.address)

    def talk_port(self, name: str) -> Made:
        """A port and what ends on it."""
        plan = self.job.talk
        device, _, port = name.rpartition(PART_OF)
        here = plan.on(device, port) if plan else ()
        return self.talk_device(device), tuple((one.function, one.outside_mm) for one in here)

    def talk_wire(self, name: str) -> Made:
        """A wire with both of its ends."""
        plan = self.job.talk
        one = next((wire for wire in plan.wires if wire.name == name), None) if plan else None
        if one is None:
            return ()
        ends = self.talk_device(one.device), self.talk_device(one.far)
        made = one.function, one.port, one.far, one.far_port, one.shield, one.shield_pin
        return ends, made

    def talk_bus(self, _: str) -> Made:
        """Every piece of the bus."""
        wires = self.job.talk.wires if self.job.talk else ()
        return tuple(
            (self.talk_wire(one.name), one.length_m) for one in wires if one.function in ON_BUS
        )

    def talk_meter(self, _: str) -> Made:
        """The meter with its clamps."""
        meter = self.job.talk.meter if self.job.talk else None
        if meter is None:
            return ()
        clamps = tuple((one.phase, one.to_house) for one in meter.clamps)
        return meter.sheet.id, meter.place, meter.ratio, clamps


MAKE: dict[Part, Callable[[Parts, str], Made]] = {
    "string": Parts.string,
    "string_end": Parts.string_end,
    "plane": Parts.plane,
    "run": Parts.run,
    "run_end": Parts.run_end,
    "breaker": Parts.breaker,
    "circuit": Parts.circuit,
    "supply": Parts.supply,
    "device": Parts.device,
    "profile": Parts.profile,
    "earth_link": Parts.earth_link,
    "wall_device": Parts.wall_device,
    "switch": Parts.switch,
    "own_switch": Parts.own_switch,
    "containment": Parts.containment,
    "branch": Parts.branch,
    "unit": Parts.unit,
    "talk_device": Parts.talk_device,
    "talk_wire": Parts.talk_wire,
    "talk_port": Parts.talk_port,
    "talk_bus": Parts.talk_bus,
    "talk_meter": Parts.talk_meter,
}


@lru_cache(maxsize=DIGESTS_KEPT)
def _digest(made: Made) -> str:
    return hashlib.sha256(repr(_plain(made)).encode()).hexdigest()[:CHARS]


def _plain(value: Any) -> Any:
    """A value whose text is the same whether a whole number was written with a point or without."""
    if isinstance(value, tuple):
        return tuple(map(_plain, value))
    return float(value) if isinstance(value, int) and not isinstance(value, bool) else value


def serial_changes(readings: tuple[Reading, ...]) -> dict[str, int]:
    """How often another serial was read of the inverter, and of each unit; a correction is none."""
    superseded = superseded_ids(readings)
    last: dict[str, str] = {}
    found: dict[str, int] = {}
    for one in readings:
        if one.kind in ("nameplate_serial", "unit_serial") and one.id not in superseded:
            if last.get(one.subject, one.text) != one.text:
                found[one.subject] = found.get(one.subject, 0) + 1
            last[one.subject] = one.text
    return found


def stamp(job: Job, reading: Reading) -> Reading:
    """A reading that is kept now, with what it is read of."""
    serials = serial_changes(job.readings)
    return replace(
        reading, fingerprint=Parts(job).fingerprint(reading.kind, reading.subject, serials)
    )


def stamped(job: Job) -> Job:
    """The job with every reading that lacks it given the fingerprint of the plan as it stands, and
    of the device that hung there when it was kept."""
    if all(one.fingerprint or not KINDS[one.kind].rests_on for one in job.readings):
        return job
    parts, found = Parts(job), []
    final = serial_changes(job.readings)
    seen: dict[str, int] = {}
    for number, one in enumerate(job.readings):
        if one.kind in ("nameplate_serial", "unit_serial") and final:
            seen = serial_changes(job.readings[: number + 1])
        print_now = one.fingerprint or parts.fingerprint(one.kind, one.subject, seen)
        found.append(one if one.fingerprint == print_now else replace(one, fingerprint=print_now))
    return replace(job, readings=tuple(found))


def past_ids(job: Job) -> frozenset[str]:
    """Identities of the readings of what is no longer there: kept and shown, and asked for again.

    A reading without a fingerprint is taken to be of the plan as it stands.
    """
    parts, serials = Parts(job), serial_changes(job.readings)
    return frozenset(
        one.id
        for one in job.readings
        if one.fingerprint and one.fingerprint != parts.fingerprint(one.kind, one.subject, serials)
    )
