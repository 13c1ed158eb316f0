"""What differs between two states of a job, line by line."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from core.base.form import write
from core.base.messages import say
from core.job.house import alone
from core.job.job import KEPT_APART, KEPT_OF_HOUSE, Job
from core.stages.reading_index import shown_text

MOST_SHOWN_CHARS = 120


@dataclass(frozen=True, kw_only=True)
class Difference:
    """One difference: what it is of, what it was, what it is now; empty where it was not there."""

    what: str
    was: str
    now: str


def differences(old: Job, new: Job) -> tuple[Difference, ...]:
    """Everything that differs between two states of one house, plan first."""
    found = list(_plan(old, new))
    before = {one.id: one for one in old.stations}
    for pair in ((old, new), *((before.get(one.id), one) for one in new.stations)):
        found += _kept(*pair)
    return tuple(found)


def _plan(old: Job, new: Job) -> Iterator[Difference]:
    was, now = dict(_leaves("$", planned(old))), dict(_leaves("$", planned(new)))
    for path in dict.fromkeys((*was, *now)):
        if was.get(path) != now.get(path):
            yield Difference(what=path, was=was.get(path, ""), now=now.get(path, ""))


def planned(job: Job) -> dict[str, Any]:
    """What is planned of a house, as a file has it, without anything that was kept of it."""
    apart = (*KEPT_APART, *KEPT_OF_HOUSE)
    plan = {name: value for name, value in write(alone(job)).items() if name not in apart}
    plan["stations"] = [
        {name: value for name, value in one.items() if name not in apart}
        for one in plan["stations"]
    ]
    return plan


def _leaves(path: str, value: Any) -> Iterator[tuple[str, str]]:
    if isinstance(value, dict):
        for name, one in value.items():
            yield from _leaves(f"{path}.{name}", one)
    elif isinstance(value, list):
        for number, one in enumerate(value):
            yield from _leaves(f"{path}[{number}]", one)
    elif value is not None:
        yield path, str(value)[:MOST_SHOWN_CHARS]


def _kept(old: Any, new: Any) -> Iterator[Difference]:
    """What was read, written, shown or looked at since."""
    known = {
        one.id for name in KEPT_APART for one in (getattr(old, name) if old is not None else ())
    }
    for one in new.readings:
        if one.id not in known:
            what = say("asks", one.kind, subject=one.subject)
            was = next((o.value for o in new.readings if o.id == one.supersedes), None)
            said = f"{shown_text(one)}, {one.by}, {one.taken_at:%Y-%m-%d %H:%M}"
            yield Difference(what=what, was="" if was is None else str(was.plain()), now=said)
    for name in KEPT_APART[1:]:
        for one in getattr(new, name):
            if one.id not in known:
                yield Difference(what=say("kept_apart", name), was="", now=f"{one.by}")
