"""May a record be signed, and does a signature count?"""

from __future__ import annotations

import re
from datetime import date
from typing import Annotated, Literal

from core.base.glossary import Name, Note
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import say
from core.base.quantity import Items, Quantity, Text
from core.base.rule import rule

SIGN_SOURCE = "IEC 62446-1:2016, 4 and 5: who is responsible signs; local licensing rules"
LEAST_LETTERS = 2
# What people put where a name is asked for and none is given.
NOBODY = frozenset(
    {"nobody", "no one", "none", "n/a", "na", "test", "unknown", "anon", "xx", "xxx"}
)
Many = Annotated[int, Quantity("open points", "", 0, 100_000)]
Signer = Annotated[str, Text("name", 0, 120)]
Crew = Annotated[tuple[Name, ...], Items("people on the job", 0, 12)]
Keys = Annotated[tuple[Annotated[str, Text("open point", 1, 300)], ...], Items("watches", 0, 2000)]


@rule
def signature_counts(
    *,
    role: Literal["did", "answers", "accepts"],
    name: Signer,
    on: date,
    crew: Crew = (),
    licence: Note = "",
    licence_until: date | None = None,
) -> Judgement:
    """Is this the signature of somebody who may give it?

    Who did the work is one of the people on the job; who answers for it has a licence in force
    on that day. licence_until: its last day; None where it has none.
    Source: IEC 62446-1:2016, 4 and 5; local licensing rules.
    """
    said = ""
    if is_nobody(name):
        said = say("sign_said", "nobody", name=name.strip() or "–")
    elif role == "did" and name.strip() not in crew:
        said = say("sign_said", "not_on_job", name=name, crew=", ".join(crew) or "–")
    elif role == "answers" and not licence.strip():
        said = say("sign_said", "no_licence", name=name)
    elif role == "answers" and licence_until is not None and licence_until < on:
        said = say("sign_said", "ran_out", name=name, until=licence_until.isoformat())
    return holds("signature_counts", not said, SIGN_SOURCE, said=said, name=name.strip())


def is_nobody(name: str) -> bool:
    """Whether a name is none: too few letters, or a word that stands for nobody."""
    letters = re.sub(r"[\W\d_]", "", name)
    return len(letters) < LEAST_LETTERS or name.strip().lower() in NOBODY


@rule
def record_signable(*, stops: Many, waits: Many, first: Note = "") -> Judgement:
    """May the record be signed as it stands? Nothing open is signed over.

    A watch may be taken on by name. first: what is open, said of the first.
    Source: IEC 62446-1:2016, 5.1; Long Noon: closed by default.
    """
    if stops:
        return holds("record_signable", False, SIGN_SOURCE, stops=str(stops), first=first)
    if waits:
        needs = (say("needs", "open_points", count=str(waits), first=first),)
        return waiting("record_signable", "", SIGN_SOURCE, needs)
    return holds("record_signable", True, SIGN_SOURCE)


@rule
def watches_taken_on(*, watches: Keys, taken: Keys, by: Note = "") -> Judgement:
    """Was every watch taken on by name?

    Source: IEC 62446-1:2016, 5.1; Long Noon: what is known to be unusual has an owner.
    """
    left = [one for one in watches if one not in taken]
    if left:
        needs = (say("needs", "taken_on", count=str(len(left))),)
        return waiting("watches_taken_on", "", SIGN_SOURCE, needs)
    return holds("watches_taken_on", True, SIGN_SOURCE, count=str(len(watches)), by=by)


@rule
def record_signed(
    *, missing: Annotated[tuple[Name, ...], Items("roles", 0, 3)], changed: bool
) -> Judgement:
    """Is the record signed by all that must, as it is now? changed: it was, and is another since.

    Source: IEC 62446-1:2016, 4.
    """
    if changed:
        return waiting("record_signed", "", SIGN_SOURCE, (say("needs", "signed_again"),))
    if missing:
        needs = (say("needs", "signature_of", who=" and ".join(missing)),)
        return waiting("record_signed", "", SIGN_SOURCE, needs)
    return holds("record_signed", True, SIGN_SOURCE)
