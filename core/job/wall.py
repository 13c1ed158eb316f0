"""A wall as it is drawn: its outline, what is on it, and what is to hang on it.

Places are in mm: x to the right from the wall's left edge, y up from the ground line; a thing
is placed by its lower left corner.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import (
    AboveMm,
    AcrossMm,
    AzimuthDeg,
    ClearanceMm,
    HeightMethod,
    Name,
    Room,
    StudPitchMm,
    ThicknessMm,
    WallKind,
)
from core.base.quantity import Items, Quantity, Text
from core.equipment.body import Body
from core.equipment.cables_switches_fixings import Fixing

WallSideMm = Annotated[float, Quantity("side of the wall", "mm", 200, 30_000)]
ObjectMm = Annotated[float, Quantity("size of the object", "mm", 5, 30_000)]
DeviceKind = Literal[
    "inverter", "isolator", "safety_switch", "meter", "battery", "trunking", "other"
]
MOST_INVERTERS = 6
ObjectKind = Literal["window", "door", "meter_box", "pipe", "vent", "tap", "backing", "other"]
Opens = Literal["no", "left", "right", "both"]


@dataclass(frozen=True, slots=True)
class Rect:
    """A rectangle on the wall, mm: lower left corner, width, height."""

    x: float
    y: float
    w: float
    h: float

    @property
    def right(self) -> float:
        return self.x + self.w

    @property
    def top(self) -> float:
        return self.y + self.h

    def overlaps(self, other: Rect) -> bool:
        """Whether the two share any area; touching edges do not."""
        return (
            self.x < other.right
            and other.x < self.right
            and self.y < other.top
            and other.y < self.top
        )

    def holds_point(self, x: float, y: float) -> bool:
        return self.x <= x <= self.right and self.y <= y <= self.top


@dataclass(frozen=True, kw_only=True)
class WallSpot(Checked):
    """A place on the wall."""

    x_mm: AcrossMm
    y_mm: AboveMm


@dataclass(frozen=True, kw_only=True)
class WallObject(Checked):
    """Something that is on the wall already. opens: to which side a door or sash swings."""

    name: Name
    kind: ObjectKind
    x_mm: AcrossMm
    y_mm: AboveMm
    width_mm: ObjectMm
    height_mm: ObjectMm
    opens: Opens = "no"

    @property
    def rect(self) -> Rect:
        return Rect(self.x_mm, self.y_mm, self.width_mm, self.height_mm)

    @property
    def kept_clear(self) -> Rect:
        """What must stay free of devices: the object, and the leaf that lies open on the wall."""
        left = self.width_mm if self.opens in ("left", "both") else 0.0
        right = self.width_mm if self.opens in ("right", "both") else 0.0
        return Rect(self.x_mm - left, self.y_mm, self.width_mm + left + right, self.height_mm)


@dataclass(frozen=True, kw_only=True)
class WallDevice(Checked):
    """Something that is to hang on the wall, where, and with which fixing.

    body: None for the job's inverter, whose own sheet has it. of: which further inverter of the
    house it is, by its identity; empty for the first.
    """

    name: Name
    kind: DeviceKind
    label: Name
    x_mm: AcrossMm
    y_mm: AboveMm
    body: Body | None = None
    fixing: Fixing | None = None
    of: Annotated[str, Text("identity of an inverter", 0, 64)] = ""


@dataclass(frozen=True, kw_only=True)
class Wall(Checked):
    """One wall to scale. `stud` is framing with board between; its studs stand at a pitch.

    azimuth_deg: where the wall looks to. front_mm: free depth in front of it. eave_mm: how far
    the eave stands out; eave_height_mm: its underside, None for the wall's top. datum_mm: the
    level line from which holes are marked. reach: which school of mounting height. room: what is
    before a wall indoors; on_way_out: on the way by which people leave; None while nobody has said.
    """

    kind: WallKind
    width_mm: WallSideMm
    height_mm: WallSideMm
    thickness_mm: ThicknessMm
    azimuth_deg: AzimuthDeg
    outdoors: bool = True
    combustible: bool = False
    front_mm: ClearanceMm = 1000.0
    eave_mm: ClearanceMm = 0.0
    eave_height_mm: AboveMm | None = None
    datum_mm: AboveMm = 1500.0
    reach: HeightMethod = "readable"
    room: Room | None = None
    on_way_out: bool | None = None
    stud_first_mm: AcrossMm | None = None
    stud_pitch_mm: StudPitchMm | None = None
    board_edges_mm: Annotated[tuple[AcrossMm, ...], Items("board edges", 0, 40)] = ()
    objects: Annotated[tuple[WallObject, ...], Items("objects on the wall", 0, 200)] = ()
    devices: Annotated[tuple[WallDevice, ...], Items("devices on the wall", 0, 40)] = ()

    def contradictions(self) -> Iterator[Problem]:
        if self.kind == "stud" and self.stud_pitch_mm is None:
            yield problem("$.stud_pitch_mm", "none", "the pitch of the studs in a framed wall")
        if not self.datum_mm < self.height_mm:
            yield problem("$.datum_mm", self.datum_mm, f"below the top, {self.height_mm:g} mm")
        for group, things in (("objects", self.objects), ("devices", self.devices)):
            names = [thing.name for thing in things]
            for index, name in enumerate(names):
                if name in names[:index]:
                    yield problem(f"$.{group}[{index}].name", name, "each name once")
        if (count := sum(device.kind == "inverter" for device in self.devices)) > MOST_INVERTERS:
            yield problem("$.devices", f"{count} inverters", f"{MOST_INVERTERS} inverters at most")
        for index, device in enumerate(self.devices):
            if (device.body is None) != (device.kind == "inverter"):
                allowed = "given for everything but the job's own inverter"
                yield problem(f"$.devices[{index}].body", device.name, allowed)

    def with_device(self, device: WallDevice) -> Wall:
        """The wall with one more device. Raises Refused when its name is taken."""
        return replace(self, devices=(*self.devices, device))

    def with_device_at(self, name: str, x_mm: float, y_mm: float) -> Wall:
        """The wall with the device of that name moved to another place."""
        devices = tuple(
            replace(one, x_mm=x_mm, y_mm=y_mm) if one.name == name else one for one in self.devices
        )
        return replace(self, devices=devices)

    @property
    def top_mm(self) -> float:
        """The underside of what ends the wall above: its top, or the eave where that is lower."""
        return min(self.height_mm, self.eave_height_mm or self.height_mm)

    @property
    def studs_mm(self) -> tuple[float, ...]:
        """Centres of the studs from left to right; none in a wall without framing."""
        if self.stud_pitch_mm is None or self.kind != "stud":
            return ()
        first = self.stud_first_mm or 0.0
        count = int((self.width_mm - first) // self.stud_pitch_mm) + 1
        return tuple(first + number * self.stud_pitch_mm for number in range(max(count, 0)))
