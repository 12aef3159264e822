"""Test cards: each is a small project of its own, and what was found on it."""

from __future__ import annotations

from django.db import models

from apps.designs.models import Project
from apps.sheets.models import Evidence, Feel, KerfTest, Machine, Stock


class Card(models.Model):
    """A test card of a stock on a machine."""

    project = models.OneToOneField(Project, on_delete=models.CASCADE, related_name="card")
    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="cards")
    tongue = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="+")
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE)
    lens = models.CharField(max_length=40)
    setting = models.CharField(max_length=80, blank=True)  #: how it is cut, in words
    kind = models.CharField(max_length=12)
    asked = models.PositiveIntegerField()  #: how many results it asks for
    by = models.CharField(max_length=150)
    created = models.DateTimeField(auto_now_add=True)


class CardResult(Evidence):
    """What was found at one cell. A newer result of the cell supersedes it; it stays in the record as withdrawn."""

    card = models.ForeignKey(Card, on_delete=models.CASCADE, related_name="results")
    cell = models.CharField(max_length=24)
    value = models.JSONField()
    kerf_test = models.ForeignKey(KerfTest, null=True, on_delete=models.SET_NULL, related_name="+")
    feel = models.ForeignKey(Feel, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["card", "cell"], condition=models.Q(withdrawn=False), name="one_standing_result_a_cell")]
