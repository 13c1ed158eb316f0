"""One look at what a plant gave, for good."""

from __future__ import annotations

from django.db import models

from server.platform.append_only import KeptOfJob


class YieldRow(KeptOfJob):
    """One look at the yield of some days."""

    class Meta(KeptOfJob.Meta):
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="yield_once_per_job")
        ]
