"""Edits of what a job is made of, as they are sent: one shape for each, one way to make them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from ninja import Field

from core.base.errors import Refused, problem
from core.base.glossary import Mounting
from core.edits.planes_and_strings import (
    arranged,
    painted,
    shaped,
    with_override,
    with_pack,
    with_plane,
    with_sheet,
    with_string,
    without_override,
    without_plane,
    without_string,
)
from core.equipment.catalogue import SHEETS
from core.figures.overrides import typed_override
from core.job.job import Job
from core.job.roof import ModulePlace, Plane
from core.planning.dc.arrangements import ArrangedString
from server.catalogue.stored import one, own_packs
from server.jobs.arrival_edits import ArrivalEdit, arrived
from server.jobs.commission_edits import CommissionEdit, commissioned
from server.jobs.earth_edits import EarthEdit, earthed
from server.jobs.feed_edits import FeedEdit, fed
from server.jobs.roof_edits import RoofEdit, roofed
from server.jobs.typed import Edit, Entered, typed_value
from server.jobs.wall_edits import WallEdit, hung


class AddPlane(Edit):
    """One more roof plane, as typed."""

    do: Literal["add_plane"]
    name: Entered
    tilt_deg: Entered
    azimuth_deg: Entered
    mounting: Mounting


class RemovePlane(Edit):
    """A plane that carries no string."""

    do: Literal["remove_plane"]
    name: Entered


class ShapePlane(Edit):
    """A plane's modules as drawn."""

    do: Literal["shape_plane"]
    name: Entered
    rows: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=30)]


class AddString(Edit):
    """One more string, like the last."""

    do: Literal["add_string"]


class RemoveString(Edit):
    """A string out of the plan; its readings stay."""

    do: Literal["remove_string"]
    name: Entered


class PlaceIn(Edit):
    """Where a module lies."""

    plane: Entered
    row: int
    column: int


class PaintString(Edit):
    """A string drawn on the roof, minus end first."""

    do: Literal["paint_string"]
    name: Entered
    places: Annotated[list[PlaceIn], Field(max_length=100)]


class ArrangedIn(Edit):
    """One string of an arrangement."""

    plane: Entered
    tracker: int
    modules_in_series: int


class TakeArrangement(Edit):
    """The strings as an arrangement has them."""

    do: Literal["take_arrangement"]
    strings: Annotated[list[ArrangedIn], Field(min_length=1, max_length=26)]


class TakeSheet(Edit):
    """A sheet from the shelf; id None takes the optimisers out."""

    do: Literal["take_sheet"]
    kind: Literal["modules", "inverters", "optimisers", "micros", "trunks"]
    id: Entered | None


class TakePack(Edit):
    """A rule pack, shipped or the crew's own."""

    do: Literal["take_pack"]
    id: Entered


class ReplaceFigure(Edit):
    """A figure or school of the pack replaced for this job, and why."""

    do: Literal["replace_figure"]
    path: Entered
    entered: Entered
    reason: Annotated[str, Field(max_length=300)]


class RestoreFigure(Edit):
    """The pack's own figure again."""

    do: Literal["restore_figure"]
    path: Entered


AnyEdit = (
    AddPlane
    | RemovePlane
    | ShapePlane
    | AddString
    | RemoveString
    | PaintString
    | TakeArrangement
    | TakeSheet
    | TakePack
    | ReplaceFigure
    | RestoreFigure
    | ArrivalEdit
    | EarthEdit
    | FeedEdit
    | RoofEdit
    | WallEdit
    | CommissionEdit
)


class EditIn(Edit):
    """One edit of the revision that was shown."""

    revision: int
    edit: Annotated[AnyEdit, Field(discriminator="do")]


def maker(edit: AnyEdit) -> Callable[[Job], Job]:
    """What turns a job into the edited one. Its call raises Refused."""
    return lambda job: _made(job, edit)


def _made(job: Job, edit: AnyEdit) -> Job:
    match edit:
        case AddPlane():
            return with_plane(job, typed_value(Plane, edit))
        case RemovePlane():
            return without_plane(job, edit.name)
        case ShapePlane():
            return shaped(job, edit.name, tuple(edit.rows))
        case AddString():
            return with_string(job)
        case RemoveString():
            return without_string(job, edit.name)
        case PaintString():
            places = tuple(
                ModulePlace(plane=p.plane, row=p.row, column=p.column) for p in edit.places
            )
            return painted(job, edit.name, places)
        case TakeArrangement():
            return arranged(job, tuple(ArrangedString(**vars(s)) for s in edit.strings))
        case TakeSheet():
            return _with_sheet(job, edit)
        case TakePack():
            return with_pack(job, edit.id, own_packs().get(edit.id))
        case ReplaceFigure():
            made = typed_override(job.rules, edit.path, edit.entered, edit.reason, "$")
            return with_override(job, made)
        case RestoreFigure():
            return without_override(job, edit.path)
        case _:
            return _site_made(job, edit)


SiteEdit = ArrivalEdit | CommissionEdit | EarthEdit | FeedEdit | RoofEdit | WallEdit


def _site_made(job: Job, edit: SiteEdit) -> Job:
    if isinstance(edit, CommissionEdit):
        return commissioned(job, edit)
    if isinstance(edit, ArrivalEdit):
        return arrived(job, edit)
    if isinstance(edit, EarthEdit):
        return earthed(job, edit)
    if isinstance(edit, FeedEdit):
        return fed(job, edit)
    if isinstance(edit, RoofEdit):
        return roofed(job, edit)
    return hung(job, edit)


def _with_sheet(job: Job, edit: TakeSheet) -> Job:
    if edit.id is None and edit.kind == "optimisers":
        return with_sheet(job, None)
    if edit.id is None:
        raise Refused([problem("$.id", "none", "a sheet: only optimisers may be left out")])
    return with_sheet(job, one(edit.kind, edit.id, SHEETS[edit.kind], f"$.{edit.kind}"))
