"""What would change if a job took another sheet: its figures, and the verdicts that turn."""

from __future__ import annotations

from dataclasses import dataclass

from core.assess import assess
from core.assessment.judgements import every_judgement
from core.assessment.whole import Assessment
from core.base.errors import Refused
from core.base.judgement import Verdict
from core.edits.sheets_and_figures import with_sheet
from core.equipment.catalogue_csv import flat
from core.equipment.sheet import Sheet
from core.job.job import Job


@dataclass(frozen=True, kw_only=True)
class FigureChange:
    """One figure of a sheet, before and after."""

    name: str
    was: str
    now: str


@dataclass(frozen=True, kw_only=True)
class VerdictChange:
    """One judgement that would turn. was: None for one that is new."""

    where: str
    title: str
    was: Verdict | None
    now: Verdict
    reason: str


@dataclass(frozen=True, kw_only=True)
class SheetOffer:
    """Another sheet for a job, and what taking it would change. refusal: why it cannot be taken.

    plane: where the module lies, of one that is not the job's own."""

    kind: str
    id: str
    label: str
    was_revision: str
    now_revision: str
    figures: tuple[FigureChange, ...]
    verdicts: tuple[VerdictChange, ...]
    refusal: str
    plane: str = ""


def offer(kind: str, job: Job, held: Sheet, newer: Sheet, plane: str = "") -> SheetOffer:
    """What a job that holds one sheet would gain or lose by another."""
    verdicts: tuple[VerdictChange, ...] = ()
    refusal = ""
    try:
        verdicts = turned(assess(job), assess(with_sheet(job, newer, plane)))
    except Refused as refused:
        refusal = " ".join(found.message for found in refused.problems)
    return SheetOffer(
        kind=kind,
        id=newer.id,
        label=newer.label,
        was_revision=held.sheet_revision,
        now_revision=newer.sheet_revision,
        figures=_figures(held, newer),
        verdicts=verdicts,
        refusal=refusal,
        plane=plane,
    )


def _figures(held: Sheet, newer: Sheet) -> tuple[FigureChange, ...]:
    was, now = flat(held), flat(newer)
    return tuple(
        FigureChange(name=name, was=was.get(name, ""), now=now.get(name, ""))
        for name in {**was, **now}
        if was.get(name, "") != now.get(name, "") and name != "checked_by"
    )


def turned(before: Assessment, after: Assessment) -> tuple[VerdictChange, ...]:
    """Every judgement whose verdict is another one afterwards, or that is new."""
    was, now = every_judgement(before), every_judgement(after)
    return tuple(
        VerdictChange(
            where=where,
            title=judgement.title,
            was=was[where, title, rule_id].verdict if (where, title, rule_id) in was else None,
            now=judgement.verdict,
            reason=judgement.reason,
        )
        for (where, title, rule_id), judgement in now.items()
        if (where, title, rule_id) not in was
        or was[where, title, rule_id].verdict != judgement.verdict
    )
