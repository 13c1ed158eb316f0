"""Changing what Arrive settles: permit, people, visits, open points, goods that were swapped."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.quantity import Items, Text
from core.edits.edit import Catalogue, Edit, Entered
from core.edits.fields import typed_value
from core.edits.sheets_and_figures import with_sheet
from core.edits.wall import body_on, with_devices
from core.equipment.backup_unit import BackupUnit
from core.equipment.battery import Battery
from core.equipment.cables_switches_fixings import (
    Breaker,
    Fixing,
    Isolator,
    Meter,
    SafetySwitch,
    WallUnit,
)
from core.equipment.catalogue import SHEETS
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.equipment.sheet import Sheet
from core.job.arrival import CrewMember, OpenItem, Permit, Substitute
from core.job.job import Job
from core.job.microinverter import MicroPlan


@dataclass(frozen=True, kw_only=True)
class SetPermit(Edit):
    """The network operator's permit, as typed; an empty reference takes it away."""

    do: Literal["set_permit"] = "set_permit"
    operator: Entered
    reference: Entered
    granted_on: Entered
    export_w: Entered
    profile: Entered = ""

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        has_permit = bool(self.reference.strip() or self.operator.strip())
        return with_permit(job, typed_value(Permit, self) if has_permit else None)


@dataclass(frozen=True, kw_only=True)
class Member(Checked):
    """Somebody on the job."""

    name: Entered
    licence: Entered
    present: bool


@dataclass(frozen=True, kw_only=True)
class SetCrew(Edit):
    """Who is on the job."""

    do: Literal["set_crew"] = "set_crew"
    crew: Annotated[tuple[Member, ...], Items("crew", 0, 12)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        crew = tuple(typed_value(CrewMember, member) for member in self.crew)
        names = [one.name for one in crew]
        for index, name in enumerate(names):
            if name in names[:index]:
                allowed = "each name once: tell two of one name apart"
                raise Refused([problem(f"$.crew[{index}].name", name, allowed)])
        return with_crew(job, crew)


@dataclass(frozen=True, kw_only=True)
class SetFirstVisit(Edit):
    """Whether the inverter comes on a second visit."""

    do: Literal["set_first_visit"] = "set_first_visit"
    first_visit: bool

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_first_visit(job, first_visit=self.first_visit)


@dataclass(frozen=True, kw_only=True)
class LeaveOpen(Edit):
    """Something left open on purpose."""

    do: Literal["leave_open"] = "leave_open"
    what: Annotated[str, Text("what is left open", 0, 400)]
    owner: Entered
    stage: int

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_open_item(job, typed_value(OpenItem, self))


@dataclass(frozen=True, kw_only=True)
class SettleItem(Edit):
    """An open point, counted from 1, settled or open again."""

    do: Literal["settle_item"] = "settle_item"
    number: int
    settled: bool

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_item_settled(job, self.number, settled=self.settled)


@dataclass(frozen=True, kw_only=True)
class TakeSubstitute(Edit):
    """Goods that came instead of what was planned, by their sheet; `was`: what was planned."""

    do: Literal["substitute"] = "substitute"
    kind: Swapped
    was: Entered
    id: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        now = catalogue.one(self.kind, self.id, SHEETS[self.kind], "$.id")
        return substituted(job, self.kind, self.was, now)


Swapped = Literal[
    "modules",
    "inverters",
    "optimisers",
    "micros",
    "trunks",
    "isolators",
    "safety_switches",
    "wall_units",
    "fixings",
    "breakers",
    "meters",
    "batteries",
    "backup_units",
]


def with_permit(job: Job, permit: Permit | None) -> Job:
    """The job with the operator's permit, or without one."""
    return replace(job, arrival=replace(job.arrival, permit=permit))


def with_crew(job: Job, crew: tuple[CrewMember, ...]) -> Job:
    """The job with these people on it."""
    return replace(job, arrival=replace(job.arrival, crew=crew))


def with_first_visit(job: Job, *, first_visit: bool) -> Job:
    """The job as a first visit without the inverter, or as a whole one."""
    return replace(job, arrival=replace(job.arrival, first_visit=first_visit))


def with_open_item(job: Job, item: OpenItem) -> Job:
    """The job with one more thing left open on purpose."""
    items = (*job.arrival.open_items, item)
    return replace(job, arrival=replace(job.arrival, open_items=items))


def with_item_settled(job: Job, number: int, *, settled: bool) -> Job:
    """The job with an open point, counted from 1, settled or open again; it is never removed."""
    items = job.arrival.open_items
    if not 1 <= number <= len(items):
        raise Refused([problem("$.number", number, f"1 to {len(items)}")])
    changed = tuple(
        replace(item, settled=settled) if at == number else item
        for at, item in enumerate(items, start=1)
    )
    return replace(job, arrival=replace(job.arrival, open_items=changed))


def substituted(job: Job, kind: str, was: str, now: Sheet) -> Job:
    """The job with goods that came instead of what was planned, judged by their own sheet.

    was: the label of what was planned. On the wall every device or fixing of that label is
    exchanged. Raises Refused when the plan holds nothing of that label.
    """
    changed = _exchanged(job, was, now)
    swapped = (*job.arrival.substitutes, Substitute(kind=kind, was=was, now=now.label))
    return replace(changed, arrival=replace(job.arrival, substitutes=swapped))


def _exchanged(job: Job, was: str, now: Sheet) -> Job:
    match now:
        case Module() if was != job.module.label:
            # Another type than the job's came: only the planes that carry it take the new one.
            carry = [p.name for p in job.planes if p.module is not None and p.module.label == was]
            if not carry:
                raise Refused([problem("$.was", was, "a type of module that is planned")])
            for plane in carry:
                job = with_sheet(job, now, plane)
            return job
        case Micro() | Trunk() if job.micro is not None and was in _on_planes(job.micro, now):
            for plane in _on_planes(job.micro, now)[was]:
                job = with_sheet(job, now, plane)
            return job
        case Module() | Inverter() | Optimiser() | Micro() | Trunk():
            return with_sheet(job, now)
        case Breaker() | Meter() | Battery() | BackupUnit():
            return _exchanged_on_path(job, was, now)
        case Fixing():
            return with_devices(
                job,
                was,
                lambda one: one.fixing is not None and one.fixing.label == was,
                lambda one: replace(one, fixing=now),
            )
        case Isolator() | SafetySwitch() | WallUnit():
            body = body_on(now)
            return with_devices(
                job,
                was,
                lambda one: one.label == was and one.kind != "inverter",
                lambda one: replace(one, label=now.label, body=body),
            )
    raise Refused([problem("$.id", now.label, "goods that the plan holds")])


def _on_planes(plan: MicroPlan, now: Micro | Trunk) -> dict[str, list[str]]:
    """Planes by the label of the unit or trunk of their own, of the same kind as what came."""
    found = defaultdict[str, list[str]](list)
    for one in plan.types:
        own = one.trunk if isinstance(now, Trunk) else one.unit
        if own is not None:
            found[own.label].append(one.plane)
    return found


def _exchanged_on_path(job: Job, was: str, now: Breaker | Meter | Battery | BackupUnit) -> Job:
    """The job with another sheet for everything of the energy path that bears that label.

    Raises Refused when nothing does.
    """

    def swap(held: Any) -> Any:
        return now if isinstance(held, type(now)) and held.label == was else held

    feed, roof = job.feed, job.micro
    devices = tuple(
        replace(one, breaker=swap(one.breaker), meter=swap(one.meter)) for one in feed.devices
    )
    backup = feed.backup
    if backup is not None:
        cell = backup.battery
        cell = replace(cell, sheet=swap(cell.sheet)) if cell is not None else None
        backup = replace(backup, controller=swap(backup.controller), battery=cell)
    if roof is not None:
        branches = tuple(replace(one, breaker=swap(one.breaker)) for one in roof.branches)
        roof = replace(roof, branches=branches)
    made = replace(job, feed=replace(feed, devices=devices, backup=backup), micro=roof)
    if made == job and was != now.label:
        raise Refused([problem("$.was", was, "something that is planned")])
    return made


ArrivalEdit = SetPermit | SetCrew | SetFirstVisit | LeaveOpen | SettleItem | TakeSubstitute
