"""Machines, stocks, and the evidence about them. Evidence is never edited: it is withdrawn and entered again."""

from __future__ import annotations

from django.db import models

from apps.accounts.models import Shop


class Machine(models.Model):
    """A laser cutter; `profile` holds the core's Machine without id and name."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)
    profile = models.JSONField(default=dict)


class Film(models.TextChoices):
    """Which faces a protective film is on."""

    NONE = "none"
    FRONT = "front"
    BACK = "back"
    BOTH = "both"


class Stock(models.Model):
    """A sheet material, one batch of it."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)
    material = models.CharField(max_length=20)
    substance = models.CharField(max_length=40, blank=True)  #: what it is made of; empty for the material's usual one
    look = models.CharField(max_length=20, blank=True)  #: clear, coloured, mirrored, frosted
    batch = models.CharField(max_length=40, blank=True)
    label_mm = models.FloatField()
    colour = models.CharField(max_length=9, blank=True)
    lab = models.JSONField(null=True)  #: measured colour L, a, b of the bare face
    lab_finished = models.JSONField(null=True)  #: ... and of the finished face
    finish = models.CharField(max_length=60, blank=True)
    crush = models.FloatField(default=0.0)
    shelf = models.CharField(max_length=40, blank=True)
    film = models.CharField(max_length=5, choices=Film, default=Film.NONE)
    warp = models.CharField(max_length=120, blank=True)
    confirmed_by = models.CharField(max_length=150, blank=True)
    confirmed_on = models.DateField(null=True)
    confirmed_data = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(label_mm__gt=0), name="label_is_positive")]


class Evidence(models.Model):
    """What all evidence has: when, by whom, whether it still counts, and where it was borrowed from."""

    on = models.DateField()
    by = models.CharField(max_length=150, blank=True)
    withdrawn = models.BooleanField(default=False)
    borrowed = models.CharField(max_length=170, blank=True)

    class Meta:
        abstract = True


class Reading(Evidence):
    """One caliper reading."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="readings")
    thickness_mm = models.FloatField()
    x = models.FloatField(default=0.5)
    y = models.FloatField(default=0.5)


class OnMachine(Evidence):
    """Evidence that belongs to a machine, its lens and its settings too."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE)
    lens = models.CharField(max_length=40, default="standard")
    setting = models.CharField(max_length=80, blank=True)  #: how it was cut, in words

    class Meta:
        abstract = True


class KerfTest(OnMachine):
    """One kerf test piece."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="kerf_tests")
    kind = models.CharField(max_length=10)
    drawn_mm = models.FloatField()
    measured_mm = models.FloatField()
    below_mm = models.FloatField(null=True)  #: on the far face
    count = models.PositiveIntegerField(default=1)


class Feel(OnMachine):
    """How an opening of one stock felt with a sheet of another."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="feels")  #: the opening's
    entering = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="feels_in")
    feel = models.CharField(max_length=10)
    drawn_mm = models.FloatField(null=True)
    clearance_mm = models.FloatField(null=True)
    sd_mm = models.FloatField(default=0.0)


class StockSettings(OnMachine):
    """How a stock is cut, scored and engraved; the newest that is not withdrawn counts."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="settings_rows")
    values = models.JSONField()  #: the core's Settings
    source = models.CharField(max_length=120, blank=True)


class Sheet(models.Model):
    """Equal sheets, or one offcut, on the shelf."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="sheets")
    name = models.CharField(max_length=80)
    width_mm = models.FloatField()
    height_mm = models.FloatField()
    count = models.PositiveIntegerField(default=1)
    price = models.FloatField(default=0.0)
    place = models.CharField(max_length=40, blank=True)  #: where it lies; empty for the stock's own place
    grain = models.CharField(max_length=6, default="along")  #: along its width, across it, or none
    is_offcut = models.BooleanField(default=False)
    outline = models.JSONField(default=list)  #: points of an odd shape; empty for a rectangle
    bad = models.JSONField(default=list)  #: rings around knots, dents, holes: parts keep clear of them
