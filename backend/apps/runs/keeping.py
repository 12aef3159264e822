"""Projects that are put away or deleted: off the shop board, and back on it whenever a person wants them."""

from __future__ import annotations

from datetime import datetime, timedelta
from enum import StrEnum

from django.db import transaction
from django.db.models import Exists, OuterRef
from django.utils import timezone

from apps.designs.models import Project
from apps.runs.models import Run, RunState
from apps.runs.services import OPEN
from notchcore.errors import DesignError
from notchcore.words.render import say

KEEP_DAYS = 30


class ProjectPlace(StrEnum):
    """Where a project is kept."""

    BOARD = "board"
    AWAY = "away"
    DELETED = "deleted"


def place_of(project: Project) -> ProjectPlace:
    return ProjectPlace.DELETED if project.deleted else ProjectPlace.AWAY if project.put_away else ProjectPlace.BOARD


def gone_on(project: Project) -> datetime | None:
    """Return when a deleted project is gone for good; None for one that is not deleted, or that the log needs."""
    return None if project.deleted is None or Run.objects.filter(project=project).exists() else project.deleted + timedelta(days=KEEP_DAYS)


@transaction.atomic
def keep(*, project: Project, place: ProjectPlace) -> Project:
    """Put a project on the board, away, or where deleted ones wait.

    Raises:
        DesignError: a sheet of it is on the machine, or was interrupted there
    """
    row = Project.objects.select_for_update(of=("self",)).select_related("machine", "shop").get(pk=project.pk)
    if place is not ProjectPlace.BOARD and Run.objects.filter(project=row, state__in=(*OPEN, RunState.INTERRUPTED)).exists():
        raise DesignError(say("sheet_on_machine"))
    now = timezone.now()
    row.put_away = None if place is ProjectPlace.BOARD else row.put_away or now
    row.deleted = now if place is ProjectPlace.DELETED else None
    Project.objects.filter(pk=row.pk).update(put_away=row.put_away, deleted=row.deleted)
    return row


def clear_out() -> int:
    """Remove what was deleted KEEP_DAYS ago and return how many; projects with logged runs stay, for the shop's books need them."""
    old = Project.objects.filter(~Exists(Run.objects.filter(project=OuterRef("pk"))), deleted__lt=timezone.now() - timedelta(days=KEEP_DAYS))
    gone = 0
    for pk in old.values_list("pk", flat=True):
        with transaction.atomic():
            row = old.select_for_update().filter(pk=pk).first()  # somebody may have brought it back meanwhile
            if row is not None:
                row.delete()
                gone += 1
    return gone
