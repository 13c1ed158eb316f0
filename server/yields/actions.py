"""Keeping a look at the yield: the energy, and what fell on the planes on these days."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, timedelta
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction

from core.assess import assess
from core.base.errors import Refused, problem
from core.base.form import hints
from core.base.messages import say
from core.base.quantity import Quantity
from core.base.units import parse_quantity
from core.edits.fields import typed
from core.files.yield_table import read_yield
from core.job.job import Job
from core.job.leave import MOST_DAYS, PLANT, DayEnergy, DayLight, LookSource, SkyBasis, YieldLook
from core.planning.leave.plant import peaks_w
from core.stages.leave.runs import running_since
from devices.client import Line
from devices.energy import Counted, read_counter
from devices.reach import reachable
from server.jobs.stored import load
from server.people.audit import audit, shown_name
from server.platform.heavy import heavy
from server.sun.views import place_of
from server.yields.models import YieldRow
from sun.clear_sky import Air
from sun.planes import Sky, Slope, Steps, clear_sky, plane_light, sky_of_level

HOST = "$.grid.host"
ENERGY = Quantity("energy of a day", "kWh", -10_000, 100_000)
W_PER_KW = 1000.0
MOST_NAMED = 12
MIN_PER_DAY = 1440


@dataclass(frozen=True, kw_only=True)
class TypedDay:
    """The energy of a day as it was typed."""

    day: date
    part: str
    entered: str


@dataclass(frozen=True, kw_only=True)
class Around:
    """What was said of the days besides: how clear the sky, how warm the air, a note."""

    share: str = ""
    t_air_c: str = ""
    note: str = ""


def peak_kw(job: Job) -> float:
    """The peak power of a job's modules."""
    return sum(peaks_w(job).values()) / W_PER_KW


def keep_typed(person: User, job_id: UUID, days: tuple[TypedDay, ...], around: Around) -> None:
    """Keep energies that somebody typed. Raises Refused; then nothing is kept."""
    job = load(job_id).job
    parts = (PLANT, *peaks_w(job))
    energy = []
    for number, one in enumerate(days):
        path = f"$.days[{number}]"
        if one.part not in parts:
            allowed = " · ".join(parts[:MOST_NAMED])
            raise Refused([problem(f"{path}.part", one.part, allowed)])
        kwh = parse_quantity(one.entered, ENERGY, f"{path}.entered")
        energy.append(DayEnergy(day=one.day, part=one.part, kwh=kwh))
    if not energy:
        raise Refused([problem("$.days", "none", "at least one day's energy")])
    _not_ahead(job, max(one.day for one in energy))
    _keep(person, job, _look(job, person, "typed", tuple(energy), around))


def keep_file(person: User, job_id: UUID, raw: bytes, unit: str, around: Around) -> None:
    """Keep what a portal's file says of its last days. Raises Refused; then nothing is kept."""
    job = load(job_id).job
    found = read_yield(
        raw, timezone=job.site.timezone, parts=tuple(peaks_w(job)), peak_kw=peak_kw(job), unit=unit
    )
    _not_ahead(job, max(one.day for one in found.energy))
    made = _look(
        job, person, "portal", found.energy, around, level=dict(found.light), faults=found.faults
    )
    _keep(person, job, replace(made, sha256=found.sha256))


def keep_counter(person: User, job_id: UUID, around: Around) -> None:
    """Read the inverter's own counter: what it gave since the look before, or since it runs.

    Raises Refused where it does not answer, is another one, or the days are too many.
    """
    job = load(job_id).job
    counted = _counted(job)
    kwh = counted.kwh or 0.0
    zone = ZoneInfo(job.site.timezone)
    today = datetime.now(UTC).astimezone(zone).date()
    before = next((o for o in reversed(job.yield_looks) if o.counter_kwh is not None), None)
    since = running_since(assess(job).wake)
    begun = since.astimezone(zone).date() if since else job.day
    first = before.first_day + timedelta(days=before.days) if before else begun
    base = before.counter_kwh or 0.0 if before else 0.0
    days = (today - first).days + 1
    if not 1 <= days <= MOST_DAYS or kwh < base:
        key = "counter_back" if kwh < base else "counter_days"
        said = say("yield_file", key, days=str(MOST_DAYS), first=first.isoformat())
        raise Refused([problem("$.days", days, f"1 to {MOST_DAYS} days", said)])
    energy = (DayEnergy(day=first, part=PLANT, kwh=kwh - base),)
    faults = () if before else (say("yield_file", "counter_first"),)
    made = _look(job, person, "device", energy, around, last=today, faults=faults)
    _keep(person, job, replace(made, whole=True, counter_kwh=kwh))


def _counted(job: Job) -> Counted:
    grid = job.grid
    if not grid.host:
        raise Refused([problem(HOST, "none", "the inverter's network address")])
    host = reachable(grid.host, settings.DEVICE_NETWORKS, HOST, grid.port)
    with heavy(f"device-{host}-{grid.port}", slots=1):
        found = read_counter(Line(host=host, port=grid.port, unit_id=grid.unit_id))
    if found.outcome != "read_back":
        said = say("yield_file", "no_answer", host=host, detail=found.detail or found.outcome)
        raise Refused([problem(HOST, host, "an inverter that answers", said)])
    plate = [one.text for one in job.readings if one.kind == "nameplate_serial"]
    serial = found.device.serial if found.device else ""
    if plate and serial != plate[-1]:
        said = say("yield_file", "other_device", serial=serial, plate=plate[-1])
        raise Refused([problem(HOST, serial, plate[-1], said)])
    return found


def _not_ahead(job: Job, last: date) -> None:
    today = datetime.now(UTC).astimezone(ZoneInfo(job.site.timezone)).date()
    if last > today:
        said = say("yield_file", "ahead", day=last.isoformat())
        raise Refused([problem("$.days", last.isoformat(), f"up to {today.isoformat()}", said)])


def _look(
    job: Job, person: User, source: LookSource, energy: tuple[DayEnergy, ...], around: Around,
    *, last: date | None = None, level: dict[date, tuple[float, ...]] | None = None,
    faults: tuple[str, ...] = (),
) -> YieldLook:  # fmt: skip
    """A look with the light of its days: measured on level ground, else a clear sky's."""
    first = min(one.day for one in energy)
    end = last or max(one.day for one in energy)
    days = (end - first).days + 1
    if days > MOST_DAYS:
        allowed = f"at most {MOST_DAYS} days"
        raise Refused([problem("$.days", days, allowed)])
    every = [first + timedelta(days=number) for number in range(days)]
    wanted = {one.day for one in energy} if last is None else set(every)
    measured = level if level and wanted <= set(level) else None
    basis: SkyBasis = "level" if measured else "clear_sky"
    fields = hints(YieldLook)
    share = typed(fields["share"], around.share, "$.share")
    return YieldLook(
        id=str(uuid4()),
        at=datetime.now(UTC),
        by=shown_name(person)[:60],
        source=source,
        first_day=first,
        days=days,
        energy=energy,
        basis=basis,
        share=None if measured else share,
        light=tuple(one for day in sorted(wanted) for one in _light(job, day, measured)),
        t_air_c=typed(fields["t_air_c"], around.t_air_c, "$.t_air_c"),
        faults=faults,
        note=around.note.strip(),
    )


def _light(
    job: Job, day: date, level: dict[date, tuple[float, ...]] | None
) -> tuple[DayLight, ...]:
    """What fell on each plane on a day, from its local midnight on."""
    values = level[day] if level else None
    count = len(values) if values else 24
    start = datetime(day.year, day.month, day.day, tzinfo=ZoneInfo(job.site.timezone))
    steps = Steps(start=start.astimezone(UTC), step_min=MIN_PER_DAY / count, count=count)
    place, rules = place_of(job), job.rules.sun
    air = Air(linke_turbidity=rules.linke_turbidity.value, albedo=rules.albedo.value)
    sky: Sky = (
        sky_of_level(place=place, steps=steps, ghi_w_per_m2=values)
        if values
        else clear_sky(place=place, air=air, steps=steps)
    )
    slopes = [
        Slope(name=one.name, tilt_deg=one.tilt_deg, azimuth_deg=one.azimuth_deg)
        for one in job.planes
        if one.tilt_deg is not None and one.azimuth_deg is not None
    ]
    found = plane_light(place=place, slopes=slopes, steps=steps, sky=sky, albedo=air.albedo)
    return tuple(
        DayLight(
            day=day,
            plane=one.name,
            w_per_m2=tuple(round(min(1600.0, on), 2) for on in one.irradiance_w_per_m2),
        )
        for one in found
    )


def _keep(person: User, job: Job, look: YieldLook) -> None:
    with transaction.atomic():
        YieldRow.keep(UUID(job.id), look)
        said = f"{look.source}: {look.first_day}, {look.days} days"
        audit(person, UUID(job.id), "yield looked at", said)
