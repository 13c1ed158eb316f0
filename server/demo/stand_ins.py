"""Job files that simulated inverters follow: written anew whenever their job is.

A real inverter sees its own strings and switches; a simulated one sees them in this file.
"""

from __future__ import annotations

from functools import partial
from pathlib import Path
from uuid import UUID

from django.db import transaction
from django.db.models.signals import post_save

from core.files.job import write_job
from server.jobs.models import JobRow
from server.jobs.stored import load
from server.readings.models import ReadingRow


class FollowedFiles:
    """One folder of them, with what each was last written of."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._written: dict[UUID, tuple[int, int]] = {}

    def changed(self, instance: JobRow | ReadingRow, **_: object) -> None:
        """A job or a reading of it was written: its file follows when that is committed."""
        job_id = instance.id if isinstance(instance, JobRow) else instance.job_id
        transaction.on_commit(partial(self._write, job_id))

    def _write(self, job_id: UUID) -> None:
        revision = JobRow.objects.values_list("revision", flat=True).get(id=job_id)
        state = (revision, ReadingRow.objects.filter(job_id=job_id).count())
        if self._written.get(job_id) == state:
            return
        self._written[job_id] = state
        self._folder.mkdir(parents=True, exist_ok=True)
        part = self._folder / f"{job_id}.part"
        part.write_text(write_job(load(job_id).job), encoding="utf-8")
        part.replace(part.with_suffix(".json"))
        for station in JobRow.objects.filter(house_id=job_id).values_list("id", flat=True):
            self._written.pop(station, None)
            self._write(station)


def keep_up(folder: Path) -> FollowedFiles:
    """Write every job's file into a folder from now on."""
    files = FollowedFiles(folder)
    for sender in (JobRow, ReadingRow):
        post_save.connect(files.changed, sender=sender, weak=False)
    return files
