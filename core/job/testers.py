"""The testers of a job and how their files are read; which current test is made."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Name, Note
from core.base.quantity import Items, Text

CurrentTest = Literal["short_circuit", "operating"]
Header = Annotated[str, Text("column", 1, 80)]


@dataclass(frozen=True, kw_only=True)
class ColumnMap(Checked):
    """One column of a tester's file: its own name, the column of ours that it is, its unit.

    ours: empty where the column is left out. unit: of cells that carry none; empty: ours.
    """

    theirs: Header
    ours: Note = ""
    unit: Note = ""


@dataclass(frozen=True, kw_only=True)
class Instrument(Checked):
    """One tester: what stands on it, when it was calibrated and until when that holds.

    columns: how its files name what they hold; empty while its files have our own names.
    """

    name: Name
    serial: Name
    calibrated_on: date | None = None
    due_on: date | None = None
    columns: Annotated[tuple[ColumnMap, ...], Items("columns", 0, 60)] = ()

    def contradictions(self) -> Iterator[Problem]:
        if self.calibrated_on and self.due_on and self.due_on <= self.calibrated_on:
            allowed = f"after {self.calibrated_on.isoformat()}, when it was calibrated"
            yield problem("$.due_on", self.due_on.isoformat(), allowed)
        taken: set[str] = set()
        for index, column in enumerate(self.columns):
            if column.ours and column.ours in taken:
                yield problem(f"$.columns[{index}].ours", column.ours, "each of our columns once")
            taken.add(column.ours)


@dataclass(frozen=True, kw_only=True)
class Testing(Checked):
    """What the tests are made with, and which current is measured in each string."""

    instruments: Annotated[tuple[Instrument, ...], Items("instruments", 0, 20)] = ()
    current: CurrentTest = "short_circuit"

    def contradictions(self) -> Iterator[Problem]:
        names = [one.name for one in self.instruments]
        for index, name in enumerate(names):
            if name in names[:index]:
                yield problem(f"$.instruments[{index}].name", name, "each instrument once")

    def instrument(self, name: str) -> Instrument | None:
        """The tester of that name; None where none is listed."""
        return next((one for one in self.instruments if one.name == name), None)


NO_TESTERS = Testing()
