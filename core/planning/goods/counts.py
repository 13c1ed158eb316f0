"""What of a plan goods are counted by: poles, unused inputs, jumps, clamps, rails, hooks."""

from __future__ import annotations

import math
from collections import Counter
from typing import Literal, get_args

from core.base.messages import say
from core.base.trace import kept_ready
from core.job.job import Job
from core.job.strings import StringPlan
from core.planning.earth.path import rails_of, roof_methods
from core.planning.microinverter.parts import TrunkNeeds, roof_of
from core.planning.microinverter.unit_places import layouts
from core.planning.roof.tape import tape_rows
from core.rules.wall.wall_fixings import lift

MM_PER_M = 1000.0
JOBS_KEPT = 32
RAILS_PER_RUN = 2
END_CLAMPS_PER_RUN = 4
POLES = 2
AC_ENDS = 2

# What a roof of microinverters is counted by.
UnitBasis = Literal[
    "roofs",
    "units",
    "branches",
    "trunk_segments",
    "trunk_connectors",
    "link_joints",
    "sealing_caps",
    "trunk_extensions",
    "end_caps",
    "trunk_joints",
    "joint_boxes",
    "tees",
    "capped_inputs",
    "dc_leads",
    "unit_washers",
    "unit_lugs",
]
Basis = Literal[
    "job",
    "inverters",
    "strings",
    "string_poles",
    "unused_input_poles",
    "branch_pairs",
    "extensions",
    "fused_poles",
    "ac_core_ends",
    "ac_ends",
    "washers",
    "frame_lugs",
    "rail_lugs",
    "mid_clamps",
    "end_clamps",
    "hooks",
    "rail_m",
    "isolators",
    "people",
    "lifting_aids",
    UnitBasis,
]
UNIT_BASES: tuple[UnitBasis, ...] = get_args(UnitBasis)
# What is counted by type of trunk, and what that is called there.
TRUNK_BASES: dict[Basis, str] = {
    "trunk_segments": "segments",
    "trunk_connectors": "connectors",
    "link_joints": "link_joints",
    "sealing_caps": "sealing_caps",
    "trunk_extensions": "extensions",
    "end_caps": "end_caps",
    "trunk_joints": "trunk_joints",
}


def plan_counts(job: Job) -> dict[Basis, float | None]:
    """What of a plan goods are counted by; None where the roof must be drawn first."""
    strings, trackers = job.strings, job.inverter.trackers if job.inverter else ()
    inputs = sum(tracker.inputs for tracker in trackers)
    on = Counter(string.tracker for string in strings)
    beyond = sum(max(on[n] - one.inputs, 0) for n, one in enumerate(trackers, start=1))
    used = sum(min(on[n], one.inputs) for n, one in enumerate(trackers, start=1))
    devices = job.wall.devices if job.wall else ()
    ac = [run for run in job.feed.runs if not run.of_network]
    needs_aid = _needs_aid(job)
    people = sum(member.present for member in job.arrival.crew)
    return {
        "job": 1.0,
        "inverters": 1.0 if job.inverter else 0.0,
        "strings": float(len(strings)),
        "string_poles": float(POLES * len(strings)),
        "unused_input_poles": float(POLES * (inputs - used)),
        "branch_pairs": float(beyond),
        "extensions": _extensions(strings),
        "fused_poles": float(POLES * _fused(job)),
        "ac_core_ends": float(sum(AC_ENDS * run.cores for run in ac)),
        "ac_ends": float(AC_ENDS * len(ac)),
        "isolators": float(sum(one.kind in ("isolator", "safety_switch") for one in devices)),
        "people": float(people) or 1.0,
        "lifting_aids": 1.0 if needs_aid else 0.0,
        **_roof_earth(job),
        **_units(job),
        **_racking(job),
    }


def _fused(job: Job) -> int:
    """Strings whose fuses are brought: none where the inverter has them built in."""
    variant = job.inverter.variant(job.variant) if job.inverter else None
    if variant is not None and variant.fused:
        return 0
    return sum(string.fuse_a is not None for string in job.strings)


def _units(job: Job) -> dict[Basis, float | None]:
    """What a roof of microinverters is counted by; nothing where there is none."""
    if job.micro is None:
        return dict.fromkeys(UNIT_BASES, 0.0)
    parts, earth = roof_of(job).parts, job.micro.earth
    return {
        "roofs": 1.0,
        "units": parts.units,
        "branches": parts.branches,
        **{basis: _all_trunks(parts.trunks, field) for basis, field in TRUNK_BASES.items()},
        "joint_boxes": parts.joint_boxes,
        "tees": parts.tees,
        "capped_inputs": parts.capped_inputs,
        "dc_leads": parts.dc_leads,
        "unit_washers": parts.units if earth == "washer" else 0.0,
        "unit_lugs": parts.units if earth == "wire" else 0.0,
    }


def _all_trunks(trunks: tuple[TrunkNeeds, ...], field: str) -> float | None:
    """A part over every type of trunk; None where one of them does not say yet."""
    counts: list[float | None] = [getattr(one, field) for one in trunks]
    return None if None in counts else math.fsum(one for one in counts if one is not None)


def _needs_aid(job: Job) -> bool:
    body, rules = job.inverter.body if job.inverter else None, job.rules.wall
    return (
        body is not None
        and lift(
            mass_kg=body.mass_kg,
            two_people_kg=rules.two_people.value,
            lifting_aid_kg=rules.lifting_aid.value,
        ).with_aid
    )


@kept_ready(JOBS_KEPT)
def _extensions(strings: tuple[StringPlan, ...]) -> float | None:
    """Leads between following modules that do not lie side by side; None while not drawn."""
    if any(not string.places for string in strings):
        return None
    return float(sum(_jumps(string) for string in strings))


def _jumps(string: StringPlan) -> int:
    return sum(
        a.plane != b.plane or abs(a.row - b.row) + abs(a.column - b.column) != 1
        for a, b in zip(string.places, string.places[1:], strict=False)
    )


def _roof_earth(job: Job) -> dict[Basis, float | None]:
    parts = {part.what: part.count for one in roof_methods(job) if one.chosen for part in one.parts}
    names: dict[Basis, str] = {
        "washers": say("earth_parts", "washers"),
        "frame_lugs": say("earth_parts", "frame_lugs"),
        "rail_lugs": say("earth_parts", "rail_lugs"),
    }
    return {basis: parts.get(name, 0.0) for basis, name in names.items()}


def _hooks(job: Job, lengths_mm: list[float]) -> int:
    """Hooks of two rails under each run: on its rafters where they are known, else by the pitch."""
    rows = tape_rows(job)
    if rows and all(row.hooks_mm for row in rows):
        return sum(RAILS_PER_RUN * len(row.hooks_mm) for row in rows)
    return sum(math.ceil(mm / job.rules.load_in.hook_pitch.value) + 1 for mm in lengths_mm)


def _racking(job: Job) -> dict[Basis, float | None]:
    """Clamps, rails and hooks under the modules as drawn; two rails under each unbroken run."""
    runs = [run for plane in job.planes for run in rails_of(plane)]
    if not runs:
        # Without a plane of its own the rails are another inverter's, and counted there.
        count = None if job.planes else 0.0
        return dict.fromkeys(("mid_clamps", "end_clamps", "hooks", "rail_m"), count)
    mid = float(sum(RAILS_PER_RUN * (run - 1) for run in runs))
    end = float(END_CLAMPS_PER_RUN * len(runs))
    lengths = [rail.length_mm for one in layouts(job).values() for rail in one.rails]
    if len(lengths) < RAILS_PER_RUN * len(runs):
        return {"mid_clamps": mid, "end_clamps": end, "hooks": None, "rail_m": None}
    hooks = _hooks(job, lengths)
    rail_m = math.ceil(round(math.fsum(lengths) / MM_PER_M, 6))
    return {
        "mid_clamps": mid,
        "end_clamps": end,
        "hooks": float(hooks),
        "rail_m": float(rail_m),
    }
