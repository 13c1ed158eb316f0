"""What is kept of a job for good: everything read on it, and everything written to its inverter.

Append-only: a correction is a new reading that supersedes.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Host, Identity, Name, Note, Port, UnitId
from core.base.quantity import Items, Quantity, Text
from core.figures.grid_profiles import point_kinds

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
    "goods_found",
    "goods_damaged",
    "nameplate_model",
    "nameplate_serial",
    "nameplate_max_dc",
    "nameplate_isc",
    "nameplate_power",
    "nameplate_nominal",
    "services",
    "level",
    "holes_first",
    "way_up",
    "entry_side",
    "hooks",
    "locked",
    "lead_null",
    "test_current",
    "continuity",
    "torque",
    "pull",
    "loop_impedance",
    "line_side",
    "isolator_up",
    "dead_step",
    "lid",
    "unit_serial",
    "units_hung",
    "unit_covered",
    "trunk_marks",
    "drops_sealed",
    "branch_on",
    "swap_step",
    "loss_moment",
    "over_voltage_stop",
    "mean_voltage",
    "supply_frequency",
    "look_over",
    "short_circuit",
    "operating",
    "insulation_volts",
    "insulation_plus",
    "insulation_minus",
    "insulation_ac_volts",
    "insulation_ac",
    "conductor_voltage",
    "rotation",
    "residual_ms",
    "residual_ma",
    "switch_works",
    "wake_step",
    "light",
    "switch_stands",
]
Basis = Literal["measured", "clear_sky"]
EvidenceForm = Literal["image/jpeg", "image/png", "application/pdf"]
Outcome = Literal[
    "read_back",
    "unreachable",
    "silent",
    "closed",
    "garbage",
    "refused",
    "wrong_device",
    "other_device",
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
    "goods_found": Quantity("found", "", 0, 10_000),
    "goods_damaged": Quantity("damaged", "", 0, 10_000),
    "nameplate_model": Quantity("model on the nameplate", "", 0, 0),
    "nameplate_serial": Quantity("serial on the nameplate", "", 0, 0),
    "nameplate_max_dc": Quantity("maximum DC voltage on the nameplate", "V", 10, 2000),
    "nameplate_isc": Quantity("maximum short-circuit current on the nameplate", "A", 0.5, 300),
    "nameplate_power": Quantity("rated power on the nameplate", "W", 100, 200_000),
    "nameplate_nominal": Quantity("nominal voltage on the nameplate", "V", 60, 500),
    "services": Quantity(
        "hidden services: 1 looked for, none there, -1 something there", "", -1, 1
    ),
    "level": Quantity("out of level", "mm/m", -50, 50),
    "holes_first": Quantity("holes: 1 made before it goes up, -1 not", "", -1, 1),
    "way_up": Quantity("way up: 1 right, -1 not", "", -1, 1),
    "entry_side": Quantity("entry: 1 at the right end, -1 not", "", -1, 1),
    "hooks": Quantity("hooks: 1 seen engaged, -1 not", "", -1, 1),
    "locked": Quantity("locking screw: 1 in, -1 not", "", -1, 1),
    "lead_null": Quantity("test leads: 1 nulled, -1 not", "", -1, 1),
    "test_current": Quantity("test current", "A", 0, 30),
    "continuity": Quantity("continuity", "Ω", 0, 10_000),
    "torque": Quantity("torque reached", "Nm", 0, 40),
    "pull": Quantity("pull on the conductor: 1 it holds, -1 not", "", -1, 1),
    "loop_impedance": Quantity("loop impedance", "Ω", 0, 10_000),
    "line_side": Quantity("line and load side: 1 right, -1 swapped", "", -1, 1),
    "isolator_up": Quantity("way up of the switch: 1 right, -1 not", "", -1, 1),
    "dead_step": Quantity("step of making dead: 1 done, -1 not", "", -1, 1),
    "lid": Quantity("lid: 1 last and on, -1 not", "", -1, 1),
    "unit_serial": Quantity("serial of the unit", "", 0, 0),
    "units_hung": Quantity("units of the plane: 1 hung as drawn, -1 not", "", -1, 1),
    "unit_covered": Quantity("module over the unit: 1 it lies there, -1 lifted", "", -1, 1),
    "trunk_marks": Quantity("marks of the trunk: 1 matched, -1 not", "", -1, 1),
    "drops_sealed": Quantity("unused drops and ends: 1 sealed, -1 not", "", -1, 1),
    "branch_on": Quantity("branch: 1 ON, -1 OFF", "", -1, 1),
    "swap_step": Quantity("step of the swap: 1 done, -1 not", "", -1, 1),
    "loss_moment": Quantity("moment of the loss of supply: 1 seen, -1 did not come", "", -1, 1),
    "over_voltage_stop": Quantity("stopped on over-voltage after", "s", 0, 1000),
    "mean_voltage": Quantity("mean supply voltage over ten minutes", "V", 60, 500),
    "supply_frequency": Quantity("supply frequency", "Hz", 40, 70),
    "look_over": Quantity("looked over: 1 as it should be, -1 not", "", -1, 1),
    "short_circuit": Quantity("short-circuit current", "A", -100, 100),
    "operating": Quantity("operating current", "A", -100, 100),
    "insulation_volts": Quantity("test voltage", "V", 0, 5000),
    "insulation_plus": Quantity("insulation, plus to earth", "MΩ", 0, 1e6),
    "insulation_minus": Quantity("insulation, minus to earth", "MΩ", 0, 1e6),
    "insulation_ac_volts": Quantity("test voltage", "V", 0, 5000),
    "insulation_ac": Quantity("insulation, live to earth", "MΩ", 0, 1e6),
    "conductor_voltage": Quantity("voltage between conductors", "V", 0, 1000),
    "rotation": Quantity("rotation: 1 L1, L2, L3, -1 the other way", "", -1, 1),
    "residual_ms": Quantity("trip time", "ms", 0, 10_000),
    "residual_ma": Quantity("trip current", "mA", 0, 10_000),
    "switch_works": Quantity("switch: 1 parts and closes, -1 not", "", -1, 1),
    "wake_step": Quantity("step: 1 done and as expected, -1 not as expected", "", -1, 1),
    "light": Quantity("what the lights show", "", 0, 0),
    "switch_stands": Quantity("where the switch stands: 1 ON, -1 OFF", "", -1, 1),
}

# Kinds that are answered with one of two words, kept as 1 (good) or -1.
TWO_WAY: frozenset[ReadingKind] = frozenset(
    {
        "polarity",
        "connectors",
        "dc_switch",
        "services",
        "holes_first",
        "way_up",
        "entry_side",
        "hooks",
        "locked",
        "lead_null",
        "pull",
        "line_side",
        "isolator_up",
        "dead_step",
        "lid",
        "units_hung",
        "unit_covered",
        "trunk_marks",
        "drops_sealed",
        "branch_on",
        "swap_step",
        "loss_moment",
        "look_over",
        "rotation",
        "switch_works",
        "wake_step",
        "switch_stands",
    }
)
# Kinds that are read as a text; their value is 0.
TEXTS: frozenset[ReadingKind] = frozenset(
    {"nameplate_model", "nameplate_serial", "unit_serial", "light"}
)
# Kinds whose tester may only say that there is more than its range; their text is then BEYOND.
RANGED: frozenset[ReadingKind] = frozenset({"insulation_plus", "insulation_minus", "insulation_ac"})
BEYOND = ">"
# Kinds whose subjects come and go with the plan: any name is taken.
ANY_SUBJECT: frozenset[ReadingKind] = frozenset({"goods_found", "goods_damaged"})
# The moments of a loss-of-supply test, in their order.
LOSS_MOMENTS = ("opened", "stopped", "closed", "returned")
# What is looked over before the tests, and the half-waves on which a residual device is tried.
LOOKED_OVER = ("covers", "entries", "apart", "labels")
HALF_WAVES = ("0°", "180°")
# What stands for the whole job where a reading is of no single plane or string.
SITE, INVERTER, EARTH = "site", "inverter", "earth"


@dataclass(frozen=True, kw_only=True)
class Reading(Checked):
    """One thing read, for good. taken_at: when it was measured; kept_at: when written down.

    subject: the plane, string, conductor pair or setting that was read. text: what was read
    where it is no figure; the value is then 0. supersedes: the reading that this one corrects.
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
    text: Note = ""

    def contradictions(self) -> Iterator[Problem]:
        found = READING_QUANTITIES[self.kind].problem("$.value", self.value)
        if found:
            yield found
        if self.kind in TWO_WAY and self.value not in (1, -1):
            yield problem("$.value", self.value, "1 or -1")
        if self.kind in RANGED:
            if self.text not in ("", BEYOND):
                yield problem("$.text", self.text, f"{BEYOND} or nothing")
        elif (self.kind in TEXTS) != bool(self.text.strip()):
            allowed = "a text for what is read as a text, and only then"
            yield problem("$.text", self.text, allowed)
        if self.basis == "clear_sky" and self.kind != "irradiance":
            yield problem("$.basis", self.basis, "measured; only irradiance may be clear_sky")


@dataclass(frozen=True, kw_only=True)
class Evidence(Checked):
    """One picture or document kept as evidence of a step, for good.

    step: the key of what is read, or the id of a stage's line. sha256: of the stored bytes, by
    which the picture itself is found. located: whether it still says where it was taken.
    """

    id: Identity
    step: Annotated[str, Text("step", 1, 120)]
    name: Name
    form: EvidenceForm
    size_bytes: Annotated[int, Quantity("size", "bytes", 1, 20_000_000)]
    sha256: Annotated[str, Text("SHA-256", 64, 64)]
    kept_at: datetime
    by: Name
    note: Note = ""
    located: bool = False


@dataclass(frozen=True, kw_only=True)
class DeviceLabel(Checked):
    """What the device says of itself."""

    maker: Note
    model: Note
    serial: Note
    version: Note


@dataclass(frozen=True, kw_only=True)
class DevicePlate(Checked):
    """What the device's registers say of its rating.

    phases: 1, 2 for split phase, 3. models: numbers of its register models in their order.
    speaks: which of them carry settings.
    """

    rated_w: float | None
    nominal_v: float | None
    phases: int | None
    models: Annotated[tuple[int, ...], Items("register models", 0, 60)]
    speaks: Literal["newer", "older", "none"]


@dataclass(frozen=True, kw_only=True)
class SettingValue(Checked):
    """One setting as the device gave it back."""

    id: Name
    value: float


SettingIds = Annotated[tuple[Name, ...], Items("settings", 0, 80)]


@dataclass(frozen=True, kw_only=True)
class SettingsWritten(Checked):
    """One attempt to give the inverter its profile, for good: who, when, what came back.

    only_read: nothing was written, the inverter was looked at. carried: settings for which it has
    registers; the others are set by hand. sent, refused: what was written and what of it the
    inverter would not take. read: settings that were read afterwards; one of them that is not in
    `readback` the inverter does not hold.
    """

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
    only_read: bool = False
    plate: DevicePlate | None = None
    carried: SettingIds = ()
    sent: SettingIds = ()
    refused: SettingIds = ()
    read: SettingIds = ()

    def contradictions(self) -> Iterator[Problem]:
        for field in ("carried", "sent", "refused", "read"):
            for index, setting in enumerate(getattr(self, field)):
                if setting not in point_kinds():
                    yield problem(f"$.{field}[{index}]", setting, "a known setting")
        for index, one in enumerate(self.readback):
            if one.id not in point_kinds():
                yield problem(f"$.readback[{index}].id", one.id, "a known setting")


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
        if reading.kind not in ANY_SUBJECT and reading.subject not in subjects[reading.kind]:
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
