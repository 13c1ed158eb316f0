"""Pictures of the record's pages: set once for a state of the job, then only handed out.

Setting the papers takes as long for one page as for all. They lie on disk, so that every worker of
an installation has them; a job that is erased takes its own with it.
"""

from __future__ import annotations

import shutil
import time
from hashlib import sha256
from pathlib import Path
from uuid import UUID

from django.conf import settings

from server.documents.record import record_pages
from server.jobs.stored import load
from server.jobs.views import mark_of
from server.platform.heavy import heavy

# What a record says of a reading's age is in days and hours.
HOLD_S = 1800
MOST_JOBS = 40


def record_page(job_id: UUID, number: int) -> bytes | None:
    """A picture of one page of a job's record as SVG, from 1; None beyond the last."""
    folder = _folder(job_id) / _state(job_id)
    if not folder.is_dir():
        with heavy(f"pages-{job_id}", slots=1):
            if not folder.is_dir():
                _set(job_id, folder)
    file = folder / f"{number}.svg"
    return file.read_bytes() if file.is_file() else None


def forget_pages(job_id: UUID) -> None:
    """Take away what lies here of a job."""
    shutil.rmtree(_folder(job_id), ignore_errors=True)


def _folder(job_id: UUID) -> Path:
    return Path(settings.VAR) / "pages" / str(job_id)


def _state(job_id: UUID) -> str:
    said = (*mark_of(job_id), int(time.time() // HOLD_S))
    return sha256(repr(said).encode()).hexdigest()[:24]


def _set(job_id: UUID, folder: Path) -> None:
    forget_pages(job_id)
    made = folder.with_suffix(".part")
    shutil.rmtree(made, ignore_errors=True)
    made.mkdir(parents=True)
    for number, page in enumerate(record_pages(load(job_id).job), start=1):
        (made / f"{number}.svg").write_bytes(page)
    made.rename(folder)
    known = sorted(folder.parents[1].iterdir(), key=lambda one: one.stat().st_mtime)
    for old in known[:-MOST_JOBS]:
        shutil.rmtree(old, ignore_errors=True)
