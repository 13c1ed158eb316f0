"""Edits of the wall, as they are sent: one shape for each, one way to make them."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Field

from core.base.form import read
from core.base.glossary import AcrossMm, HeightSchool, WallKind
from core.edits.fields import typed
from core.edits.wall import (
    body_on,
    with_device,
    with_device_at,
    with_fixing,
    with_object,
    with_wall,
    without_device,
    without_object,
)
from core.equipment.body import Body
from core.equipment.cables_switches_fixings import Fixing, Isolator, SafetySwitch, WallUnit
from core.equipment.sheet import Sheet
from core.job.job import Job
from core.job.wall import DeviceKind, ObjectKind, Opens, Wall, WallDevice, WallObject, WallSpot
from core.planning.wall.places import with_device_placed
from server.catalogue.stored import one
from server.jobs.typed import Edit, Entered, typed_value


class DrawWall(Edit):
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


class PutObject(Edit):
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


class RemoveObject(Edit):
    """An object off the wall."""

    do: Literal["remove_object"]
    name: Entered


class HangDevice(Edit):
    """A device on the wall: the job's inverter, or a sheet from the shelf.

    Without coordinates it hangs at the best place that is found.
    """

    do: Literal["hang_device"]
    name: Entered
    kind: DeviceKind
    sheet: Entered | None
    x_mm: Entered
    y_mm: Entered


class PlaceDevice(Edit):
    """A device at another place, as typed or dragged."""

    do: Literal["place_device"]
    name: Entered
    x_mm: Entered
    y_mm: Entered


class FixDevice(Edit):
    """The fixing of a device, from the shelf."""

    do: Literal["fix_device"]
    name: Entered
    fixing: Entered | None


class RemoveDevice(Edit):
    """A device off the wall; what was read at it stays."""

    do: Literal["remove_device"]
    name: Entered


WallEdit = DrawWall | PutObject | RemoveObject | HangDevice | PlaceDevice | FixDevice | RemoveDevice


def hung(job: Job, edit: WallEdit) -> Job:
    """The job with an edit of its wall made. Raises Refused."""
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
            if not (edit.x_mm.strip() or edit.y_mm.strip()):
                corner = edit.model_copy(update={"x_mm": "0", "y_mm": "0"})
                return with_device_placed(job, _device(job, corner))
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
    if edit.kind == "inverter":
        return typed_value(WallDevice, edit, label=job.wall_inverter.label[:60], body=None)
    sheet, body = _bodied(edit)
    return typed_value(WallDevice, edit, label=sheet.label[:60], body=body)


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
