"""Machines, stocks, and the evidence about them. Evidence is never edited: it is withdrawn and entered again."""

from __future__ import annotations

from django.db import models

from apps.accounts.models import Shop


class Machine(models.Model):
    """A laser cutter; `profile` holds the core's Machine without id and name."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)
    profile = models.JSONField(default=dict)


class Stock(models.Model):
    """A sheet material, one batch of it."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)
    family = models.CharField(max_length=20)
    label_mm = models.FloatField()
    colour = models.CharField(max_length=9, blank=True)
    crush = models.FloatField(default=0.0)
    shelf = models.CharField(max_length=40, blank=True)
    settings = models.JSONField(default=dict)  #: the core's Settings; empty for defaults

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(label_mm__gt=0), name="label_is_positive")]


class Reading(models.Model):
    """One caliper reading."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="readings")
    thickness_mm = models.FloatField()
    x = models.FloatField(default=0.5)
    y = models.FloatField(default=0.5)
    on = models.DateField()
    by = models.CharField(max_length=150, blank=True)
    withdrawn = models.BooleanField(default=False)


class KerfTest(models.Model):
    """One kerf test piece."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="kerf_tests")
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE)
    kind = models.CharField(max_length=10)
    drawn_mm = models.FloatField()
    measured_mm = models.FloatField()
    count = models.PositiveIntegerField(default=1)
    on = models.DateField()
    by = models.CharField(max_length=150, blank=True)
    withdrawn = models.BooleanField(default=False)


class Sheet(models.Model):
    """Equal sheets, or one offcut, on the shelf."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="sheets")
    name = models.CharField(max_length=80)
    width_mm = models.FloatField()
    height_mm = models.FloatField()
    count = models.PositiveIntegerField(default=1)
    price = models.FloatField(default=0.0)
    is_offcut = models.BooleanField(default=False)
    outline = models.JSONField(default=list)  #: points of an odd shape; empty for a rectangle
