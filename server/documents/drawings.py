"""The drawings of a job, made from its assessment."""

from __future__ import annotations

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

from core.assess import assess
from core.base.drawing import Drawing
from core.base.errors import Refused, problem
from core.base.stage_numbers import FEED
from core.job.job import Job
from core.sheets.serial_map import map_sheets
from core.sheets.single_line import path_sheet


def map_drawings(job: Job) -> tuple[Drawing, ...]:
    """The job's serial map, a sheet for each plane. Raises Refused without microinverters."""
    stage = assess(job).roof
    if stage is None:
        raise Refused([problem("$.micro", "none", "a roof of microinverters")])
    return map_sheets(job, stage, _today(job))


def _today(job: Job) -> str:
    return datetime.now(UTC).astimezone(ZoneInfo(job.site.timezone)).date().isoformat()


def path_drawing(job: Job) -> Drawing:
    """The job's energy path on its sheet."""
    assessment = assess(job)
    verdict = assessment.stages[FEED - 1].verdict
    return path_sheet(job, assessment.feed, verdict, _today(job))
