"""What a reading may be: a figure, one of two answers, or a text. In a file: number, true, text."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, ClassVar, Literal

from core.base.signs import WRITTEN

# A tester that shows more than its range is written so, in a field and in a file.
BEYOND = ">"
BEYOND_FIELD = "beyond"


@dataclass(frozen=True)
class Measured:
    """A figure in its kind's unit. beyond: the tester only said that there is more than this."""

    number: float
    beyond: bool = False
    form: ClassVar[Literal["measured"]] = "measured"
    SCHEMA: ClassVar[dict[str, Any]] = {
        "anyOf": [
            {"type": "number"},
            {
                "type": "object",
                "properties": {BEYOND_FIELD: {"type": "number"}},
                "required": [BEYOND_FIELD],
                "additionalProperties": False,
            },
        ]
    }

    def plain(self) -> Any:
        """It as JSON has it."""
        return {BEYOND_FIELD: self.number} if self.beyond else self.number

    @classmethod
    def from_plain(cls, data: object) -> Measured | None:
        """It from JSON; None for what is no figure."""
        if isinstance(data, dict) and set(data) == {BEYOND_FIELD}:
            inner = cls.from_plain(data[BEYOND_FIELD])
            return None if inner is None or inner.beyond else cls(inner.number, beyond=True)
        if isinstance(data, bool) or not isinstance(data, int | float):
            return None
        number = float(data) if abs(data) < math.inf else math.nan
        return cls(number) if math.isfinite(number) else None


@dataclass(frozen=True)
class Answer:
    """One of two answers; good: the one that should be."""

    good: bool
    form: ClassVar[Literal["answer"]] = "answer"
    SCHEMA: ClassVar[dict[str, Any]] = {"type": "boolean"}

    def plain(self) -> Any:
        """It as JSON has it."""
        return self.good

    @classmethod
    def from_plain(cls, data: object) -> Answer | None:
        """It from JSON; None for what is no answer."""
        return cls(data) if isinstance(data, bool) else None


@dataclass(frozen=True)
class Said:
    """A text as it was read."""

    text: str
    form: ClassVar[Literal["said"]] = "said"
    MOST_CHARS: ClassVar[int] = 500
    SCHEMA: ClassVar[dict[str, Any]] = {
        "type": "string", "minLength": 1, "maxLength": MOST_CHARS, "pattern": WRITTEN
    }  # fmt: skip

    def plain(self) -> Any:
        """It as JSON has it."""
        return self.text

    @classmethod
    def from_plain(cls, data: object) -> Said | None:
        """It from JSON; None for what is no text."""
        fits = isinstance(data, str) and data.strip() and len(data) <= cls.MOST_CHARS
        return cls(str(data)) if fits else None


Value = Measured | Answer | Said


def as_pair(value: Value) -> tuple[float, str]:
    """A value as a number and a text beside it, as rows and older files keep it."""
    match value:
        case Measured():
            return value.number, BEYOND if value.beyond else ""
        case Answer():
            return 1.0 if value.good else -1.0, ""
        case Said():
            return 0.0, value.text


def from_pair(form: Literal["measured", "answer", "said"], number: float, text: str) -> Value:
    """The value that a number and a text beside it stand for; the inverse of `as_pair`."""
    if form == "answer":
        return Answer(number == 1)
    if form == "said":
        return Said(text)
    return Measured(number, beyond=text == BEYOND)
