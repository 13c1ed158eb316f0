"""What a simulated inverter measures of its job's plant: strings, switches, the sun over them."""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from sunspec2.device import Model

from core.base.errors import Refused
from core.files.job import read_job
from core.job.job import Job
from core.job.roof import Plane
from core.rules.dc.cell_temperature import cell_from_air
from core.rules.dc.expected_reading import isc_now, voc_now
from core.stages.permissions.switches import ac_path, all_on, dc_path
from devices.live import DC_PORTS, STATES, TRACKERS
from devices.plate import MEASURED, OLD_MEASURED
from sun.clear_sky import Air, Place, sun_now, warm_up

# Between the direct current and the supply, as an ordinary inverter of this size loses.
EFFICIENCY = 0.97
# Below this the strings show nothing.
DARK_W_PER_M2 = 5.0
AGAIN_S = 5.0
Placed = dict[int, tuple[int, Model]]


@dataclass(frozen=True, kw_only=True)
class TrackerNow:
    """One tracker: volts and amperes."""

    volts: float
    amps: float


@dataclass(frozen=True, kw_only=True)
class PlantNow:
    """A plant at a moment. supply_v: at the inverter's terminals, 0 behind an open switch."""

    state: str
    supply_v: float
    power_w: float
    trackers: tuple[TrackerNow, ...]


def plant_now(job: Job, nominal_v: float, at: datetime) -> PlantNow:
    """What the inverter of a job of strings measures under a clear sky.

    A switch that nobody put ON is open.
    """
    if job.inverter is None or job.optimiser is not None:
        raise ValueError("a simulated inverter follows a job of plain strings")
    has_dc, has_ac = all_on(job, dc_path(job)), all_on(job, ac_path(job))
    numbers = range(1, len(job.inverter.trackers) + 1)
    open_v = [_open_v(job, number, at) if has_dc else 0.0 for number in numbers]
    feeds = has_ac and max(open_v) >= job.inverter.dc.start_v
    trackers = tuple(
        _at_work(job, number, volts, at) if feeds and volts else TrackerNow(volts=volts, amps=0.0)
        for number, volts in zip(numbers, open_v, strict=True)
    )
    power_w = EFFICIENCY * sum(one.volts * one.amps for one in trackers)
    return PlantNow(
        state="running" if feeds else "sleeping" if has_ac or any(open_v) else "off",
        supply_v=nominal_v if has_ac else 0.0,
        power_w=min(power_w, job.inverter.rated_ac_w),
        trackers=trackers,
    )


def _lit(job: Job, plane: Plane, at: datetime) -> tuple[float, float] | None:
    """Clear-sky irradiance on a plane [W/m2]; cells [C] in air between the extremes.

    A plane that nobody looked at lies flat here.
    """
    site, sky = job.site, job.rules.sun
    sun = sun_now(
        place=Place(
            latitude_deg=site.latitude_deg,
            longitude_deg=site.longitude_deg,
            altitude_m=site.height_m,
        ),
        air=Air(linke_turbidity=sky.linke_turbidity.value, albedo=sky.albedo.value),
        tilt_deg=plane.tilt_deg or 0.0,
        azimuth_deg=plane.azimuth_deg or 0.0,
        at=at,
    )
    if sun.poa_w_per_m2 < DARK_W_PER_M2:
        return None
    t_cell_c = cell_from_air(
        t_air_c=(site.t_air_min_c + site.t_air_max_c) / 2,
        irradiance_w_per_m2=sun.poa_w_per_m2,
        noct_c=job.module_on(plane.name).noct_c,
    )
    return sun.poa_w_per_m2, t_cell_c


def _open_v(job: Job, number: int, at: datetime) -> float:
    """A tracker's voltage with no current; of strings side by side that of the lowest."""
    found = []
    for string in job.strings:
        lit = _lit(job, job.plane(string.plane), at) if string.tracker == number else None
        if lit is None:
            continue
        irradiance, t_cell_c = lit
        module = job.module_on(string.plane)
        found.append(
            voc_now(
                modules_in_series=string.modules_in_series,
                voc_v=module.voc_v,
                beta_voc_pct_per_k=module.beta_voc_pct_per_k,
                cells_in_series=module.cells_in_series,
                irradiance_w_per_m2=irradiance,
                t_cell_c=t_cell_c,
            )
        )
    return min(found, default=0.0)


def _at_work(job: Job, number: int, open_v: float, at: datetime) -> TrackerNow:
    """A tracker that feeds: as far below its open voltage as the sheet's working point is."""
    amps = 0.0
    for string in job.strings:
        lit = _lit(job, job.plane(string.plane), at) if string.tracker == number else None
        if lit is None:
            continue
        irradiance, t_cell_c = lit
        module = job.module_on(string.plane)
        amps += isc_now(
            isc_a=module.imp_a,
            alpha_isc_pct_per_k=module.alpha_isc_pct_per_k,
            irradiance_w_per_m2=irradiance,
            t_cell_c=t_cell_c,
        )
    return TrackerNow(volts=open_v * module.vmp_v / module.voc_v, amps=amps)


class Followed:
    """A job's file that is read again whenever it was written anew."""

    def __init__(
        self, file: Path, nominal_v: float, now: Callable[[], datetime] = lambda: datetime.now(UTC)
    ) -> None:
        self._file, self._nominal_v, self._now = file, nominal_v, now
        # The first look takes over a second; whoever asks an inverter does not wait so long.
        warm_up()
        self._written_ns = 0
        self._job: Job | None = None
        self._looked_at: datetime | None = None
        self._measured: PlantNow | None = None

    def measured(self) -> PlantNow | None:
        """What it measures now; None while there is no file of a job that it can follow."""
        if not self._file.exists():
            return None
        written_ns, now = self._file.stat().st_mtime_ns, self._now()
        is_new = written_ns != self._written_ns
        if is_new:
            self._written_ns, self._job = written_ns, self._read()
        if self._job is None:
            return None
        since = None if self._looked_at is None else (now - self._looked_at).total_seconds()
        if is_new or since is None or since >= AGAIN_S:
            self._looked_at = now
            self._measured = plant_now(self._job, self._nominal_v, now)
        return self._measured

    def _read(self) -> Job | None:
        try:
            job = read_job(self._file.read_bytes())
            plant_now(job, self._nominal_v, self._now())
        except (Refused, ValueError) as error:
            print(f"{self._file}: not followed: {error}", file=sys.stderr, flush=True)
            return None
        return job


def live_registers(now: PlantNow, placed: Placed) -> Iterator[tuple[int, int]]:
    """Addresses and register values of what a plant measures, in whatever models are there."""
    amps = now.power_w / now.supply_v if now.supply_v else 0.0
    volts, state = round(now.supply_v * 10), STATES.index(now.state)
    for model_id, (address, model) in placed.items():
        points: dict[str, int] = {}
        if model_id == MEASURED:
            lines = {f"VL{n}": volts for n in (1, 2, 3) if model.points[f"VL{n}"].value is not None}
            points = {"InvSt": state, "LNV": volts, "VA": round(now.power_w), **lines}
        elif model_id in OLD_MEASURED:
            points = {"St": state + 1, "PhVphA": volts, "AphA": round(amps * 10)}
        if points:
            points |= {"W": round(now.power_w), "A": round(amps * 10)}
        for name, value in points.items():
            yield address + model.points[name].offset, value
        group = {DC_PORTS: "Prt", TRACKERS: "module"}.get(model_id)
        for number, port in enumerate(model.groups[group] if group else ()):
            one = (
                now.trackers[number] if number < len(now.trackers) else TrackerNow(volts=0, amps=0)
            )
            for name, value in (
                ("DCV", round(one.volts * 10)),
                ("DCA", round(one.amps * 100)),
                ("DCW", round(one.volts * one.amps)),
            ):
                yield address + port.points[name].offset, value
