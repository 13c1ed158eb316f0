from django.db import migrations

from server.platform.append_only import triggers


class Migration(migrations.Migration):
    dependencies = [("waking", "0001_initial"), ("people", "0003_crews")]

    operations = [
        migrations.RunSQL(triggers("waking_overriderow"), migrations.RunSQL.noop),
    ]
