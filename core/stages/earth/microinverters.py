"""How roof units are earthed: by the trunk's core, by a washer to a bonded rail, by a wire."""

from __future__ import annotations

from core.assessment.microinverter import RoofPart, UnitMethod
from core.base.glossary import UnitEarth
from core.base.judgement import Judgement, waiting
from core.base.messages import say
from core.job.job import Job
from core.job.microinverter import MicroPlan
from core.planning.microinverter.parts import EARTH_WAYS, Roof
from core.rules.microinverter.unit_fit import UNIT_EARTH_SOURCE, unit_earth


def earth_judgement(job: Job, rails_bonded: bool) -> tuple[Judgement, ...]:
    """The chosen way to earth the units, judged; waiting while nobody chose."""
    plan = job.micro
    if plan is None:
        return ()
    if plan.earth is None:
        return (waiting("unit_earth", "", UNIT_EARTH_SOURCE, (say("needs", "unit_earth"),)),)
    return (
        unit_earth(
            school=plan.earth,
            allowed=_allowed(job, plan.earth),
            core=_has_core(plan),
            rails_bonded=rails_bonded,
        ),
    )


def _allowed(job: Job, school: UnitEarth) -> bool:
    units = job.roof_plan.unit_types
    return {
        "core": all(one.by_core for one in units),
        "washer": all(one.by_washer for one in units),
        "wire": True,
    }[school]


def _has_core(plan: MicroPlan) -> bool:
    """Whether every trunk of the roof carries a protective conductor."""
    return all(one.earth_core for one in plan.trunk_types)


def unit_methods(job: Job, roof: Roof) -> tuple[UnitMethod, ...]:
    """The ways to earth the units, what each needs, and whether the sheets allow it."""
    parts = roof.parts
    needed: dict[UnitEarth, tuple[RoofPart, ...]] = {
        "core": (_earth_part("core", 0.0 if _has_core(roof.plan) else None),),
        "washer": (_earth_part("washer", parts.units),),
        "wire": (_earth_part("wire", parts.wire_m), _earth_part("lug", parts.units)),
    }
    return tuple(
        UnitMethod(
            school=way,
            title=say("unit_earths", way),
            chosen=way == roof.plan.earth,
            allowed=_allowed(job, way) and (way != "core" or _has_core(roof.plan)),
            parts=tuple(one for one in needed[way] if one.count),
            caution=say("unit_earths", f"{way}_caution"),
        )
        for way in EARTH_WAYS
    )


def _earth_part(what: str, count: float | None) -> RoofPart:
    return RoofPart(
        what=say("unit_earths", f"{what}_part"),
        count=count,
        unit=say("unit_earths", "metres" if what == "wire" else "pieces"),
        because="",
    )
