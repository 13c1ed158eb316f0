"""An edited view of one inverter put back into its house, by name."""

from __future__ import annotations

from dataclasses import fields, replace
from typing import Any

from core.job.feed import (
    AcRun,
    Containment,
    FeedDevice,
    FeedPlan,
)
from core.job.house import view
from core.job.house_views import OWN_PLAN
from core.job.job import KEPT_APART, Job
from core.job.station import Station
from core.job.wall import Wall, WallDevice


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
    now = {one.name: _own_again(one, of) for one in edited.devices}
    kept = [one if one in apart else now.get(one.name) for one in (whole.devices if whole else ())]
    known = {one.name for one in (whole.devices if whole else ())}
    return replace(
        edited,
        objects=tuple(one for one in edited.objects if one.name not in names),
        devices=(
            *(one for one in kept if one),
            *(one for name, one in now.items() if name not in known),
        ),
    )


def _own_again(one: WallDevice, of: str) -> WallDevice:
    return replace(one, of=of) if one.kind == "inverter" else one


def _own_feed(station: Station, feed: FeedPlan) -> dict[str, Any]:
    """What of an edited feed is the station\'s own."""
    board = next((one for one in feed.devices if one.name == station.board), None)
    own = {"dc": feed.dc, "phase": feed.phase, "backup": feed.backup}
    return own | {"breaker": board.breaker if board else None}
