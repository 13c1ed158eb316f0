"""What stands on the shelf: the shipped sheets and packs, and the crew's own over them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from django.db.models import Max

from core import shelf
from core.equipment.sheet import Sheet
from core.errors import Refused
from core.form import read
from core.packs import OwnPack
from core.shelf import SHEETS, Kind, Some
from server.people.actions import shown_name
from server.shelf.models import PackRow, SheetRow


@dataclass(frozen=True, kw_only=True)
class Revision:
    """One revision of a sheet: who put it on the shelf and when. at: None for a shipped one."""

    sheet_revision: str
    checked_by: str
    by: str
    at: datetime | None


def standing(kind: Kind) -> dict[str, Sheet]:
    """The sheets of a kind that stand on the shelf, by identity."""
    found = {sheet.id: sheet for sheet in shelf.sheets(kind)}
    for row in _latest(kind):
        if row.data is None:
            found.pop(row.sheet_id, None)
        else:
            found[row.sheet_id] = read(SHEETS[kind], row.data)
    return found


def _latest(kind: Kind) -> list[SheetRow]:
    last = SheetRow.objects.filter(kind=kind).values("sheet_id").annotate(last=Max("id"))
    return list(SheetRow.objects.filter(id__in=last.values("last")))


def one(kind: Kind, sheet_id: str, wanted: type[Some], path: str) -> Some:
    """The standing sheet of that identity. Raises Refused at `path` when there is none."""
    row = SheetRow.objects.filter(kind=kind, sheet_id=sheet_id).last()
    shipped = tuple(sheet for sheet in shelf.sheets(kind) if row is None)
    own = (read(SHEETS[kind], row.data),) if row is not None and row.data is not None else ()
    return shelf.pick((*own, *shipped), sheet_id, wanted, path)


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
        for s in shelf.sheets(kind)
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
