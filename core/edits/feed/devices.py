"""Changing the devices of the feed, its supply, and how the DC side is parted."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import (
    EarthSystem,
    Entry,
    Service,
    SurgeType,
)
from core.edits.edit import Catalogue, Edit, Entered, ReasonEntered, known, picked
from core.edits.feed.whole import with_feed
from core.edits.fields import typed_value
from core.equipment.cables_switches_fixings import Breaker, Isolator, Meter, Plug, SafetySwitch
from core.job.feed import (
    ENDS,
    AcRun,
    DcMethod,
    DcSwitching,
    DeviceKind,
    FeedDevice,
)
from core.job.job import Job
from core.job.safety import SafetyFacts, Shutdown


@dataclass(frozen=True, kw_only=True)
class PutFeedDevice(Edit):
    """A device of the AC side, as typed; `was` names the one that it replaces.

    breaker, isolator, meter: a sheet of the shelf, "" for none, null for the one that is planned.
    """

    do: Literal["put_feed_device"] = "put_feed_device"
    was: Entered | None
    name: Entered
    kind: DeviceKind
    breaker: Entered | None
    isolator: Entered | None
    busbar_a: Entered
    supply_a: Entered
    far_end: bool
    surge: SurgeType
    outdoors: bool
    entry: Entry
    meter: Entered | None = None

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        was = next((one for one in job.feed.devices if one.name == self.was), None)
        made = typed_value(
            FeedDevice,
            self,
            breaker=picked(
                catalogue, "breakers", self.breaker, Breaker, was.breaker if was else None
            ),
            isolator=picked(
                catalogue, "isolators", self.isolator, Isolator, was.isolator if was else None
            ),
            meter=picked(catalogue, "meters", self.meter, Meter, was.meter if was else None),
        )
        return with_device(job, self.was, made)


@dataclass(frozen=True, kw_only=True)
class RemoveFeedDevice(Edit):
    """A device out of the path; runs of one size that met there are joined."""

    do: Literal["remove_feed_device"] = "remove_feed_device"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_device(job, self.name)


@dataclass(frozen=True, kw_only=True)
class SetSupply(Edit):
    """What the house is fed with; phase: which a one-phase inverter feeds, "0" while not said."""

    do: Literal["set_supply"] = "set_supply"
    service: Service | None
    earth_system: EarthSystem
    phase: Literal["0", "1", "2", "3"] = "0"

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_supply(job, self.service, self.earth_system, int(self.phase))


@dataclass(frozen=True, kw_only=True)
class ShutdownIn(Checked):
    """How the array is made safe by one touch, as typed."""

    initiator: Entered
    inside_v: Entered
    outside_v: Entered
    seconds: Entered
    listed: bool


@dataclass(frozen=True, kw_only=True)
class SetSafety(Edit):
    """What is known of supply and array beside the plan, as typed; empty or None: nobody looked."""

    do: Literal["set_safety"] = "set_safety"
    fault_ka: Entered = ""
    combined_neutral: bool | None = None
    outbuilding: bool = False
    service_a: Entered = ""
    flashes: Entered = ""
    surge_ucpv_v: Entered = ""
    surge_lead_m: Entered = ""
    point: bool | None = None
    earth_exposed: bool | None = None
    shutdown: ShutdownIn | None = None

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        shutdown = typed_value(Shutdown, self.shutdown) if self.shutdown else None
        made = typed_value(SafetyFacts, self, shutdown=shutdown)
        return with_feed(job, replace(job.feed, safety=made))


@dataclass(frozen=True, kw_only=True)
class ChooseDc(Edit):
    """How the DC side is parted, by whom it was decided and why; sheets as for a device."""

    do: Literal["choose_dc"] = "choose_dc"
    school: DcMethod
    isolator: Entered | None
    safety: Entered | None
    surge: SurgeType
    reason: ReasonEntered
    by: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        dc = job.feed.dc
        made = typed_value(
            DcSwitching,
            self,
            isolator=picked(catalogue, "isolators", self.isolator, Isolator, dc.isolator),
            safety=picked(catalogue, "safety_switches", self.safety, SafetySwitch, dc.safety),
            plug=dc.plug,
        )
        return with_dc(job, made)


@dataclass(frozen=True, kw_only=True)
class ChoosePlug(Edit):
    """The make in which the ends of the strings' leads are made; "" for none."""

    do: Literal["choose_plug"] = "choose_plug"
    id: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        plug = picked(catalogue, "plugs", self.id, Plug, None)
        return with_dc(job, replace(job.feed.dc, plug=plug))


def with_device(job: Job, was: str | None, device: FeedDevice) -> Job:
    """The job with one more device, or one of them (`was`) made anew; runs follow its name."""
    feed = job.feed
    if was is None:
        return with_feed(job, replace(feed, devices=(*feed.devices, device)))
    known("$.was", was, [one.name for one in feed.devices])
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
    others = None if feed.others is None else tuple(
        replace(one, board=device.name) if one.board == was else one for one in feed.others
    )  # fmt: skip
    return with_feed(job, replace(feed, devices=devices, runs=runs, others=others), {was: box})


def without_device(job: Job, name: str) -> Job:
    """The job without a device; two runs of one size that met there become one.

    Raises Refused for the supply point and the inverter, and where other runs end there.
    """
    feed = job.feed
    known("$.name", name, [one.name for one in feed.devices])
    if feed.device(name).kind in ENDS:
        said = f"{name} is an end of the path: it stays."
        raise Refused([problem("$.name", name, "a device between the ends", said)])
    here = tuple(run for run in feed.runs if name in (run.start, run.end))
    runs = (*(run for run in feed.runs if run not in here), *_joined(here, name))
    gone = {run.name for run in here} - {run.name for run in runs}
    made = replace(
        feed,
        devices=tuple(one for one in feed.devices if one.name != name),
        runs=runs,
        containments=tuple(
            replace(way, holds=tuple(one for one in way.holds if one not in gone))
            for way in feed.containments
        ),
    )
    return with_feed(job, made, {name: None})


def _joined(here: tuple[AcRun, ...], name: str) -> tuple[AcRun, ...]:
    """The one run that two of one size become when the device between them goes; else none."""
    match here:
        case (first, second) if first.section_mm2 == second.section_mm2:
            start, end = (run.start if run.end == name else run.end for run in here)
            length_m = first.length_m + second.length_m
            return (replace(first, start=start, end=end, length_m=length_m),)
    return ()


def with_supply(
    job: Job, service: Service | None, earth_system: EarthSystem, phase: int = 0
) -> Job:
    """The job with what the house is fed with."""
    made = replace(job.feed, supply_service=service, earth_system=earth_system, phase=phase)
    return with_feed(job, made)


def with_dc(job: Job, dc: DcSwitching) -> Job:
    """The job with its DC side parted another way."""
    return with_feed(job, replace(job.feed, dc=dc))


DeviceEdit = PutFeedDevice | RemoveFeedDevice | SetSupply | SetSafety | ChooseDc | ChoosePlug
