"""What every edit is: a frozen shape of what was typed, and what it makes of a job."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Protocol

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.quantity import Text
from core.equipment.catalogue import Kind, Some
from core.figures.overrides import OwnPack
from core.job.job import Job

MOST_ENTERED_CHARS = 200
Entered = Annotated[str, Text("as typed", 0, MOST_ENTERED_CHARS)]
ReasonEntered = Annotated[str, Text("reason", 0, 300)]
MOST_SPOKEN = 12


class Catalogue(Protocol):
    """Where an edit finds the sheets and packs that it names."""

    def one(self, kind: Kind, sheet_id: str, wanted: type[Some], path: str) -> Some:
        """The sheet of that identity. Raises Refused at `path` when there is none."""

    def every(self, kind: Kind, wanted: type[Some]) -> tuple[Some, ...]:
        """Every sheet of a kind, in the order of the shelf."""

    def own_pack(self, pack_id: str) -> OwnPack | None:
        """The crew's own rule pack of that identity, None when it is not one of theirs."""


@dataclass(frozen=True, kw_only=True)
class Edit(Checked):
    """Base of every edit. Each kind names itself in `do`, by which it is read.

    of_house: it changes a house with all its inverters; the others change one inverter's view.
    """

    of_house = False

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        """The job with this edit made. Raises Refused; then nothing is changed."""
        raise NotImplementedError


def picked(
    catalogue: Catalogue,
    kind: Kind,
    sheet_id: str | None,
    wanted: type[Some],
    planned: Some | None,
) -> Some | None:
    """The sheet that was picked: None keeps the planned one, an empty identity takes it out."""
    if sheet_id is None:
        return planned
    return catalogue.one(kind, sheet_id, wanted, f"$.{kind}") if sheet_id else None


def known(path: str, name: str, names: Sequence[str], none: str = "none is planned yet") -> None:
    """Refuses a name that is none of these. none: what is said where there is nothing at all."""
    if name not in names:
        shown = " · ".join(names[:MOST_SPOKEN]) + (" …" if len(names) > MOST_SPOKEN else "")
        raise Refused([problem(path, name, shown or none)])


def retired(job: Job, gone: frozenset[str]) -> tuple[str, ...]:
    """The retired names of a job with those that leave its plan and were read on."""
    read = {reading.subject for reading in job.readings}
    return tuple(dict.fromkeys((*job.retired, *sorted(gone & read))))
