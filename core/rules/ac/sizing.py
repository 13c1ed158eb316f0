"""A circuit sized as a whole, by a standard's own tables: breaker, conductor, rise, loop.

By metric sizes (IEC, BS, AS/NZS) and by gauge (NEC). The tables come in as values: a rule pack's,
or whatever table one has at hand.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import (
    CurrentA,
    IscA,
    LengthM,
    LoopOhm,
    Name,
    NominalV,
    PowerFactor,
    PowerW,
)
from core.base.judgement import same
from core.base.quantity import Items, Quantity
from core.base.rule import rule

MV_PER_V = MOHM_PER_OHM = 1000.0
PERCENT = 100.0
# NEC 2023 690.8(A)(1)(a) and (B): sun above the standard's, and current for hours.
SUN_FACTOR = CONTINUOUS = 1.25

Phases = Literal[1, 3]
Factor = Annotated[float, Quantity("factor", "", 0.01, 3)]
Share = Annotated[float, Quantity("share", "", 0.01, 1)]
SizeMm2 = Annotated[float, Quantity("conductor size", "mm²", 0.5, 400)]
MvPerAM = Annotated[float, Quantity("rise", "mV/(A·m)", 0.001, 200)]
MohmPerM = Annotated[float, Quantity("line and earth conductor", "mΩ/m", 0.001, 200)]
TripTimes = Annotated[float, Quantity("magnetic trip, times rated current", "", 1, 50)]
LimitPct = Annotated[float, Quantity("limit of the rise", "%", 0.01, 20)]
Strings = Annotated[int, Quantity("strings in parallel", "", 1, 40)]
Ratings = Annotated[tuple[CurrentA, ...], Items("ratings", 1, 60)]
Gauge = Annotated[str, Name]


@dataclass(frozen=True, kw_only=True)
class CableSize(Checked):
    """One size of a cable: what it carries as laid before factors, how much it lifts by ampere and
    metre, its line and earth conductor together, cold."""

    section_mm2: SizeMm2
    iz_a: CurrentA
    rise_mv_per_a_m: MvPerAM
    r1_r2_mohm_per_m: MohmPerM


@dataclass(frozen=True, kw_only=True)
class LoopRule(Checked):
    """How a standard judges the earth fault loop. c_min: of the supply voltage; trip_times: of the
    breaker's curve; hot_factor: conductors at work; measured_share: of the largest loop, for cold
    conductors; measured_dead: the circuit alone is measured, without the supply's part."""

    c_min: Share = 1.0
    trip_times: TripTimes
    hot_factor: Factor = 1.2
    measured_share: Share
    measured_dead: bool = False


@dataclass(frozen=True, kw_only=True)
class CircuitSizing:
    """A circuit sized. None: there is none. section_by_current_mm2, section_by_rise_mm2: the
    smallest for each; section_mm2: for both; section_for_all_three_mm2: that keeps the loop too."""

    design_current_a: float
    breaker_a: float | None
    derating_factor: float
    iz_corrected_a_per_section: tuple[float, ...]
    section_by_current_mm2: float | None
    rise_v_per_section: tuple[float, ...]
    section_by_rise_mm2: float | None
    section_mm2: float | None
    rise_at_section_v: float | None
    rise_at_section_pct: float | None
    largest_loop_ohm: float | None
    largest_loop_measured_cold_ohm: float | None
    loop_at_section_hot_ohm: float | None
    loop_at_section_cold_ohm: float | None
    loop_passes: bool | None
    measured_passes: bool | None
    section_for_all_three_mm2: float | None
    longest_run_by_rise_m: float | None
    longest_run_by_loop_m: float | None


@rule
def circuit_sizing(
    *,
    power_w: PowerW,
    phases: Phases = 1,
    power_factor: PowerFactor = 1.0,
    u0_v: NominalV = 230.0,
    ratings_a: Ratings,
    sizes: Annotated[tuple[CableSize, ...], Items("sizes", 1, 40)],
    air_factor: Factor = 1.0,
    group_factor: Factor = 1.0,
    length_m: LengthM,
    rise_limit_pct: LimitPct,
    loop_outside_ohm: LoopOhm,
    loop: LoopRule,
) -> CircuitSizing:
    """Which breaker and which conductor does an inverter's circuit take, by a standard's tables?

    Formula: Ib = P / (phases · U0 · cosφ); smallest In ≥ Ib; smallest size with
    Iz · air · group ≥ In; rise = mV/(A·m) · Ib · L; largest loop = Cmin · U0 / (times · In), held
    against outside + L · (R1 + R2) · hot; measured cold against its share. On a limit holds.
    Source: IEC 60364-4-43, 433.1; IEC 60364-5-52, annex B and G; IEC 60364-4-41, 411.4.4;
    BS 7671, appendices 3 and 4; AS/NZS 3000, 8.3.9.
    """
    current_a = power_w / (phases * u0_v * power_factor)
    derating = air_factor * group_factor
    carried = tuple(one.iz_a * derating for one in sizes)
    lifted = tuple(one.rise_mv_per_a_m / MV_PER_V * current_a * length_m for one in sizes)
    limit_v = rise_limit_pct / PERCENT * u0_v
    breaker_a = _least(ratings_a, lambda rating: _reaches(rating, current_a))
    by_current = _first(
        len(sizes), lambda n: breaker_a is not None and _reaches(carried[n], breaker_a)
    )
    by_rise = _first(len(sizes), lambda n: _reaches(limit_v, lifted[n]))
    chosen = None if by_current is None or by_rise is None else max(by_current, by_rise)
    largest = None if breaker_a is None else loop.c_min * u0_v / (loop.trip_times * breaker_a)

    def hot_ohm(n: int) -> float:
        own = length_m * sizes[n].r1_r2_mohm_per_m / MOHM_PER_OHM
        return loop_outside_ohm + own * loop.hot_factor

    def cold_ohm(n: int) -> float:
        own = length_m * sizes[n].r1_r2_mohm_per_m / MOHM_PER_OHM
        return own if loop.measured_dead else loop_outside_ohm + own

    all_three = None
    if chosen is not None and largest is not None:
        all_three = _first(len(sizes), lambda n: n >= chosen and _reaches(largest, hot_ohm(n)))
    measured = None if largest is None else loop.measured_share * largest
    at = None if chosen is None else sizes[chosen]
    return CircuitSizing(
        design_current_a=current_a,
        breaker_a=breaker_a,
        derating_factor=derating,
        iz_corrected_a_per_section=carried,
        section_by_current_mm2=None if by_current is None else sizes[by_current].section_mm2,
        rise_v_per_section=lifted,
        section_by_rise_mm2=None if by_rise is None else sizes[by_rise].section_mm2,
        section_mm2=at.section_mm2 if at else None,
        rise_at_section_v=None if chosen is None else lifted[chosen],
        rise_at_section_pct=None if chosen is None else PERCENT * lifted[chosen] / u0_v,
        largest_loop_ohm=largest,
        largest_loop_measured_cold_ohm=measured,
        loop_at_section_hot_ohm=None if chosen is None else hot_ohm(chosen),
        loop_at_section_cold_ohm=None if chosen is None else cold_ohm(chosen),
        loop_passes=None
        if chosen is None or largest is None
        else _reaches(largest, hot_ohm(chosen)),
        measured_passes=(
            None if chosen is None or measured is None else _reaches(measured, cold_ohm(chosen))
        ),
        section_for_all_three_mm2=None if all_three is None else sizes[all_three].section_mm2,
        longest_run_by_rise_m=(
            None if at is None else limit_v / (at.rise_mv_per_a_m / MV_PER_V * current_a)
        ),
        longest_run_by_loop_m=_longest(at, largest, loop_outside_ohm, loop.hot_factor),
    )


def _longest(
    at: CableSize | None, largest: float | None, outside_ohm: float, hot_factor: float
) -> float | None:
    if at is None or largest is None or largest < outside_ohm:
        return None
    return (largest - outside_ohm) / (at.r1_r2_mohm_per_m / MOHM_PER_OHM * hot_factor)


@dataclass(frozen=True, kw_only=True)
class GaugeSize(Checked):
    """One gauge: its ampacity by the temperature of its column; breaker_most_a: 240.4(D)."""

    awg: Gauge
    a_60: CurrentA
    a_75: CurrentA
    a_90: CurrentA
    breaker_most_a: CurrentA | None = None


@dataclass(frozen=True, kw_only=True)
class EarthGauge(Checked):
    """The equipment grounding conductor up to this overcurrent device (250.122)."""

    up_to_a: CurrentA
    awg: Gauge


@dataclass(frozen=True, kw_only=True)
class GaugeTables(Checked):
    """What conductors by gauge are chosen from, smallest first."""

    sizes: Annotated[tuple[GaugeSize, ...], Items("gauges", 1, 40)]
    ratings_a: Ratings
    earth: Annotated[tuple[EarthGauge, ...], Items("grounding conductors", 1, 40)]

    def contradictions(self) -> Iterator[Problem]:
        for index, (one, larger) in enumerate(zip(self.sizes, self.sizes[1:], strict=False)):
            if larger.a_90 < one.a_90 or larger.a_75 < one.a_75 or larger.a_60 < one.a_60:
                yield problem(f"$.sizes[{index + 1}]", larger.awg, f"to carry more than {one.awg}")


Terminals = Literal["60 C", "75 C", "90 C"]


@dataclass(frozen=True, kw_only=True)
class GaugeSizing:
    """A conductor by gauge. None: there is none. size_awg: passes terminals, conditions and
    protection; size_strict_awg: with no next size up of the overcurrent device. The two ifs: what
    a column of 90 °C at the terminals, or 125 % and the factors stacked, would give."""

    maximum_current_a: float
    current_x125_a: float
    ocpd_a: float | None
    factor: float
    final_ampacity_a_per_size: tuple[float, ...]
    size_by_terminals_awg: str | None
    size_by_conditions_awg: str | None
    size_awg: str | None
    size_strict_awg: str | None
    final_ampacity_of_size_a: float | None
    size_if_90c_column_were_used_at_terminals_awg: str | None
    size_if_both_125_and_factors_were_stacked_awg: str | None
    egc_awg: str | None


@rule
def pv_source_current(*, isc_a: IscA, parallel: Strings = 1) -> CurrentA:
    """Which is the maximum current of a PV source circuit? [A]

    Formula: 1.25 · isc_a · parallel.
    Source: NEC 2023 690.8(A)(1)(a).
    """
    return SUN_FACTOR * isc_a * parallel


@rule
def gauge_sizing(
    *,
    maximum_a: CurrentA,
    tables: GaugeTables,
    air_factor: Factor = 1.0,
    adjustment: Factor = 1.0,
    terminals: Terminals = "75 C",
) -> GaugeSizing:
    """Which conductor by gauge does a continuous current take, and which overcurrent device?

    Terminals: their column, without factors, at least 1.25 · I. Conditions: the 90 °C column with
    air and adjustment at least I, with no second 1.25. Protection: the device, smallest standard
    rating of at least 1.25 · I, is no larger than the next rating from the final ampacity on, nor
    than the limit of a small conductor. The larger of all.
    Source: NEC 2023 690.8(B), 110.14(C), 310.16, 240.4(B) and (D), 240.6(A), 250.122.
    """
    sizes = tables.sizes
    needed_a = CONTINUOUS * maximum_a
    factor = air_factor * adjustment
    ocpd_a = _least(tables.ratings_a, lambda rating: _reaches(rating, needed_a))
    factored = [one.a_90 * factor for one in sizes]
    at_terminals = [{"60 C": o.a_60, "75 C": o.a_75, "90 C": o.a_90}[terminals] for o in sizes]
    final = [min(a, b) for a, b in zip(at_terminals, factored, strict=True)]

    def protected(n: int, final_a: float) -> bool:
        following = _least(tables.ratings_a, lambda rating: _reaches(rating, final_a))
        most = sizes[n].breaker_most_a
        return (
            ocpd_a is not None
            and (following is None or ocpd_a <= following)
            and (most is None or ocpd_a <= most)
        )

    def passes(n: int, terminal_a: float) -> bool:
        bears = _reaches(terminal_a, needed_a) and _reaches(factored[n], maximum_a)
        return bears and protected(n, min(terminal_a, factored[n]))

    def named(index: int | None) -> str | None:
        return None if index is None else sizes[index].awg

    count = len(sizes)
    chosen = _first(count, lambda n: passes(n, at_terminals[n]))
    strict = _first(
        count,
        lambda n: passes(n, at_terminals[n]) and ocpd_a is not None and _reaches(final[n], ocpd_a),
    )
    earth = next(
        (one.awg for one in tables.earth if ocpd_a is not None and ocpd_a <= one.up_to_a), None
    )
    return GaugeSizing(
        maximum_current_a=maximum_a,
        current_x125_a=needed_a,
        ocpd_a=ocpd_a,
        factor=factor,
        final_ampacity_a_per_size=tuple(final),
        size_by_terminals_awg=named(_first(count, lambda n: _reaches(at_terminals[n], needed_a))),
        size_by_conditions_awg=named(_first(count, lambda n: _reaches(factored[n], maximum_a))),
        size_awg=named(chosen),
        size_strict_awg=named(strict),
        final_ampacity_of_size_a=None if chosen is None else final[chosen],
        size_if_90c_column_were_used_at_terminals_awg=named(
            _first(count, lambda n: passes(n, sizes[n].a_90))
        ),
        size_if_both_125_and_factors_were_stacked_awg=named(
            _first(count, lambda n: _reaches(factored[n], needed_a))
        ),
        egc_awg=earth,
    )


def _reaches(value: float, least: float) -> bool:
    """Whether a value is at least another one, exactly on it too."""
    return value >= least or same(value, least)


def _least(among: tuple[float, ...], fits: Callable[[float], bool]) -> float | None:
    return min((one for one in among if fits(one)), default=None)


def _first(count: int, fits: Callable[[int], bool]) -> int | None:
    return next((n for n in range(count) if fits(n)), None)
