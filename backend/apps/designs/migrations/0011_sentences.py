"""What is said is kept as a sentence with its pieces: texts that were kept become sentences that say them as they are."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models

from apps.designs.older import sentence, with_sentences


def overruled(kept: dict[str, Any]) -> dict[str, Any]:
    """Return what a person overruled, with what was known then as sentences."""
    return {k: v for k, v in kept.items() if k != "messages"} | {"known": [sentence(m) for m in kept.get("messages", ())]}


def forwards(apps: Any, schema_editor: Any) -> None:
    for model, field in (("StageResult", "payload"), ("Drawing", "payload")):
        for row in apps.get_model("designs", model).objects.iterator():
            made = with_sentences(getattr(row, field))
            if made != getattr(row, field):
                setattr(row, field, made)
                row.save(update_fields=[field])
    for row in apps.get_model("designs", "Project").objects.exclude(overruled=[]).iterator():
        row.overruled = [overruled(k) for k in row.overruled]
        row.save(update_fields=["overruled"])
    for row in apps.get_model("designs", "StageJob").objects.exclude(message="").iterator():
        row.says = sentence(row.message)
        row.save(update_fields=["says"])


class Migration(migrations.Migration):
    dependencies = [("designs", "0010_repair_targets")]
    operations = [
        migrations.AddField("StageJob", "says", models.JSONField(null=True)),
        migrations.RunPython(forwards, migrations.RunPython.noop),
        migrations.RemoveField("StageJob", "message"),
    ]
