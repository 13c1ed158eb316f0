"""What the AC run does to the voltage at the inverter while it exports."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from core.base.adding import complex_sum, magnitude
from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import (
    ApparentVa,
    ConductorC,
    Cores,
    LengthM,
    LimitPct,
    LimitV,
    Name,
    NominalV,
    PowerFactor,
    Reactive,
    ROhmPerKm,
    Service,
    Source,
    SupplyV,
    TerminalV,
    XOhmPerKm,
)
from core.base.judgement import Judgement, at_most, holds, within
from core.base.messages import figure
from core.base.quantity import Items
from core.base.rule import rule

# IEC 60228: temperature coefficient of copper's resistance at 20 C.
COPPER_PER_K = 0.00393
COPPER_REFERENCE_C = 20.0
M_PER_KM = 1000.0

# Conductors in the loop that carry the current: out and back, or one line of a balanced three.
LOOP_FACTOR: dict[Service, int] = {"single": 2, "split": 2, "three": 1}
PHASES: dict[Service, int] = {"single": 1, "split": 1, "three": 3}
# Live conductors and the protective one; three-phase without neutral is four.
LEAST_CORES: dict[Service, int] = {"single": 3, "split": 4, "three": 4}
REACTIVE_SIGN: dict[Reactive, int] = {"none": 0, "absorbing": -1, "injecting": 1}

SUPPLY_SOURCE = "EN 50160:2022, 4.2.2; nameplate"
RISE_SOURCE = "IEC 60364-5-52:2009, annex G; circuit theory"


@dataclass(frozen=True, kw_only=True)
class RunSegment(Checked):
    """One piece of the run, from the supply towards the inverter; resistance when warm."""

    name: Name
    length_m: LengthM
    r_ohm_per_km: ROhmPerKm
    x_ohm_per_km: XOhmPerKm


Run = Annotated[tuple[RunSegment, ...], Items("pieces of the run", 1, 20)]


@dataclass(frozen=True, kw_only=True)
class AcRise:
    """Voltages along the run while the inverter gives `output_va`.

    node_v: volts at each rung from the supply to the terminals, solved exactly (the inverter is
    a constant power). *_closed: the hand formula with the current at nominal voltage, which
    errs to the high side; kept for comparison with paper.
    """

    node_v: tuple[float, ...]
    terminal_v: float
    rise_v: float
    rise_pct: float
    current_a: float
    segment_rise_closed_v: tuple[float, ...]
    rise_closed_v: float
    rise_closed_pct: float
    current_closed_a: float


@rule
def resistance_at(*, r20_ohm_per_km: ROhmPerKm, conductor_c: ConductorC) -> ROhmPerKm:
    """Which resistance has a copper conductor at this temperature?

    Formula: r20_ohm_per_km · (1 + 0.00393 · (conductor_c − 20)).
    Source: IEC 60228:2023, annex.
    """
    return r20_ohm_per_km * (1 + COPPER_PER_K * (conductor_c - COPPER_REFERENCE_C))


def loop_impedance(run: tuple[RunSegment, ...], service: Service) -> tuple[complex, ...]:
    """The impedance of each piece as the current of one phase sees it, in ohm."""
    factor = LOOP_FACTOR[service] / M_PER_KM
    return tuple(
        [factor * one.length_m * complex(one.r_ohm_per_km, one.x_ohm_per_km) for one in run]
    )


def power_per_phase(
    output_va: float, power_factor: float, reactive: Reactive, service: Service
) -> complex:
    """Complex power that one phase exports: reactive part positive when injecting."""
    sine = math.sqrt(max(0.0, 1 - power_factor**2)) * REACTIVE_SIGN[reactive]
    return output_va / PHASES[service] * complex(power_factor, sine)


@rule
def ac_rise(
    *,
    run: Run,
    service: Service,
    nominal_v: NominalV,
    supply_v: SupplyV,
    output_va: ApparentVa,
    power_factor: PowerFactor = 1.0,
    reactive: Reactive = "none",
) -> AcRise:
    """How high does the voltage stand at each rung from the supply to the inverter?

    Exact: with Z the loop and S the exported power, U0 = |Ut - Z * conj(S / Ut)| is a quadratic
    in Ut squared. Single and split phase: the whole loop; three phase, balanced: line to neutral.
    Raises Refused when the run is so long that no steady voltage exists.
    Source: circuit theory; IEC 60364-5-52:2009, annex G for the closed form.
    """
    pieces = loop_impedance(run, service)
    power = power_per_phase(output_va, power_factor, reactive, service)
    ahead = complex_sum(pieces)
    terminal_v = terminal_volts(supply_v, ahead, power)
    current = power.conjugate() / terminal_v
    nodes = []
    for piece in pieces:
        nodes.append(magnitude(terminal_v - ahead * current))
        ahead -= piece
    # The hand formula: the same power, its current at nominal voltage.
    closed_a = power.conjugate() / nominal_v
    closed = [(piece * closed_a).real for piece in pieces]
    rise_v, rise_closed_v = terminal_v - supply_v, math.fsum(closed)
    return AcRise(
        node_v=(*nodes, terminal_v),
        terminal_v=terminal_v,
        rise_v=rise_v,
        rise_pct=100 * rise_v / nominal_v,
        current_a=magnitude(current),
        segment_rise_closed_v=tuple(closed),
        rise_closed_v=rise_closed_v,
        rise_closed_pct=100 * rise_closed_v / nominal_v,
        current_closed_a=magnitude(closed_a),
    )


def terminal_volts(supply_v: float, loop: complex, power: complex) -> float:
    """Volts at the inverter that exports `power` in one phase over `loop`. Raises Refused."""
    drop = loop * power.conjugate()
    half = supply_v**2 / 2 + drop.real
    under_root = half**2 - magnitude(drop) ** 2
    if under_root < 0 or half <= 0:
        allowed = "a run over which the inverter can export"
        raise Refused([problem("$.run", f"{magnitude(loop):.2f} ohm", allowed)])
    return math.sqrt(half + math.sqrt(under_root))


@rule
def ac_most_export(
    *,
    run: Run,
    service: Service,
    supply_v: SupplyV,
    trip_v: LimitV,
    power_factor: PowerFactor = 1.0,
    reactive: Reactive = "none",
) -> float:
    """How much may the inverter export before its terminals reach the trip voltage? [VA]

    Formula: S with |Ut - Z * conj(S / Ut)| = U0 at Ut = trip. Zero when the supply is already
    there; infinite when no export at this power factor lifts the terminals so far.
    Source: circuit theory.
    """
    if supply_v >= trip_v:
        return 0.0
    unit = power_per_phase(1.0, power_factor, reactive, "single")
    drop = complex_sum(loop_impedance(run, service)) * unit.conjugate()
    under_root = drop.real**2 - magnitude(drop) ** 2 * (1 - (supply_v / trip_v) ** 2)
    if under_root < 0:
        # The terminals cannot be lifted to the trip voltage by any export at this power factor.
        return math.inf
    per_phase = trip_v**2 * (drop.real - math.sqrt(under_root)) / magnitude(drop) ** 2
    return PHASES[service] * per_phase


@rule
def ac_rise_limit(
    *, rise_pct: float, limit_pct: LimitPct = 3.0, advisory_pct: LimitPct = 1.0
) -> Judgement:
    """Does the run lift the voltage by more than is good?

    Source: IEC 60364-5-52:2009, annex G; network operators' practice, by rule pack.
    """
    return at_most(
        "ac_rise_limit",
        rise_pct,
        limit_pct,
        "%",
        RISE_SOURCE,
        advisory=advisory_pct,
        advised=figure(advisory_pct, "%"),
    )


@rule
def ac_terminal_room(*, terminal_v: TerminalV, trip_v: LimitV) -> Judgement:
    """At full export on today's supply, does the inverter stay below its over-voltage trip?

    Source: grid profile; circuit theory.
    """
    return at_most("ac_terminal_room", terminal_v, trip_v, "V", "grid profile; circuit theory")


@rule
def ac_high_day(
    *,
    terminal_v: TerminalV,
    trip_v: LimitV,
    supply_v: SupplyV,
    settles_v: TerminalV | None = None,
) -> Judgement:
    """At full export on a day of high supply, does the inverter stay below its trip?

    settles_v: where it comes to rest when its profile answers the voltage; then that is judged.
    Beyond: watch, it gives less or stops on such days.
    Source: grid profile; circuit theory.
    """
    return at_most(
        "ac_high_day",
        terminal_v if settles_v is None else settles_v,
        trip_v,
        "V",
        "grid profile; circuit theory",
        over="watch",
        supply=figure(supply_v, "V"),
    )


@rule
def ac_supply(
    *,
    supply_v: SupplyV,
    nominal_v: NominalV,
    tolerance_pct: LimitPct = 10.0,
    below_pct: LimitPct | None = None,
    source: Source = SUPPLY_SOURCE,
) -> Judgement:
    """Is the measured supply the one this inverter is made for?

    below_pct: where it may stand less far below than above.
    Formula: nominal_v · (1 − below_pct/100) ≤ supply_v ≤ nominal_v · (1 + tolerance_pct/100).
    Source: EN 50160:2022, 4.2.2; inverter nameplate.
    """
    below = tolerance_pct if below_pct is None else below_pct
    low, high = nominal_v * (1 - below / 100), nominal_v * (1 + tolerance_pct / 100)
    return within(
        "ac_supply",
        supply_v,
        low,
        high,
        "V",
        source,
        nominal=figure(nominal_v, "V"),
    )


@rule
def ac_cores(*, service: Service, cores: Cores) -> Judgement:
    """Has the cable a core for every live conductor and the protective one?

    Source: IEC 60364-5-54:2011, 543; inverter sheet.
    """
    least = LEAST_CORES[service]
    return holds(
        "ac_cores",
        cores >= least,
        "IEC 60364-5-54:2011, 543",
        cores=str(cores),
        least=str(least),
    )
