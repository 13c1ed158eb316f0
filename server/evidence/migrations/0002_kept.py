from django.db import migrations

from server.platform.append_only import triggers


class Migration(migrations.Migration):
    dependencies = [("evidence", "0001_initial"), ("people", "0003_crews")]

    operations = [
        migrations.RunSQL(triggers("evidence_evidencerow"), migrations.RunSQL.noop),
        migrations.RunSQL(triggers("evidence_picturerow"), migrations.RunSQL.noop),
    ]
