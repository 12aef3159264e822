"""The lines of a ledger are sentences, with where their numbers come from: those of kept results say what they said."""

from __future__ import annotations

from typing import Any

from django.db import migrations

from apps.designs.older import with_sentences


def forwards(apps: Any, schema_editor: Any) -> None:
    for row in apps.get_model("designs", "StageResult").objects.filter(stage="check").iterator():
        made = with_sentences(row.payload)
        if made != row.payload:
            row.payload = made
            row.save(update_fields=["payload"])


class Migration(migrations.Migration):
    dependencies = [("designs", "0011_sentences")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
