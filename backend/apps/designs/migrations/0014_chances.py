"""What a kept dry fit tells of each joint are chances."""

from __future__ import annotations

from typing import Any

from django.db import migrations


def with_chances(stored: Any) -> Any:
    """Return a stored value whose `odds` are called `chances`."""
    if isinstance(stored, list):
        return [with_chances(v) for v in stored]
    if isinstance(stored, dict):
        return {"chances" if k == "odds" else k: with_chances(v) for k, v in stored.items()}
    return stored


def forwards(apps: Any, schema_editor: Any) -> None:
    for row in apps.get_model("designs", "StageResult").objects.filter(stage="dry-fit").iterator():
        made = with_chances(row.payload)
        if made != row.payload:
            row.payload = made
            row.save(update_fields=["payload"])


class Migration(migrations.Migration):
    dependencies = [("designs", "0013_stations")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
