"""How each inverter of a house is seen alone: what is its own, hidden, added by the others."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from core.base.errors import Refused
from core.job.feed import (
    SIGNAL,
    Containment,
    FeedPlan,
    OtherSource,
    string_run,
)
from core.job.job import KEPT_APART, Job
from core.job.reading_kinds import KINDS, SubjectOf
from core.job.readings import Reading
from core.job.station import Station
from core.job.strings import StringPlan
from core.job.subjects import MORE_PAIRS, NEUTRAL_EARTH, SUPPLY_PAIRS
from core.job.wall import Wall, WallObject

# What is read of the house, not of one of its inverters.
OF_HOUSE: frozenset[SubjectOf] = frozenset({
    "site", "plane", "supply_pair", "conductor_pair", "wall_device", "containment", "anything",
    "account_step", "chain_battery", "chain_end", "meter_load", "meter_step", "signal_step",
    "talk_device", "talk_page", "talk_place", "talk_port", "talk_ready", "talk_secret",
    "talk_wire", "label",
})  # fmt: skip
# Pairs of conductors of one phase, whichever it is.
ONE_PHASE = frozenset({*SUPPLY_PAIRS["single"], *MORE_PAIRS["single"]}) - {NEUTRAL_EARTH}
# What every inverter has of its own; all other parts of a job are the house's.
OWN_PLAN = ("inverter", "variant", "strings", "optimiser", "grid", "earthing", "waking")
MOST_NAME_CHARS = 60
# Beside the fields of a house: its views, so that they are not made for each question.
MADE = "_made_views"


def is_shared(job: Job, reading: Reading) -> bool:
    """Whether a reading is of the house, and counts for each of its inverters.

    What is read of an inverter as it hangs on the wall is its own, and on three phases so is what
    is read of one phase that nobody named.
    """
    if job.feed.supply_service == "three" and reading.subject in ONE_PHASE:
        return False
    hung = job.wall.devices if job.wall else ()
    inverters = {one.name for one in hung if one.kind == "inverter"}
    of = KINDS[reading.kind].of
    return of in OF_HOUSE and not (of == "wall_device" and reading.subject in inverters)


def made_views(house: Job) -> tuple[Job, ...]:
    """Each inverter as a job of its own, the first first; made once for a house.

    Raises Refused for what any of them alone would be refused for.
    """
    made: tuple[Job, ...] | None = vars(house).get(MADE)
    if made is None:
        made = vars(house)[MADE] = _views(house)
    return made


def _views(house: Job) -> tuple[Job, ...]:
    board = house.feed.of_kind("branches")
    own = house.own_device or (board.name if board else "")
    ends = {house.id: own} | {one.id: one.name for one in house.stations}
    others = _as_others(house, ends)
    first = replace(
        house,
        stations=(),
        wall=_seen_wall(house, ""),
        feed=_seen_feed(house.feed, ends, house.id, others, _names(house.strings)),
    )
    shared = tuple(one for one in house.readings if is_shared(house, one))
    found = [first]
    for number, one in enumerate(house.stations):
        feed = _seen_feed(house.feed, ends, one.id, others, _names(one.strings))
        devices = tuple(
            replace(device, breaker=one.breaker) if device.name == one.board else device
            for device in feed.devices
        )
        parts = {name: getattr(one, name) for name in (*OWN_PLAN, *KEPT_APART)}
        parts |= {
            "id": one.id,
            "name": f"{house.name} · {one.name}"[:MOST_NAME_CHARS],
            "micro": None,
            "stations": (),
            "wall": _seen_wall(house, one.id),
            "feed": replace(feed, devices=devices, dc=one.dc, phase=one.phase, backup=one.backup),
            "readings": (*shared, *one.readings),
        }
        try:
            found.append(replace(house, **parts))
        except Refused as refused:
            below = f"$.stations[{number}]"
            raise Refused([one.below(below) for one in refused.problems]) from None
    return tuple(found)


def _as_others(house: Job, ends: dict[str, str]) -> dict[str, OtherSource]:
    """Each inverter as another one\'s neighbour sees it, by its identity."""
    source, feed = house.source, house.feed
    chain = feed.chain_to(ends[house.id])
    fitted = [
        feed.device(name) for name in chain.rungs if feed.device(name).kind in ("board", "branches")
    ]
    found = {}
    if fitted:
        breaker = fitted[-1].breaker
        found[house.id] = OtherSource(
            name=ends[house.id],
            kind="inverter",
            board=fitted[-1].name,
            breaker_a=breaker.rated_a
            if breaker
            else _current_a(source.rated_ac_w, source.nominal_v),
            phase=feed.phase if source.service == "single" else 0,
            output_va=source.rated_ac_w,
        )
    for one in house.stations:
        sheet = one.inverter
        found[one.id] = OtherSource(
            name=one.name,
            kind="inverter",
            board=one.board,
            breaker_a=one.breaker.rated_a
            if one.breaker
            else _current_a(sheet.rated_ac_w, sheet.nominal_v),
            phase=one.phase if sheet.service == "single" else 0,
            output_va=sheet.rated_ac_w,
        )
    return found


def _names(strings: tuple[StringPlan, ...]) -> tuple[str, ...]:
    return tuple(one.name for one in strings)


def _current_a(power_w: float, nominal_v: float) -> float:
    """The current on one phase: what a breaker that nobody chose yet must let through at least."""
    return max(1.0, power_w / nominal_v)


def _seen_feed(
    feed: FeedPlan,
    ends: dict[str, str],
    of: str,
    others: dict[str, OtherSource],
    strings: tuple[str, ...],
) -> FeedPlan:
    """The feed as one inverter has it: what leads to another alone is not seen."""
    hidden = _hidden(feed, ends, of, others)
    devices = tuple(one for one in feed.devices if one.name not in hidden)
    runs = tuple(one for one in feed.runs if not hidden & {one.start, one.end})
    circuits = {SIGNAL, *(one.name for one in runs), *map(string_run, strings)}
    beside = []
    for identity, one in others.items():
        if identity == of:
            continue
        if one.board not in hidden:
            beside.append(one)
            continue
        # Behind a board of its own it reaches the shared ones over the last that is seen.
        seen = [rung for rung in feed.chain_to(one.board).rungs if rung not in hidden]
        boards = [rung for rung in seen if feed.device(rung).kind in ("board", "branches")]
        if boards:
            beside.append(replace(one, board=boards[-1]))
    known = None if feed.others is None else (*feed.others, *beside)
    return replace(
        feed,
        devices=devices,
        runs=runs,
        containments=tuple(_seen_ways(feed.containments, circuits)),
        others=known,
    )


def _hidden(
    feed: FeedPlan, ends: dict[str, str], of: str, others: dict[str, OtherSource]
) -> frozenset[str]:
    """Devices that lead to other inverters alone."""
    # Before its cable is planned it is known by the board in which its breaker sits.
    board = others[of].board if of in others else ends[of]
    own = {ends[of], *feed.chain_to(ends[of]).rungs, *feed.chain_to(board).rungs}
    supply = {one.name for one in feed.devices if one.kind == "supply"}
    apart: set[str] = set()
    for identity, end in ends.items():
        if identity != of:
            apart |= {end, *feed.chain_to(end).rungs} - own - supply
    behind = {
        one.name
        for one in feed.devices
        if one.name not in own and apart & set(feed.chain_to(one.name).rungs)
    }
    return frozenset(apart | behind)


def _seen_ways(ways: tuple[Containment, ...], circuits: set[str]) -> Iterator[Containment]:
    """Each way with what it holds of this inverter; one that holds others' alone is theirs."""
    for one in ways:
        holds = tuple(name for name in one.holds if name in circuits)
        if holds or not one.holds:
            yield replace(one, holds=holds)


def _seen_wall(house: Job, of: str) -> Wall | None:
    """The wall with one inverter as its own; the others are in its way as any other object."""
    wall = house.wall
    if wall is None:
        return None
    apart = [one for one in wall.devices if one.kind == "inverter" and one.of != of]
    taken = {one.name for one in wall.objects}
    objects = []
    for one in apart:
        sheet = station_of(house, one.of).inverter if one.of else house.inverter
        if sheet is not None and sheet.body is not None and one.name not in taken:
            body = sheet.body
            objects.append(
                WallObject(
                    name=one.name,
                    kind="other",
                    x_mm=one.x_mm,
                    y_mm=one.y_mm,
                    width_mm=body.width_mm,
                    height_mm=body.height_mm,
                )
            )
    return replace(
        wall,
        objects=(*wall.objects, *objects),
        devices=tuple(replace(one, of="") for one in wall.devices if one not in apart),
    )


def station_of(house: Job, of: str) -> Station:
    return next(one for one in house.stations if one.id == of)
