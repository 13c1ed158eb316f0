"""What feeds the AC side: one wall inverter, or a whole roof of microinverters."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from core.base.glossary import Service
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro
from core.equipment.terminals import AcSide
from core.job.microinverter import MicroPlan, phase_a


@dataclass(frozen=True, kw_only=True)
class AcSource:
    """What feeds the AC side: one wall inverter, or a whole roof of microinverters.

    rated_ac_w: at full output. max_a: of its sheet, in each line; None: power over voltage. ac: the
    inverter's own terminals; a roof of units has none here.
    """

    label: str
    model: str
    service: Service
    nominal_v: float
    rated_ac_w: float
    max_a: float | None
    dc_fault_limited: bool
    ac: AcSide | None


def wall_source(inverter: Inverter) -> AcSource:
    """One wall inverter by its sheet."""
    ac = inverter.ac
    return AcSource(
        label=inverter.label,
        model=inverter.model,
        service=inverter.service,
        nominal_v=inverter.nominal_v,
        rated_ac_w=inverter.rated_ac_w,
        max_a=ac.max_a if ac else None,
        dc_fault_limited=ac is not None and ac.dc_fault_limited,
        ac=ac,
    )


def roof_source(plan: MicroPlan) -> AcSource:
    """All units together; on three phases the fullest phase decides the current."""
    unit = plan.unit
    return AcSource(
        label=unit.label,
        model=counted_models(plan.sheet_of(one) for one in plan.units) or f"0 × {unit.model}",
        service=plan.service,
        nominal_v=unit.nominal_v,
        rated_ac_w=plan.max_va,
        max_a=max(phase_a(plan)),
        dc_fault_limited=all(one.dc_fault_limited for one in plan.unit_types),
        ac=None,
    )


def counted_models(units: Iterable[Micro]) -> str:
    """Units by how many there are of each model; empty for none."""
    counted = Counter(one.model for one in units)
    return " + ".join(f"{count} × {model}" for model, count in counted.items())
