"""What is kept of a job for good: everything read on it, and everything written to its inverter.

Append-only: a correction is a new reading that supersedes.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal

from core.errors import Problem, problem
from core.form import Checked
from core.glossary import (
    Host,
    Identity,
    Name,
    Note,
    Port,
    UnitId,
)
from core.profiles import point_kinds
from core.quantity import Items, Quantity

ReadingKind = Literal[
    "irradiance",
    "air_temperature",
    "module_temperature",
    "wind",
    "open_circuit",
    "polarity",
    "connectors",
    "dc_switch",
    "plus_to_earth",
    "minus_to_earth",
    "safety_voltage",
    "reporting",
    "supply_voltage",
    "setting",
]
Basis = Literal["measured", "clear_sky"]
Outcome = Literal[
    "read_back",
    "unreachable",
    "silent",
    "closed",
    "garbage",
    "refused",
    "wrong_device",
]

# What each kind of reading may be: the same check for a typed entry and for a job file.
READING_QUANTITIES: dict[ReadingKind, Quantity] = {
    "irradiance": Quantity("irradiance on the roof plane", "W/m²", 1, 1500),
    "air_temperature": Quantity("air temperature", "°C", -60, 60),
    "module_temperature": Quantity("back-of-module temperature", "°C", -60, 110),
    "wind": Quantity("wind at the array", "m/s", 0, 60),
    "open_circuit": Quantity("open-circuit voltage", "V", -2000, 2000),
    "polarity": Quantity("polarity: 1 as marked, -1 swapped", "", -1, 1),
    "connectors": Quantity("connectors: 1 same make and series, -1 not", "", -1, 1),
    "dc_switch": Quantity("DC switch: 1 OFF, -1 ON", "", -1, 1),
    "plus_to_earth": Quantity("plus to earth", "V", -2000, 2000),
    "minus_to_earth": Quantity("minus to earth", "V", -2000, 2000),
    "safety_voltage": Quantity("safety voltage of the string", "V", -500, 500),
    "reporting": Quantity("optimisers that report", "", 0, 100),
    "supply_voltage": Quantity("supply voltage", "V", 60, 500),
    "setting": Quantity("setting on the display", "", -1000, 100_000),
}

# Kinds that are answered with one of two words, kept as 1 (good) or -1.
TWO_WAY: frozenset[ReadingKind] = frozenset({"polarity", "connectors", "dc_switch"})
# What stands for the whole job where a reading is of no single plane or string.
SITE, INVERTER = "site", "inverter"


@dataclass(frozen=True, kw_only=True)
class Reading(Checked):
    """One thing read, for good. taken_at: when it was measured; kept_at: when written down.

    subject: the plane, string, conductor pair or setting that was read. supersedes: the reading
    that this one corrects.
    """

    id: Identity
    kind: ReadingKind
    subject: Name
    value: float
    basis: Basis
    taken_at: datetime
    kept_at: datetime
    by: Name
    instrument: Note = ""
    note: Note = ""
    supersedes: Identity | None = None

    def contradictions(self) -> Iterator[Problem]:
        found = READING_QUANTITIES[self.kind].problem("$.value", self.value)
        if found:
            yield found
        if self.kind in TWO_WAY and self.value not in (1, -1):
            yield problem("$.value", self.value, "1 or -1")
        if self.basis == "clear_sky" and self.kind != "irradiance":
            yield problem("$.basis", self.basis, "measured; only irradiance may be clear_sky")


@dataclass(frozen=True, kw_only=True)
class DeviceLabel(Checked):
    """What the device says of itself."""

    maker: Note
    model: Note
    serial: Note
    version: Note


@dataclass(frozen=True, kw_only=True)
class SettingValue(Checked):
    """One setting as the device gave it back."""

    id: Name
    value: float


@dataclass(frozen=True, kw_only=True)
class SettingsWritten(Checked):
    """One attempt to give the inverter its profile, for good: who, when, what came back."""

    id: Identity
    at: datetime
    by: Name
    profile: Name
    host: Host
    port: Port
    unit_id: UnitId
    outcome: Outcome
    detail: Note
    device: DeviceLabel | None
    readback: Annotated[tuple[SettingValue, ...], Items("settings read back", 0, 80)]

    def contradictions(self) -> Iterator[Problem]:
        for index, setting in enumerate(self.readback):
            if setting.id not in point_kinds():
                yield problem(f"$.readback[{index}].id", setting.id, "a known setting")


def reading_problems(
    readings: tuple[Reading, ...], subjects: dict[ReadingKind, frozenset[str]]
) -> Iterator[Problem]:
    """What is wrong between the readings of a job: doubles, unknown subjects, corrections."""
    earlier: dict[str, Reading] = {}
    superseded: set[str] = set()
    for index, reading in enumerate(readings):
        path = f"$.readings[{index}]"
        if reading.id in earlier:
            yield problem(f"{path}.id", reading.id, "each identity once")
        if reading.subject not in subjects[reading.kind]:
            allowed = " · ".join(sorted(subjects[reading.kind]))
            yield problem(f"{path}.subject", reading.subject, allowed)
        if reading.supersedes is not None:
            target = earlier.get(reading.supersedes)
            same = target and (target.kind, target.subject) == (
                reading.kind,
                reading.subject,
            )
            if not same or reading.supersedes in superseded:
                allowed = "an earlier reading of the same thing that is not superseded yet"
                yield problem(f"{path}.supersedes", reading.supersedes, allowed)
            superseded.add(reading.supersedes)
        earlier[reading.id] = reading


def superseded_ids(readings: tuple[Reading, ...]) -> frozenset[str]:
    """Identities of the readings that a later one corrects."""
    return frozenset(r.supersedes for r in readings if r.supersedes is not None)
