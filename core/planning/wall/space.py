"""The space around each thing on a wall: what stands nearest on each side, and how much is free."""

from __future__ import annotations

from typing import NamedTuple

from core.base.glossary import Side
from core.base.messages import say
from core.equipment.body import Body
from core.equipment.inverter import Inverter
from core.job.wall import Rect, Wall, WallDevice
from core.rules.wall.clearances import clearance_between

SIDES: tuple[Side, ...] = ("left", "right", "top", "bottom")
FACING: dict[Side, Side] = {"left": "right", "right": "left", "top": "bottom", "bottom": "top"}


class Blocker(NamedTuple):
    """Something that takes room on the wall, and the clearances that it needs itself."""

    name: str
    rect: Rect
    needs: dict[Side, float]


class Space(NamedTuple):
    """One side of a device: the space that it needs there, what is free, and beside what."""

    side: Side
    needed_mm: float
    free_mm: float
    beside: str

    @property
    def spare_mm(self) -> float:
        return self.free_mm - self.needed_mm


NO_NEEDS: dict[Side, float] = dict.fromkeys(SIDES, 0.0)


def body_of(device: WallDevice, inverter: Inverter | None) -> Body | None:
    """The body of a device on the wall; the inverter's is on its own sheet."""
    if device.kind != "inverter":
        return device.body
    return inverter.body if inverter else None


def needs_of(body: Body) -> dict[Side, float]:
    """The clearances that a body's sheet asks for, by side [mm]."""
    return {
        "left": body.clearance_left_mm,
        "right": body.clearance_right_mm,
        "top": body.clearance_top_mm,
        "bottom": body.clearance_bottom_mm,
    }


def rect_of(device: WallDevice, body: Body) -> Rect:
    """Where a device lies on the wall."""
    return Rect(device.x_mm, device.y_mm, body.width_mm, body.height_mm)


def blockers(
    wall: Wall, inverter: Inverter | None, without: str | None = None
) -> tuple[Blocker, ...]:
    """Everything that takes room on the wall but the device named; a backing board takes none."""
    things = [
        Blocker(thing.name, thing.kept_clear, NO_NEEDS)
        for thing in wall.objects
        if thing.kind != "backing"
    ]
    for device in wall.devices:
        body = body_of(device, inverter)
        if device.name != without and body is not None:
            things.append(Blocker(device.name, rect_of(device, body), needs_of(body)))
    return tuple(things)


def spaces(
    wall: Wall, rect: Rect, needs: dict[Side, float], around: tuple[Blocker, ...]
) -> tuple[Space, ...]:
    """The tightest space on each side: to the wall's edges, its top, the ground, its neighbours."""
    tightest = {
        "left": Space("left", needs["left"], rect.x, say("wall", "left_edge")),
        "right": Space("right", needs["right"], wall.width_mm - rect.right, say("wall", "right")),
        "top": Space("top", needs["top"], wall.top_mm - rect.top, say("wall", "top")),
        "bottom": Space("bottom", needs["bottom"], rect.y, say("wall", "ground")),
    }
    for thing in around:
        space = _space_beside(rect, needs, thing)
        if space is not None and space.spare_mm < tightest[space.side].spare_mm:
            tightest[space.side] = space
    return tuple(tightest[side] for side in SIDES)


def _space_beside(rect: Rect, needs: dict[Side, float], thing: Blocker) -> Space | None:
    """The space to one thing, on the side where it is least in the way.

    A thing off to a corner counts only where it reaches into the space of both sides.
    """
    beside = rect.y < thing.rect.top and thing.rect.y < rect.top
    stacked = rect.x < thing.rect.right and thing.rect.x < rect.right
    sides: tuple[Side, ...] = SIDES
    if beside != stacked:
        sides = ("left", "right") if beside else ("top", "bottom")
    found = max((_space(rect, needs, thing, side) for side in sides), key=lambda one: one.spare_mm)
    is_corner = not beside and not stacked
    return None if is_corner and found.spare_mm >= 0 else found


def _space(rect: Rect, needs: dict[Side, float], thing: Blocker, side: Side) -> Space:
    needed = clearance_between(first_mm=needs[side], second_mm=thing.needs[FACING[side]])
    return Space(side, needed, _gap(rect, thing.rect, side), thing.name)


def _gap(rect: Rect, other: Rect, side: Side) -> float:
    return {
        "left": rect.x - other.right,
        "right": other.x - rect.right,
        "top": other.y - rect.top,
        "bottom": rect.y - other.top,
    }[side]
