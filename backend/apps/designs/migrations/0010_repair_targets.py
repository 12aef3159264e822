"""A repair names all that it changes as a list: findings that were stored with a line of names apart by blanks say it the new way."""

from __future__ import annotations

from typing import Any

from django.db import migrations

SEVERAL = ("panel", "feels")  # a target of another kind may have blanks in its own name


def with_targets(stored: Any) -> Any:
    """Return a stored result whose repairs list what they change."""
    if isinstance(stored, list):
        return [with_targets(v) for v in stored]
    if not isinstance(stored, dict):
        return stored
    made = {k: with_targets(v) for k, v in stored.items()}
    if {"label", "kind", "target"} <= made.keys():
        target = made.pop("target")
        made["targets"] = target.split() if made["kind"] in SEVERAL else [target] if target else []
    return made


def forwards(apps: Any, schema_editor: Any) -> None:
    for row in apps.get_model("designs", "StageResult").objects.filter(stage="check").iterator():
        payload = with_targets(row.payload)
        if payload != row.payload:
            row.payload = payload
            row.save(update_fields=["payload"])


class Migration(migrations.Migration):
    dependencies = [("designs", "0009_results_of_the_same")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
