"""Whether strings that are alike read alike."""

from __future__ import annotations

from dataclasses import dataclass
from math import fsum
from statistics import median
from typing import Annotated

from core.base.glossary import AgreeMethod, LimitPct
from core.base.judgement import Judgement, at_most
from core.base.quantity import Items, Quantity
from core.base.rule import rule

SOURCE = "IEC 62446-1:2016, 6.4: strings that are alike agree"
Volts = Annotated[
    tuple[Annotated[float, Quantity("voltage", "V", -5000, 5000)], ...],
    Items("strings that are alike", 2, 400),
]

RULE_IDS: dict[AgreeMethod, str] = {
    "mean": "strings_agree_mean",
    "max": "strings_agree_max",
    "median": "strings_agree_median",
}


@dataclass(frozen=True, kw_only=True)
class Agreement:
    """How far alike strings read apart, by each school.

    off_pct: each string's distance from the mean in % of it. mean_pct: the largest of them.
    span_pct: (highest - lowest) / highest. median_pct: the largest distance from the median, which
    one bad string moves less than the mean.
    """

    mean_v: float
    off_pct: tuple[float, ...]
    mean_pct: float
    span_pct: float
    median_pct: float


@rule
def string_agreement(*, volts: Volts) -> Agreement:
    """How far apart do strings that are alike read?

    Schools: distance from their mean; (highest - lowest) / highest, which is stricter; distance
    from their median.
    Formula: 100 · (V − mean) / mean of each; 100 · (highest − lowest) / highest.
    Source: IEC 62446-1:2016, 6.4.
    """
    mean = fsum(volts) / len(volts)
    off = tuple(100 * (one - mean) / mean if mean else 0.0 for one in volts)
    highest, middle = max(volts), median(volts)
    return Agreement(
        mean_v=mean,
        off_pct=off,
        mean_pct=max(abs(one) for one in off),
        span_pct=100 * (highest - min(volts)) / highest if highest else 0.0,
        median_pct=max(100 * abs(one - middle) / abs(middle) for one in volts) if middle else 0.0,
    )


@rule
def strings_agree(
    *, volts: Volts, school: AgreeMethod = "mean", limit_pct: LimitPct = 5.0
) -> Judgement:
    """Do strings that are alike agree? Exactly on the limit they still do.

    Source: IEC 62446-1:2016, 6.4.
    """
    found = string_agreement(volts=volts)
    return at_most(
        RULE_IDS[school],
        {"mean": found.mean_pct, "max": found.span_pct, "median": found.median_pct}[school],
        limit_pct,
        "%",
        SOURCE,
        over="watch",
    )
