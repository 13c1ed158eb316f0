"""Looking at what the job's gateway lists, and keeping it whatever came of it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Literal
from uuid import UUID, uuid4

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction

from core.files.unit_list import read_unit_list
from core.job.microinverter import GatewayOutcome, GatewayRead
from core.stages.microinverter.serial_map import SerialMap
from core.stages.reading_index import Readings, kept_of
from devices.gateway import read_gateway
from devices.reach import reachable
from server.gateways.models import GatewayRow
from server.jobs.stored import load
from server.people.audit import audit, shown_name
from server.platform.heavy import heavy

MOST_DETAIL_CHARS = 300
Seen = Literal["typed", "picture"]


def look(person: User, job_id: UUID) -> None:
    """Ask the gateway for its list, keep the look.

    The line is used outside the transaction: a silent gateway must not hold the database.
    Raises Refused on a job with a wall inverter, or when the gateway may not be spoken to.
    """
    gateway = load(job_id).job.roof_plan.gateway
    path = "$.micro.gateway.host"
    host = reachable(gateway.host, settings.DEVICE_NETWORKS, path, gateway.port)
    with heavy(f"device-{host}-{gateway.port}", slots=1):
        found = read_gateway(host, gateway.port)
    looked = GatewayRead(
        id=str(uuid4()),
        at=datetime.now(UTC),
        by=shown_name(person)[:60],
        host=gateway.host,
        port=gateway.port,
        outcome=found.outcome,
        detail=found.detail[:MOST_DETAIL_CHARS],
        units=found.units,
    )
    with transaction.atomic():
        GatewayRow.keep(job_id, looked)
        audit(person, job_id, "gateway looked at", f"{found.outcome}: {len(found.units)} units")


@dataclass(frozen=True, kw_only=True)
class UnitNow:
    """One unit as the gateway has it at this moment. unit: where its serial stands on the map."""

    serial: str
    unit: str
    reporting: bool
    power_w: float | None


@dataclass(frozen=True, kw_only=True)
class GatewayNow:
    """What the gateway says at this moment; looked at, never kept."""

    outcome: GatewayOutcome
    detail: str
    reporting: int
    of: int
    units: tuple[UnitNow, ...]


def follow(job_id: UUID) -> GatewayNow:
    """What the gateway lists now. Raises Refused when it may not be spoken to."""
    job = load(job_id).job
    gateway = job.roof_plan.gateway
    host = reachable(gateway.host, settings.DEVICE_NETWORKS, "$.micro.gateway.host", gateway.port)
    with heavy(f"device-{host}-{gateway.port}", slots=1):
        found = read_gateway(host, gateway.port)
    stands = SerialMap(plan=job.roof_plan, readings=Readings(kept_of(job))).by_serial
    units = tuple(
        UnitNow(
            serial=one.serial,
            unit=", ".join(stands.get(one.serial, ())),
            reporting=one.reporting,
            power_w=one.power_w,
        )
        for one in found.units
    )
    return GatewayNow(
        outcome=found.outcome,
        detail=found.detail,
        reporting=sum(one.reporting for one in units),
        of=len(job.roof_plan.units),
        units=units,
    )


def take_list(person: User, job_id: UUID, text: str, source: Seen) -> None:
    """Keep a gateway's list that somebody typed, or read from a picture of it.

    Raises Refused on a job with a wall inverter, or for a list that is none; then nothing is kept.
    """
    gateway = load(job_id).job.roof_plan.gateway
    listed = GatewayRead(
        id=str(uuid4()),
        at=datetime.now(UTC),
        by=shown_name(person)[:60],
        host=gateway.host,
        port=gateway.port,
        outcome="read",
        detail="",
        units=read_unit_list(text),
        source=source,
    )
    with transaction.atomic():
        GatewayRow.keep(job_id, listed)
        audit(person, job_id, "gateway's list taken", f"{source}: {len(listed.units)} units")
