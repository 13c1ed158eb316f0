from django.db import migrations

from server.platform.append_only import triggers


class Migration(migrations.Migration):
    dependencies = [("gateways", "0001_initial"), ("people", "0003_crews")]

    operations = [
        migrations.RunSQL(triggers("gateways_gatewayrow"), migrations.RunSQL.noop),
    ]
