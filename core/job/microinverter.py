"""A roof of microinverters as it is planned: units under modules, branches, the trunk's links."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime
from math import fsum
from typing import Annotated, Literal, NamedTuple

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import (
    BranchFeed,
    GapRule,
    Host,
    Identity,
    LabelMethod,
    Name,
    Note,
    Phase,
    Port,
    PowerW,
    Service,
    ShiftMm,
    TrunkOrder,
    UnitEarth,
    WayM,
)
from core.base.quantity import Items, Text
from core.equipment.cables_switches_fixings import Breaker
from core.equipment.micro import Micro, Trunk
from core.job.feed import FeedName
from core.job.roof import ModulePlace, Plane, place_text

# The steps by which a unit is replaced, in their order; the serial is read on the map.
SWAP_STEPS = (
    "branch_off",
    "locked_off",
    "waited",
    "drop_apart",
    "leads_apart",
    "swapped",
    "leads_in",
    "drop_in",
)
UnitName = Annotated[str, Text("unit", 1, 12)]
BranchName = Annotated[str, Text("branch", 1, 12)]
# How the trunk gets from one unit to the next: by one pitch and no more; by its own drops, skipping
# some; by one drop and extensions; by links of several lengths; or cut and joined in a box, with a
# length of its own.
LinkHow = Literal["pitch", "drops", "extension", "joint", "links"]
GatewayOutcome = Literal["read", "unreachable", "silent", "garbage"]


@dataclass(frozen=True, kw_only=True)
class MicroUnit(Checked):
    """One unit and its modules, the first on input 1. shift_mm: by hand, along the row."""

    name: UnitName
    modules: Annotated[tuple[ModulePlace, ...], Items("modules of the unit", 1, 2)]
    shift_mm: ShiftMm = 0.0

    def contradictions(self) -> Iterator[Problem]:
        for index, place in enumerate(self.modules):
            if place in self.modules[:index]:
                said = f"{place_text(place)} is on both inputs: one module's leads never part."
                yield problem(f"$.modules[{index}]", place_text(place), "two modules", said)


@dataclass(frozen=True, kw_only=True)
class TrunkLink(Checked):
    """What is known of the trunk after one unit. length_m: measured along its way.

    how: None leaves it to the job's rule for gaps.
    """

    after: UnitName
    how: LinkHow | None = None
    length_m: WayM | None = None


@dataclass(frozen=True, kw_only=True)
class Branch(Checked):
    """One branch: its units in walking order from the fed end, its phase, its breaker.

    joint: the box where its trunk meets the home run. lead_m: from that box to the first unit.
    """

    name: BranchName
    units: Annotated[tuple[UnitName, ...], Items("units of the branch", 0, 400)] = ()
    phase: Phase = 0
    feed: BranchFeed = "end"
    joint: FeedName | None = None
    lead_m: WayM | None = None
    links: Annotated[tuple[TrunkLink, ...], Items("links of the trunk", 0, 400)] = ()
    breaker: Breaker | None = None

    def contradictions(self) -> Iterator[Problem]:
        for index, name in enumerate(self.units):
            if name in self.units[:index]:
                yield problem(f"$.units[{index}]", name, "each unit once")

    def link_after(self, unit: str) -> TrunkLink:
        """What is known of the trunk after a unit."""
        known = (one for one in self.links if one.after == unit)
        return next(known, TrunkLink(after=unit))


@dataclass(frozen=True, kw_only=True)
class GatewayPlan(Checked):
    """Where the gateway answers that collects what the units report."""

    host: Host = "gateway.local"
    port: Port = 502


class Types(NamedTuple):
    """The unit and the trunk of one plane or branch."""

    unit: Micro
    trunk: Trunk


@dataclass(frozen=True, kw_only=True)
class PlaneTypes(Checked):
    """What lies on one plane, where it is another unit or trunk than the roof's."""

    plane: Name
    unit: Micro | None = None
    trunk: Trunk | None = None


@dataclass(frozen=True, kw_only=True)
class MicroPlan(Checked):
    """The roof of microinverters. three_phase: its branches are spread over three phases.

    types: planes with another unit or trunk than the roof's own.

    earth: how units are earthed; None while nobody chose. order: trunk or units up first.
    label: where the serial labels go.
    """

    unit: Micro
    trunk: Trunk
    units: Annotated[tuple[MicroUnit, ...], Items("units", 0, 400)] = ()
    branches: Annotated[tuple[Branch, ...], Items("branches", 0, 60)] = ()
    three_phase: bool = False
    gaps: GapRule = "skip"
    earth: UnitEarth | None = None
    order: TrunkOrder = "trunk_first"
    label: LabelMethod = "frame_and_map"
    gateway: GatewayPlan = GatewayPlan()
    types: Annotated[tuple[PlaneTypes, ...], Items("planes with their own types", 0, 20)] = ()

    def contradictions(self) -> Iterator[Problem]:
        yield from _doubled("units", [one.name for one in self.units])
        yield from _doubled("branches", [one.name for one in self.branches])
        yield from self._sheet_problems()
        yield from self._module_problems()
        yield from self._branch_problems()

    def _sheet_problems(self) -> Iterator[Problem]:
        if self.unit.service != self.trunk.service:
            said = (
                f"The trunk is for {self.trunk.service} and the unit for {self.unit.service}: "
                "they are not made for each other."
            )
            yield problem("$.trunk.service", self.trunk.service, self.unit.service, said)
        yield from _doubled("types", [one.plane for one in self.types], "plane")
        for index, one in enumerate(self.types):
            for kind, sheet in (("unit", one.unit), ("trunk", one.trunk)):
                if sheet is not None and sheet.service != self.unit.service:
                    path = f"$.types[{index}].{kind}.service"
                    yield problem(path, sheet.service, f"{self.unit.service}, as the roof's own")
            if one.unit is not None and one.unit.nominal_v != self.unit.nominal_v:
                allowed = f"{self.unit.nominal_v:g} V, as the roof's own"
                yield problem(f"$.types[{index}].unit.nominal_v", one.unit.nominal_v, allowed)
        if self.three_phase and self.unit.service != "single":
            allowed = "units that feed one phase, where branches are spread over three"
            yield problem("$.three_phase", "true", allowed)

    def _module_problems(self) -> Iterator[Problem]:
        taken: dict[ModulePlace, str] = {}
        for index, unit in enumerate(self.units):
            sheet = self.sheet_of(unit)
            if len(unit.modules) > sheet.inputs:
                allowed = f"at most {sheet.inputs}, the inputs of {sheet.label}"
                yield problem(f"$.units[{index}].modules", len(unit.modules), allowed)
            for number, place in enumerate(unit.modules):
                if place in taken:
                    said = f"{place_text(place)} is on unit {taken[place]} already."
                    path = f"$.units[{index}].modules[{number}]"
                    yield problem(path, place_text(place), "a module of no other unit", said)
                taken[place] = unit.name

    def _branch_problems(self) -> Iterator[Problem]:
        known = {one.name for one in self.units}
        taken: dict[str, str] = {}
        for index, branch in enumerate(self.branches):
            path = f"$.branches[{index}]"
            for number, name in enumerate(branch.units):
                where = f"{path}.units[{number}]"
                if name not in known:
                    yield problem(where, name, "a unit of this roof")
                elif name in taken:
                    said = f"{name} is on branch {taken[name]} already."
                    yield problem(where, name, "a unit of no other branch", said)
                taken[name] = branch.name
            if self.three_phase != (branch.phase > 0):
                allowed = "1 to 3" if self.three_phase else "0: the roof feeds one service"
                yield problem(f"{path}.phase", branch.phase, allowed)

    @property
    def service(self) -> Service:
        """What the whole roof feeds."""
        return "three" if self.three_phase else self.unit.service

    def types_on(self, plane: str) -> Types:
        """The unit and the trunk of a plane: its own, or the roof's."""
        own = next((one for one in self.types if one.plane == plane), None)
        if own is None:
            return Types(self.unit, self.trunk)
        return Types(own.unit or self.unit, own.trunk or self.trunk)

    def sheet_of(self, unit: MicroUnit) -> Micro:
        """The sheet of a unit: that of its plane."""
        return self.types_on(unit.modules[0].plane).unit if self.types else self.unit

    def types_of(self, branch: Branch) -> Types:
        """The unit and the trunk of a branch: those of the plane of its first unit."""
        if not self.types or not branch.units:
            return Types(self.unit, self.trunk)
        return self.types_on(self.unit_named(branch.units[0]).modules[0].plane)

    @property
    def unit_types(self) -> tuple[Micro, ...]:
        """Every type of unit on the roof, once; the roof's own while there is none."""
        found = dict.fromkeys(self.sheet_of(unit) for unit in self.units) if self.types else ()
        return tuple(found) or (self.unit,)

    @property
    def trunk_types(self) -> tuple[Trunk, ...]:
        """Every type of trunk on the roof, once; the roof's own while there is no branch."""
        used = (one for one in self.branches if one.units) if self.types else ()
        return tuple(dict.fromkeys(self.types_of(one).trunk for one in used)) or (self.trunk,)

    @property
    def max_va(self) -> float:
        """What all units together give at full output."""
        return fsum(self.sheet_of(unit).max_va for unit in self.units)

    def unit_named(self, name: str) -> MicroUnit:
        """The unit of that name."""
        return next(one for one in self.units if one.name == name)

    def branch_of(self, unit: str) -> Branch | None:
        """The branch that a unit is on; None while it is on none."""
        return next((one for one in self.branches if unit in one.units), None)


def phase_units(plan: MicroPlan) -> tuple[int, ...]:
    """Units on each phase; one figure where the roof feeds one service alike."""
    return tuple(map(len, _by_phase(plan)))


def phase_va(plan: MicroPlan) -> tuple[float, ...]:
    """What the units on each phase give at full output."""
    return tuple(fsum(sheet.max_va for sheet in phase) for phase in _by_phase(plan))


def phase_a(plan: MicroPlan) -> tuple[float, ...]:
    """The current of the units on each phase at full output."""
    counted = (Counter(sheet.line_a for sheet in phase) for phase in _by_phase(plan))
    return tuple(fsum(count * line_a for line_a, count in phase.items()) for phase in counted)


def _by_phase(plan: MicroPlan) -> tuple[list[Micro], ...]:
    """The sheet of every unit, phase by phase; all as one where the roof feeds one service."""
    if not plan.three_phase:
        return ([plan.sheet_of(unit) for unit in plan.units],)
    by_name = {unit.name: plan.sheet_of(unit) for unit in plan.units}
    return tuple(
        [by_name[name] for one in plan.branches if one.phase == phase for name in one.units]
        for phase in (1, 2, 3)
    )


def under(plan: MicroPlan, planes: tuple[Plane, ...]) -> MicroPlan:
    """The roof with its units under the modules that are drawn; one left without any goes."""
    drawn = {plane.name: plane for plane in planes}
    units = []
    for unit in plan.units:
        left = tuple(
            place
            for place in unit.modules
            if place.plane in drawn and drawn[place.plane].holds(place.row, place.column)
        )
        if left == unit.modules:
            units.append(unit)
        elif left:
            units.append(replace(unit, modules=left, shift_mm=0.0))
    return with_units(plan, tuple(units))


def with_units(plan: MicroPlan, units: tuple[MicroUnit, ...]) -> MicroPlan:
    """The roof with other units; those that are gone leave their branches."""
    names = {unit.name for unit in units}
    branches = tuple(
        replace(
            branch,
            units=tuple(name for name in branch.units if name in names),
            links=tuple(link for link in branch.links if link.after in names),
        )
        for branch in plan.branches
    )
    return replace(plan, units=units, branches=branches)


@dataclass(frozen=True, kw_only=True)
class GatewayUnit(Checked):
    """One unit as the gateway lists it: its serial, and its power once it reports."""

    serial: Name
    reporting: bool
    power_w: PowerW | None = None


@dataclass(frozen=True, kw_only=True)
class GatewayRead(Checked):
    """One look at the gateway, for good: who, when, what it listed.

    source: over its open protocol, or typed or read from a picture of its list, where it has none.
    """

    id: Identity
    at: datetime
    by: Name
    host: Host
    port: Port
    outcome: GatewayOutcome
    detail: Note
    units: Annotated[tuple[GatewayUnit, ...], Items("units listed", 0, 400)] = ()
    source: Literal["protocol", "typed", "picture"] = "protocol"


def _doubled(group: str, names: list[str], field: str = "name") -> Iterator[Problem]:
    for index, name in enumerate(names):
        if name in names[:index]:
            yield problem(f"$.{group}[{index}].{field}", name, f"each {field} once")


def swap_key(unit: str, step: str) -> str:
    """Unit and step of its replacement in one word."""
    return f"{unit} {step}"
