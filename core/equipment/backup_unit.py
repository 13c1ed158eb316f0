"""What parts a house from the supply and backs it up: a controller, or a plain backup switch."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.glossary import ApparentVa, RatedA
from core.base.quantity import Items
from core.equipment.battery import Listed
from core.equipment.sheet import Sheet


@dataclass(frozen=True, kw_only=True)
class BackupUnit(Sheet):
    """One backup controller or backup switch.

    rated_a: on each phase, without end. start_a: for the moment in which a load starts; None where
    the sheet gives no more than rated_a. units_va: the most of roof units that it holds back by
    shifting the frequency; None where it cannot. links_neutral: ties neutral to earth by itself
    while the supply is parted. works_with: inverters on the maker's list; empty: it needs none.
    """

    what: Literal["controller", "switch"]
    phases: Literal["one", "three"]
    rated_a: RatedA
    start_a: RatedA | None = None
    units_va: ApparentVa | None = None
    links_neutral: bool = False
    works_with: Annotated[tuple[Listed, ...], Items("inverters on the list", 0, 8)] = ()

    def contradictions(self) -> Iterator[Problem]:
        if self.start_a is not None and self.start_a < self.rated_a:
            yield problem("$.start_a", self.start_a, f"at least the {self.rated_a:g} A without end")
