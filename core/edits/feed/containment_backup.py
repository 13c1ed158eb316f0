"""Changing containment, backup and the loads behind it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import (
    FeedParted,
)
from core.base.quantity import Items
from core.edits.edit import Catalogue, Edit, Entered, known, picked
from core.edits.feed.whole import with_feed
from core.edits.fields import typed_value
from core.equipment.backup_unit import BackupUnit
from core.equipment.battery import Battery
from core.job.feed import (
    BackupPlan,
    BatteryLeads,
    BatteryPlan,
    Containment,
    IslandResidual,
    LoadGroup,
    NeutralLink,
    Way,
)
from core.job.job import Job


@dataclass(frozen=True, kw_only=True)
class PutContainment(Edit):
    """A pipe, trunking or open way, as typed; `was` names the one that it replaces."""

    do: Literal["put_containment"] = "put_containment"
    was: Entered | None
    name: Entered
    way: Way
    holds: Annotated[tuple[Entered, ...], Items("holds", 0, 40)]
    width_mm: Entered
    height_mm: Entered
    parted: FeedParted
    slack_m: Entered
    signal_mm: Entered
    trade_size: Entered = ""
    above_roof_mm: Entered = ""

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_containment(job, self.was, typed_value(Containment, self))


@dataclass(frozen=True, kw_only=True)
class RemoveContainment(Edit):
    """A containment out of the plan."""

    do: Literal["remove_containment"] = "remove_containment"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_containment(job, self.name)


@dataclass(frozen=True, kw_only=True)
class BatteryLeadsIn(Checked):
    """What leads to the inverter's input, as typed."""

    length_m: Entered
    section_mm2: Entered
    fuse_a: Entered
    fuse_rated_v: Entered
    fuse_breaks_a: Entered


@dataclass(frozen=True, kw_only=True)
class BatteryIn(Checked):
    """The battery, as typed. sheet: of the shelf, "" for none, null for the one that is planned."""

    units: Entered
    most_units: Entered
    discharge_a: Entered
    breaker_a: Entered
    approved: bool
    sheet: Entered | None = None
    leads: BatteryLeadsIn | None = None
    phase: Literal["0", "1", "2", "3"] = "0"


@dataclass(frozen=True, kw_only=True)
class PutBackup(Edit):
    """Backup and battery, as typed; loads stay.

    controller: a sheet of the shelf, "" for none, null for the one that is planned.
    """

    do: Literal["put_backup"] = "put_backup"
    limit_a: Entered
    three_phase: bool
    shutdown_line: bool
    battery: BatteryIn | None
    units_va: Entered = ""
    controller: Entered | None = None
    neutral_link: NeutralLink | None = None
    residual: IslandResidual | None = None
    wanted_h: Entered = ""

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        was = job.feed.backup
        before = was.battery if was else None
        battery = _battery(self.battery, before, catalogue) if self.battery else None
        controller = picked(
            catalogue, "backup_units", self.controller, BackupUnit, was.controller if was else None
        )
        loads = was.loads if was else ()
        made = typed_value(BackupPlan, self, battery=battery, loads=loads, controller=controller)
        return with_backup(job, made)


@dataclass(frozen=True, kw_only=True)
class RemoveBackup(Edit):
    """No backup."""

    do: Literal["remove_backup"] = "remove_backup"

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_backup(job, None)


@dataclass(frozen=True, kw_only=True)
class PutLoad(Edit):
    """A group of loads, as typed; `was` names the one that it replaces."""

    do: Literal["put_load"] = "put_load"
    was: Entered | None
    name: Entered
    phase: Entered
    current_a: Entered
    backed_up: bool
    inrush: Entered = "1"

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_load(job, self.was, typed_value(LoadGroup, self))


@dataclass(frozen=True, kw_only=True)
class RemoveLoad(Edit):
    """A group of loads out of the plan."""

    do: Literal["remove_load"] = "remove_load"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_load(job, self.name)


def with_containment(job: Job, was: str | None, one: Containment) -> Job:
    """The job with one more containment, or one of them (`was`) made anew."""
    ways = job.feed.containments
    if was is None:
        return with_feed(job, replace(job.feed, containments=(*ways, one)))
    known("$.was", was, [way.name for way in ways])
    made = tuple(one if way.name == was else way for way in ways)
    return with_feed(job, replace(job.feed, containments=made))


def without_containment(job: Job, name: str) -> Job:
    """The job without a containment; what was read of its lid stays."""
    known("$.name", name, [way.name for way in job.feed.containments])
    left = tuple(way for way in job.feed.containments if way.name != name)
    return with_feed(job, replace(job.feed, containments=left))


def with_backup(job: Job, backup: BackupPlan | None) -> Job:
    """The job with backup planned, or without."""
    return with_feed(job, replace(job.feed, backup=backup))


def with_load(job: Job, was: str | None, load: LoadGroup) -> Job:
    """The job with one more group of loads, or one of them (`was`) made anew."""
    backup = _backup(job)
    if was is None:
        return with_backup(job, replace(backup, loads=(*backup.loads, load)))
    known("$.was", was, [one.name for one in backup.loads])
    loads = tuple(load if one.name == was else one for one in backup.loads)
    return with_backup(job, replace(backup, loads=loads))


def without_load(job: Job, name: str) -> Job:
    """The job without a group of loads."""
    backup = _backup(job)
    known("$.name", name, [one.name for one in backup.loads])
    return with_backup(
        job, replace(backup, loads=tuple(one for one in backup.loads if one.name != name))
    )


def _battery(typed: BatteryIn, was: BatteryPlan | None, catalogue: Catalogue) -> BatteryPlan:
    sheet = picked(catalogue, "batteries", typed.sheet, Battery, was.sheet if was else None)
    leads = typed_value(BatteryLeads, typed.leads) if typed.leads else None
    return typed_value(BatteryPlan, typed, sheet=sheet, leads=leads)


def _backup(job: Job) -> BackupPlan:
    if job.feed.backup is None:
        raise Refused([problem("$.backup", "none", "a job with backup")])
    return job.feed.backup


AroundEdit = PutContainment | RemoveContainment | PutBackup | RemoveBackup | PutLoad | RemoveLoad
