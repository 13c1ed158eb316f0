"""What each string should read at the moment of its reading, from the best that is known."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import NamedTuple

from core.base.glossary import Mounting
from core.base.messages import figure, say
from core.figures.rule_packs import MeterRule
from core.job.job import Job
from core.job.readings import SITE, Reading
from core.job.roof import Plane
from core.job.strings import StringPlan
from core.planning.dc.string_plans import StringPlanner
from core.rules.dc.cell_temperature import (
    FULL_SUN_W_PER_M2,
    cell_from_air,
    cell_from_back,
    module_from_air_and_wind,
)
from core.rules.dc.expected_reading import CellFrom, ExpectedVoc, expected_from_neighbour
from core.rules.dc.tracker_current import planes_alike
from core.stages.reading_index import Readings


@dataclass(frozen=True, kw_only=True)
class Conditions:
    """Sun and cells on a plane at a moment, and what of them is missing."""

    irradiance: Reading | None
    t_cell_c: float | None
    needs: tuple[str, ...]


def conditions(job: Job, readings: Readings, plane: str, at: datetime | None) -> Conditions:
    """Irradiance and cell temperature nearest to a moment, by which a current is judged."""
    rules = job.rules.meter
    age = timedelta(minutes=rules.conditions_age.value)
    irradiance = readings.nearest("irradiance", plane, at, age)
    back = readings.nearest("module_temperature", plane, at, age)
    air = readings.nearest("air_temperature", SITE, at, age)
    wind = readings.nearest("wind", SITE, at, age)
    mounted = Mounted(job.module_on(plane).noct_c, job.plane(plane).mounting, rules)
    cell = _cell(mounted, irradiance.number, back, air, wind) if irradiance else None
    return Conditions(
        irradiance=irradiance,
        t_cell_c=cell[0] if cell else None,
        needs=_needs(plane, rules, irradiance, back or air),
    )


class Now:
    """What a string should read at the moment of its reading, or now when it has none.

    From irradiance and cell temperature; where irradiance is missing, from a like string that
    was read within the same minutes. by_sun: whether that string was itself judged by the sun.
    """

    def __init__(
        self, job: Job, planner: StringPlanner, readings: Readings, plan: StringPlan
    ) -> None:
        rules = planner.pack.meter
        self.reading: Reading | None = readings.latest("open_circuit", plan.name)
        at = self.reading.taken_at if self.reading else None
        age = timedelta(minutes=rules.conditions_age.value)
        irradiance = readings.nearest("irradiance", plan.plane, at, age)
        back = readings.nearest("module_temperature", plan.plane, at, age)
        air = readings.nearest("air_temperature", SITE, at, age)
        self.expected: ExpectedVoc | None = None
        self.by_sun = True
        self.needs = _needs(plan.plane, rules, irradiance, back or air)
        if irradiance and not self.needs:
            wind = readings.nearest("wind", SITE, at, age)
            mounted = Mounted(planner.module.noct_c, job.plane(plan.plane).mounting, rules)
            cell = _cell(mounted, irradiance.number, back, air, wind)
            self.expected = cell and planner.expected(
                plan.modules_in_series, irradiance.number, irradiance.basis, *cell
            )
        elif irradiance is None:
            found = _neighbour(job, planner, readings, plan, at, age)
            if found is not None:
                self.needs = ()
                self.by_sun = _judged_by_sun(readings, *found, age)
                self.expected = _expected_beside(planner, plan, *found)


def _needs(
    plane: str, rules: MeterRule, irradiance: Reading | None, temperature: Reading | None
) -> tuple[str, ...]:
    age = figure(rules.conditions_age.value, rules.conditions_age.unit)
    needs = []
    if irradiance is None:
        needs.append(say("needs", "irradiance", plane=plane, age=age))
    elif irradiance.number < rules.least_irradiance.value:
        needs.append(say("needs", "more_sun", plane=plane))
    if temperature is None:
        needs.append(say("needs", "temperature", age=age))
    return tuple(needs)


class Mounted(NamedTuple):
    """How a module's cells get warm: its NOCT, how it is mounted, the pack's figures."""

    noct_c: float
    mounting: Mounting
    rules: MeterRule

    def hotter_k(self, irradiance_w_per_m2: float) -> float:
        """How much hotter than with an open back its cells are in this sun."""
        if self.mounting != "in_roof":
            return 0.0
        return self.rules.in_roof_hotter.value * irradiance_w_per_m2 / FULL_SUN_W_PER_M2


def _cell(
    mounted: Mounted,
    irradiance_w_per_m2: float,
    back: Reading | None,
    air: Reading | None,
    wind: Reading | None,
) -> tuple[float, CellFrom] | None:
    """Cell temperature from the back of a module, else from air and wind, else from still air."""
    rise_k = mounted.rules.back_to_cell.value
    hotter_k = mounted.hotter_k(irradiance_w_per_m2)
    if back is not None:
        return _cell_behind(back.number, irradiance_w_per_m2, rise_k), "back"
    if air is None:
        return None
    if wind is not None:
        module_c = module_from_air_and_wind(
            t_air_c=air.number,
            irradiance_w_per_m2=irradiance_w_per_m2,
            wind_m_per_s=wind.number,
        )
        return _cell_behind(module_c + hotter_k, irradiance_w_per_m2, rise_k), "wind"
    cell_c = cell_from_air(
        t_air_c=air.number,
        irradiance_w_per_m2=irradiance_w_per_m2,
        noct_c=mounted.noct_c,
    )
    return cell_c + hotter_k, "air"


def _cell_behind(t_module_c: float, irradiance_w_per_m2: float, rise_k: float) -> float:
    return cell_from_back(
        t_module_c=t_module_c,
        irradiance_w_per_m2=irradiance_w_per_m2,
        rise_at_full_sun_k=rise_k,
    )


Beside = tuple[StringPlan, Reading]


def _neighbour(
    job: Job,
    planner: StringPlanner,
    readings: Readings,
    plan: StringPlan,
    at: datetime | None,
    age: timedelta,
) -> Beside | None:
    """A like string read in the same minutes; one that was judged by the sun before any other."""
    tolerance = planner.pack.current.alike_deg.value
    mine: Plane = job.plane(plan.plane)
    found = [
        (other, reading)
        for other in job.strings
        if other.name != plan.name
        and planes_alike(mine, job.plane(other.plane), tolerance)
        and job.module_on(other.plane) == planner.module
        for reading in (readings.nearest("open_circuit", other.name, at, age),)
        if reading is not None and reading.number > planner.pack.meter.near_zero.value
    ]
    return max(found, key=lambda one: _judged_by_sun(readings, one[0], one[1], age), default=None)


def _judged_by_sun(readings: Readings, other: StringPlan, reading: Reading, age: timedelta) -> bool:
    """Whether a string's reading has irradiance and a temperature of its own minutes beside it."""
    at = reading.taken_at
    sun = readings.nearest("irradiance", other.plane, at, age)
    back = readings.nearest("module_temperature", other.plane, at, age)
    air = readings.nearest("air_temperature", SITE, at, age)
    return sun is not None and (back or air) is not None


def _expected_beside(
    planner: StringPlanner, plan: StringPlan, other: StringPlan, reading: Reading
) -> ExpectedVoc:
    return expected_from_neighbour(
        neighbour=other.name,
        neighbour_v=reading.number,
        neighbour_modules=other.modules_in_series,
        modules_in_series=plan.modules_in_series,
        rule_pack=planner.pack,
    )
