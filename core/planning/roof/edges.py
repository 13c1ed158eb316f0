"""A roof plane with its own edges: where the modules lie inside them, and on what."""

from __future__ import annotations

from core.assessment.site import PlaneEdges, RoofRect
from core.base.judgement import Judgement
from core.base.messages import say
from core.base.trace import kept_ready
from core.equipment.module import Module
from core.figures.rule_packs import RulePack
from core.job.job import Job
from core.job.roof import Outline, Plane
from core.planning.microinverter.roof_layout import ModuleBox, PlaneLayout, plane_layout
from core.rules.roof.edges import RoofSide, roof_edge, roof_inside, roof_obstacle

EDGES_KEPT = 32


def plane_edges(job: Job) -> tuple[PlaneEdges, ...]:
    """Every plane whose edges are measured and whose modules are drawn to scale."""
    return _edges(job.planes, job.module, job.rules)


@kept_ready(EDGES_KEPT)
def _edges(planes: tuple[Plane, ...], module: Module, pack: RulePack) -> tuple[PlaneEdges, ...]:
    rules = pack.load_in
    found = []
    for plane in planes:
        laid = plane.module or module
        layout = plane_layout(plane, laid, rules.clamp_gap.value, rules.rail_end.value)
        if plane.outline is not None and layout is not None:
            found.append(_judged(plane.name, plane.outline, layout, pack))
    return tuple(found)


def _judged(name: str, outline: Outline, layout: PlaneLayout, pack: RulePack) -> PlaneEdges:
    boxes = [box for block in layout.blocks for box in block.modules]
    rects = {box.place: _rect(box, outline, layout) for box in boxes}
    free: dict[RoofSide, float] = {
        "left": outline.left_mm,
        "right": outline.width_mm - outline.left_mm - layout.width_mm,
        "ridge": outline.height_mm - outline.eave_mm - layout.height_mm,
        "eave": outline.eave_mm,
    }
    beyond = ", ".join(say("roof_sides", side) for side, mm in free.items() if mm < 0)
    judgements: list[Judgement] = [roof_inside(beyond=beyond, plane=name)]
    for thing in outline.obstacles:
        own = RoofRect(
            x_mm=thing.x_mm, y_mm=thing.y_mm, width_mm=thing.width_mm, height_mm=thing.height_mm
        )
        on_it = [place for place, rect in rects.items() if _overlap(rect, own)]
        shown = ", ".join(say("roof_sides", "at", row=str(p.row), n=str(p.column)) for p in on_it)
        judgements.append(roof_obstacle(obstacle=thing.name, modules=shown, plane=name))
    judgements += _short_edges(name, free, pack)
    return PlaneEdges(plane=name, modules=tuple(rects.values()), judgements=tuple(judgements))


def _short_edges(name: str, free: dict[RoofSide, float], pack: RulePack) -> list[Judgement]:
    """Every edge that is too near; where none is, the one with least to spare."""
    judged = [
        roof_edge(free_mm=mm, side=side, plane=name, rule_pack=pack)
        for side, mm in free.items()
        if mm >= 0
    ]
    short = [one for one in judged if one.verdict != "clear"]
    return short or sorted(judged, key=lambda one: one.margin or 0.0)[:1]


def _rect(box: ModuleBox, outline: Outline, layout: PlaneLayout) -> RoofRect:
    """A module from the plane's lower left corner; its layout counts from the upper one."""
    from_eave = outline.eave_mm + layout.height_mm - box.y_mm - layout.module_h_mm
    return RoofRect(
        x_mm=outline.left_mm + box.x_mm,
        y_mm=from_eave,
        width_mm=layout.module_w_mm,
        height_mm=layout.module_h_mm,
    )


def _overlap(one: RoofRect, other: RoofRect) -> bool:
    """Whether they share any area; touching edges do not."""
    across = one.x_mm < other.x_mm + other.width_mm and other.x_mm < one.x_mm + one.width_mm
    up = one.y_mm < other.y_mm + other.height_mm and other.y_mm < one.y_mm + one.height_mm
    return across and up
