"""What a change of a plan touched, place by place, and how that is put back."""

from __future__ import annotations

import re
from collections.abc import Iterator
from copy import deepcopy
from dataclasses import dataclass, is_dataclass
from typing import Annotated, Any, get_args, get_origin

from core.base.errors import Refused, problem
from core.base.form import hints, limits_of, read, without_none, write
from core.base.messages import figure, say
from core.base.quantity import Limits, Quantity
from core.files.differences import planned
from core.job.house import alone
from core.job.job import Job

MOST_DIGITS = 3
MOST_CHARS = 60
PART = re.compile(r"\[(\d+)\]|([A-Za-z_][A-Za-z0-9_]*)")


@dataclass(frozen=True, kw_only=True)
class Touch:
    """A place of a plan that a change touched: what stood there and what it put there, as JSON has
    them; None where nothing stood. Where a list has another length the whole of it was touched."""

    path: str
    was: Any
    made: Any


@dataclass(frozen=True, kw_only=True)
class Told:
    """A touch in words: what it is of, in the field's term, what it was, what it was made."""

    what: str
    was: str
    made: str


def touches(before: Job, after: Job) -> tuple[Touch, ...]:
    """What a change touched of a plan."""
    return tuple(_differ("$", planned(before), planned(after)))


def put_back(house: Job, made: tuple[Touch, ...]) -> Job:
    """The house with what a change touched as it was before it, everything else as it stands.

    Raises Refused where something of it was changed again since; then nothing is put back.
    """
    plan = deepcopy(write(alone(house)))
    for one in made:
        *way, last = [int(number) if number else name for number, name in PART.findall(one.path)]
        holder: Any = plan
        for part in way:
            holder = _inside(holder, part)
        # What it stood in may be gone: then there is nowhere to put it.
        is_there = isinstance(holder, dict) or (isinstance(holder, list) and last < len(holder))
        if not is_there or _inside(holder, last) != one.made:
            told = told_of(one)
            said = say("undo", "moved_on", what=told.what, made=told.made)
            raise Refused([problem(one.path, told.made, say("undo", "untouched"), said)])
        holder[last] = one.was
    return read(Job, plan)


def told_of(touch: Touch) -> Told:
    """A touch in words."""
    what, unit = named(touch.path)
    return Told(what=what, was=short(touch.was, unit), made=short(touch.made, unit))


def named(path: str) -> tuple[str, str]:
    """What stands at a place of a plan, in the field's term, and its unit; else the last of its
    names."""
    owner: Any = Job
    limits: Limits | None = None
    last = ""
    for number, part in PART.findall(path):
        if number:
            # In a list: what its items are.
            owner = without_none(get_args(owner)[0]) if get_args(owner) else None
            continue
        hint = hints(owner).get(part) if is_dataclass(owner) else None
        limits, last = limits_of(hint) if hint is not None else None, part.replace("_", " ")
        owner = without_none(hint) if hint is not None else None
        while get_origin(owner) is Annotated:
            owner = get_args(owner)[0]
    if isinstance(limits, Quantity):
        return limits.meaning, limits.unit
    return last, ""


def short(value: Any, unit: str = "") -> str:
    """What stands at a place, on one line."""
    if isinstance(value, int | float) and not isinstance(value, bool):
        return figure(value, unit, MOST_DIGITS)
    if isinstance(value, bool):
        return say("undo", "yes" if value else "no")
    if isinstance(value, dict):
        return str(value.get("name") or value.get("id") or f"{len(value)} fields")
    if isinstance(value, list):
        text = " · ".join(short(one) for one in value) or "none"
        return text if len(text) <= MOST_CHARS else f"{len(value)}"
    return "none" if value is None else str(value)


def _inside(holder: Any, part: int | str) -> Any:
    """What stands in a holder; None where it has no such place."""
    if isinstance(part, int):
        return holder[part] if isinstance(holder, list) and part < len(holder) else None
    return holder.get(part) if isinstance(holder, dict) else None


def _differ(path: str, was: Any, now: Any) -> Iterator[Touch]:
    if isinstance(was, dict) and isinstance(now, dict):
        for name in dict.fromkeys((*was, *now)):
            yield from _differ(f"{path}.{name}", was.get(name), now.get(name))
    elif isinstance(was, list) and isinstance(now, list) and len(was) == len(now):
        for number, (one, other) in enumerate(zip(was, now, strict=True)):
            yield from _differ(f"{path}[{number}]", one, other)
    elif was != now:
        yield Touch(path=path, was=was, made=now)
