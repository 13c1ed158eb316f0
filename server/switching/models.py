"""One lock that was lifted, for good."""

from __future__ import annotations

from django.db import models

from server.platform.append_only import KeptOfJob


class OverrideRow(KeptOfJob):
    """One override of a step's lock: who, with which licence, why."""

    class Meta(KeptOfJob.Meta):
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="override_once_per_job")
        ]
