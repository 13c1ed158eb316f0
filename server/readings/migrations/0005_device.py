"""On what a reading was noted, where that had no way to the server."""

from __future__ import annotations

from django.db import migrations, models

from server.platform.append_only import triggers


class Migration(migrations.Migration):
    dependencies = [("readings", "0004_person_and_source")]
    operations = [
        migrations.AddField(
            "ReadingRow", "device", models.CharField(max_length=60, blank=True, default="")
        ),
        # Adding a column makes the table anew, and a new table has no trigger yet.
        migrations.RunSQL(triggers("readings_readingrow"), migrations.RunSQL.noop),
    ]
