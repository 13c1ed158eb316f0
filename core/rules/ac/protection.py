"""What protects people and the board: residual current, two-way devices, loop, busbar, surge."""

from __future__ import annotations

from core.base.glossary import (
    BusbarA,
    CurrentA,
    EarthSystem,
    LoopOhm,
    NominalV,
    RatedA,
    ResidualMa,
    ResidualType,
    TripCurve,
    WholeWayM,
)
from core.base.judgement import Judgement, Verdict, at_most, fits, holds, waiting
from core.base.messages import figure, say
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, CircuitRule, RulePack

RESIDUAL_SOURCE = "IEC 60364-7-712:2017, 712.531.3"
LOOP_SOURCE = "IEC 60364-4-41:2005, 411"
# Above it an earth electrode is taken not to be stable (IEC 60364-5-54, BS 7671 table 41.5 note).
TT_STEADY_OHM = 200.0
MA_PER_A = 1000.0
OHM_DIGITS = 2


@rule
def residual_type(
    *,
    fitted: ResidualType,
    dc_fault_limited: bool,
    earth_system: EarthSystem,
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Is the residual-current device of the type that this inverter needs?

    Type A or F where the maker declares no DC fault current above 6 mA, else type B. None at
    all: stop in TT, watch in TN.
    Source: IEC 60364-7-712:2017, 712.531.3; IEC 60364-4-41:2005, 411.5.
    """
    if fitted == "none":
        bad: Verdict = "stop" if earth_system == "TT" else "watch"
        return holds("residual_fitted", False, RESIDUAL_SOURCE, bad=bad, system=earth_system)
    needed = "A" if dc_fault_limited else "B"
    limit = figure(rule_pack.circuit.dc_fault.value, "mA")
    return holds(
        "residual_type",
        dc_fault_limited or fitted == "B",
        RESIDUAL_SOURCE,
        fitted=fitted,
        needed=needed,
        declares=say("residual", "declared" if dc_fault_limited else "undeclared", limit=limit),
    )


@rule
def residual_sensitivity(
    *, fitted_ma: ResidualMa, earth_system: EarthSystem, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is the residual-current device sensitive enough for this earthing system?

    Source: IEC 60364-4-41:2005, 411.5; IEC 60364-4-42:2010, 422.3.9; rule pack.
    """
    rule = rule_pack.circuit
    limit = rule.residual_tt if earth_system == "TT" else rule.residual_tn
    return holds(
        "residual_sensitivity",
        fitted_ma <= limit.value,
        limit.source,
        fitted=figure(fitted_ma, "mA"),
        limit=figure(limit.value, "mA"),
        system=earth_system,
    )


@rule
def breaker_two_way(*, two_way: bool) -> Judgement:
    """May current flow through the device either way?

    A device with a fixed line and load side must not stand in an inverter's circuit.
    Source: IEC 60364-5-53:2019, 530; BS 7671:2018+A3:2024, 530.3.201.
    """
    return holds("breaker_two_way", two_way, "IEC 60364-5-53:2019, 530 (direction of power)")


@rule
def loop_trips(
    *,
    loop_ohm: LoopOhm,
    nominal_v: NominalV,
    breaker_a: RatedA = 32.0,
    curve: TripCurve = "B",
    earth_system: EarthSystem = "TN",
    residual_ma: ResidualMa | None = None,
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Is the earth fault loop low enough that the protection trips?

    TN: the least supply voltage over the breaker's magnetic trip; above the pack's share of it,
    for a cold conductor, watch; beyond it stop, or watch where a residual-current device trips in
    its stead, as long as the loop keeps the touch voltage at its rated residual current. TT: touch
    voltage over the rated residual current.
    In TT above 200 Ω: watch, such an electrode may not stay so. A loop of 0 Ω is no reading.
    Formula: loop_ohm ≤ circuit.loop_c_min · nominal_v / trip_current. Under TT: circuit.touch over
    the residual device's current.
    Source: IEC 60364-4-41:2005, 411.4.4 and 411.5.3; IEC 60364-6:2016, annex D; BS 7671:2018,
    411.4.4 and appendix 3 (Cmin 0.95, 80 %); AS/NZS 3000:2018, table 8.1; rule pack.
    """
    rule = rule_pack.circuit
    if loop_ohm == 0:
        return waiting("loop_trips", "Ω", LOOP_SOURCE, (say("needs", "loop_zero"),))
    at_once_a = trip_current(breaker_a=breaker_a, curve=curve, rule_pack=rule_pack)
    if earth_system == "TT":
        by_a = residual_ma / MA_PER_A if residual_ma else at_once_a
        limit = rule.touch.value / by_a
        source = rule.touch.source
        # An electrode above this drifts with the season, whatever the residual device allows.
        advisory = TT_STEADY_OHM if limit > TT_STEADY_OHM else None
    else:
        by_a = at_once_a
        limit = rule.loop_c_min.value * nominal_v / by_a
        source = rule.loop_c_min.source
        advisory = rule.loop_share.value * limit
    return at_most(
        "loop_trips",
        loop_ohm,
        limit,
        "Ω",
        source,
        over="watch" if _trips_by_residual(loop_ohm, earth_system, residual_ma, rule) else "stop",
        advisory=advisory,
        advised=figure(advisory or limit, "Ω", OHM_DIGITS),
        trip=figure(by_a, "A", OHM_DIGITS),
    )


def _trips_by_residual(
    loop_ohm: float, earth_system: EarthSystem, residual_ma: float | None, rule: CircuitRule
) -> bool:
    """Whether a residual-current device trips where the breaker does not: U = R · IΔn ≤ touch."""
    if earth_system != "TN" or not residual_ma:
        return False
    return fits(loop_ohm * residual_ma / MA_PER_A, rule.touch.value)


@rule
def trip_current(
    *, breaker_a: RatedA, curve: TripCurve = "B", rule_pack: RulePack = GENERIC
) -> CurrentA:
    """At which current does the breaker trip at once? [A]

    Formula: times · breaker_a, the times by its curve.
    Source: IEC 60898-1:2015, table 2; AS/NZS 3000:2018, table 8.1 (mean); rule pack.
    """
    rule = rule_pack.circuit
    times = {"B": rule.trip_b, "C": rule.trip_c, "D": rule.trip_d}[curve]
    return times.value * breaker_a


@rule
def busbar_sum(
    *, busbar_a: BusbarA, supply_a: RatedA, inverter_a: RatedA, others_a: CurrentA = 0.0
) -> Judgement:
    """Does the busbar bear the supply and every source together?

    others_a: the breakers of whatever else feeds this busbar, of its fullest line.
    Formula: supply_a + inverter_a + others_a ≤ busbar_a.
    Source: IEC 60364-8-2:2018; IEC 61439-3.
    """
    total_a = supply_a + inverter_a + others_a
    return at_most("busbar_sum", total_a, busbar_a, "A", "IEC 60364-8-2:2018; IEC 61439-3")


@rule
def busbar_share(
    *,
    busbar_a: BusbarA,
    supply_a: RatedA,
    inverter_a: CurrentA,
    others_a: CurrentA = 0.0,
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Does the busbar bear all sources, with the inverter's breaker at its far end?

    inverter_a: the breaker, or 125 % of the inverter's current; others_a: the breakers of what
    else feeds this busbar.
    Formula: supply_a + inverter_a + others_a ≤ circuit.busbar_share · busbar_a.
    Source: NEC 2023 705.12(B)(2); rule pack.
    """
    share = rule_pack.circuit.busbar_share
    limit_a = share.value * busbar_a
    return at_most(
        "busbar_share",
        supply_a + inverter_a + others_a,
        limit_a,
        "A",
        share.source,
        room=figure(max(limit_a - supply_a - others_a, 0.0), "A"),
    )


@rule
def busbar_far_end(*, far_end: bool) -> Judgement:
    """Does the inverter's breaker sit at the end of the busbar away from the supply's?

    Source: NEC 2023 705.12(B)(2).
    """
    return holds("busbar_far_end", far_end, "NEC 2023 705.12(B)(2)")


@rule
def surge_ac(*, fitted: bool) -> Judgement:
    """Is a surge device at the board? Without one: watch, the code in force decides.

    Source: IEC 60364-4-44:2007+A1:2015, 443; IEC 61643-32:2017.
    """
    return holds("surge_ac", fitted, "IEC 60364-4-44:2007+A1:2015, 443", bad="watch")


@rule
def surge_dc(*, fitted: bool, length_m: WholeWayM, rule_pack: RulePack = GENERIC) -> Judgement:
    """Is the DC side guarded against surges at both ends where its run is long?

    Short runs need the inverter's own; long ones without a device: watch.
    Source: IEC 61643-32:2017; IEC 60364-7-712:2017, 712.443; rule pack.
    """
    limit = rule_pack.run.surge_dc
    return holds(
        "surge_dc",
        fitted or length_m <= limit.value,
        limit.source,
        bad="watch",
        length=figure(length_m, "m"),
        limit=figure(limit.value, "m"),
        fitted=say("surge", "fitted" if fitted else "short"),
    )
