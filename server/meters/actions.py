"""Reading the plant's meter: what each phase shows is kept as readings of the step that is on."""

from __future__ import annotations

from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User

from core.base.errors import Refused, problem
from core.base.messages import say
from core.entry import Entry
from core.job.talk import meter_phases, meter_steps, of_two
from devices.meter import read_meter
from devices.reach import reachable
from server.jobs.stored import load
from server.people.audit import audit
from server.platform.heavy import heavy
from server.readings.actions import keep_all

HOST = "$.talk.meter.host"


def look(person: User, job_id: UUID, step: str) -> None:
    """Ask the meter what each phase shows and keep it for the step that is switched now.

    Raises Refused where no meter is planned, it has no address, the step is none, or it does not
    answer; then nothing is kept.
    """
    plan = load(job_id).job.talk
    meter = plan.meter if plan else None
    if meter is None or not meter.host:
        raise Refused([problem(HOST, "none", "the meter's network address")])
    steps = meter_steps(meter)
    if step not in steps:
        raise Refused([problem("$.step", step, " · ".join(steps))])
    phases = meter_phases(meter)
    host = reachable(meter.host, settings.DEVICE_NETWORKS, HOST, meter.port)
    with heavy(f"device-{host}-{meter.port}", slots=1):
        shows = read_meter(host, meter.port, meter.unit_id, len(phases))
    if shows.outcome != "read_back":
        said = say("meter_answers", shows.outcome, detail=shows.detail)
        raise Refused([problem(HOST, meter.host, "a meter that answers", said)])
    entries = tuple(
        Entry(
            kind="meter_reads", subject=of_two(step, f"L{phase}"), entered=f"{watts:g}",
            taken_at=None, instrument="", note=say("meter_answers", "note"), supersedes=None,
        )
        for phase, watts in zip(phases, shows.watts, strict=True)
    )  # fmt: skip
    keep_all(person, job_id, entries)
    audit(person, job_id, "meter read", step)
