"""Long work on a stage: one open job a project and stage, stoppable, safe to run twice."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from django.db import DatabaseError, connection, transaction
from django.db.models import F
from django.utils import timezone

from apps.designs.models import JobState, Project, Stage, StageJob
from apps.told import keeps, kept
from notchcore.words.facts import Sentence
from notchcore.words.render import say

OPEN = (JobState.WAITING, JobState.RUNNING)
SHORT, LONG = "short", "long"  # lanes, each with a worker of its own
LONG_FROM_S = 10.0  # work that takes longer goes to the long lane
BEAT_S = 5.0
LOST_S = 30.0  # without a word from its worker
LOST = "job.lost"


def request_job(*, project: Project, stage: Stage, made_from: str, request: dict[str, Any], defer: Callable[[int], object], lane: str = SHORT) -> StageJob:
    """Return the open job for a stage, or make and queue one. A second request for the same joins the first."""
    settle_lost(project=project)
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        standing = StageJob.objects.filter(project=project, stage=stage, state__in=OPEN).first()
        if standing is not None:
            if standing.made_from == made_from and standing.request == request:
                return standing
            standing.state, standing.stop_wanted, standing.says = JobState.STOPPED, True, keeps("job.replaced")
            standing.save()
        job = StageJob.objects.create(project=project, stage=stage, made_from=made_from, request=request, lane=lane)
        defer(job.pk)
    return job


def begin(job_id: int) -> StageJob | None:
    """Mark a job as running; None when it has ended meanwhile. One whose worker was lost begins again."""
    now = timezone.now()
    mine = StageJob.objects.filter(pk=job_id)
    changed = mine.filter(state__in=OPEN).update(state=JobState.RUNNING, attempts=F("attempts") + 1, seen=now)
    if not changed:
        job = mine.filter(state=JobState.FAILED, says__key=LOST).first()
        if job is None or StageJob.objects.filter(project=job.project, stage=job.stage, pk__gt=job.pk).exists():
            return None  # somebody asked anew meanwhile
        mine.update(state=JobState.RUNNING, says=None, attempts=F("attempts") + 1, seen=now)
    return StageJob.objects.select_related("project").get(pk=job_id)


@contextmanager
def at_work(job_id: int) -> Iterator[None]:
    """Let a job be heard of while it is worked on; whatever breaks in it, the job ends and says so."""
    done = threading.Event()

    def beat() -> None:
        while not done.wait(BEAT_S):
            try:
                StageJob.objects.filter(pk=job_id, state=JobState.RUNNING).update(seen=timezone.now())
            except DatabaseError:
                connection.close()
        connection.close()

    heart = threading.Thread(target=beat, name=f"job {job_id}", daemon=True)
    heart.start()
    ended = False
    try:
        yield
        ended = True
    finally:
        done.set()
        if not ended:
            try:
                finish(job_id, JobState.FAILED, says=say("job.broke_off"))
            except DatabaseError:  # then nobody hears of it any more, and it is settled as lost
                connection.close()


def settle_lost(**of: Any) -> int:
    """End running jobs whose worker has not been heard of for a while, honestly; return how many."""
    since = timezone.now() - timedelta(seconds=LOST_S)
    return StageJob.objects.filter(state=JobState.RUNNING, seen__lt=since, **of).update(state=JobState.FAILED, says=keeps(LOST))


def is_lost(job: StageJob) -> bool:
    return job.state == JobState.FAILED and (job.says or {}).get("key") == LOST


def before(job: StageJob) -> int:
    """Return how many jobs of its lane come before a waiting one."""
    return StageJob.objects.filter(lane=job.lane, state__in=OPEN, pk__lt=job.pk).count() if job.state == JobState.WAITING else 0


def stop_wanted(job_id: int) -> bool:
    return StageJob.objects.filter(pk=job_id, stop_wanted=True).exists()


def may_keep(job_id: int) -> bool:
    """Tell whether a job still counts; call it inside the transaction that keeps its result."""
    return StageJob.objects.select_for_update().filter(pk=job_id, state=JobState.RUNNING).exists()


def report(job_id: int, **progress: Any) -> None:
    StageJob.objects.filter(pk=job_id, state=JobState.RUNNING).update(progress=progress)


def finish(job_id: int, state: JobState, *, says: Sentence | None = None) -> None:
    """End a running job; one that was replaced meanwhile keeps its state."""
    StageJob.objects.filter(pk=job_id, state=JobState.RUNNING).update(state=state, says=None if says is None else kept(says))


def ask_stop(*, project: Project, stage: Stage) -> None:
    """Ask the open job to stop; one that no worker has taken yet ends at once."""
    settle_lost(project=project)
    StageJob.objects.filter(project=project, stage=stage, state=JobState.WAITING).update(state=JobState.STOPPED, says=keeps("job.stopped"))
    StageJob.objects.filter(project=project, stage=stage, state=JobState.RUNNING).update(stop_wanted=True)


def latest(project: Project, stage: Stage) -> StageJob | None:
    settle_lost(project=project, stage=stage)
    return StageJob.objects.filter(project=project, stage=stage).order_by("-pk").first()
