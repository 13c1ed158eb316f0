"""What a number, a text or a list may be: the limits that stand beside a type."""

from __future__ import annotations

import math
from dataclasses import dataclass

from core.base.errors import Problem, problem
from core.base.signs import unwritten


@dataclass(frozen=True)
class Quantity:
    """A number with a unit and the range in which it has a meaning.

    meaning: what it is, in the field's standard term. unit: symbol; "" for a pure number.
    low, high: the inclusive range beyond which the number is refused, not judged.
    """

    meaning: str
    unit: str
    low: float
    high: float

    @property
    def allowed(self) -> str:
        unit = f" {self.unit}" if self.unit else ""
        return f"{self.low:g} to {self.high:g}{unit}".replace("-", "−")

    def problem(self, path: str, value: float) -> Problem | None:
        if math.isfinite(value) and self.low <= value <= self.high:
            return None
        unit = f" {self.unit}" if self.unit else ""
        return problem(
            path,
            value,
            self.allowed,
            f"{self.meaning}: {value:g}{unit} is outside {self.allowed}.",
        )


@dataclass(frozen=True)
class Text:
    """A text with a meaning and the number of characters it may have."""

    meaning: str
    least: int = 1
    most: int = 120

    @property
    def allowed(self) -> str:
        return f"{self.least} to {self.most} characters"

    def problem(self, path: str, value: str) -> Problem | None:
        wrong = unwritten(value)
        if wrong is not None:
            return problem(path, ascii(value)[:60], "signs that can be read", wrong)
        if self.least <= len(value.strip()) and len(value) <= self.most:
            return None
        return problem(path, value, self.allowed, f"{self.meaning}: needs {self.allowed}.")


@dataclass(frozen=True)
class Items:
    """A list with a meaning and the number of items it may have."""

    meaning: str
    least: int
    most: int

    @property
    def allowed(self) -> str:
        return f"{self.least} to {self.most} items"

    def problem(self, path: str, value: tuple[object, ...]) -> Problem | None:
        if self.least <= len(value) <= self.most:
            return None
        return problem(
            path,
            f"{len(value)} items",
            self.allowed,
            f"{self.meaning}: {len(value)} given, {self.allowed} allowed.",
        )


Limits = Quantity | Text | Items
