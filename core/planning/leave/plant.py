"""The plant as the rule of energy takes it: its strings or units, its inverter, its losses."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from functools import cache
from typing import Any

from core.data import load
from core.job.house import planes_used
from core.job.job import Job
from core.rules.leave.plant_energy import EnergyInverter, EnergyLoss, EnergyString


@dataclass(frozen=True, kw_only=True)
class Loss:
    """One loss of the model, with its source."""

    name: str
    pct: float
    source: str


@dataclass(frozen=True, kw_only=True)
class EnergyPlant:
    """What a plant is made of as far as its energy goes. parts: for each string of the rule, what
    it is called on the screens, and how many units it stands for."""

    planes: tuple[str, ...]
    strings: tuple[EnergyString, ...]
    inverters: tuple[EnergyInverter, ...]
    dc_losses: tuple[EnergyLoss, ...]
    ac_wiring_pct: float
    parts: tuple[tuple[str, int], ...]
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
            one.name: sum(job.module_on(place.plane).pmax_w for place in one.modules)
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
    strings, inverters, parts = _of_roof(job) if job.micro else _of_wall(job)
    return EnergyPlant(
        planes=used,
        strings=strings,
        inverters=inverters,
        dc_losses=tuple(EnergyLoss(name=one["name"], pct=one["pct"]) for one in _model()["losses"]),
        ac_wiring_pct=_model()["ac_wiring"]["pct"],
        parts=parts,
        missing=missing,
    )


Made = tuple[tuple[EnergyString, ...], tuple[EnergyInverter, ...], tuple[tuple[str, int], ...]]


def _of_wall(job: Job) -> Made:
    inverter = job.wall_inverter
    each = [one.max_power_w for one in inverter.trackers]
    known = [one for one in each if one is not None]
    made = EnergyInverter(
        name="inverter",
        pac_max_w=inverter.rated_ac_w,
        efficiency=_model()["efficiency"]["value"],
        tracker_max_w=max(known) if len(known) == len(each) else None,
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
    return strings, (made,), tuple((one.name, 1) for one in strings)


def _of_roof(job: Job) -> Made:
    """Units with as many modules on one plane are alike: so many equal ones."""
    plan = job.roof_plan
    alike = Counter(
        tuple(Counter(place.plane for place in unit.modules).items())
        for unit in plan.units
        if unit.modules
    )
    strings, inverters, parts = [], [], []
    for number, (on, count) in enumerate(sorted(alike.items()), start=1):
        name = f"units {number}"
        inverters.append(
            EnergyInverter(
                name=name,
                pac_max_w=plan.unit.max_va,
                efficiency=_model()["efficiency"]["value"],
                count=count,
            )
        )
        for plane, modules in on:
            module = job.module_on(plane)
            strings.append(
                EnergyString(
                    name=f"{plane}, {modules} on a unit",
                    plane=plane,
                    inverter=name,
                    tracker=plane,
                    modules=modules,
                    pmax_w=module.pmax_w,
                    gamma_pct_per_k=module.gamma_pmax_pct_per_k,
                    noct_c=module.noct_c,
                )
            )
            parts.append((strings[-1].name, count))
    return tuple(strings), tuple(inverters), tuple(parts)
