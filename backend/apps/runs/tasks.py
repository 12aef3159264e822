"""Following a run on the machine. The machine goes on when the worker dies; a new worker picks the run up again."""

from __future__ import annotations

import time

from django.conf import settings
from procrastinate.contrib.django import app

from apps.runs.models import Run, RunState
from apps.runs.services import OPEN, follow
from devices.line import DeviceLine, DeviceNotThere

POLL_S = 0.2


@app.task(queue="machine", name="runs.follow")
def follow_run(*, run_id: int) -> None:
    """Load the job unless the machine has it already, start it, pass on commands, and keep the row true until it ends."""
    run = Run.objects.get(pk=run_id)
    if run.state not in OPEN:
        return
    try:
        with DeviceLine("laser", settings.LASER_ADDRESS) as laser:
            _drive(laser, run_id)
    except DeviceNotThere as problem:
        Run.objects.filter(pk=run_id, state__in=OPEN).update(state=RunState.FAILED, message=str(problem))


def _drive(laser: DeviceLine, run_id: int) -> None:
    run = Run.objects.get(pk=run_id)
    job = f"run-{run_id}"
    if laser.say(do="status").get("job") != job:
        loaded = laser.say(do="load", job=job, moves=run.moves, fault=run.fault, seed=run_id)
        if not loaded["ok"]:
            Run.objects.filter(pk=run_id).update(state=RunState.FAILED, message=f"The machine refused the job: {loaded['why']}.")
            return
        laser.say(do="start")
    while True:
        wanted = Run.objects.values_list("command", flat=True).get(pk=run_id)
        if wanted:
            laser.say(do=wanted)
            Run.objects.filter(pk=run_id, command=wanted).update(command="")
        run.refresh_from_db(fields=["state"])
        follow(run, laser.say(do="status"))
        if run.state not in OPEN:
            return
        time.sleep(POLL_S)
