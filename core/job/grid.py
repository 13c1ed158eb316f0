"""The grid profile that a site asks for, and where its inverter answers."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Annotated

from core.base.errors import Problem, Refused, problem
from core.base.form import Checked
from core.base.glossary import FrequencyHz, Host, Name, NominalV, Port, UnitId
from core.base.messages import say
from core.base.quantity import Items, Text
from core.figures.grid_profiles import Profile, ProfilePoint, known_profiles
from core.figures.rule_packs import known_packs

# What the plan calls the profile that was filled from the operator's letter.
LETTER = "operators-letter"


@dataclass(frozen=True, kw_only=True)
class OperatorLetter(Checked):
    """A profile filled point by point from the network operator's letter.

    operator, reference, dated: whose letter it follows. by, licence: who filled it in; a licensed
    person alone does. based_on: the shipped profile that it began with, None from a blank one.
    """

    operator: Annotated[str, Text("network operator", 1, 60)]
    reference: Annotated[str, Text("reference of the letter", 1, 60)]
    dated: date
    by: Annotated[str, Text("who fills it in", 1, 60)]
    licence: Annotated[str, Text("licence", 1, 60)]
    based_on: Name | None = None
    nominal_v: NominalV
    nominal_hz: FrequencyHz
    points: Annotated[tuple[ProfilePoint, ...], Items("settings", 1, 80)]

    def contradictions(self) -> Iterator[Problem]:
        if self.based_on is not None and self.based_on not in known_profiles():
            yield problem("$.based_on", self.based_on, " · ".join(known_profiles()))
        try:
            self.profile()
        except Refused as refused:
            yield from refused.problems

    def profile(self) -> Profile:
        """The profile that it comes to, wherever its house stands. Raises Refused."""
        return Profile(
            id=LETTER,
            name=say("letter", "name", operator=self.operator),
            edition=say(
                "letter",
                "edition",
                operator=self.operator,
                reference=self.reference,
                dated=self.dated.isoformat(),
            ),
            checked_on=say("letter", "by", by=self.by, licence=self.licence),
            note=say("letter", "note", by=self.by, licence=self.licence),
            packs=known_packs(),
            zones=("UTC",),
            services=("single", "split", "three"),
            nominal_v=self.nominal_v,
            nominal_hz=self.nominal_hz,
            points=self.points,
        )


@dataclass(frozen=True, kw_only=True)
class GridPlan(Checked):
    """The grid profile that the site asks for, and where the inverter answers.

    profile: a shipped one, or the one of the operator's letter. by_hand: it has no open port, or
    none is used: every setting is made on its own display.
    """

    profile: Name | None
    host: Host
    port: Port
    unit_id: UnitId
    by_hand: bool = False
    letter: OperatorLetter | None = None

    def contradictions(self) -> Iterator[Problem]:
        known = (*known_profiles(), *((LETTER,) if self.letter is not None else ()))
        if self.profile is not None and self.profile not in known:
            yield problem("$.profile", self.profile, " · ".join(known))
