"""Who changed what of a plan, and when; what was undone."""

from __future__ import annotations

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

from server.platform.append_only import triggers


class Migration(migrations.Migration):
    dependencies = [
        ("jobs", "0004_pressed_once"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.CreateModel(
            name="PlanChange",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("revision", models.PositiveIntegerField()),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                ("touches", models.JSONField()),
                ("undoes", models.PositiveIntegerField(null=True)),
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
                "ordering": ["id"],
                "constraints": [
                    models.UniqueConstraint(fields=("job", "revision"), name="change_once"),
                    models.UniqueConstraint(fields=("job", "undoes"), name="undone_once"),
                ],
            },
        ),
        migrations.RunSQL(triggers("jobs_planchange"), migrations.RunSQL.noop),
    ]
