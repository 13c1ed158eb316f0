"""What is settled before the work starts: permit, people, goods that were swapped, open points."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Annotated

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Name, Note
from core.base.quantity import Items, Quantity, Text
from core.figures.grid_profiles import known_profiles

StageNumber = Annotated[int, Quantity("stage", "", 1, 10)]
ExportW = Annotated[float, Quantity("export granted", "W", 0, 1_000_000)]
Told = Annotated[str, Text("open point", 3, 300)]


@dataclass(frozen=True, kw_only=True)
class Permit(Checked):
    """The network operator's permit. export_w: what may be exported; None where not limited.

    profile: the grid profile of the code and connection variant that the operator demands; None
    where the permit does not say.
    """

    operator: Name
    reference: Name
    granted_on: date
    export_w: ExportW | None = None
    profile: Name | None = None

    def contradictions(self) -> Iterator[Problem]:
        if self.profile is not None and self.profile not in known_profiles():
            yield problem("$.profile", self.profile, " · ".join(known_profiles()))


@dataclass(frozen=True, kw_only=True)
class CrewMember(Checked):
    """Somebody on the job. licence: number of the licence to do electrical work, or empty."""

    name: Name
    licence: Note = ""
    present: bool = True


@dataclass(frozen=True, kw_only=True)
class OpenItem(Checked):
    """Something left open on purpose: what, who sees to it, in which stage it is settled."""

    what: Told
    owner: Name
    stage: StageNumber
    settled: bool = False


@dataclass(frozen=True, kw_only=True)
class Substitute(Checked):
    """Goods that came instead of what was planned, by their sheets."""

    kind: Name
    was: Name
    now: Name


@dataclass(frozen=True, kw_only=True)
class Arrival(Checked):
    """What Arrive settles. first_visit: the inverter comes on a second visit."""

    permit: Permit | None = None
    crew: Annotated[tuple[CrewMember, ...], Items("people", 0, 12)] = ()
    first_visit: bool = False
    open_items: Annotated[tuple[OpenItem, ...], Items("open points", 0, 100)] = ()
    substitutes: Annotated[tuple[Substitute, ...], Items("substitutes", 0, 40)] = ()


NOTHING_SETTLED = Arrival()
