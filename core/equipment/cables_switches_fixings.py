"""Cables, switches, breakers and fixings as their sheets give them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.glossary import (
    HoleMm,
    Note,
    OutsideMm,
    Poles,
    RatedA,
    RatedV,
    ResidualMa,
    ResidualType,
    SectionMm2,
    Strands,
    TripCurve,
    WallKind,
)
from core.base.quantity import Quantity
from core.equipment.body import Body
from core.equipment.sheet import Sheet
from core.equipment.terminals import Terminals

ScrewMm = Annotated[float, Quantity("diameter", "mm", 2, 20)]
LengthMm = Annotated[float, Quantity("length", "mm", 10, 400)]
BreakingKa = Annotated[float, Quantity("breaking capacity", "kA", 1, 100)]
IpDigits = Annotated[int, Quantity("degree of protection", "", 20, 69)]
HoldsN = Annotated[float, Quantity("working load", "N", 10, 50_000)]


@dataclass(frozen=True, kw_only=True)
class Cable(Sheet):
    """One cable: what it is for, its conductor, cores, insulation and outside diameter."""

    use: Literal["dc", "ac", "earth", "signal"]
    section_mm2: SectionMm2
    cores: Annotated[int, Quantity("cores", "cores", 1, 25)]
    insulation: Literal["pvc", "xlpe", "pv"]
    strands: Strands
    outside_mm: OutsideMm
    rated_v: RatedV


@dataclass(frozen=True, kw_only=True)
class Isolator(Terminals, Sheet):
    """One isolating switch, DC or AC.

    poles_in_series: poles that part one conductor where rated_v holds. duty: its utilisation
    category, as DC-PV2 or AC-22B. ip: the two digits of its degree of protection.
    """

    use: Literal["dc", "ac"]
    poles: Poles
    rated_a: RatedA
    rated_v: RatedV
    directional: bool = False
    poles_in_series: Poles = 1
    duty: Note = ""
    body: Body | None = None
    ip: IpDigits | None = None


@dataclass(frozen=True, kw_only=True)
class Plug(Terminals, Sheet):
    """One make and series of DC plug: the pair of it that is crimped on a string's lead.

    torque_nm: of its back nut; its gland is the seal under that nut. pin_plus, pin_minus: the parts
    that go on each lead. crimp: the tool and die that the sheet names.
    """

    rated_a: RatedA
    rated_v: RatedV
    pin_plus: Note = ""
    pin_minus: Note = ""
    crimp: Note = ""


@dataclass(frozen=True, kw_only=True)
class Breaker(Terminals, Sheet):
    """One circuit breaker, with a residual-current part where residual_ma is given.

    breaking_ka: the largest fault current that it breaks.
    """

    poles: Poles
    rated_a: RatedA
    curve: TripCurve
    residual_type: ResidualType = "none"
    residual_ma: ResidualMa | None = None
    two_way: bool = False
    breaking_ka: BreakingKa | None = None

    def contradictions(self) -> Iterator[Problem]:
        yield from super().contradictions()
        if (self.residual_type == "none") != (self.residual_ma is None):
            allowed = "given for a residual-current type, and only then"
            yield problem("$.residual_ma", self.residual_ma, allowed)


@dataclass(frozen=True, kw_only=True)
class Meter(Sheet):
    """One energy meter: through it, or by clamps round the conductors.

    most_a: through the meter or a clamp. two_way: counts what comes and what goes apart.
    """

    phases: Literal["one", "three"]
    most_a: RatedA
    clamps: Annotated[int, Quantity("clamps", "", 0, 6)] = 0
    two_way: bool = False

    def contradictions(self) -> Iterator[Problem]:
        least = 3 if self.phases == "three" else 1
        if 0 < self.clamps < least:
            yield problem("$.clamps", self.clamps, f"none, or at least {least}")


@dataclass(frozen=True, kw_only=True)
class SafetySwitch(Terminals, Sheet):
    """One automatic switch that parts the DC side on heat or on loss of AC."""

    strings: Annotated[int, Quantity("strings switched", "", 1, 12)]
    rated_a: RatedA
    rated_v: RatedV
    opens_on_heat: bool
    opens_on_loss_of_ac: bool
    charge_s: Annotated[float, Quantity("charging time before first closing", "s", 0, 600)] = 0.0
    body: Body | None = None


@dataclass(frozen=True, kw_only=True)
class WallUnit(Sheet):
    """One more thing that hangs on the wall: a meter, a battery, trunking, a board."""

    what: Literal["meter", "battery", "trunking", "other"]
    body: Body


@dataclass(frozen=True, kw_only=True)
class Fixing(Sheet):
    """One fixing: for which wall, the hole it wants, and what it holds there."""

    wall: WallKind
    diameter_mm: ScrewMm
    length_mm: LengthMm
    drill_mm: ScrewMm
    tension_n: HoldsN
    shear_n: HoldsN
    hole_mm: HoleMm | None = None
