"""Bench endpoints: a module on an inverter, a count, a reading, and the verdict."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from django.http import HttpRequest
from ninja import Router

from core.base.errors import Problem, Refused
from core.base.form import hints
from core.bench import Bench, BenchVerdict, bench_verdict
from core.edits.fields import typed
from core.equipment.inverter import Inverter
from core.equipment.module import Module
from server.catalogue.stored import Shelf, shelf_of
from server.jobs.schemas import BenchIn
from server.people.current import person_of

router = Router(tags=["bench"])


@router.post("", response=BenchVerdict, operation_id="judge_bench")
def judge_bench(request: HttpRequest, body: BenchIn) -> BenchVerdict:
    return bench_verdict(_bench(shelf_of(person_of(request)), body), datetime.now(UTC))


def _bench(shelf: Shelf, body: BenchIn) -> Bench:
    """What lies on the bench, from what was typed. Raises Refused with every problem."""
    values: dict[str, Any] = {
        "module": shelf.one("modules", body.module, Module, "$.module"),
        "inverter": shelf.one("inverters", body.inverter, Inverter, "$.inverter"),
    }
    found: list[Problem] = []
    for name, hint in hints(Bench).items():
        if name not in values:
            try:
                values[name] = typed(hint, getattr(body, name), f"$.{name}")
            except Refused as refused:
                found.extend(refused.problems)
    if found:
        raise Refused(found)
    return Bench(**values)
