"""What was answered so far of jobs that are being begun."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models


class BegunRow(models.Model):
    """The answers to the questions that begin a job, as typed. It is gone once it is a job.

    crew: whose it is. by: who began it. at: when it was last answered.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    answers = models.JSONField()
    crew = models.ForeignKey("people.Crew", on_delete=models.PROTECT)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-at"]
