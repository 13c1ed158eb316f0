"""A battery by its sheet, and the battery input of an inverter."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Name, RatedA
from core.base.quantity import Items, Quantity
from core.equipment.sheet import Sheet

BatteryV = Annotated[float, Quantity("battery voltage", "V", 5, 1500)]
InternalOhm = Annotated[float, Quantity("internal resistance of a unit", "Ω", 0, 10)]
UnitKwh = Annotated[float, Quantity("usable energy of a unit", "kWh", 0.1, 200)]
StandbyW = Annotated[float, Quantity("standby of a unit", "W", 0, 500)]
InChain = Annotated[int, Quantity("units in a chain", "", 1, 40)]
BatteryW = Annotated[float, Quantity("power from the battery", "W", 1, 200_000)]
EfficiencyShare = Annotated[float, Quantity("efficiency", "", 0.5, 1)]
Coupling = Literal["dc", "ac"]


@dataclass(frozen=True, kw_only=True)
class BatteryPort(Checked):
    """The battery input of an inverter. released: its maker has released it for use."""

    v_min: BatteryV
    v_max: BatteryV
    max_a: RatedA
    max_w: BatteryW
    efficiency: EfficiencyShare
    released: bool

    def contradictions(self) -> Iterator[Problem]:
        if self.v_min >= self.v_max:
            yield problem("$.v_max", self.v_max, f"above {self.v_min:g} V")


@dataclass(frozen=True, kw_only=True)
class Listed(Checked):
    """An inverter on the list of a battery's maker, by its model."""

    model: Name


@dataclass(frozen=True, kw_only=True)
class Battery(Sheet):
    """One battery's sheet, of one unit of a chain.

    coupling: on an inverter's DC input, or with an inverter of its own on the AC side. unit_v_*,
    internal_ohm: of the whole chain's terminals per unit, units side by side. max_a: continuous,
    of a unit. works_with: inverters on its maker's list; empty where it needs none.
    """

    coupling: Coupling
    max_a: RatedA
    usable_kwh: UnitKwh
    most_units: InChain
    unit_v_min: BatteryV | None = None
    unit_v_nominal: BatteryV | None = None
    unit_v_max: BatteryV | None = None
    internal_ohm: InternalOhm | None = None
    standby_w: StandbyW = 0.0
    works_with: Annotated[tuple[Listed, ...], Items("inverters on the list", 0, 8)] = ()

    def contradictions(self) -> Iterator[Problem]:
        volts = (self.unit_v_min, self.unit_v_nominal, self.unit_v_max)
        known = [one for one in volts if one is not None]
        if self.coupling == "dc" and (len(known) < len(volts) or self.internal_ohm is None):
            yield problem("$.unit_v_min", "none", "all three voltages and the resistance of a unit")
        elif known != sorted(known):
            yield problem("$.unit_v_max", self.unit_v_max or 0.0, "lowest, nominal, highest")
