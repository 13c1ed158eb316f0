"""Lifting the lock of a step, and keeping who did and why."""

from __future__ import annotations

from datetime import UTC, datetime
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction

from core.base.errors import Refused, problem
from core.interlocks import liftable
from core.job.sequences import StepOverride
from core.stages.permissions.grants import lock_line
from server.jobs.stored import load
from server.people.audit import audit, shown_name
from server.people.policy import crew_of, licence_of, may, who_may
from server.switching.models import OverrideRow

MOST_LIFTED_CHARS = 500


def lift(person: User, job_id: UUID, key: str, reason: str, lock: str) -> None:
    """Lift one lock of the step that is next: that of that id, else the first.

    Raises Refused; then nothing is kept.
    Only a person with a licence may; what no override lifts stays locked.
    """
    if not may(person, "lift"):
        able = ", ".join(shown_name(one.person) for one in who_may(crew_of(person), "lift"))
        said = (
            "Only an owner or electrician whose licence is entered, and holds, may lift a lock. "
            + (f"Ask {able}." if able else "Nobody of this crew can: the owner enters licences.")
        )
        raise Refused([problem("$.by", shown_name(person), "a licensed person", said)])
    with transaction.atomic():
        job = load(job_id).job
        now = datetime.now(UTC)
        found = liftable(job, key, lock=lock, at=now)
        lifted = StepOverride(
            id=str(uuid4()),
            at=now,
            by=shown_name(person)[:60],
            licence=licence_of(person),
            key=key.partition("/")[2],
            reason=reason.strip(),
            lifted=f"{found.step.title}: {lock_line(found.lock)}"[:MOST_LIFTED_CHARS],
            lock=found.lock.id,
        )
        OverrideRow.keep(job_id, lifted)
        audit(person, job_id, "lock lifted", f"{lifted.key}: {lifted.reason}")
