"""What a job needs on the drive, counted from its plan: equipment, small parts, cable, tools."""

from __future__ import annotations

import json
import math
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path
from typing import Annotated, Any, Literal

from core.form import Checked, read
from core.glossary import Name, Note
from core.job import Job, StringPlan
from core.planning.earth_path import rails_of, roof_schools
from core.planning.wall_space import body_of
from core.quantity import Quantity
from core.rules.wall_fixings import lift
from core.wall import DeviceKind
from core.words import figure, say

FILE = Path(__file__).parent.parent / "data" / "load_in.json"
MM_PER_M = 1000.0
JOBS_KEPT = 32
RAILS_PER_RUN = 2
END_CLAMPS_PER_RUN = 4
POLES = 2
AC_ENDS = 2
# On which shelf the sheet of a device on the wall lies, where it is not among the wall units.
SHELF_OF: dict[DeviceKind, str] = {"isolator": "isolators", "safety_switch": "safety_switches"}

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
]


@dataclass(frozen=True, kw_only=True)
class PerLine(Checked):
    """One line of the load-in sheet that is counted by something of the plan."""

    id: Name
    group: Name
    what: Name
    unit: Name
    per: Basis
    each: Annotated[float, Quantity("for each", "", 0, 100)]
    must: bool
    keep: Note


@dataclass(frozen=True, kw_only=True)
class Needed:
    """One line of what a job needs. count: None while the plan does not say; because says why."""

    id: str
    group: str
    what: str
    unit: str
    count: float | None
    because: str
    must: bool
    keep: str = ""
    kind: str = ""


@cache
def per_lines() -> tuple[PerLine, ...]:
    """The lines that are counted by something of the plan, as the data file has them."""
    data: Any = json.loads(FILE.read_text(encoding="utf-8"))
    return read(tuple[PerLine, ...], data, "$load_in")


def load_in(job: Job) -> tuple[Needed, ...]:
    """Everything the job needs, from the goods on the drive to the gloves; none counted twice."""
    return (*_equipment(job), *_cables(job), *_fixings(job), *_counted(job))


def _equipment(job: Job) -> Iterator[Needed]:
    modules = sum(string.modules_in_series for string in job.strings)
    yield _sheet("modules", job.module.label, modules, say("load_in", "modules"))
    yield _sheet("inverters", job.inverter.label, 1, say("load_in", "inverters"))
    if job.optimiser is not None:
        yield _sheet("optimisers", job.optimiser.label, modules, say("load_in", "optimisers"))
    devices = job.wall.devices if job.wall else ()
    by_label = Counter((one.label, one.kind) for one in devices if one.kind != "inverter")
    for (label, kind), count in by_label.items():
        yield Needed(
            id=f"wall {label}"[:60],
            group="equipment",
            what=label,
            unit=say("load_in", "pieces"),
            count=float(count),
            because=say("load_in", "on_wall"),
            must=True,
            kind=SHELF_OF.get(kind, "wall_units"),
        )


def _sheet(kind: str, label: str, count: int, because: str) -> Needed:
    return Needed(
        id=kind,
        group="equipment",
        what=label,
        unit=say("load_in", "pieces"),
        count=float(count),
        because=because,
        must=True,
        kind=kind,
    )


def _cables(job: Job) -> Iterator[Needed]:
    spare = 1 + job.rules.load_in.cable_spare.value / 100
    unknown = [string.name for string in job.strings if string.home_run is None]
    by_size: dict[float, float] = defaultdict(float)
    for string in job.strings:
        if string.home_run is not None:
            by_size[string.home_run.section_mm2] += POLES * string.home_run.length_m
    for size, length_m in sorted(by_size.items()):
        yield _cable(f"dc {size:g}", "dc_cable", size, length_m * spare, not unknown)
    if unknown:
        names = ", ".join(unknown)
        yield _unknown_cable("dc", "dc_cable", say("load_in", "no_run", names=names))
    feed = job.feed
    what = say("load_in", "ac_cable", cores=str(feed.cores), size=figure(feed.section_mm2))
    yield _length("ac", what, feed.length_m * spare)
    earth: dict[float, float] = defaultdict(float)
    for link in job.earthing.links:
        if link.how == "wire" and link.length_m is not None and link.section_mm2 is not None:
            earth[link.section_mm2] += link.length_m
    for size, length_m in sorted(earth.items()):
        yield _cable(f"earth {size:g}", "earth_cable", size, length_m * spare, True)
    lugs = Counter(
        (link.section_mm2, link.stud_mm)
        for link in job.earthing.links
        if link.stud_mm is not None and link.section_mm2 is not None
    )
    for (section, stud), count in sorted(lugs.items()):
        yield Needed(
            id=f"lug {section:g}-{stud:g}",
            group="earth",
            what=say("load_in", "lug", size=figure(section), stud=figure(stud)),
            unit=say("load_in", "pieces"),
            count=float(count),
            because=say("load_in", "lugs"),
            must=True,
        )


def _cable(line: str, what: str, size: float, length_m: float, whole: bool) -> Needed:
    return _length(line, say("load_in", what, size=figure(size)), length_m, whole)


def _length(line: str, what: str, length_m: float, whole: bool = True) -> Needed:
    return Needed(
        id=f"cable {line}",
        group="cable",
        what=what,
        unit="m",
        count=float(math.ceil(round(length_m, 6))),
        because=say("load_in", "with_spare" if whole else "without_some"),
        must=True,
    )


def _unknown_cable(line: str, what: str, because: str) -> Needed:
    return Needed(
        id=f"cable {line}",
        group="cable",
        what=say("load_in", what, size="?"),
        unit="m",
        count=None,
        because=because,
        must=True,
    )


def _fixings(job: Job) -> Iterator[Needed]:
    counts: dict[str, float] = defaultdict(float)
    drills: dict[float, str] = {}
    for device in job.wall.devices if job.wall else ():
        body = body_of(device, job.inverter)
        if body is None or body.bracket is None or device.fixing is None:
            continue
        counts[device.fixing.label] += body.bracket.all_fixings
        drills[device.fixing.drill_mm] = device.fixing.label
    for label, count in counts.items():
        yield Needed(
            id=f"fixing {label}"[:60],
            group="fixings",
            what=label,
            unit=say("load_in", "pieces"),
            count=count,
            because=say("load_in", "fixings"),
            must=True,
            kind="fixings",
        )
    for diameter, label in sorted(drills.items()):
        yield Needed(
            id=f"drill {diameter:g}",
            group="tools",
            what=say("load_in", "drill", size=figure(diameter, "mm")),
            unit=say("load_in", "pieces"),
            count=1.0,
            because=say("load_in", "drill_for", fixing=label),
            must=True,
        )


def _counted(job: Job) -> Iterator[Needed]:
    bases = plan_counts(job)
    is_drawn = any(plane.rows for plane in job.planes)
    missing = "no_sides" if is_drawn and job.module.short_mm is None else "not_drawn"
    for line in per_lines():
        count = bases[line.per]
        if count == 0:
            continue
        yield Needed(
            id=line.id,
            group=line.group,
            what=line.what,
            unit=line.unit,
            count=None if count is None else count * line.each,
            because=say("load_in", missing) if count is None else say("per", line.per),
            must=line.must,
            keep=line.keep,
        )


def plan_counts(job: Job) -> dict[Basis, float | None]:
    """What of a plan goods are counted by; None where the roof must be drawn first."""
    strings, trackers = job.strings, job.inverter.trackers
    inputs = sum(tracker.inputs for tracker in trackers)
    on = Counter(string.tracker for string in strings)
    beyond = sum(max(on[n] - one.inputs, 0) for n, one in enumerate(trackers, start=1))
    used = sum(min(on[n], one.inputs) for n, one in enumerate(trackers, start=1))
    devices = job.wall.devices if job.wall else ()
    needs_aid = _needs_aid(job)
    people = sum(member.present for member in job.arrival.crew)
    return {
        "job": 1.0,
        "inverters": 1.0,
        "strings": float(len(strings)),
        "string_poles": float(POLES * len(strings)),
        "unused_input_poles": float(POLES * (inputs - used)),
        "branch_pairs": float(beyond),
        "extensions": _extensions(strings),
        "fused_poles": float(POLES * sum(string.fuse_a is not None for string in strings)),
        "ac_core_ends": float(AC_ENDS * job.feed.cores),
        "ac_ends": float(AC_ENDS),
        "isolators": float(sum(one.kind in ("isolator", "safety_switch") for one in devices)),
        "people": float(people) or 1.0,
        "lifting_aids": 1.0 if needs_aid else 0.0,
        **_roof_earth(job),
        **_racking(job),
    }


def _needs_aid(job: Job) -> bool:
    body, rules = job.inverter.body, job.rules.wall
    return (
        body is not None
        and lift(
            mass_kg=body.mass_kg,
            two_people_kg=rules.two_people.value,
            lifting_aid_kg=rules.lifting_aid.value,
        ).with_aid
    )


@lru_cache(maxsize=JOBS_KEPT)
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
    parts = {part.what: part.count for one in roof_schools(job) if one.chosen for part in one.parts}
    names: dict[Basis, str] = {
        "washers": say("earth_parts", "washers"),
        "frame_lugs": say("earth_parts", "frame_lugs"),
        "rail_lugs": say("earth_parts", "rail_lugs"),
    }
    return {basis: parts.get(name, 0.0) for basis, name in names.items()}


def _racking(job: Job) -> dict[Basis, float | None]:
    """Clamps, rails and hooks under the modules as drawn; two rails under each unbroken run."""
    runs = [run for plane in job.planes for run in rails_of(plane)]
    if not runs:
        return dict.fromkeys(("mid_clamps", "end_clamps", "hooks", "rail_m"), None)
    mid = float(sum(RAILS_PER_RUN * (run - 1) for run in runs))
    end = float(END_CLAMPS_PER_RUN * len(runs))
    short_mm, rules = job.module.short_mm, job.rules.load_in
    if short_mm is None:
        return {"mid_clamps": mid, "end_clamps": end, "hooks": None, "rail_m": None}
    lengths = [
        run * short_mm + (run - 1) * rules.clamp_gap.value + 2 * rules.rail_end.value
        for run in runs
    ]
    hooks = sum(RAILS_PER_RUN * (math.ceil(mm / rules.hook_pitch.value) + 1) for mm in lengths)
    rail_m = math.ceil(round(RAILS_PER_RUN * sum(lengths) / MM_PER_M, 6))
    return {
        "mid_clamps": mid,
        "end_clamps": end,
        "hooks": float(hooks),
        "rail_m": float(rail_m),
    }
