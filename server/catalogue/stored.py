"""What stands on the shelf: the shipped sheets and packs, and the crew's own over them."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime

from django.db.models import Max, Q, QuerySet

from core.base.errors import Refused
from core.base.form import read
from core.equipment import catalogue
from core.equipment.catalogue import SHEETS, Kind, Some
from core.equipment.sheet import Sheet
from core.figures.overrides import OwnPack
from server.catalogue.models import PackRow, SheetRow
from server.people.actions import shown_name


@dataclass(frozen=True, kw_only=True)
class Revision:
    """One revision of a sheet: who put it on the shelf and when. at: None for a shipped one."""

    sheet_revision: str
    checked_by: str
    by: str
    at: datetime | None


def standing(kind: Kind, among: Collection[str] | None = None) -> dict[str, Sheet]:
    """The sheets of a kind that stand on the shelf, by identity; all, or those asked for."""
    rows = _latest(kind) if among is None else _latest(kind).filter(sheet_id__in=among)
    own = {row.sheet_id: row.data for row in rows}
    shipped = {sheet.id: sheet for sheet in catalogue.sheets(kind) if sheet.id not in own}
    return shipped | {
        sheet_id: read(SHEETS[kind], data) for sheet_id, data in own.items() if data is not None
    }


def count(kind: Kind) -> int:
    """How many sheets of a kind stand on the shelf."""
    return len(_shipped(kind, [])) + _latest(kind).filter(data__isnull=False).count()


def find(kind: Kind, words: list[str], most: int) -> tuple[int, list[Sheet]]:
    """How many sheets have all these words in maker, model or identity, and the first of them."""
    rows = _latest(kind).filter(data__isnull=False)
    for word in words:
        rows = rows.filter(
            Q(data__maker__icontains=word)
            | Q(data__model__icontains=word)
            | Q(sheet_id__icontains=word)
        )
    shipped = _shipped(kind, words)
    own = [read(SHEETS[kind], row.data) for row in rows.order_by("data__maker", "id")[:most]]
    first = sorted((*shipped, *own), key=lambda sheet: sheet.label)[:most]
    return len(shipped) + rows.count(), first


def _shipped(kind: Kind, words: list[str]) -> list[Sheet]:
    """Shipped sheets that the crew has neither changed nor taken off."""
    own = set(SheetRow.objects.filter(kind=kind).values_list("sheet_id", flat=True).distinct())
    return [
        sheet
        for sheet in catalogue.sheets(kind)
        if sheet.id not in own
        and all(word in f"{sheet.label} {sheet.id}".lower() for word in words)
    ]


def _latest(kind: Kind) -> QuerySet[SheetRow]:
    last = SheetRow.objects.filter(kind=kind).values("sheet_id").annotate(last=Max("id"))
    return SheetRow.objects.filter(id__in=last.values("last"))


def one(kind: Kind, sheet_id: str, wanted: type[Some], path: str) -> Some:
    """The standing sheet of that identity. Raises Refused at `path` when there is none."""
    row = SheetRow.objects.filter(kind=kind, sheet_id=sheet_id).last()
    shipped = tuple(sheet for sheet in catalogue.sheets(kind) if row is None)
    own = (read(SHEETS[kind], row.data),) if row is not None and row.data is not None else ()
    return catalogue.pick((*own, *shipped), sheet_id, wanted, path)


def standing_one(kind: Kind, sheet_id: str) -> Sheet | None:
    """The standing sheet of that identity, None when there is none."""
    try:
        return one(kind, sheet_id, Sheet, "$")
    except Refused:
        return None


def revisions(kind: Kind, sheet_id: str) -> tuple[Revision, ...]:
    """Every revision of a sheet, the shipped one first."""
    shipped = [
        Revision(sheet_revision=s.sheet_revision, checked_by=s.checked_by, by="shipped", at=None)
        for s in catalogue.sheets(kind)
        if s.id == sheet_id
    ]
    rows = SheetRow.objects.filter(kind=kind, sheet_id=sheet_id).select_related("added_by")
    return (*shipped, *(_revision(row) for row in rows))


def _revision(row: SheetRow) -> Revision:
    data = row.data or {"sheet_revision": "taken off the shelf", "checked_by": ""}
    return Revision(
        sheet_revision=data["sheet_revision"],
        checked_by=data.get("checked_by", ""),
        by=shown_name(row.added_by),
        at=row.added_at,
    )


def own_packs() -> dict[str, OwnPack]:
    """The crew's rule packs, by identity."""
    rows = PackRow.objects.all()
    return {row.pack_id: read(OwnPack, row.data) for row in rows}


class Standing:
    """What stands on the shelf, as an edit asks for it."""

    def one(self, kind: Kind, sheet_id: str, wanted: type[Some], path: str) -> Some:
        """The standing sheet of that identity. Raises Refused at `path` when there is none."""
        return one(kind, sheet_id, wanted, path)

    def own_pack(self, pack_id: str) -> OwnPack | None:
        """The crew's rule pack of that identity, None when it is not one of theirs."""
        return own_packs().get(pack_id)


STANDING = Standing()
