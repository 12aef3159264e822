"""The bench strip: what each station has to say about a project, in a few words."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Router, Schema

from apps.designs import jobs, queries
from apps.designs.api import project_row
from apps.designs.convert import DRY_FIT
from apps.designs.models import JobState, Project, Stage
from apps.layouts.convert import NESTING
from apps.plans.services import planned, stored_plan
from apps.runs.models import Run, RunState
from apps.runs.services import OPEN
from notchcore.findings import Severity
from notchcore.ledger import Trust

router = Router(tags=["strip"])
Dot = Literal["grey", "green", "amber", "red"]


class Station(Schema):
    key: str
    dot: Dot
    text: str
    stale: bool = False


def _count(number: int, one: str, many: str | None = None) -> str:
    return f"{number} {one if number == 1 else many or one + 's'}"


def _sheets(now: queries.Current) -> Station:
    guesses = sum(any(f.code == "thickness_guess" for f in s.findings) or s.kerf.terms[0].trust is Trust.DEFAULT for s in now.stocks.values())
    text = _count(len(now.stocks), "stock") + (f", {_count(guesses, 'guess', 'guesses')}" if guesses else ", measured")
    return Station(key="sheets", dot="amber" if guesses else "green", text=text)


def _build(now: queries.Current) -> Station:
    must = [f for f in now.assembly.findings if f.severity is Severity.MUST]
    if must:
        return Station(key="build", dot="red", text=f"{len(must)} to fix")
    look = any(f.severity is Severity.LOOK for f in now.assembly.findings)
    joints = sum(1 for m in now.assembly.meetings if m.style != "butt")
    helpers = sum(p.helper for p in now.assembly.parts)
    text = f"{_count(sum(p.copies for p in now.assembly.parts if not p.helper), 'part')}, {_count(joints, 'joint')}"
    return Station(key="build", dot="amber" if look else "green", text=text + (f", {_count(helpers, 'helper')}" if helpers else ""))


def _busy(project: Project, stage: Stage, key: str, text: str) -> Station | None:
    job = jobs.latest(project, stage)
    return Station(key=key, dot="grey", text=text) if job is not None and job.state in (JobState.WAITING, JobState.RUNNING) else None


def _dry_fit(now: queries.Current) -> Station:
    row = queries.result_of(now, Stage.CHECK)
    if row is None:
        return Station(key="dryfit", dot="grey", text="not tried yet")
    stale = row.made_from != now.checked_from
    found = DRY_FIT.validate_python(row.payload)
    must = sum(f.severity is Severity.MUST for f in found.findings)
    look = sum(f.severity is Severity.LOOK for f in found.findings)
    text = f"{must} to fix" if must else f"{look} to look at" if look else f"fits, {_count(len(found.order.steps), 'step')}"
    return Station(key="dryfit", dot="grey" if stale else "red" if must else "amber" if look else "green", text="changed since" if stale else text, stale=stale)


def _lay_out(now: queries.Current) -> Station:
    row = queries.result_of(now, Stage.NEST)
    if row is None:
        return Station(key="layout", dot="grey", text="not packed yet")
    stale = row.made_from != now.parts_print
    nesting = NESTING.validate_python(row.payload["nesting"])
    left = sum(u.count for u in nesting.unplaced)
    text = f"{_count(left, 'part')} left over" if left else f"{_count(len(nesting.sheets), 'sheet')}, {nesting.utilisation:.0%}"
    return Station(key="layout", dot="grey" if stale else "red" if left else "green", text="changed since" if stale else text, stale=stale)


def _cut_plan(now: queries.Current) -> Station:
    stored, inputs = planned(now.project)
    if stored is None or inputs is None:
        return Station(key="plan", dot="grey", text="not planned yet")
    stale = stored[0].made_from != inputs.made_from or not inputs.layout_fresh
    plan = stored[1]
    must = any(f.severity is Severity.MUST for f in plan.findings)
    look = any(f.severity is Severity.LOOK for f in plan.findings)
    minutes, band = round(plan.seconds / 60), max(round(plan.band / 60), 1)
    text = f"{minutes} min ± {band}" if minutes < 100 else f"{minutes // 60} h {minutes % 60:02d} ± {band} min"
    return Station(key="plan", dot="grey" if stale else "red" if must else "amber" if look else "green", text="changed since" if stale else text, stale=stale)


def _run(now: queries.Current) -> Station:
    stored = stored_plan(now.project)
    latest = Run.objects.filter(project=now.project).defer("moves").order_by("-pk").first()
    if latest is not None and latest.state in OPEN:
        return Station(key="run", dot="red" if latest.state == RunState.FAULT else "amber", text=f"sheet {latest.sheet} {latest.state}")
    if stored is None or latest is None:
        return Station(key="run", dot="grey", text="not started")
    done = dict(Run.objects.filter(project=now.project, state=RunState.DONE, plan_print=stored[0].made_from).order_by("pk").values_list("sheet", "log"))
    spoiled = sum(int((log or {}).get("spoiled", 0)) for log in done.values())  # of each sheet's last run
    total = len(stored[1].sheets)
    word = "runs" if any(not s.last for s in stored[1].sheets) else "cut"
    stale = latest.plan_print != stored[0].made_from
    text = f"{len(done)} of {total} {word}" + (f", {spoiled} spoiled" if spoiled else "")
    dot: Dot = "grey" if len(done) < total else "amber" if spoiled else "green"
    return Station(key="run", dot=dot, text="changed since" if stale else text, stale=stale)


@router.get("/projects/{project_id}/strip", response=list[Station], operation_id="strip")
def strip(request: HttpRequest, project_id: int) -> list[Station]:
    project = project_row(request, project_id)
    now = queries.current(project)
    return [
        _sheets(now),
        _build(now),
        _busy(project, Stage.CHECK, "dryfit", "checking") or _dry_fit(now),
        _busy(project, Stage.NEST, "layout", "packing") or _lay_out(now),
        _busy(project, Stage.PLAN, "plan", "planning") or _cut_plan(now),
        _run(now),
    ]
