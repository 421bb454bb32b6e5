"""Exports may be of a range: samples from ``start`` to ``stop``, to the end without one."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("exports", "0001_initial")]

    operations = [
        migrations.AddField("export", "start", models.BigIntegerField(default=0)),
        migrations.AddField("export", "stop", models.BigIntegerField(null=True)),
    ]
