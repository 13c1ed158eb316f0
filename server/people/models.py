"""The audit: one line for every change, for good."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from server.platform.append_only import AppendOnly


class Licence(models.Model):
    """The licence by which a person may lift a lock; entered by who runs the installation."""

    person = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="licence"
    )
    number = models.CharField(max_length=60)


class AuditLine(AppendOnly):
    """Who did what to which job, and when."""

    at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    job_id = models.UUIDField(null=True, db_index=True)
    what = models.CharField(max_length=60)
    detail = models.TextField(blank=True)
