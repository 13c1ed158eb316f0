"""Labels of a plant: which, how many, what they say, how large their letters must be."""

from __future__ import annotations

import math
from calendar import monthrange
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date
from fractions import Fraction
from functools import cache, lru_cache
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.form import Checked, read
from core.base.glossary import (
    BetaVocPctPerK,
    InspectionMonths,
    LabelId,
    LabelSpacingM,
    ModulesInSeries,
    Name,
    NominalV,
    Note,
    ReadFromM,
    UnitVa,
    VocV,
)
from core.base.quantity import Items, Quantity, Text
from core.base.rule import rule
from core.data import load

Colours = Literal["warning", "danger", "plain", "earth", "fire"]
# The temperature to which a module's sheet refers (IEC 61215, standard test conditions).
STC_C = 25
# A letter is read from 0.3 m for each millimetre of its height, and is 3 mm at least
# (as generally known; check against the code in force).
READ_M_PER_MM, LEAST_LETTER_MM = Fraction(3, 10), 3
MONTHS_PER_YEAR = 12
# The same few figures of a plant are asked again with every press.
FIGURES_KEPT = 1_024
A4_MM = (210.0, 297.0)

PieceM = Annotated[float, Quantity("straight piece of the run", "m", 0.01, 500)]
Pieces = Annotated[tuple[PieceM, ...], Items("straight pieces", 1, 60)]
LabelAir = Annotated[float, Quantity("coldest air", "°C", -60, 40)]
LabelV = Annotated[float, Quantity("volts on the label", "V", 1, 100_000)]
LabelA = Annotated[float, Quantity("amps on the label", "A", 0.1, 3000)]
LabelKwh = Annotated[float, Quantity("energy of the battery", "kWh", 0.1, 1000)]
LabelW = Annotated[float, Quantity("limit on the label", "W", 0, 1_000_000)]
WaitMin = Annotated[float, Quantity("minutes to wait", "min", 0, 120)]
UnitCount = Annotated[int, Quantity("units of a branch", "", 1, 400)]
SideMm = Annotated[float, Quantity("side of a label", "mm", 5, 290)]
EdgeMm = Annotated[float, Quantity("margin or gutter", "mm", 0, 60)]
Many = Annotated[int, Quantity("labels", "", 0, 100_000)]
Told = Annotated[str, Text("words of the label", 0, 200)]


@dataclass(frozen=True, kw_only=True)
class LabelKind(Checked):
    """One kind of label as data. text: with {names} where figures go; more: what follows where the
    plant has it. sides: width and height in millimetres. outdoors: it must bear the weather."""

    id: LabelId
    title: Name
    where: Told
    text: Told
    more: Told = ""
    act: Told
    act_words: Annotated[tuple[Name, ...], Items("words of what it does", 1, 12)]
    width_mm: SideMm
    height_mm: SideMm
    distance_m: ReadFromM
    colours: Colours
    outdoors: bool = False
    source: Told


@dataclass(frozen=True, kw_only=True)
class RunString(Checked):
    """One string in a DC run, as its module's sheet has it."""

    modules: ModulesInSeries
    voc_v: VocV
    beta_pct_per_k: BetaVocPctPerK


@dataclass(frozen=True, kw_only=True)
class DcRun(Checked):
    """A containment with DC cables. max_v: where it is known already, instead of its strings."""

    name: Name
    straight_pieces_m: Pieces
    strings: Annotated[tuple[RunString, ...], Items("strings", 0, 400)] = ()
    max_v: LabelV | None = None


@dataclass(frozen=True, kw_only=True)
class DcSwitchLabel(Checked):
    """A DC switch: what it parts, what stays live, and the other one."""

    name: Name
    parts: Told
    stays_live: Told
    twin: Note | None = None
    twin_place: Note | None = None


@dataclass(frozen=True, kw_only=True)
class InverterLabel(Checked):
    """An inverter and how long its capacitors hold."""

    name: Name
    wait_min: WaitMin


@dataclass(frozen=True, kw_only=True)
class AcIsolatorLabel(Checked):
    """An AC isolator, whose it is, and its rating."""

    name: Name
    of: Name
    volts: LabelV
    amps: LabelA


@dataclass(frozen=True, kw_only=True)
class BoardLabel(Checked):
    """A board: what else feeds it, where that is parted, and whether its meter hangs elsewhere."""

    name: Name
    fed_by: Annotated[tuple[Name, ...], Items("what feeds it", 0, 20)] = ()
    isolator_place: Note = ""
    meter_apart: bool = False


@dataclass(frozen=True, kw_only=True)
class EmergencyLabel(Checked):
    """An emergency switch: what goes dead, what stays live, what is switched after it."""

    name: Name
    dead: Told
    stays_live: Told
    order: Annotated[tuple[Name, ...], Items("switched after it", 0, 12)] = ()


@dataclass(frozen=True, kw_only=True)
class BranchLabel(Checked):
    """A branch of roof units."""

    name: Name
    units: UnitCount
    unit_va: UnitVa
    nominal_v: NominalV
    board: Note = ""


@dataclass(frozen=True, kw_only=True)
class BatteryLabel(Checked):
    """A battery, and whether it stands behind a door of its own."""

    name: Name
    chemistry: Name
    volts: LabelV
    kwh: LabelKwh
    isolate_at: Name
    door: bool = False


@dataclass(frozen=True, kw_only=True)
class ReadFrom(Checked):
    """From how far each kind of label is read."""

    id: LabelId
    distance_m: ReadFromM


@dataclass(frozen=True, kw_only=True)
class LabelPlant(Checked):
    """What of a plant its labels tell. Lists in the order in which they are printed."""

    t_min_c: LabelAir
    label_spacing_m: LabelSpacingM
    dc_runs: Annotated[tuple[DcRun, ...], Items("DC runs", 0, 400)] = ()
    dc_switches: Annotated[tuple[DcSwitchLabel, ...], Items("DC switches", 0, 60)] = ()
    inverters: Annotated[tuple[InverterLabel, ...], Items("inverters", 0, 60)] = ()
    ac_isolators: Annotated[tuple[AcIsolatorLabel, ...], Items("AC isolators", 0, 60)] = ()
    boards: Annotated[tuple[BoardLabel, ...], Items("boards", 0, 60)] = ()
    operator_reference: Note | None = None
    export_limit_w: LabelW | None = None
    emergency_switches: Annotated[tuple[EmergencyLabel, ...], Items("emergency", 0, 20)] = ()
    branches: Annotated[tuple[BranchLabel, ...], Items("branches", 0, 60)] = ()
    map_place: Note | None = None
    batteries: Annotated[tuple[BatteryLabel, ...], Items("batteries", 0, 40)] = ()
    backed_up_board: Note | None = None
    dead_by: Note | None = None
    electrode: bool = False
    installed: date
    inspection_months: InspectionMonths


@dataclass(frozen=True, kw_only=True)
class Label:
    """One label to be made. count: how many of it; of: what it stands at; letter_mm: least height
    of its letters; act: what its switch does, or what it warns of."""

    rule: LabelId
    of: str
    count: int
    text: str
    letter_mm: int
    act: str


@dataclass(frozen=True, kw_only=True)
class SheetCount:
    """How labels of one size lie on A4."""

    columns: int
    rows: int
    sheets: int


@cache
def label_kinds(pack: str = "") -> tuple[LabelKind, ...]:
    """Every kind of label in the order of printing, in the words of a rule pack."""
    data = load("labels")
    own = data["packs"].get(pack, {})
    return tuple(read(LabelKind, one | own.get(one["id"], {})) for one in data["kinds"])


@rule
def run_labels(*, straight_pieces_m: Pieces, label_spacing_m: LabelSpacingM) -> int:
    """How many labels does a DC run need: both ends, every turn, and between on long pieces?

    Source: IEC 62548-1, labels of DC cables; check against the code in force.
    """
    spacing = _exact(label_spacing_m)
    between = (math.ceil(_exact(piece) / spacing) - 1 for piece in straight_pieces_m)
    return 2 + len(straight_pieces_m) - 1 + sum(max(0, count) for count in between)


@rule
def run_max_v(*, strings: tuple[RunString, ...], t_min_c: LabelAir) -> int:
    """What is the highest voltage in a DC run, at the coldest air, rounded up?

    Source: IEC 62548-1, 7.2 (maximum voltage of the array).
    """
    if not strings:
        raise Refused([problem("$.strings", 0, "at least one string in the run")])
    return math.ceil(
        max(
            one.modules
            * _exact(one.voc_v)
            * (1 + _exact(one.beta_pct_per_k) / 100 * (_exact(t_min_c) - STC_C))
            for one in strings
        )
    )


@rule
def letter_mm(*, reading_distance_m: ReadFromM) -> int:
    """How high must letters be to be read from there: 1 mm for each 0.3 m, at least 3 mm?

    Source: as generally known; check against the code in force.
    """
    return max(LEAST_LETTER_MM, math.ceil(_exact(reading_distance_m) / READ_M_PER_MM))


@rule
def next_inspection(*, installed: date, inspection_months: InspectionMonths) -> date:
    """When is the next inspection due: as many months later, on the same day or the month's last?

    Source: IEC 60364-6, 6.5.2 (intervals); the pack's own interval.
    """
    months = installed.month - 1 + inspection_months
    year, month = installed.year + months // MONTHS_PER_YEAR, months % MONTHS_PER_YEAR + 1
    return date(year, month, min(installed.day, monthrange(year, month)[1]))


@rule
def branch_label_a(*, units: UnitCount, unit_va: UnitVa, nominal_v: NominalV) -> float:
    """What current of a branch stands on its label: all units on one phase, rounded up to 0.1 A?

    Source: unit sheet (output).
    """
    return math.ceil(10 * units * _exact(unit_va) / _exact(nominal_v)) / 10


@rule
def label_sheets(
    *, labels: Many, width_mm: SideMm, height_mm: SideMm, margin_mm: EdgeMm, gutter_mm: EdgeMm
) -> SheetCount:
    """How many labels of a size lie on an A4 sheet, and how many sheets they take, not turned?

    Source: ISO 216 (A4).
    """
    wide, tall = (_exact(one) for one in A4_MM)
    margin, gutter = _exact(margin_mm), _exact(gutter_mm)
    columns, rows = (
        max(0, math.floor((paper - 2 * margin + gutter) / (_exact(side) + gutter)))
        for paper, side in ((wide, width_mm), (tall, height_mm))
    )
    if not columns * rows:
        allowed = "a label that fits on A4 inside the margin"
        raise Refused([problem("$.width_mm", f"{width_mm:g} × {height_mm:g} mm", allowed)])
    return SheetCount(columns=columns, rows=rows, sheets=math.ceil(labels / (columns * rows)))


@rule
def plant_labels(
    *,
    plant: LabelPlant,
    reading_distance_m: Annotated[tuple[ReadFrom, ...], Items("distances", 0, 20)] = (),
    pack: Note = "",
) -> tuple[Label, ...]:
    """Which labels does a plant need: how many, what do they say, how large are their letters?

    In the order of the kinds and of the plant's lists. reading_distance_m: where another than the
    kind's own. pack: the rule pack whose words are taken.
    Source: IEC 62548-1, IEC 60364-7-712, 712.514 and the pack's own code, as generally known;
    check against the code in force.
    """
    far = {one.id: one.distance_m for one in reading_distance_m}
    found = []
    for kind in label_kinds(pack):
        high = letter_mm(reading_distance_m=far.get(kind.id, kind.distance_m))
        for of, count, facts in LAID[kind.id](plant):
            found.append(
                Label(
                    rule=kind.id,
                    of=of,
                    count=count,
                    text=_told(kind, facts),
                    letter_mm=high,
                    act=kind.act.format_map(facts),
                )
            )
    return tuple(found)


Facts = dict[str, str]
Laid = Iterator[tuple[str, int, Facts]]


def _told(kind: LabelKind, facts: Facts) -> str:
    text = kind.text.format_map(facts)
    return text + kind.more.format_map(facts) if facts.get("more") else text


def _dc_runs(plant: LabelPlant) -> Laid:
    for run in plant.dc_runs:
        count = run_labels(
            straight_pieces_m=run.straight_pieces_m, label_spacing_m=plant.label_spacing_m
        )
        known = run.max_v
        volts = (
            math.ceil(_exact(known))
            if known is not None
            else run_max_v(strings=run.strings, t_min_c=plant.t_min_c)
        )
        yield run.name, count, {"max_v": str(volts)}


def _dc_switches(plant: LabelPlant) -> Laid:
    for one in plant.dc_switches:
        yield one.name, 1, {
            "name": one.name, "parts": one.parts, "stays_live": one.stays_live,
            "more": one.twin or "", "twin": one.twin or "", "twin_place": one.twin_place or "",
        }  # fmt: skip


def _inverters(plant: LabelPlant) -> Laid:
    return ((one.name, 1, {"wait_min": _plain(one.wait_min)}) for one in plant.inverters)


def _ac_isolators(plant: LabelPlant) -> Laid:
    for one in plant.ac_isolators:
        facts = {"of": one.of, "volts": _plain(one.volts), "amps": _plain(one.amps)}
        yield one.name, 1, facts | {"name": one.name}


def _line_load(plant: LabelPlant) -> Laid:
    return ((one.name, 2, {}) for one in plant.ac_isolators)


def _boards(plant: LabelPlant) -> Laid:
    for one in plant.boards:
        if one.fed_by:
            facts = {"fed_by": " AND ".join(one.fed_by), "isolator_place": one.isolator_place}
            yield one.name, 1 + one.meter_apart, facts


def _supply_point(plant: LabelPlant) -> Laid:
    if plant.operator_reference is not None:
        limit = plant.export_limit_w
        said = f"LIMIT {_plain(limit)} W " if limit is not None else ""
        facts = {"limit": said, "operator_reference": plant.operator_reference}
        yield "supply point", 1, facts


def _emergency(plant: LabelPlant) -> Laid:
    for one in plant.emergency_switches:
        order = ", THEN ".join(one.order)
        yield one.name, 1, {
            "dead": one.dead, "stays_live": one.stays_live, "more": order, "order": order,
        }  # fmt: skip


def _branches(plant: LabelPlant) -> Laid:
    for one in plant.branches:
        amps = branch_label_a(units=one.units, unit_va=one.unit_va, nominal_v=one.nominal_v)
        yield one.name, 1, {
            "units": str(one.units), "name": one.name, "amps": f"{amps:.1f}",
            "map_place": plant.map_place or "",
        }  # fmt: skip


def _batteries(plant: LabelPlant) -> Laid:
    for one in plant.batteries:
        yield one.name, 1 + one.door, {
            "chemistry": one.chemistry, "volts": _plain(one.volts), "kwh": _plain(one.kwh),
            "isolate_at": one.isolate_at,
        }  # fmt: skip


def _backup(plant: LabelPlant) -> Laid:
    if plant.backed_up_board is not None:
        yield plant.backed_up_board, 1, {"dead_by": plant.dead_by or ""}


def _earth(plant: LabelPlant) -> Laid:
    if plant.electrode:
        yield "electrode", 1, {}


def _date(plant: LabelPlant) -> Laid:
    due = next_inspection(installed=plant.installed, inspection_months=plant.inspection_months)
    facts = {"installed": plant.installed.isoformat(), "next_inspection": due.isoformat()}
    yield "record pocket", 1, facts


LAID: dict[LabelId, Callable[[LabelPlant], Laid]] = {
    "dc_run": _dc_runs,
    "dc_switch": _dc_switches,
    "inverter": _inverters,
    "ac_isolator": _ac_isolators,
    "line_load": _line_load,
    "board": _boards,
    "supply_point": _supply_point,
    "emergency": _emergency,
    "roof_units": _branches,
    "battery": _batteries,
    "backup": _backup,
    "earth": _earth,
    "date": _date,
}


@lru_cache(maxsize=FIGURES_KEPT)
def _exact(value: float) -> Fraction:
    """A figure as it was typed: 1.5 m over 0.3 is 5, not a hair more."""
    return Fraction(str(value))


def _plain(value: float) -> str:
    """A figure as it was given, without a zero behind the point."""
    return str(int(value)) if value == int(value) else str(value)
