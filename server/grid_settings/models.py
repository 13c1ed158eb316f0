"""One writing of a profile, as it went; and the supply as it was sampled in the last minutes."""

from __future__ import annotations

from django.db import models

from server.platform.append_only import KeptOfJob


class SettingsRow(KeptOfJob):
    """One attempt to set an inverter, or one look at what it holds."""

    class Meta(KeptOfJob.Meta):
        constraints = [
            models.UniqueConstraint(fields=["job", "identity"], name="settings_once_per_job")
        ]


class SupplySample(models.Model):
    """The highest line voltage of one poll: looked at, not read; gone after its window."""

    job = models.ForeignKey("jobs.JobRow", on_delete=models.CASCADE)
    at = models.DateTimeField(db_index=True)
    volts = models.FloatField()
