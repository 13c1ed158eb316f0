"""What the API takes and gives about the shelf."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Annotated

from ninja import Field, Schema
from pydantic import ConfigDict

from core.equipment.backup_unit import BackupUnit
from core.equipment.battery import Battery
from core.equipment.cables_switches_fixings import Meter
from core.equipment.catalogue import Kind
from core.equipment.catalogue_csv import Column
from core.equipment.inverter import Inverter
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.equipment.sheet import Sheet
from core.figures.grid_profiles import ProfilePoint
from core.figures.overrides import PackFigure
from core.figures.rule_packs import Table
from core.files.weather import Climate
from server.catalogue.stored import Revision

Entered = Annotated[str, Field(max_length=300)]


@dataclass(frozen=True, kw_only=True)
class Choice:
    """One thing to choose, with what tells it apart."""

    id: str
    label: str
    detail: str


@dataclass(frozen=True, kw_only=True)
class ProfileLine:
    """A grid profile to choose, with its settings."""

    id: str
    label: str
    detail: str
    points: tuple[ProfilePoint, ...]


@dataclass(frozen=True, kw_only=True)
class SettingLine:
    """A setting that a profile may have: what it is called, its unit, what it may be."""

    id: str
    title: str
    unit: str
    allowed: str


@dataclass(frozen=True, kw_only=True)
class KindLine:
    """A kind of sheet, and how many stand on the shelf."""

    kind: Kind
    title: str
    count: int


@dataclass(frozen=True, kw_only=True)
class ShelfView:
    """What a job can be judged by, and how much of each kind stands on the shelf."""

    kinds: tuple[KindLine, ...]
    packs: tuple[Choice, ...]
    profiles: tuple[ProfileLine, ...]
    settings: tuple[SettingLine, ...]
    most_file_bytes: int


@dataclass(frozen=True, kw_only=True)
class SheetLine:
    """A sheet as a list shows it."""

    id: str
    label: str
    detail: str
    sheet_revision: str
    checked_by: str


@dataclass(frozen=True, kw_only=True)
class LibraryLine:
    """A row of a library that the crew read in, and what its label has still to say."""

    id: int
    name: str
    missing: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class SheetList:
    """The sheets that a search finds, and how many there are in all.

    library: the same of the libraries that the crew read in: what is no sheet yet.
    """

    total: int
    sheets: tuple[SheetLine, ...]
    library_total: int
    library: tuple[LibraryLine, ...]


@dataclass(frozen=True, kw_only=True)
class ClimateNear:
    """Weather that the crew read in, and how far off it is of. distance_km: None where the file
    does not say."""

    climate: Climate
    distance_km: float | None


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One field of a sheet as text."""

    name: str
    text: str


@dataclass(frozen=True, kw_only=True)
class SheetView:
    """A whole sheet, field by field, and its revisions."""

    line: SheetLine
    cells: tuple[Cell, ...]
    revisions: tuple[Revision, ...]


@dataclass(frozen=True, kw_only=True)
class LibraryView:
    """A row of a library as the cells of the sheet that it fills."""

    name: str
    cells: tuple[Cell, ...]


@dataclass(frozen=True, kw_only=True)
class LabelSheet:
    """A sheet that a label may name. differs: where the label says another figure, in words."""

    sheet: SheetLine
    differs: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class LabelView:
    """What a picture of a label says. text: all that was read; sheets: those that it may name, the
    likeliest first; cells: what it says of a new sheet; missing: what that has to say besides.
    """

    text: str
    sheets: tuple[LabelSheet, ...]
    cells: tuple[Cell, ...]
    missing: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class ColumnsView:
    """What a sheet of a kind has to say."""

    columns: tuple[Column, ...]


@dataclass(frozen=True, kw_only=True)
class PackView:
    """A rule pack with every figure."""

    id: str
    name: str
    edition: str
    counts_from: date | None
    counts_until: date | None
    based_on: str | None
    note: str
    figures: tuple[PackFigure, ...]
    tables: tuple[Table, ...]


class CellIn(Schema):
    """One field as typed."""

    model_config = ConfigDict(extra="forbid")
    name: Entered
    text: Entered


class SheetIn(Schema):
    """A sheet as typed. as_given: figures that look like a slip are meant as they stand."""

    model_config = ConfigDict(extra="forbid")
    cells: Annotated[list[CellIn], Field(max_length=200)]
    as_given: bool = False


class WithdrawIn(Schema):
    """A sheet to take off the shelf."""

    model_config = ConfigDict(extra="forbid")
    id: Entered


class FigureIn(Schema):
    """A figure or school of a pack replaced, as typed, and why."""

    model_config = ConfigDict(extra="forbid")
    path: Entered
    entered: Entered
    reason: Entered


class PackIn(Schema):
    """A rule pack of the crew's own, as typed."""

    model_config = ConfigDict(extra="forbid")
    id: Entered
    name: Entered
    edition: Entered
    based_on: Entered
    note: Entered = ""
    counts_from: Entered = ""
    counts_until: Entered = ""
    figures: Annotated[list[FigureIn], Field(min_length=1, max_length=60)]


def sheet_line(sheet: Sheet) -> SheetLine:
    """A sheet in one line."""
    return SheetLine(
        id=sheet.id,
        label=sheet.label,
        detail=detail(sheet),
        sheet_revision=sheet.sheet_revision,
        checked_by=sheet.checked_by,
    )


def detail(sheet: Sheet) -> str:
    """What tells a sheet apart from others of its kind."""
    match sheet:
        case Module():
            return f"{sheet.pmax_w:g} W, {sheet.voc_v:g} V open circuit"
        case Battery(unit_v_nominal=None):
            return f"{sheet.usable_kwh:g} kWh, {sheet.max_a:g} A on the AC side"
        case Battery():
            return f"{sheet.usable_kwh:g} kWh, {sheet.unit_v_nominal:g} V, {sheet.max_a:g} A"
        case Inverter():
            trackers = f"{len(sheet.trackers)} tracker{'s' if len(sheet.trackers) > 1 else ''}"
            return f"{sheet.rated_ac_w / 1000:g} kW, {trackers}, {sheet.dc.max_dc_v:g} V"
        case Optimiser():
            most = sheet.most_in_string
            return f"{sheet.max_module_w:g} W, {sheet.least_in_string} to {most} in a string"
        case BackupUnit():
            return f"{sheet.what}, {sheet.phases} phase, {sheet.rated_a:g} A"
        case Meter():
            return f"{sheet.phases} phase, {sheet.most_a:g} A, {sheet.clamps or 'no'} clamps"
    return sheet.sheet_revision
