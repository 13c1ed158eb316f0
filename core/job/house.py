"""A house with several inverters: each looked at as a job of its own, and put back whole.

A view is what a job with one inverter would be: its own plan and readings, what the house shares,
and the others as what feeds beside it. Everything that judges or edits one inverter works on its
view; `merged` brings an edited view back into the house.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, fields, replace
from typing import Any

from core.base.errors import Refused
from core.job.feed import (
    SIGNAL,
    AcRun,
    Containment,
    FeedDevice,
    FeedPlan,
    OtherSource,
    string_run,
)
from core.job.fingerprints import stamped
from core.job.job import KEPT_APART, Job
from core.job.reading_kinds import KINDS, SubjectOf
from core.job.readings import Reading
from core.job.roof import ModulePlace
from core.job.station import Station
from core.job.strings import StringPlan
from core.job.subjects import MORE_PAIRS, NEUTRAL_EARTH, SUPPLY_PAIRS, supply_pairs
from core.job.wall import Wall, WallDevice, WallObject

# What is read of the house, not of one of its inverters.
OF_HOUSE: frozenset[SubjectOf] = frozenset({
    "site", "plane", "supply_pair", "conductor_pair", "wall_device", "containment", "anything",
})  # fmt: skip
# Pairs of conductors of one phase, whichever it is.
ONE_PHASE = frozenset({*SUPPLY_PAIRS["single"], *MORE_PAIRS["single"]}) - {NEUTRAL_EARTH}
# What every inverter has of its own; all other parts of a job are the house's.
OWN_PLAN = ("inverter", "strings", "optimiser", "grid", "earthing", "waking")
MOST_NAME_CHARS = 60
# Beside the fields of a house: its views, so that they are not made for each question.
MADE = "_made_views"
NOTHING_KEPT: dict[str, Any] = dict.fromkeys(KEPT_APART, ())


@dataclass(frozen=True, kw_only=True)
class View(Job):
    """One inverter of a house as a job of its own.

    sisters: the views of the others, in the order of the house; earlier: how many of them stand
    before this one. house_id: the identity of the house and its first inverter.
    """

    house_id: str = ""
    sisters: tuple[Job, ...] = ()
    earlier: int = 0


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


def strings_elsewhere(job: Job) -> tuple[StringPlan, ...]:
    """The strings of the other inverters of the house."""
    sisters = job.sisters if isinstance(job, View) else ()
    return tuple(string for one in sisters for string in one.strings)


def modules_elsewhere(job: Job) -> frozenset[ModulePlace]:
    """Modules of the roof that hang on the other inverters, as far as they are drawn."""
    sisters = job.sisters if isinstance(job, View) else ()
    units = (unit for one in sisters if one.micro is not None for unit in one.micro.units)
    drawn = (place for string in strings_elsewhere(job) for place in string.places)
    return frozenset((*drawn, *(place for unit in units for place in unit.modules)))


def alone(job: Job) -> Job:
    """A view as a job without its sisters, as a file has it."""
    if not isinstance(job, View):
        return job
    return Job(**{field.name: getattr(job, field.name) for field in fields(Job)})


def view(house: Job, of: str) -> Job:
    """The job of one inverter of a house, by its identity; of a house with one, the job itself.

    Raises KeyError for an identity that is none of its inverters'.
    """
    if not house.stations:
        if of != house.id:
            raise KeyError(of)
        return house
    return _among(house, {one.id: one for one in made_views(house)}, of)


def _among(house: Job, every: dict[str, Job], of: str) -> View:
    """One of the inverters beside its sisters; it was checked as it was made."""
    own, sisters = every[of], tuple(one for one in every.values() if one.id != of)
    kept = tuple(one for one in own.readings if not _anothers(one, own, sisters))
    made = object.__new__(View)
    beside = {"house_id": house.id, "sisters": sisters, "earlier": [*every].index(of)}
    vars(made).update(vars(own) | beside | {"readings": kept})
    return made


def own_goods(job: Job) -> Job:
    """A job with what is counted for it: of what a house shares, each piece for one inverter alone.

    A plane goes with the first inverter that hangs on it, boards and cables that all use with the
    first of the house. It is for counting only: strings may lie on planes that it has not.
    """
    if not isinstance(job, View):
        return job
    before = job.sisters[: job.earlier]
    taken = {plane for one in before for plane in _planes(one)}
    used = taken | {plane for one in job.sisters for plane in _planes(one)} - set(_planes(job))
    planes = tuple(one for one in job.planes if one.name not in (used if before else used - taken))
    made = object.__new__(Job)
    vars(made).update(vars(alone(job)) | {"planes": planes})
    if before:
        vars(made)["feed"] = _beyond(job.feed, before[0].feed)
    return made


def _beyond(feed: FeedPlan, first: FeedPlan) -> FeedPlan:
    """What of a feed is not the first inverter's already; its own breaker in a shared board is."""
    end = feed.far_end
    board = next((one.board for one in first.others or () if one.name == end), "")
    shared = {one.name for one in first.devices}
    devices = tuple(
        one
        if one.name not in shared
        else replace(
            one, surge="none", isolator=None, breaker=one.breaker if one.name == board else None
        )
        for one in feed.devices
    )
    runs = {one.name for one in first.runs}
    return replace(
        feed, devices=devices, runs=tuple(one for one in feed.runs if one.name not in runs)
    )


def _anothers(reading: Reading, own: Job, sisters: tuple[Job, ...]) -> bool:
    """Whether a reading of the house is of a phase or a plane that is another inverter's alone."""
    of, subject = KINDS[reading.kind].of, reading.subject
    if of == "supply_pair":
        ours, theirs = _pairs(own), [pair for one in sisters for pair in _pairs(one)]
    elif of == "plane":
        ours, theirs = _planes(own), [plane for one in sisters for plane in _planes(one)]
    else:
        return False
    return subject not in ours and subject in theirs


def _pairs(job: Job) -> tuple[str, ...]:
    return supply_pairs(job.feed, job.source.service)


def _planes(job: Job) -> tuple[str, ...]:
    units = job.micro.units if job.micro else ()
    places = (place.plane for unit in units for place in unit.modules)
    return (*(one.plane for one in job.strings), *places)


def views(house: Job) -> tuple[Job, ...]:
    """The view of every inverter, the first first."""
    if not house.stations:
        return (house,)
    every = {one.id: one for one in made_views(house)}
    return tuple(_among(house, every, of) for of in every)


def merged(house: Job, of: str, edited: Job) -> Job:
    """The house with an edited view of one of its inverters put back.

    Raises Refused where the edit does not go with the others.
    """
    if not house.stations:
        return edited
    before = view(house, of)
    station = next((one for one in house.stations if one.id == of), None)
    own = {name: getattr(edited, name) for name in OWN_PLAN}
    shared = {
        field.name: getattr(edited, field.name)
        for field in fields(Job)
        if field.name
        not in (*OWN_PLAN, *KEPT_APART, "id", "name", "micro", "feed", "wall", "stations")
    }
    names = _renamed(before.feed.devices, edited.feed.devices)
    stations = tuple(
        replace(one, name=names.get(one.name, one.name), board=names.get(one.board, one.board))
        for one in house.stations
    )
    parts: dict[str, Any] = shared | {
        "feed": _merged_feed(house, before.feed, edited.feed, station, names),
        "wall": _merged_wall(house.wall, edited.wall, of if station else ""),
    }
    if station is None:
        return replace(
            house, **parts, **own, name=edited.name, micro=edited.micro, stations=stations
        )
    made = tuple(
        replace(one, **own, **_own_feed(one, edited.feed)) if one.id == of else one
        for one in stations
    )
    return replace(house, **parts, stations=made)


def with_kept(house: Job, kept: dict[str, dict[str, Any]]) -> Job:
    """The house with everything that was read and written of each inverter, by its identity."""
    stations = tuple(
        replace(one, **kept[one.id]) if one.id in kept else one for one in house.stations
    )
    return replace(house, stations=stations, **kept.get(house.id, {}))


def stamped_house(house: Job) -> Job:
    """The house with every reading that lacks it given the fingerprint of the plan as it stands."""
    if not house.stations:
        return stamped(house)
    kept: dict[str, dict[str, Any]] = {}
    for one in made_views(house):
        marked = {reading.id: reading for reading in stamped(one).readings}
        own = house.readings if one.id == house.id else _station(house, one.id).readings
        kept[one.id] = {"readings": tuple(marked[reading.id] for reading in own)}
    return with_kept(house, kept)


def _station(house: Job, of: str) -> Station:
    return next(one for one in house.stations if one.id == of)


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
        sheet = _station(house, one.of).inverter if one.of else house.inverter
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


def _renamed(
    before: tuple[FeedDevice | Containment, ...], after: tuple[FeedDevice | Containment, ...]
) -> dict[str, str]:
    """The one device or way that has another name now, where it is one."""
    was, now = {one.name for one in before}, {one.name for one in after}
    gone, new = was - now, now - was
    return {gone.pop(): new.pop()} if len(gone) == len(new) == 1 else {}


def _merged_feed(
    house: Job, before: FeedPlan, after: FeedPlan, station: Station | None, names: dict[str, str]
) -> FeedPlan:
    whole, beside = house.feed, {one.name for one in before.others or ()}
    beside -= {one.name for one in whole.others or ()}
    seen = {one.name for one in before.devices}
    now = {one.name: one for one in after.devices}
    devices = []
    for one in whole.devices:
        name = names.get(one.name, one.name)
        if one.name not in seen:
            devices.append(one)
        elif name in now:
            mine = station is not None and one.name == station.board
            devices.append(replace(now[name], breaker=one.breaker) if mine else now[name])
    known = {one.name for one in devices}
    devices += [one for one in after.devices if one.name not in known]
    others = None if after.others is None else tuple(
        one for one in after.others if one.name not in beside
    )  # fmt: skip
    first = after if station is None else whole
    return replace(
        after,
        dc=first.dc,
        phase=first.phase,
        backup=first.backup,
        devices=tuple(devices),
        runs=_merged_runs(whole.runs, before.runs, after.runs, names),
        containments=_merged_ways(whole, before, after),
        others=others,
    )


def _merged_runs(
    whole: tuple[AcRun, ...],
    before: tuple[AcRun, ...],
    after: tuple[AcRun, ...],
    names: dict[str, str],
) -> tuple[AcRun, ...]:
    seen, now = {one.name for one in before}, {one.name: one for one in after}
    kept = [
        now.get(one.name)
        if one.name in seen
        else replace(one, start=names.get(one.start, one.start), end=names.get(one.end, one.end))
        for one in whole
    ]
    known = {one.name for one in whole}
    return (*(one for one in kept if one), *(one for one in after if one.name not in known))


def _merged_ways(whole: FeedPlan, before: FeedPlan, after: FeedPlan) -> tuple[Containment, ...]:
    """Each way with what it held of others unseen, and those that were not seen at all."""
    seen = {one.name: set(one.holds) for one in before.containments}
    names = _renamed(before.containments, after.containments)
    was = {now: name for name, now in names.items()}
    now = {was.get(one.name, one.name): one for one in after.containments}
    kept = []
    for one in whole.containments:
        if one.name not in seen:
            kept.append(one)
        elif one.name in now:
            unseen = (name for name in one.holds if name not in seen[one.name])
            holds = dict.fromkeys((*one.holds, *now[one.name].holds))
            own = {*now[one.name].holds, *unseen}
            kept.append(replace(now[one.name], holds=tuple(name for name in holds if name in own)))
    known = {one.name for one in whole.containments}
    return (*kept, *(one for name, one in now.items() if name not in known))


def _merged_wall(whole: Wall | None, edited: Wall | None, of: str) -> Wall | None:
    """The wall as edited, and what hangs there of other inverters."""
    if edited is None:
        return None
    apart = [
        one for one in (whole.devices if whole else ()) if one.kind == "inverter" and one.of != of
    ]
    names = {one.name for one in apart} - {one.name for one in (whole.objects if whole else ())}
    return replace(
        edited,
        objects=tuple(one for one in edited.objects if one.name not in names),
        devices=(*(_own_again(one, of) for one in edited.devices), *apart),
    )


def _own_again(one: WallDevice, of: str) -> WallDevice:
    return replace(one, of=of) if one.kind == "inverter" else one


def _own_feed(station: Station, feed: FeedPlan) -> dict[str, Any]:
    """What of an edited feed is the station\'s own."""
    board = next((one for one in feed.devices if one.name == station.board), None)
    own = {"dc": feed.dc, "phase": feed.phase, "backup": feed.backup}
    return own | {"breaker": board.breaker if board else None}
