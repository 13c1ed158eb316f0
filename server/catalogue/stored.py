"""What stands on the shelf: the shipped sheets and packs, and the crew's own over them."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db.models import Max, Q, QuerySet

from core.base.errors import Refused, problem
from core.base.form import read
from core.equipment import catalogue
from core.equipment.catalogue import SHEETS, Kind, Some
from core.equipment.sheet import Sheet
from core.figures.overrides import OwnPack
from server.catalogue.models import LibraryRow, PackRow, SheetRow
from server.people.audit import shown_name
from server.people.models import Crew
from server.people.policy import Person, crew_of


@dataclass(frozen=True, kw_only=True)
class Revision:
    """One revision of a sheet: who put it on the shelf and when. at: None for a shipped one."""

    sheet_revision: str
    checked_by: str
    by: str
    at: datetime | None


class Shelf:
    """The shelf of one crew: the shipped sheets and packs, and its own over them."""

    def __init__(self, crew: Crew) -> None:
        self.crew = crew

    @property
    def rows(self) -> QuerySet[SheetRow]:
        """Every revision that the crew put on its shelf."""
        return SheetRow.objects.filter(crew=self.crew)

    def standing(self, kind: Kind, among: Collection[str] | None = None) -> dict[str, Sheet]:
        """The sheets of a kind that stand there, by identity; all, or those asked for."""
        latest = self._latest(kind)
        rows = latest if among is None else latest.filter(sheet_id__in=among)
        own = {row.sheet_id: row.data for row in rows}
        shipped = {sheet.id: sheet for sheet in catalogue.sheets(kind) if sheet.id not in own}
        return shipped | {
            sheet_id: read(SHEETS[kind], data) for sheet_id, data in own.items() if data is not None
        }

    def count(self, kind: Kind) -> int:
        """How many sheets of a kind stand there."""
        return len(self._shipped(kind, [])) + self._latest(kind).filter(data__isnull=False).count()

    def find(self, kind: Kind, words: list[str], most: int) -> tuple[int, list[Sheet]]:
        """How many sheets have all these words in maker, model or identity, and the first."""
        rows = self._latest(kind).filter(data__isnull=False)
        for word in words:
            rows = rows.filter(
                Q(data__maker__icontains=word)
                | Q(data__model__icontains=word)
                | Q(sheet_id__icontains=word)
            )
        shipped = self._shipped(kind, words)
        own = [read(SHEETS[kind], row.data) for row in rows.order_by("data__maker", "id")[:most]]
        first = sorted((*shipped, *own), key=lambda sheet: sheet.label)[:most]
        return len(shipped) + rows.count(), first

    def find_library(self, kind: Kind, words: list[str], most: int) -> tuple[int, list[LibraryRow]]:
        """How many rows of the crew's libraries have all these words, and the first."""
        if not words:
            return 0, []
        rows = LibraryRow.objects.filter(crew=self.crew, kind=kind)
        for word in words:
            rows = rows.filter(name__icontains=word)
        return rows.count(), list(rows[:most])

    def library_entry(self, kind: Kind, entry_id: int) -> LibraryRow:
        """A row of the crew's libraries. Raises Refused when there is none of that number."""
        row = LibraryRow.objects.filter(crew=self.crew, kind=kind, id=entry_id).first()
        if row is None:
            raise Refused([problem("$.id", entry_id, "a row of a library that was read in")])
        return row

    def every(self, kind: Kind, wanted: type[Some]) -> tuple[Some, ...]:
        """Every sheet of a kind that stands there."""
        return tuple(one for one in self.standing(kind).values() if isinstance(one, wanted))

    def one(self, kind: Kind, sheet_id: str, wanted: type[Some], path: str) -> Some:
        """The standing sheet of that identity. Raises Refused at `path` when there is none."""
        row = self.rows.filter(kind=kind, sheet_id=sheet_id).last()
        shipped = tuple(sheet for sheet in catalogue.sheets(kind) if row is None)
        own = (read(SHEETS[kind], row.data),) if row is not None and row.data is not None else ()
        return catalogue.pick((*own, *shipped), sheet_id, wanted, path)

    def standing_one(self, kind: Kind, sheet_id: str) -> Sheet | None:
        """The standing sheet of that identity, None when there is none."""
        try:
            return self.one(kind, sheet_id, Sheet, "$")
        except Refused:
            return None

    def revisions(self, kind: Kind, sheet_id: str) -> tuple[Revision, ...]:
        """Every revision of a sheet, the shipped one first."""
        shipped = [
            Revision(
                sheet_revision=s.sheet_revision, checked_by=s.checked_by, by="shipped", at=None
            )
            for s in catalogue.sheets(kind)
            if s.id == sheet_id
        ]
        rows = self.rows.filter(kind=kind, sheet_id=sheet_id).select_related("added_by")
        return (*shipped, *(_revision(row) for row in rows))

    def own_packs(self) -> dict[str, OwnPack]:
        """The crew's rule packs, by identity."""
        rows = PackRow.objects.filter(crew=self.crew)
        return {row.pack_id: read(OwnPack, row.data) for row in rows}

    def own_pack(self, pack_id: str) -> OwnPack | None:
        """The crew's rule pack of that identity, None when it is not one of theirs."""
        return self.own_packs().get(pack_id)

    def own_sheets(self) -> dict[str, dict[str, Any]]:
        """The crew's own sheets by kind and identity, as files have them; None: taken off."""
        own: dict[str, dict[str, Any]] = {}
        for row in self.rows.order_by("id"):
            own.setdefault(row.kind, {})[row.sheet_id] = row.data
        return own

    def _shipped(self, kind: Kind, words: list[str]) -> list[Sheet]:
        """Shipped sheets that the crew has neither changed nor taken off."""
        own = set(self.rows.filter(kind=kind).values_list("sheet_id", flat=True).distinct())
        return [
            sheet
            for sheet in catalogue.sheets(kind)
            if sheet.id not in own
            and all(word in f"{sheet.label} {sheet.id}".lower() for word in words)
        ]

    def _latest(self, kind: Kind) -> QuerySet[SheetRow]:
        last = self.rows.filter(kind=kind).values("sheet_id").annotate(last=Max("id"))
        return SheetRow.objects.filter(id__in=last.values("last"))


def shelf_of(person: Person) -> Shelf:
    """The shelf of a person's crew."""
    return Shelf(crew_of(person))


def _revision(row: SheetRow) -> Revision:
    data = row.data or {"sheet_revision": "taken off the shelf", "checked_by": ""}
    return Revision(
        sheet_revision=data["sheet_revision"],
        checked_by=data.get("checked_by", ""),
        by=shown_name(row.added_by),
        at=row.added_at,
    )
