"""A link that shows one record to somebody who does not sign in."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.utils import timezone


class GuestLink(models.Model):
    """One link to one record. digest: of the secret in it, which itself is kept nowhere."""

    job = models.ForeignKey("jobs.JobRow", on_delete=models.PROTECT)
    digest = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=120)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(default=timezone.now)
    ends_on = models.DateField()
    ended_at = models.DateTimeField(null=True)
