"""Ports and wires as they are planned: what sits where, what fits, how each end is made."""

from __future__ import annotations

from collections.abc import Iterator

from core.assessment.talk import PinState, Placing, PortOffer, PortState, TalkerState, WireState
from core.base.judgement import Judgement, worst
from core.base.messages import figure, say
from core.equipment.talker import FREE, PortFace
from core.figures.rule_packs import TalkRule
from core.job.talk import TalkDevice, TalkPlan, TalkWire, of_two
from core.planning.talk.ports import against, places
from core.rules.talk.wiring import (
    comes_later,
    port_carries,
    seals_enough,
    shield_ends,
    wire_fits,
    wire_on_port,
)

NETWORK = "network"
TWIN = 2
NETWORK_CORES = 8
BOTH, NONE = "both", "none"


def talkers(plan: TalkPlan, rules: TalkRule) -> tuple[TalkerState, ...]:
    """Every device of the plan with its ports."""
    return tuple(_talker(plan, rules, one) for one in plan.devices)


def _talker(plan: TalkPlan, rules: TalkRule, device: TalkDevice) -> TalkerState:
    sheet = device.sheet
    judged = tuple(_of_device(plan, device))
    ports = tuple(_port(plan, rules, device, face) for face in sheet.ports)
    return TalkerState(
        name=device.name,
        what=sheet.what,
        title=say("talkers", sheet.what),
        label=sheet.label,
        of=device.of,
        place=device.place,
        address=device.address,
        serves=say("talk", "serves", count=str(sheet.serves)) if sheet.serves else "",
        ports=ports,
        lights=tuple(_light(one.shows, one.state, one.within_s) for one in sheet.lights),
        verdict=worst(("clear", *(one.verdict for one in (*judged, *_judged(ports))))),
        judgements=judged,
    )


def _judged(ports: tuple[PortState, ...]) -> Iterator[Judgement]:
    return (judgement for one in ports for judgement in one.judgements)


def _light(shows: str, state: str, within_s: float | None) -> str:
    told = say("talk", "light", shows=shows, state=say("light_states", state))
    return told if within_s is None else say("talk", "within", told=told, s=figure(within_s, "s"))


def _of_device(plan: TalkPlan, device: TalkDevice) -> Iterator[Judgement]:
    """Whether it has a seal for every cable that goes in."""
    if device.sheet.seals is not None:
        parts = [one for one in plan.devices if one.of == device.name]
        names = (device.name, *(one.name for one in parts))
        into = [
            wire
            for wire in plan.wires
            if any(
                (wire.device == name and wire.port) or (wire.far == name and wire.far_port)
                for name in names
            )
        ]
        yield seals_enough(device=device.name, wanted=len(into), supplied=device.sheet.seals)


def _port(plan: TalkPlan, rules: TalkRule, device: TalkDevice, face: PortFace) -> PortState:
    here = plan.on(device.name, face.name)
    block = [
        wire.function
        for other in device.sheet.ports
        if face.block and other.block == face.block and other is not face
        for wire in plan.on(device.name, other.name)
    ]
    judgement = port_carries(
        face=face,
        port=of_two(device.name, face.name),
        taken=tuple(one.function for one in here),
        block=tuple(block),
    )
    return PortState(
        key=of_two(device.name, face.name),
        name=face.name,
        connector=say("connectors_of", face.connector),
        takes=face.functions,
        words=tuple(say("talk_functions", one) for one in face.functions),
        on=tuple(say("talk_functions", one.function) for one in here),
        wires=tuple(one.name for one in here),
        fits=tuple(
            one.name
            for one in plan.wires
            if device.name in (one.device, one.far) and one.function in face.functions
        ),
        block=face.block,
        make=made(face),
        pins=pins(face, here, rules) if here else (),
        verdict=judgement.verdict,
        judgements=(judgement,),
    )


def made(face: PortFace) -> str:
    """How the end of the cable is made for a port, in words."""
    parts = [
        say("talk_make", "cores", cores=str(face.cores)) if face.cores else "",
        say("talk_make", "section", size=figure(face.section_mm2, "mm²", 2))
        if face.section_mm2
        else "",
        say("talk_make", "shielded") if face.shielded else "",
        say("talk_make", face.end) if face.end != NONE else "",
        say("talk_make", "strip", strip=figure(face.strip_mm, "mm")) if face.strip_mm else "",
        say("talk_make", "torque", torque=figure(face.torque_nm, "Nm", 2))
        if face.torque_nm
        else "",
        say(
            "talk_make", "seal", least=figure(face.seal_least_mm),
            most=figure(face.seal_most_mm, "mm"),
        )
        if face.seal_least_mm and face.seal_most_mm
        else "",
        say("talk_make", "long", most=figure(face.cable_m, "m")) if face.cable_m else "",
    ]  # fmt: skip
    return ", ".join(one for one in parts if one)


def pins(face: PortFace, here: tuple[TalkWire, ...], rules: TalkRule) -> tuple[PinState, ...]:
    """The terminals of a port; two wires on one of them share a twin ferrule.

    A socket of eight without a table of its own is the network's.
    """
    is_network = any(one.function == NETWORK for one in here)
    names = face.pins or ((FREE,) * NETWORK_CORES if is_network else ())
    colours = rules.network_cores if is_network else rules.cores
    used = 0
    found = []
    for number, carries in enumerate(names, start=1):
        is_shield = number == face.shield_pin
        carried = carries != FREE or is_network
        colour = ""
        if carried and not is_shield:
            colour = colours[used % len(colours)]
            used += 1
        found.append(
            PinState(
                number=number,
                carries=say("talk", "pair") if is_network else "" if carries == FREE else carries,
                colour=colour,
                twin=carried and not is_network and len(here) >= TWIN,
                is_shield=is_shield,
            )
        )
    return tuple(found)


def wires(plan: TalkPlan) -> tuple[WireState, ...]:
    """Every wire of the plan with what is judged of it."""
    return tuple(_wire(plan, one) for one in plan.wires)


def _wire(plan: TalkPlan, wire: TalkWire) -> WireState:
    device = plan.device(wire.device)
    face = device.sheet.port(wire.port)
    far = next((one for one in plan.devices if one.name == wire.far), None)
    far_face = far.sheet.port(wire.far_port) if far and wire.far_port else None
    judged = tuple(_of_wire(wire, face, far, far_face))
    title = say("talk_functions", wire.function)
    return WireState(
        name=wire.name,
        function=wire.function,
        title=title,
        device=wire.device,
        port=wire.port,
        far=wire.far,
        far_port=wire.far_port,
        far_ports=tuple(
            one.name for one in (far.sheet.ports if far else ()) if wire.function in one.functions
        ),
        length_m=wire.length_m,
        outside_mm=wire.outside_mm,
        cores=wire.cores,
        shield=wire.shield,
        no_device_yet=wire.no_device_yet,
        line=_line(wire),
        verdict=worst(("clear", *(one.verdict for one in judged))),
        judgements=judged,
    )


def _line(wire: TalkWire) -> str:
    here = of_two(wire.device, wire.port or say("talk", "no_port"))
    there = wire.far or say("talk", "outside")
    end = of_two(there, wire.far_port) if wire.far_port else there
    return say("talk", "wire", here=here, there=end)


def _of_wire(
    wire: TalkWire, face: PortFace | None, far: TalkDevice | None, far_face: PortFace | None
) -> Iterator[Judgement]:
    has_far = far is None or not far.sheet.ports or far_face is not None or wire.no_device_yet
    yield wire_on_port(
        wire=wire.name, port=wire.port, far=wire.far or say("talk", "outside"), far_port=has_far
    )
    if wire.no_device_yet:
        yield comes_later(wire=wire.name)
    faces = [one for one in (face, far_face) if one is not None]
    for one in faces:
        yield wire_fits(
            wire=wire.name, face=one, outside_mm=wire.outside_mm, length_m=wire.length_m,
            cores=wire.cores,
        )  # fmt: skip
    if faces:
        shielded = any(one.shielded for one in faces)
        yield shield_ends(
            wire=wire.name,
            shielded=shielded,
            ends={NONE: 0, BOTH: 2}.get(wire.shield, 1),
            both=any(one.shield_both for one in faces),
            pin=wire.shield_pin,
            sheet_pin=(face or faces[0]).shield_pin,
        )


def offer(plan: TalkPlan) -> PortOffer | None:
    """Where every function could go, as it is proposed; None while there is nothing to place."""
    if not plan.wires:
        return None
    found = places(plan)
    line = against(plan)
    used = {of_two(device, port) for _, device, port in found}
    idle = [
        of_two(one.name, face.name)
        for one in plan.devices
        for face in one.sheet.ports
        if of_two(one.name, face.name) not in used and face.idle_capped
    ]
    return PortOffer(
        fits=bool(found),
        places=tuple(Placing(wire=w, device=d, port=p) for w, d, p in found),
        idle=tuple(idle) if found else (),
        line=line or say("port_said", "all_fit", count=str(len(plan.wires))),
    )
