"""Which port every function of a plan could go on, and what stands against it."""

from __future__ import annotations

from core.base.errors import Refused
from core.base.messages import say
from core.base.trace import kept_ready
from core.equipment.talker import Function
from core.job.talk import TalkPlan, TalkWire, of_two
from core.rules.talk.ports import PortBlock, PortPlaces, TalkPort, Wish, port_places

PLANS_KEPT = 64


@kept_ready(PLANS_KEPT)
def placed(plan: TalkPlan) -> PortPlaces | None:
    """How all functions go on ports, whatever ports they are on now; None where it cannot be told.

    A function that two wires carry on one device wants a port for each.
    """
    try:
        return port_places(ports=_ports(plan), wishes=_wishes(plan), blocks=_blocks(plan))
    except Refused:
        return None


def ends(plan: TalkPlan) -> tuple[tuple[TalkWire, str, Function], ...]:
    """Every end of every wire at a device that has ports: the wire, the device, the function."""
    faces = {one.name: one.sheet for one in plan.devices}
    return tuple(
        (wire, name, wire.function)
        for wire in plan.wires
        for name in (wire.device, wire.far)
        if name in faces and faces[name].ports
    )


def _wishes(plan: TalkPlan) -> tuple[Wish, ...]:
    return tuple(
        Wish(device=device, function=_own(wire, function)) for wire, device, function in ends(plan)
    )


def _own(wire: TalkWire, function: str) -> str:
    """A function apart for each wire, so that each is placed by itself."""
    return f"{function}/{wire.name}"


def _ports(plan: TalkPlan) -> tuple[TalkPort, ...]:
    """Every port, with a function for each wire that could go there."""
    here: dict[str, list[tuple[TalkWire, Function]]] = {}
    for wire, device, function in ends(plan):
        here.setdefault(device, []).append((wire, function))
    return tuple(
        TalkPort(
            id=of_two(device.name, face.name),
            device=device.name,
            functions=tuple(
                _own(wire, function)
                for wire, function in here.get(device.name, ())
                if function in face.functions
            ),
            most=face.most,
            excludes=_pairs(
                here.get(device.name, []), tuple((one.one, one.other) for one in face.apart)
            ),
        )
        for device in plan.devices
        for face in device.sheet.ports
    )


def _pairs(
    here: list[tuple[TalkWire, Function]], apart: tuple[tuple[Function, Function], ...]
) -> tuple[tuple[str, str], ...]:
    return tuple(
        (_own(one, function), _own(other, second))
        for one, function in here
        for other, second in here
        if (function, second) in apart
    )


def _blocks(plan: TalkPlan) -> tuple[PortBlock, ...]:
    """Ports that share their inside, with what never goes together on them."""
    found = []
    for device in plan.devices:
        names = dict.fromkeys(face.block for face in device.sheet.ports if face.block)
        here = [(wire, function) for wire, at, function in ends(plan) if at == device.name]
        for name in names:
            faces = [face for face in device.sheet.ports if face.block == name]
            apart = tuple((one.one, one.other) for face in faces for one in face.apart)
            pairs = _pairs(here, apart)
            if pairs:
                keys = tuple(of_two(device.name, face.name) for face in faces)
                found.append(PortBlock(ports=keys, excludes=pairs))
    return tuple(found)


def places(plan: TalkPlan) -> tuple[tuple[str, str, str], ...]:
    """The first way of all: the wire, the device, the port; empty where not all fit."""
    found = placed(plan)
    if found is None or found.conflicts:
        return ()
    by_wish = {one.wish: one.port for one in found.places}
    return tuple(
        (
            wire.name,
            device,
            by_wish[f"{device}:{_own(wire, function)}"].removeprefix(of_two(device, "")),
        )
        for wire, device, function in ends(plan)
    )


def against(plan: TalkPlan) -> str:
    """What stands against a whole plan in words, and what would free it; empty where it fits."""
    found = placed(plan)
    if found is None:
        return say("port_said", "too_many")
    if not found.conflicts:
        return ""
    sets = [" + ".join(_worded(one) for one in conflict) for conflict in found.conflicts[:2]]
    return say("port_said", "conflict", sets="; ".join(sets), most=str(found.most_together))


def _worded(wish: str) -> str:
    device, _, own = wish.partition(":")
    function, _, wire = own.partition("/")
    return say("port_said", "wish", what=say("talk_functions", function), device=device, wire=wire)
