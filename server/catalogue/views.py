"""What the catalogue shows, for whoever shows it."""

from __future__ import annotations

from core.base.form import read
from core.equipment.catalogue import Kind
from core.equipment.catalogue_csv import columns
from core.figures.overrides import figures_of
from core.figures.rule_packs import RulePack
from core.files.weather import Climate
from places.towns import distance_km
from server.catalogue.models import ClimateRow
from server.catalogue.schemas import (
    ClimateNear,
    LibraryLine,
    PackView,
    SheetList,
    sheet_line,
)
from server.catalogue.stored import Shelf
from server.people.policy import Person, of_crew

MOST_CLIMATES = 5
MOST_FOUND = 60


def sheet_list(shelf: Shelf, kind: Kind, words: list[str]) -> SheetList:
    """What a search finds: the sheets, then what of the libraries is no sheet yet."""
    total, found = shelf.find(kind, words, MOST_FOUND)
    library_total, rows = shelf.find_library(kind, words, MOST_FOUND)
    meant = {column.name: column.meaning for column in columns(kind)}
    return SheetList(
        total=total,
        sheets=tuple(map(sheet_line, found)),
        library_total=library_total,
        library=tuple(
            LibraryLine(id=row.id, name=row.name, missing=tuple(meant[one] for one in row.missing))
            for row in rows
        ),
    )


def pack_view(rules: RulePack) -> PackView:
    """A rule pack with every figure."""
    return PackView(
        id=rules.id,
        name=rules.name,
        edition=rules.edition,
        counts_from=rules.counts_from,
        counts_until=rules.counts_until,
        based_on=rules.based_on,
        note=rules.note,
        figures=figures_of(rules),
        tables=rules.tables,
    )


def climates_near(person: Person, latitude_deg: float, longitude_deg: float) -> list[ClimateNear]:
    """The weather that the crew read in, the nearest first; what says of no place comes last."""
    every = (read(Climate, row.data) for row in of_crew(person, ClimateRow.objects.all()))
    found = [
        ClimateNear(climate=one, distance_km=_off(one, latitude_deg, longitude_deg))
        for one in every
    ]
    nearest = sorted(found, key=lambda one: (one.distance_km is None, one.distance_km or 0.0))
    return nearest[:MOST_CLIMATES]


def _off(climate: Climate, latitude_deg: float, longitude_deg: float) -> float | None:
    north, east = climate.latitude_deg, climate.longitude_deg
    if north is None or east is None:
        return None
    return round(distance_km((latitude_deg, longitude_deg), (north, east)), 1)
