"""What is shown after a press, told as what changed: the rest stays as it was on the screen."""

from __future__ import annotations

from dataclasses import fields, is_dataclass
from typing import Any

FIELDS, ITEMS, WHERE, WHOLE = "fields", "items", "where", "whole"
# By what a thing is known in a list, the first of them that it has.
NAMES = ("key", "id", "name", "rule_id")
NEW = -1


def changes(before: object, now: object) -> dict[str, Any]:
    """A value after another: nothing where they are equal; else its fields or items that are not,
    each told in the same way, or whole where it is another kind of value.

    Where things came or went in a list, first where each of it stood before, -1 for a new one.
    """
    if before is now or before == now:
        return {}
    if is_dataclass(now) and not hasattr(now, "plain") and type(before) is type(now):
        names = (field.name for field in fields(now))
        found = {name: changes(getattr(before, name), getattr(now, name)) for name in names}
        return {FIELDS: {name: one for name, one in found.items() if one}}
    if isinstance(before, tuple) and isinstance(now, tuple) and before and now:
        stood = _stood(before, now)
        made = {
            number: changes(before[at], one) if at != NEW else {WHOLE: one}
            for number, (at, one) in enumerate(zip(stood, now, strict=True))
        }
        moved = {} if len(before) == len(now) and stood == [*range(len(now))] else {WHERE: stood}
        return moved | {ITEMS: {number: one for number, one in made.items() if one}}
    return {WHOLE: now}


def _stood(before: tuple[Any, ...], now: tuple[Any, ...]) -> list[int]:
    """Where each thing of a list stood before."""
    if len(before) == len(now):
        return [*range(len(now))]
    name = next((one for one in NAMES if hasattr(now[0], one)), None)
    if name is None:
        return [NEW] * len(now)
    at = {getattr(one, name, None): number for number, one in enumerate(before)}
    return [at.get(getattr(one, name, None), NEW) for one in now]
