"""Terminals and the gland before them: what they grip, how tight, which cable seals."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import GlandMm, GripMm2, RatedA, StripMm, TorqueNm


@dataclass(frozen=True, kw_only=True)
class Terminals(Checked):
    """Terminals that grip conductors between two sizes at a torque, and the gland before them."""

    least_mm2: GripMm2
    most_mm2: GripMm2
    torque_nm: TorqueNm
    strip_mm: StripMm | None = None
    gland_least_mm: GlandMm | None = None
    gland_most_mm: GlandMm | None = None

    def contradictions(self) -> Iterator[Problem]:
        if self.most_mm2 < self.least_mm2:
            yield problem("$.most_mm2", self.most_mm2, f"at least {self.least_mm2:g} mm²")
        low, high = self.gland_least_mm, self.gland_most_mm
        if (low is None) != (high is None):
            yield problem("$.gland_most_mm", high, "both ends of the gland's range, or none")
        elif low is not None and high is not None and high < low:
            yield problem("$.gland_most_mm", high, f"at least {low:g} mm")


@dataclass(frozen=True, kw_only=True)
class AcSide(Terminals):
    """The AC side of an inverter: its terminals and gland, its current, what it declares.

    max_a: maximum output current of the sheet, for each line. dc_fault_limited: the maker
    declares that it cannot feed a DC fault current above 6 mA. upstream_most_a: the largest device
    that may protect it.
    """

    max_a: RatedA | None = None
    upstream_most_a: RatedA | None = None
    dc_fault_limited: bool = False
