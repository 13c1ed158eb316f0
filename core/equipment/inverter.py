"""A string inverter as its sheet gives it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import (
    FullPowerMaxV,
    FullPowerMinV,
    Has,
    MaxDcV,
    MaxDcW,
    MaxOperatingA,
    MaxShortCircuitA,
    Name,
    NominalV,
    Note,
    OffMethod,
    Pole,
    RatedAcW,
    Service,
    StartV,
    StudMm,
    SurgeType,
    TrackerInputs,
    TrackerMaxW,
    TrackMaxV,
    TrackMinV,
    WakeMethod,
)
from core.base.quantity import Items, Quantity
from core.equipment.battery import BatteryPort
from core.equipment.body import Body
from core.equipment.lights import Lights
from core.equipment.sheet import Sheet
from core.equipment.terminals import AcSide

DischargeMin = Annotated[float, Quantity("capacitors discharge in", "min", 0.1, 60)]
DcSwitchCount = Annotated[int, Quantity("DC switches built in", "", 0, 8)]
PlugPairs = Annotated[int, Quantity("pairs of DC plugs in the box", "", 0, 24)]


@dataclass(frozen=True, kw_only=True)
class Tracker(Checked):
    """One maximum-power-point tracker: how many strings it takes, and its own limits."""

    inputs: TrackerInputs = 1
    max_operating_a: MaxOperatingA
    max_short_circuit_a: MaxShortCircuitA
    max_power_w: TrackerMaxW | None = None


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
class Variant(Checked):
    """One make-up of a family that shares a sheet, by the name on its plate.

    switches: DC switches built in. surge: the surge module built in. fused: string fuses built in.
    plugs: where its DC plugs sit, in words.
    """

    name: Name
    switches: DcSwitchCount = 1
    surge: SurgeType = "none"
    fused: bool = False
    plugs: Note = ""


@dataclass(frozen=True, kw_only=True)
class Inverter(Sheet):
    """One inverter's sheet.

    serial_form: how its serials are written, ``@`` for a letter and ``#`` for a digit.
    pole_earthed: the array pole that the sheet wants earthed, usually none. plug_pairs: pairs of
    DC plugs that lie in the box. ac: its AC side, where the sheet gives it. lights: its table of
    light patterns. switch_on, switch_off: which side its maker wants first, where the sheet says.
    discharge_min: how long its capacitors hold, where the sheet says. battery: its battery input,
    where it has one. insulation_monitor, residual_monitor: it tests the array's insulation before
    it feeds and watches the residual current while it does; arc_detection: it stops on an arc in
    the array. variants: the make-ups that share this sheet; empty where there is one.
    """

    service: Service
    rated_ac_w: RatedAcW
    nominal_v: NominalV
    dc: DcWindow
    trackers: Annotated[tuple[Tracker, ...], Items("trackers", 1, 4)]
    max_dc_w: MaxDcW | None = None
    battery_ready: bool = False
    battery: BatteryPort | None = None
    serial_form: Note = ""
    body: Body | None = None
    earth_stud_mm: StudMm | None = None
    pole_earthed: Pole = "none"
    plug_pairs: PlugPairs | None = None
    ac: AcSide | None = None
    lights: Lights = ()
    switch_on: WakeMethod | None = None
    switch_off: OffMethod | None = None
    discharge_min: DischargeMin | None = None
    insulation_monitor: Has = "unsaid"
    residual_monitor: Has = "unsaid"
    arc_detection: Has = "unsaid"
    variants: Annotated[tuple[Variant, ...], Items("variants", 0, 6)] = ()

    def contradictions(self) -> Iterator[Problem]:
        names = [one.name for one in self.variants]
        for index, name in enumerate(names):
            if name in names[:index]:
                yield problem(f"$.variants[{index}].name", name, "each variant once")

    def variant(self, name: str) -> Variant | None:
        """The make-up of that name; None where the sheet has none."""
        return next((one for one in self.variants if one.name == name), None)
