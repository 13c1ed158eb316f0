"""The earth path: which things reach the electrode, what a roof needs, a path to begin with."""

from __future__ import annotations

from collections import defaultdict
from itertools import pairwise
from math import fsum

from core.assessment.site import EarthPart, RoofMethod
from core.base.glossary import RoofEarth
from core.base.messages import figure, say
from core.job.earthing import Earthing, EarthLink, EarthNode, How
from core.job.feed import Chain
from core.job.job import Job
from core.job.roof import MODULE_CELL, Plane
from core.planning.dc.module_counts import module_counts
from core.planning.microinverter.parts import roof_of
from core.rules.earth.earth_bonding import protective_size

SCHOOLS: tuple[RoofEarth, ...] = ("washer", "wire", "none")
WASHERS_PER_MODULE = 2
# So that the name of a step between two planes' rails stays inside what a name may be.
PLANE_CHARS = 22
# Cores are measured to a step or two; what is shorter by more leaves a piece of the way out.
LEAST_OF_WAY = 0.8


def reaching(earthing: Earthing) -> frozenset[str]:
    """Names of the things from which the path leads to an electrode."""
    beside: dict[str, set[str]] = defaultdict(set)
    for link in earthing.links:
        beside[link.start].add(link.end)
        beside[link.end].add(link.start)
    found = {node.name for node in earthing.nodes if node.kind == "electrode"}
    ahead = list(found)
    while ahead:
        for name in beside[ahead.pop()] - found:
            found.add(name)
            ahead.append(name)
    return frozenset(found)


def planned_modules(job: Job) -> int:
    """Modules of the plan: in strings, or as drawn under units."""
    return sum(module_counts(job).values())


def rails_of(plane: Plane) -> tuple[int, ...]:
    """Modules in each unbroken run of a plane's rows: two rails lie under each."""
    return tuple(len(run) for row in plane.rows for run in row.split(".") if MODULE_CELL in run)


def roof_methods(job: Job) -> tuple[RoofMethod, ...]:
    """The ways to bond the frames of this roof, and what each needs."""
    modules = planned_modules(job)
    runs = [run for plane in job.planes for run in rails_of(plane)]
    rails = 2.0 * len(runs) if runs else None
    parts: dict[RoofEarth, tuple[EarthPart, ...]] = {
        "washer": (
            _part("washers", float(WASHERS_PER_MODULE * modules)),
            _part("rail_lugs", rails),
        ),
        "wire": (
            _part("frame_lugs", float(modules)),
            _part("rail_lugs", rails),
        ),
        "none": (),
    }
    return tuple(
        RoofMethod(
            school=school,
            title=say("roof_earth", school),
            chosen=school == job.earthing.roof,
            default=school == job.rules.earth.roof,
            parts=parts[school],
            caution=say("roof_earth", f"{school}_caution"),
        )
        for school in SCHOOLS
    )


def _part(what: str, count: float | None) -> EarthPart:
    return EarthPart(what=say("earth_parts", what), count=count, unit=say("earth_parts", "unit"))


def proposed(job: Job) -> Earthing:
    """A path to begin with: frames, rails, inverter, terminal and electrode, sized by the rules.

    The rails' conductor is as long as the longest home run; lengths that the plan does not know
    stay open.
    """
    rule, earthing = job.rules.earth, job.earthing
    planes = list(dict.fromkeys(string.plane for string in job.strings))
    if job.micro is not None:
        planes = [plane.name for plane in job.planes if plane.modules]
    least_mm2 = (rule.bond_lightning if earthing.lightning else rule.bond_least).value
    if job.feed.safety.combined_neutral:
        least_mm2 = max(least_mm2, job.rules.safety.bond_combined.value)
    bond_mm2 = standard_size(job, least_mm2)
    terminal, electrode = say("earth_nodes", "terminal"), say("earth_nodes", "electrode")
    inverter = say("earth_nodes", "inverter" if job.inverter else "units")
    nodes, links = [], list[EarthLink]()
    shown = _short(planes)
    rails = [say("earth_nodes", "rails", plane=plane) for plane in shown]
    for plane, rail in zip(shown, rails, strict=True):
        frames = say("earth_nodes", "frames", plane=plane)
        if earthing.roof != "none":
            nodes.append(EarthNode(name=frames, kind="frames"))
            by_washer = earthing.roof == "washer"
            links.append(
                _link(frames, rail, "washer")
                if by_washer
                else _link(frames, rail, "wire", None, bond_mm2)
            )
        nodes.append(EarthNode(name=rail, kind="rails"))
    for rail, onward in pairwise((*rails, terminal)):
        last = onward == terminal
        run_m = _longest_run_m(job) if last else None
        links.append(_link(rail, onward, "wire", run_m, bond_mm2, 8.0))
    stud_mm = job.inverter.earth_stud_mm if job.inverter else None
    nodes += [
        EarthNode(name=inverter, kind="inverter" if job.inverter else "units"),
        EarthNode(name=terminal, kind="terminal"),
        EarthNode(name=electrode, kind="electrode"),
    ]
    links.append(_link(inverter, terminal, "core", *_core(job), stud_mm=stud_mm))
    links.append(
        _link(terminal, electrode, "wire", None, standard_size(job, rule.full_to.value), 8.0)
    )
    return Earthing(
        roof=earthing.roof,
        array_pole=earthing.array_pole,
        lightning=earthing.lightning,
        nodes=tuple(nodes),
        links=tuple(links),
    )


def _core(job: Job) -> tuple[float | None, float | None]:
    """Length and size of the protective core from the inverter to the earth terminal."""
    last = job.feed.last
    if last is None:
        return None, None
    least_mm2 = protective_size(line_mm2=last.section_mm2, rule_pack=job.rules)
    return core_way_m(job), standard_size(job, least_mm2)


def core_way_m(job: Job) -> float | None:
    """How far the protective core runs from the earth terminal: to the inverter, or over home run
    and trunk to the last unit of the furthest branch. None while a piece is not known."""
    last = job.feed.last
    if last is None:
        return None
    if job.micro is None:
        return _own_m(job.feed.chain) or last.length_m
    trunks = roof_of(job).trunks
    ways = []
    for branch in job.micro.branches:
        if branch.units:
            trunk_m = trunks[branch.name].length_m
            if trunk_m is None or branch.joint is None:
                return None
            ways.append(_own_m(job.feed.chain_to(branch.joint)) + trunk_m)
    return max(ways, default=_own_m(job.feed.chain))


def _own_m(chain: Chain) -> float:
    return fsum(run.length_m for run in chain.runs if not run.of_network)


def left_out(job: Job) -> tuple[str, ...]:
    """What the plan has and its earth path leaves out, in words: planes, or part of the way."""
    earthing = job.earthing
    found = []
    planes = [plane for plane in job.planes if plane.name in _used(job)]
    for kind in ("rails", *(("frames",) if earthing.roof != "none" else ())):
        has = sum(node.kind == kind for node in earthing.nodes)
        found += [say("needs", "earth_plane", plane=plane.name) for plane in planes[has:]]
    way_m = core_way_m(job) or 0.0
    for link in earthing.links:
        has_m = link.length_m
        if link.how == "core" and has_m is not None and has_m < LEAST_OF_WAY * way_m:
            way, has = figure(way_m, "m"), figure(has_m, "m")
            found.append(say("needs", "earth_way", name=link.name, way=way, has=has))
    return tuple(dict.fromkeys(found))


def _used(job: Job) -> set[str]:
    """The planes that hold modules of the plan."""
    if job.micro is not None:
        return {plane.name for plane in job.planes if plane.modules}
    return {string.plane for string in job.strings}


def _short(planes: list[str]) -> list[str]:
    """Names of planes short enough for a step between two of them, each once."""
    found: list[str] = []
    for number, plane in enumerate(planes, start=1):
        short = plane[:PLANE_CHARS]
        taken = short in found
        found.append(f"{plane[: PLANE_CHARS - 3]} {number}" if taken else short)
    return found


def standard_size(job: Job, least_mm2: float) -> float:
    """The smallest conductor of the pack's table that is large enough; the least where none is."""
    sizes = (one.section_mm2 for one in job.rules.ac.conductors if one.section_mm2 >= least_mm2)
    return min(sizes, default=least_mm2)


def _longest_run_m(job: Job) -> float | None:
    runs = [fsum(one.length_m for one in s.home_run) for s in job.strings if s.home_run]
    return max(runs, default=None)


def _link(
    start: str,
    end: str,
    how: How,
    length_m: float | None = None,
    section_mm2: float | None = None,
    stud_mm: float | None = None,
) -> EarthLink:
    return EarthLink(
        name=say("earth_nodes", "link", start=start, end=end),
        start=start,
        end=end,
        how=how,
        length_m=length_m,
        section_mm2=section_mm2,
        stud_mm=stud_mm,
    )
