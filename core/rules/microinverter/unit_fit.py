"""A module on a microinverter: its volts, its current, its power, and the unit's place."""

from __future__ import annotations

from core.base.glossary import (
    IscA,
    MaxInputV,
    MaxModuleW,
    Name,
    PmaxW,
    SafetyFactor,
    StartV,
    StringV,
    UnitEarth,
    UnitIscA,
)
from core.base.judgement import Judgement, at_least, at_most, holds
from core.base.rule import rule

UNIT_SOURCE = "unit sheet"
UNIT_EARTH_SOURCE = "unit and trunk sheets; IEC 60364-5-54:2011, 543"


@rule
def unit_cold(*, voc_cold_v: StringV, max_input_v: MaxInputV) -> Judgement:
    """On the coldest morning, does the module stay below the unit's maximum input voltage?

    Source: IEC 62548-1:2023, 7.2; unit sheet.
    """
    return at_most("unit_cold", voc_cold_v, max_input_v, "V", UNIT_SOURCE)


@rule
def unit_start(*, vmp_hot_v: StringV, start_v: StartV) -> Judgement:
    """On the hottest day, does the module still start the unit?

    Source: unit sheet.
    """
    return at_least("unit_start", vmp_hot_v, start_v, "V", UNIT_SOURCE)


@rule
def unit_current(
    *, isc_a: IscA, max_short_circuit_a: UnitIscA, factor: SafetyFactor = 1.25
) -> Judgement:
    """Does the unit's input bear the module's short-circuit current?

    Formula: factor · isc_a ≤ max_short_circuit_a.
    Source: IEC 62548-1:2023, 6.5; unit sheet.
    """
    return at_most("unit_current", isc_a * factor, max_short_circuit_a, "A", UNIT_SOURCE)


@rule
def unit_power(*, module_w: PmaxW, max_module_w: MaxModuleW) -> Judgement:
    """Is the module no larger than the unit is made for?

    Larger: watch, it clips.
    Source: unit sheet.
    """
    return at_most("unit_power", module_w, max_module_w, "W", UNIT_SOURCE, over="watch")


@rule
def unit_under_modules(*, unit: Name, covered: bool) -> Judgement:
    """Does the unit lie under modules, out of the gap between them?

    Source: unit sheet; trade practice.
    """
    return holds("unit_under_modules", covered, UNIT_SOURCE, unit=unit)


@rule
def unit_covered(*, unit: Name, serial_kept: bool) -> Judgement:
    """Is the serial on the map before the module covers the unit?

    Source: trade practice.
    """
    return holds("unit_covered", serial_kept, "trade practice", unit=unit)


@rule
def unit_earth(*, school: UnitEarth, allowed: bool, core: bool, rails_bonded: bool) -> Judgement:
    """Can the units be earthed this way: does the sheet allow it, does what it needs exist?

    allowed: by the unit's sheet. core: the trunk carries one. rails_bonded: a washer to a rail
    that is not bonded earths nothing.
    Source: unit and trunk sheets; IEC 60364-5-54:2011, 543.
    """
    lacks = {"core": not core, "washer": not rails_bonded, "wire": False}[school]
    rule_id = "unit_earth" if allowed else "unit_earth_sheet"
    return holds(
        rule_id,
        allowed and not lacks,
        UNIT_EARTH_SOURCE,
        school=school,
    )
