"""A converter under each module, and the string that it makes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.base.errors import Problem, problem
from core.base.glossary import (
    FixedStringV,
    MaxInputA,
    MaxInputV,
    MaxModuleW,
    MostStringW,
    OptimisersInString,
    SafetyToleranceV,
    SafetyV,
)
from core.equipment.sheet import Sheet


@dataclass(frozen=True, kw_only=True)
class Optimiser(Sheet):
    """One optimiser's sheet: its input, the safety voltage that counts it, the string's windows.

    The inverter holds the string at `fixed_string_v`, so the string is limited by the count and
    the power of its optimisers, not by module volts.
    """

    max_module_w: MaxModuleW
    max_input_v: MaxInputV
    max_input_a: MaxInputA
    safety_v: SafetyV
    safety_tolerance_v: SafetyToleranceV = 0.1
    fixed_string_v: FixedStringV
    least_in_string: OptimisersInString
    most_in_string: OptimisersInString
    most_string_w: MostStringW

    def contradictions(self) -> Iterator[Problem]:
        if self.most_in_string < self.least_in_string:
            allowed = f"at least {self.least_in_string}"
            yield problem("$.most_in_string", self.most_in_string, allowed)
        if 2 * self.safety_tolerance_v >= self.safety_v:
            allowed = f"below half the safety voltage, {self.safety_v / 2:g} V"
            yield problem("$.safety_tolerance_v", self.safety_tolerance_v, allowed)
