"""Grid profiles: the settings of an inverter's grid protection and support, as data.

Voltages are volts between the inverter's terminals on the nominal supply (line to neutral on
one- and three-phase services, line to line on split phase), so that they can be held against
a meter. A point that the open register models cannot carry is read by hand on the device.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache
from typing import Annotated

from core.base.errors import Problem, Refused, problem
from core.base.form import Checked, read
from core.base.glossary import Name, Note, Service, Source
from core.base.quantity import Items, Quantity
from core.data import load, names

PROFILES = "profiles"
MOST_CORNERS = 4
POINTS = "profile_points"


@dataclass(frozen=True, kw_only=True)
class PointKind(Checked):
    """What a setting is called, its unit, how near a readback must be, and how it is reached.

    by_hand: no open register model carries it. where: under which headings devices have it.
    """

    id: Name
    title: Name
    unit: Annotated[str, "unit symbol"]
    tolerance: float
    by_hand: bool = False
    where: Note


@dataclass(frozen=True, kw_only=True)
class ProfilePoint(Checked):
    """One setting of a profile."""

    id: Name
    value: Annotated[float, Quantity("setting", "", -1000, 100_000)]


@dataclass(frozen=True, kw_only=True)
class Profile(Checked):
    """One region's grid profile. The network operator's own requirement wins.

    packs: the regional rule packs that it goes with, beside the generic one, which goes with all.
    zones: time zones of its region, or how they begin.
    """

    id: Name
    name: Name
    edition: Source
    checked_on: Source
    note: Note
    packs: Annotated[tuple[Name, ...], Items("rule packs", 0, 20)]
    zones: Annotated[tuple[Name, ...], Items("time zones", 1, 60)]
    services: Annotated[tuple[Service, ...], Items("services", 1, 3)]
    nominal_v: float
    nominal_hz: float
    points: Annotated[tuple[ProfilePoint, ...], Items("settings", 1, 80)]

    def contradictions(self) -> Iterator[Problem]:
        kinds = point_kinds()
        seen: set[str] = set()
        for index, point in enumerate(self.points):
            if point.id not in kinds:
                yield problem(f"$.points[{index}].id", point.id, "a known setting")
            if point.id in seen:
                yield problem(f"$.points[{index}].id", point.id, "each setting once")
            seen.add(point.id)

    def covers(self, zone: str) -> bool:
        """Whether a place of that time zone lies in the profile's region."""
        return any(
            zone == one or (one.endswith("/") and zone.startswith(one)) for one in self.zones
        )

    def value(self, point_id: str) -> float | None:
        """The profile's setting, None where it sets none."""
        return next((point.value for point in self.points if point.id == point_id), None)


@cache
def point_kinds() -> dict[str, PointKind]:
    """Every setting that a profile may hold, in the order in which it is shown."""
    kinds = read(tuple[PointKind, ...], load(POINTS), "$points")
    return {kind.id: kind for kind in kinds}


@cache
def known_profiles() -> tuple[str, ...]:
    """Names of the grid profiles that ship."""
    return names(PROFILES)


@cache
def profile(profile_id: str) -> Profile:
    """The grid profile of that name. Raises Refused when there is none."""
    if profile_id not in known_profiles():
        raise Refused([problem("$.grid.profile", profile_id, " · ".join(known_profiles()))])
    return read(Profile, load(f"{PROFILES}/{profile_id}"), f"$profile[{profile_id}]")


# A corner of a response curve: volts or hertz, and percent of the rating.
Corner = tuple[float, float]
# What looks up a setting: a profile's, or what was read back.
Lookup = Callable[[str], float | None]


def response_curves(chosen: Profile) -> tuple[tuple[Corner, ...], tuple[Corner, ...]]:
    """The corners of volt-watt and volt-var, each empty where the profile leaves it off."""
    return curve(chosen.value, "volt_watt"), curve(chosen.value, "volt_var")


def curve(value: Lookup, name: str) -> tuple[Corner, ...]:
    """The corners of a response to volts; empty where it is off."""
    if not value(f"{name}_on"):
        return ()
    found = []
    for number in range(1, MOST_CORNERS + 1):
        volts, pct = (value(f"{name}_{number}_{unit}") for unit in ("v", "pct"))
        if volts is not None and pct is not None:
            found.append((volts, pct))
    return tuple(found)


def droop(value: Lookup, nominal_hz: float) -> tuple[Corner, ...]:
    """The corners of the response to hertz: full power, where it starts to fall, where it is none.

    A droop of s percent takes all power away over s percent of nominal hertz.
    Source: EN 50549-1:2019, 4.6.1.
    """
    start_hz, droop_pct = value("droop_start_hz"), value("droop_pct")
    if start_hz is None or droop_pct is None:
        return ()
    return ((nominal_hz, 100.0), (start_hz, 100.0), (start_hz + nominal_hz * droop_pct / 100, 0.0))


def steady_trip_v(chosen: Profile) -> tuple[float, str]:
    """The lowest voltage at which an inverter stops when it lasts, and the setting that does it.

    The ten-minute mean where the profile has one below its first over-voltage step.
    """
    candidates = [
        (value, point_id)
        for point_id in ("over_voltage_1_v", "over_voltage_mean_v", "over_voltage_2_v")
        if (value := chosen.value(point_id)) is not None
    ]
    return min(candidates)
