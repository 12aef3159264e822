"""Following a run on the machine. The machine goes on when the worker dies; a new worker picks the run up again, but never starts a beam again."""

from __future__ import annotations

import time

from django.conf import settings
from django.db import DatabaseError, connection
from django.utils import timezone
from procrastinate.contrib.django import app

from apps.designs import jobs
from apps.runs.keeping import clear_out
from apps.runs.models import Run, RunState
from apps.runs.services import FOLLOWED, follow, interrupt, settle_lost
from apps.told import keeps, kept
from devices.line import DeviceLine, DeviceNotThere
from notchcore.words.render import say, written

POLL_S = 0.2


@app.periodic(cron="* * * * * */10")
@app.task(queue="system", queueing_lock="settle", name="runs.settle")
def settle(timestamp: int) -> None:
    """End what nobody has heard of any more, whether somebody looks or not."""
    settle_lost()
    jobs.settle_lost()


@app.periodic(cron="17 * * * *")
@app.task(queue="system", queueing_lock="clear-out", name="runs.clear_out")
def remove_deleted(timestamp: int) -> None:
    """Remove projects that were deleted long enough ago."""
    clear_out()


@app.task(queue="machine", name="runs.follow")
def follow_run(*, run_id: int) -> None:
    """Load the job unless the machine has it already, start it once, pass on commands, and keep the row true until it ends."""
    run = Run.objects.get(pk=run_id)
    if run.state not in FOLLOWED:
        return
    try:
        with DeviceLine("laser", settings.LASER_ADDRESS) as laser:
            if _begun(laser, run):
                _drive(laser, run_id)
    except DeviceNotThere as problem:
        if Run.objects.filter(pk=run_id, started__isnull=False).exists():
            interrupt(run_id, written(str(problem)))
        else:  # nothing was burned: it can simply be started again
            Run.objects.filter(pk=run_id, state__in=FOLLOWED).update(state=RunState.FAILED, says=kept(written(str(problem))))


def _begun(laser: DeviceLine, run: Run) -> bool:
    """Tell whether the machine has the job and works on it, or did; load and start it where that was never done."""
    job = f"run-{run.pk}-{run.created:%Y%m%d%H%M%S%f}"  # no other job was ever called so, whatever was restored from a backup
    if laser.say(do="status").get("job") == job:
        return True
    if run.started is not None:  # the sheet on the bed may be half cut: only a person starts a beam on it
        interrupt(run.pk, say("run.no_job"))
        return False
    loaded = laser.say(do="load", job=job, moves=run.moves, fault=run.fault, seed=run.pk)
    if not loaded["ok"]:
        Run.objects.filter(pk=run.pk).update(state=RunState.FAILED, says=keeps("run.refused", why=str(loaded["why"])))
        return False
    now = timezone.now()
    # Written down before the beam starts: whatever breaks from here on, this job is not started a second time.
    if not Run.objects.filter(pk=run.pk, started__isnull=True, state=RunState.WAITING).update(started=now, seen=now):
        return False
    laser.say(do="start")
    return True


def _drive(laser: DeviceLine, run_id: int) -> None:
    while True:
        try:
            wanted = Run.objects.values_list("command", flat=True).get(pk=run_id)
            if wanted:
                laser.say(do=wanted)
                Run.objects.filter(pk=run_id, command=wanted).update(command="")
            run = Run.objects.get(pk=run_id)
            follow(run, laser.say(do="status"))
            if run.state not in FOLLOWED:
                return
        except DatabaseError:  # the machine works on without us: take the line up again as soon as there is one
            connection.close()
        time.sleep(POLL_S)
