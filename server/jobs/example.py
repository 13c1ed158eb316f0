"""An invented house by which stages without a plan show what they will be: nobody's job."""

from __future__ import annotations

from datetime import UTC, datetime, time
from functools import lru_cache

from core.files.job import read_job
from core.shown import shown
from server.jobs.schemas import JobView
from server.settings import ROOT

HOUSE = ROOT / "server" / "demo" / "jobs" / "lantern-house.json"


@lru_cache(maxsize=1)
def example() -> JobView:
    """The example as a screen shows it, judged on its own day."""
    job = read_job(HOUSE.read_bytes())
    made = shown(job, datetime.combine(job.day, time(12), UTC))
    return JobView(revision=0, files=[], **vars(made))
