"""Rows that are written once: no change, no deletion."""

from __future__ import annotations

from typing import Any, Self
from uuid import UUID

from django.db import models

from core.base.form import write
from core.job.leave import Signature, YieldLook
from core.job.microinverter import GatewayRead
from core.job.readings import SettingsWritten
from core.job.sequences import StepOverride


class AppendOnly(models.Model):
    """Base of rows that are kept for good; database triggers refuse updates and deletions too."""

    class Meta:
        abstract = True

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self.pk is not None:
            raise TypeError("this row is kept for good; write a new one that supersedes it")
        super().save(*args, **kwargs)

    def delete(self, *args: Any, **kwargs: Any) -> tuple[int, dict[str, int]]:
        raise TypeError("this row is kept for good")


ERASING = "WHEN NOT EXISTS (SELECT 1 FROM people_erasing) "


def no_update_trigger(table: str, *, may_be_blanked: bool = False) -> str:
    """SQL for a trigger that refuses every update of a table.

    may_be_blanked: but while a customer is erased.
    """
    when = ERASING if may_be_blanked else ""
    return (
        f"CREATE TRIGGER {table}_is_append_only BEFORE UPDATE ON {table} {when}"
        f"BEGIN SELECT RAISE(ABORT, '{table} is append-only'); END;"
    )


def no_delete_trigger(table: str) -> str:
    """SQL for a trigger that refuses to delete from a table, but while a customer is erased."""
    return (
        f"CREATE TRIGGER {table}_is_kept BEFORE DELETE ON {table} "
        f"{ERASING}BEGIN SELECT RAISE(ABORT, '{table} is kept for good'); END;"
    )


def triggers(table: str, *, may_be_blanked: bool = False) -> list[str]:
    """SQL that makes a table append-only, whatever triggers it had."""
    return [
        f"DROP TRIGGER IF EXISTS {table}_is_append_only;",
        f"DROP TRIGGER IF EXISTS {table}_is_kept;",
        no_update_trigger(table, may_be_blanked=may_be_blanked),
        no_delete_trigger(table),
    ]


KeptOne = SettingsWritten | GatewayRead | StepOverride | YieldLook | Signature


class KeptOfJob(AppendOnly):
    """One thing kept of a job for good, as the job file has it."""

    job = models.ForeignKey("jobs.JobRow", on_delete=models.PROTECT)
    identity = models.CharField(max_length=64)
    written = models.JSONField()

    class Meta:
        abstract = True
        ordering = ["id"]

    @classmethod
    def of(cls, job_id: UUID) -> models.QuerySet[Self]:
        """What is kept of a job, in order."""
        return cls._default_manager.filter(job_id=job_id)

    @classmethod
    def keep(cls, job_id: UUID, one: KeptOne) -> None:
        """Write one down."""
        cls._default_manager.create(job_id=job_id, identity=one.id, written=write(one))

    def as_file(self) -> dict[str, Any]:
        """It as the job file has it."""
        data: dict[str, Any] = self.written
        return data
