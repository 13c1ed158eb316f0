"""Changing the feed: its runs and devices, the DC switching, containment, backup."""

from __future__ import annotations

from dataclasses import replace

from core.base.errors import Refused, problem
from core.base.glossary import EarthSystem, Service
from core.edits.planes_and_strings import retired, with_home_run
from core.job.feed import (
    ENDS,
    AcRun,
    BackupPlan,
    Containment,
    DcSwitching,
    FeedDevice,
    FeedPlan,
    HomeRun,
    LoadGroup,
)
from core.job.job import Job, StringPlan, run_ends
from core.job.subjects import switches, test_names

# Below this a piece of a run is no piece.
LEAST_M = 0.1


def with_run(job: Job, was: str | None, run: AcRun) -> Job:
    """The job with one more AC run, or one of them (`was`) made anew. Raises Refused: a loop."""
    feed = job.feed
    if was is None:
        return _with_feed(job, replace(feed, runs=(*feed.runs, run)))
    _known("$.was", was, [one.name for one in feed.runs])
    runs = tuple(run if one.name == was else one for one in feed.runs)
    ways = tuple(
        replace(one, holds=_renamed(one.holds, was, run.name)) for one in feed.containments
    )
    return _with_feed(job, replace(feed, runs=runs, containments=ways))


def without_run(job: Job, name: str) -> Job:
    """The job without an AC run; the chain then has a gap."""
    feed = job.feed
    _known("$.name", name, [one.name for one in feed.runs])
    runs = tuple(one for one in feed.runs if one.name != name)
    ways = tuple(replace(one, holds=_without(one.holds, name)) for one in feed.containments)
    return _with_feed(job, replace(feed, runs=runs, containments=ways))


def with_run_size(job: Job, name: str, section_mm2: float) -> Job:
    """The job with another conductor size in an AC run; the cable's outside is then not known."""
    _known("$.name", name, [one.name for one in job.feed.runs])
    runs = tuple(
        replace(one, section_mm2=section_mm2, outside_mm=None)
        if one.name == name and one.section_mm2 != section_mm2
        else one
        for one in job.feed.runs
    )
    return _with_feed(job, replace(job.feed, runs=runs))


def split_run(job: Job, name: str, at_m: float, device: FeedDevice) -> Job:
    """The job with a device put into an AC run, so far from the run's start.

    Raises Refused where the place is not on the run, or the name is taken.
    """
    feed = job.feed
    _known("$.run", name, [one.name for one in feed.runs])
    run = next(one for one in feed.runs if one.name == name)
    if not LEAST_M <= at_m <= run.length_m - LEAST_M:
        allowed = f"{LEAST_M:g} to {run.length_m - LEAST_M:g} m, on the run"
        raise Refused([problem("$.at_m", at_m, allowed)])
    near = replace(run, end=device.name, length_m=at_m)
    far = replace(
        run,
        name=_free_name(feed, f"{device.name} run"),
        start=device.name,
        length_m=run.length_m - at_m,
    )
    runs = tuple(piece for one in feed.runs for piece in ((near, far) if one is run else (one,)))
    return _with_feed(job, replace(feed, devices=(*feed.devices, device), runs=runs))


def _free_name(feed: FeedPlan, wanted: str) -> str:
    taken = {one.name for one in feed.runs}
    short = wanted[:24]
    names = (short, *(f"{short} {number}" for number in range(2, 100)))
    return next(name for name in names if name not in taken)


def with_device(job: Job, was: str | None, device: FeedDevice) -> Job:
    """The job with one more device, or one of them (`was`) made anew; runs follow its name."""
    feed = job.feed
    if was is None:
        return _with_feed(job, replace(feed, devices=(*feed.devices, device)))
    _known("$.was", was, [one.name for one in feed.devices])
    devices = tuple(device if one.name == was else one for one in feed.devices)
    box = device.name if device.kind == "joint" else None
    runs = tuple(
        replace(
            run,
            start=device.name if run.start == was else run.start,
            end=device.name if run.end == was else run.end,
        )
        for run in feed.runs
    )
    return _with_feed(job, replace(feed, devices=devices, runs=runs), {was: box})


def without_device(job: Job, name: str) -> Job:
    """The job without a device; two runs of one size that met there become one.

    Raises Refused for the supply point and the inverter, and where other runs end there.
    """
    feed = job.feed
    _known("$.name", name, [one.name for one in feed.devices])
    if feed.device(name).kind in ENDS:
        said = f"{name} is an end of the path: it stays."
        raise Refused([problem("$.name", name, "a device between the ends", said)])
    here = [run for run in feed.runs if name in (run.start, run.end)]
    devices = tuple(one for one in feed.devices if one.name != name)
    runs = tuple(run for run in feed.runs if run not in here)
    if len(here) == 2 and here[0].section_mm2 == here[1].section_mm2:  # noqa: PLR2004
        outer = [run.start if run.end == name else run.end for run in here]
        joined = replace(
            here[0],
            start=outer[0],
            end=outer[1],
            length_m=here[0].length_m + here[1].length_m,
        )
        runs = (*runs, joined)
    gone = {run.name for run in here} - {run.name for run in runs}
    ways = tuple(
        replace(way, holds=tuple(one for one in way.holds if one not in gone))
        for way in feed.containments
    )
    made = replace(feed, devices=devices, runs=runs, containments=ways)
    return _with_feed(job, made, {name: None})


def with_supply(job: Job, service: Service | None, earth_system: EarthSystem) -> Job:
    """The job with what the house is fed with."""
    return _with_feed(job, replace(job.feed, supply_service=service, earth_system=earth_system))


def with_dc(job: Job, dc: DcSwitching) -> Job:
    """The job with its DC side parted another way."""
    return _with_feed(job, replace(job.feed, dc=dc))


def with_home_piece(job: Job, string: str, number: int | None, piece: HomeRun) -> Job:
    """The job with one more piece of a home run at its inverter's end, or one of them anew."""
    pieces = _pieces(job, string)
    if number is None:
        return with_home_run(job, string, (*pieces, piece))
    _numbered(number, len(pieces))
    made = tuple(piece if at == number else one for at, one in enumerate(pieces, start=1))
    return with_home_run(job, string, made)


def without_home_piece(job: Job, string: str, number: int) -> Job:
    """The job without a piece of a home run."""
    pieces = _pieces(job, string)
    _numbered(number, len(pieces))
    left = tuple(one for at, one in enumerate(pieces, start=1) if at != number)
    return with_home_run(job, string, left)


def with_home_size(job: Job, string: str, section_mm2: float) -> Job:
    """The job with another size in every piece of a home run."""
    pieces = tuple(
        replace(one, section_mm2=section_mm2, outside_mm=None)
        if one.section_mm2 != section_mm2
        else one
        for one in _pieces(job, string)
    )
    return with_home_run(job, string, pieces)


def _pieces(job: Job, string: str) -> tuple[HomeRun, ...]:
    _known("$.string", string, [one.name for one in job.strings])
    return next(one.home_run for one in job.strings if one.name == string)


def _numbered(number: int, count: int) -> None:
    if not 1 <= number <= count:
        allowed = f"1 to {count}" if count else "no piece is known yet"
        raise Refused([problem("$.number", number, allowed)])


def with_containment(job: Job, was: str | None, one: Containment) -> Job:
    """The job with one more containment, or one of them (`was`) made anew."""
    ways = job.feed.containments
    if was is None:
        return _with_feed(job, replace(job.feed, containments=(*ways, one)))
    _known("$.was", was, [way.name for way in ways])
    made = tuple(one if way.name == was else way for way in ways)
    return _with_feed(job, replace(job.feed, containments=made))


def without_containment(job: Job, name: str) -> Job:
    """The job without a containment; what was read of its lid stays."""
    _known("$.name", name, [way.name for way in job.feed.containments])
    left = tuple(way for way in job.feed.containments if way.name != name)
    return _with_feed(job, replace(job.feed, containments=left))


def with_backup(job: Job, backup: BackupPlan | None) -> Job:
    """The job with backup planned, or without."""
    return _with_feed(job, replace(job.feed, backup=backup))


def with_load(job: Job, was: str | None, load: LoadGroup) -> Job:
    """The job with one more group of loads, or one of them (`was`) made anew."""
    backup = _backup(job)
    if was is None:
        return with_backup(job, replace(backup, loads=(*backup.loads, load)))
    _known("$.was", was, [one.name for one in backup.loads])
    loads = tuple(load if one.name == was else one for one in backup.loads)
    return with_backup(job, replace(backup, loads=loads))


def without_load(job: Job, name: str) -> Job:
    """The job without a group of loads."""
    backup = _backup(job)
    _known("$.name", name, [one.name for one in backup.loads])
    return with_backup(
        job, replace(backup, loads=tuple(one for one in backup.loads if one.name != name))
    )


def _backup(job: Job) -> BackupPlan:
    if job.feed.backup is None:
        raise Refused([problem("$.backup", "none", "a job with backup")])
    return job.feed.backup


def _renamed(holds: tuple[str, ...], was: str, now: str) -> tuple[str, ...]:
    return tuple(now if one == was else one for one in holds)


def _without(holds: tuple[str, ...], name: str) -> tuple[str, ...]:
    return tuple(one for one in holds if one != name)


def _with_feed(job: Job, feed: FeedPlan, boxes: dict[str, str | None] | None = None) -> Job:
    """The job with another feed; what was read of ends and switches that are gone is kept.

    boxes: joint boxes with another name, or none any more: their trunks follow.
    """
    gone = _read_of(job.feed, job.strings) - _read_of(feed, job.strings)
    micro = job.micro
    if micro is not None and boxes:
        branches = tuple(
            replace(one, joint=boxes.get(one.joint, one.joint)) if one.joint else one
            for one in micro.branches
        )
        micro = replace(micro, branches=branches)
    return replace(job, feed=feed, micro=micro, retired=retired(job, gone))


def _read_of(feed: FeedPlan, strings: tuple[StringPlan, ...]) -> frozenset[str]:
    ways = (one.name for one in feed.containments)
    return frozenset((*run_ends(feed, strings), *switches(feed), *ways)) | test_names(feed)


def _known(path: str, name: str, names: list[str]) -> None:
    if name not in names:
        raise Refused([problem(path, name, " · ".join(names) or "none is planned yet")])
