"""Refusals: what was wrong, where, and what is allowed."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

SHOWN_VALUE_CHARS = 60


@dataclass(frozen=True, kw_only=True)
class Problem:
    """One thing wrong with an input.

    path: where it stands, as a JSON path from the root (``$.module.voc_v``).
    value: what was given, shortened for reading.
    allowed: what would be accepted.
    message: the plain sentence for the user.
    suggestion: what was probably meant, when it is a question; else empty.
    """

    path: str
    value: str
    allowed: str
    message: str
    suggestion: str = ""

    def below(self, prefix: str) -> Problem:
        """The same problem seen from one level further out."""
        return replace(self, path=prefix + self.path.removeprefix("$"))


class Refused(ValueError):
    """Input that has no meaning here; carries every problem found, not only the first."""

    def __init__(self, problems: Iterable[Problem]) -> None:
        self.problems = tuple(problems)
        super().__init__("; ".join(f"{p.path}: {p.message}" for p in self.problems))


def shown(value: object) -> str:
    """A value as the user typed it, short enough for a message."""
    text = value if isinstance(value, str) else repr(value)
    return text if len(text) <= SHOWN_VALUE_CHARS else text[: SHOWN_VALUE_CHARS - 1] + "…"


def problem(path: str, value: object, allowed: str, message: str | None = None) -> Problem:
    """A Problem with its usual sentence: the value, then what is allowed."""
    said = message or f"{shown(value) or 'empty'} is not accepted here; allowed: {allowed}."
    return Problem(path=path, value=shown(value), allowed=allowed, message=said)


def same_count(path: str, given: int, wanted: int, of: str) -> None:
    """Refuses a list that has not an item for each of another."""
    if given != wanted:
        raise Refused([problem(path, f"{given} items", f"{wanted}, one for each of {of}")])
