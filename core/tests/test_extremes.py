"""Every field of a sound job changed: its numbers to either end of what they may be, its choices
turned, its optional parts taken out. Each such job is judged, never an error, and judged alike
whatever was judged before it.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import is_dataclass, replace
from functools import cache
from inspect import signature
from pathlib import Path
from typing import Any, Literal, get_args, get_origin
from unittest import TestCase

from core.assess import assess
from core.assessment.judgements import every_judgement
from core.base.errors import Refused
from core.base.form import hints, limits_of, without_none
from core.base.quantity import Quantity
from core.files.job import read_job
from core.job.job import Job
from core.job.microinverter import MicroUnit
from core.job.roof import ModulePlace

# As many as a job file may list.
MOST_STRINGS = 400
UNITS_IN_ROW, ROWS = 20, 10
DEMO = Path(__file__).resolve().parents[2] / "server" / "demo" / "jobs"
# Of long lists the first items stand for the rest.
MOST_ITEMS = 2
# Every one in a nightly run, one in five else; beside a mutant a few.
EACH = 1 if os.environ.get("LONG_NOON_NIGHTLY") == "1" else 5
if os.environ.get("LONG_NOON_MUTANT") == "1":
    EACH = 60


def pulled(value: Any) -> Iterator[tuple[str, Any]]:
    """The value with one limited number after the other at each of its ends, with its path."""
    for name, hint in hints(type(value)).items():
        own, limits = getattr(value, name), limits_of(hint)
        inner: Iterator[tuple[str, Any]] = iter(())
        if isinstance(limits, Quantity) and own is not None:
            ends = (type(own)(limits.low), type(own)(limits.high))
            inner = ((f"={end}", end) for end in ends)
        elif isinstance(own, bool):
            inner = iter(((f"={not own}", not own),))
        elif get_origin(without_none(hint)) is Literal:
            others = [one for one in get_args(without_none(hint)) if one != own]
            inner = ((f"={other}", other) for other in others[:MOST_ITEMS])
        elif is_dataclass(own):
            inner = pulled(own)
        elif isinstance(own, tuple):
            inner = (
                (f"[{at}]{path}", (*own[:at], made, *own[at + 1 :]))
                for at, item in enumerate(own[:MOST_ITEMS])
                if is_dataclass(item)
                for path, made in pulled(item)
            )
        while True:
            try:
                path, made = next(inner)
            except StopIteration:
                break
            except Refused:
                continue
            try:
                yield f".{name}{path}", replace(value, **{name: made})
            except Refused:
                continue
        if own is not None and without_none(hint) != hint:
            with suppress(Refused):
                yield f".{name}=None", replace(value, **{name: None})


@cache
def caches() -> tuple[Any, ...]:
    """Every cache of stages and planning that is asked with something; a data file is no job's."""
    return tuple(
        kept
        for name, module in list(sys.modules.items())
        if name.startswith(("core.stages", "core.planning"))
        for kept in vars(module).values()
        if hasattr(kept, "cache_clear") and signature(kept).parameters
    )


def forget() -> None:
    """Empty every cache that may hold something of a job."""
    for kept in caches():
        kept.cache_clear()


def many_strings(job: Job, modules_in_series: int, trackers: int) -> Job:
    """The job with as many strings as a file may hold, each as long, dealt to its trackers."""
    first = replace(job.strings[0], places=(), modules_in_series=modules_in_series)
    strings = tuple(
        replace(first, name=f"S{at}", tracker=1 + at % trackers) for at in range(MOST_STRINGS)
    )
    ways = tuple(replace(way, holds=()) for way in job.feed.containments)
    return replace(job, strings=strings, readings=(), feed=replace(job.feed, containments=ways))


def one_branch(job: Job) -> Job:
    """The roof with every unit it may list, all of them on one branch."""
    plan = job.roof_plan
    row = "#" * UNITS_IN_ROW
    planes = tuple(
        replace(job.planes[0], name=f"P{at}", rows=(row,) * ROWS, gaps=()) for at in range(2)
    )
    places = (
        ModulePlace(plane=plane.name, row=at, column=column)
        for plane in planes
        for at in range(1, ROWS + 1)
        for column in range(1, UNITS_IN_ROW + 1)
    )
    units = tuple(MicroUnit(name=f"U{at}", modules=(place,)) for at, place in enumerate(places))
    branch = replace(plan.branches[0], units=tuple(unit.name for unit in units), links=())
    every = replace(plan, units=units, branches=(branch,))
    return replace(job, planes=planes, micro=every, readings=(), gateway_reads=())


class Extremes(TestCase):
    def test_as_many_as_a_file_may_list_is_judged(self) -> None:
        for name in ("lantern-house", "ferry-office", "gull-terrace-2", "sail-loft"):
            job = read_job((DEMO / f"{name}.json").read_bytes())
            for modules in (1, 100):
                for trackers in (1, len(job.wall_inverter.trackers)):
                    with self.subTest(job=name, modules=modules, trackers=trackers):
                        made = many_strings(job, modules, trackers)
                        self.assertEqual(assess(made).verdict, "stop")
        roof = one_branch(read_job((DEMO / "slipway-cottage.json").read_bytes()))
        self.assertEqual(len(roof.roof_plan.units), MOST_STRINGS)
        said = {
            one.rule_id for one in every_judgement(assess(roof)).values() if one.verdict == "stop"
        }
        self.assertIn("branch_count", said)

    def test_any_field_changed_is_judged_and_alike_warm_and_cold(self) -> None:
        tried = 0
        for file in sorted(DEMO.glob("*.json")):
            job: Job = read_job(file.read_bytes())
            assess(job)
            for at, (path, changed) in enumerate(pulled(job)):
                if at % EACH:
                    continue
                with self.subTest(job=file.stem, path=path):
                    warm = assess(changed)
                    forget()
                    self.assertEqual(warm, assess(changed))
                    tried += 1
        self.assertGreater(tried * EACH, 1900)
