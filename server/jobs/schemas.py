"""What the API takes and gives about jobs. The core's own values are given as they are."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from ninja import Field, Schema
from pydantic import ConfigDict, WrapValidator

from core.assessment.whole import Assessment, NextStep, StageStanding
from core.base.errors import Refused, problem
from core.base.form import read
from core.base.glossary import Mounting
from core.base.judgement import Judgement, Verdict
from core.base.quantity import Quantity
from core.base.units import parse_count
from core.edits.edit import MOST_ENTERED_CHARS
from core.edits.every import AnyEdit, read_edit
from core.edits.new_job import NewJob
from core.edits.strings import modules_by_plane
from core.files.touches import Told
from core.job.job import Job
from core.shown import InverterLine, Plan
from server.platform.problems import Unread
from sun.wall import MonthSun

UUID_FORM = r"^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$"
# Made in the hand: by it something is done once however often it is sent.
PressId = Annotated[str, Field(pattern=UUID_FORM)] | None
Entered = Annotated[str, Field(max_length=MOST_ENTERED_CHARS)]
MODULES_ON_PLANE = Quantity("modules on the plane", "modules", 0, 400)


class FileLine(Schema):
    """A file from elsewhere that something here was read in from.

    readings: those that it brought, by identity; of a job file everything that was there first.
    """

    name: str
    what: str
    by: str
    at: datetime
    sha256: str
    readings: list[str]


class JobView(Schema):
    """A job as a stage shows it. revision: give it back with a change. inverters: of a house with
    several, all of them.

    A schema, not a dataclass: its many parts are then described once for all operations.
    """

    revision: int
    plan: Plan
    assessment: Assessment
    files: list[FileLine]
    inverters: tuple[InverterLine, ...]


class Brief(Schema):
    """What a device is told that judges the job itself: by what both compare what they found.

    count: how much is kept of the job; digest: of what is shown of it at that moment, judged by
    this version of the core; reading: the one that was kept, as the job file has it.
    """

    revision: int
    count: int
    at: datetime
    digest: str
    core: str
    reading: dict[str, Any] | None


@dataclass(frozen=True, kw_only=True)
class ChangeLine:
    """A change of a plan. mine: of whoever asks; undone: it was put back since; undoes: the
    revision whose change it put back; told: the first of what it touched, of count in all."""

    revision: int
    at: datetime
    by: str
    mine: bool
    undone: bool
    undoes: int | None
    told: tuple[Told, ...]
    count: int


@dataclass(frozen=True, kw_only=True)
class JobLine:
    """A job as the home shows it. look_due: the look after the day that comes next, in words."""

    id: str
    name: str
    place: str
    day: date
    equipment: str
    verdict: Verdict
    stands_at: int
    stages: tuple[StageStanding, ...]
    blocks: tuple[str, ...]
    next: NextStep | None
    look_due: str
    inverters: tuple[InverterLine, ...]


@dataclass(frozen=True, kw_only=True)
class WallSunView:
    """Direct sun on the job's wall on the middle day of each month, and what it means."""

    months: tuple[MonthSun, ...]
    hottest: int
    judgement: Judgement


class DeviceIn(Schema):
    """A device of the wall."""

    model_config = ConfigDict(extra="forbid")
    name: Entered


class ChangeIn(Schema):
    """One field, by its path in the job file, and what was typed into it."""

    model_config = ConfigDict(extra="forbid")
    path: Entered
    entered: Entered


class ChangesIn(Schema):
    """Changes made together, to the revision that was shown."""

    model_config = ConfigDict(extra="forbid")
    revision: int
    id: PressId = None
    changes: Annotated[list[ChangeIn], Field(min_length=1, max_length=40)]


def read_by_core(reader: Callable[[object], object]) -> WrapValidator:
    """Described to the client as the type beside it, but read by the core's own form reader."""

    def told(data: object, _: object) -> object:
        try:
            return reader(data)
        except Refused as refused:
            # As the core says it: a ValueError would be told in other words.
            raise Unread(refused.problems) from refused

    return WrapValidator(told)


class UndoIn(Schema):
    """of: the revision whose change is put back; without it one's own last."""

    model_config = ConfigDict(extra="forbid")
    revision: int
    of: int | None = None


class EditIn(Schema):
    """One edit of the revision that was shown."""

    model_config = ConfigDict(extra="forbid")
    revision: int
    id: PressId = None
    edit: Annotated[AnyEdit, Field(discriminator="do"), read_by_core(read_edit)]


NewJobIn = Annotated[NewJob, read_by_core(lambda data: read(NewJob, data))]


class BenchIn(Schema):
    """What is typed on the bench; readings that were not taken stay empty."""

    model_config = ConfigDict(extra="forbid")
    module: Entered
    inverter: Entered
    rule_pack: Entered
    modules_in_series: Entered
    mounting: Mounting
    t_air_min_c: Entered
    t_air_max_c: Entered
    irradiance_w_per_m2: Entered = ""
    t_module_c: Entered = ""
    t_air_c: Entered = ""
    read_v: Entered = ""


class PlaneModules(Schema):
    """How many modules a plane holds."""

    model_config = ConfigDict(extra="forbid")
    plane: Entered
    modules: Entered


class ModulesIn(Schema):
    """Modules on the planes where another count is tried than is drawn or planned."""

    model_config = ConfigDict(extra="forbid")
    planes: Annotated[list[PlaneModules], Field(max_length=20)] = []


def modules_typed(job: Job, body: ModulesIn) -> dict[str, int]:
    """Modules on each plane, with what was typed over what is drawn or planned."""
    modules = modules_by_plane(job)
    for index, typed_in in enumerate(body.planes):
        if typed_in.plane not in modules:
            path, allowed = f"$.planes[{index}].plane", " · ".join(modules)
            raise Refused([problem(path, typed_in.plane, allowed)])
        path = f"$.planes[{index}].modules"
        modules[typed_in.plane] = parse_count(typed_in.modules, MODULES_ON_PLANE, path)
    return modules


class JobId(Schema):
    """Identity of a job."""

    id: UUID
