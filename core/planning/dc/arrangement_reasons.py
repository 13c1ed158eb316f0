"""What is said of arrangements: what each does, what puts it behind, what blocks a better one."""

from __future__ import annotations

from collections.abc import Iterator

from core.base.messages import figure, say
from core.planning.dc.allowance import Allowance


def blocked(allowed: Allowance) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """What keeps modules off, and the nearest changes that would free them."""
    pairs = [*_plane_blocks(allowed), *_inverter_blocks(allowed)]
    return tuple(block for block, _ in pairs), tuple(dict.fromkeys(free for _, free in pairs))


def _plane_blocks(allowed: Allowance) -> Iterator[tuple[str, str]]:
    for plane in allowed.planes:
        lengths, count = allowed.lengths(plane), allowed.modules[plane.name]
        facts = {"plane": plane.name, "modules": str(count)}
        if not lengths:
            bounds = allowed.planner(plane.name).count(plane.mounting)
            yield bounds.blocks or "", bounds.frees or ""
        elif count < lengths[0]:
            facts |= {"least": str(lengths[0]), "more": str(lengths[0] - count)}
            yield say("arrange", "too_few", **facts), say("arrange", "too_few_frees", **facts)


def _inverter_blocks(allowed: Allowance) -> Iterator[tuple[str, str]]:
    if not any(allowed.most_beside):
        tracker = allowed.trackers[0]
        current_a = allowed.strong_a * allowed.rules.current.isc_factor.value
        facts = {
            "current": figure(current_a, "A"),
            "limit": figure(tracker.max_short_circuit_a, "A"),
        }
        yield say("arrange", "current", **facts), say("arrange", "current_frees", **facts)
        return
    count = allowed.total
    most = max((lengths[-1] for p in allowed.planes if (lengths := allowed.lengths(p))), default=0)
    places = sum(allowed.most_beside)
    if most and (count > places * most or len(allowed.planes) > places):
        facts = {"modules": str(count), "inputs": str(places), "most": str(most)}
        yield say("arrange", "inputs", **facts), say("arrange", "inputs_frees", **facts)
    elif most and len(set(allowed.faces.values())) > len(allowed.trackers):
        facts = {
            "faces": str(len(set(allowed.faces.values()))),
            "trackers": str(len(allowed.trackers)),
        }
        yield say("arrange", "faces", **facts), say("arrange", "faces_frees", **facts)
    limit_w = allowed.job.wall_inverter.max_dc_w
    power_w = count * allowed.heaviest_w
    if limit_w is not None and power_w > limit_w:
        off = -(-(power_w - limit_w) // allowed.heaviest_w)
        facts = {
            "power": figure(power_w, "W", 0),
            "limit": figure(limit_w, "W", 0),
            "off": figure(off, digits=0),
        }
        yield say("arrange", "power", **facts), say("arrange", "power_frees", **facts)
