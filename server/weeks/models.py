"""When somebody of a crew is not there."""

from __future__ import annotations

from django.conf import settings
from django.db import models

MOST_WHO_CHARS, MOST_WHAT_CHARS = 60, 120


class Absence(models.Model):
    """A span in which somebody is away or busy elsewhere. source: the calendar file it came from,
    by name; empty where it was entered by hand."""

    crew = models.ForeignKey("people.Crew", on_delete=models.PROTECT)
    who = models.CharField(max_length=MOST_WHO_CHARS)
    begins_at = models.DateTimeField()
    ends_at = models.DateTimeField()
    what = models.CharField(max_length=MOST_WHAT_CHARS, blank=True)
    source = models.CharField(max_length=120, blank=True)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    added_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["begins_at", "id"]
        indexes = [models.Index(fields=["crew", "ends_at"], name="absence_by_crew")]
