"""Where along a floating string a fault to earth lies, from three voltages."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.glossary import LimitPct, LimitV, MeterOhm, ModulesInSeries, ReadV
from core.base.judgement import Judgement, at_least, at_most, waiting
from core.base.messages import say
from core.base.quantity import Quantity
from core.base.rule import rule

SOURCE = "voltage divider on a floating string; IEC 62446-1:2016, Table 1 for the least insulation"
OHM_PER_KOHM = 1e3
FULL_PCT = 100.0
LeastKohm = Annotated[float, Quantity("least insulation resistance", "kΩ", 10, 100_000)]


@dataclass(frozen=True, kw_only=True)
class EarthFault:
    """A fault to earth: after how many modules from the minus end, and how strong.

    nearest: whole modules from the minus end. between: the modules on either side of it, 0 the
    minus cable and one more than the count the plus cable. place_by_total: the same place with
    the naive division by the whole string, which errs when the fault is weak.
    """

    place: float
    nearest: int
    between: tuple[int, ...]
    fault_ohm: float
    place_by_total: float
    sum_over_total: float


@rule
def earth_fault_place(
    *,
    plus_to_earth_v: ReadV,
    minus_to_earth_v: ReadV,
    plus_to_minus_v: ReadV,
    modules_in_series: ModulesInSeries,
    meter_ohm: MeterOhm = 10e6,
) -> EarthFault:
    """After which module from the minus end does the string touch earth, and how hard?

    Formula: modules_in_series · |minus_to_earth_v| / (|plus_to_earth_v| + |minus_to_earth_v|). Its
    resistance: meter_ohm · (|plus_to_minus_v| / (|plus_to_earth_v| + |minus_to_earth_v|) − 1).
    Valid: inverter off, both poles isolated, one meter at a time. Two faults give one weighted
    place that is neither. Raises Refused when both voltages to earth are zero: then there is no
    fault to find.
    Source: voltage divider; nodal analysis.
    """
    minus, both = abs(minus_to_earth_v), abs(plus_to_earth_v) + abs(minus_to_earth_v)
    total = abs(plus_to_minus_v)
    if both == 0 or total == 0:
        said = "Nothing to earth on either pole, or no voltage at all: there is no fault to find."
        raise Refused([problem("$.plus_to_earth_v", plus_to_earth_v, "a voltage to earth", said)])
    place = modules_in_series * minus / both
    nearest = round(place)
    return EarthFault(
        place=place,
        nearest=nearest,
        between=(nearest, nearest + 1),
        fault_ohm=max(0.0, meter_ohm * (total / both - 1)),
        place_by_total=modules_in_series * minus / total,
        sum_over_total=both / total,
    )


@rule
def string_earth_leak(
    *,
    plus_to_earth_v: ReadV,
    minus_to_earth_v: ReadV,
    plus_to_minus_v: ReadV | None = None,
    modules_in_series: ModulesInSeries,
    meter_ohm: MeterOhm = 10e6,
    least_kohm: LeastKohm = 1000.0,
    sum_over_pct: LimitPct = 5.0,
    near_zero_v: LimitV = 10.0,
) -> Judgement:
    """Is the string sound to earth; and if not, where to look?

    A string without voltage says nothing: it waits. The two voltages to earth cannot exceed the
    string's but for meter and sun, `sum_over_pct`.
    Formula: R = R_meter · (V / (V+ + V−) − 1).
    Source: voltage divider; IEC 62446-1:2016, Table 1.
    """
    if plus_to_minus_v is None or abs(plus_to_minus_v) <= near_zero_v:
        needs = (say("needs", "open_circuit"),)
        return waiting("string_earth_leak", "kΩ", SOURCE, needs)
    both, total = abs(plus_to_earth_v) + abs(minus_to_earth_v), abs(plus_to_minus_v)
    if both > (1 + sum_over_pct / FULL_PCT) * total:
        return at_most("string_earth_sum", both, total, "V", SOURCE, over="watch")
    leak_kohm = meter_ohm * (total / both - 1) / OHM_PER_KOHM if both else None
    if leak_kohm is None or leak_kohm > MOST_KOHM:
        return at_least("string_earth_leak", MOST_KOHM, least_kohm, "kΩ", SOURCE, place="")
    place = modules_in_series * abs(minus_to_earth_v) / both
    return at_least(
        "string_earth_leak",
        max(0.0, leak_kohm),
        least_kohm,
        "kΩ",
        SOURCE,
        place=_place_text(round(place), modules_in_series),
    )


# Above this the meter itself is all that is seen.
MOST_KOHM = 1e6


def _place_text(nearest: int, count: int) -> str:
    if nearest <= 0:
        return say("earth_place", "minus")
    if nearest >= count:
        return say("earth_place", "plus")
    return say("earth_place", "between", low=str(nearest), high=str(nearest + 1))
