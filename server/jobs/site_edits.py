"""Edits of Arrive, Hang and Earth, as they are sent: one shape for each, one way to make them."""

from __future__ import annotations

from typing import Annotated, Any, Literal, TypeVar

from ninja import Field, Schema
from pydantic import ConfigDict

from core.arrival import CrewMember, OpenItem, Permit
from core.arrival_layout import (
    substituted,
    with_crew,
    with_first_visit,
    with_item_settled,
    with_open_item,
    with_permit,
)
from core.change import typed
from core.earth_layout import (
    with_link,
    with_node,
    with_proposed_path,
    with_schools,
    without_link,
    without_node,
)
from core.earthing import EarthLink, EarthNode, How, NodeKind
from core.equipment.accessories import Fixing, Isolator, SafetySwitch, WallUnit
from core.equipment.body import Body
from core.equipment.sheet import Sheet
from core.errors import Problem, Refused
from core.form import hints, read
from core.glossary import AcrossMm, HeightSchool, Pole, RoofEarth, WallKind
from core.job import HomeRun, Job
from core.layout import with_home_run
from core.shelf import SHEETS
from core.wall import DeviceKind, ObjectKind, Opens, Wall, WallDevice, WallObject, WallSpot
from core.wall_layout import (
    body_on,
    with_device,
    with_device_at,
    with_fixing,
    with_object,
    with_wall,
    without_device,
    without_object,
)
from server.shelf.stored import one

Entered = Annotated[str, Field(max_length=200)]
Some = TypeVar("Some")
Swapped = Literal[
    "modules",
    "inverters",
    "optimisers",
    "isolators",
    "safety_switches",
    "wall_units",
    "fixings",
]


class _Edit(Schema):
    model_config = ConfigDict(extra="forbid")


class DrawWall(_Edit):
    """The wall's outline and what it is made of, as typed; what is on it stays."""

    do: Literal["draw_wall"]
    kind: WallKind
    width_mm: Entered
    height_mm: Entered
    thickness_mm: Entered
    azimuth_deg: Entered
    front_mm: Entered
    eave_mm: Entered
    eave_height_mm: Entered
    datum_mm: Entered
    stud_first_mm: Entered
    stud_pitch_mm: Entered
    board_edges_mm: Annotated[list[Entered], Field(max_length=40)]
    reach: HeightSchool
    outdoors: bool
    combustible: bool


class PutObject(_Edit):
    """An object on the wall, as typed; `was` names the one that it replaces."""

    do: Literal["put_object"]
    was: Entered | None
    name: Entered
    kind: ObjectKind
    x_mm: Entered
    y_mm: Entered
    width_mm: Entered
    height_mm: Entered
    opens: Opens


class RemoveObject(_Edit):
    """An object off the wall."""

    do: Literal["remove_object"]
    name: Entered


class HangDevice(_Edit):
    """A device on the wall: the job's inverter, or a sheet from the shelf."""

    do: Literal["hang_device"]
    name: Entered
    kind: DeviceKind
    sheet: Entered | None
    x_mm: Entered
    y_mm: Entered


class PlaceDevice(_Edit):
    """A device at another place, as typed or dragged."""

    do: Literal["place_device"]
    name: Entered
    x_mm: Entered
    y_mm: Entered


class FixDevice(_Edit):
    """The fixing of a device, from the shelf."""

    do: Literal["fix_device"]
    name: Entered
    fixing: Entered | None


class RemoveDevice(_Edit):
    """A device off the wall; what was read at it stays."""

    do: Literal["remove_device"]
    name: Entered


class ProposePath(_Edit):
    """An earth path made from the plan."""

    do: Literal["propose_path"]


class ChooseEarthing(_Edit):
    """The ways of earthing."""

    do: Literal["choose_earthing"]
    roof: RoofEarth
    array_pole: Pole
    lightning: bool


class PutLink(_Edit):
    """A step of the earth path, as typed; `was` names the one that it replaces."""

    do: Literal["put_link"]
    was: Entered | None
    name: Entered
    start: Entered
    end: Entered
    how: How
    length_m: Entered
    section_mm2: Entered
    joints: Entered
    stud_mm: Entered


class RemoveLink(_Edit):
    """A step out of the earth path."""

    do: Literal["remove_link"]
    name: Entered


class AddNode(_Edit):
    """One more thing that is bonded."""

    do: Literal["add_node"]
    name: Entered
    kind: NodeKind


class RemoveNode(_Edit):
    """A bonded thing and its steps out of the path."""

    do: Literal["remove_node"]
    name: Entered


class SetPermit(_Edit):
    """The network operator's permit, as typed; an empty reference takes it away."""

    do: Literal["set_permit"]
    operator: Entered
    reference: Entered
    granted_on: Entered
    export_w: Entered


class Member(_Edit):
    """Somebody on the job."""

    name: Entered
    licence: Entered
    present: bool


class SetCrew(_Edit):
    """Who is on the job."""

    do: Literal["set_crew"]
    crew: Annotated[list[Member], Field(max_length=12)]


class SetFirstVisit(_Edit):
    """Whether the inverter comes on a second visit."""

    do: Literal["set_first_visit"]
    first_visit: bool


class LeaveOpen(_Edit):
    """Something left open on purpose."""

    do: Literal["leave_open"]
    what: Annotated[str, Field(max_length=400)]
    owner: Entered
    stage: int


class SettleItem(_Edit):
    """An open point, counted from 1, settled or open again."""

    do: Literal["settle_item"]
    number: int
    settled: bool


class TakeSubstitute(_Edit):
    """Goods that came instead of what was planned, by their sheet; `was`: what was planned."""

    do: Literal["substitute"]
    kind: Swapped
    was: Entered
    id: Entered


class SetHomeRun(_Edit):
    """A string's way to the inverter, as measured."""

    do: Literal["set_home_run"]
    name: Entered
    length_m: Entered
    section_mm2: Entered


SiteEdit = (
    DrawWall
    | PutObject
    | RemoveObject
    | HangDevice
    | PlaceDevice
    | FixDevice
    | RemoveDevice
    | ProposePath
    | ChooseEarthing
    | PutLink
    | RemoveLink
    | AddNode
    | RemoveNode
    | SetPermit
    | SetCrew
    | SetFirstVisit
    | LeaveOpen
    | SettleItem
    | TakeSubstitute
    | SetHomeRun
)


def typed_value(owner: type[Some], entered: Schema, **known: Any) -> Some:
    """A value class from what was typed for its fields; `known` are given as they are.

    Raises Refused with every field that is wrong.
    """
    values: dict[str, Any] = dict(known)
    found: list[Problem] = []
    for name, hint in hints(owner).items():
        if name in known or not hasattr(entered, name):
            continue
        given = getattr(entered, name)
        try:
            values[name] = typed(hint, given, f"$.{name}") if isinstance(given, str) else given
        except Refused as refused:
            found.extend(refused.problems)
    if found:
        raise Refused(found)
    return owner(**values)


def site_made(job: Job, edit: SiteEdit) -> Job:
    """The job with an edit of Arrive, Hang or Earth made. Raises Refused."""
    match edit:
        case (
            SetPermit()
            | SetCrew()
            | SetFirstVisit()
            | LeaveOpen()
            | SettleItem()
            | TakeSubstitute()
        ):
            return _arrived(job, edit)
        case ProposePath() | ChooseEarthing() | PutLink() | RemoveLink() | AddNode() | RemoveNode():
            return _earthed(job, edit)
        case SetHomeRun():
            return with_home_run(job, edit.name, typed_value(HomeRun, edit))
        case _:
            return _hung(job, edit)


Arriving = SetPermit | SetCrew | SetFirstVisit | LeaveOpen | SettleItem | TakeSubstitute
Earthed = ProposePath | ChooseEarthing | PutLink | RemoveLink | AddNode | RemoveNode
Hanging = DrawWall | PutObject | RemoveObject | HangDevice | PlaceDevice | FixDevice | RemoveDevice


def _arrived(job: Job, edit: Arriving) -> Job:
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


def _earthed(job: Job, edit: Earthed) -> Job:
    match edit:
        case ProposePath():
            return with_proposed_path(job)
        case ChooseEarthing():
            return with_schools(job, edit.roof, edit.array_pole, lightning=edit.lightning)
        case PutLink():
            return with_link(job, edit.was, typed_value(EarthLink, edit))
        case RemoveLink():
            return without_link(job, edit.name)
        case AddNode():
            return with_node(job, typed_value(EarthNode, edit))
        case RemoveNode():
            return without_node(job, edit.name)


def _hung(job: Job, edit: Hanging) -> Job:
    match edit:
        case DrawWall():
            edges = read(
                tuple[AcrossMm, ...],
                [typed(AcrossMm, text, "$.board_edges_mm") for text in edit.board_edges_mm],
                "$.board_edges_mm",
            )
            return with_wall(job, typed_value(Wall, edit, board_edges_mm=edges))
        case PutObject():
            return with_object(job, edit.was, typed_value(WallObject, edit))
        case RemoveObject():
            return without_object(job, edit.name)
        case HangDevice():
            return with_device(job, _device(job, edit))
        case PlaceDevice():
            place = typed_value(WallSpot, edit)
            return with_device_at(job, edit.name, place.x_mm, place.y_mm)
        case FixDevice():
            fixing = one("fixings", edit.fixing, Fixing, "$.fixing") if edit.fixing else None
            return with_fixing(job, edit.name, fixing)
        case RemoveDevice():
            return without_device(job, edit.name)


def _device(job: Job, edit: HangDevice) -> WallDevice:
    label, body = job.inverter.label, None
    if edit.kind != "inverter":
        sheet, body = _bodied(edit)
        label = sheet.label
    return typed_value(WallDevice, edit, label=label[:60], body=body)


def _bodied(edit: HangDevice) -> tuple[Sheet, Body]:
    """The sheet of a device and the body on it. Raises Refused where it gives none."""
    sheet: Isolator | SafetySwitch | WallUnit
    if edit.kind == "isolator":
        sheet = one("isolators", edit.sheet or "", Isolator, "$.sheet")
    elif edit.kind == "safety_switch":
        sheet = one("safety_switches", edit.sheet or "", SafetySwitch, "$.sheet")
    else:
        sheet = one("wall_units", edit.sheet or "", WallUnit, "$.sheet")
    return sheet, body_on(sheet)
