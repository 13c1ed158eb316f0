"""Before the work starts: the permit, the people, the goods."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from core.base.glossary import Counted, Name, RatedAcW
from core.base.judgement import Judgement, at_most, holds, waiting
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack

PERMIT_SOURCE = "network operator's permit"
PEOPLE_SOURCE = "local law on electrical work"
GOODS_SOURCE = "load-in sheet, counted from the plan"

Licensed = Annotated[int, Quantity("licensed people present", "", 0, 12)]
Lines = Annotated[int, Quantity("lines of the load-in sheet", "", 0, 400)]
GrantedW = Annotated[float, Quantity("export granted", "W", 0, 1_000_000)]


@rule
def edition_counts(*, day: date, rule_pack: RulePack = GENERIC) -> Judgement:
    """Does the edition of the rule pack count on the day of the job?

    Not: watch, the code in force decides.
    Source: rule pack.
    """
    days = (rule_pack.counts_from, rule_pack.counts_until)
    first, last = ("" if one is None else one.isoformat() for one in days)
    return holds(
        "edition_counts",
        rule_pack.counts_on(day),
        rule_pack.edition,
        bad="watch",
        day=day.isoformat(),
        first=first,
        last=last,
    )


@rule
def permit_on_file(*, reference: str = "", operator: str = "", document: bool = False) -> Judgement:
    """Is the network operator's permit on file?

    Without it everything may be built and nothing connected: waiting. Without its document:
    watch.
    Source: network operator's permit.
    """
    if not reference:
        return waiting("permit_on_file", "", PERMIT_SOURCE, ())
    return holds(
        "permit_on_file",
        document,
        PERMIT_SOURCE,
        bad="watch",
        reference=reference,
        operator=operator,
    )


@rule
def permit_export(*, rated_ac_w: RatedAcW, granted_w: GrantedW) -> Judgement:
    """Does the permit cover the inverter's whole output?

    Beyond: watch, an export limit must be set.
    Source: network operator's permit.
    """
    return at_most(
        "permit_export", rated_ac_w, granted_w, "W", PERMIT_SOURCE, over="watch", exact="clear"
    )


@rule
def licensed_present(*, licensed: Licensed, names: str = "", anybody: bool = True) -> Judgement:
    """Is somebody here who may do this work?

    anybody: whether people are noted at all; while nobody is, waiting.
    Source: local law on electrical work.
    """
    if not anybody:
        return waiting("licensed_present", "", PEOPLE_SOURCE, (say("needs", "people"),))
    return holds("licensed_present", licensed > 0, PEOPLE_SOURCE, names=names)


@rule
def goods_here(
    *,
    needed: Counted,
    found: Counted,
    damaged: Counted = 0.0,
    what: Name = "goods",
    unit: Name = "pieces",
    must: bool,
) -> Judgement:
    """Are the goods of one line here and whole?

    must: whether the work cannot start without them: then short is stop, else watch. What is
    damaged does not count as here.
    Source: the load-in sheet.
    """
    whole = found - damaged
    good = whole >= needed
    return holds(
        "goods_here",
        good and damaged == 0,
        GOODS_SOURCE,
        bad="watch" if good or not must else "stop",
        what=what,
        whole=figure(whole, digits=2),
        needed=figure(needed, digits=2),
        unit="" if needed == 1 else f" {unit}",
        damaged=say("goods", "damaged", count=figure(damaged, digits=2)) if damaged else "",
        short=say("goods", "short", count=figure(needed - whole, digits=2))
        if not good
        else say("goods", "enough"),
    )


@rule
def goods_counted(*, uncounted: Lines, lines: Lines) -> Judgement:
    """Is everything counted that the work cannot do without?

    Source: the load-in sheet.
    """
    if uncounted:
        needs = (say("needs", "lines", count=str(uncounted)),)
        return waiting("goods_counted", "", GOODS_SOURCE, needs)
    return holds("goods_counted", True, GOODS_SOURCE, lines=str(lines))


@rule
def next_visit(*, what: Name) -> Judgement:
    """Does something come on a later visit, by plan?

    Source: the job's plan.
    """
    return holds("next_visit", False, "the job's plan", bad="watch", what=what)


@rule
def left_open(*, what: str, owner: Name) -> Judgement:
    """Is something left open on purpose?

    Watch until it is settled; it stays with the job from visit to visit.
    Source: the job's open points.
    """
    return holds("left_open", False, "the job's open points", bad="watch", what=what, owner=owner)
