"""What Talk brings to the drive: parts that carry word, signal cable, ferrules, network plugs."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator
from math import fsum

from core.base.messages import say
from core.equipment.talker import FREE, PortFace, TalkerKind
from core.job.job import Job
from core.job.talk import TalkPlan, TalkWire
from core.planning.goods.needed import Needed

# What is brought for its own sake; inverter, controller, battery and meter are counted elsewhere.
BROUGHT: tuple[TalkerKind, ...] = ("board", "stick", "logger", "gateway", "modem", "receiver")
PLUG_ENDS, TWIN = 2, 2
MM_DIGITS = 3
GROUP, SMALL = "communication", "small parts"


def talk_goods(job: Job) -> Iterator[Needed]:
    """Every part, cable and small part of the plan of Talk; nothing where there is none."""
    plan = job.talk
    if plan is None:
        return
    labels = Counter(one.sheet.label for one in plan.devices if one.sheet.what in BROUGHT)
    for label, count in labels.items():
        yield _line(f"talk {label}", GROUP, label, float(count), "talker", kind="talkers")
    yield from _cables(plan, 1 + job.rules.load_in.cable_spare.value / 100)
    plugs = sum(one.function == "network" for one in plan.wires) * PLUG_ENDS
    twins = sum(_twins(plan))
    for key, count in (("network_plugs", plugs), ("twin", twins)):
        if count:
            because = "network_because" if key == "network_plugs" else "twin_because"
            yield _line(f"talk {key}", SMALL, say("load_in", key), float(count), because)
    for device in plan.devices:
        part = device.sheet.pairing.activation_part if device.sheet.pairing else ""
        if part:
            yield _line(f"talk part {device.name}", SMALL, part, 1.0, "talker")


def _line(
    name: str, group: str, what: str, count: float | None, because: str, *,
    unit: str = "pieces", kind: str = "",
) -> Needed:  # fmt: skip
    return Needed(
        id=name[:60],
        group=group,
        what=what,
        unit=say("load_in", "pieces") if unit == "pieces" else unit,
        count=count,
        because=say("load_in", because),
        must=True,
        kind=kind,
    )


def _cables(plan: TalkPlan, spare: float) -> Iterator[Needed]:
    """Signal and network cable by what it is, with what is cut off."""
    lengths: dict[str, list[float | None]] = defaultdict(list)
    for wire in plan.wires:
        lengths[_cable(plan, wire)].append(wire.length_m)
    for what, known in lengths.items():
        metres = [one for one in known if one is not None]
        count = _cut_m(fsum(metres) * spare) if len(metres) == len(known) else None
        yield _line(f"talk {what}", GROUP, what, count, "wires", unit="m")


def _cut_m(length_m: float) -> float:
    """A length to the millimetre: no figure of a sheet is longer than it is read."""
    return round(length_m, MM_DIGITS)


def _cable(plan: TalkPlan, wire: TalkWire) -> str:
    if wire.function == "network":
        return say("load_in", "network_cable")
    face = plan.device(wire.device).sheet.port(wire.port)
    cores = wire.cores or (face.cores if face else 0)
    shielded = face is not None and face.shielded
    return say("load_in", "signal_cable_shielded" if shielded else "signal_cable", cores=str(cores))


def _twins(plan: TalkPlan) -> Iterator[int]:
    """Terminals with two wires, port by port."""
    for device in plan.devices:
        for face in device.sheet.ports:
            here = plan.on(device.name, face.name)
            if len(here) >= TWIN and face.end == "ferrule":
                yield _carrying(face)


def _carrying(face: PortFace) -> int:
    return sum(one != FREE for one in face.pins)
