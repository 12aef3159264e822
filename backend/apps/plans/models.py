"""What is chosen about plans, and how long runs really took."""

from __future__ import annotations

from django.db import models

from apps.designs.models import Project
from apps.sheets.models import Machine


class TimedRun(models.Model):
    """A logged run: expected before any factor, and actual, in seconds."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE)
    expected_s = models.FloatField()
    actual_s = models.FloatField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(expected_s__gt=0, actual_s__gt=0), name="times_are_positive")]


class PlanChoicesRow(models.Model):
    """What is chosen about a project's plan (notchcore/plan/choices.py)."""

    project = models.OneToOneField(Project, on_delete=models.CASCADE, related_name="plan_choices")
    values = models.JSONField()
