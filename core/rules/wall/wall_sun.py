"""Heat on a wall: how long the sun stands on what hangs there."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import LatitudeDeg, SunHours
from core.base.judgement import Judgement, at_most
from core.base.quantity import Quantity
from core.base.rule import rule

HEAT_SOURCE = "rule pack (sun on the wall); device sheet (out of direct sun)"

# The month after the longest day, north and south of the equator.
JULY, JANUARY = 7, 1
Month = Annotated[int, Quantity("month", "", 1, 12)]


@rule
def hottest_month(*, latitude_deg: LatitudeDeg) -> Month:
    """In which month is the air hottest, where no weather file says it?

    Source: the month after the longest day, on either side of the equator.
    """
    return JULY if latitude_deg >= 0 else JANUARY


@rule
def wall_heat(*, sun_hours: SunHours, most_hours: SunHours) -> Judgement:
    """Does direct sun stand on the device for long in the hottest month? [h in a day]

    Beyond the figure: watch. An inverter in the sun gives less then, and ages sooner.
    Source: rule pack; device sheet.
    """
    return at_most("wall_heat", sun_hours, most_hours, "h", HEAT_SOURCE, over="watch")
