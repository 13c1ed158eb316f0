"""What is done before anybody sets out, and what follows when they have left, with its day."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cache
from typing import Annotated, Literal

from core.assessment.whole import Assessment
from core.base.form import Checked, read
from core.base.glossary import Name, Note
from core.base.quantity import Quantity
from core.data import load
from core.job.job import Job
from core.planning.day.problem import Id

When = Literal["before", "after"]
GOOD = ("clear", "watch")


@dataclass(frozen=True, kw_only=True)
class ErrandKind(Checked):
    """One errand as data. days: so many before the first visit, or after the last. rule: of Arrive,
    by whose verdict it is known to be done."""

    id: Id
    label: Name
    when: When
    minutes: Annotated[int, Quantity("minutes", "min", 0, 600)]
    days: Annotated[int, Quantity("days", "", 0, 60)]
    rule: Note = ""


@dataclass(frozen=True, kw_only=True)
class Errand:
    """Something to see to away from the house, by a day. done: as far as the job says."""

    id: str
    label: str
    when: When
    minutes: int
    due: date
    done: bool


@cache
def errand_kinds() -> tuple[ErrandKind, ...]:
    """Every kind of errand, in the order of the work."""
    return tuple(read(ErrandKind, one) for one in load("day_errands"))


def errands(job: Job, said: Assessment) -> tuple[Errand, ...]:
    """The errands of a job by their days; looks afterwards too, where one is due."""
    return tuple(sorted(_errands(job, said), key=lambda one: (one.due, one.when)))


def _errands(job: Job, said: Assessment) -> Iterator[Errand]:
    days = [one.day for one in job.days.visits] or [job.day]
    for kind in errand_kinds():
        if kind.id == "codes" and not _codes(said):
            continue
        shift = timedelta(days=kind.days)
        yield Errand(
            id=kind.id,
            label=kind.label,
            when=kind.when,
            minutes=kind.minutes,
            due=min(days) - shift if kind.when == "before" else max(days) + shift,
            done=_done(job, said, kind),
        )
    for look in said.leave.looks_due:
        if look.due is not None:
            yield Errand(
                id=f"look {look.id}",
                label=look.title,
                when="after",
                minutes=LOOK_MIN,
                due=look.due,
                done=look.seen is not None,
            )


# A look at the plant from afar (own default).
LOOK_MIN = 15


def _codes(said: Assessment) -> list[bool]:
    return [one.reading is not None for one in said.asks if one.kind == "talk_ready"]


def _done(job: Job, said: Assessment, kind: ErrandKind) -> bool:
    if kind.rule:
        own = [one.verdict in GOOD for one in said.arrive.judgements if one.rule_id == kind.rule]
        return bool(own) and all(own)
    known = {
        "goods": all(one.needed is not None for one in said.arrive.lines if one.must),
        "codes": all(_codes(said)),
        "roof": bool(job.days.roof),
        "dark": job.days.dark is not None,
        "signed": said.leave.signing.signed,
    }
    return known[kind.id]
