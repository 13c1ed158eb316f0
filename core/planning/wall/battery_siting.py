"""Where a battery hangs on a wall, judged: its room, the way out, openings, what is under it."""

from __future__ import annotations

import math

from core.base.judgement import Judgement
from core.equipment.inverter import Inverter
from core.figures.rule_packs import RulePack
from core.job.wall import ObjectKind, Rect, Wall
from core.planning.wall.space import body_of, rect_of
from core.rules.wall.battery_siting import (
    battery_below,
    battery_opening,
    battery_room,
    battery_way_out,
)

OPENINGS: frozenset[ObjectKind] = frozenset({"window", "door", "vent"})


def battery_siting(
    wall: Wall, rect: Rect, inverter: Inverter | None, pack: RulePack
) -> tuple[Judgement, ...]:
    """Everything that the place of a battery is asked."""
    openings = [
        (_apart_mm(rect, one.rect), one.name) for one in wall.objects if one.kind in OPENINGS
    ]
    nearest = [
        battery_opening(gap_mm=gap_mm, beside=name, rule_pack=pack)
        for gap_mm, name in sorted(openings)[:1]
    ]
    return (
        battery_room(room=wall.room, outdoors=wall.outdoors, rule_pack=pack),
        battery_way_out(on_way_out=wall.on_way_out),
        *nearest,
        battery_below(under=", ".join(_warm_below(wall, rect, inverter))),
    )


def _warm_below(wall: Wall, rect: Rect, inverter: Inverter | None) -> list[str]:
    """Inverters that hang under any part of the battery."""
    found = []
    for device in wall.devices:
        body = body_of(device, inverter)
        if device.kind == "inverter" and body is not None:
            warm = rect_of(device, body)
            if warm.top <= rect.y and warm.x < rect.right and rect.x < warm.right:
                found.append(device.name)
    return found


def _apart_mm(first: Rect, second: Rect) -> float:
    """The shortest way between two rectangles [mm]; 0 where they touch or overlap."""
    across = max(second.x - first.right, first.x - second.right, 0.0)
    up = max(second.y - first.top, first.y - second.top, 0.0)
    return math.hypot(across, up)
