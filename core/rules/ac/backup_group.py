"""A backup group: battery units on their breakers, what runs on which phase, and for how long."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import BreakerShare, CurrentA, Name, NominalV, PowerFactor, RatedA
from core.base.judgement import Judgement, at_least, at_most, fits, same
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.rules.ac.boards import MAINS_A, Ratings

BackupPhases = Literal["L1", "L2", "L3", "three-phase"]
UnitsThere = Annotated[int, Quantity("battery units on a breaker", "", 0, 40)]
EnergyKwh = Annotated[float, Quantity("usable energy of a unit", "kWh", 0.1, 200)]
StandbyW = Annotated[float, Quantity("standby of a unit", "W", 0, 500)]
ReserveShare = Annotated[float, Quantity("share kept in reserve", "", 0, 0.95)]
Efficiency = Annotated[float, Quantity("efficiency", "", 0.5, 1)]
# As much as the largest current of a group on three phases can be.
LoadW = Annotated[float, Quantity("power of a load", "W", 0, 20_000_000)]
Hours = Annotated[float, Quantity("hours", "h", 0, 100_000)]

LINES = ("L1", "L2", "L3")
W_PER_KW = 1000.0
GROUP_SOURCE = "battery sheet; controller sheet; circuit theory"


@dataclass(frozen=True, kw_only=True)
class BackedUpLoad(Checked):
    """A load that shall run without the supply. inrush: its current at the start, over its own."""

    name: Name
    phases: BackupPhases
    power_w: LoadW
    power_factor: PowerFactor = 1.0
    inrush: Annotated[float, Quantity("inrush over the running current", "", 1, 20)] = 1.0


@dataclass(frozen=True, kw_only=True)
class UnitBreaker(Checked):
    """A breaker with battery units behind it."""

    breaker_a: RatedA
    phases: BackupPhases
    units: UnitsThere


Breakers = Annotated[tuple[UnitBreaker, ...], Items("breakers of battery units", 1, 12)]
BackedUp = Annotated[tuple[BackedUpLoad, ...], Items("backed-up loads", 0, 60)]


@dataclass(frozen=True, kw_only=True)
class BackupGroup:
    """What the battery units carry, phase by phase, and how long they last.

    By breaker: current, limit, whether it holds, most units there, smallest standard breaker for
    those there (None beyond the largest). By phase L1, L2, L3: the units' current, all backed-up
    loads', those that run. running: loads whose every phase is backed up. worst_start_a: the
    highest of any phase while one load starts and the others run. hours: None while nothing runs
    and no unit draws.
    """

    current_per_breaker_a: tuple[float, ...]
    breaker_limit_a: tuple[float, ...]
    breaker_ok: tuple[bool, ...]
    most_units: tuple[int, ...]
    breaker_for_count_a: tuple[float | None, ...]
    unit_current_a: tuple[float, ...]
    unit_current_ok: tuple[bool, ...]
    phases_backed_up: tuple[str, ...]
    cannot_run: tuple[str, ...]
    load_current_a: tuple[float, ...]
    running_current_a: tuple[float, ...]
    running_in_limit: tuple[bool, ...]
    running_in_units: tuple[bool, ...]
    worst_start_a: float
    running_w: float
    usable_kwh: float
    hours: float | None


@rule
def backup_group(
    *,
    breakers: Breakers,
    unit_current_a: CurrentA,
    unit_usable_kwh: EnergyKwh,
    limit_per_phase_a: RatedA,
    loads: BackedUp = (),
    unit_standby_w: StandbyW = 0.0,
    nominal_v: NominalV = 230.0,
    breaker_share: BreakerShare = 1.0,
    reserve_share: ReserveShare = 0.0,
    discharge_efficiency: Efficiency = 1.0,
    ratings_a: Ratings = MAINS_A,
) -> BackupGroup:
    """Do battery units, breakers and controller carry the loads, and for how many hours?

    Formula: units · I ≤ share · In by breaker; by phase the units' currents against the
    controller's limit, and the running loads' against both; hours = usable energy / (running
    power / η + units · standby). A phase with a unit on it is backed up; a three-phase load runs
    only where all three are. Exactly on a limit holds.
    Raises Refused when a unit's current is zero.
    Source: circuit theory; battery and controller sheets; rule pack for the share.
    """
    if unit_current_a <= 0:
        raise Refused([problem("$.unit_current_a", unit_current_a, "above 0 A")])
    per_breaker = tuple(one.units * unit_current_a for one in breakers)
    limits = tuple(breaker_share * one.breaker_a for one in breakers)
    by_phase = tuple(
        math.fsum(
            amps
            for one, amps in zip(breakers, per_breaker, strict=True)
            if line in _lines(one.phases)
        )
        for line in LINES
    )
    backed = tuple(line for line, amps in zip(LINES, by_phase, strict=True) if amps > 0)
    running = tuple(one for one in loads if set(_lines(one.phases)) <= set(backed))
    running_a = _by_phase(running, nominal_v)
    units = sum(one.units for one in breakers)
    running_w = math.fsum(one.power_w for one in running)
    usable_kwh = units * unit_usable_kwh * (1 - reserve_share)
    drawn_kw = (running_w / discharge_efficiency + units * unit_standby_w) / W_PER_KW
    starts = (
        amps + (one.inrush - 1) * _amps(one, nominal_v) * (line in _lines(one.phases))
        for one in running
        for line, amps in zip(LINES, running_a, strict=True)
    )
    return BackupGroup(
        current_per_breaker_a=per_breaker,
        breaker_limit_a=limits,
        breaker_ok=tuple(map(fits, per_breaker, limits)),
        most_units=tuple(_whole(limit / unit_current_a) for limit in limits),
        breaker_for_count_a=tuple(
            min((one for one in ratings_a if fits(amps, breaker_share * one)), default=None)
            for amps in per_breaker
        ),
        unit_current_a=by_phase,
        unit_current_ok=tuple(fits(amps, limit_per_phase_a) for amps in by_phase),
        phases_backed_up=backed,
        cannot_run=tuple(
            one.name for one in loads if one.phases == "three-phase" and one not in running
        ),
        load_current_a=_by_phase(loads, nominal_v),
        running_current_a=running_a,
        running_in_limit=tuple(fits(amps, limit_per_phase_a) for amps in running_a),
        running_in_units=tuple(map(fits, running_a, by_phase)),
        worst_start_a=max(starts, default=0.0),
        running_w=running_w,
        usable_kwh=usable_kwh,
        hours=usable_kwh / drawn_kw if drawn_kw else None,
    )


@rule
def backup_start(*, start_a: CurrentA, limit_a: RatedA) -> Judgement:
    """Does the start of each backed-up load stay inside what the controller bears for a moment?

    Source: controller sheet.
    """
    return at_most("backup_start", start_a, limit_a, "A", GROUP_SOURCE)


@rule
def backup_hours(*, hours: Hours, wanted_h: Hours) -> Judgement:
    """Does the battery last as long as was agreed? Shorter: watch, the owner decides.

    Source: battery sheet; agreement with the owner.
    """
    return at_least("backup_hours", hours, wanted_h, "h", GROUP_SOURCE, under="watch")


def _lines(phases: BackupPhases) -> tuple[str, ...]:
    return LINES if phases == "three-phase" else (phases,)


def _amps(load: BackedUpLoad, nominal_v: float) -> float:
    return load.power_w / (len(_lines(load.phases)) * nominal_v * load.power_factor)


def _by_phase(loads: tuple[BackedUpLoad, ...], nominal_v: float) -> tuple[float, ...]:
    return tuple(
        math.fsum(_amps(one, nominal_v) for one in loads if line in _lines(one.phases))
        for line in LINES
    )


def _whole(quotient: float) -> int:
    """The whole part; float noise below a whole number counts as it."""
    near = round(quotient)
    return near if same(quotient, near) else math.floor(quotient)
