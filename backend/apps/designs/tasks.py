"""Dry fits that take longer than a request may, and the rescue of work whose worker died."""

from __future__ import annotations

from procrastinate import JobContext
from procrastinate.contrib.django import app

from apps.designs import dry_fit, jobs
from apps.designs.models import JobState
from notchcore.errors import NotchCoreError

STALLED_AFTER_SECONDS = 30


@app.task(queue="long", name="designs.check")
def check_job(*, job_id: int) -> None:
    """Run a dry fit; running it twice gives the same result twice."""
    job = jobs.begin(job_id)
    if job is None:
        return
    with jobs.at_work(job_id):
        try:
            dry_fit.check(job.project, stop=lambda: jobs.stop_wanted(job_id))
        except NotchCoreError as problem:
            jobs.finish(job_id, JobState.FAILED, says=problem.says)
            return
        jobs.finish(job_id, JobState.STOPPED if jobs.stop_wanted(job_id) else JobState.DONE)


@app.periodic(cron="* * * * * */10")
@app.task(queue="system", queueing_lock="rescue", pass_context=True, name="designs.rescue")
async def rescue_stalled(context: JobContext, timestamp: int) -> None:
    """Put jobs back into the queue whose worker has not been heard of for a while."""
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_AFTER_SECONDS):
        await app.job_manager.retry_job(job)
