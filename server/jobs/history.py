"""How a plan came to stand as it does: who changed what, and when."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth.models import User

from core.files.touches import Touch, told_of
from server.jobs.models import PlanChange
from server.jobs.schemas import ChangeLine
from server.jobs.stored import row_of
from server.people.audit import shown_name

MOST_LINES, MOST_TOLD = 100, 3


def history(person: User, job_id: UUID) -> list[ChangeLine]:
    """The last changes of a job's plan, the newest first. Raises Http404."""
    own = row_of(job_id)
    every = PlanChange.objects.filter(job=own.house or own).select_related("by")
    undone = set(every.values_list("undoes", flat=True))
    return [
        ChangeLine(
            revision=one.revision,
            at=one.at,
            by=shown_name(one.by),
            mine=one.by_id == person.id,
            undone=one.revision in undone,
            undoes=one.undoes,
            told=tuple(told_of(Touch(**touch)) for touch in one.touches[:MOST_TOLD]),
            count=len(one.touches),
        )
        for one in every.order_by("-id")[:MOST_LINES]
    ]
