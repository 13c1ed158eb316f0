"""One writing of a profile, as it went."""

from __future__ import annotations

from django.db import models

from server.append_only import KeptOfJob


class SettingsRow(KeptOfJob):
    """One attempt to set an inverter."""

    class Meta(KeptOfJob.Meta):
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="settings_once_per_job")
        ]
