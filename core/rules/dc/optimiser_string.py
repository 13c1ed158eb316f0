"""A string of optimisers: its count, its power, its modules, and counting by safety voltage."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import (
    ColdModuleV,
    FixedStringV,
    IscA,
    MaxDcV,
    MaxInputA,
    MaxInputV,
    MaxModuleW,
    MostStringW,
    OptimisersInString,
    PmaxW,
    SafetyToleranceV,
    SafetyV,
)
from core.base.judgement import Judgement, Verdict, at_most, holds, within
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule

SHEET = "optimiser sheet"
BOTH_SHEETS = "optimiser and inverter sheets"
Watts = Annotated[float, Quantity("module power of the string", "W", 0, 100_000)]
SafetyReadV = Annotated[float, Quantity("safety voltage of the string", "V", -500, 500)]
Reporting = Annotated[float, Quantity("optimisers that report", "", 0, 100)]


@rule
def optimiser_string_count(
    *,
    optimisers: OptimisersInString,
    least_in_string: OptimisersInString,
    most_in_string: OptimisersInString,
) -> Judgement:
    """Are there enough optimisers to hold the string's voltage, and not too many?

    Both ends may be met exactly.
    Source: optimiser sheet.
    """
    return within(
        "optimiser_string_count",
        optimisers,
        least_in_string,
        most_in_string,
        "",
        SHEET,
        exact="clear",
    )


@rule
def optimiser_string_volts(*, fixed_string_v: FixedStringV, max_dc_v: MaxDcV) -> Judgement:
    """Does the inverter bear the voltage at which the optimisers hold the string?

    Source: optimiser and inverter sheets.
    """
    return at_most("optimiser_string_volts", fixed_string_v, max_dc_v, "V", BOTH_SHEETS)


@rule
def optimiser_string_power(*, power_w: Watts, most_string_w: MostStringW) -> Judgement:
    """Can the string carry the power of its modules at the fixed voltage?

    Source: optimiser sheet.
    """
    return at_most("optimiser_string_power", power_w, most_string_w, "W", SHEET)


@rule
def optimiser_module(*, pmax_w: PmaxW, max_module_w: MaxModuleW) -> Judgement:
    """Can the optimiser take the power of one module?

    Source: optimiser sheet.
    """
    return at_most("optimiser_module", pmax_w, max_module_w, "W", SHEET, over="watch")


@rule
def optimiser_input(*, voc_cold_v: ColdModuleV, max_input_v: MaxInputV) -> Judgement:
    """Does one module stay below the optimiser's input voltage on the coldest morning?

    Source: optimiser sheet.
    """
    return at_most("optimiser_input", voc_cold_v, max_input_v, "V", SHEET)


@rule
def optimiser_current(*, isc_a: IscA, max_input_a: MaxInputA) -> Judgement:
    """Can the optimiser's input bear the module's short-circuit current?

    Source: optimiser sheet.
    """
    return at_most("optimiser_current", isc_a, max_input_a, "A", SHEET)


@rule
def optimisers_counted(*, read_v: SafetyReadV, safety_v: SafetyV) -> float:
    """How many optimisers does this safety voltage count?

    Formula: |read_v| / safety_v, to the nearest whole one.
    Source: optimiser sheet.
    """
    return float(round(abs(read_v) / safety_v))


@rule
def optimisers_connected(
    *,
    read_v: SafetyReadV,
    safety_v: SafetyV,
    optimisers: OptimisersInString,
    safety_tolerance_v: SafetyToleranceV = 0.1,
) -> Judgement:
    """Are all optimisers of the string connected, and none the wrong way round?

    count = round(V / Vsafe). k too few: k are not connected, or half of k are plugged the wrong
    way round. A voltage further from a whole count than the tolerances allow is watch.
    Source: optimiser sheet.
    """
    counted = optimisers_counted(read_v=read_v, safety_v=safety_v)
    apart = counted - optimisers
    doubt_v = max(counted, 1) * safety_tolerance_v
    unclear = abs(abs(read_v) - counted * safety_v) > min(doubt_v, safety_v / 2)
    facts = {
        "value": figure(read_v, "V"),
        "counted": figure(counted, digits=0),
        "optimisers": str(optimisers),
        "apart": figure(abs(apart), digits=0),
    }
    key, bad = _connected(read_v, apart, unclear)
    good = key == "as_planned"
    return holds(
        "optimisers_connected",
        good,
        SHEET,
        bad=bad,
        what="" if good else say("optimisers_connected", key, **facts),
        **facts,
    )


def _connected(read_v: float, apart: float, unclear: bool) -> tuple[str, Verdict]:
    if read_v < 0:
        return "swapped", "stop"
    if apart < 0:
        return "fewer", "stop"
    if apart > 0:
        return "more", "stop"
    return ("unclear", "watch") if unclear else ("as_planned", "clear")


@rule
def optimisers_reporting(*, reporting: Reporting, optimisers: OptimisersInString) -> Judgement:
    """Do all optimisers of the string report?

    Source: plan against the inverter's own count.
    """
    apart = round(reporting) - optimisers
    return holds(
        "optimisers_reporting",
        apart == 0,
        "count of the inverter or its portal",
        bad="watch",
        reporting=figure(reporting, digits=0),
        optimisers=str(optimisers),
        apart=str(abs(apart)),
        side="silent" if apart < 0 else "too many",
    )
