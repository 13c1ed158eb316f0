"""Terminals and the gland before them: what they grip, how tight, which cable seals."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Protocol

from core.errors import Problem, problem
from core.form import Checked
from core.glossary import GlandMm, GripMm2, RatedA, StripMm, TorqueNm


class Terminals(Protocol):
    """What every sheet with terminals says of them."""

    @property
    def least_mm2(self) -> float: ...
    @property
    def most_mm2(self) -> float: ...
    @property
    def torque_nm(self) -> float: ...
    @property
    def strip_mm(self) -> float | None: ...
    @property
    def gland_least_mm(self) -> float | None: ...
    @property
    def gland_most_mm(self) -> float | None: ...


def terminal_problems(of: Terminals) -> Iterator[Problem]:
    """Ranges that are the wrong way round, or half given."""
    if of.most_mm2 < of.least_mm2:
        yield problem("$.most_mm2", of.most_mm2, f"at least {of.least_mm2:g} mm²")
    low, high = of.gland_least_mm, of.gland_most_mm
    if (low is None) != (high is None):
        yield problem("$.gland_most_mm", high, "both ends of the gland's range, or none")
    elif low is not None and high is not None and high < low:
        yield problem("$.gland_most_mm", high, f"at least {low:g} mm")


@dataclass(frozen=True, kw_only=True)
class AcSide(Checked):
    """The AC side of an inverter: its terminals and gland, its current, what it declares.

    max_a: maximum output current of the sheet, for each line. dc_fault_limited: the maker
    declares that it cannot feed a DC fault current above 6 mA.
    """

    least_mm2: GripMm2
    most_mm2: GripMm2
    torque_nm: TorqueNm
    strip_mm: StripMm | None = None
    gland_least_mm: GlandMm | None = None
    gland_most_mm: GlandMm | None = None
    max_a: RatedA | None = None
    dc_fault_limited: bool = False

    def contradictions(self) -> Iterator[Problem]:
        yield from terminal_problems(self)
