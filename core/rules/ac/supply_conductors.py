"""The supply between all its conductors, and which way its phases turn."""

from __future__ import annotations

import math
from dataclasses import dataclass

from core.base.glossary import FrequencyHz, Name, NominalV, Service
from core.base.judgement import Judgement, at_most, holds, within
from core.base.messages import figure
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack
from core.job.subjects import NEUTRAL_EARTH
from core.rules.prove.yes_no_steps import Sign

SOURCE = "IEC 60364-6:2016, 6.4.3.8; IEC 60038:2009"
BETWEEN_PHASES = ("L1-L2", "L2-L3", "L3-L1")


@dataclass(frozen=True, kw_only=True)
class PairVolts:
    """What a meter may show between two conductors."""

    low_v: float
    high_v: float


@rule
def pair_volts(
    *, pair: Name, service: Service, nominal_v: NominalV, rule_pack: RulePack = GENERIC
) -> PairVolts:
    """Between which voltages does a sound supply stand between these two conductors?

    nominal_v: line to neutral on one and three phases, line to line on split phase.
    Formula: nominal_v · (1 − ac.supply_below/100) to nominal_v · (1 + ac.supply_tolerance/100).
    Times √3 between phases, half of it to the middle of a split phase.
    Source: IEC 60038:2009; rule pack.
    """
    if pair == NEUTRAL_EARTH:
        return PairVolts(low_v=0.0, high_v=rule_pack.prove.neutral_earth.value)
    share = 1.0
    if service == "three" and pair in BETWEEN_PHASES:
        share = math.sqrt(3)
    elif service == "split" and pair != "L1-L2":
        share = 0.5
    above, below = rule_pack.ac.supply_tolerance.value, rule_pack.ac.supply_below.value
    centre = nominal_v * share
    return PairVolts(low_v=centre * (1 - below / 100), high_v=centre * (1 + above / 100))


@rule
def conductors_agree(
    *,
    pair: Name,
    read_v: float,
    service: Service,
    nominal_v: NominalV,
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Is the supply sound between these two conductors?

    Neutral against earth: a few volts are usual under load; more: stop, the neutral is loose or
    conductors are swapped.
    Source: IEC 60364-6:2016, 6.4.3.8; IEC 60038:2009; rule pack.
    """
    band = pair_volts(pair=pair, service=service, nominal_v=nominal_v, rule_pack=rule_pack)
    if pair == NEUTRAL_EARTH:
        return at_most("neutral_near_earth", abs(read_v), band.high_v, "V", SOURCE)
    return within("conductors_agree", read_v, band.low_v, band.high_v, "V", SOURCE, pair=pair)


@rule
def phases_turn(*, sign: Sign) -> Judgement:
    """Do the phases turn L1, L2, L3?

    Source: IEC 60364-6:2016, 6.4.3.9 (phase sequence).
    """
    return holds("phases_turn", sign == 1, "IEC 60364-6:2016, 6.4.3.9", bad="watch")


@rule
def frequency_kept(*, hertz: FrequencyHz) -> Judgement:
    """Was the supply's frequency measured? Whether the grid profile is made for it, that says.

    Source: IEC 60364-6:2016, 6.4.3.
    """
    return holds(
        "frequency_kept", hertz > 0, "IEC 60364-6:2016, 6.4.3", hertz=figure(hertz, "Hz", 2)
    )


def pair_text(band: PairVolts, pair: str) -> str:
    """The band as it stands before the reading."""
    if pair == NEUTRAL_EARTH:
        return f"≤ {figure(band.high_v, 'V', 0)}"
    return f"{figure(band.low_v, digits=0)} to {figure(band.high_v, 'V', 0)}"
