"""Signatures, the frozen versions of a record, and the key that seals them."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from server.platform.append_only import AppendOnly, KeptOfJob


class SignatureRow(KeptOfJob):
    """One signature under the record of a house."""

    class Meta(KeptOfJob.Meta):
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="signature_once_per_job")
        ]


class SealedRow(AppendOnly):
    """One frozen version of a record: a ZIP of its files with the seal over all of them.

    number: from 1. state: the digest that was signed; digest: over the files of the ZIP.
    """

    job = models.ForeignKey("jobs.JobRow", on_delete=models.PROTECT)
    number = models.PositiveIntegerField()
    at = models.DateTimeField(default=timezone.now)
    by = models.CharField(max_length=120)
    state = models.CharField(max_length=64)
    digest = models.CharField(max_length=64)
    members = models.JSONField()
    data = models.BinaryField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["job", "number"], name="version_once_per_job")
        ]

    @classmethod
    def with_member(cls, sha256: str) -> str | None:
        """What a file of that digest is part of, in a line; None where it is part of nothing."""
        rows = cls.objects.order_by("-id").values_list("number", "at", "members")
        for number, at, members in rows:
            for name, digest in members.items():
                if digest == sha256:
                    return f"{name} of version {number}, signed {at:%Y-%m-%d %H:%M}."
        return None


class RecordKey(AppendOnly):
    """The key by which this installation seals records; made once, and kept with its data."""

    secret = models.CharField(max_length=64)
    made_at = models.DateTimeField(default=timezone.now)
