"""Plans of many contours are made in the worker."""

from __future__ import annotations

from procrastinate.contrib.django import app

from apps.designs import jobs
from apps.designs.models import JobState
from apps.plans import services
from notchcore.errors import NotchCoreError


@app.task(queue="stage", name="plans.plan")
def plan_job(*, job_id: int) -> None:
    """Plan the cuts; running it twice gives the same plan twice."""
    job = jobs.begin(job_id)
    if job is None:
        return
    with jobs.at_work(job_id):
        try:
            services.make_plan(job.project)
        except NotchCoreError as problem:
            jobs.finish(job_id, JobState.FAILED, says=problem.says)
            return
        jobs.finish(job_id, JobState.DONE)
