"""A worker that is killed in the middle of a packing, and one that is stopped by hand."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from apps.designs import tasks
from apps.designs.models import JobState, StageJob, StageResult
from processes import Worker
from steps import field


def start_a_long_packing(page: Page) -> StageJob:
    page.get_by_role("button", name="Seed packet drawer").click()
    page.get_by_test_id("revision").wait_for()
    page.keyboard.press("4")
    field(page, "Copies of everything", "3")
    field(page, "Time to try", "60")
    page.get_by_role("button", name="Pack again").click()
    expect(page.get_by_text("Best so far")).to_be_visible()
    return StageJob.objects.get(stage="lay-out", state=JobState.RUNNING)


def test_stop_keeps_the_best_so_far(page: Page, worker: Worker) -> None:
    job = start_a_long_packing(page)
    page.get_by_role("button", name="Stop, keep the best").click()
    expect(page.get_by_text("30 parts placed")).to_be_visible()
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled()
    job.refresh_from_db()
    assert job.state == JobState.STOPPED


def test_a_killed_worker_loses_nothing_and_its_job_ends_after_a_restart(page: Page, worker: Worker) -> None:
    before = StageResult.objects.get(stage="lay-out", project__name="Seed packet drawer").payload
    job = start_a_long_packing(page)
    worker.kill()
    kept = StageResult.objects.get(stage="lay-out", project__name="Seed packet drawer").payload
    assert kept["nesting"]["sheets"] or kept == before
    page.reload()
    expect(page.get_by_role("heading", name=re.compile(r"\d sheets?, \d+ %"))).to_be_visible()  # the last published layout
    job.refresh_from_db()
    assert job.state == JobState.RUNNING
    StageJob.objects.filter(pk=job.pk).update(request=job.request | {"seconds": 1.0})  # so that this test need not wait a minute
    worker.start()
    # A silent worker is given up after a while; then the job is begun again and ends.
    expect(page.get_by_text("30 parts placed")).to_be_visible(timeout=(tasks.STALLED_AFTER_SECONDS + 40) * 1000)
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled(timeout=60_000)
    job.refresh_from_db()
    assert (job.state, job.attempts) == (JobState.DONE, 2)
