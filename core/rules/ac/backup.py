"""Backup and battery: what each phase carries, what one phase can back up, the battery's limits."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import ApparentVa, CurrentA, Name, RatedA, SummedA
from core.base.judgement import Judgement, at_least, at_most, holds
from core.base.messages import say
from core.base.quantity import Quantity
from core.base.rule import rule

BACKUP_SOURCE = "controller sheet"
BATTERY_SOURCE = "battery sheet; inverter sheet"
BatteryUnits = Annotated[int, Quantity("battery units", "", 0, 40)]


@rule
def backup_current(
    *, current_a: SummedA, limit_a: RatedA, phase: Name, backed_up: bool = True
) -> Judgement:
    """Do the loads of one group on one phase stay below the controller's limit?

    Source: controller sheet.
    """
    group = say("groups", "backed_up" if backed_up else "other")
    return at_most(
        "backup_current", current_a, limit_a, "A", BACKUP_SOURCE, phase=phase, group=group
    )


@rule
def backup_one_phase(*, three_phase_loads: str, three_phase: bool) -> Judgement:
    """Are three-phase loads kept off a one-phase backup?

    three_phase_loads: their names, empty where there are none.
    Source: controller sheet.
    """
    good = three_phase or not three_phase_loads
    return holds("backup_one_phase", good, BACKUP_SOURCE, loads=three_phase_loads)


@rule
def battery_breaker(*, breaker_a: RatedA, discharge_a: CurrentA) -> Judgement:
    """Does the battery's breaker carry its current?

    Source: battery sheet.
    """
    return at_least("battery_breaker", breaker_a, discharge_a, "A", BATTERY_SOURCE)


@rule
def battery_count(*, units: BatteryUnits, most_units: BatteryUnits) -> Judgement:
    """Are there no more battery units than the inverter takes?

    Source: inverter sheet.
    """
    return holds(
        "battery_count",
        units <= most_units,
        BATTERY_SOURCE,
        units=str(units),
        most=str(most_units),
    )


@rule
def battery_approved(*, approved: bool) -> Judgement:
    """Is this battery on the inverter maker's list?

    Source: inverter sheet.
    """
    return holds("battery_approved", approved, BATTERY_SOURCE)


@rule
def backup_units(*, units_va: ApparentVa, limit_va: ApparentVa) -> Judgement:
    """Can the controller hold back all roof units together while the house is on its own?

    It does so by shifting the frequency, up to a sum of ratings.
    Formula: units_va ≤ limit_va.
    Source: controller sheet.
    """
    return at_most("backup_units", units_va, limit_va, "VA", BACKUP_SOURCE, exact="clear")


@rule
def shutdown_line(*, wired: bool) -> Judgement:
    """Is the shutdown line wired, so that a switch at the entrance stops the backup too?

    Not wired: watch, the code in force decides.
    Source: controller sheet; local fire service.
    """
    return holds("shutdown_line", wired, BACKUP_SOURCE, bad="watch")
