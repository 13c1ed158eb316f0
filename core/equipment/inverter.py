"""A string inverter as its sheet gives it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from core.errors import Problem, problem
from core.form import Checked
from core.glossary import (
    FullPowerMaxV,
    FullPowerMinV,
    MaxDcV,
    MaxOperatingA,
    MaxShortCircuitA,
    Name,
    NominalV,
    RatedAcW,
    Service,
    StartV,
    TrackMaxV,
    TrackMinV,
)
from core.quantity import Items


@dataclass(frozen=True, kw_only=True)
class Tracker(Checked):
    """One maximum-power-point tracker's own current limits."""

    max_operating_a: MaxOperatingA
    max_short_circuit_a: MaxShortCircuitA


@dataclass(frozen=True, kw_only=True)
class DcWindow(Checked):
    """The DC voltages between which an inverter lives, starts, tracks and gives full power."""

    max_dc_v: MaxDcV
    start_v: StartV
    track_min_v: TrackMinV
    track_max_v: TrackMaxV
    full_power_min_v: FullPowerMinV
    full_power_max_v: FullPowerMaxV

    def contradictions(self) -> Iterator[Problem]:
        rungs = (
            ("track_min_v", self.track_min_v),
            ("full_power_min_v", self.full_power_min_v),
            ("full_power_max_v", self.full_power_max_v),
            ("track_max_v", self.track_max_v),
            ("max_dc_v", self.max_dc_v),
        )
        for (_, low), (name, high) in pairwise(rungs):
            if high < low:
                yield problem(f"$.{name}", high, f"at least {low:g} V")
        if self.start_v > self.max_dc_v:
            yield problem("$.start_v", self.start_v, f"at most {self.max_dc_v:g} V")


@dataclass(frozen=True, kw_only=True)
class Inverter(Checked):
    """One inverter's sheet."""

    id: Name
    maker: Name
    model: Name
    sheet_revision: Name
    service: Service
    rated_ac_w: RatedAcW
    nominal_v: NominalV
    dc: DcWindow
    trackers: Annotated[tuple[Tracker, ...], Items("trackers", 1, 4)]

    @property
    def label(self) -> str:
        return f"{self.maker} {self.model}"
