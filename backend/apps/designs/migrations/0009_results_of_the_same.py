"""Undo finds its layout, and who overruled what: a few results of a stage stay, and so does everybody who said so."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models


def as_list(said: Any) -> list[Any]:
    """Return what the version before kept of one person as a list."""
    return said if isinstance(said, list) else [said] if said else []


def forwards(apps: Any, schema_editor: Any) -> None:
    for row in apps.get_model("designs", "Project").objects.all():
        row.overruled = as_list(row.overruled)
        row.save(update_fields=["overruled"])


class Migration(migrations.Migration):
    dependencies = [("designs", "0008_put_away")]
    operations = [
        migrations.RemoveConstraint(model_name="stageresult", name="one_result_a_stage"),
        migrations.AddConstraint(
            model_name="stageresult", constraint=models.UniqueConstraint(fields=("project", "stage", "made_from"), name="one_result_of_the_same")
        ),
        migrations.AlterField(model_name="project", name="overruled", field=models.JSONField(default=list)),
        migrations.RunPython(forwards, migrations.RunPython.noop),
    ]
