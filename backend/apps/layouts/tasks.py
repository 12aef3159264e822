"""Packing in the worker."""

from __future__ import annotations

import time

from procrastinate.contrib.django import app

from apps.designs import jobs
from apps.designs.models import JobState
from apps.layouts.convert import ASKED
from apps.layouts.services import pack_project
from notchcore.errors import NotchCoreError
from notchcore.nest.values import Nesting


@app.task(queue="stage", name="layouts.pack")
def pack_job(*, job_id: int) -> None:
    """Pack a project; after a worker's death it simply packs again: the same seed gives the same answer."""
    job = jobs.begin(job_id)
    if job is None:
        return
    started = time.monotonic()
    trace: list[tuple[float, float]] = []

    def tell(nesting: Nesting) -> None:
        trace.append((round(time.monotonic() - started, 2), round(nesting.utilisation, 4)))
        jobs.report(job_id, utilisation=nesting.utilisation, sheets=len(nesting.sheets), trace=trace, seconds=job.request["seconds"])

    with jobs.at_work(job_id):
        try:
            pack_project(
                job.project, ASKED.validate_python(job.request), stop=lambda: jobs.stop_wanted(job_id), tell=tell, may_keep=lambda: jobs.may_keep(job_id)
            )
        except NotchCoreError as problem:
            jobs.finish(job_id, JobState.FAILED, says=problem.says)
            return
        jobs.finish(job_id, JobState.STOPPED if jobs.stop_wanted(job_id) else JobState.DONE)
