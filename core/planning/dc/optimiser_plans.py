"""Strings whose voltage optimisers hold: judged by count and power, not by volts."""

from __future__ import annotations

from core.assessment.whole import CountStep, OptimiserWindow
from core.base.judgement import Judgement, Verdict, waiting, worst
from core.base.messages import say
from core.equipment.optimiser import Optimiser
from core.planning.dc.string_plans import STEPS_BEYOND, StringPlanner
from core.rules.dc.optimiser_string import (
    SHEET,
    optimiser_current,
    optimiser_input,
    optimiser_module,
    optimiser_string_count,
    optimiser_string_power,
    optimiser_string_volts,
)


def most_in_string(sheet: Optimiser, pmax_w: float) -> int:
    """The most optimisers in a string, by their count and by the power of their modules."""
    return min(sheet.most_in_string, int(sheet.most_string_w // pmax_w))


def window(sheet: Optimiser, pmax_w: float) -> OptimiserWindow:
    """The windows of a string as the picture draws them."""
    most = most_in_string(sheet, pmax_w)
    return OptimiserWindow(
        most_here=most,
        power_binds=most < sheet.most_in_string,
        fixed_string_v=sheet.fixed_string_v,
        least_in_string=sheet.least_in_string,
        most_in_string=sheet.most_in_string,
        most_string_w=sheet.most_string_w,
        safety_v=sheet.safety_v,
    )


def judged(planner: StringPlanner, sheet: Optimiser, count: int) -> tuple[Judgement, ...]:
    """Count, power, and one module against one optimiser."""
    module = planner.module
    cold_v = planner.volts(1, "close").voc_cold_v
    needs = (say("needs", "cold_factor"),)
    return (
        optimiser_string_count(
            optimisers=count,
            least_in_string=sheet.least_in_string,
            most_in_string=sheet.most_in_string,
        ),
        optimiser_string_volts(fixed_string_v=sheet.fixed_string_v, max_dc_v=planner.dc.max_dc_v),
        optimiser_string_power(power_w=count * module.pmax_w, most_string_w=sheet.most_string_w),
        waiting("optimiser_input", "V", SHEET, needs)
        if cold_v is None
        else optimiser_input(voc_cold_v=cold_v, max_input_v=sheet.max_input_v),
        optimiser_current(isc_a=module.isc_a, max_input_a=sheet.max_input_a),
        optimiser_module(pmax_w=module.pmax_w, max_module_w=sheet.max_module_w),
    )


def line(judgements: tuple[Judgement, ...]) -> tuple[Verdict, str]:
    """The verdict of a count and the one sentence that says why."""
    verdict = worst(j.verdict for j in judgements)
    decisive = next(j for j in judgements if j.verdict == verdict)
    return verdict, decisive.reason


def steps(planner: StringPlanner, sheet: Optimiser) -> tuple[CountStep, ...]:
    """What each count in and just beyond the window gives."""
    found = []
    for count in _counts(sheet, planner.module.pmax_w):
        verdict, said = line(judged(planner, sheet, count))
        found.append(CountStep(count=count, verdict=verdict, line=said))
    return tuple(found)


def _counts(sheet: Optimiser, pmax_w: float) -> range:
    low = max(1, sheet.least_in_string - STEPS_BEYOND)
    most = max(most_in_string(sheet, pmax_w), sheet.least_in_string)
    return range(low, most + STEPS_BEYOND + 1)
