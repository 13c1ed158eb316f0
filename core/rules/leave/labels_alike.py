"""Are two labels too alike to be told apart, and does each say what it does?"""

from __future__ import annotations

import re
from dataclasses import dataclass
from itertools import combinations
from typing import Annotated

from core.base.form import Checked
from core.base.glossary import Name
from core.base.judgement import Judgement, at_most, holds
from core.base.messages import say
from core.base.quantity import Items, Quantity, Text
from core.base.rule import rule

Words = tuple[str, ...]
HighMm = Annotated[float, Quantity("height of a label", "mm", 1, 100_000)]
LabelText = Annotated[str, Text("text of the label", 0, 300)]
# How many words apart two labels of switches that do different things must be: one more than one.
TOO_NEAR_WORDS, JUST_PASSED_WORDS = 1, 2
ALIKE_SOURCE = "Long Noon default: labels of two switches differ in more than a number or one word"


@dataclass(frozen=True, kw_only=True)
class LabelSaid(Checked):
    """A label as it reads. act: what its switch does; act_words: of which it must say one."""

    id: Name
    text: LabelText
    act: LabelText
    act_words: Annotated[tuple[Name, ...], Items("words of what it does", 0, 20)]


@dataclass(frozen=True, kw_only=True)
class AlikePair:
    """Two labels that are too alike: in the same words, but for a number, or but for one word."""

    one: str
    other: str
    why: str
    words_apart: int


@dataclass(frozen=True, kw_only=True)
class AlikeLabels:
    """What comes of reading labels beside each other. just_passed: pairs that are two words apart.
    unsaid: labels that do not say what they do."""

    too_alike: tuple[AlikePair, ...]
    just_passed: tuple[tuple[str, str], ...]
    unsaid: tuple[str, ...]
    compared: int


@rule
def labels_alike(
    *, labels: Annotated[tuple[LabelSaid, ...], Items("labels", 0, 400)]
) -> AlikeLabels:
    """Which labels are too alike though their switches do different things, and which say nothing?

    Words in lower case; a word of digits only stands for any other; as far apart as the least
    number of words to put in, take out or replace.
    Source: Long Noon default, not from a standard.
    """
    said = [words_of(one.text) for one in labels]
    plain = [numberless(one) for one in said]
    alike, passed = [], []
    for i, j in combinations(range(len(labels)), 2):
        if labels[i].act == labels[j].act:
            continue
        apart = words_apart(plain[i], plain[j])
        two = labels[i].id, labels[j].id
        if apart <= TOO_NEAR_WORDS:
            why = "one word" if apart else "same text" if said[i] == said[j] else "number only"
            alike.append(AlikePair(one=two[0], other=two[1], why=why, words_apart=apart))
        elif apart == JUST_PASSED_WORDS:
            passed.append(two)
    unsaid = tuple(
        one.id
        for one, words in zip(labels, said, strict=True)
        if not {word.lower() for word in one.act_words} & set(words)
    )
    count = len(labels)
    return AlikeLabels(
        too_alike=tuple(alike),
        just_passed=tuple(passed),
        unsaid=unsaid,
        compared=count * (count - 1) // 2,
    )


def words_of(text: str) -> Words:
    """The words of a label: lower case, parted by whatever is no letter a to z and no digit."""
    return tuple(re.findall(r"[a-z0-9]+", text.lower()))


def numberless(words: Words) -> Words:
    """The same words with each number made alike."""
    return tuple("#" if word.isdigit() else word for word in words)


def words_apart(one: Words, other: Words) -> int:
    """How many words must be put in, taken out or replaced to make one text the other."""
    row: list[int] = [*range(len(other) + 1)]
    for number, word in enumerate(one, start=1):
        above, row = row, [number]
        for column, beside in enumerate(other):
            same = above[column] + (word != beside)
            row.append(min(same, above[column + 1] + 1, row[column] + 1))
    return row[-1]


@rule
def labels_apart(*, one: Name, other: Name, why: LabelText, offered: LabelText) -> Judgement:
    """Can two labels be told apart? why: how they are alike, empty where they are not.

    Source: Long Noon default, not from a standard.
    """
    facts = {"one": one, "other": other, "offered": offered}
    said = say("labels_said", why, **facts) if why else ""
    return holds("labels_apart", not why, ALIKE_SOURCE, said=said)


@rule
def label_says(*, label: Name, said: bool, wants: LabelText) -> Judgement:
    """Does a label say what its switch does, or what it warns of?

    Source: Long Noon default, not from a standard.
    """
    return holds("label_says", said, ALIKE_SOURCE, label=label, wants=wants)


@rule
def label_fits(*, label: Name, height_mm: HighMm, most_mm: HighMm) -> Judgement:
    """Does a label lie on a sheet of A4 in letters of its height?

    Source: ISO 216 (A4); the reading distance of the label.
    """
    return at_most(
        "label_fits", height_mm, most_mm, "mm", "ISO 216 (A4)", over="watch", exact="clear",
        label=label,
    )  # fmt: skip


@rule
def emergency_says(
    *, switch: Name, dead: LabelText, stays_live: LabelText, twin_told: bool
) -> Judgement:
    """Does the emergency switch say what goes dead, what does not, and where the other one is?

    Source: local rules of the fire service; as generally known, check against the code in force.
    """
    lacks = [
        say("labels_said", key)
        for key, good in (("dead", bool(dead)), ("live", bool(stays_live)), ("twin", twin_told))
        if not good
    ]
    source = "local rules of the fire service; check against the code in force"
    return holds("emergency_says", not lacks, source, switch=switch, lacks=", ".join(lacks))
