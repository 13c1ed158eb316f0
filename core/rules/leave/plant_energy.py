"""Energy that a plant should give under a plane's irradiance, with every loss named.

Each string's DC power from irradiance and cell temperature, cut by its tracker, its inverter and
the plant's own limit; then summed by string, by day and in all.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from math import fsum, isfinite
from typing import Annotated

from core.base.errors import Refused, problem, same_count
from core.base.form import Checked
from core.base.glossary import GammaPmaxPctPerK, ModulesInSeries, Name, NoctC, PmaxW, RatedAcW
from core.base.quantity import Items, Quantity, Text
from core.base.rule import rule

MOST_STEPS = 110_000
# Nominal operating cell temperature: 800 W/m2 at 20 °C of air (IEC 61215-2).
NOCT_W_PER_M2, NOCT_AIR_C = 800.0, 20.0
STC_W_PER_M2, STC_C = 1000.0, 25.0
MIN_PER_H, W_PER_KW = 60, 1000.0

Series = Annotated[tuple[float, ...], Items("steps", 1, MOST_STEPS)]
StepDays = Annotated[tuple[Annotated[str, Text("local day", 0, 10)], ...], Items("", 0, MOST_STEPS)]
StepMin = Annotated[float, Quantity("length of a step", "min", 1, 1440)]
LossPct = Annotated[float, Quantity("loss", "%", 0, 99)]
Efficiency = Annotated[float, Quantity("efficiency of the inverter", "", 0.5, 1)]
TrackerMostW = Annotated[float, Quantity("most of a tracker", "W", 10, 200_000)]
Equal = Annotated[int, Quantity("equal inverters", "", 1, 2000)]
LimitW = Annotated[float, Quantity("limit of the plant", "W", 0, 1_000_000)]
FaimanU0 = Annotated[float, Quantity("Faiman's U0", "W/(m²·K)", 5, 60)]
FaimanU1 = Annotated[float, Quantity("Faiman's U1", "W·s/(m³·K)", 0, 20)]


@dataclass(frozen=True, kw_only=True)
class PlaneLight(Checked):
    """What falls on a plane, step by step. effective: after reflection at the glass, where that is
    told apart; empty: the same as what falls on it."""

    name: Name
    irradiance_w_per_m2: Series
    effective_w_per_m2: Annotated[tuple[float, ...], Items("steps", 0, MOST_STEPS)] = ()


@dataclass(frozen=True, kw_only=True)
class EnergyString(Checked):
    """One string: modules of one type on one plane, on one tracker of an inverter."""

    name: Name
    plane: Name
    inverter: Name
    tracker: Name
    modules: ModulesInSeries
    pmax_w: PmaxW
    gamma_pct_per_k: GammaPmaxPctPerK
    noct_c: NoctC = 45.0


@dataclass(frozen=True, kw_only=True)
class TrackerLimit(Checked):
    """What one tracker takes at most."""

    tracker: Name
    max_w: TrackerMostW


@dataclass(frozen=True, kw_only=True)
class EnergyInverter(Checked):
    """One inverter, or so many equal ones with strings alike. tracker_max_w: what each of its
    trackers takes at most; None: as much as comes. trackers: those with a limit of their own."""

    name: Name
    pac_max_w: RatedAcW
    efficiency: Efficiency
    tracker_max_w: TrackerMostW | None = None
    trackers: Annotated[tuple[TrackerLimit, ...], Items("trackers", 0, 12)] = ()
    count: Equal = 1

    def most_w(self, tracker: str) -> float | None:
        """What a tracker takes at most; None: as much as comes."""
        own = (one.max_w for one in self.trackers if one.tracker == tracker)
        return next(own, self.tracker_max_w)


@dataclass(frozen=True, kw_only=True)
class Faiman(Checked):
    """Cell temperature by Faiman (2008): air plus irradiance over u0 + u1 × wind."""

    u0: FaimanU0 = 25.0
    u1: FaimanU1 = 6.84


@dataclass(frozen=True, kw_only=True)
class EnergyLoss(Checked):
    """One loss between what falls on a module and the inverter's input."""

    name: Name
    pct: LossPct


@dataclass(frozen=True, kw_only=True)
class PlantEnergy:
    """What the plant should give. by_string, share: as the strings are listed, before any cut;
    dc_kwh: after the trackers' cut. clipped: what was cut, of trackers in DC, of inverters at their
    terminals, of the plant's limit at the meter. days: the local days, in order."""

    plane_kwh_per_m2: tuple[float, ...]
    cell_max_c: tuple[float, ...]
    by_string_kwh: tuple[float, ...]
    share: tuple[float, ...]
    dc_kwh: float
    ac_kwh: float
    days: tuple[str, ...]
    by_day_kwh: tuple[float, ...]
    clipped_tracker_kwh: float
    clipped_inverter_kwh: float
    clipped_limit_kwh: float
    kwh_per_kwp: float
    performance_ratio: float


Planes = Annotated[tuple[PlaneLight, ...], Items("planes", 1, 40)]
Strings = Annotated[tuple[EnergyString, ...], Items("strings", 1, 500)]
Inverters = Annotated[tuple[EnergyInverter, ...], Items("inverters", 1, 500)]
Losses = Annotated[tuple[EnergyLoss, ...], Items("losses", 0, 20)]


@rule
def plant_energy(
    *,
    planes: Planes,
    strings: Strings,
    inverters: Inverters,
    t_air_c: Series,
    wind_m_per_s: Annotated[tuple[float, ...], Items("steps", 0, MOST_STEPS)] = (),
    step_min: StepMin,
    days: StepDays = (),
    dc_losses: Losses = (),
    ac_wiring_pct: LossPct = 0.0,
    plant_ac_limit_w: LimitW | None = None,
    faiman: Faiman | None = None,
) -> PlantEnergy:
    """How much should a plant give while so much falls on its planes?

    days: the local day of each step, all one day where none is given. faiman: cell temperature by
    wind too; without it by the module's NOCT. No start threshold, no own use at night.
    Source: IEC 61724-1 (performance ratio); IEC 61215-2 (NOCT); Faiman (2008).
    """
    steps = len(t_air_c)
    _whole(planes, strings, inverters, steps, wind_m_per_s, days)
    hours = step_min / MIN_PER_H
    light = {one.name: one for one in planes}
    wind = wind_m_per_s or (0.0,) * steps
    kept = 1.0
    for loss in dc_losses:
        kept *= 1 - loss.pct / 100
    cells, powers = _strings(strings, light, t_air_c, wind, kept, faiman)
    cut = _Cut.of(strings, inverters, powers, steps, 1 - ac_wiring_pct / 100, plant_ac_limit_w)
    counts = {one.name: one.count for one in inverters}
    by_string = tuple(
        counts[one.inverter] * fsum(power) * hours / W_PER_KW
        for one, power in zip(strings, powers, strict=True)
    )
    peak_w = fsum(counts[one.inverter] * one.modules * one.pmax_w for one in strings)
    whole, peak_kw = fsum(by_string), peak_w / W_PER_KW
    ac_kwh = fsum(cut.ac_w) * hours / W_PER_KW
    falls = {one.name: fsum(one.irradiance_w_per_m2) * hours / W_PER_KW for one in planes}
    named = tuple(dict.fromkeys(days)) or ("",)
    due_kwh = fsum(
        counts[one.inverter] * one.modules * one.pmax_w / W_PER_KW * falls[one.plane]
        for one in strings
    )
    return PlantEnergy(
        plane_kwh_per_m2=tuple(falls[one.name] for one in planes),
        cell_max_c=tuple(cells.get(one.name, 0.0) for one in planes),
        by_string_kwh=by_string,
        share=tuple(one / whole if whole else 0.0 for one in by_string),
        dc_kwh=fsum(cut.dc_w) * hours / W_PER_KW,
        ac_kwh=ac_kwh,
        days=named,
        by_day_kwh=_by_day(cut.ac_w, days or named * steps, named, hours),
        clipped_tracker_kwh=cut.tracker_w * hours / W_PER_KW,
        clipped_inverter_kwh=cut.inverter_w * hours / W_PER_KW,
        clipped_limit_kwh=cut.limit_w * hours / W_PER_KW,
        kwh_per_kwp=ac_kwh / peak_kw,
        performance_ratio=ac_kwh / due_kwh if due_kwh else 0.0,
    )


def _whole(
    planes: Planes,
    strings: Strings,
    inverters: Inverters,
    steps: int,
    wind: tuple[float, ...],
    days: tuple[str, ...],
) -> None:
    """Refuses series of unequal length, names that are nobody's and figures that are none."""
    for index, plane in enumerate(planes):
        path = f"$.planes[{index}]"
        same_count(f"{path}.irradiance_w_per_m2", len(plane.irradiance_w_per_m2), steps, "the air")
        if plane.effective_w_per_m2:
            effective = len(plane.effective_w_per_m2)
            same_count(f"{path}.effective_w_per_m2", effective, steps, "the air")
        if not all(map(isfinite, (*plane.irradiance_w_per_m2, *plane.effective_w_per_m2))):
            raise Refused([problem(path, "a figure that is none", "W/m² at every step")])
    if wind:
        same_count("$.wind_m_per_s", len(wind), steps, "the air")
    if days:
        same_count("$.days", len(days), steps, "the air")
    for path, names in (("$.planes", planes), ("$.inverters", inverters)):
        every = [one.name for one in names]
        if len(set(every)) < len(every):
            raise Refused([problem(path, ", ".join(every), "each name once")])
    for index, one in enumerate(strings):
        for field, known in (("plane", planes), ("inverter", inverters)):
            allowed = [each.name for each in known]
            if getattr(one, field) not in allowed:
                path = f"$.strings[{index}].{field}"
                raise Refused([problem(path, getattr(one, field), " · ".join(allowed))])


def _strings(
    strings: Strings,
    light: dict[str, PlaneLight],
    t_air_c: Series,
    wind: tuple[float, ...],
    kept: float,
    faiman: Faiman | None,
) -> tuple[dict[str, float], list[list[float]]]:
    """The hottest cell of each plane, and each string's DC power in W at every step."""
    cells: dict[str, float] = {}
    of_one: dict[tuple[str, float, float], list[float]] = {}
    powers = []
    for one in strings:
        plane = light[one.plane]
        key = (one.plane, one.gamma_pct_per_k, one.noct_c)
        if key not in of_one:
            falls = plane.irradiance_w_per_m2
            hot = [
                _cell_c(air, on, blows, one.noct_c, faiman)
                for air, on, blows in zip(t_air_c, falls, wind, strict=True)
            ]
            cells[one.plane] = max(cells.get(one.plane, hot[0]), *hot)
            gamma = one.gamma_pct_per_k / 100
            of_one[key] = [
                max(0.0, on / STC_W_PER_M2 * (1 + gamma * (cell - STC_C)) * kept)
                for on, cell in zip(plane.effective_w_per_m2 or falls, hot, strict=True)
            ]
        peak_w = one.modules * one.pmax_w
        powers.append([peak_w * share for share in of_one[key]])
    return cells, powers


def _cell_c(
    air_c: float, on_w: float, wind_m_per_s: float, noct_c: float, faiman: Faiman | None
) -> float:
    if faiman is not None:
        return air_c + on_w / (faiman.u0 + faiman.u1 * wind_m_per_s)
    return air_c + on_w * (noct_c - NOCT_AIR_C) / NOCT_W_PER_M2


@dataclass(frozen=True, kw_only=True)
class _Cut:
    """DC after the trackers and AC at the meter by step; what each limit cut, in W over steps."""

    dc_w: list[float]
    ac_w: list[float]
    tracker_w: float
    inverter_w: float
    limit_w: float

    @classmethod
    def of(
        cls,
        strings: Strings,
        inverters: Inverters,
        powers: list[list[float]],
        steps: int,
        wired: float,
        limit_w: float | None,
    ) -> _Cut:
        trackers: dict[tuple[str, str], list[list[float]]] = defaultdict(list)
        for one, power in zip(strings, powers, strict=True):
            trackers[one.inverter, one.tracker].append(power)
        dc, at_terminals = [0.0] * steps, [0.0] * steps
        over_tracker, over_inverter = [], []
        for inverter in inverters:
            own = [
                (inverter.most_w(tracker), sums)
                for (name, tracker), sums in trackers.items()
                if name == inverter.name
            ]
            for step in range(steps):
                taken = 0.0
                for most, sums in own:
                    comes = fsum(power[step] for power in sums)
                    takes = comes if most is None else min(comes, most)
                    over_tracker.append(inverter.count * (comes - takes))
                    taken += takes
                gives = inverter.efficiency * taken
                dc[step] += inverter.count * taken
                at_terminals[step] += inverter.count * min(gives, inverter.pac_max_w)
                over_inverter.append(inverter.count * max(0.0, gives - inverter.pac_max_w))
        at_meter = [power * wired for power in at_terminals]
        held = [power if limit_w is None else min(power, limit_w) for power in at_meter]
        return cls(
            dc_w=dc,
            ac_w=held,
            tracker_w=fsum(over_tracker),
            inverter_w=fsum(over_inverter),
            limit_w=fsum(had - has for had, has in zip(at_meter, held, strict=True)),
        )


def _by_day(
    ac_w: list[float], days: tuple[str, ...], named: tuple[str, ...], hours: float
) -> tuple[float, ...]:
    sums: dict[str, list[float]] = {name: [] for name in named}
    for day, power in zip(days, ac_w, strict=True):
        sums[day].append(power)
    return tuple(fsum(sums[name]) * hours / W_PER_KW for name in named)
