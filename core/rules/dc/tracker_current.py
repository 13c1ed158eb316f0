"""What one tracker carries: currents, and strings that are alike."""

from __future__ import annotations

from typing import Protocol

from core.base.glossary import (
    AzimuthDeg,
    ImpA,
    IscA,
    MaxOperatingA,
    MaxShortCircuitA,
    Name,
    ParallelStrings,
    RearGainFraction,
    SafetyFactor,
    TiltDeg,
)
from core.base.judgement import Judgement, at_most, holds
from core.base.messages import figure
from core.base.rule import rule

CURRENT_SOURCE = "IEC 62548-1:2023, 7.3; inverter sheet"
ALIKE_SOURCE = "IEC 62548-1:2023, 5.1; inverter sheet"
FULL_TURN_DEG = 360.0


@rule
def tracker_isc(
    *,
    isc_a: IscA,
    parallel_strings: ParallelStrings,
    max_short_circuit_a: MaxShortCircuitA,
    isc_factor: SafetyFactor = 1.25,
    rear_gain: RearGainFraction = 0.0,
) -> Judgement:
    """Can the tracker's input bear the short-circuit current of its strings?

    Formula: parallel_strings · isc_a · (1 + rear_gain) · isc_factor ≤ max_short_circuit_a.
    Source: IEC 62548-1:2023, 7.3; inverter sheet.
    """
    value = parallel_strings * isc_a * (1 + rear_gain) * isc_factor
    return at_most("tracker_isc", value, max_short_circuit_a, "A", CURRENT_SOURCE)


@rule
def tracker_imp(
    *,
    imp_a: ImpA,
    parallel_strings: ParallelStrings,
    max_operating_a: MaxOperatingA,
    rear_gain: RearGainFraction = 0.0,
) -> Judgement:
    """Does the tracker use all the current of its strings? Over it clips; it does not break.

    Formula: parallel_strings · imp_a · (1 + rear_gain) ≤ max_operating_a.
    Source: inverter sheet.
    """
    value = parallel_strings * imp_a * (1 + rear_gain)
    return at_most("tracker_imp", value, max_operating_a, "A", "inverter sheet", over="watch")


@rule
def tracker_alike(
    *,
    modules_in_series: tuple[int, ...],
    tilts_deg: tuple[TiltDeg, ...],
    azimuths_deg: tuple[AzimuthDeg, ...],
    tolerance_deg: float = 5.0,
) -> Judgement:
    """Are the strings on one tracker alike: same count, tilt and facing?

    Source: IEC 62548-1:2023, 5.1.
    """
    same_count = len(set(modules_in_series)) <= 1
    tilt_apart = max(tilts_deg) - min(tilts_deg)
    facings = set(azimuths_deg)
    turn_apart = max(_turn_between(a, b) for a in facings for b in facings)
    good = same_count and max(tilt_apart, turn_apart) <= tolerance_deg
    return holds(
        "tracker_alike",
        good,
        ALIKE_SOURCE,
        counts=" and ".join(str(count) for count in modules_in_series),
        tilt=figure(tilt_apart, "°"),
        turn=figure(turn_apart, "°"),
    )


@rule
def tracker_one_type(*, modules: tuple[Name, ...]) -> Judgement:
    """Are the strings side by side on one tracker of one type of module?

    Strings of different types differ in voltage at the same count: the weaker one holds the other
    back, or is driven backwards.
    Source: IEC 62548-1:2023, 5.1.
    """
    types = tuple(dict.fromkeys(modules))
    return holds("tracker_one_type", len(types) <= 1, ALIKE_SOURCE, types=" and ".join(types))


class Faces(Protocol):
    """Anything that lies at a tilt and faces a way, or of which that is not known."""

    @property
    def tilt_deg(self) -> float | None: ...
    @property
    def azimuth_deg(self) -> float | None: ...


def planes_alike(one: Faces, other: Faces, tolerance_deg: float) -> bool:
    """Whether two planes are close enough in tilt and facing to share a tracker.

    One that nobody has looked at is like itself alone.
    """
    if one is other:
        return True
    if one.tilt_deg is None or other.tilt_deg is None:
        return False
    if one.azimuth_deg is None or other.azimuth_deg is None:
        return False
    turn_deg = _turn_between(one.azimuth_deg, other.azimuth_deg)
    return max(abs(one.tilt_deg - other.tilt_deg), turn_deg) <= tolerance_deg


def _turn_between(a_deg: float, b_deg: float) -> float:
    apart = abs(a_deg - b_deg) % FULL_TURN_DEG
    return min(apart, FULL_TURN_DEG - apart)
