"""What every sheet on the shelf has: what it is, which revision it is, who checked it."""

from __future__ import annotations

from dataclasses import dataclass

from core.base.form import Checked
from core.base.glossary import Name, Note


@dataclass(frozen=True, kw_only=True)
class Sheet(Checked):
    """One piece of equipment as its maker's sheet gives it.

    id: stays the same through all revisions. checked_by: who held it against the maker's sheet;
    empty when nobody has yet.
    """

    id: Name
    maker: Name
    model: Name
    sheet_revision: Name
    checked_by: Note = ""

    @property
    def label(self) -> str:
        return f"{self.maker} {self.model}"
