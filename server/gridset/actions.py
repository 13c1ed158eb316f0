"""Writing the chosen grid profile to the job's inverter, and keeping how it went."""

from __future__ import annotations

from datetime import UTC, datetime
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction

from core.errors import Refused, problem
from core.kept import SettingsWritten
from core.profiles import known_profiles, profile
from devices.client import set_profile
from server.gridset.models import SettingsRow
from server.jobs.stored import load
from server.people.actions import audit, shown_name

MOST_DETAIL_CHARS = 300


def write_profile(person: User, job_id: UUID) -> None:
    """Write the profile, read it back, keep the attempt whatever came of it.

    The line is used outside the transaction: a silent device must not hold the database.
    Raises Refused when no profile is chosen.
    """
    grid = load(job_id).job.grid
    if grid.profile is None:
        said = "No grid profile is chosen. Pick the one that the network operator asks for."
        raise Refused([problem("$.grid.profile", "none", " · ".join(known_profiles()), said)])
    result = set_profile(grid.host, grid.port, grid.unit_id, profile(grid.profile))
    written = SettingsWritten(
        id=str(uuid4()),
        at=datetime.now(UTC),
        by=shown_name(person)[:60],
        profile=grid.profile,
        host=grid.host,
        port=grid.port,
        unit_id=grid.unit_id,
        outcome=result.outcome,
        detail=result.detail[:MOST_DETAIL_CHARS],
        device=result.device,
        readback=result.readback,
    )
    with transaction.atomic():
        SettingsRow.keep(job_id, written)
        audit(person, job_id, "profile written", f"{grid.profile}: {result.outcome}")
