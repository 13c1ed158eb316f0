"""What a string's reading says before any plug goes in."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import LimitV, ModulesInSeries, Name, StringV, TAirC, TAirMinC, VocReadV
from core.base.judgement import Judgement, Verdict, at_least, at_most, holds, within
from core.base.messages import figure
from core.base.quantity import Quantity
from core.base.rule import rule

READING_SOURCE = "IEC 62446-1:2016, 6.4 (open-circuit voltage of every string)"
POLARITY_SOURCE = "IEC 62446-1:2016, 6.2 (polarity)"
LIMIT_SOURCE = "inverter sheet; IEC 62548-1:2023, 7.2"

# A deviation of more than half a module is a fault of the string, not of the weather.
WHOLE_MODULE_FAULT = 0.5

Sign = Annotated[int, Quantity("1 as it should be, -1 not", "", -1, 1)]

CONNECTOR_SOURCE = "IEC 62548-1:2023, 7.3 (connectors mated only with their own kind)"
SWITCH_SOURCE = "IEC 62548-1:2023, 7.4; inverter sheet"


@rule
def string_voc_read(
    *, read_v: VocReadV, low_v: StringV, high_v: StringV, one_module_v: StringV
) -> Judgement:
    """Is the open-circuit voltage what this string should have now?

    Outside the band: watch; more than half a module outside it, or the wrong sign: stop.
    Formula: low_v ≤ read_v ≤ high_v.
    Source: IEC 62446-1:2016, 6.4.
    """
    outside_v = max(low_v - read_v, read_v - high_v)
    beyond: Verdict = "stop" if outside_v > WHOLE_MODULE_FAULT * one_module_v else "watch"
    centre_v = (low_v + high_v) / 2
    return within(
        "string_voc_read",
        read_v,
        low_v,
        high_v,
        "V",
        READING_SOURCE,
        outside=beyond,
        off=figure(abs(read_v - centre_v), "V"),
        modules=figure(abs(read_v - centre_v) / one_module_v),
    )


@rule
def count_told(
    *, read_v: VocReadV, low_v: StringV, high_v: StringV, modules_in_series: ModulesInSeries
) -> Judgement:
    """Does a reading inside its band also tell the count, or would one module less read the same?

    Formula: the bands of N − 1 and N + 1 are those of N, scaled; the reading is in neither.
    Source: arithmetic in module equivalents; IEC 62446-1:2016, 6.4.
    """
    count = modules_in_series
    fits_fewer = count > 1 and read_v <= high_v * (count - 1) / count
    fits_more = read_v >= low_v * (count + 1) / count
    other = count - 1 if fits_fewer else count + 1
    return holds(
        "count_told",
        not (fits_fewer or fits_more),
        READING_SOURCE,
        bad="watch",
        count=str(count),
        fewer=str(other),
    )


@rule
def string_under_max(*, read_v: VocReadV, max_dc_v: LimitV) -> Judgement:
    """Is the voltage that stands on the plugs below what the inverter can take?

    Formula: |read_v| ≤ max_dc_v.
    Source: inverter sheet.
    """
    return at_most("string_under_max", abs(read_v), max_dc_v, "V", LIMIT_SOURCE)


@rule
def string_projection(
    *, read_v: VocReadV, expected_now_v: LimitV, voc_cold_v: LimitV, limit_v: LimitV
) -> Judgement:
    """Will the string that was read stay below the limit on the coldest morning?

    Formula: |read_v| · voc_cold_v / expected_now_v ≤ limit_v.
    Source: IEC 62548-1:2023, 7.2.
    """
    projected_v = abs(read_v) * voc_cold_v / expected_now_v
    return at_most("string_projection", projected_v, limit_v, "V", LIMIT_SOURCE)


@rule
def coldest_air(*, read_c: TAirC, planned_c: TAirMinC) -> Judgement:
    """Is the coldest air of the plan really the coldest?

    Air that was read colder makes every cold voltage of the plan too low.
    Source: IEC 62548-1:2023, 7.2: the lowest expected temperature.
    """
    return at_least("coldest_air", read_c, planned_c, "°C", LIMIT_SOURCE)


@rule
def string_polarity(*, sign: Sign) -> Judgement:
    """Is the plug marked plus really plus?

    Source: IEC 62446-1:2016, 6.2.
    """
    return holds("string_polarity", sign > 0, POLARITY_SOURCE)


@rule
def connectors_alike(*, sign: Sign) -> Judgement:
    """Are both halves of each connector pair of the same make and series?

    Source: IEC 62548-1:2023, 7.3.
    """
    return holds("connectors_alike", sign > 0, CONNECTOR_SOURCE)


@rule
def dc_switch_off(*, sign: Sign) -> Judgement:
    """Is the DC switch OFF before any DC plug goes in or out?

    Source: IEC 62548-1:2023, 7.4; inverter sheet.
    """
    return holds("dc_switch_off", sign > 0, SWITCH_SOURCE)


@rule
def neighbour_judged(*, neighbour: Name, by_sun: bool) -> Judgement:
    """Is the string that this one is held against itself judged by the sun?

    Two strings that are held against each other alone may both be wrong: watch.
    Source: IEC 62446-1:2016, 6.4.
    """
    return holds("neighbour_judged", by_sun, READING_SOURCE, bad="watch", neighbour=neighbour)


@rule
def irradiance_enough(*, irradiance_w_per_m2: float, least_w_per_m2: float = 150.0) -> Judgement:
    """Is there enough sun to judge a reading by?

    Source: range in which the closed form was checked against the single-diode model.
    """
    return at_least(
        "irradiance_enough",
        irradiance_w_per_m2,
        least_w_per_m2,
        "W/m²",
        READING_SOURCE,
        under="watch",
    )
