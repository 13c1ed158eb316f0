"""A roof microinverter and its AC trunk cable as their sheets give them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from core.base.errors import Problem, problem
from core.base.glossary import (
    HeightMm,
    LeadInM,
    LeadM,
    MassKg,
    MaxInputV,
    MaxModuleW,
    Minutes,
    NominalV,
    Note,
    PitchM,
    RatedA,
    ReachMm,
    Service,
    StartV,
    TrackMaxV,
    TrackMinV,
    TrunkOhmPerM,
    UnitA,
    UnitInputs,
    UnitIscA,
    UnitsOnBranch,
    UnitVa,
    WidthMm,
)
from core.equipment.lights import Lights
from core.equipment.linked_trunk import LinkedParts
from core.equipment.sheet import Sheet

MM_PER_M = 1000.0


@dataclass(frozen=True, kw_only=True)
class Micro(Sheet):
    """One microinverter's sheet: the modules it takes, what it gives, how it hangs and reports.

    service: what one unit feeds. max_a: current in each line at full output; None: output over
    nominal voltage. lead_reach_mm: how far a module's middle may lie from the unit before its
    leads need an extension; dc_lead_m: length of its made extension. by_core, by_washer: whether
    the sheet lets it be earthed so; a wire always may.
    report_min: minutes from switching on until it reports; wait_min: minutes without AC before
    its plugs are touched. lights: its table of light patterns.
    """

    service: Service
    nominal_v: NominalV
    max_va: UnitVa
    max_a: UnitA | None = None
    inputs: UnitInputs
    max_module_w: MaxModuleW
    max_input_v: MaxInputV
    max_short_circuit_a: UnitIscA
    start_v: StartV
    track_min_v: TrackMinV
    track_max_v: TrackMaxV
    most_on_branch: UnitsOnBranch
    lead_reach_mm: ReachMm
    dc_lead_m: LeadM | None = None
    width_mm: WidthMm
    height_mm: HeightMm
    mass_kg: MassKg
    by_core: bool = True
    by_washer: bool = True
    dc_fault_limited: bool = False
    serial_form: Note = ""
    report_min: Minutes
    wait_min: Minutes
    lights: Lights = ()

    @property
    def line_a(self) -> float:
        """Current in each line at full output [A]."""
        phases = 3 if self.service == "three" else 1
        return self.max_a or self.max_va / (phases * self.nominal_v)

    def contradictions(self) -> Iterator[Problem]:
        if not self.track_min_v < self.track_max_v <= self.max_input_v:
            allowed = f"above {self.track_min_v:g} V and at most {self.max_input_v:g} V"
            yield problem("$.track_max_v", self.track_max_v, allowed)


@dataclass(frozen=True, kw_only=True)
class Trunk(Sheet):
    """One AC trunk cable with drops at a pitch: one drop and one pitch of cable is a segment.

    r_ohm_per_m: of one conductor, warm. lead_in_m: cable before the first drop. extension_m:
    length of its made extension. earth_core: it carries a protective conductor of its own.
    linked: it has no pitch but is put together from these; pitch_m is then its shortest link.
    """

    service: Service
    pitch_m: PitchM
    lead_in_m: LeadInM
    r_ohm_per_m: TrunkOhmPerM
    rated_a: RatedA
    extension_m: LeadM
    earth_core: bool = True
    linked: LinkedParts | None = None

    def contradictions(self) -> Iterator[Problem]:
        if self.linked is None:
            return
        shortest_m = min(self.linked.links_mm) / MM_PER_M
        if not math.isclose(self.pitch_m, shortest_m):
            yield problem("$.pitch_m", self.pitch_m, f"{shortest_m:g} m, the shortest link")
