"""Evidence belongs to machine, lens and settings; settings become rows of their own; acrylic is cast or extruded."""

import datetime

import django.db.models.deletion
from django.db import migrations, models

UNTESTED = "default, not tested here"


def beams(old):
    air = old.get("air", True)
    return {
        "cut": {"power": old.get("cut_power", 60.0), "speed": old.get("cut_speed", 14.0), "passes": old.get("passes", 1), "air": air},
        "score": {"power": old.get("score_power", 12.0), "speed": old.get("score_speed", 120.0), "air": air},
        "engrave": {"power": 20.0, "speed": 250.0, "air": air},
        "source": old.get("source", UNTESTED),
    }


def forwards(apps, schema_editor):
    Stock, Machine, Row = (apps.get_model("sheets", n) for n in ("Stock", "Machine", "StockSettings"))
    Stock.objects.filter(family="acrylic").update(family="cast_acrylic")
    for stock in Stock.objects.exclude(settings={}):
        machine = Machine.objects.filter(shop_id=stock.shop_id).order_by("pk").first()
        if machine is not None:
            values = beams(stock.settings)
            Row.objects.create(stock=stock, machine=machine, values=values, source=values["source"], on=datetime.date.today())


def evidence(*, machine):
    fields = [
        ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
        ("on", models.DateField()),
        ("by", models.CharField(blank=True, max_length=150)),
        ("withdrawn", models.BooleanField(default=False)),
        ("borrowed", models.CharField(blank=True, max_length=170)),
    ]
    if machine:
        fields += [
            ("machine", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to="sheets.machine")),
            ("lens", models.CharField(default="standard", max_length=40)),
            ("setting", models.CharField(blank=True, max_length=80)),
        ]
    return fields


class Migration(migrations.Migration):
    dependencies = [("sheets", "0001_initial")]
    operations = [
        migrations.AddField("stock", "substance", models.CharField(blank=True, max_length=40, default=""), preserve_default=False),
        migrations.AddField("stock", "look", models.CharField(blank=True, max_length=20, default=""), preserve_default=False),
        migrations.AddField("stock", "batch", models.CharField(blank=True, max_length=40, default=""), preserve_default=False),
        migrations.AddField("stock", "lab", models.JSONField(null=True)),
        migrations.AddField("stock", "lab_finished", models.JSONField(null=True)),
        migrations.AddField("stock", "finish", models.CharField(blank=True, max_length=60, default=""), preserve_default=False),
        migrations.AddField(
            "stock", "film",
            models.CharField(choices=[("none", "None"), ("front", "Front"), ("back", "Back"), ("both", "Both")], default="none", max_length=5),
        ),
        migrations.AddField("stock", "warp", models.CharField(blank=True, max_length=120, default=""), preserve_default=False),
        migrations.AddField("stock", "confirmed_by", models.CharField(blank=True, max_length=150, default=""), preserve_default=False),
        migrations.AddField("stock", "confirmed_on", models.DateField(null=True)),
        migrations.AddField("stock", "confirmed_data", models.CharField(blank=True, max_length=200, default=""), preserve_default=False),
        migrations.AddField("reading", "borrowed", models.CharField(blank=True, max_length=170, default=""), preserve_default=False),
        migrations.AddField("kerftest", "borrowed", models.CharField(blank=True, max_length=170, default=""), preserve_default=False),
        migrations.AddField("kerftest", "lens", models.CharField(default="standard", max_length=40)),
        migrations.AddField("kerftest", "setting", models.CharField(blank=True, max_length=80, default=""), preserve_default=False),
        migrations.AddField("kerftest", "below_mm", models.FloatField(null=True)),
        migrations.AddField("sheet", "place", models.CharField(blank=True, max_length=40, default=""), preserve_default=False),
        migrations.AddField("sheet", "grain", models.CharField(default="along", max_length=6)),
        migrations.CreateModel(
            name="Feel",
            fields=[
                *evidence(machine=True),
                ("feel", models.CharField(max_length=10)),
                ("drawn_mm", models.FloatField(null=True)),
                ("clearance_mm", models.FloatField(null=True)),
                ("sd_mm", models.FloatField(default=0.0)),
                ("stock", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="feels", to="sheets.stock")),
                ("entering", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="feels_in", to="sheets.stock")),
            ],
            options={"abstract": False},
        ),
        migrations.CreateModel(
            name="StockSettings",
            fields=[
                *evidence(machine=True),
                ("values", models.JSONField()),
                ("source", models.CharField(blank=True, max_length=120)),
                ("stock", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="settings_rows", to="sheets.stock")),
            ],
            options={"abstract": False},
        ),
        migrations.RunPython(forwards, migrations.RunPython.noop),
        migrations.RemoveField("stock", "settings"),
    ]
