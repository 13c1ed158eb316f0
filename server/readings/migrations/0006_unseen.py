"""Whether whoever corrected a reading had seen the correction that stood there."""

from __future__ import annotations

from django.db import migrations, models

from server.platform.append_only import triggers


class Migration(migrations.Migration):
    dependencies = [("readings", "0005_device")]
    operations = [
        migrations.AddField("ReadingRow", "unseen", models.BooleanField(default=False)),
        # Adding a column makes the table anew, and a new table has no trigger yet.
        migrations.RunSQL(triggers("readings_readingrow"), migrations.RunSQL.noop),
    ]
