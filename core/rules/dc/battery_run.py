"""A battery on a DC input: its window, the run's drop, its fuse, the current of a short circuit."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import CurrentA, RatedA
from core.base.judgement import Judgement, at_least, at_most, fits, holds, waiting, within
from core.base.quantity import Items, Quantity
from core.base.rule import rule

InSeries = Annotated[int, Quantity("battery units in series", "", 1, 40)]
InParallel = Annotated[int, Quantity("battery strings in parallel", "", 1, 40)]
BatteryV = Annotated[float, Quantity("battery voltage", "V", 5, 1500)]
InternalOhm = Annotated[float, Quantity("internal resistance", "Ω", 0, 10)]
ContactOhm = Annotated[float, Quantity("resistance of the contacts", "Ω", 0, 1)]
InverterW = Annotated[float, Quantity("inverter power from the battery", "W", 1, 200_000)]
Efficiency = Annotated[float, Quantity("efficiency", "", 0.5, 1)]
OneWayM = Annotated[float, Quantity("one-way length", "m", 0, 200)]
RunOhmPerKm = Annotated[float, Quantity("conductor resistance", "ohm/km", 0, 100)]
BreakingA = Annotated[float, Quantity("breaking capacity", "A", 100, 200_000)]
ProspectiveA = Annotated[float, Quantity("prospective short-circuit current", "A", 0, 1e6)]
FuseRatings = Annotated[tuple[RatedA, ...], Items("fuse ratings", 1, 60)]

# A fuse carries the current for hours with this much to spare (IEC 60269-1, 5.6.2; the usual
# practice at batteries).
FUSE_FACTOR = 1.25
FUSES_A = (
    25.0, 32.0, 40.0, 50.0, 63.0, 80.0, 100.0, 125.0, 160.0, 200.0, 250.0, 315.0, 400.0,
)  # fmt: skip
BATTERY_RUN_SOURCE = "battery sheet; inverter sheet; circuit theory"
FUSE_SOURCE = "IEC 60364-4-43:2008, 433.1 and 434.5.1; IEC 60269-1"
M_PER_KM = 1000.0


@dataclass(frozen=True, kw_only=True)
class BatteryBank(Checked):
    """Battery units in series, and such strings in parallel, by the sheet of one unit."""

    unit_v_min: BatteryV
    unit_v_nominal: BatteryV
    unit_v_max: BatteryV
    unit_internal_ohm: InternalOhm
    unit_max_continuous_a: CurrentA
    units_in_series: InSeries = 1
    strings_in_parallel: InParallel = 1


@dataclass(frozen=True, kw_only=True)
class BatteryInput(Checked):
    """The inverter's battery input by its sheet."""

    inverter_v_min: BatteryV
    inverter_v_max: BatteryV
    inverter_max_dc_a: CurrentA
    inverter_efficiency: Efficiency
    inverter_power_w: InverterW


@dataclass(frozen=True, kw_only=True)
class BatteryCable(Checked):
    """The run from the battery to the input, out and back, and what it carries."""

    one_way_length_m: OneWayM
    r_ohm_per_km: RunOhmPerKm
    cable_iz_a: CurrentA
    contact_resistance_ohm: ContactOhm = 0.0


@dataclass(frozen=True, kw_only=True)
class BatteryRun:
    """The bank on its run at full power: the inverter takes a constant power.

    current_simple_*: power over the battery's own voltage. fuse_a: None where none fits between
    what must flow and what the cable carries.
    """

    v_min: float
    v_nominal: float
    v_max: float
    in_window: bool
    dc_power_w: float
    run_ohm: float
    current_simple_at_min_a: float
    current_at_min_a: float
    current_at_nominal_a: float
    drop_at_min_v: float
    drop_at_min_pct: float
    drop_at_nominal_v: float
    inverter_v_at_min: float
    stays_above_cutoff: bool
    loss_at_nominal_w: float
    current_per_string_at_min_a: float
    unit_current_ok: bool
    input_limit_binds_at_min: bool
    fuse_least_a: float
    fuse_most_a: float
    fuse_a: float | None
    prospective_a: float


@rule
def battery_run(
    *,
    bank: BatteryBank,
    input: BatteryInput,
    cable: BatteryCable,
    fuse_ratings_a: FuseRatings = FUSES_A,
) -> BatteryRun:
    """What flows between battery and inverter at full power, and what does the run take of it?

    Formula: P_dc = P / η; V_inverter = (V + sqrt(V² − 4·R·P_dc)) / 2, I = P_dc / V_inverter;
    R = 2·L·r + contacts. Fuse: smallest with 1.25·I ≤ In ≤ Iz. Short circuit: the highest voltage
    over all units' resistance and the run. The cut-off is judged at full power whatever the
    input's own current limit would take off.
    Raises Refused when the run cannot carry the power at the lowest voltage.
    Source: circuit theory; IEC 60364-4-43:2008, 433.1; battery and inverter sheets.
    """
    v_min, v_nominal, v_max = (
        bank.units_in_series * one
        for one in (bank.unit_v_min, bank.unit_v_nominal, bank.unit_v_max)
    )
    run_ohm = (
        2 * cable.one_way_length_m * cable.r_ohm_per_km / M_PER_KM + cable.contact_resistance_ohm
    )
    power_w = input.inverter_power_w / input.inverter_efficiency
    at_min_v = _inverter_v(v_min, run_ohm, power_w)
    at_nominal_v = _inverter_v(v_nominal, run_ohm, power_w)
    current_a, nominal_a = power_w / at_min_v, power_w / at_nominal_v
    per_string_a = current_a / bank.strings_in_parallel
    least_a = FUSE_FACTOR * current_a
    fitting = (one for one in fuse_ratings_a if fits(least_a, one) and fits(one, cable.cable_iz_a))
    inside_ohm = bank.unit_internal_ohm * bank.units_in_series / bank.strings_in_parallel
    return BatteryRun(
        v_min=v_min,
        v_nominal=v_nominal,
        v_max=v_max,
        in_window=fits(input.inverter_v_min, v_min) and fits(v_max, input.inverter_v_max),
        dc_power_w=power_w,
        run_ohm=run_ohm,
        current_simple_at_min_a=power_w / v_min,
        current_at_min_a=current_a,
        current_at_nominal_a=nominal_a,
        drop_at_min_v=v_min - at_min_v,
        drop_at_min_pct=100 * (v_min - at_min_v) / v_min,
        drop_at_nominal_v=v_nominal - at_nominal_v,
        inverter_v_at_min=at_min_v,
        stays_above_cutoff=fits(input.inverter_v_min, at_min_v),
        loss_at_nominal_w=nominal_a**2 * run_ohm,
        current_per_string_at_min_a=per_string_a,
        unit_current_ok=fits(per_string_a, bank.unit_max_continuous_a),
        input_limit_binds_at_min=not fits(current_a, input.inverter_max_dc_a),
        fuse_least_a=least_a,
        fuse_most_a=cable.cable_iz_a,
        fuse_a=min(fitting, default=None),
        prospective_a=v_max / (inside_ohm + run_ohm) if inside_ohm + run_ohm else math.inf,
    )


@rule
def battery_window(
    *, v_min: BatteryV, v_max: BatteryV, input_v_min: BatteryV, input_v_max: BatteryV
) -> Judgement:
    """Does the battery, empty and full, stay inside the input's window?

    The end that lies further out decides.
    Formula: input_v_min ≤ v_min and v_max ≤ input_v_max.
    Source: battery sheet; inverter sheet.
    """
    decides = v_max if v_max - input_v_max >= input_v_min - v_min else v_min
    return within(
        "battery_window", decides, input_v_min, input_v_max, "V", "battery sheet; inverter sheet"
    )


@rule
def battery_cutoff(*, inverter_v: BatteryV, input_v_min: BatteryV) -> Judgement:
    """With the battery nearly empty, at full power, does the input stay above its cut-off?

    Source: inverter sheet; circuit theory.
    """
    return at_least("battery_cutoff", inverter_v, input_v_min, "V", BATTERY_RUN_SOURCE)


@rule
def battery_unit_current(*, current_a: CurrentA, most_a: CurrentA) -> Judgement:
    """Does each battery unit give no more than its sheet allows?

    Source: battery sheet.
    """
    return at_most("battery_unit_current", current_a, most_a, "A", "battery sheet")


@rule
def battery_fuse(*, fuse_a: RatedA | None, least_a: CurrentA, cable_iz_a: CurrentA) -> Judgement:
    """Does the battery's fuse carry the current for hours, and does it protect the cable?

    Formula: least_a ≤ fuse_a ≤ cable_iz_a. A cable below the least has no fuse that fits.
    Source: IEC 60364-4-43:2008, 433.1; IEC 60269-1.
    """
    if not fits(least_a, cable_iz_a):
        return at_least("battery_cable", cable_iz_a, least_a, "A", FUSE_SOURCE)
    if fuse_a is None:
        return waiting("battery_fuse", "A", FUSE_SOURCE, ())
    return within("battery_fuse", fuse_a, least_a, cable_iz_a, "A", FUSE_SOURCE)


@rule
def battery_breaks(
    *,
    prospective_a: ProspectiveA,
    breaking_capacity_a: BreakingA,
    fuse_rated_v: BatteryV,
    v_max: BatteryV,
) -> Judgement:
    """Does the fuse break the current of a short circuit, at the battery's highest voltage?

    Source: IEC 60364-4-43:2008, 434.5.1; IEC 60269-1.
    """
    if not fits(v_max, fuse_rated_v):
        return at_most("battery_fuse_v", v_max, fuse_rated_v, "V", FUSE_SOURCE)
    return at_most("battery_breaks", prospective_a, breaking_capacity_a, "A", FUSE_SOURCE)


@rule
def battery_released(*, released: bool) -> Judgement:
    """Is the inverter's battery input released for use?

    Source: inverter sheet.
    """
    return holds("battery_released", released, "inverter sheet")


def _inverter_v(battery_v: float, run_ohm: float, power_w: float) -> float:
    under_root = battery_v**2 - 4 * run_ohm * power_w
    if under_root < 0:
        allowed = "a run over which the inverter can draw this power"
        raise Refused([problem("$.cable", f"{run_ohm:.4g} ohm", allowed)])
    return (battery_v + math.sqrt(under_root)) / 2
