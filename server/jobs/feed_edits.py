"""Edits of the feed, as they are sent: one shape for each, one way to make them."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Field

from core.base.glossary import (
    EarthSystem,
    Entry,
    FeedParted,
    Insulation,
    Laid,
    LengthM,
    Material,
    Method,
    SectionMm2,
    Service,
    Strands,
)
from core.edits.feed import (
    split_run,
    with_backup,
    with_containment,
    with_dc,
    with_device,
    with_home_piece,
    with_home_size,
    with_load,
    with_run,
    with_run_size,
    with_supply,
    without_containment,
    without_device,
    without_home_piece,
    without_load,
    without_run,
)
from core.edits.fields import typed
from core.equipment.cables_switches_fixings import Breaker, Isolator, SafetySwitch
from core.equipment.catalogue import Kind, Some
from core.job.feed import (
    AcRun,
    BackupPlan,
    BatteryPlan,
    Containment,
    DcSchool,
    DcSwitching,
    DeviceKind,
    FeedDevice,
    HomeRun,
    LoadGroup,
    SurgeType,
    Way,
)
from core.job.job import Job
from server.catalogue.stored import one
from server.jobs.typed import Edit, Entered, typed_value


class PutRun(Edit):
    """An AC run, as typed; `was` names the one that it replaces."""

    do: Literal["put_run"]
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
    method: Method
    air_c: Entered
    grouped: Entered
    outside_mm: Entered
    of_network: bool


class RemoveRun(Edit):
    """An AC run out of the path."""

    do: Literal["remove_run"]
    name: Entered


class SizeRun(Edit):
    """Another conductor size in an AC run."""

    do: Literal["size_run"]
    name: Entered
    section_mm2: Entered


class SplitRun(Edit):
    """A device put into an AC run, so far from its start."""

    do: Literal["split_run"]
    run: Entered
    at_m: Entered
    name: Entered
    kind: DeviceKind


class PutFeedDevice(Edit):
    """A device of the AC side, as typed; `was` names the one that it replaces.

    breaker, isolator: a sheet of the shelf, "" for none, null for the one that is planned.
    """

    do: Literal["put_feed_device"]
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


class RemoveFeedDevice(Edit):
    """A device out of the path; runs of one size that met there are joined."""

    do: Literal["remove_feed_device"]
    name: Entered


class SetSupply(Edit):
    """What the house is fed with."""

    do: Literal["set_supply"]
    service: Service | None
    earth_system: EarthSystem


class ChooseDc(Edit):
    """How the DC side is parted, by whom it was decided and why; sheets as for a device."""

    do: Literal["choose_dc"]
    school: DcSchool
    isolator: Entered | None
    safety: Entered | None
    surge: SurgeType
    reason: Annotated[str, Field(max_length=300)]
    by: Entered


class PutHomePiece(Edit):
    """A piece of a string's home run, as typed; number None: one more."""

    do: Literal["put_home_piece"]
    string: Entered
    number: int | None
    length_m: Entered
    section_mm2: Entered
    to: Entered
    laid: Laid
    air_c: Entered
    grouped: Entered
    material: Material
    outside_mm: Entered


class RemoveHomePiece(Edit):
    """A piece of a home run, counted from 1, out of it."""

    do: Literal["remove_home_piece"]
    string: Entered
    number: int


class SizeHome(Edit):
    """Another size in every piece of a home run."""

    do: Literal["size_home"]
    string: Entered
    section_mm2: Entered


class PutContainment(Edit):
    """A pipe, trunking or open way, as typed; `was` names the one that it replaces."""

    do: Literal["put_containment"]
    was: Entered | None
    name: Entered
    way: Way
    holds: Annotated[list[Entered], Field(max_length=40)]
    width_mm: Entered
    height_mm: Entered
    parted: FeedParted
    slack_m: Entered
    signal_mm: Entered


class RemoveContainment(Edit):
    """A containment out of the plan."""

    do: Literal["remove_containment"]
    name: Entered


class BatteryIn(Edit):
    """The battery, as typed."""

    units: Entered
    most_units: Entered
    discharge_a: Entered
    breaker_a: Entered
    approved: bool


class PutBackup(Edit):
    """Backup and battery, as typed; loads stay."""

    do: Literal["put_backup"]
    limit_a: Entered
    three_phase: bool
    shutdown_line: bool
    battery: BatteryIn | None


class RemoveBackup(Edit):
    """No backup."""

    do: Literal["remove_backup"]


class PutLoad(Edit):
    """A group of loads, as typed; `was` names the one that it replaces."""

    do: Literal["put_load"]
    was: Entered | None
    name: Entered
    phase: Entered
    current_a: Entered
    backed_up: bool


class RemoveLoad(Edit):
    """A group of loads out of the plan."""

    do: Literal["remove_load"]
    name: Entered


FeedEdit = (
    PutRun
    | RemoveRun
    | SizeRun
    | SplitRun
    | PutFeedDevice
    | RemoveFeedDevice
    | SetSupply
    | ChooseDc
    | PutHomePiece
    | RemoveHomePiece
    | SizeHome
    | PutContainment
    | RemoveContainment
    | PutBackup
    | RemoveBackup
    | PutLoad
    | RemoveLoad
)


def fed(job: Job, edit: FeedEdit) -> Job:
    """The job with an edit of its feed made. Raises Refused."""
    match edit:
        case PutRun():
            return with_run(job, edit.was, typed_value(AcRun, edit))
        case RemoveRun():
            return without_run(job, edit.name)
        case SizeRun():
            return with_run_size(job, edit.name, _section(edit.section_mm2))
        case SplitRun():
            at_m = typed(LengthM, edit.at_m, "$.at_m")
            return split_run(job, edit.run, at_m, FeedDevice(name=edit.name, kind=edit.kind))
        case PutFeedDevice():
            return with_device(job, edit.was, _device(job, edit))
        case RemoveFeedDevice():
            return without_device(job, edit.name)
        case SetSupply():
            return with_supply(job, edit.service, edit.earth_system)
        case ChooseDc():
            return with_dc(job, _dc(job, edit))
        case _:
            return _around(job, edit)


def _around(
    job: Job,
    edit: PutHomePiece
    | RemoveHomePiece
    | SizeHome
    | PutContainment
    | RemoveContainment
    | PutBackup
    | RemoveBackup
    | PutLoad
    | RemoveLoad,
) -> Job:
    match edit:
        case PutHomePiece():
            return with_home_piece(job, edit.string, edit.number, typed_value(HomeRun, edit))
        case RemoveHomePiece():
            return without_home_piece(job, edit.string, edit.number)
        case SizeHome():
            return with_home_size(job, edit.string, _section(edit.section_mm2))
        case PutContainment():
            made = typed_value(Containment, edit, holds=tuple(edit.holds))
            return with_containment(job, edit.was, made)
        case RemoveContainment():
            return without_containment(job, edit.name)
        case PutBackup():
            battery = typed_value(BatteryPlan, edit.battery) if edit.battery else None
            loads = job.feed.backup.loads if job.feed.backup else ()
            return with_backup(job, typed_value(BackupPlan, edit, battery=battery, loads=loads))
        case RemoveBackup():
            return with_backup(job, None)
        case PutLoad():
            return with_load(job, edit.was, typed_value(LoadGroup, edit))
        case RemoveLoad():
            return without_load(job, edit.name)


def _section(entered: str) -> float:
    section_mm2: float = typed(SectionMm2, entered, "$.section_mm2")
    return section_mm2


def _device(job: Job, edit: PutFeedDevice) -> FeedDevice:
    was = next((one for one in job.feed.devices if one.name == edit.was), None)
    breaker = _sheet("breakers", edit.breaker, Breaker, was.breaker if was else None)
    isolator = _sheet("isolators", edit.isolator, Isolator, was.isolator if was else None)
    return typed_value(FeedDevice, edit, breaker=breaker, isolator=isolator)


def _dc(job: Job, edit: ChooseDc) -> DcSwitching:
    dc = job.feed.dc
    isolator = _sheet("isolators", edit.isolator, Isolator, dc.isolator)
    safety = _sheet("safety_switches", edit.safety, SafetySwitch, dc.safety)
    return typed_value(DcSwitching, edit, isolator=isolator, safety=safety)


def _sheet(
    kind: Kind, sheet_id: str | None, wanted: type[Some], planned: Some | None
) -> Some | None:
    """The sheet that was picked: None keeps the planned one, an empty id takes it out."""
    if sheet_id is None:
        return planned
    return one(kind, sheet_id, wanted, f"$.{kind}") if sheet_id else None
