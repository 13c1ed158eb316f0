"""The inverter's circuit: its current, its breaker, the conductor that both leave room for."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from core.base.glossary import (
    CurrentA,
    Grouped,
    Insulation,
    LoadedConductors,
    Method,
    NominalV,
    PowerFactor,
    PowerW,
    RatedA,
    RunAirC,
    SectionMm2,
    Service,
)
from core.base.judgement import Judgement, at_least, at_most, holds, same
from core.base.messages import say
from core.base.rule import rule
from core.base.units import gauge_name, gauge_of
from core.figures.rule_packs import GENERIC, RulePack
from core.rules.ac.conductors import conductor_ampacity
from core.rules.ac.voltage_rise import PHASES

CHAIN_SOURCE = "the job's plan"
SINGLE_ON: tuple[Service, ...] = ("single", "split", "three")


@rule
def design_current(
    *,
    power_w: PowerW,
    voltage_v: NominalV,
    service: Service = "single",
    power_factor: PowerFactor = 1.0,
) -> CurrentA:
    """Which current does the inverter give at full output, in each line? [A]

    Formula: power_w / (phases · voltage_v · power_factor). Three phase: a third of the power, line
    to neutral.
    Source: definition; IEC 60364-4-43:2008, 433.1 (design current).
    """
    return power_w / (PHASES[service] * voltage_v * power_factor)


@rule
def breaker_rating(*, design_a: CurrentA, rule_pack: RulePack = GENERIC) -> float | None:
    """Which is the smallest standard breaker for this current? [A]; None beyond the largest.

    Formula: smallest rating ≥ circuit.continuous · design_a.
    Source: IEC 60364-4-43:2008, 433.1; NEC 2023 705.60 and 240.6(A); rule pack.
    """
    rule = rule_pack.circuit
    return _first_at_least(rule.ratings_a, rule.continuous.value * design_a)


def _first_at_least(among: Iterable[float], least: float) -> float | None:
    fitting = (one for one in among if one >= least or same(one, least))
    return min(fitting, default=None)


@dataclass(frozen=True, kw_only=True)
class Section:
    """A conductor chosen for a breaker. section_mm2: None where no size of the table carries it.

    iz_a: what each size carries as it is laid, by size.
    """

    section_mm2: float | None
    chosen_iz_a: float | None
    iz_a: tuple[float, ...]
    sections_mm2: tuple[float, ...]


@rule
def conductor_section(
    *,
    breaker_a: RatedA,
    loaded: LoadedConductors = 2,
    insulation: Insulation = "pvc",
    method: Method = "C",
    air_c: RunAirC = 30.0,
    grouped: Grouped = 1,
    rule_pack: RulePack = GENERIC,
) -> Section:
    """Which is the smallest conductor that this breaker protects, as it is laid?

    Formula: smallest size with table * air * group >= In. Raises Refused outside a table.
    Source: IEC 60364-4-43:2008, 433.1; IEC 60364-5-52:2009, annex B; NEC 2023 240.4; rule pack.
    """
    by_gauge = method == "raceway"
    sizes = sorted(s for s in rule_pack.ac_sizes_mm2 if (gauge_of(s) is not None) == by_gauge)
    carried = [
        conductor_ampacity(
            section_mm2=size,
            loaded=loaded,
            insulation=insulation,
            method=method,
            air_c=air_c,
            grouped=grouped,
            rule_pack=rule_pack,
        ).iz_a
        for size in sizes
    ]
    chosen = next(
        (
            (size, amps)
            for size, amps in zip(sizes, carried, strict=True)
            if (amps >= breaker_a or same(amps, breaker_a))
            and breaker_a <= _small_limit(size, rule_pack)
        ),
        (None, None),
    )
    return Section(
        section_mm2=chosen[0],
        chosen_iz_a=chosen[1],
        iz_a=tuple(carried),
        sections_mm2=tuple(sizes),
    )


def _small_limit(section_mm2: float, rules: RulePack) -> float:
    """The largest breaker on a small conductor by gauge; no limit for any other."""
    gauge = gauge_of(section_mm2)
    limit = None if gauge is None else rules.table("nec_small").at(gauge_name(gauge), "breaker")
    return math.inf if limit is None else limit


@rule
def breaker_carries(
    *, breaker_a: RatedA, design_a: CurrentA, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Does the breaker carry the inverter's current for hours?

    Formula: breaker_a ≥ circuit.continuous · design_a. Exactly on it holds.
    Source: IEC 60364-4-43:2008, 433.1; NEC 2023 705.60; rule pack.
    """
    rule = rule_pack.circuit
    least_a = rule.continuous.value * design_a
    return at_least("breaker_carries", breaker_a, least_a, "A", rule.source)


@rule
def conductor_carries(
    *, iz_a: CurrentA, breaker_a: RatedA, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Does the breaker protect the conductor as it is laid?

    Formula: iz_a ≥ breaker_a.
    Source: IEC 60364-4-43:2008, 433.1; NEC 2023 240.4; rule pack.
    """
    return at_least("conductor_carries", iz_a, breaker_a, "A", rule_pack.circuit.source)


@rule
def small_conductor(
    *, section_mm2: SectionMm2, breaker_a: RatedA, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is the breaker on a small conductor by gauge no larger than its own limit?

    Source: NEC 2023 240.4(D).
    """
    limit_a = _small_limit(section_mm2, rule_pack)
    if math.isinf(limit_a):
        return holds("small_conductor", True, "NEC 2023 240.4(D)")
    return at_most("small_conductor", breaker_a, limit_a, "A", "NEC 2023 240.4(D)")


@rule
def supply_fits(*, inverter: Service, supply: Service) -> Judgement:
    """Is the supply of a kind that this inverter can feed?

    A one-phase inverter on a four-wire service is fine, and lifts its own phase alone.
    Source: inverter sheet; IEC 60364-8-2.
    """
    fits = inverter == supply or (inverter == "single" and supply in SINGLE_ON[2:])
    return holds(
        "supply_fits",
        fits,
        "inverter sheet",
        inverter=say("service_names", inverter),
        supply=say("service_names", supply),
        own=say("supply", "same" if inverter == supply else "own_phase"),
    )


@rule
def feed_chain(*, whole: bool, here: str = "", there: str = "") -> Judgement:
    """Does a way lead from the supply point to the inverter without a gap?

    Source: the job's plan.
    """
    return holds("feed_chain", whole, CHAIN_SOURCE, here=here, there=there)
