"""Is the yield as it should be, and when is somebody to look again?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from math import fsum
from typing import Annotated, Literal

from core.base.form import Checked
from core.base.glossary import Name
from core.base.judgement import Judgement, at_least, holds, waiting, within
from core.base.messages import figure, say
from core.base.quantity import Items, Quantity
from core.base.rule import rule

YIELD_SOURCE = "IEC 61724-1 (monitoring of PV systems); Long Noon default for the band"
DRIFT_SOURCE = "grid profile; operator's permit"
# How far what is due may lie from what is expected, by where the light is known from: both ways, as
# a share. A clear sky times a guess is wide. Long Noon defaults, not from a standard.
BAND = {"plane": 0.10, "level": 0.15, "clear_sky": 0.35}
# Of a part beside the others: nothing comes of it; it gives less than its share.
NOTHING_SHARE, SHORT_SHARE = 0.10, 0.85
# Other parts must give so much before one that gives nothing is missed.
LEAST_OTHERS_KWH = 0.2
# Snow may lie on the modules below it; less room than this at full export, and a high supply at
# noon parts it; a share that the plant's own limits cut and that is seen. Long Noon defaults.
COLD_C, OVER_VOLTAGE_ROOM_V, CLIPPING_SHARE = 2.0, 6.0, 0.01
Basis = Literal["clear_sky", "level", "plane"]
Kwh = Annotated[float, Quantity("energy", "kWh", -100_000, 10_000_000)]
Some = Annotated[float, Quantity("share", "", 0, 2)]
RoomV = Annotated[float, Quantity("room to the trip", "V", -500, 500)]
AirC = Annotated[float, Quantity("air", "°C", -60, 60)]


@dataclass(frozen=True, kw_only=True)
class Band:
    """From how much to how much a plant was due to give. low 0: only the most is known."""

    low_kwh: float
    high_kwh: float


@dataclass(frozen=True, kw_only=True)
class PartGave(Checked):
    """What one part gave, and its share of the whole as planned."""

    part: Name
    kwh: Kwh
    expected_share: Some


@dataclass(frozen=True, kw_only=True)
class ShortReason:
    """One reason why a plant gave less. weight: the larger, the likelier; facts: for its words."""

    id: str
    weight: float
    facts: tuple[tuple[str, str], ...] = ()


@rule
def yield_band(*, expected_kwh: Kwh, basis: Basis, share_said: bool = True) -> Band:
    """From how much to how much was the plant due to give?

    share_said: somebody said how clear the sky was; without it only a clear sky's most is known.
    Source: Long Noon default, not from a standard.
    """
    off = BAND[basis]
    if basis == "clear_sky" and not share_said:
        return Band(low_kwh=0.0, high_kwh=expected_kwh * (1 + BAND["plane"]))
    return Band(low_kwh=expected_kwh * (1 - off), high_kwh=expected_kwh * (1 + off))


@rule
def yield_as_due(*, read_kwh: Kwh, low_kwh: Kwh, high_kwh: Kwh) -> Judgement:
    """Did the plant give what was due on these days?

    Outside the band: watch; less than half of its lower end: stop. An upper end alone clears
    nothing: it waits until somebody says how clear the sky was.
    Source: IEC 61724-1; Long Noon default for the band.
    """
    if low_kwh <= 0 and read_kwh <= high_kwh:
        return waiting("yield_as_due", "kWh", YIELD_SOURCE, (say("needs", "sky_share"),))
    outside: Literal["watch", "stop"] = "stop" if read_kwh < low_kwh / 2 else "watch"
    return within(
        "yield_as_due", read_kwh, low_kwh, high_kwh, "kWh", YIELD_SOURCE, outside=outside,
        exact="clear",
    )  # fmt: skip


@rule
def part_gives(*, part: Name, share: Some, expected_share: Some) -> Judgement:
    """Does a string or unit give its share of the whole, whatever the weather was?

    Below 85 % of it: watch; below 10 %: stop, it carries nothing.
    Formula: 100 · share / expected_share ≥ 85 %.
    Source: IEC 62446-1 (comparison of strings); Long Noon default for the shares.
    """
    rel = share / expected_share if expected_share else 1.0
    under: Literal["watch", "stop"] = "stop" if rel < NOTHING_SHARE else "watch"
    return at_least(
        "part_gives", 100 * rel, 100 * SHORT_SHARE, "%", YIELD_SOURCE, under=under, exact="clear",
        part=part,
    )  # fmt: skip


@rule
def energy_sign(*, least_kwh: Kwh) -> Judgement:
    """Is no day's energy below nothing? A clamp turned round counts backwards.

    Source: meter sheet (arrow of the clamp).
    """
    least = figure(least_kwh, "kWh", 2)
    return holds("energy_sign", least_kwh >= 0, "meter sheet (arrow of the clamp)", least=least)


@rule
def days_complete(*, days: Annotated[int, Quantity("days", "", 1, 400)], read: int) -> Judgement:
    """Was every day of the look read? What is missing is said, never filled.

    Source: IEC 61724-1 (missing data).
    """
    if read <= 0:
        return waiting("days_complete", "", YIELD_SOURCE, (say("needs", "energy"),))
    return holds(
        "days_complete", read >= days, YIELD_SOURCE, bad="watch", read=str(read), days=str(days)
    )


@rule
def settings_drift(*, then: str | None, now: str | None) -> Judgement:
    """Does the inverter still hold what it was given? By the fingerprint of its settings.

    Source: grid profile; operator's permit.
    """
    if then is None or now is None:
        needs = say("needs", "settings_then" if then is None else "settings_now")
        return waiting("settings_drift", "", DRIFT_SOURCE, (needs,))
    return holds("settings_drift", then == now, DRIFT_SOURCE, then=then, now=now)


@rule
def look_due(*, due: date, today: date | None, seen: bool) -> Judgement:
    """Was a look after the day made by the day on which it is due?

    Source: IEC 62446-1 (verification after commissioning); Long Noon default for the days.
    """
    source = "Long Noon default for the days, not from a standard"
    if seen or today is None or today < due:
        return holds("look_due", True, source, due=due.isoformat())
    return waiting("look_due", "", source, (say("needs", "look", due=due.isoformat()),))


@rule
def short_reasons(
    *,
    read_kwh: Kwh,
    low_kwh: Kwh,
    parts: Annotated[tuple[PartGave, ...], Items("parts", 0, 500)] = (),
    clipped_share: Some = 0.0,
    room_v: RoomV | None = None,
    shaded: Annotated[tuple[Name, ...], Items("shaded planes", 0, 20)] = (),
    t_air_c: AirC | None = None,
    backwards: bool = False,
    limited: bool = False,
    drifted: bool = False,
) -> tuple[ShortReason, ...]:
    """Why may a plant have given less than was due, the likeliest first?

    clipped_share: of the expected energy that its own limits cut. room_v: to the over-voltage
    trip at full export. limited: what it may export is less than it can give.
    Source: Long Noon default: weights by what fits, not from a standard.
    """
    found = []
    if backwards:
        found.append(ShortReason(id="clamp_turned", weight=95.0))
    whole = fsum(one.kwh for one in parts)
    for one in parts:
        due_kwh = one.expected_share * whole
        others = whole - one.kwh
        if one.kwh < NOTHING_SHARE * due_kwh and others > LEAST_OTHERS_KWH:
            found.append(_reason("string_missing", 90.0, part=one.part))
        elif one.kwh < SHORT_SHARE * due_kwh:
            off = 1 - one.kwh / due_kwh if due_kwh else 0.0
            pct = figure(100 * off, "%", 0)
            found.append(_reason("part_short", 40 + 40 * off, part=one.part, pct=pct))
    missing = max(0.0, 1 - read_kwh / low_kwh) if low_kwh > 0 else 0.0
    if found or missing:
        # A part alone may lie under snow or in shade.
        found += _on_the_roof(missing, shaded, t_air_c)
    if missing:
        found += _of_the_whole(clipped_share, room_v, limited, drifted)
    return tuple(sorted(found, key=lambda one: -one.weight))


def _on_the_roof(
    missing: float, shaded: tuple[str, ...], t_air_c: float | None
) -> Iterator[ShortReason]:
    """What lies on the roof, or between it and the sun."""
    if t_air_c is not None and t_air_c < COLD_C:
        yield _reason("snow", 60 + 30 * missing, air=figure(t_air_c, "°C"))
    if shaded:
        yield _reason("shade", 38.0, planes=", ".join(shaded))


def _of_the_whole(
    clipped_share: float, room_v: float | None, limited: bool, drifted: bool
) -> Iterator[ShortReason]:
    """Reasons that hold the whole plant back, every string alike."""
    if room_v is not None and room_v < OVER_VOLTAGE_ROOM_V:
        tight = min(1.0, (OVER_VOLTAGE_ROOM_V - room_v) / OVER_VOLTAGE_ROOM_V)
        yield _reason("over_voltage", 50 + 30 * tight, room=figure(room_v, "V"))
    if limited:
        yield _reason("export_limit", 42.0)
    if drifted:
        yield _reason("settings", 70.0)
    if clipped_share > CLIPPING_SHARE:
        pct = figure(100 * clipped_share, "%")
        yield _reason("clipping", 20 + 100 * min(0.3, clipped_share), pct=pct)
    yield _reason("sky", 10.0)


def _reason(reason_id: str, weight: float, **facts: str) -> ShortReason:
    return ShortReason(id=reason_id, weight=weight, facts=tuple(facts.items()))
