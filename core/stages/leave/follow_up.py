"""The looks after the day: what is due, what the plant gave beside what it should, and why not."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import cache
from math import fsum
from zoneinfo import ZoneInfo

from core.assessment.feed import FeedStage
from core.assessment.grid import GridStage
from core.assessment.leave import LookDue, YieldLoss, YieldPart, YieldReason, YieldState
from core.assessment.wake import WakeStage
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import say
from core.base.trace import kept_ready
from core.data import load
from core.job.house import house_rated_w
from core.job.job import Job
from core.job.leave import PLANT, YieldLook
from core.planning.leave.plant import EnergyPlant, energy_plant, losses, peaks_w
from core.rules.leave.follow_up import (
    YIELD_SOURCE,
    PartGave,
    days_complete,
    energy_sign,
    look_due,
    part_gives,
    settings_drift,
    short_reasons,
    yield_as_due,
    yield_band,
)
from core.rules.leave.plant_energy import PlaneLight, PlantEnergy, plant_energy
from core.stages.leave.runs import running_since

LOOKS_KEPT = 64
MIN_PER_DAY = 24 * 60
W_PER_KW = 1000.0
FEWEST_PARTS = 2


@dataclass(frozen=True, kw_only=True)
class Around:
    """What a look is judged by, beside the plan."""

    room_v: float | None
    limited: bool
    drifted: bool


def drift(grid: GridStage) -> Judgement | None:
    """Whether the inverter still holds what it was given; None while nothing was written."""
    written = [one for one in grid.attempts if not one.only_read and one.outcome == "read_back"]
    if not written:
        return None
    then = written[-1]
    later = [
        one.fingerprint
        for one in grid.attempts
        if one.only_read and one.at > then.at and one.fingerprint is not None
    ]
    judged: Judgement = settings_drift(then=then.fingerprint, now=later[-1] if later else None)
    return judged


def looks_due(job: Job, woken: WakeStage, at: datetime | None) -> tuple[LookDue, ...]:
    """The looks after the day, from the day on which the plant was left to run."""
    zone = ZoneInfo(job.site.timezone)
    since = running_since(woken)
    begun = since.astimezone(zone).date() if since else None
    today = at.astimezone(zone).date() if at else None
    return tuple(_due(job, look, days, begun, today) for look, days in _looks())


@cache
def _looks() -> tuple[tuple[str, int], ...]:
    """The looks after the day: each with the days that go by before it."""
    return tuple((one["id"], one["days"]) for one in load("follow_up"))


def _due(job: Job, due_id: str, days: int, begun: date | None, today: date | None) -> LookDue:
    due = begun + timedelta(days=days) if begun else None
    zone = ZoneInfo(job.site.timezone)
    seen = None
    if due is not None and begun is not None:
        made = (one.at.astimezone(zone).date() for one in job.yield_looks if _sees(one, begun))
        seen = next((day for day in sorted(made) if day >= due), None)
    late = due and look_due(due=due, today=today, seen=seen is not None).verdict == "waiting"
    return LookDue(
        id=due_id,
        title=say("looks", due_id),
        what=say("looks", f"{due_id}_what"),
        due=due,
        verdict="waiting" if seen is None else "clear",
        late=bool(late),
        seen=seen,
    )


def _sees(look: YieldLook, begun: date) -> bool:
    """Whether a look saw a day of the plant as it runs."""
    return look.first_day + timedelta(days=look.days - 1) >= begun


def overdue(dues: tuple[LookDue, ...]) -> Iterator[Judgement]:
    """Looks that should have been made by now."""
    for one in dues:
        if one.due is not None and one.late:
            judged: Judgement = look_due(due=one.due, today=one.due, seen=False)
            yield judged


def yields(job: Job, feed: FeedStage, drifted: Judgement | None) -> tuple[YieldState, ...]:
    """Every look at the yield, the last first."""
    permit = job.arrival.permit
    room = [day.room_v for day in (feed.high, feed.today) if day is not None and day.room_v]
    around = Around(
        room_v=min(room) if room else None,
        limited=bool(
            permit and permit.export_w is not None and permit.export_w < house_rated_w(job)
        ),
        drifted=drifted is not None and drifted.verdict == "stop",
    )
    made = [_yield(job, one, around) for one in job.yield_looks]
    return tuple(reversed(made))


def _yield(job: Job, look: YieldLook, around: Around) -> YieldState:
    plant = energy_plant(job)
    due = _expected(plant, look, job.site.t_air_min_c, job.site.t_air_max_c)
    days = {look.first_day + timedelta(days=number) for number in range(look.days)}
    read, of_plant = _read(look)
    read_days = days if look.whole else {day for day in read if day in days}
    due_kwh = _due_kwh(due, read_days)
    judged: list[Judgement] = [days_complete(days=look.days, read=len(read_days))]
    if look.energy:
        judged.append(energy_sign(least_kwh=min(one.kwh for one in look.energy)))
    band = None
    if due_kwh is not None and of_plant is not None:
        band = yield_band(expected_kwh=due_kwh, basis=look.basis, share_said=_sky_said(look))
        judged.append(yield_as_due(read_kwh=of_plant, low_kwh=band.low_kwh, high_kwh=band.high_kwh))
    else:
        judged.append(waiting("yield_as_due", "kWh", YIELD_SOURCE, tuple(_lacks(plant, look))))
    parts, of_parts = _parts(job, look, due, plant)
    judged += of_parts
    return YieldState(
        id=look.id,
        at=look.at,
        by=look.by,
        source=look.source,
        basis=look.basis,
        share=look.share,
        first_day=look.first_day,
        last_day=look.first_day + timedelta(days=look.days - 1),
        days_read=len(read_days),
        read_kwh=of_plant,
        expected_kwh=due_kwh,
        low_kwh=band.low_kwh if band else None,
        high_kwh=band.high_kwh if band else None,
        band_said=say(
            "yield_band", look.basis if look.share or look.basis != "clear_sky" else "most"
        ),
        verdict=worst(one.verdict for one in judged),
        judgements=tuple(judged),
        parts=parts,
        reasons=_reasons(job, look, parts, due, of_plant, band.low_kwh if band else None, around),
        losses=tuple(YieldLoss(name=o.name, pct=o.pct, source=o.source) for o in losses()),
        faults=look.faults,
        note=look.note,
    )


def _sky_said(look: YieldLook) -> bool:
    """Whether how bright it was is known, measured or judged by somebody."""
    return look.basis != "clear_sky" or look.share is not None


def _lacks(plant: EnergyPlant, look: YieldLook) -> Iterator[str]:
    yield from (say("needs", "plane_lies", plane=name) for name in plant.missing)
    if not look.light and not plant.missing:
        yield say("needs", "light")
    if not look.energy:
        yield say("needs", "energy")


def _read(look: YieldLook) -> tuple[dict[date, float], float | None]:
    """The plant's energy by day, from its own line or summed from all its parts."""
    by_day: dict[date, float] = {one.day: one.kwh for one in look.energy if one.part == PLANT}
    summed: dict[date, list[float]] = defaultdict(list)
    for one in look.energy:
        if one.part != PLANT:
            summed[one.day].append(one.kwh)
    for day, parts in summed.items():
        by_day.setdefault(day, fsum(parts))
    return by_day, fsum(by_day.values()) if by_day else None


@kept_ready(LOOKS_KEPT)
def _expected(
    plant: EnergyPlant, look: YieldLook, coldest_c: float, hottest_c: float
) -> PlantEnergy | None:
    """What was due on the days of a look; None where the light or a plane's lie is not known."""
    by_plane: dict[str, dict[date, tuple[float, ...]]] = defaultdict(dict)
    for one in look.light:
        by_plane[one.plane][one.day] = one.w_per_m2
    days = sorted({one.day for one in look.light})
    whole = all(len(by_plane[name]) == len(days) for name in plant.planes)
    steps = {len(one.w_per_m2) for one in look.light}
    if not days or not whole or len(steps) != 1 or not plant.strings or plant.missing:
        return None
    each = steps.pop()
    share = look.share if look.basis == "clear_sky" and look.share is not None else 1.0
    light = tuple(
        PlaneLight(
            name=name,
            irradiance_w_per_m2=tuple(share * on for day in days for on in by_plane[name][day]),
        )
        for name in plant.planes
    )
    # Where nobody said it: the middle of the coldest and hottest of the place.
    air_c = look.t_air_c if look.t_air_c is not None else (coldest_c + hottest_c) / 2
    found: PlantEnergy = plant_energy(
        planes=light,
        strings=plant.strings,
        inverters=plant.inverters,
        t_air_c=(air_c,) * (each * len(days)),
        step_min=MIN_PER_DAY / each,
        days=tuple(day.isoformat() for day in days for _ in range(each)),
        dc_losses=plant.dc_losses,
        ac_wiring_pct=plant.ac_wiring_pct,
    )
    return found


def _due_kwh(due: PlantEnergy | None, days: set[date]) -> float | None:
    """What was due on the days that were read: a missing one is not held against the plant."""
    if due is None:
        return None
    by_day = dict(zip(due.days, due.by_day_kwh, strict=True))
    known = [by_day[one.isoformat()] for one in days if one.isoformat() in by_day]
    return fsum(known) if known and len(known) == len(days) else None


def _parts(
    job: Job, look: YieldLook, due: PlantEnergy | None, plant: EnergyPlant
) -> tuple[tuple[YieldPart, ...], list[Judgement]]:
    """Strings or units beside each other: their shares need no weather."""
    gave: dict[str, list[float]] = defaultdict(list)
    for one in look.energy:
        if one.part != PLANT:
            gave[one.part].append(one.kwh)
    if not gave:
        return (), []
    kwh = {part: fsum(values) for part, values in gave.items()}
    whole = fsum(max(0.0, one) for one in kwh.values())
    peaks = peaks_w(job)
    shares = _shares(due, plant, peaks, tuple(kwh))
    found, judged = [], []
    for part, of_part in kwh.items():
        share = max(0.0, of_part) / whole if whole else 0.0
        wanted = shares.get(part)
        said = None
        if wanted is not None and len(kwh) >= FEWEST_PARTS:
            said = part_gives(part=part, share=share, expected_share=wanted)
            judged.append(said)
        peak_w = peaks.get(part)
        found.append(
            YieldPart(
                part=part,
                kwh=of_part,
                share=share,
                expected_share=wanted,
                kwh_per_kwp=of_part / (peak_w / W_PER_KW) if peak_w else None,
                verdict=said.verdict if said else "waiting",
            )
        )
    return tuple(found), judged


def _shares(
    due: PlantEnergy | None, plant: EnergyPlant, peaks: dict[str, float], parts: tuple[str, ...]
) -> dict[str, float]:
    """What each part should give of all: by the light on its plane, else by its peak."""
    known: dict[str, float] = {}
    if due is not None:
        known = {one.name: kwh for one, kwh in zip(plant.strings, due.by_string_kwh, strict=True)}
        alike = dict(plant.alike)
        for unit, strings in plant.units:
            known[unit] = fsum(known[name] / alike[name] for name in strings)
    weights = {part: known.get(part, peaks.get(part)) for part in parts}
    if not all(part in known for part in parts):
        weights = {part: peaks.get(part) for part in parts}
    if any(one is None for one in weights.values()):
        return {}
    whole = fsum(one or 0.0 for one in weights.values())
    return {part: (one or 0.0) / whole for part, one in weights.items()} if whole else {}


def _reasons(
    job: Job,
    look: YieldLook,
    parts: tuple[YieldPart, ...],
    due: PlantEnergy | None,
    read_kwh: float | None,
    low_kwh: float | None,
    around: Around,
) -> tuple[YieldReason, ...]:
    """Why it may be short, likeliest first."""
    whole = due.ac_kwh + due.clipped_inverter_kwh if due else 0.0
    found = short_reasons(
        read_kwh=read_kwh or 0.0,
        low_kwh=low_kwh or 0.0,
        parts=tuple(
            PartGave(part=one.part, kwh=one.kwh, expected_share=one.expected_share)
            for one in parts
            if one.expected_share is not None
        ),
        clipped_share=(due.clipped_inverter_kwh / whole) if due and whole else 0.0,
        room_v=around.room_v,
        shaded=tuple(one.name for one in job.planes if one.shade.strip()),
        t_air_c=look.t_air_c,
        backwards=any(one.kwh < 0 for one in look.energy),
        limited=around.limited,
        drifted=around.drifted,
    )
    return tuple(
        YieldReason(
            id=one.id,
            title=say("short", one.id, **dict(one.facts)),
            because=say("short", f"{one.id}_because", **dict(one.facts)),
            read_next=say("short", f"{one.id}_next", **dict(one.facts)),
            points=one.weight,
        )
        for one in found
    )
