"""A house with several inverters: each looked at as a job of its own, and put back whole.

A view is what a job with one inverter would be: its own plan and readings, what the house shares,
and the others as what feeds beside it. Everything that judges or edits one inverter works on its
view; `merged` brings an edited view back into the house.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from math import fsum
from typing import Any

from core.job.fingerprints import stamped
from core.job.house_views import made_views, station_of
from core.job.job import KEPT_APART, KEPT_OF_HOUSE, Job
from core.job.reading_kinds import KINDS
from core.job.readings import Reading
from core.job.roof import ModulePlace
from core.job.strings import StringPlan
from core.job.subjects import supply_pairs

NOTHING_KEPT: dict[str, Any] = dict.fromkeys(KEPT_APART, ())
NOTHING_KEPT_OF_HOUSE: dict[str, Any] = NOTHING_KEPT | dict.fromkeys(KEPT_OF_HOUSE, ())


@dataclass(frozen=True, kw_only=True)
class View(Job):
    """One inverter of a house as a job of its own.

    sisters: the views of the others, in the order of the house; earlier: how many of them stand
    before this one. house_id: the identity of the house and its first inverter.
    """

    house_id: str = ""
    sisters: tuple[Job, ...] = ()
    earlier: int = 0


def house_rated_w(job: Job) -> float:
    """What all inverters of the house give at full output: what a permit has to cover."""
    every = (job, *(job.sisters if isinstance(job, View) else ()))
    rated = [one.source.rated_ac_w for one in every]
    return fsum((*rated, *(one.inverter.rated_ac_w for one in job.stations)))


def strings_elsewhere(job: Job) -> tuple[StringPlan, ...]:
    """The strings of the other inverters of the house."""
    sisters = job.sisters if isinstance(job, View) else ()
    return tuple(string for one in sisters for string in one.strings)


def modules_elsewhere(job: Job) -> frozenset[ModulePlace]:
    """Modules of the roof that hang on the other inverters, as far as they are drawn."""
    sisters = job.sisters if isinstance(job, View) else ()
    units = (unit for one in sisters if one.micro is not None for unit in one.micro.units)
    drawn = (place for string in strings_elsewhere(job) for place in string.places)
    return frozenset((*drawn, *(place for unit in units for place in unit.modules)))


def alone(job: Job) -> Job:
    """A view as a job without its sisters, as a file has it."""
    if not isinstance(job, View):
        return job
    return Job(**{field.name: getattr(job, field.name) for field in fields(Job)})


def view(house: Job, of: str) -> Job:
    """The job of one inverter of a house, by its identity; of a house with one, the job itself.

    Raises KeyError for an identity that is none of its inverters'.
    """
    if not house.stations:
        if of != house.id:
            raise KeyError(of)
        return house
    return _among(house, {one.id: one for one in made_views(house)}, of)


def _among(house: Job, every: dict[str, Job], of: str) -> View:
    """One of the inverters beside its sisters; it was checked as it was made."""
    own, sisters = every[of], tuple(one for one in every.values() if one.id != of)
    kept = tuple(one for one in own.readings if not _anothers(one, own, sisters))
    made = object.__new__(View)
    beside = {"house_id": house.id, "sisters": sisters, "earlier": [*every].index(of)}
    vars(made).update(vars(own) | beside | {"readings": kept})
    return made


def _anothers(reading: Reading, own: Job, sisters: tuple[Job, ...]) -> bool:
    """Whether a reading of the house is of a phase or a plane that is another inverter's alone."""
    of, subject = KINDS[reading.kind].of, reading.subject
    if of == "supply_pair":
        ours, theirs = _pairs(own), [pair for one in sisters for pair in _pairs(one)]
    elif of == "plane":
        ours, theirs = planes_used(own), [plane for one in sisters for plane in planes_used(one)]
    else:
        return False
    return subject not in ours and subject in theirs


def _pairs(job: Job) -> tuple[str, ...]:
    return supply_pairs(job.feed, job.source.service)


def planes_used(job: Job) -> tuple[str, ...]:
    units = job.micro.units if job.micro else ()
    places = (place.plane for unit in units for place in unit.modules)
    return (*(one.plane for one in job.strings), *places)


def views(house: Job) -> tuple[Job, ...]:
    """The view of every inverter, the first first."""
    if not house.stations:
        return (house,)
    every = {one.id: one for one in made_views(house)}
    return tuple(_among(house, every, of) for of in every)


def with_kept(house: Job, kept: dict[str, dict[str, Any]]) -> Job:
    """The house with everything that was read and written of each inverter, by its identity."""
    stations = tuple(
        replace(one, **kept[one.id]) if one.id in kept else one for one in house.stations
    )
    return replace(house, stations=stations, **kept.get(house.id, {}))


def stamped_house(house: Job) -> Job:
    """The house with every reading that lacks it given the fingerprint of the plan as it stands."""
    if not house.stations:
        return stamped(house)
    kept: dict[str, dict[str, Any]] = {}
    for one in made_views(house):
        marked = {reading.id: reading for reading in stamped(one).readings}
        own = house.readings if one.id == house.id else station_of(house, one.id).readings
        kept[one.id] = {"readings": tuple(marked[reading.id] for reading in own)}
    return with_kept(house, kept)
