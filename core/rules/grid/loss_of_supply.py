"""Whether the inverter stops when it must and returns when it may: loss of supply, over-voltage."""

from __future__ import annotations

from itertools import pairwise
from math import fsum
from typing import Annotated

from core.base.glossary import SupplyV
from core.base.judgement import Judgement, at_least, at_most, waiting
from core.base.messages import figure, say
from core.base.quantity import Items, Quantity
from core.base.rule import rule

# What an inverter may run on for where the profile gives no time of its own.
RUN_ON_S = 2.0
RUN_ON_SOURCE = "IEC 62116:2014 (run-on of an island, at most 2 s)"
# The slow over-voltage step is a mean over this long.
MEAN_WINDOW_S = 600.0
MEAN_SOURCE = "EN 50549-1:2019, 4.9.2.3 (ten-minute mean)"
# Starting up takes an inverter some minutes more than the watch over the supply.
LATE_S = 300.0

Seconds = Annotated[float, Quantity("seconds", "s", 0, 100_000)]
Samples = Annotated[tuple[tuple[float, float], ...], Items("samples", 0, 10_000)]


@rule
def loss_stops(*, seconds: Seconds, limit_s: Seconds = RUN_ON_S) -> Judgement:
    """Did the inverter stop in time after its supply was opened?

    Source: grid profile (loss of mains); IEC 62116:2014 where it gives no time.
    """
    return at_most("loss_stops", seconds, limit_s, "s", RUN_ON_SOURCE)


@rule
def loss_returns(*, seconds: Seconds, observe_s: Seconds) -> Judgement:
    """Did the inverter watch the supply for long enough before it fed again?

    Earlier: stop. Much later than that: watch.
    Formula: seconds ≥ observe_s.
    Source: grid profile (observation before reconnecting).
    """
    source = "grid profile (observation before reconnecting)"
    late = observe_s + LATE_S
    if seconds > late:
        return at_most(
            "loss_returns_late", seconds, late, "s", source, over="watch", observe=figure(observe_s)
        )
    return at_least("loss_returns", seconds, observe_s, "s", source)


@rule
def over_voltage_stops(*, seconds: Seconds, limit_s: Seconds, level_v: SupplyV) -> Judgement:
    """Did the inverter stop in time when its voltage was raised over the first step?

    Source: grid profile (over-voltage step 1).
    """
    source = "grid profile (over-voltage step 1)"
    return at_most("over_voltage_stops", seconds, limit_s, "s", source, level=figure(level_v, "V"))


@rule
def mean_voltage_under(
    *, mean_v: SupplyV, limit_v: SupplyV, covered_s: Seconds = MEAN_WINDOW_S
) -> Judgement:
    """Does the ten-minute mean of the supply leave the inverter on?

    covered_s: how much of the ten minutes was sampled; a shorter mean waits.
    Source: grid profile; EN 50549-1:2019, 4.9.2.3.
    """
    if covered_s < MEAN_WINDOW_S:
        return waiting("mean_voltage_under", "V", MEAN_SOURCE, (say("needs", "mean"),))
    return at_most("mean_voltage_under", mean_v, limit_v, "V", MEAN_SOURCE)


def running_mean(*, samples: Samples, window_s: Seconds = MEAN_WINDOW_S) -> tuple[float, float]:
    """The mean of voltages sampled at moments, and the seconds that they cover.

    samples: (moment in s, volts), earliest first; each holds until the next. Returns (NaN, 0)
    for fewer than two. What lies before the window counts as far as it reaches into it.
    Source: EN 50549-1:2019, 4.9.2.3.
    """
    if len(samples) <= 1:
        return float("nan"), 0.0
    last = samples[-1][0]
    begin = max(samples[0][0], last - window_s)
    area = fsum(
        volts * (later - max(moment, begin))
        for (moment, volts), (later, _) in pairwise(samples)
        if later > begin
    )
    covered = last - begin
    return (area / covered if covered > 0 else float("nan")), covered
