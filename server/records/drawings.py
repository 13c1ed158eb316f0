"""The drawings of a job, made from its assessment."""

from __future__ import annotations

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

from core.assess import assess
from core.drawing import Drawing
from core.job import Job
from core.planning.path_sheet import path_sheet
from core.stages.feed import STAGE as FEED


def path_drawing(job: Job) -> Drawing:
    """The job's energy path on its sheet."""
    assessment = assess(job)
    now = datetime.now(UTC).astimezone(ZoneInfo(job.site.timezone))
    verdict = assessment.stages[FEED - 1].verdict
    return path_sheet(job, assessment.feed, verdict, now.date().isoformat())
