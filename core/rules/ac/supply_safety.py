"""What the supply asks of the inverter's circuit: fault current, what protects it, how it joins."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import (
    BusbarA,
    CurrentA,
    Name,
    NominalV,
    RatedA,
    ResidualMa,
    ResistanceOhm,
    SectionMm2,
)
from core.base.judgement import Judgement, at_least, at_most, holds
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule
from core.equipment.cables_switches_fixings import BreakingKa
from core.figures.rule_packs import GENERIC, RulePack
from core.job.safety import FaultKa
from core.rules.ac.protection import MA_PER_A, TT_STEADY_OHM

A_PER_KA = 1000.0
BREAKING_SOURCE = "IEC 60364-4-43:2008, 434.5.1; NEC 2023 110.9"
SHARED_SOURCE = "IEC 60364-5-55:2011, 551.7.2; BS 7671:2018+A2:2022, 551.7.2"
OUTBUILDING_SOURCE = "BS 7671:2018+A2:2022, 411.3.1.2 and 542.1; IEC 60364-5-54:2011, 542.1"
FaultLoopOhm = Annotated[float, Quantity("loop impedance", "Ω", 0.001, 10_000)]
LoopKa = Annotated[float, Quantity("fault current of a loop", "kA", 0, 1000)]


@rule
def fault_current(*, loop_ohm: FaultLoopOhm, nominal_v: NominalV) -> LoopKa:
    """Which current flows in a fault at the end of this loop? [kA]

    Nearer to the supply it is larger: it shows that a breaker is too small, never that it is large
    enough.
    Formula: nominal_v / loop_ohm / 1000.
    Source: IEC 60364-4-43:2008, 434.1 (prospective fault current).
    """
    return nominal_v / loop_ohm / A_PER_KA


@rule
def breaking_capacity(*, breaking_ka: BreakingKa, fault_ka: FaultKa) -> Judgement:
    """Does the breaker part the largest fault current that can flow where it sits?

    Formula: breaking_ka ≥ fault_ka.
    Source: IEC 60364-4-43:2008, 434.5.1; NEC 2023 110.9.
    """
    return at_least("breaking_capacity", breaking_ka, fault_ka, "kA", BREAKING_SOURCE)


@rule
def upstream_protection(*, breaker_a: RatedA, upstream_most_a: RatedA) -> Judgement:
    """Is the breaker no larger than the inverter's sheet lets stand before it?

    Formula: breaker_a ≤ upstream_most_a.
    Source: inverter sheet (largest overcurrent protection).
    """
    return at_most("upstream_protection", breaker_a, upstream_most_a, "A", "inverter sheet")


@rule
def shared_cable(*, iz_a: CurrentA, breaker_a: RatedA, inverter_a: CurrentA) -> Judgement:
    """Does a cable that loads share with the inverter bear what both ends feed into it?

    Formula: iz_a ≥ breaker_a + inverter_a.
    Source: IEC 60364-5-55:2011, 551.7.2; BS 7671:2018+A2:2022, 551.7.2.
    """
    return at_least("shared_cable", iz_a, breaker_a + inverter_a, "A", SHARED_SOURCE)


@rule
def outbuilding_earth(*, combined_neutral: bool | None) -> Judgement:
    """May the outbuilding take its earth from the house?

    Where neutral and earth are one in the supply: watch, a broken neutral lifts everything that
    is bonded to it; an electrode of its own, or bonding as for the house. Not known: watch.
    Source: BS 7671:2018+A2:2022, 411.3.1.2 and 542.1; IEC 60364-5-54:2011, 542.1.
    """
    said = say("outbuilding_said", "unknown" if combined_neutral is None else "combined")
    return holds(
        "outbuilding_earth", combined_neutral is False, OUTBUILDING_SOURCE, bad="watch", said=said
    )


@rule
def supply_side(
    *,
    service_a: BusbarA,
    sources_a: CurrentA,
    section_mm2: SectionMm2,
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Does the service bear what joins it on the supply's side of the main switch?

    The conductor there is at least the pack's least size as well.
    Formula: sources_a ≤ service_a.
    Source: NEC 2023 705.11; rule pack.
    """
    least = rule_pack.safety.service_least
    if section_mm2 < least.value:
        return at_least("supply_side_size", section_mm2, least.value, "mm²", least.source)
    return at_most("supply_side", sources_a, service_a, "A", "NEC 2023 705.11(A)", exact="clear")


@rule
def notification(
    *, phase_a: CurrentA, has_permit: bool, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Does the operator's permission come first, or is the plant notified once it runs?

    Above the pack's current of each phase without a permit: watch; the permit itself is waited for.
    Source: EREC G98 and G99; EN 50549-1; VDE-AR-N 4105; rule pack.
    """
    limit = rule_pack.safety.notify
    is_small = phase_a <= limit.value
    return holds(
        "notification",
        is_small or has_permit,
        limit.source,
        bad="watch",
        current=figure(phase_a, "A"),
        limit=figure(limit.value, "A"),
        way=say("notification_ways", "after" if is_small else "first"),
    )


@rule
def electrode_holds(
    *, electrode_ohm: ResistanceOhm, residual_ma: ResidualMa, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Does the electrode keep what can be touched below the touch voltage until the device trips?

    Above 200 Ω: watch, such an electrode may not stay so.
    Formula: electrode_ohm ≤ circuit.touch / (residual_ma / 1000).
    Source: IEC 60364-4-41:2005, 411.5.3; IEC 60364-6:2016, annex C; rule pack.
    """
    touch = rule_pack.circuit.touch
    return at_most(
        "electrode_holds",
        electrode_ohm,
        touch.value / (residual_ma / MA_PER_A),
        "Ω",
        touch.source,
        advisory=TT_STEADY_OHM,
        steady=figure(TT_STEADY_OHM, "Ω"),
    )


@rule
def exposed_earth(
    *, section_mm2: SectionMm2, name: Name, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is an earth conductor that lies where it can be hurt large enough to lie there?

    Formula: section_mm2 ≥ safety.exposed_least.
    Source: NEC 2023 250.120(C) and 690.43; rule pack.
    """
    least = rule_pack.safety.exposed_least
    return at_least(
        "exposed_earth",
        section_mm2,
        least.value,
        "mm²",
        least.source,
        under="watch",
        exact="clear",
        name=name,
    )
