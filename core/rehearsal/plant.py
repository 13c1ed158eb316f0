"""The plant that a rehearsal plays with, made from the job: strings, inverter, supply, switches."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from core.assessment.feed import FeedStage
from core.equipment.module import Module
from core.job.job import Job
from core.job.sequences import Fitted, known_steps
from core.planning.dc.module_counts import module_counts
from core.planning.wake.order import fitted
from core.rules.dc.expected_reading import isc_now, voc_now

Sun = Literal["bright", "weak", "dark"]
Supply = Literal["usual", "high"]

SUN_W_PER_M2: dict[Sun, float] = {"bright": 760.0, "weak": 60.0, "dark": 0.0}
T_CELL_C = 35.0
# Clouds and other loads change the sun and the supply about this often.
WANDER_S = 30
DRAWN_KEPT = 8192
CLOUD_SHARE = 0.12
SUPPLY_WANDER_V = 0.8
# A high supply stands so far below the level at which the inverter stops.
HIGH_BELOW_TRIP_V = 1.0
STRINGS_DARK_W_PER_M2 = 5.0
# What stands for a profile while the job has none: nobody's supply, only the rehearsal's.
OBSERVE_S, TRIP_SHARE, TRIP_S = 60.0, 1.10, 3.0
RISE_V = 3.0
# The step that ends the pairing says how long it takes.
PAIRED = "paired"


@dataclass(frozen=True, kw_only=True)
class Plant:
    """What is rehearsed with. string_v: open circuit at this sun, highest string first.

    rise_v: what full export lifts at the inverter. charge_s: of the safety switch. pair_s:
    what the pairing of optimisers takes.
    """

    has: frozenset[Fitted]
    is_micro: bool
    is_backup: bool
    string_v: tuple[float, ...]
    string_a: float
    start_v: float
    max_dc_v: float
    rated_w: float
    array_w: float
    supply_v: float
    trip_v: float
    trip_s: float
    observe_s: float
    rise_v: float
    charge_s: float
    pair_s: float
    sun: Sun
    seed: int

    def sun_share(self, at_s: float) -> float:
        """How much of this sun is there at a moment, clouds and all. [0..1]"""
        return 1.0 - CLOUD_SHARE * (0.5 + 0.5 * _wander(self.seed, "sun", at_s))

    def supply_at(self, at_s: float) -> float:
        """The supply's voltage at a moment. [V]"""
        return self.supply_v + SUPPLY_WANDER_V * _wander(self.seed, "supply", at_s)


def _wander(seed: int, what: str, at_s: float) -> float:
    """A smooth wandering between -1 and 1, the same for the same seed."""
    step, rest = divmod(at_s, WANDER_S)
    here, there = (_drawn(seed, what, int(step) + more) for more in (0, 1))
    return here + (there - here) * rest / WANDER_S


@lru_cache(maxsize=DRAWN_KEPT)
def _drawn(seed: int, what: str, step: int) -> float:
    return random.Random(f"{seed} {what} {step}").uniform(-1, 1)


def plant_of(job: Job, feed: FeedStage, *, seed: int, sun: Sun, supply: Supply) -> Plant:
    """The plant of a job in this sun, on this supply."""
    chosen = job.grid_profile
    source = job.source
    trip_v = (chosen and chosen.value("over_voltage_1_v")) or TRIP_SHARE * source.nominal_v
    safety = job.feed.dc.safety
    usual_v = feed.supply.volts if feed.supply.measured else source.nominal_v
    irradiance = SUN_W_PER_M2[sun]
    modules = job.module_types
    lit = irradiance > STRINGS_DARK_W_PER_M2
    inverter = job.inverter
    return Plant(
        has=fitted(job),
        is_micro=job.micro is not None,
        is_backup=job.feed.backup is not None,
        string_v=_strings_v(job, irradiance) if lit else (0.0,) * max(len(job.strings), 1),
        string_a=isc_now(
            isc_a=modules[0].imp_a,
            alpha_isc_pct_per_k=modules[0].alpha_isc_pct_per_k,
            irradiance_w_per_m2=max(irradiance, 1.0),
            t_cell_c=T_CELL_C,
        ),
        start_v=_start_v(job),
        max_dc_v=inverter.dc.max_dc_v
        if inverter
        else min(one.max_input_v for one in job.roof_plan.unit_types),
        rated_w=source.rated_ac_w,
        array_w=_array_w(job) * irradiance / 1000.0,
        supply_v=trip_v - HIGH_BELOW_TRIP_V if supply == "high" else usual_v,
        trip_v=trip_v,
        trip_s=(chosen and chosen.value("over_voltage_1_s")) or TRIP_S,
        observe_s=(chosen and chosen.value("observe_s")) or OBSERVE_S,
        rise_v=feed.today.rise_v if feed.today else RISE_V,
        charge_s=safety.charge_s if safety else 0.0,
        pair_s=known_steps()[PAIRED].wait_s or 0.0,
        sun=sun,
        seed=seed,
    )


def _start_v(job: Job) -> float:
    if job.inverter is None:
        return max(one.start_v for one in job.roof_plan.unit_types)
    # Optimisers hold the string's voltage: the inverter starts when it tells them to.
    return job.optimiser.safety_v if job.optimiser else job.inverter.dc.start_v


def _strings_v(job: Job, irradiance: float) -> tuple[float, ...]:
    """Each string's open circuit in this sun, highest first; of a roof of units one module's."""
    plans = [(job.module_on(one.plane), one.modules_in_series) for one in job.strings]
    if job.optimiser is not None:
        volts = [count * job.optimiser.safety_v for _, count in plans]
    else:
        volts = [_open_v(*one, irradiance) for one in plans or [(job.module, 1)]]
    return tuple(sorted(volts, reverse=True)) or (0.0,)


def _open_v(module: Module, count: int, irradiance: float) -> float:
    return voc_now(
        modules_in_series=count,
        voc_v=module.voc_v,
        beta_voc_pct_per_k=module.beta_voc_pct_per_k,
        cells_in_series=module.cells_in_series,
        irradiance_w_per_m2=irradiance,
        t_cell_c=T_CELL_C,
    )


def _array_w(job: Job) -> float:
    return math.fsum(count * module.pmax_w for module, count in module_counts(job).items())
