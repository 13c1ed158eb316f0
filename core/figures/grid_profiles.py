"""Grid profiles: the settings of an inverter's grid protection and support, as data.

Voltages are volts between the inverter's terminals on the nominal supply (line to neutral on
one- and three-phase services, line to line on split phase), so that they can be held against
a meter. A point that the open register models cannot carry is read by hand on the device.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from functools import cache
from itertools import pairwise
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

    low, high: outside them it is a slip of the pen on any house.
    by_hand: no open register model carries it. where: under which headings devices have it.
    """

    id: Name
    title: Name
    unit: Annotated[str, "unit symbol"]
    tolerance: float
    by_hand: bool = False
    where: Note
    low: float
    high: float

    @property
    def quantity(self) -> Quantity:
        """The setting with its unit and the range outside which it is a slip."""
        return Quantity(self.title, self.unit, self.low, self.high)


@dataclass(frozen=True, kw_only=True)
class ProfilePoint(Checked):
    """One setting of a profile."""

    id: Name
    value: Annotated[float, Quantity("setting", "", -1000, 100_000)]


# A setting as a profile had it before, None where it set none, and the day until which it had it.
Former = tuple[float | None, date]


@dataclass(frozen=True, kw_only=True)
class FormerPoint(Checked):
    """One setting as it was before."""

    id: Name
    value: Annotated[float, Quantity("setting", "", -1000, 100_000)] | None


@dataclass(frozen=True, kw_only=True)
class FormerRevision(Checked):
    """How a profile was until a day: the settings that were others then; None: it set none."""

    until: date
    why: Note
    points: Annotated[tuple[FormerPoint, ...], Items("settings", 1, 80)]


@dataclass(frozen=True, kw_only=True)
class Profile(Checked):
    """One region's grid profile. The network operator's own requirement wins.

    packs: the regional rule packs that it goes with, beside the generic one, which goes with all.
    zones: time zones of its region, or how they begin. former: how it was before, the latest
    first; what was set while it was so is no fault of whoever set it.
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
    former: Annotated[tuple[FormerRevision, ...], Items("former revisions", 0, 20)] = ()

    def contradictions(self) -> Iterator[Problem]:
        return profile_problems(self)

    def covers(self, zone: str) -> bool:
        """Whether a place of that time zone lies in the profile's region."""
        return any(
            zone == one or (one.endswith("/") and zone.startswith(one)) for one in self.zones
        )

    def value(self, point_id: str) -> float | None:
        """The profile's setting, None where it sets none."""
        return _value(self.points, point_id)

    def former_of(self, point_id: str, moment: datetime) -> Former | None:
        """The setting as it was at a moment, where it was another then, and until when it was."""
        for one in reversed(self.former):
            if moment.date() < one.until and any(point.id == point_id for point in one.points):
                return _value(one.points, point_id), one.until
        return None

    def value_at(self, point_id: str, moment: datetime) -> float | None:
        """The profile's setting as it was at a moment."""
        former = self.former_of(point_id, moment)
        return self.value(point_id) if former is None else former[0]


def _value(points: tuple[ProfilePoint | FormerPoint, ...], point_id: str) -> float | None:
    return next((point.value for point in points if point.id == point_id), None)


# What every profile says; the rest only where the code asks for it.
WHOLE = (
    *(f"{side}_{what}_1_{unit}" for what, level in (("voltage", "v"), ("frequency", "hz"))
      for side in ("over", "under") for unit in (level, "s")),
    "connect_low_v", "connect_high_v", "connect_low_hz", "connect_high_hz", "observe_s",
    "volt_var_on", "volt_watt_on",
)  # fmt: skip
LOSS = ("loss_of_mains_s", "loss_of_mains_hz_per_s")


def profile_problems(chosen: Profile) -> Iterator[Problem]:
    """What is wrong with a profile: unknown, doubled or missing settings, steps that contradict."""
    kinds = point_kinds()
    seen: set[str] = set()
    for index, point in enumerate(chosen.points):
        path = f"$.points[{index}]"
        if point.id not in kinds:
            yield problem(f"{path}.id", point.id, "a known setting")
        elif (wrong := kinds[point.id].quantity.problem(f"{path}.value", point.value)) is not None:
            yield wrong
        if point.id in seen:
            yield problem(f"{path}.id", point.id, "each setting once")
        seen.add(point.id)
    missing = [kinds[one].title for one in WHOLE if one not in seen]
    missing += [kinds[one].title for one in _halves(seen)]
    if not seen & set(LOSS):
        missing.append(kinds[LOSS[0]].title)
    if missing:
        yield problem("$.points", "without " + ", ".join(missing), "every setting of a profile")
        return
    for low, high, strictly in (*_in_order(chosen), *_corners_in_order(chosen)):
        lower, upper = low[1], high[1]
        if lower > upper or (strictly and lower == upper):
            least = "above" if strictly else "at least"
            unit = kinds[high[0]].unit if high[0] in kinds else ""
            allowed = f"{least} {lower:g} {unit}, {low[2]}".replace(" ,", ",")
            yield problem(_path(chosen, high[0]), upper, allowed)


def _halves(seen: set[str]) -> Iterator[str]:
    """The other half of what is there by half: a step's time, a corner's percent, a droop's end."""
    pairs = [("droop_start_hz", "droop_pct")]
    pairs += [
        (f"{side}_{what}_2_{unit}", f"{side}_{what}_2_s")
        for side in ("over", "under")
        for what, unit in (("voltage", "v"), ("frequency", "hz"))
    ]
    pairs += [
        (f"{name}_{number}_v", f"{name}_{number}_pct")
        for name, most in (("volt_var", 4), ("volt_watt", 2))
        for number in range(1, most + 1)
    ]
    for one, other in pairs:
        if (one in seen) != (other in seen):
            yield other if one in seen else one


def _path(chosen: Profile, point_id: str) -> str:
    at = next((n for n, point in enumerate(chosen.points) if point.id == point_id), None)
    return f"$.points[{at}].value" if at is not None else "$.points"


# What an order is made of: the setting, its value, and how it is called in a sentence.
Placed = tuple[str, float, str]


def _in_order(chosen: Profile) -> Iterator[tuple[Placed, Placed, bool]]:
    """Each lower figure, the one that lies above it, and whether they may not be the same."""
    titles = {kind.id: kind.title for kind in point_kinds().values()}

    def placed(point_id: str) -> Placed | None:
        value = chosen.value(point_id)
        return None if value is None else (point_id, value, f"as “{titles[point_id]}” has it")

    def pair(low: str, high: str, strictly: bool) -> Iterator[tuple[Placed, Placed, bool]]:
        one, other = placed(low), placed(high)
        if one is not None and other is not None:
            yield one, other, strictly

    for what, unit, nominal in (
        ("voltage", "v", chosen.nominal_v),
        ("frequency", "hz", chosen.nominal_hz),
    ):
        middle: Placed = (f"nominal_{unit}", nominal, "the nominal one")
        over, under = placed(f"over_{what}_1_{unit}"), placed(f"under_{what}_1_{unit}")
        assert over is not None and under is not None
        yield middle, over, True
        yield under, middle, True
        for side in ("over", "under"):
            first, second = (f"{side}_{what}_{n}" for n in (1, 2))
            ends = (f"{first}_{unit}", f"{second}_{unit}")
            yield from pair(*(ends if side == "over" else ends[::-1]), True)
            # The step further off is the quicker one, else the nearer one never acts.
            yield from pair(f"{second}_s", f"{first}_s", False)
        yield from pair(f"connect_low_{unit}", f"connect_high_{unit}", True)
        yield from pair(f"connect_high_{unit}", f"over_{what}_1_{unit}", False)
        yield from pair(f"under_{what}_1_{unit}", f"connect_low_{unit}", False)
    # A fast step at the level of the mean stops the inverter before the mean can.
    yield from pair("over_voltage_mean_v", "over_voltage_1_v", True)
    yield from pair("connect_high_v", "over_voltage_mean_v", False)
    yield from pair("droop_start_hz", "over_frequency_1_hz", True)


def _corners_in_order(chosen: Profile) -> Iterator[tuple[Placed, Placed, bool]]:
    """The corners of a response that is on, by their volts."""
    for name in ("volt_var", "volt_watt"):
        found = curve(chosen.value, name)
        for number, (low, high) in enumerate(pairwise(found), start=2):
            above: Placed = (f"{name}_{number}_v", high[0], "")
            yield (f"{name}_{number - 1}_v", low[0], "the corner before"), above, True


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
