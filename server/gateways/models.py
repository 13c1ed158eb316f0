"""One look at a gateway, as it went."""

from __future__ import annotations

from django.db import models

from server.platform.append_only import KeptOfJob


class GatewayRow(KeptOfJob):
    """One look at a gateway."""

    class Meta(KeptOfJob.Meta):
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="looks_once_per_job")
        ]
