"""Changes of a plan that were pressed on a device are made once, however often they are sent."""

from __future__ import annotations

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

from server.platform.append_only import triggers


class Migration(migrations.Migration):
    dependencies = [
        ("jobs", "0003_crew_and_origin"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.CreateModel(
            name="PressRow",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("identity", models.CharField(max_length=64)),
                ("digest", models.CharField(max_length=64)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "job",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, to="jobs.jobrow"
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(fields=("identity",), name="pressed_once")
                ]
            },
        ),
        migrations.RunSQL(triggers("jobs_pressrow"), migrations.RunSQL.noop),
    ]
