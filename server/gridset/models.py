"""One writing of a profile, as it went."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import models

from core.form import write
from core.kept import SettingsWritten
from server.append_only import AppendOnly


class SettingsRow(AppendOnly):
    """One attempt to set an inverter, for good. `written` is as in the job file."""

    job = models.ForeignKey("jobs.JobRow", on_delete=models.PROTECT)
    identity = models.CharField(max_length=64)
    written = models.JSONField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="settings_once_per_job")
        ]

    @classmethod
    def of(cls, job_id: UUID) -> models.QuerySet[SettingsRow]:
        """The writings of a job, in order."""
        return cls.objects.filter(job_id=job_id)

    @classmethod
    def keep(cls, job_id: UUID, written: SettingsWritten) -> None:
        """Write an attempt down."""
        cls.objects.create(job_id=job_id, identity=written.id, written=write(written))

    def as_file(self) -> dict[str, Any]:
        """The attempt as the job file has it."""
        data: dict[str, Any] = self.written
        return data
