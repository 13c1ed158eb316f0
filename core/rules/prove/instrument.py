"""Whether what a reading was taken with can be trusted, and whether all tests are made."""

from __future__ import annotations

from datetime import date

from core.base.glossary import Note
from core.base.judgement import Judgement, Verdict, holds, waiting, worst
from core.base.messages import say
from core.base.rule import rule

SOURCE = "IEC 62446-1:2016, 6.1 (test equipment); IEC 61557"
RECORD_SOURCE = "IEC 62446-1:2016, 5.4 and 6 (category 1)"
SHOWN = 3


@rule
def instrument_in_date(
    *, name: Note, serial: Note, due_on: date | None, taken_on: date
) -> Judgement:
    """Was the tester's calibration in date when the reading was taken?

    name: empty where no tester is named; due_on: None where its date is not known; both wait.
    Expired: watch.
    Source: IEC 62446-1:2016, 6.1; IEC 61557.
    """
    if not name or not serial:
        return waiting("instrument_in_date", "", SOURCE, (say("needs", "instrument"),))
    if due_on is None:
        needs = (say("needs", "calibration", name=name),)
        return waiting("instrument_in_date", "", SOURCE, needs)
    return holds(
        "instrument_in_date",
        taken_on <= due_on,
        SOURCE,
        bad="watch",
        name=name,
        serial=serial,
        due=due_on.isoformat(),
        taken=taken_on.isoformat(),
    )


@rule
def tests_complete(*, verdicts: tuple[Verdict, ...], undone: tuple[str, ...]) -> Judgement:
    """Are all tests of the record made, and good?

    undone: titles of those that are not clear, the gravest first. No test at all: waiting.
    Source: IEC 62446-1:2016, 5.4 and 6.
    """
    gravest = worst(verdicts)
    shown = ", ".join(undone[:SHOWN])
    clear = sum(one == "clear" for one in verdicts)
    if gravest == "waiting":
        needs = say("needs", "tests", count=str(len(verdicts) - clear), of=str(len(verdicts)))
        return waiting("tests_complete", "", RECORD_SOURCE, (f"{needs} ({shown})",))
    return holds(
        "tests_complete",
        gravest == "clear",
        RECORD_SOURCE,
        bad=gravest if gravest != "clear" else "stop",
        count=str(len(verdicts)),
        clear=str(clear),
        undone=shown,
    )
