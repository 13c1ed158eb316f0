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
from pathlib import Path
from typing import Any, Literal, get_args, get_origin
from unittest import TestCase

from core.assess import assess
from core.base.errors import Refused
from core.base.form import hints, limits_of, without_none
from core.base.quantity import Quantity
from core.files.job import read_job
from core.job.job import Job

DEMO = Path(__file__).resolve().parents[2] / "server" / "demo" / "jobs"
# Of long lists the first items stand for the rest.
MOST_ITEMS = 2
# Every one in a nightly run, one in four else; beside a mutant a few.
EACH = 1 if os.environ.get("LONG_NOON_NIGHTLY") == "1" else 4
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
        if own is not None and without_none(hint) is not hint:
            with suppress(Refused):
                yield f".{name}=None", replace(value, **{name: None})


def forget() -> None:
    """Empty every cache of stages and planning."""
    for name, module in list(sys.modules.items()):
        if name.startswith(("core.stages", "core.planning")):
            for kept in vars(module).values():
                if hasattr(kept, "cache_clear"):
                    kept.cache_clear()


class Extremes(TestCase):
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
