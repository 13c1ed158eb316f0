"""Changing a wall: its outline, what is on it, what hangs on it and where."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.form import read
from core.base.glossary import (
    AcrossMm,
    HeightMethod,
    Room,
    WallKind,
)
from core.base.quantity import Items
from core.edits.edit import Catalogue, Edit, Entered, known, picked, retired
from core.edits.fields import typed, typed_value
from core.equipment.body import Body
from core.equipment.cables_switches_fixings import Fixing, Isolator, SafetySwitch, WallUnit
from core.job.job import Job
from core.job.wall import DeviceKind, ObjectKind, Opens, Wall, WallDevice, WallObject, WallSpot
from core.planning.wall.places import with_device_placed


@dataclass(frozen=True, kw_only=True)
class DrawWall(Edit):
    """The wall's outline and what it is made of, as typed; what is on it stays."""

    do: Literal["draw_wall"] = "draw_wall"
    kind: WallKind
    width_mm: Entered
    height_mm: Entered
    thickness_mm: Entered
    azimuth_deg: Entered
    front_mm: Entered
    eave_mm: Entered
    eave_height_mm: Entered
    datum_mm: Entered
    stud_first_mm: Entered
    stud_pitch_mm: Entered
    board_edges_mm: Annotated[tuple[Entered, ...], Items("board edges mm", 0, 40)]
    reach: HeightMethod
    outdoors: bool
    combustible: bool
    room: Room | None = None
    on_way_out: bool | None = None

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        edges = read(
            tuple[AcrossMm, ...],
            [typed(AcrossMm, text, "$.board_edges_mm") for text in self.board_edges_mm],
            "$.board_edges_mm",
        )
        return with_wall(job, typed_value(Wall, self, board_edges_mm=edges))


@dataclass(frozen=True, kw_only=True)
class PutObject(Edit):
    """An object on the wall, as typed; `was` names the one that it replaces."""

    do: Literal["put_object"] = "put_object"
    was: Entered | None
    name: Entered
    kind: ObjectKind
    x_mm: Entered
    y_mm: Entered
    width_mm: Entered
    height_mm: Entered
    opens: Opens

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_object(job, self.was, typed_value(WallObject, self))


@dataclass(frozen=True, kw_only=True)
class RemoveObject(Edit):
    """An object off the wall."""

    do: Literal["remove_object"] = "remove_object"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_object(job, self.name)


@dataclass(frozen=True, kw_only=True)
class HangDevice(Edit):
    """A device on the wall: the job's inverter, or a sheet from the shelf.

    Without coordinates it hangs at the best place that is found.
    """

    do: Literal["hang_device"] = "hang_device"
    name: Entered
    kind: DeviceKind
    sheet: Entered | None
    x_mm: Entered
    y_mm: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        if self.x_mm.strip() or self.y_mm.strip():
            return with_device(job, self._device(job, catalogue))
        corner = replace(self, x_mm="0", y_mm="0")
        return with_device_placed(job, corner._device(job, catalogue))

    def _device(self, job: Job, catalogue: Catalogue) -> WallDevice:
        if self.kind == "inverter":
            return typed_value(WallDevice, self, label=job.wall_inverter.label[:60], body=None)
        sheet = self._sheet(catalogue)
        return typed_value(WallDevice, self, label=sheet.label[:60], body=body_on(sheet))

    def _sheet(self, catalogue: Catalogue) -> Isolator | SafetySwitch | WallUnit:
        wanted = self.sheet or ""
        if self.kind == "isolator":
            return catalogue.one("isolators", wanted, Isolator, "$.sheet")
        if self.kind == "safety_switch":
            return catalogue.one("safety_switches", wanted, SafetySwitch, "$.sheet")
        return catalogue.one("wall_units", wanted, WallUnit, "$.sheet")


@dataclass(frozen=True, kw_only=True)
class PlaceDevice(Edit):
    """A device at another place, as typed or dragged."""

    do: Literal["place_device"] = "place_device"
    name: Entered
    x_mm: Entered
    y_mm: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        place = typed_value(WallSpot, self)
        return with_device_at(job, self.name, place.x_mm, place.y_mm)


@dataclass(frozen=True, kw_only=True)
class FixDevice(Edit):
    """The fixing of a device, from the shelf."""

    do: Literal["fix_device"] = "fix_device"
    name: Entered
    fixing: Entered | None

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_fixing(
            job, self.name, picked(catalogue, "fixings", self.fixing or "", Fixing, None)
        )


@dataclass(frozen=True, kw_only=True)
class RemoveDevice(Edit):
    """A device off the wall; what was read at it stays."""

    do: Literal["remove_device"] = "remove_device"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_device(job, self.name)


def with_wall(job: Job, wall: Wall) -> Job:
    """The job with its wall drawn anew; what is on the old one stays on it."""
    if job.wall is not None:
        wall = replace(wall, objects=job.wall.objects, devices=job.wall.devices)
    return replace(job, wall=wall)


def with_object(job: Job, was: str | None, thing: WallObject) -> Job:
    """The job with one more object on the wall, or one of them (`was`) drawn anew."""
    wall = job.drawn_wall
    if was is None:
        return replace(job, wall=replace(wall, objects=(*wall.objects, thing)))
    known("$.was", was, [one.name for one in wall.objects], "nothing is there yet")
    objects = tuple(thing if one.name == was else one for one in wall.objects)
    return replace(job, wall=replace(wall, objects=objects))


def without_object(job: Job, name: str) -> Job:
    """The job without an object of the wall."""
    wall = job.drawn_wall
    known("$.name", name, [one.name for one in wall.objects], "nothing is there yet")
    objects = tuple(one for one in wall.objects if one.name != name)
    return replace(job, wall=replace(wall, objects=objects))


def with_device(job: Job, device: WallDevice) -> Job:
    """The job with one more device on the wall. Raises Refused when the name is taken."""
    return replace(job, wall=job.drawn_wall.with_device(device))


def with_device_at(job: Job, name: str, x_mm: float, y_mm: float) -> Job:
    """The job with a device moved to another place."""
    device = _device(job, name)
    return replace(job, wall=job.drawn_wall.with_device_at(device.name, x_mm, y_mm))


def with_fixing(job: Job, name: str, fixing: Fixing | None) -> Job:
    """The job with another fixing for a device."""
    device = _device(job, name)
    return _exchanged(job, device, replace(device, fixing=fixing))


def _device(job: Job, name: str) -> WallDevice:
    devices = job.drawn_wall.devices
    known("$.name", name, [one.name for one in devices], "nothing is there yet")
    return next(one for one in devices if one.name == name)


def _exchanged(job: Job, was: WallDevice, now: WallDevice) -> Job:
    wall = job.drawn_wall
    devices = tuple(now if one is was else one for one in wall.devices)
    return replace(job, wall=replace(wall, devices=devices))


def with_devices(
    job: Job,
    label: str,
    meant: Callable[[WallDevice], bool],
    make: Callable[[WallDevice], WallDevice],
) -> Job:
    """The job with all devices that are meant made anew. Raises Refused where there is none."""
    wall = job.drawn_wall
    if not any(meant(one) for one in wall.devices):
        raise Refused([problem("$.was", label, "something that hangs on the wall")])
    devices = tuple(make(one) if meant(one) else one for one in wall.devices)
    return replace(job, wall=replace(wall, devices=devices))


def body_on(sheet: Isolator | SafetySwitch | WallUnit) -> Body:
    """The body on a sheet. Raises Refused where it gives none."""
    if sheet.body is None:
        said = f"The sheet of {sheet.label} gives no outside dimensions: add them on the shelf."
        raise Refused([problem("$.sheet", sheet.label, "a sheet with a body", said)])
    return sheet.body


def without_device(job: Job, name: str) -> Job:
    """The job without a device on the wall; what was read at it stays."""
    wall = job.drawn_wall
    known("$.name", name, [one.name for one in wall.devices], "nothing is there yet")
    devices = tuple(one for one in wall.devices if one.name != name)
    return replace(
        job, wall=replace(wall, devices=devices), retired=retired(job, frozenset({name}))
    )


WallEdit = DrawWall | PutObject | RemoveObject | HangDevice | PlaceDevice | FixDevice | RemoveDevice
