"""A card has cells; how many results it asks for is its own number."""

from __future__ import annotations

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("cards", "0001_cards")]
    operations = [migrations.RenameField("Card", "places", "asked")]
