"""Changing a wall: its outline, what is on it, what hangs on it and where."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from core.base.errors import Refused, problem
from core.edits.planes_and_strings import retired
from core.equipment.body import Body
from core.equipment.cables_switches_fixings import Fixing, Isolator, SafetySwitch, WallUnit
from core.job.job import Job
from core.job.wall import Wall, WallDevice, WallObject


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
    _known("$.was", was, [one.name for one in wall.objects])
    objects = tuple(thing if one.name == was else one for one in wall.objects)
    return replace(job, wall=replace(wall, objects=objects))


def without_object(job: Job, name: str) -> Job:
    """The job without an object of the wall."""
    wall = job.drawn_wall
    _known("$.name", name, [one.name for one in wall.objects])
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
    _known("$.name", name, [one.name for one in devices])
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
    _known("$.name", name, [one.name for one in wall.devices])
    devices = tuple(one for one in wall.devices if one.name != name)
    return replace(
        job, wall=replace(wall, devices=devices), retired=retired(job, frozenset({name}))
    )


def _known(path: str, name: str, names: list[str]) -> None:
    if name not in names:
        raise Refused([problem(path, name, " · ".join(names) or "nothing is there yet")])
