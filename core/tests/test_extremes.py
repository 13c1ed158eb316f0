"""Every field of a sound job at either end of what it may be: judged, never an error."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import is_dataclass, replace
from pathlib import Path
from typing import Any
from unittest import TestCase

from core.assess import assess
from core.base.errors import Refused
from core.base.form import hints, limits_of
from core.base.quantity import Quantity
from core.files.job import read_job
from core.job.job import Job

DEMO = Path(__file__).resolve().parents[2] / "server" / "demo" / "jobs"
# Of long lists the first items stand for the rest.
MOST_ITEMS = 2


def pulled(value: Any) -> Iterator[tuple[str, Any]]:
    """The value with one limited number after the other at each of its ends, with its path."""
    for name, hint in hints(type(value)).items():
        own, limits = getattr(value, name), limits_of(hint)
        inner: Iterator[tuple[str, Any]] = iter(())
        if isinstance(limits, Quantity) and own is not None:
            ends = (type(own)(limits.low), type(own)(limits.high))
            inner = ((f"={end}", end) for end in ends)
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


class Extremes(TestCase):
    def test_any_number_at_its_ends_is_judged(self) -> None:
        tried = 0
        for file in sorted(DEMO.glob("*.json")):
            job: Job = read_job(json.dumps(json.loads(file.read_text())).encode())
            for path, extreme in pulled(job):
                with self.subTest(job=file.stem, path=path):
                    assess(extreme)
                    tried += 1
        self.assertGreater(tried, 1000)
