"""The energy meter: what it bears, which phases it sees, whether it counts both ways."""

from __future__ import annotations

from typing import Literal

from core.base.glossary import CurrentA, RatedA, Service
from core.base.judgement import Judgement, at_most, holds
from core.base.rule import rule

METER_SOURCE = "meter sheet"


@rule
def meter_carries(*, design_a: CurrentA, most_a: RatedA) -> Judgement:
    """Does the meter, or its clamps, bear the current at full export?

    Source: meter sheet.
    """
    return at_most("meter_carries", design_a, most_a, "A", METER_SOURCE, exact="clear")


@rule
def meter_phases(*, phases: Literal["one", "three"], supply: Service) -> Judgement:
    """Does the meter see every phase of the supply?

    Source: meter sheet.
    """
    return holds("meter_phases", supply != "three" or phases == "three", METER_SOURCE)


@rule
def meter_two_way(*, two_way: bool) -> Judgement:
    """Does the meter count what comes and what goes apart?

    Source: meter sheet; supplier's terms.
    """
    return holds("meter_two_way", two_way, METER_SOURCE)
