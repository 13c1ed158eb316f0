"""Changing the AC runs between supply and inverter."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from core.base.errors import Refused, problem
from core.base.glossary import (
    Insulation,
    LengthM,
    Material,
    Method,
    SectionMm2,
    Strands,
    Terminals,
)
from core.edits.edit import Catalogue, Edit, Entered, known
from core.edits.feed.whole import with_feed
from core.edits.fields import typed, typed_value
from core.job.feed import (
    AcRun,
    DeviceKind,
    FeedDevice,
    FeedPlan,
)
from core.job.job import Job


@dataclass(frozen=True, kw_only=True)
class PutRun(Edit):
    """An AC run, as typed; `was` names the one that it replaces."""

    do: Literal["put_run"] = "put_run"
    was: Entered | None
    name: Entered
    start: Entered
    end: Entered
    length_m: Entered
    section_mm2: Entered
    cores: Entered
    material: Material
    strands: Strands
    insulation: Insulation
    terminals: Terminals = "70"
    method: Method
    air_c: Entered
    grouped: Entered
    outside_mm: Entered
    of_network: bool
    shared: bool = False

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_run(job, self.was, typed_value(AcRun, self))


@dataclass(frozen=True, kw_only=True)
class RemoveRun(Edit):
    """An AC run out of the path."""

    do: Literal["remove_run"] = "remove_run"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_run(job, self.name)


@dataclass(frozen=True, kw_only=True)
class SizeRun(Edit):
    """Another conductor size in an AC run."""

    do: Literal["size_run"] = "size_run"
    name: Entered
    section_mm2: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_run_size(job, self.name, typed(SectionMm2, self.section_mm2, "$.section_mm2"))


@dataclass(frozen=True, kw_only=True)
class SplitRun(Edit):
    """A device put into an AC run, so far from its start."""

    do: Literal["split_run"] = "split_run"
    run: Entered
    at_m: Entered
    name: Entered
    kind: DeviceKind

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        at_m = typed(LengthM, self.at_m, "$.at_m")
        return split_run(job, self.run, at_m, FeedDevice(name=self.name, kind=self.kind))


# Below this a piece of a run is no piece.
LEAST_M = 0.1


def with_run(job: Job, was: str | None, run: AcRun) -> Job:
    """The job with one more AC run, or one of them (`was`) made anew. Raises Refused: a loop."""
    feed = job.feed
    if was is None:
        return with_feed(job, replace(feed, runs=(*feed.runs, run)))
    known("$.was", was, [one.name for one in feed.runs])
    runs = tuple(run if one.name == was else one for one in feed.runs)
    ways = tuple(
        replace(one, holds=_renamed(one.holds, was, run.name)) for one in feed.containments
    )
    return with_feed(job, replace(feed, runs=runs, containments=ways))


def without_run(job: Job, name: str) -> Job:
    """The job without an AC run; the chain then has a gap."""
    feed = job.feed
    known("$.name", name, [one.name for one in feed.runs])
    runs = tuple(one for one in feed.runs if one.name != name)
    ways = tuple(replace(one, holds=_without(one.holds, name)) for one in feed.containments)
    return with_feed(job, replace(feed, runs=runs, containments=ways))


def with_run_size(job: Job, name: str, section_mm2: float) -> Job:
    """The job with another conductor size in an AC run; the cable's outside is then not known."""
    known("$.name", name, [one.name for one in job.feed.runs])
    runs = tuple(
        replace(one, section_mm2=section_mm2, outside_mm=None)
        if one.name == name and one.section_mm2 != section_mm2
        else one
        for one in job.feed.runs
    )
    return with_feed(job, replace(job.feed, runs=runs))


def split_run(job: Job, name: str, at_m: float, device: FeedDevice) -> Job:
    """The job with a device put into an AC run, so far from the run's start.

    Raises Refused where the place is not on the run, or the name is taken.
    """
    feed = job.feed
    known("$.run", name, [one.name for one in feed.runs])
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
    return with_feed(job, replace(feed, devices=(*feed.devices, device), runs=runs))


def _free_name(feed: FeedPlan, wanted: str) -> str:
    taken = {one.name for one in feed.runs}
    short = wanted[:24]
    names = (short, *(f"{short} {number}" for number in range(2, 100)))
    return next(name for name in names if name not in taken)


def _renamed(holds: tuple[str, ...], was: str, now: str) -> tuple[str, ...]:
    return tuple(now if one == was else one for one in holds)


def _without(holds: tuple[str, ...], name: str) -> tuple[str, ...]:
    return tuple(one for one in holds if one != name)


RunEdit = PutRun | RemoveRun | SizeRun | SplitRun
