"""What an inverter measures at this moment, against plan, sheet, profile and sun."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import Name, RatedAcW, StringV, SupplyV
from core.base.judgement import Judgement, at_most, holds, within
from core.base.messages import figure
from core.base.quantity import Quantity
from core.base.rule import rule

SHEET = "inverter sheet; what the inverter measures"
PLAN = "plan of the strings; IEC 62548-1:2023, 7.2"
PROFILE = "grid profile; what the inverter measures"
# An inverter draws and shows some watts of its own in the dark.
RESTING_W = 20.0
# What may be touched, AC: IEC 61140, extra-low voltage.
TOUCH_V = 50.0
ElevationDeg = Annotated[float, Quantity("elevation of the sun", "°", -90, 90)]
MeasuredV = Annotated[float, Quantity("voltage at the inverter", "V", 0, 100_000)]
PowerW = Annotated[float, Quantity("power that is fed", "W", -1_000_000, 1_000_000)]


@rule
def live_tracker_volts(
    *, measured_v: StringV, voc_cold_v: StringV, name: Name = "Tracker"
) -> Judgement:
    """Is a tracker below what its strings give on their coldest morning?

    Source: plan of the strings; IEC 62548-1:2023, 7.2.
    """
    return at_most("live_tracker_volts", measured_v, voc_cold_v, "V", PLAN, name=name)


@rule
def live_power(*, power_w: PowerW, rated_ac_w: RatedAcW) -> Judgement:
    """Does it feed no more than its rating?

    Source: inverter sheet.
    """
    return at_most("live_power", power_w, rated_ac_w, "W", SHEET, exact="clear")


@rule
def live_dark(*, power_w: PowerW, elevation_deg: ElevationDeg) -> Judgement:
    """Does it feed only while there is sun? A battery beside it is another source.

    Source: position of the sun; what the inverter measures.
    """
    return holds(
        "live_dark",
        power_w <= RESTING_W or elevation_deg > 0,
        "position of the sun; what the inverter measures",
        power=figure(power_w, "W", 0),
        elevation=figure(elevation_deg, "°", 0),
    )


@rule
def live_supply(
    *, measured_v: SupplyV, low_v: SupplyV, high_v: SupplyV, pair: Name = "Supply"
) -> Judgement:
    """Is the supply at the inverter inside the profile's limits?

    Source: grid profile.
    """
    return within("live_supply", measured_v, low_v, high_v, "V", PROFILE, pair=pair)


@rule
def live_open(*, measured_v: MeasuredV, pair: Name = "Supply") -> Judgement:
    """Is there no supply at the inverter while a switch of its AC side is not said to be ON?

    Source: IEC 61140, extra-low voltage.
    """
    return at_most("live_open", measured_v, TOUCH_V, "V", "IEC 61140; switches as said", pair=pair)
