"""An earlier job as the template of another house: its plan, and nothing that was there."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from core.edits.fields import typed
from core.edits.new_job import NewJob, site_of
from core.files.job import copied
from core.job.day import NOTHING_LAID
from core.job.grid import LETTER, GridPlan
from core.job.job import Job
from core.job.leave import NOTHING_LEFT


def templated(like: Job, new: NewJob, *, job_id: str, today: date) -> Job:
    """A job planned as an earlier one, for another house. Raises Refused with every problem.

    Beside what was read there, that house's permit, owner, secrets, operator's letter and days
    stay behind: they are its own.
    """
    made = copied(like, job_id)
    talk = made.talk
    return replace(
        made,
        name=new.name,
        day=typed(date, new.day, "$.day") if new.day.strip() else today,
        site=site_of(new),
        grid=_without_letter(made.grid),
        leave=NOTHING_LEFT,
        days=NOTHING_LAID,
        talk=None if talk is None else replace(talk, secrets=(), account=None, left_open=()),
        stations=tuple(replace(one, grid=_without_letter(one.grid)) for one in made.stations),
    )


def _without_letter(grid: GridPlan) -> GridPlan:
    profile = None if grid.profile == LETTER else grid.profile
    return replace(grid, letter=None, profile=profile)
