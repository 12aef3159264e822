"""Long work on a stage: one open job a project and stage, stoppable, safe to run twice."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.db import transaction
from django.db.models import F

from apps.designs.models import JobState, Project, Stage, StageJob

OPEN = (JobState.WAITING, JobState.RUNNING)


def request_job(*, project: Project, stage: Stage, made_from: str, request: dict[str, Any], defer: Callable[[int], object]) -> StageJob:
    """Return the open job for a stage, or make and queue one. A second request for the same joins the first."""
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        standing = StageJob.objects.filter(project=project, stage=stage, state__in=OPEN).first()
        if standing is not None:
            if standing.made_from == made_from and standing.request == request:
                return standing
            standing.state, standing.stop_wanted, standing.message = JobState.STOPPED, True, "replaced by a newer request"
            standing.save()
        job = StageJob.objects.create(project=project, stage=stage, made_from=made_from, request=request)
        defer(job.pk)
    return job


def begin(job_id: int) -> StageJob | None:
    """Mark a job as running; None when it has ended meanwhile."""
    changed = StageJob.objects.filter(pk=job_id, state__in=OPEN).update(state=JobState.RUNNING, attempts=F("attempts") + 1)
    return StageJob.objects.select_related("project").get(pk=job_id) if changed else None


def stop_wanted(job_id: int) -> bool:
    return StageJob.objects.filter(pk=job_id, stop_wanted=True).exists()


def may_keep(job_id: int) -> bool:
    """Tell whether a job still counts; call it inside the transaction that keeps its result."""
    return StageJob.objects.select_for_update().filter(pk=job_id, state=JobState.RUNNING).exists()


def report(job_id: int, **progress: Any) -> None:
    StageJob.objects.filter(pk=job_id, state=JobState.RUNNING).update(progress=progress)


def finish(job_id: int, state: JobState, message: str = "") -> None:
    """End a running job; one that was replaced meanwhile keeps its state."""
    StageJob.objects.filter(pk=job_id, state=JobState.RUNNING).update(state=state, message=message)


def ask_stop(*, project: Project, stage: Stage) -> None:
    """Ask the open job to stop; one that no worker has taken yet ends at once."""
    StageJob.objects.filter(project=project, stage=stage, state=JobState.WAITING).update(state=JobState.STOPPED, message="stopped before it began")
    StageJob.objects.filter(project=project, stage=stage, state=JobState.RUNNING).update(stop_wanted=True)


def latest(project: Project, stage: Stage) -> StageJob | None:
    return StageJob.objects.filter(project=project, stage=stage).order_by("-pk").first()
