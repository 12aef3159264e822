"""How long runs really took: what the time factor is learned from."""

from __future__ import annotations

from django.db import models

from apps.sheets.models import Machine


class TimedRun(models.Model):
    """A logged run: expected before any factor, and actual, in seconds."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE)
    expected_s = models.FloatField()
    actual_s = models.FloatField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(expected_s__gt=0, actual_s__gt=0), name="times_are_positive")]
