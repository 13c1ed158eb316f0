"""The bus of a plan: its line, its resistors, what an ohmmeter reads of it, what it takes."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from core.assessment.talk import BusState
from core.base.judgement import Judgement
from core.job.talk import ON_BUS, TalkDevice, TalkPlan, TalkWire
from core.rules.talk.bus import bus_ohm, talk_counts
from core.rules.talk.bus_sound import (
    BusPiece,
    bus_addresses,
    bus_devices,
    bus_is_line,
    bus_length,
    bus_one_speed,
    bus_path,
)
from core.rules.talk.wiring import cable_ends_known

# Both cores of 0.25 mm² copper at 20 °C: 17.24 mΩ·mm²/m over the section (IEC 60228).
CORE_OHM_PER_M = 0.01724 / 0.25


def bus_wires(plan: TalkPlan) -> tuple[TalkWire, ...]:
    """The pieces of the bus."""
    return tuple(one for one in plan.wires if one.function in ON_BUS and one.far)


def bus_state(plan: TalkPlan) -> BusState | None:
    """The bus as it is planned; None where the plan has none."""
    pieces = bus_wires(plan)
    if not pieces:
        return None
    joined = tuple(BusPiece(start=one.device, end=one.far) for one in pieces)
    path = bus_path(pieces=joined)
    names = path.order or tuple(dict.fromkeys(n for one in joined for n in (one.start, one.end)))
    known = {one.name: one for one in plan.devices}
    members = [known[name] for name in names if name in known]
    lengths = _lengths(path.order, pieces)
    served = [one for one in members if one.sheet.what not in ("logger", "controller")]
    lead = next((one.sheet for one in members if one.sheet.serves), None)
    page = next((one.sheet.page_of for one in members if one.sheet.page_of), None)
    counts = talk_counts(
        devices=len(served),
        # A sheet that names no number shows and serves them all.
        devices_per_page=page or max(1, len(served)),
        devices_per_logger=lead.serves if lead and lead.serves else max(1, len(served)),
    )
    return BusState(
        order=path.order,
        lengths_m=lengths,
        resistors=(path.order[0], path.order[-1]) if path.order else (),
        expected_ohm=expected_ohm(members, lengths) if path.order else None,
        ports=2 * len(pieces),
        loggers=counts.loggers if lead else 0,
        pages=counts.pages,
        judgements=tuple(_judged(joined, pieces, members, lengths)),
    )


def _lengths(order: tuple[str, ...], pieces: tuple[TalkWire, ...]) -> tuple[float | None, ...]:
    between = {frozenset((one.device, one.far)): one.length_m for one in pieces}
    if not order:
        return tuple(one.length_m for one in pieces)
    return tuple(between.get(frozenset(two)) for two in pairwise(order))


def expected_ohm(
    members: list[TalkDevice], lengths: tuple[float | None, ...], *, far_end: bool = True
) -> float | None:
    """What an ohmmeter reads at the first device, everything dead; None while a length is open or
    no sheet tells the bus's resistors.

    far_end: whether the resistor of the last device is in.
    """
    known = [one for one in lengths if one is not None]
    faces = [one.sheet.bus for one in members if one.sheet.bus is not None]
    if len(known) < len(lengths) or not faces:
        return None
    fitted = [True, *[False] * (len(members) - 2), far_end]
    return bus_ohm(
        cables_m=tuple(known),
        resistors=tuple(fitted[: len(members)]),
        core_ohm_per_m=CORE_OHM_PER_M,
        end_resistor_ohm=faces[0].end_ohm,
        device_input_ohm=faces[0].input_ohm,
    )


def _judged(
    joined: tuple[BusPiece, ...],
    pieces: tuple[TalkWire, ...],
    members: list[TalkDevice],
    lengths: tuple[float | None, ...],
) -> Iterator[Judgement]:
    yield bus_is_line(pieces=joined)
    addressed = [one for one in members if one.sheet.what != "logger"]
    yield bus_addresses(
        devices=tuple(one.name for one in addressed),
        addresses=tuple(one.address for one in addressed),
    )
    open_ends = [one for one in pieces if one.length_m is None]
    for one in open_ends[:1]:
        yield cable_ends_known(wire=one.name)
    faces = [one.sheet.bus for one in members if one.sheet.bus is not None]
    if faces:
        known = [one for one in lengths if one is not None]
        # A sum with a piece missing says nothing of the whole.
        if len(known) == len(lengths):
            yield bus_length(length_m=sum(known), most_m=min(one.most_m for one in faces))
        yield bus_devices(devices=len(members), most=min(one.most_devices for one in faces))
        yield bus_one_speed(speeds=tuple(dict.fromkeys(one.speed for one in faces if one.speed)))
