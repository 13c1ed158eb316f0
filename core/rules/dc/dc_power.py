"""How much module power hangs on an inverter, and on each of its trackers."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import MaxDcW, ParallelStrings, RatedAcW, TrackerInputs, TrackerMaxW
from core.base.judgement import Judgement, at_most, holds
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule

ArrayW = Annotated[float, Quantity("module power at STC", "W", 0, 400_000)]
SHEET = "inverter sheet"
W_PER_KW = 1000.0
# From here up the inverter gives its rating and no more in full sun.
EQUAL_POWER = 1.0


@rule
def dc_ac_ratio(*, array_w: ArrayW, rated_ac_w: RatedAcW) -> float:
    """How many times the inverter's AC rating is the module power?

    Formula: array_w / rated_ac_w.
    Source: definition.
    """
    return array_w / rated_ac_w


@rule
def array_power(
    *, array_w: ArrayW, rated_ac_w: RatedAcW, max_dc_w: MaxDcW | None = None
) -> Judgement:
    """Does the inverter bear this module power, and what of it clips?

    No ratio is a stop by itself; only the inverter's own DC limit is.
    Formula: array_w ≤ max_dc_w.
    Source: inverter sheet.
    """
    ratio = dc_ac_ratio(array_w=array_w, rated_ac_w=rated_ac_w)
    clips = say(
        "array_power",
        "clips" if ratio > EQUAL_POWER else "whole",
        ratio=figure(ratio, "", 2),
        array=figure(array_w / W_PER_KW, "kW", 2),
        rated=figure(rated_ac_w / W_PER_KW, "kW", 2),
    )
    if max_dc_w is None:
        return holds("array_power", True, SHEET, clips=say("array_power", "unlimited", clips=clips))
    return at_most("array_power_limit", array_w, max_dc_w, "W", SHEET, clips=clips)


@rule
def tracker_power(*, power_w: ArrayW, max_power_w: TrackerMaxW) -> Judgement:
    """Can the tracker use the power of its strings? Over its limit it clips; it does not break.

    Source: inverter sheet.
    """
    return at_most("tracker_power", power_w, max_power_w, "W", SHEET, over="watch")


@rule
def tracker_inputs(*, strings: ParallelStrings, inputs: TrackerInputs) -> Judgement:
    """Has the tracker an input for each of its strings?

    Source: inverter sheet.
    """
    return holds(
        "tracker_inputs",
        strings <= inputs,
        SHEET,
        bad="watch",
        strings=str(strings),
        inputs=str(inputs),
    )
