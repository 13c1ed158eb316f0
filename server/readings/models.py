"""A reading as it was kept."""

from __future__ import annotations

from functools import lru_cache
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models

from core.job.reading_kinds import KINDS
from core.job.reading_values import as_pair, from_pair
from core.job.readings import Reading
from server.platform.append_only import AppendOnly

READINGS_READY = 16_384


class ReadingRow(AppendOnly):
    """One reading of one job, for good. value and text: a reading's value as a pair of columns.

    person: who kept it here; None for what a file brought, whose names are that file's. source:
    that file, where it is known.
    """

    job = models.ForeignKey("jobs.JobRow", on_delete=models.PROTECT)
    identity = models.CharField(max_length=64)
    kind = models.CharField(max_length=30)
    subject = models.CharField(max_length=60)
    value = models.FloatField()
    basis = models.CharField(max_length=20)
    taken_at = models.DateTimeField()
    kept_at = models.DateTimeField()
    by = models.CharField(max_length=60)
    instrument = models.CharField(max_length=500, blank=True)
    note = models.CharField(max_length=500, blank=True)
    supersedes = models.CharField(max_length=64, null=True)
    text = models.CharField(max_length=500, blank=True, default="")
    fingerprint = models.CharField(max_length=16, blank=True, default="")
    retest = models.BooleanField(default=False)
    learner = models.BooleanField(default=False)
    device = models.CharField(max_length=60, blank=True, default="")
    unseen = models.BooleanField(default=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT)
    source = models.ForeignKey("jobs.SourceFile", null=True, on_delete=models.PROTECT)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="reading_once_per_job"),
            models.UniqueConstraint(fields=["job", "supersedes"], name="reading_superseded_once"),
        ]

    @classmethod
    def of(cls, job_id: UUID) -> models.QuerySet[ReadingRow]:
        """The readings of a job in the order in which they were kept."""
        return cls.objects.filter(job_id=job_id)

    @classmethod
    def keep(cls, job_id: UUID, reading: Reading, person: User | None, source: Any = None) -> None:
        """Write a reading down: kept by a person, or brought by a file."""
        fields = {f: v for f, v in vars(reading).items() if f not in ("id", "value")}
        number, text = as_pair(reading.value)
        cls.objects.create(
            job_id=job_id,
            identity=reading.id,
            value=number,
            text=text,
            person=person,
            source=source,
            **fields,
        )

    @classmethod
    def kept_of(cls, job_id: UUID) -> tuple[Reading, ...]:
        """The readings of a job as the core has them, in the order in which they were kept."""
        return tuple(_reading(*row) for row in cls.of(job_id).values_list(*FIELDS))


# The columns of a reading in the order of `_reading`.
FIELDS = (
    "identity",
    "kind",
    "subject",
    "value",
    "basis",
    "taken_at",
    "kept_at",
    "by",
    "instrument",
    "note",
    "supersedes",
    "text",
    "fingerprint",
    "retest",
    "learner",
    "device",
    "unseen",
)


@lru_cache(maxsize=READINGS_READY)
def _reading(identity: str, *values: Any) -> Reading:
    """A row as the core has it. Rows never change: each is made once, however often asked for."""
    fields = dict(zip(FIELDS[1:], values, strict=True))
    text = fields.pop("text")
    fields["value"] = from_pair(KINDS[fields["kind"]].form, fields["value"], text)
    return Reading(id=identity, **fields)
