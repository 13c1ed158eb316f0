"""What a crew's shelf says over the shipped sheets, as it is carried along."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from core.base.form import read
from core.equipment import catalogue
from core.equipment.catalogue import SHEETS, Kind, Some
from core.equipment.sheet import Sheet
from core.figures.overrides import OwnPack


@dataclass(frozen=True)
class CrewShelf:
    """The shipped sheets with the crew's own over them. own: by kind and identity, as files have
    them, None for one that was taken off; packs: the crew's own, by identity."""

    own: dict[str, dict[str, Any]]
    packs: dict[str, Any]

    def one(self, kind: Kind, sheet_id: str, wanted: type[Some], path: str) -> Some:
        """The sheet of that identity. Raises Refused at `path` when there is none."""
        own = self.own.get(kind, {})
        if own.get(sheet_id) is not None:
            return catalogue.pick((read(SHEETS[kind], own[sheet_id]),), sheet_id, wanted, path)
        return catalogue.pick(self._shipped(kind), sheet_id, wanted, path)

    def every(self, kind: Kind, wanted: type[Some]) -> tuple[Some, ...]:
        """Every sheet of a kind that stands there."""
        own = self.own.get(kind, {}).values()
        made = (read(SHEETS[kind], data) for data in own if data is not None)
        return tuple(one for one in (*self._shipped(kind), *made) if isinstance(one, wanted))

    def own_pack(self, pack_id: str) -> OwnPack | None:
        """The crew's rule pack of that identity, None when it is not one of theirs."""
        data = self.packs.get(pack_id)
        return None if data is None else read(OwnPack, data)

    def _shipped(self, kind: Kind) -> tuple[Sheet, ...]:
        own = self.own.get(kind, {})
        return tuple(sheet for sheet in catalogue.sheets(kind) if sheet.id not in own)
