"""Each rail of a roof as marks for the tape, in mm from its left end."""

from __future__ import annotations

from core.assessment.site import TapeRow
from core.base.judgement import Judgement, holds
from core.base.messages import say
from core.base.trace import kept_ready
from core.equipment.module import Module
from core.figures.rule_packs import LoadInRule
from core.job.job import Job
from core.job.roof import Plane
from core.planning.microinverter.roof_layout import Block, PlaneLayout, plane_layout
from core.rules.roof.rails import HookPlan, hook_plan, hook_span, rail_marks

TAPES_KEPT = 32
HOOK_SOURCE = "rail sheet; geometry"
# Over how many rafters beyond the rail's ends none is looked for.
NO_HOOKS = HookPlan(hooks_mm=(), greatest_span_mm=None, plans=0, common_mm=())


def tape_rows(job: Job) -> tuple[TapeRow, ...]:
    """The marks of every run of modules that is drawn to scale, two rails alike under each."""
    return _rows(job.planes, job.module, job.rules.load_in)


@kept_ready(TAPES_KEPT)
def _rows(planes: tuple[Plane, ...], module: Module, rules: LoadInRule) -> tuple[TapeRow, ...]:
    found = []
    for plane in planes:
        laid = plane.module or module
        layout = plane_layout(plane, laid, rules.clamp_gap.value, rules.rail_end.value)
        if layout is not None:
            found += [_row(plane, layout, block, rules) for block in layout.blocks]
    return tuple(found)


def _row(plane: Plane, layout: PlaneLayout, block: Block, rules: LoadInRule) -> TapeRow:
    marks = rail_marks(
        modules=len(block.modules),
        module_mm=layout.module_w_mm,
        clamp_gap_mm=rules.clamp_gap.value,
        rail_end_mm=rules.rail_end.value,
        end_clamp_half_mm=min(rules.rail_end.value, rules.clamp_gap.value / 2),
    )
    left = block.modules[0].x_mm - rules.rail_end.value
    hooks = NO_HOOKS
    if plane.rafter_first_mm is not None and plane.rafter_pitch_mm is not None:
        hooks = hook_plan(
            rail_mm=marks.rail_mm,
            rafters_mm=_rafters(plane.rafter_first_mm, plane.rafter_pitch_mm, left, marks.rail_mm),
            cantilever_most_mm=rules.hook_overhang.value,
            span_most_mm=rules.hook_pitch.value,
        )
    first, last = block.modules[0].place.column, block.modules[-1].place.column
    return TapeRow(
        plane=plane.name,
        title=say("tape", "row", row=str(block.row), first=str(first), last=str(last)),
        rail_mm=marks.rail_mm,
        module_mm=layout.module_w_mm,
        modules_mm=tuple(left for left, _ in marks.module_edges_mm),
        clamps_mm=(marks.end_clamps_mm[0], *marks.middle_clamps_mm, marks.end_clamps_mm[1]),
        hooks_mm=hooks.hooks_mm,
        judgement=_judged(plane, hooks, rules),
    )


def _rafters(first_mm: float, pitch_mm: float, left_mm: float, rail_mm: float) -> tuple[float, ...]:
    """The middles of the rafters under a rail, from its left end; the plane's are from its edge."""
    from_end = (first_mm - left_mm) % pitch_mm
    count = int((rail_mm - from_end) // pitch_mm) + 1 if from_end <= rail_mm else 0
    return tuple(from_end + at * pitch_mm for at in range(count))


def _judged(plane: Plane, hooks: HookPlan, rules: LoadInRule) -> Judgement | None:
    if plane.rafter_first_mm is None or plane.rafter_pitch_mm is None:
        return None
    if not hooks.hooks_mm:
        return holds("hooks_reach", False, HOOK_SOURCE)
    span = hooks.greatest_span_mm
    if span is None:
        return holds("hooks_reach", True, HOOK_SOURCE)
    return hook_span(span_mm=span, most_mm=rules.hook_pitch.value)
