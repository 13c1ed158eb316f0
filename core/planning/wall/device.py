"""One device on the wall: its space, what lies behind its holes, what hangs on them."""

from __future__ import annotations

from typing import NamedTuple

from core.assessment.site import MarkedHole, Missing, SideSpace
from core.base.judgement import Judgement, waiting
from core.base.messages import figure, say
from core.base.trace import kept_ready
from core.equipment.body import Body
from core.equipment.cables_switches_fixings import Fixing
from core.equipment.inverter import Inverter
from core.figures.rule_packs import RulePack, WallRule
from core.job.wall import Rect, Wall, WallDevice
from core.planning.wall.battery_siting import battery_siting
from core.planning.wall.space import Space, blockers, needs_of, rect_of, spaces
from core.rules.wall.clearances import (
    clearance,
    device_apart,
    display_height,
    floor_height,
    front_depth,
    on_the_wall,
    out_of_reach,
)
from core.rules.wall.hole_marks import HOLE_SOURCE, HoleMark, HoleMarks, hole_depth, hole_marks
from core.rules.wall.wall_fixings import (
    Behind,
    FixingLoad,
    board_bears,
    board_edge,
    combustible_wall,
    entry_outdoors,
    fixing_for_wall,
    fixing_load,
    fixings_bear,
    fixings_hold,
)

# What is behind a hole that bears a load.
BEARS: frozenset[Behind] = frozenset({"solid", "hollow", "stud", "wood", "backing"})
# Walls judged lately: a reading taken beside one leaves it as it was.
DEVICES_KEPT = 256


class Hung(NamedTuple):
    """What the wall says of one device, before anything is read."""

    rect: Rect
    sides: tuple[SideSpace, ...]
    marks: HoleMarks | None
    holes: tuple[MarkedHole, ...]
    load: FixingLoad | None
    display_mm: float | None
    judgements: tuple[Judgement, ...]


@kept_ready(DEVICES_KEPT)
def hung(
    wall: Wall, device: WallDevice, body: Body, inverter: Inverter | None, pack: RulePack
) -> Hung:
    """A device of the wall judged by everything that is drawn."""
    rules = pack.wall
    rect = rect_of(device, body)
    around = blockers(wall, inverter, device.name)
    found = spaces(wall, rect, needs_of(body), around)
    marks = _marks(wall, device, body)
    holes = tuple(_marked(wall, mark, rules) for mark in marks.holes) if marks else ()
    load = _load(body, holes, light=body.mass_kg <= rules.board_most.value)
    display = body.display_below_top_mm
    return Hung(
        rect=rect,
        sides=tuple(_side(rect, space) for space in found),
        marks=marks,
        holes=holes,
        load=load,
        display_mm=None if display is None else rect.top - display,
        judgements=(
            *_fits(wall, body, rect),
            *(
                device_apart(name=device.name, other=other.name, overlaps=True)
                for other in around
                if rect.overlaps(other.rect)
            ),
            *(_clear(space) for space in found),
            *_heights(wall, body, rect, rules),
            *_hangs(wall, device, body, holes, load, rules),
            *(battery_siting(wall, rect, inverter, pack) if device.kind == "battery" else ()),
        ),
    )


def _fits(wall: Wall, body: Body, rect: Rect) -> tuple[Judgement, ...]:
    fits = on_the_wall(
        field_w_mm=wall.width_mm,
        field_h_mm=wall.top_mm,
        width_mm=rect.w,
        height_mm=rect.h,
    )
    depth = front_depth(free_mm=wall.front_mm, needed_mm=body.clearance_front_mm)
    return (depth,) if fits.verdict == "clear" else (fits, depth)


def _clear(space: Space) -> Judgement:
    return clearance(
        side=space.side, free_mm=space.free_mm, needed_mm=space.needed_mm, beside=space.beside
    )


def _side(rect: Rect, space: Space) -> SideSpace:
    return SideSpace(
        side=space.side,
        needed_mm=space.needed_mm,
        free_mm=space.free_mm,
        beside=space.beside,
        verdict=_clear(space).verdict,
        missing=_missing(rect, space) if space.spare_mm < 0 else None,
    )


def _missing(rect: Rect, space: Space) -> Missing:
    """The strip of the clearance that is taken: from what stands there to where it should."""
    free, short = max(space.free_mm, 0.0), space.needed_mm - max(space.free_mm, 0.0)
    x, y, w, h = {
        "left": (rect.x - space.needed_mm, rect.y, short, rect.h),
        "right": (rect.right + free, rect.y, short, rect.h),
        "top": (rect.x, rect.top + free, rect.w, short),
        "bottom": (rect.x, rect.y - space.needed_mm, rect.w, short),
    }[space.side]
    text = say("wall", "missing", mm=figure(-space.spare_mm, "mm", 0))
    return Missing(x_mm=x, y_mm=y, width_mm=w, height_mm=h, text=text)


def _heights(wall: Wall, body: Body, rect: Rect, rules: WallRule) -> tuple[Judgement, ...]:
    found = []
    if body.floor_low_mm:
        found.append(floor_height(lower_edge_mm=rect.y, least_mm=body.floor_low_mm))
    if wall.reach == "out_of_reach":
        found.append(out_of_reach(lower_edge_mm=rect.y, least_mm=rules.out_of_reach.value))
    elif body.display_below_top_mm is not None:
        found.append(
            display_height(
                display_mm=max(rect.top - body.display_below_top_mm, 0.0),
                low_mm=rules.display_low.value,
                high_mm=rules.display_high.value,
            )
        )
    return tuple(found)


def _marks(wall: Wall, device: WallDevice, body: Body) -> HoleMarks | None:
    if body.bracket is None:
        return None
    return hole_marks(
        body=body,
        left_edge_mm=device.x_mm,
        top_above_datum_mm=device.y_mm + body.height_mm - wall.datum_mm,
        datum_mm=wall.datum_mm,
    )


def _marked(wall: Wall, mark: HoleMark, rules: WallRule) -> MarkedHole:
    behind = behind_hole(wall, mark.x_mm, mark.above_floor_mm, rules)
    return MarkedHole(mark=mark, behind=behind, bears=behind in BEARS)


def behind_hole(wall: Wall, x_mm: float, y_mm: float, rules: WallRule) -> Behind:
    """What lies behind a place on the wall: its kind, a stud, board between studs, a backing."""
    for thing in wall.objects:
        if thing.kind == "backing" and thing.rect.holds_point(x_mm, y_mm):
            return "backing"
    if wall.kind != "stud":
        return wall.kind
    half = rules.stud_half.value
    on_stud = any(abs(x_mm - stud) <= half for stud in wall.studs_mm)
    return "stud" if on_stud else "board"


def _load(body: Body, holes: tuple[MarkedHole, ...], *, light: bool) -> FixingLoad | None:
    """The load, taken by the fixings that bear alone; what is light hangs on board as well."""
    bracket = body.bracket
    if bracket is None:
        return None
    bearing = [hole.bears for hole in holes]
    if light and not any(bearing[: bracket.top_fixings]):
        bearing = [True] * len(holes)
    top, every = sum(bearing[: bracket.top_fixings]), sum(bearing)
    if not top:
        return None
    return fixing_load(
        mass_kg=body.mass_kg,
        cg_from_wall_mm=bracket.cg_from_wall_mm,
        top_row_above_pivot_mm=bracket.top_row_above_pivot_mm,
        top_fixings=top,
        all_fixings=every,
    )


def _hangs(
    wall: Wall,
    device: WallDevice,
    body: Body,
    holes: tuple[MarkedHole, ...],
    load: FixingLoad | None,
    rules: WallRule,
) -> tuple[Judgement, ...]:
    found = [
        combustible_wall(
            combustible=wall.combustible or wall.kind == "wood",
            allowed=body.on_combustible,
            device=device.name,
        )
    ]
    if wall.outdoors:
        found.append(entry_outdoors(entry=body.entry))
    if body.bracket is None:
        return tuple(found)
    top = holes[: body.bracket.top_fixings]
    bearing = sum(hole.bears for hole in top)
    light = body.mass_kg <= rules.board_most.value
    if bearing == 0:
        found.append(board_bears(mass_kg=body.mass_kg, most_kg=rules.board_most.value))
    elif not light:
        found.append(fixings_bear(bearing=bearing, top_fixings=len(top)))
    found += _at_edges(wall, holes, rules)
    if device.fixing is not None:
        found += _fixed(wall, device.fixing, holes, load, rules)
    return tuple(found)


def _at_edges(wall: Wall, holes: tuple[MarkedHole, ...], rules: WallRule) -> list[Judgement]:
    """Holes too near to the edge of a board, where they go into board alone."""
    near = [
        min(abs(hole.mark.x_mm - edge) for edge in wall.board_edges_mm)
        for hole in holes
        if hole.behind == "board" and wall.board_edges_mm
    ]
    return [board_edge(from_edge_mm=min(near), least_mm=rules.board_edge.value)] if near else []


def _fixed(
    wall: Wall,
    fixing: Fixing,
    holes: tuple[MarkedHole, ...],
    load: FixingLoad | None,
    rules: WallRule,
) -> list[Judgement]:
    bearing: tuple[Behind, ...] = tuple(dict.fromkeys(hole.behind for hole in holes if hole.bears))
    kinds = bearing or tuple(dict.fromkeys(hole.behind for hole in holes))
    found = [
        fixing_for_wall(fixing_wall=fixing.wall, behind=behind, fixing=fixing.model)
        for behind in kinds
    ]
    if wall.kind in ("solid", "hollow", "wood") and fixing.hole_mm is None:
        found.append(waiting("hole_depth", "mm", HOLE_SOURCE, (say("needs", "hole"),)))
    elif wall.kind in ("solid", "hollow", "wood") and fixing.hole_mm is not None:
        left = rules.hole_left.value
        found.append(
            hole_depth(hole_mm=fixing.hole_mm, thickness_mm=wall.thickness_mm, left_mm=left)
        )
    if load is not None:
        found.append(
            fixings_hold(
                tension_n=load.tension_per_top_fixing_n,
                shear_n=load.shear_per_fixing_n,
                holds_tension_n=fixing.tension_n,
                holds_shear_n=fixing.shear_n,
                factor=rules.fixing_factor.value,
                fixing=fixing.model,
                instead="backing" if wall.kind in ("stud", "board") else "larger",
            )
        )
    return found
