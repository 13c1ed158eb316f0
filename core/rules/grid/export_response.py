"""Where an inverter settles when it answers the voltage that it lifts itself."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from core.base.adding import complex_sum
from core.base.form import Checked
from core.base.glossary import ApparentVa, Service, SupplyV
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.rules.ac.voltage_rise import PHASES, Run, loop_impedance, terminal_volts

Pct = Annotated[float, Quantity("share of rating", "%", -100, 100)]
# Halvings of the bracket: 400 V to well below a microvolt.
HALVINGS = 60
# The terminals never settle further from the supply than this.
BRACKET = 0.5


@dataclass(frozen=True, kw_only=True)
class CurvePoint(Checked):
    """One corner of a response curve: at this voltage this share of the rating."""

    volts: SupplyV
    pct: Pct


Curve = Annotated[tuple[CurvePoint, ...], Items("corners of the curve", 0, 8)]


@dataclass(frozen=True, kw_only=True)
class Settled:
    """Where the inverter comes to rest. reactive_var: positive when it injects.

    limited: gives less than its rating.
    """

    terminal_v: float
    output_w: float
    reactive_var: float
    limited: bool


@rule
def curve_at(*, curve: Curve, volts: SupplyV) -> float:
    """What share of the rating does a response curve ask for at this voltage? [%]

    Straight between corners, level beyond the first and the last. An empty curve asks nothing: 0.
    Formula: p1 + (p2 − p1) · (V − V1) / (V2 − V1) between two corners.
    Source: IEEE 1547-2018, 5.3 and 5.4; AS/NZS 4777.2:2020, 3.3.
    """
    if not curve:
        return 0.0
    if volts <= curve[0].volts:
        return curve[0].pct
    for low, high in pairwise(curve):
        if volts <= high.volts:
            share = (volts - low.volts) / (high.volts - low.volts)
            return low.pct + share * (high.pct - low.pct)
    return curve[-1].pct


@rule
def export_settles(
    *,
    run: Run,
    service: Service,
    supply_v: SupplyV,
    rated_va: ApparentVa,
    volt_watt: Curve = (),
    volt_var: Curve = (),
) -> Settled:
    """At which voltage and output does the inverter come to rest, in full sun?

    By bisection on the terminal voltage: plain iteration can swing for ever. Reactive power has
    precedence where both would pass the rating. Raises Refused when no steady voltage exists.
    Formula: V = V_supply + Z · S*(V) / V, S as the response curves ask at V.
    Source: circuit theory; AS/NZS 4777.2:2020, 3.3; IEEE 1547-2018, 5.3 and 5.4.
    """
    loop = complex_sum(loop_impedance(run, service))

    def given(volts: float) -> complex:
        reactive = rated_va * curve_at(curve=volt_var, volts=volts) / 100
        allowed = curve_at(curve=volt_watt, volts=volts) / 100 if volt_watt else 1.0
        active = min(rated_va * allowed, math.sqrt(max(rated_va**2 - reactive**2, 0.0)))
        return complex(active, reactive)

    low, high = supply_v * (1 - BRACKET), supply_v * (1 + BRACKET)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        if terminal_volts(supply_v, loop, given(middle) / PHASES[service]) > middle:
            low = middle
        else:
            high = middle
    power = given((low + high) / 2)
    return Settled(
        terminal_v=(low + high) / 2,
        output_w=power.real,
        reactive_var=power.imag,
        limited=not math.isclose(power.real, rated_va, rel_tol=1e-6),
    )
