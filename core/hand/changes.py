"""What is shown after a press, told as what changed: the rest stays as it was on the screen."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import fields, is_dataclass
from functools import cache
from typing import Any, cast

FIELDS, ITEMS, WHERE, WHOLE = "fields", "items", "where", "whole"
# By what a thing is known in a list, as far as it has them, and by the rule that is judged in it.
NAMES = ("key", "id", "name", "rule_id", "where")
JUDGED = "judgement"
NEW = -1


def changes(before: object, now: object) -> dict[str, Any]:
    """A value after another: nothing where they are equal; else its fields or items that are not,
    each told in the same way, or whole where it is another kind of value.

    Where things came or went in a list, first where each of it stood before, -1 for a new one.
    """
    if before is now or before == now:
        return {}
    names = _names(cast(Hashable, type(now))) if type(before) is type(now) else ()
    if names:
        found = {}
        for name in names:
            was, one = getattr(before, name), getattr(now, name)
            if was is not one and (made := changes(was, one)):
                found[name] = made
        return {FIELDS: found}
    if isinstance(before, tuple) and isinstance(now, tuple) and before and now:
        return _of_list(before, now)
    return {WHOLE: now}


@cache
def _names(kind: Any) -> tuple[str, ...]:
    """The fields of a kind of value that is told by its fields; none of another."""
    told = is_dataclass(kind) and not hasattr(kind, "plain")
    return tuple(field.name for field in fields(kind)) if told else ()


def _of_list(before: tuple[Any, ...], now: tuple[Any, ...]) -> dict[str, Any]:
    stood = _stood(before, now)
    if stood == [NEW] * len(now):
        return {WHOLE: now}
    made = {
        number: one
        for number, (at, item) in enumerate(zip(stood, now, strict=True))
        if (one := {WHOLE: item} if at == NEW else changes(before[at], item))
    }
    moved = {} if len(before) == len(now) and stood == [*range(len(now))] else {WHERE: stood}
    return moved | {ITEMS: made}


def _stood(before: tuple[Any, ...], now: tuple[Any, ...]) -> list[int]:
    """Where each thing of a list stood before: things of one name in their order."""
    stood: dict[Any, list[int]] = {}
    for number in range(len(before) - 1, -1, -1):
        stood.setdefault(_name(before[number]), []).append(number)
    return [found.pop() if (found := stood.get(_name(one))) else NEW for one in now]


def _name(one: Any) -> Any:
    """By what a thing is known in a list: a plain value by itself, another by all of its names."""
    if not is_dataclass(one):
        return one
    inside = getattr(one, JUDGED, None)
    return (*(getattr(one, name, None) for name in NAMES), inside and inside.rule_id)
