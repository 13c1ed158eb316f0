"""Whether two changes of one plan meet: by what each of them touched."""

from __future__ import annotations

from dataclasses import dataclass

from core.files.touches import Touch, named, short


@dataclass(frozen=True, kw_only=True)
class Met:
    """A place of the plan that two people changed: what it is, and what each of them put there."""

    path: str
    what: str
    mine: str
    theirs: str


def meetings(ours: tuple[Touch, ...], theirs: tuple[Touch, ...]) -> tuple[Met, ...]:
    """The places that both touched, and not to the same."""
    return tuple(
        _met(one, other)
        for one in ours
        for other in theirs
        if _within(one.path, other.path) and (one.path != other.path or one.made != other.made)
    )


def _met(mine: Touch, theirs: Touch) -> Met:
    path = max(mine.path, theirs.path, key=len)
    what, unit = named(path)
    return Met(path=path, what=what, mine=short(mine.made, unit), theirs=short(theirs.made, unit))


def _within(one: str, other: str) -> bool:
    """Whether one place is the other, or inside it."""
    brief, long = sorted((one, other), key=len)
    return long == brief or long.startswith((f"{brief}.", f"{brief}["))
