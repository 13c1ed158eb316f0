"""Where what is missing is entered, and what comes next in the order in which things hang together.

What a plan lacks comes before any reading, for goods, verdicts and permissions are made of it; the
tester comes before the first reading that is tested with it; the rest follows the stages.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cache, lru_cache
from typing import Annotated

from core.assessment.whole import Lead, NextStep, OpenPoint, Prompt
from core.base.form import Checked, read
from core.base.glossary import Name, Note
from core.base.judgement import Judgement
from core.base.messages import say, sentence, table
from core.base.quantity import Items
from core.base.stage_numbers import LEAVE, PROVE, StageNumber
from core.data import load
from core.job.job import Job

LEADS = "leads"
NEEDS_KEPT = 4096


@dataclass(frozen=True, kw_only=True)
class Where(Checked):
    """Where something is entered: the stage, its face, and the kind of reading, if it is one.

    of: the rule that waits, or the need that it names.
    """

    of: Name
    stage: StageNumber
    face: Note = ""
    kind: Note = ""


@dataclass(frozen=True, kw_only=True)
class Step(Checked):
    """One step of a plan, by the rules that wait for it.

    before: the stage whose readings it comes before.
    """

    does: Name
    before: StageNumber
    rules: Annotated[tuple[Name, ...], Items("rules", 1, 20)]


@dataclass(frozen=True, kw_only=True)
class Leads(Checked):
    """Where everything is entered that a verdict may wait for, and the order of a plan."""

    next: Annotated[tuple[Step, ...], Items("steps", 1, 40)]
    rules: Annotated[tuple[Where, ...], Items("rules", 1, 200)]
    needs: Annotated[tuple[Where, ...], Items("needs", 1, 200)]


@cache
def leads() -> Leads:
    """The data of this file. Raises Refused where it is not as it should be."""
    return read(Leads, load(LEADS))


@cache
def _by_rule() -> dict[str, Where]:
    return {one.of: one for one in leads().rules}


def led(points: tuple[OpenPoint, ...], asks: tuple[Prompt, ...]) -> tuple[OpenPoint, ...]:
    """The points, each that waits with where what it waits for is entered."""
    unread: dict[str, Prompt] = {}
    for ask in asks:
        if ask.reading is None:
            unread.setdefault(ask.kind, ask)
    return tuple(
        replace(one, lead=_lead(one, unread)) if one.judgement.verdict == "waiting" else one
        for one in points
    )


def _lead(point: OpenPoint, unread: dict[str, Prompt]) -> Lead:
    wanted = [where for need in point.judgement.needs if (where := _where(need)) is not None]
    by_rule = _by_rule().get(point.judgement.rule_id)
    for where in (*wanted, *((by_rule,) if by_rule else ())):
        if not where.kind:
            return Lead(stage=where.stage, face=where.face, key="", field=where.of)
        if where.kind in unread:
            ask = unread[where.kind]
            return Lead(stage=ask.stage, face="", key=ask.key)
    return _own(point)


@cache
def _begins() -> tuple[tuple[str, Where], ...]:
    """How the sentence of each need begins, up to its first fact; the longest first."""
    begins = ((sentence("needs", one.of).partition("{")[0], one) for one in leads().needs)
    return tuple(sorted((one for one in begins if one[0]), key=lambda one: -len(one[0])))


@lru_cache(maxsize=NEEDS_KEPT)
def _where(need: str) -> Where | None:
    """Where a need is met, by the sentence that names it up to its first fact."""
    return next((where for begins, where in _begins() if need.startswith(begins)), None)


def next_step(
    job: Job,
    points: tuple[OpenPoint, ...],
    asks: tuple[Prompt, ...],
    tested: frozenset[str],
) -> NextStep | None:
    """What comes next on this job, and why it does; None where nothing is left.

    tested: what is read with a tester in hand, by its key.
    """
    stops = [one for one in points if one.judgement.verdict == "stop"]
    if stops:
        return _mend(min(stops, key=lambda one: one.stage))
    waits = {one.judgement.rule_id: one for one in points if one.judgement.verdict == "waiting"}
    unread = [one for one in asks if one.reading is None and not one.optional]
    read_in = min((one.stage for one in unread), default=LEAVE)
    for step in leads().next:
        if step.before > read_in:
            continue
        rule = next((one for one in step.rules if one in waits), None)
        if rule is not None:
            return _step(waits[rule].lead or _own(waits[rule]), step.does)
    by_tester = any(one.key in tested and not one.answers for one in unread)
    if by_tester and not job.testing.instruments:
        return _step(Lead(stage=PROVE, face="", key=""), "tester")
    for ask in sorted(unread, key=lambda one: one.stage):
        return NextStep(
            lead=Lead(stage=ask.stage, face="", key=ask.key),
            does=say("next", "read", title=ask.title),
            why=say("next_why", f"stage_{ask.stage}"),
        )
    for point in sorted(waits.values(), key=lambda one: one.stage):
        lead = point.lead or _own(point)
        return NextStep(lead=lead, does=_settles(point.judgement), why=point.judgement.reason)
    return None


def _settles(judgement: Judgement) -> str:
    own = table()["next_rule"].get(judgement.rule_id)
    return own or say("next", "settle", title=judgement.title)


def _step(lead: Lead, does: str) -> NextStep:
    return NextStep(lead=lead, does=say("next_does", does), why=say("next_why", does))


def _mend(point: OpenPoint) -> NextStep:
    does = say("next_does", "mend", what=point.where or point.judgement.title)
    lead = Lead(stage=point.stage, face="", key=point.key)
    return NextStep(lead=lead, does=does, why=say("next_why", "mend"))


def _own(point: OpenPoint) -> Lead:
    return Lead(stage=point.stage, face="", key=point.key)
