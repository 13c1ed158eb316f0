"""The pieces of a trunk that is put together link by link, as its sheet gives them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Name
from core.base.quantity import Items, Quantity, Text

LinkMm = Annotated[int, Quantity("length of a link", "mm", 50, 20_000)]
JointMm = Annotated[int, Quantity("length that a joint adds", "mm", 0, 1000)]
SlackMm = Annotated[int, Quantity("slack", "mm", 0, 5000)]
Links = Annotated[tuple[LinkMm, ...], Items("link lengths", 1, 8)]
EndMark = Annotated[str, Text("mark of an end", 1, 12)]


@dataclass(frozen=True, kw_only=True)
class LinkPiece(Checked):
    """A piece of trunk by the marks of its two ends; ends seal only where they carry one mark."""

    left: EndMark
    right: EndMark


@dataclass(frozen=True, kw_only=True)
class LinkedParts(Checked):
    """What a trunk is put together from.

    links_mm: the lengths in which links are made. joint_mm: what a joint of two links adds.
    slack_least_mm, slack_most_mm: how much longer than the way the links may be. connector: the
    piece with three ways, one of them the unit's. end_cable: parts of the cable made up to the box.
    """

    links_mm: Links
    joint_mm: JointMm = 0
    slack_least_mm: SlackMm = 0
    slack_most_mm: SlackMm = 0
    connector: LinkPiece
    link: LinkPiece
    joint: LinkPiece
    end_cable: Annotated[tuple[Name, ...], Items("parts of the end cable", 0, 12)] = ()

    def contradictions(self) -> Iterator[Problem]:
        if self.slack_least_mm > self.slack_most_mm:
            allowed = f"at most {self.slack_most_mm} mm"
            yield problem("$.slack_least_mm", self.slack_least_mm, allowed)
