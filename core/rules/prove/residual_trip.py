"""Whether a residual-current device trips in time and at its current, on both half-waves."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import ResidualMa
from core.base.judgement import Judgement, at_most, within
from core.base.quantity import Quantity
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack

TripMs = Annotated[float, Quantity("trip time", "ms", 0, 10_000)]
TripMa = Annotated[float, Quantity("trip current", "mA", 0, 10_000)]


@rule
def residual_trips_in(*, trip_ms: TripMs, rule_pack: RulePack = GENERIC) -> Judgement:
    """Does the device trip in time at its rated residual current?

    Source: IEC 61008-1:2010, Table 1; IEC 60364-6:2016, 6.4.3.7.2; rule pack.
    """
    most = rule_pack.prove.residual_most_ms
    return at_most("residual_trips_in", trip_ms, most.value, "ms", most.source)


@rule
def residual_trips_at(
    *, trip_ma: TripMa, rated_ma: ResidualMa, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Does the device trip above half and not above its rated residual current?

    Source: IEC 61008-1:2010, 5.3.4; IEC 60364-6:2016, 6.4.3.7.2; rule pack.
    """
    low_ma, high_ma = residual_band(rated_ma=rated_ma, rule_pack=rule_pack)
    source = rule_pack.prove.residual_most.source
    return within("residual_trips_at", trip_ma, low_ma, high_ma, "mA", source)


def residual_band(*, rated_ma: ResidualMa, rule_pack: RulePack = GENERIC) -> tuple[float, float]:
    """Between which currents, in mA, does a device of a rated residual current trip?

    Source: IEC 61008-1:2010, 5.3.4; rule pack.
    """
    rule = rule_pack.prove
    return rule.residual_least.value * rated_ma, rule.residual_most.value * rated_ma
