"""What a crew brings to a day besides the job: its own times, and who is away."""

from __future__ import annotations

from functools import lru_cache

from django.db.models import Max

from core.job.job import Job
from core.planning.day.own_times import Moment, own_times
from core.planning.day.tasks import Crewed, OwnTime, kinds
from server.jobs.models import JobRow
from server.readings.models import ReadingRow
from server.weeks.planned import away_of

# The latest of them say how fast the crew is now.
MOST_MOMENTS = 6000
CREWS_KEPT = 32


def crewed_of(row: JobRow, job: Job) -> Crewed:
    """The own times and absences of the crew of a job, as they stand now. Only what was read here
    counts: the moments of a file may be anything."""
    crew = row.crew
    if crew is None:
        return Crewed()
    rows = ReadingRow.objects.filter(job__crew=crew)
    newest = rows.aggregate(newest=Max("id"))["newest"] or 0
    return Crewed(times=_times(crew.pk, newest), away=away_of(crew, job))


@lru_cache(maxsize=CREWS_KEPT)
def _times(crew: int, newest: int) -> tuple[OwnTime, ...]:
    timed = [name for kind in kinds() for name in kind.timed_by]
    rows = (
        ReadingRow.objects.filter(
            job__crew=crew, id__lte=newest, kind__in=timed, supersedes=None, person__isnull=False
        )
        .order_by("-id")
        .values_list("job_id", "kind", "by", "taken_at")[:MOST_MOMENTS]
    )
    return own_times(Moment(job=str(job), kind=kind, by=by, at=at) for job, kind, by, at in rows)
