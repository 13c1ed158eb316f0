"""Writing the chosen grid profile to the job's inverter, looking at it, keeping how it went."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from functools import partial
from uuid import UUID, uuid4

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction

from core.base.errors import Refused, problem
from core.base.judgement import Judgement
from core.figures.grid_profiles import known_profiles
from core.job.grid import GridPlan
from core.job.job import Job
from core.job.live import Live
from core.job.readings import SettingsWritten
from core.rules.grid.loss_of_supply import MEAN_WINDOW_S, mean_voltage_under, running_mean
from core.stages.set.live import judged_live
from core.stages.set.stage import PHASES, objection
from devices.client import Line, read_profile, set_profile
from devices.live import read_live
from devices.reach import reachable
from server.grid_settings.models import SettingsRow, SupplySample
from server.jobs.stored import load
from server.people.audit import audit, shown_name
from server.platform.heavy import heavy
from server.sun.views import sun_elevation_deg

MOST_DETAIL_CHARS = 300
# A poll that comes later than this after the one before it does not go on with its mean.
GAP_S = 30.0


def write_profile(person: User, job_id: UUID) -> None:
    """Write the profile, read it back, keep the attempt whatever came of it.

    Raises Refused when no profile is chosen, or the address may not be spoken to.
    """
    _attempt(person, job_id, only_read=False)


def look_at_settings(person: User, job_id: UUID) -> None:
    """Read what the inverter holds, write nothing, keep the look.

    Raises Refused when no profile is chosen, or the address may not be spoken to.
    """
    _attempt(person, job_id, only_read=True)


def _attempt(person: User, job_id: UUID, *, only_read: bool) -> None:
    """The line is used outside the transaction: a silent device must not hold the database."""
    job = load(job_id).job
    grid = job.grid
    chosen = job.grid_profile
    if grid.profile is None or chosen is None:
        said = "No grid profile is chosen. Pick the one that the network operator asks for."
        raise Refused([problem("$.grid.profile", "none", " · ".join(known_profiles()), said)])
    line = _line(grid)
    begun = SettingsWritten(
        id=str(uuid4()),
        at=datetime.now(UTC),
        by=shown_name(person)[:60],
        profile=grid.profile,
        host=grid.host,
        port=grid.port,
        unit_id=grid.unit_id,
        outcome="begun",
        detail="",
        device=None,
        readback=(),
        only_read=only_read,
    )
    if not only_read:
        # Before the first register: whatever happens now, that it began is known.
        _keep(person, job_id, begun, "writing begun")
    speak = read_profile if only_read else set_profile
    with heavy(f"device-{line.host}-{line.port}", slots=1):
        result = speak(line, chosen, partial(objection, job))
    ended = replace(
        begun,
        id=str(uuid4()),
        at=datetime.now(UTC),
        begun=None if only_read else begun.id,
        **vars(result) | {"detail": result.detail[:MOST_DETAIL_CHARS]},
    )
    _keep(person, job_id, ended, "settings looked at" if only_read else "profile written")


def _keep(person: User, job_id: UUID, written: SettingsWritten, what: str) -> None:
    with transaction.atomic():
        SettingsRow.keep(job_id, written)
        audit(person, job_id, what, f"{written.profile}: {written.outcome}")


def _line(grid: GridPlan) -> Line:
    """Where the inverter answers, once it may be spoken to. Raises Refused."""
    if grid.by_hand:
        said = "This inverter is set by hand: nothing is sent to it."
        raise Refused([problem("$.grid.by_hand", "yes", "an inverter with an open port", said)])
    host = reachable(grid.host, settings.DEVICE_NETWORKS, port=grid.port)
    return Line(host=host, port=grid.port, unit_id=grid.unit_id)


@dataclass(frozen=True, kw_only=True)
class Watched:
    """One poll, and the mean of the supply so far: how long it covers and what that says.

    entered: the mean as it is kept for a reading; None until it covers its whole window.
    judgements: the poll against plan, sheet, profile and sun.
    """

    live: Live
    mean_v: float | None
    covered_s: float
    window_s: float
    mean: Judgement | None
    entered: str | None
    judgements: tuple[Judgement, ...]


def watch(job_id: UUID) -> Watched:
    """Poll what the inverter measures now. Raises Refused when it may not be spoken to."""
    job = load(job_id).job
    line = _line(job.grid)
    with heavy(f"device-{line.host}-{line.port}", slots=1):
        live = read_live(line, PHASES[job.source.service])
    _sample(job_id, live)
    mean_v, covered_s = _mean(job_id)
    return Watched(
        live=live,
        mean_v=mean_v if covered_s else None,
        covered_s=covered_s,
        window_s=MEAN_WINDOW_S,
        mean=_judged(job, mean_v, covered_s) if covered_s else None,
        entered=f"{mean_v:.1f} V" if covered_s >= MEAN_WINDOW_S else None,
        judgements=judged_live(job, live, sun_elevation_deg(job, datetime.now(UTC))),
    )


def _judged(job: Job, mean_v: float, covered_s: float) -> Judgement | None:
    limit_v = job.grid_profile.value("over_voltage_mean_v") if job.grid_profile else None
    if limit_v is None:
        return None
    return mean_voltage_under(mean_v=mean_v, limit_v=limit_v, covered_s=covered_s)


def _sample(job_id: UUID, live: Live) -> None:
    now = datetime.now(UTC)
    with transaction.atomic():
        SupplySample.objects.filter(at__lt=now - timedelta(seconds=2 * MEAN_WINDOW_S)).delete()
        if live.lines:
            highest = max(line.volts for line in live.lines)
            SupplySample.objects.create(job_id=job_id, at=now, volts=highest)


def _mean(job_id: UUID) -> tuple[float, float]:
    """The mean over the samples that follow one another without a gap."""
    samples: list[tuple[float, float]] = []
    for row in SupplySample.objects.filter(job_id=job_id).order_by("at"):
        moment = row.at.timestamp()
        if samples and moment - samples[-1][0] > GAP_S:
            samples.clear()
        samples.append((moment, row.volts))
    return running_mean(samples=tuple(samples))
