from django.db import migrations

from server.platform.append_only import triggers


class Migration(migrations.Migration):
    dependencies = [("gridset", "0002_supplysample"), ("people", "0003_crews")]

    operations = [
        migrations.RunSQL(triggers("gridset_settingsrow"), migrations.RunSQL.noop),
    ]
