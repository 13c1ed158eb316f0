"""Isolators: what they must part, carry and grip, on the AC and the DC side."""

from __future__ import annotations

from core.base.glossary import (
    CurrentA,
    GripMm2,
    IscA,
    Name,
    NominalV,
    Note,
    ParallelStrings,
    Poles,
    RatedA,
    RatedV,
    SectionMm2,
    Service,
    StringV,
)
from core.base.judgement import Judgement, at_least, holds, same
from core.base.messages import figure, say
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack

# Live conductors to part: with the neutral, where the service has one for the inverter.
LIVE_POLES: dict[Service, int] = {"single": 2, "split": 2, "three": 4}
# Lines to part by the breaker that guards them.
LINE_POLES: dict[Service, int] = {"single": 1, "split": 2, "three": 3}
DUTY = "DC-PV2"
UNDER_LOAD = ("AC-21", "AC-22", "AC-23")
DC_CONDUCTORS = 2
SWITCH_SOURCE = "IEC 60947-3:2020; IEC 60364-5-53:2019, 536"
DC_SOURCE = "IEC 60947-3:2020, annex D; IEC 60364-7-712:2017, 712.536"


@rule
def ac_isolator_current(*, rated_a: RatedA, design_a: CurrentA) -> Judgement:
    """Does the AC isolator carry the inverter's current?

    Source: IEC 60947-3:2020; IEC 60364-5-53:2019, 536.
    """
    return at_least("ac_isolator_current", rated_a, design_a, "A", SWITCH_SOURCE)


@rule
def ac_isolator_poles(*, poles: Poles, service: Service) -> Judgement:
    """Does the AC isolator part every live conductor?

    Source: IEC 60364-7-712:2017, 712.536; IEC 60364-5-53:2019, 536.
    """
    least = LIVE_POLES[service]
    return holds(
        "ac_isolator_poles", poles >= least, SWITCH_SOURCE, poles=str(poles), least=str(least)
    )


@rule
def ac_isolator_voltage(*, rated_v: RatedV, supply_v: NominalV) -> Judgement:
    """Is the AC isolator made for the voltage between the lines that it parts?

    Source: IEC 60947-3:2020; IEC 60364-5-53:2019, 536.
    """
    return at_least("ac_isolator_voltage", rated_v, supply_v, "V", SWITCH_SOURCE, exact="clear")


@rule
def ac_isolator_duty(*, duty: Note) -> Judgement:
    """May the AC isolator be switched while current flows? A sheet that says nothing is taken so.

    Source: IEC 60947-3:2020, 5.4: utilisation categories AC-21 to AC-23.
    """
    return holds(
        "ac_isolator_duty",
        not duty or duty.startswith(UNDER_LOAD),
        "IEC 60947-3:2020, 5.4",
        duty=duty,
    )


@rule
def breaker_poles(*, poles: Poles, service: Service) -> Judgement:
    """Does the breaker part every line of the supply?

    Source: IEC 60364-4-43:2008, 431.1; IEC 60364-5-53:2019, 536.
    """
    least = LINE_POLES[service]
    return holds(
        "breaker_poles",
        poles >= least,
        SWITCH_SOURCE,
        poles=str(poles),
        least=str(least),
        service=say("service_names", service),
    )


@rule
def dc_isolator_direction(*, directional: bool) -> Judgement:
    """Does the DC switch part current whichever way it flows?

    Strings beside it, or a reversed one, drive it backwards.
    Source: IEC 60364-7-712:2017, 712.536; IEC 60947-3:2020, annex D.
    """
    return holds("dc_isolator_direction", not directional, DC_SOURCE)


@rule
def isolator_room(
    *, section_mm2: SectionMm2, most_mm2: GripMm2, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is there room to bend the cable, with a terminal larger than its conductor?

    Formula: the terminal takes at least the next sizes up, as many as the pack asks. Without:
    watch, one size up is often the answer.
    Source: trade practice; rule pack.
    """
    above = rule_pack.circuit.isolator_above
    sizes = sorted(rule_pack.ac_sizes_mm2)
    larger = [size for size in sizes if size > section_mm2 and not same(size, section_mm2)]
    steps = int(above.value)
    wanted = larger[min(steps, len(larger)) - 1] if larger and steps else section_mm2
    return holds(
        "isolator_room",
        most_mm2 >= wanted,
        above.source,
        bad="watch",
        size=rule_pack.ac_sizes_mm2.get(section_mm2, figure(section_mm2, "mm²")),
        most=figure(most_mm2, "mm²"),
        wanted=rule_pack.ac_sizes_mm2.get(wanted, figure(wanted, "mm²")),
    )


@rule
def dc_isolator_voltage(*, rated_v: RatedV, voc_cold_v: StringV) -> Judgement:
    """Does the DC switch part the string on its coldest morning?

    rated_v: for the poles in series that part one conductor.
    Source: IEC 60947-3:2020, annex D; IEC 60364-7-712:2017, 712.536.
    """
    return at_least("dc_isolator_voltage", rated_v, voc_cold_v, "V", DC_SOURCE)


@rule
def dc_isolator_current(
    *, rated_a: RatedA, isc_a: IscA, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Does the DC switch break the string's short-circuit current with its factor?

    Formula: rated_a ≥ circuit.dc_isolator · isc_a.
    Source: IEC 60364-7-712:2017, 712.536; rule pack.
    """
    factor = rule_pack.circuit.dc_isolator
    return at_least("dc_isolator_current", rated_a, factor.value * isc_a, "A", factor.source)


@rule
def dc_isolator_duty(*, duty: Note, name: Name = "DC isolator") -> Judgement:
    """Is the DC switch made to part strings under load?

    Source: IEC 60947-3:2020, annex D: utilisation category DC-PV2.
    """
    return holds(
        "dc_isolator_duty",
        duty == DUTY,
        "IEC 60947-3:2020, annex D",
        duty=duty or "none",
        name=name,
    )


@rule
def dc_isolator_poles(
    *, poles: Poles, poles_in_series: Poles, strings: ParallelStrings
) -> Judgement:
    """Has one DC switch poles enough for both conductors of every string, or are more needed?

    Source: IEC 60364-7-712:2017, 712.536: both live conductors are parted.
    """
    needed = DC_CONDUCTORS * poles_in_series * strings
    return holds(
        "dc_isolator_poles",
        needed <= poles,
        DC_SOURCE,
        needed=str(needed),
        poles=str(poles),
        strings=str(strings),
    )
