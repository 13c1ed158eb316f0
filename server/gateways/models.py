"""One look at a gateway, as it went."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import models

from core.form import write
from core.micro import GatewayRead
from server.append_only import AppendOnly


class GatewayRow(AppendOnly):
    """One look at a gateway, for good. `looked` is as in the job file."""

    job = models.ForeignKey("jobs.JobRow", on_delete=models.PROTECT)
    identity = models.CharField(max_length=64)
    looked = models.JSONField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="looks_once_per_job")
        ]

    @classmethod
    def of(cls, job_id: UUID) -> models.QuerySet[GatewayRow]:
        """The looks of a job, in order."""
        return cls.objects.filter(job_id=job_id)

    @classmethod
    def keep(cls, job_id: UUID, looked: GatewayRead) -> None:
        """Write a look down."""
        cls.objects.create(job_id=job_id, identity=looked.id, looked=write(looked))

    def as_file(self) -> dict[str, Any]:
        """The look as the job file has it."""
        data: dict[str, Any] = self.looked
        return data
