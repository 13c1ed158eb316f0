"""Edits of what Arrive settles, as they are sent: one shape for each, one way to make them."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Field

from core.edits.arrival import (
    substituted,
    with_crew,
    with_first_visit,
    with_item_settled,
    with_open_item,
    with_permit,
)
from core.edits.planes_and_strings import with_home_run
from core.equipment.catalogue import SHEETS
from core.job.arrival import CrewMember, OpenItem, Permit
from core.job.feed import HomeRun
from core.job.job import Job
from server.catalogue.stored import one
from server.jobs.typed import Edit, Entered, typed_value

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
]


class SetPermit(Edit):
    """The network operator's permit, as typed; an empty reference takes it away."""

    do: Literal["set_permit"]
    operator: Entered
    reference: Entered
    granted_on: Entered
    export_w: Entered


class Member(Edit):
    """Somebody on the job."""

    name: Entered
    licence: Entered
    present: bool


class SetCrew(Edit):
    """Who is on the job."""

    do: Literal["set_crew"]
    crew: Annotated[list[Member], Field(max_length=12)]


class SetFirstVisit(Edit):
    """Whether the inverter comes on a second visit."""

    do: Literal["set_first_visit"]
    first_visit: bool


class LeaveOpen(Edit):
    """Something left open on purpose."""

    do: Literal["leave_open"]
    what: Annotated[str, Field(max_length=400)]
    owner: Entered
    stage: int


class SettleItem(Edit):
    """An open point, counted from 1, settled or open again."""

    do: Literal["settle_item"]
    number: int
    settled: bool


class TakeSubstitute(Edit):
    """Goods that came instead of what was planned, by their sheet; `was`: what was planned."""

    do: Literal["substitute"]
    kind: Swapped
    was: Entered
    id: Entered


class SetHomeRun(Edit):
    """A string's way to the inverter, as measured."""

    do: Literal["set_home_run"]
    name: Entered
    length_m: Entered
    section_mm2: Entered


ArrivalEdit = (
    SetPermit | SetCrew | SetFirstVisit | LeaveOpen | SettleItem | TakeSubstitute | SetHomeRun
)


def arrived(job: Job, edit: ArrivalEdit) -> Job:
    """The job with an edit of Arrive made. Raises Refused."""
    match edit:
        case SetPermit():
            has_permit = bool(edit.reference.strip() or edit.operator.strip())
            return with_permit(job, typed_value(Permit, edit) if has_permit else None)
        case SetCrew():
            crew = tuple(typed_value(CrewMember, member) for member in edit.crew)
            return with_crew(job, crew)
        case SetFirstVisit():
            return with_first_visit(job, first_visit=edit.first_visit)
        case LeaveOpen():
            return with_open_item(job, typed_value(OpenItem, edit))
        case SettleItem():
            return with_item_settled(job, edit.number, settled=edit.settled)
        case TakeSubstitute():
            now = one(edit.kind, edit.id, SHEETS[edit.kind], "$.id")
            return substituted(job, edit.kind, edit.was, now)
        case SetHomeRun():
            return with_home_run(job, edit.name, (typed_value(HomeRun, edit),))
