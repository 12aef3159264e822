"""Runs: a sheet of a plan on the machine, and what came of it."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from apps.designs.models import Project


class RunState(models.TextChoices):
    """How far a run is."""

    WAITING = "waiting"
    RUNNING = "running"
    PAUSED = "paused"
    FAULT = "fault"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"
    INTERRUPTED = "interrupted"  # the line to the machine was lost while it may have burned: a person looks first


class Run(models.Model):
    """One sheet on the machine. `moves` is what was sent; `progress` what the machine last said."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="runs")
    plan_print = models.CharField(max_length=16)
    revision = models.PositiveIntegerField()
    sheet = models.PositiveIntegerField()  #: number in the plan, from 1
    shelf_sheet = models.CharField(max_length=20)  #: id of the shelf's sheet that was used
    sheet_name = models.CharField(max_length=80)
    expected_s = models.FloatField()  #: before any learned factor
    moves = models.JSONField()
    parts = models.JSONField(default=list)
    pieces = models.JSONField(default=dict)  #: each part's line for the beam, by part id, as it was cut (notchcore/run/recut.py)
    last = models.BooleanField(default=True)  #: no other run of this sheet comes after it: the sheet is used up
    remains = models.JSONField(default=list)  #: what of the sheet is worth keeping afterwards (notchcore/nest/leftover.py)
    checklist = models.JSONField(default=list)
    state = models.CharField(max_length=12, choices=RunState, default=RunState.WAITING)
    command = models.CharField(max_length=8, blank=True)
    started = models.DateTimeField(null=True)  #: when the beam was asked to start; a run that was is never started again by itself
    seen = models.DateTimeField(null=True)  #: when the machine was last heard of
    goes_on = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, related_name="continued")  #: the interrupted run whose rest this is
    progress = models.JSONField(default=dict)
    says = models.JSONField(null=True)  #: what is to be known of its state (apps/told.py)
    fault = models.CharField(max_length=10, blank=True)  #: a fault to play, for practice
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    created = models.DateTimeField(auto_now_add=True)
    logged = models.DateTimeField(null=True)
    log = models.JSONField(default=dict)
