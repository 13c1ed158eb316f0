"""Evidence as it was kept: what it is in one row, its bytes in another, both for good."""

from __future__ import annotations

import hashlib
from typing import Any
from uuid import UUID

from django.db import models

from core.base.form import write
from core.job.readings import Evidence
from server.platform.append_only import AppendOnly


class EvidenceRow(AppendOnly):
    """One picture or document of one job. `kept` is as in the job file."""

    job = models.ForeignKey("jobs.JobRow", on_delete=models.PROTECT)
    identity = models.CharField(max_length=64)
    kept = models.JSONField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="evidence_once_per_job")
        ]

    @classmethod
    def of(cls, job_id: UUID) -> models.QuerySet[EvidenceRow]:
        """The evidence of a job, in order."""
        return cls.objects.filter(job_id=job_id)

    @classmethod
    def keep(cls, job_id: UUID, evidence: Evidence) -> None:
        """Write down what was kept."""
        cls.objects.create(job_id=job_id, identity=evidence.id, kept=write(evidence))

    def as_file(self) -> dict[str, Any]:
        """The evidence as the job file has it."""
        data: dict[str, Any] = self.kept
        return data


class PictureRow(AppendOnly):
    """The bytes of a picture or document, once however often it is kept, found by their hash."""

    sha256 = models.CharField(max_length=64, unique=True)
    data = models.BinaryField()


def digest(data: bytes) -> str:
    """By what a picture's bytes are found."""
    return hashlib.sha256(data).hexdigest()


def keep_bytes(data: bytes) -> None:
    """Keep a picture's bytes, once."""
    PictureRow.objects.get_or_create(sha256=digest(data), defaults={"data": data})


def bytes_of(sha256: str) -> bytes | None:
    """A picture's bytes by their hash; None where they are not on this machine."""
    row = PictureRow.objects.filter(sha256=sha256).first()
    return bytes(row.data) if row is not None else None
