"""What is to be known of a run is kept as a sentence."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models

from apps.designs.older import sentence


def forwards(apps: Any, schema_editor: Any) -> None:
    for row in apps.get_model("runs", "Run").objects.exclude(message="").iterator():
        row.says = sentence(row.message)
        row.save(update_fields=["says"])


class Migration(migrations.Migration):
    dependencies = [("runs", "0005_interrupted")]
    operations = [
        migrations.AddField("Run", "says", models.JSONField(null=True)),
        migrations.RunPython(forwards, migrations.RunPython.noop),
        migrations.RemoveField("Run", "message"),
    ]
