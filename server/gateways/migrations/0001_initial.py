import django.db.models.deletion
from django.db import migrations, models

from server.platform.append_only import no_update_trigger


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('jobs', '0001_initial'),
    ]

    operations = [
        migrations.CreateModel(
            name='GatewayRow',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('identity', models.CharField(max_length=64)),
                ('written', models.JSONField()),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to='jobs.jobrow')),
            ],
            options={
                'ordering': ['id'],
                'constraints': [models.UniqueConstraint(fields=('job', 'identity'), name='looks_once_per_job')],
            },
        ),
        migrations.RunSQL(
            no_update_trigger("gateways_gatewayrow"),
            "DROP TRIGGER gateways_gatewayrow_is_append_only",
        ),
    ]
