"""Projects, their revisions, the stored result of every stage, and work in progress."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from apps.accounts.models import Shop
from apps.sheets.models import Machine


class Project(models.Model):
    """A job of a shop. `head` is the revision that counts now; `redo` holds those that undo stepped back from."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE)
    machine = models.ForeignKey(Machine, on_delete=models.PROTECT)
    name = models.CharField(max_length=80)
    is_test = models.BooleanField(default=False)  #: a test card of Sheets
    head = models.PositiveIntegerField(default=1)
    redo = models.JSONField(default=list)
    deadline = models.DateField(null=True, blank=True)
    overruled = models.JSONField(default=list)  #: who said that something is cut all the same, and what was known then (apps/plans/gate.py)
    plan_choices = models.JSONField(default=dict, blank=True)  #: what is chosen about its plan (notchcore/plan/choices.py)
    put_away = models.DateTimeField(null=True, blank=True)  #: not on the shop board since then
    deleted = models.DateTimeField(null=True, blank=True)  #: gone for good KEEP_DAYS after it (keeping.py)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)


class Revision(models.Model):
    """One state of a design; never changed once written."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.PositiveIntegerField(null=True)
    design = models.JSONField()
    label = models.CharField(max_length=120)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_revision_a_number")]


class Stage(models.TextChoices):
    """Stations whose results are kept, by the word that stands in their address."""

    DRY_FIT = "dry-fit"
    LAY_OUT = "lay-out"
    CUT_PLAN = "cut-plan"


class StageResult(models.Model):
    """A result of a stage, with the fingerprint of what it was made from: the newest few stay, so that undo finds its layout again."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="results")
    stage = models.CharField(max_length=8, choices=Stage)
    made_from = models.CharField(max_length=16)
    revision = models.PositiveIntegerField()
    payload = models.JSONField()
    created = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["project", "stage", "made_from"], name="one_result_of_the_same")]


class JobState(models.TextChoices):
    """How far a piece of long work is."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


class StageJob(models.Model):
    """Long work on a stage, done by the worker."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="jobs")
    stage = models.CharField(max_length=8, choices=Stage)
    made_from = models.CharField(max_length=16)
    state = models.CharField(max_length=8, choices=JobState, default=JobState.WAITING)
    request = models.JSONField(default=dict)
    progress = models.JSONField(default=dict)
    says = models.JSONField(null=True)  #: why it ended so (apps/told.py)
    stop_wanted = models.BooleanField(default=False)
    attempts = models.PositiveIntegerField(default=0)
    lane = models.CharField(max_length=8, default="short")  #: long work does not stand before short work
    seen = models.DateTimeField(null=True)  #: when its worker was last heard of
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["project", "stage"], condition=models.Q(state__in=["waiting", "running"]), name="one_open_job_a_stage")]


class Drawing(models.Model):
    """A drawing that came in from a file, as lines; never changed once written, so that old revisions still show it."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="drawings")
    name = models.CharField(max_length=80)
    payload = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)


class TrialNote(models.Model):
    """What was felt, seen or changed on a trial in scrap."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="trial_notes")
    revision = models.PositiveIntegerField()
    about = models.CharField(max_length=200, blank=True)  #: a meeting or a part, by id
    feel = models.CharField(max_length=8, blank=True)
    text = models.TextField(blank=True)
    photo = models.TextField(blank=True)  #: grey, as base64 of a PNG
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    created = models.DateTimeField(auto_now_add=True)
