"""What a stock is a kind of is its material; a family is what a design begins with."""

from __future__ import annotations

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("sheets", "0004_settings_by_operation")]
    operations = [migrations.RenameField("Stock", "family", "material")]
