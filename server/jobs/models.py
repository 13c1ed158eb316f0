"""A stored job: its plan as the job file has it; readings and written settings have tables."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models


class JobRow(models.Model):
    """One job. `plan` is the job file without readings and settings written.

    house: of a further inverter of a house, the row that holds its plan; its own plan is empty, and
    what is kept of it is kept under its own identity.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    plan = models.JSONField()
    house = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="stations")
    revision = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
