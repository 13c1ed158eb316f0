"""The current of a string against this sun, and strings against each other."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.glossary import IrradianceWPerM2, TCellC
from core.base.judgement import Judgement, Verdict, at_least, at_most, waiting, within
from core.base.messages import figure
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.equipment.module import Module
from core.figures.rule_packs import GENERIC, RulePack
from core.job.testers import CurrentTest
from core.rules.dc.expected_reading import (
    FULL_SUN_W_PER_M2,
    IrradianceBasis,
    irradiance_reach,
    isc_now,
)
from core.rules.dc.string_agreement import string_agreement

# Less than this of what the weakest fitting sun gives is no weather and no shade.
SMALL_PART = 0.25
SOURCE = "IEC 62446-1:2016, 6.5"
ReadA = Annotated[float, Quantity("current read", "A", -100, 100)]
Amps = Annotated[
    tuple[Annotated[float, Quantity("current", "A", 0, 500)], ...],
    Items("strings that are alike", 2, 400),
]


@dataclass(frozen=True, kw_only=True)
class ExpectedCurrent:
    """The current to expect in this sun, and the band that honest doubts leave."""

    centre_a: float
    low_a: float
    high_a: float


@rule
def expected_current(
    *,
    module: Module,
    irradiance_w_per_m2: IrradianceWPerM2,
    t_cell_c: TCellC,
    test: CurrentTest = "short_circuit",
    basis: IrradianceBasis = "measured",
    rule_pack: RulePack = GENERIC,
) -> ExpectedCurrent:
    """Between which currents should the clamp read now?

    Short circuit by Isc, operating by Imp; both scale with irradiance and grow a little with
    temperature. The band is the plain sum of the doubts of clamp, irradiance and module; when
    operating, the inverter's tracking widens it downward.
    Formula: isc_now ± the doubts.
    Source: IEC 60891:2021; IEC 62446-1:2016, 6.5; rule pack.
    """
    rule = rule_pack.prove
    centre = isc_now(
        isc_a=module.isc_a if test == "short_circuit" else module.imp_a,
        alpha_isc_pct_per_k=module.alpha_isc_pct_per_k,
        irradiance_w_per_m2=irradiance_w_per_m2,
        t_cell_c=t_cell_c,
    )
    weakest, strongest = irradiance_reach(irradiance_w_per_m2, basis, rule_pack.meter)
    own = centre * (rule.clamp.value + rule_pack.meter.module_tolerance.value) / 100
    tracking = centre * rule.tracking.value / 100 if test == "operating" else 0.0
    return ExpectedCurrent(
        centre_a=centre,
        low_a=centre * weakest / irradiance_w_per_m2 - own - tracking,
        high_a=centre * strongest / irradiance_w_per_m2 + own,
    )


@rule
def string_current_read(*, read_a: ReadA, low_a: ReadA, high_a: ReadA) -> Judgement:
    """Does the string give the current that this sun lets expect?

    Outside the band: watch; it is a fault to look for, not one that hurts. None at all, or a small
    part of what this sun gives: stop, the string is broken, turned or not the one that is meant.
    Source: IEC 62446-1:2016, 6.5.
    """
    outside: Verdict = "stop" if read_a <= SMALL_PART * low_a else "watch"
    return within("string_current_read", read_a, low_a, high_a, "A", SOURCE, outside=outside)


@rule
def current_sun_enough(
    *, irradiance_w_per_m2: IrradianceWPerM2, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is there enough sun on the plane for a current test to say anything?

    Source: IEC 62446-1:2016, 6.5 and 7.2; rule pack.
    """
    least = rule_pack.prove.current_sun
    return at_least(
        "current_sun_enough", irradiance_w_per_m2, least.value, "W/m²", least.source, under="watch"
    )


@rule
def string_currents_agree(*, amps: Amps, rule_pack: RulePack = GENERIC) -> Judgement:
    """Do strings that are alike carry alike currents, each set right to full sun?

    Source: IEC 62446-1:2016, 6.5 (comparison of strings); rule pack.
    """
    limit = rule_pack.prove.current_apart
    found = string_agreement(volts=amps)
    return at_most(
        "string_currents_agree", found.mean_pct, limit.value, "%", limit.source, over="watch"
    )


def at_full_sun(read_a: float, irradiance_w_per_m2: float) -> float:
    """A current as it would be in full sun, so that strings read minutes apart compare. [A]"""
    return read_a * FULL_SUN_W_PER_M2 / irradiance_w_per_m2


def current_waits(needs: tuple[str, ...]) -> Judgement:
    """What is said of a string's current while something is missing."""
    return waiting("string_current_read", "A", SOURCE, needs)


def band_text(expected: ExpectedCurrent) -> str:
    """The band as it stands before the reading."""
    return f"{figure(expected.low_a, digits=1)} to {figure(expected.high_a, 'A', 1)}"
