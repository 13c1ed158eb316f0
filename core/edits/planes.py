"""Changing the planes of a roof and the modules drawn on them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import Mounting
from core.base.messages import say
from core.base.quantity import Items, Text
from core.edits.edit import Catalogue, Edit, Entered, known, retired
from core.edits.fields import typed_value
from core.job.job import Job
from core.job.microinverter import under
from core.job.roof import GAP_CELL, Obstacle, Outline, Plane


@dataclass(frozen=True, kw_only=True)
class AddPlane(Edit):
    """One more roof plane, as typed."""

    do: Literal["add_plane"] = "add_plane"
    name: Entered
    tilt_deg: Entered
    azimuth_deg: Entered
    mounting: Mounting

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_plane(job, typed_value(Plane, self))


@dataclass(frozen=True, kw_only=True)
class RemovePlane(Edit):
    """A plane that carries no string."""

    do: Literal["remove_plane"] = "remove_plane"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_plane(job, self.name)


@dataclass(frozen=True, kw_only=True)
class ShapePlane(Edit):
    """A plane's modules as drawn.

    let_go: it is known which units leave with their modules; without that they are named, and
    nothing is changed.
    """

    do: Literal["shape_plane"] = "shape_plane"
    name: Entered
    let_go: bool = False
    rows: Annotated[tuple[Annotated[str, Text("row", 0, 40)], ...], Items("rows", 0, 30)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        made = shaped(job, self.name, self.rows)
        leaving = "" if self.let_go else _leaving(job, made)
        if leaving:
            raise Refused([problem("$.let_go", "no", say("redrawn", "allowed"), leaving)])
        return made


@dataclass(frozen=True, kw_only=True)
class ObstacleIn(Checked):
    """What stands on a plane, as typed."""

    name: Entered
    x_mm: Entered
    y_mm: Entered
    width_mm: Entered
    height_mm: Entered


@dataclass(frozen=True, kw_only=True)
class OutlinePlane(Edit):
    """A plane's own edges as typed, where the modules lie inside them, and what stands on it.

    width_mm: empty for edges that are not measured.
    """

    do: Literal["outline_plane"] = "outline_plane"
    name: Entered
    width_mm: Entered
    height_mm: Entered
    left_mm: Entered
    eave_mm: Entered
    obstacles: Annotated[tuple[ObstacleIn, ...], Items("obstacles", 0, 30)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        _known_plane(job, self.name)
        outline = None
        if self.width_mm.strip():
            things = tuple(typed_value(Obstacle, one) for one in self.obstacles)
            outline = typed_value(Outline, self, obstacles=things)
        planes = tuple(
            replace(one, outline=outline) if one.name == self.name else one for one in job.planes
        )
        return replace(job, planes=planes)


def with_plane(job: Job, plane: Plane) -> Job:
    """The job with one more plane. Raises Refused when the name is taken."""
    return replace(job, planes=(*job.planes, plane))


def without_plane(job: Job, name: str) -> Job:
    """The job without a plane. Raises Refused for no such plane, and while a string lies on it."""
    _known_plane(job, name)
    units = [u.name for u in job.micro.units if u.modules[0].plane == name] if job.micro else []
    if units:
        said = f"{name} carries {len(units)} units, first {units[0]}: take its modules off first."
        raise Refused([problem("$.plane", name, "a plane without units", said)])
    on_it = [
        s.name for s in job.strings if name == s.plane or any(p.plane == name for p in s.places)
    ]
    if on_it:
        said = f"{name} carries string {', '.join(on_it)}: move or remove those first."
        raise Refused([problem("$.plane", name, "a plane without strings", said)])
    planes = tuple(plane for plane in job.planes if plane.name != name)
    gone = frozenset({name, *job.plane(name).module_names})
    micro = job.micro
    if micro is not None:
        micro = replace(micro, types=tuple(one for one in micro.types if one.plane != name))
    return replace(job, planes=planes, micro=micro, retired=retired(job, gone))


def shaped(job: Job, name: str, rows: tuple[str, ...]) -> Job:
    """The job with a plane's modules drawn anew; modules that are gone leave strings and units.

    Raises Refused for no such plane.
    """
    _known_plane(job, name)
    planes = tuple(_drawn(p, rows) if p.name == name else p for p in job.planes)
    now = {plane.name: plane for plane in planes}
    strings = tuple(
        replace(
            string,
            places=tuple(
                place
                for place in string.places
                if place.plane in now and now[place.plane].holds(place.row, place.column)
            ),
        )
        for string in job.strings
    )
    off = frozenset(job.plane(name).module_names) - frozenset(now[name].module_names)
    if job.micro is None:
        return replace(job, planes=planes, strings=strings, retired=retired(job, off))
    left = under(job.micro, planes)
    gone = {unit.name for unit in job.micro.units} - {unit.name for unit in left.units}
    return replace(job, planes=planes, micro=left, retired=retired(job, off | gone))


def _leaving(job: Job, made: Job) -> str:
    """Which units a plane drawn anew leaves without their modules, and what was read of them."""
    if job.micro is None or made.micro is None:
        return ""
    left = {unit.name: unit.modules for unit in made.micro.units}
    gone = [unit.name for unit in job.micro.units if unit.name not in left]
    half = [u.name for u in job.micro.units if u.name in left and left[u.name] != u.modules]
    read = {reading.subject for reading in job.readings}
    kept = [name for name in (*gone, *half) if name in read]
    said = (("gone", gone), ("half", half), ("kept", kept))
    return " ".join(say("redrawn", key, units=", ".join(names)) for key, names in said if names)


def _known_plane(job: Job, name: str) -> None:
    known("$.name", name, [one.name for one in job.planes], none=say("strings", "no_plane"))


def _drawn(plane: Plane, rows: tuple[str, ...]) -> Plane:
    """A plane drawn anew: measured gaps that are none any more go."""
    gaps = tuple(
        gap
        for gap in plane.gaps
        if gap.row <= len(rows)
        and gap.column <= len(rows[gap.row - 1])
        and rows[gap.row - 1][gap.column - 1] == GAP_CELL
    )
    return replace(plane, rows=rows, gaps=gaps)


PlaneEdit = AddPlane | RemovePlane | ShapePlane | OutlinePlane
