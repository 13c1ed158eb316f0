"""A stored job: its plan as the job file has it; readings and written settings have tables."""

from __future__ import annotations

import hashlib
import uuid

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models
from django.utils import timezone

from server.platform.append_only import AppendOnly

MOST_NAME = 120


class SourceFile(AppendOnly):
    """A file from elsewhere that something was read in from: by whom, when, by its digest."""

    sha256 = models.CharField(max_length=64)
    name = models.CharField(max_length=120, blank=True)
    what = models.CharField(max_length=40)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    at = models.DateTimeField(default=timezone.now)


def source_file(person: User, raw: bytes, name: str, what: str) -> SourceFile:
    """Write down which file something is read in from."""
    sha256 = hashlib.sha256(raw).hexdigest()
    return SourceFile.objects.create(sha256=sha256, name=name[:MOST_NAME], what=what, by=person)


class PressRow(AppendOnly):
    """A change of a plan that was pressed on a device, by the identity that was made there.

    digest: of what was sent; by it another change under the same identity is told apart.
    """

    job = models.ForeignKey("JobRow", on_delete=models.PROTECT)
    identity = models.CharField(max_length=64)
    digest = models.CharField(max_length=64)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["identity"], name="pressed_once")]


class PlanChange(AppendOnly):
    """A change of a plan: who made it and when, what it touched. job: the house's row.

    revision: of the plan that it made; undoes: that of the change which it put back.
    """

    job = models.ForeignKey("JobRow", on_delete=models.PROTECT)
    revision = models.PositiveIntegerField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    at = models.DateTimeField(default=timezone.now)
    touches = models.JSONField()
    undoes = models.PositiveIntegerField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["job", "revision"], name="change_once"),
            models.UniqueConstraint(fields=["job", "undoes"], name="undone_once"),
        ]


class JobRow(models.Model):
    """One job. `plan` is the job file without readings and settings written.

    crew: whose it is. origin: the file that it was read in from. house: of a further inverter of a
    house, the row that holds its plan; its own plan is empty, and what is kept of it is kept under
    its own identity.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    plan = models.JSONField()
    house = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="stations")
    crew = models.ForeignKey("people.Crew", null=True, on_delete=models.PROTECT)
    origin = models.ForeignKey("SourceFile", null=True, on_delete=models.PROTECT)
    revision = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
