"""Changing one field of a job from what a user typed, by its JSON path."""

from __future__ import annotations

import re
from dataclasses import dataclass, is_dataclass, replace
from typing import Any, TypeVar, get_args

from core.base.errors import Problem, Refused, problem
from core.base.form import hints, limits_of, read, without_none
from core.base.quantity import Quantity
from core.base.units import parse_count, parse_quantity
from core.job.job import Job

# What a user may change in place; readings, identities and sheets are never edited, and what
# a job is made of changes in the edits beside this file.
CHANGEABLE = re.compile(
    r"^\$\.(?:name|day"
    r"|site\.(?:place|latitude_deg|longitude_deg|altitude_m|timezone|t_air_min_c|t_air_max_c"
    r"|climate_source)"
    r"|planes\[\d+\]\.(?:tilt_deg|azimuth_deg|mounting|shade|orientation|row_gap_mm"
    r"|rafter_first_mm|rafter_pitch_mm)"
    r"|strings\[\d+\]\.(?:modules_in_series|plane|tracker|fuse_a)"
    r"|grid\.(?:profile|host|port|unit_id))$"
)
Made = TypeVar("Made")
_STEP = re.compile(r"\.(\w+)|\[(\d+)\]")


@dataclass(frozen=True, kw_only=True)
class Change:
    """One field and what was typed into it."""

    path: str
    entered: str


def changed(job: Job, changes: tuple[Change, ...]) -> Job:
    """The job with all changes made together. Raises Refused; then nothing is changed."""
    for change in changes:
        if not CHANGEABLE.match(change.path):
            raise Refused([problem(change.path, change.entered, "a field that can be changed")])
    values: dict[str, Any] = {}
    found: list[Problem] = []
    for change in changes:
        try:
            values[change.path] = typed(_hint_at(job, change), change.entered, change.path)
        except Refused as refused:
            found.extend(refused.problems)
    if found:
        raise Refused(found)
    # All at once, so that two fields that only fit together can change together.
    made: Job = _rebuilt(job, "$", values)
    return made


def _rebuilt(value: Any, path: str, values: dict[str, Any]) -> Any:
    if path in values:
        return values[path]
    if not any(changed_path.startswith(path) for changed_path in values):
        return value
    if isinstance(value, tuple):
        return tuple(_rebuilt(v, f"{path}[{i}]", values) for i, v in enumerate(value))
    fields = {
        name: _rebuilt(getattr(value, name), f"{path}.{name}", values)
        for name in hints(type(value))
    }
    try:
        return replace(value, **fields)
    except Refused as refused:
        raise Refused(p.below(path) for p in refused.problems) from None


def typed(hint: Any, entered: str, path: str) -> Any:
    """What was typed for a field of this kind. Raises Refused at `path`."""
    limits = limits_of(hint)
    bare = without_none(hint)
    # Equal types of two modules may be one and the same in the cache.
    is_optional = bare != hint
    bare = get_args(bare)[0] if limits is not None and not isinstance(bare, type) else bare
    if is_optional and not entered.strip():
        return None
    if isinstance(limits, Quantity):
        parse = parse_count if bare is int else parse_quantity
        return parse(entered, limits, path)
    return read(hint, entered.strip(), path)


def typed_value(owner: type[Made], entered: object, **known: Any) -> Made:
    """A value class from what was typed for its fields; `known` are given as they are.

    Raises Refused with every field that is wrong.
    """
    values: dict[str, Any] = dict(known)
    found: list[Problem] = []
    for name, hint in hints(owner).items():
        if name in known or not hasattr(entered, name):
            continue
        given = getattr(entered, name)
        try:
            values[name] = typed(hint, given, f"$.{name}") if isinstance(given, str) else given
        except Refused as refused:
            found.extend(refused.problems)
    if found:
        raise Refused(found)
    return owner(**values)


def _hint_at(job: Job, change: Change) -> Any:
    value: Any = job
    hint: Any = Job
    for name, index in _STEP.findall(change.path.removeprefix("$")):
        if name and is_dataclass(value):
            hint = hints(type(value))[name]
            value = getattr(value, name)
        elif index and isinstance(value, tuple) and int(index) < len(value):
            value = value[int(index)]
            hint = type(value)
        else:
            raise Refused([problem(change.path, change.entered, "a field of this job")])
    return hint
