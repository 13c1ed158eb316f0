"""Where a unit lies on the roof, and which of those that speak lie nearest to a silent one."""

from __future__ import annotations

import math

from core.job.job import Job
from core.job.roof import ModulePlace, place_text

NEAREST = 2


def unit_places(job: Job) -> dict[str, tuple[ModulePlace, ...]]:
    """The modules of every roof unit, or of every module of the strings by its own name."""
    if job.micro is not None:
        return {unit.name: unit.modules for unit in job.micro.units}
    return {place_text(place): (place,) for string in job.strings for place in string.places}


def nearest(
    silent: ModulePlace, talking: dict[str, ModulePlace], most: int = NEAREST
) -> tuple[str, ...]:
    """The nearest that speak, on the same plane first, by rows and columns between."""

    def away(place: ModulePlace) -> tuple[bool, float]:
        return place.plane != silent.plane, math.hypot(
            place.row - silent.row, place.column - silent.column
        )

    found = sorted(talking.items(), key=lambda one: (away(one[1]), one[0]))
    return tuple(name for name, _ in found[:most])
