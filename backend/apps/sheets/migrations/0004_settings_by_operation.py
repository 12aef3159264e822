"""What a test card showed counts for its own operation only: a power card cuts, a step card engraves."""

from __future__ import annotations

from typing import Any

from django.db import migrations

SHOWN = {"power card": "cut", "step card": "engrave"}


def by_operation(values: dict[str, Any], source: str) -> dict[str, Any]:
    """Return the settings of the version before with a source for what was tried; what a person kept stays tried as a whole."""
    operation = next((o for card, o in SHOWN.items() if source.startswith(card)), None)
    return values if operation is None or "sources" in values else {**values, "sources": {operation: source}}


def forwards(apps: Any, schema_editor: Any) -> None:
    for row in apps.get_model("sheets", "StockSettings").objects.all():
        values = by_operation(row.values, row.source)
        if values != row.values:
            row.values = values
            row.save(update_fields=["values"])


class Migration(migrations.Migration):
    dependencies = [("sheets", "0003_bad_spots")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
