"""A station has one name: results and jobs are kept by the word that stands in its address."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models

NAMES = {"check": "dry-fit", "nest": "lay-out", "plan": "cut-plan"}
STAGE = models.CharField(max_length=8, choices=[("dry-fit", "Dry Fit"), ("lay-out", "Lay Out"), ("cut-plan", "Cut Plan")])


def _renamed(apps: Any, names: dict[str, str]) -> None:
    for model in ("StageResult", "StageJob"):
        for before, after in names.items():
            apps.get_model("designs", model).objects.filter(stage=before).update(stage=after)


def forwards(apps: Any, schema_editor: Any) -> None:
    _renamed(apps, NAMES)


def backwards(apps: Any, schema_editor: Any) -> None:
    _renamed(apps, {after: before for before, after in NAMES.items()})


class Migration(migrations.Migration):
    dependencies = [("designs", "0012_ledgers")]
    operations = [
        migrations.AlterField("StageResult", "stage", STAGE),
        migrations.AlterField("StageJob", "stage", STAGE),
        migrations.RunPython(forwards, backwards),
    ]
