"""The plant as the rule of energy takes it: its strings or units, its inverter, its losses."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from functools import cache
from math import fsum
from typing import Any

from core.data import load
from core.job.house import planes_used
from core.job.job import Job
from core.rules.leave.plant_energy import EnergyInverter, EnergyLoss, EnergyString, TrackerLimit


@dataclass(frozen=True, kw_only=True)
class Loss:
    """One loss of the model, with its source."""

    name: str
    pct: float
    source: str


@dataclass(frozen=True, kw_only=True)
class EnergyPlant:
    """What a plant is made of as far as its energy goes. units: of roof units each with the strings
    of the rule that it stands among; alike: how many units a string of the rule stands for."""

    planes: tuple[str, ...]
    strings: tuple[EnergyString, ...]
    inverters: tuple[EnergyInverter, ...]
    dc_losses: tuple[EnergyLoss, ...]
    ac_wiring_pct: float
    units: tuple[tuple[str, tuple[str, ...]], ...]
    alike: tuple[tuple[str, int], ...]
    missing: tuple[str, ...]


@cache
def _model() -> dict[str, Any]:
    data: dict[str, Any] = load("yield_model")
    return data


def losses() -> tuple[Loss, ...]:
    """Every loss of the model by its name, the AC side's last."""
    every = (*_model()["losses"], _model()["ac_wiring"])
    return tuple(Loss(name=one["name"], pct=one["pct"], source=one["source"]) for one in every)


def string_part(name: str) -> str:
    """What a string is called where energy is read of it."""
    return f"string {name}"


def peaks_w(job: Job) -> dict[str, float]:
    """The peak power of each string or unit, by what its energy is read of."""
    if job.micro is not None:
        return {
            one.name: fsum(job.module_on(place.plane).pmax_w for place in one.modules)
            for one in job.micro.units
        }
    return {
        string_part(one.name): one.modules_in_series * job.module_on(one.plane).pmax_w
        for one in job.strings
    }


def energy_plant(job: Job) -> EnergyPlant:
    """A job as the rule of energy takes it; missing: planes that nobody said the lie of."""
    lies = {one.name: one for one in job.planes}
    used = tuple(dict.fromkeys(planes_used(job)))
    missing = tuple(
        name for name in used if lies[name].tilt_deg is None or lies[name].azimuth_deg is None
    )
    strings, inverters, units = _of_roof(job) if job.micro else _of_wall(job)
    counts = {one.name: one.count for one in inverters}
    return EnergyPlant(
        planes=used,
        strings=strings,
        inverters=inverters,
        dc_losses=tuple(EnergyLoss(name=one["name"], pct=one["pct"]) for one in _model()["losses"]),
        ac_wiring_pct=_model()["ac_wiring"]["pct"],
        units=units,
        alike=tuple((one.name, counts[one.inverter]) for one in strings),
        missing=missing,
    )


Units = tuple[tuple[str, tuple[str, ...]], ...]
Made = tuple[tuple[EnergyString, ...], tuple[EnergyInverter, ...], Units]


def _of_wall(job: Job) -> Made:
    inverter = job.wall_inverter
    made = EnergyInverter(
        name="inverter",
        pac_max_w=inverter.rated_ac_w,
        efficiency=_model()["efficiency"]["value"],
        trackers=tuple(
            TrackerLimit(tracker=str(number), max_w=one.max_power_w)
            for number, one in enumerate(inverter.trackers, start=1)
            if one.max_power_w is not None
        ),
    )
    strings = tuple(
        EnergyString(
            name=string_part(one.name),
            plane=one.plane,
            inverter="inverter",
            tracker=str(one.tracker),
            modules=one.modules_in_series,
            pmax_w=job.module_on(one.plane).pmax_w,
            gamma_pct_per_k=job.module_on(one.plane).gamma_pmax_pct_per_k,
            noct_c=job.module_on(one.plane).noct_c,
        )
        for one in job.strings
    )
    return strings, (made,), ()


def _of_roof(job: Job) -> Made:
    """Units with as many modules on the same planes are alike: so many equal ones."""
    plan = job.roof_plan
    on = {
        unit.name: tuple(sorted(Counter(place.plane for place in unit.modules).items()))
        for unit in plan.units
        if unit.modules
    }
    strings, inverters, among = [], [], {}
    for number, (planes, count) in enumerate(sorted(Counter(on.values()).items()), start=1):
        name = f"units {number}"
        inverters.append(
            EnergyInverter(
                name=name,
                pac_max_w=plan.unit.max_va,
                efficiency=_model()["efficiency"]["value"],
                count=count,
            )
        )
        own = [_on_plane(job, name, plane, modules) for plane, modules in planes]
        among[planes] = tuple(one.name for one in own)
        strings += own
    units = tuple((unit, among[planes]) for unit, planes in on.items())
    return tuple(strings), tuple(inverters), units


def _on_plane(job: Job, inverter: str, plane: str, modules: int) -> EnergyString:
    module = job.module_on(plane)
    return EnergyString(
        name=f"{inverter} on {plane}",
        plane=plane,
        inverter=inverter,
        tracker=plane,
        modules=modules,
        pmax_w=module.pmax_w,
        gamma_pct_per_k=module.gamma_pmax_pct_per_k,
        noct_c=module.noct_c,
    )
