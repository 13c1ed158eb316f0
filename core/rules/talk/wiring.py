"""A function on a port: whether the port takes it, the cable fits it, the shield ends right."""

from __future__ import annotations

from typing import Annotated, Literal

from core.base.glossary import Name, Note, OutsideMm
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import figure, say
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.equipment.talker import BusM, FewOf, Function, PortFace

PORT_SOURCE = "device sheet (ports)"
Taken = Annotated[tuple[Function, ...], Items("functions on one port", 0, 20)]
Before = Literal["wiring", "cover", "power"]
Around = Annotated[float, Quantity("length of a cable", "m", 0, 10_000)]


@rule
def port_carries(*, face: PortFace, port: Note, taken: Taken, block: Taken = ()) -> Judgement:
    """Does a port take everything that is planned on it?

    taken: functions that end on it; block: those on the ports that share its inside.
    Stop: a function that it has not, more than it takes, two that exclude each other.
    Source: device sheet (ports).
    """
    words = {one: say("talk_functions", one) for one in (*taken, *block)}
    facts = {"port": port, "most": str(face.most)}
    foreign = [words[one] for one in taken if one not in face.functions]
    clash = next((p for p in face.apart if {p.one, p.other} <= {*taken, *block}), None)
    said = ""
    if foreign:
        has = ", ".join(say("talk_functions", one) for one in face.functions)
        said = say("port_said", "lacks", what=", ".join(foreign), has=has, **facts)
    elif clash is not None:
        one, other = (say("talk_functions", each) for each in (clash.one, clash.other))
        said = say("port_said", "apart", one=one, other=other, **facts)
    elif len(taken) > face.most:
        said = say("port_said", "full", what=", ".join(words[one] for one in taken), **facts)
    what = ", ".join(words[one] for one in taken) or say("port_said", "idle")
    return holds("port_carries", not said, PORT_SOURCE, said=said, what=what, port=port)


@rule
def wire_on_port(*, wire: Name, port: Note, far: Note, far_port: bool) -> Judgement:
    """Is a function on a port at both of its ends?

    Source: device sheet (ports).
    """
    if not port or not far_port:
        needs = (say("needs", "port", wire=wire) if not port else say("needs", "far", wire=wire),)
        return waiting("wire_on_port", "", PORT_SOURCE, needs)
    return holds("wire_on_port", True, PORT_SOURCE, wire=wire, port=port, far=far)


@rule
def wire_fits(
    *,
    wire: Name,
    face: PortFace,
    outside_mm: OutsideMm | None = None,
    length_m: Around | None = None,
    cores: FewOf | None = None,
) -> Judgement:
    """Does the cable go with the port: through its seal, with its cores, in its length?

    Source: device sheet (ports); IEC 60529 (degree of protection).
    """
    wants_seal = face.seal_least_mm is not None and face.seal_most_mm is not None
    missing = (
        *((say("needs", "wire_outside", wire=wire),) if wants_seal and outside_mm is None else ()),
        *((say("needs", "wire_length", wire=wire),) if face.cable_m and length_m is None else ()),
        *((say("needs", "wire_cores", wire=wire),) if face.cores and cores is None else ()),
    )
    said = ""
    least, most = face.seal_least_mm, face.seal_most_mm
    if outside_mm is not None and least is not None and most is not None:
        said = "" if least <= outside_mm <= most else _not_sealed(outside_mm, least, most)
    if not said and face.cable_m is not None and length_m is not None and length_m > face.cable_m:
        said = say(
            "wire_said", "long", length=figure(length_m, "m"), most=figure(face.cable_m, "m")
        )
    if not said and cores is not None and cores < face.cores:
        said = say("wire_said", "cores", cores=str(cores), wanted=str(face.cores))
    if not said and missing:
        return waiting("wire_fits", "", PORT_SOURCE, missing)
    return holds("wire_fits", not said, PORT_SOURCE, wire=wire, said=said)


def _not_sealed(outside_mm: float, least_mm: float, most_mm: float) -> str:
    return say(
        "wire_said",
        "seal",
        outside=figure(outside_mm, "mm"),
        least=figure(least_mm, "mm"),
        most=figure(most_mm, "mm"),
    )


@rule
def shield_ends(
    *,
    wire: Name,
    shielded: bool,
    ends: FewOf,
    both: bool = False,
    pin: FewOf | None = None,
    sheet_pin: FewOf = 0,
) -> Judgement:
    """Does the shield end once, or at both ends where the sheet says so, on its own pin?

    ends: at how many ends it is laid on earth. pin: the terminal that was planned; None: the
    sheet's.
    Source: device sheet (shield); IEC 60364-4-44 (measures against interference).
    """
    source = "device sheet (shield); IEC 60364-4-44"
    wanted = 0 if not shielded else 2 if both else 1
    said = ""
    if shielded and pin is not None and sheet_pin and pin != sheet_pin:
        said = say("shield_said", "pin", pin=str(pin), wanted=str(sheet_pin))
    elif shielded and ends == 0:
        return waiting("shield_ends", "", source, (say("needs", "shield", wire=wire),))
    elif ends != wanted:
        said = say("shield_said", "ends", ends=str(ends), wanted=str(wanted))
    return holds("shield_ends", not said, source, wire=wire, said=said)


@rule
def seals_enough(*, device: Name, wanted: FewOf, supplied: FewOf) -> Judgement:
    """Are there as many seals as cables go into the device?

    Source: device sheet (seals supplied); IEC 60529 (degree of protection).
    """
    return holds(
        "seals_enough",
        wanted <= supplied,
        PORT_SOURCE,
        device=device,
        wanted=str(wanted),
        supplied=str(supplied),
    )


@rule
def cable_ends_known(*, wire: Name, length_m: BusM | None = None) -> Judgement:
    """Is the length of a piece of the bus known?

    Source: device sheet (longest bus).
    """
    if length_m is None:
        needs = (say("needs", "wire_length", wire=wire),)
        return waiting("cable_ends_known", "m", PORT_SOURCE, needs)
    return holds("cable_ends_known", True, PORT_SOURCE, wire=wire, length=figure(length_m, "m"))


@rule
def fitted_in_order(*, device: Name, late: bool, before: Before) -> Judgement:
    """Did the part go in before what covers it?

    Source: device sheet (order of fitting).
    """
    what = say("fit_before", before)
    source = "device sheet (order of fitting)"
    return holds("fitted_in_order", not late, source, bad="watch", device=device, what=what)


@rule
def comes_later(*, wire: Name) -> Judgement:
    """Does the cable wait with slack, label and a blank for a device that comes later?

    Source: trade practice.
    """
    return holds("comes_later", False, "trade practice", bad="watch", wire=wire)
