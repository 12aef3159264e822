"""The bench strip: what each station has to say about a project, in a few words.

It is asked for after every change, so it reads what is kept of dry fit and plan as it stands, and builds no values from it.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema

from apps.designs import jobs, queries
from apps.designs.api import project_row
from apps.designs.models import JobState, Project, Stage, StageResult
from apps.plans.services import PlanInputs, inputs_of, plan_row
from apps.runs.models import Run, RunState
from apps.runs.services import OPEN
from notchcore.findings import Severity
from notchcore.ledger import Trust
from notchcore.words.facts import Count, Fact, Sentence, Share
from notchcore.words.render import say

router = Router(tags=["strip"])
Dot = Literal["grey", "green", "amber", "red"]


class Station(Schema):
    key: str
    dot: Dot
    says: Sentence
    stale: bool = False


def _station(key: str, dot: Dot, *, says: Sentence, stale: bool = False) -> Station:
    return Station(key=key, dot="grey" if stale else dot, says=say("strip.stale") if stale else says, stale=stale)


def _graver(found: Mapping[str, int]) -> Dot:
    return "red" if found["must"] else "amber" if found["look"] else "green"


def _found(payload: Mapping[str, Any]) -> dict[str, int]:
    """Return how many findings of each severity a kept result has."""
    return {s.value: sum(f["severity"] == s for f in payload["findings"]) for s in Severity}


def _sheets(now: queries.Current) -> Station:
    guesses = sum(any(f.code == "thickness_guess" for f in s.findings) or s.kerf.terms[0].trust is Trust.DEFAULT for s in now.stocks.values())
    known = say("strip.guesses", guesses=Count(guesses, "guess", "guesses")) if guesses else say("strip.measured")
    return _station("sheets", "amber" if guesses else "green", says=say("strip.sheets", stocks=Count(len(now.stocks), "stock", "stocks"), known=known))


def _build(now: queries.Current) -> Station:
    must = sum(f.severity is Severity.MUST for f in now.assembly.findings)
    if must:
        return _station("build", "red", says=say("strip.to_fix", number=must))
    look = any(f.severity is Severity.LOOK for f in now.assembly.findings)
    helpers = sum(p.helper for p in now.assembly.parts)
    facts: dict[str, Fact] = {
        "parts": Count(sum(p.copies for p in now.assembly.parts if not p.helper), "part", "parts"),
        "joints": Count(sum(1 for m in now.assembly.meetings if m.style != "butt"), "joint", "joints"),
    }
    says = say("strip.build.helpers", helpers=Count(helpers, "helper", "helpers"), **facts) if helpers else say("strip.build", **facts)
    return _station("build", "amber" if look else "green", says=says)


def _busy(project: Project, stage: Stage) -> Station | None:
    job = jobs.latest(project, stage)
    return _station(stage, "grey", says=say(f"strip.busy.{stage.value}")) if job is not None and job.state in (JobState.WAITING, JobState.RUNNING) else None


def _dry_fit(now: queries.Current) -> Station:
    row = queries.result_of(now, Stage.DRY_FIT)
    if row is None:
        return _station(Stage.DRY_FIT, "grey", says=say("strip.not_tried"))
    found = _found(row.payload)
    steps = Count(len(row.payload["order"]["steps"]), "step", "steps")
    says = say("strip.fits", steps=steps)
    if found["must"] or found["look"]:
        says = say("strip.to_fix", number=found["must"]) if found["must"] else say("strip.to_look", number=found["look"])
    return _station(Stage.DRY_FIT, _graver(found), says=says, stale=row.made_from != now.checked_from)


def _lay_out(inputs: PlanInputs | None) -> Station:
    if inputs is None:
        return _station(Stage.LAY_OUT, "grey", says=say("strip.not_packed"))
    nesting = inputs.nesting
    left = sum(u.count for u in nesting.unplaced)
    sheets = Count(len(nesting.sheets), "sheet", "sheets")
    says = say("strip.left_over", parts=Count(left, "part", "parts")) if left else say("strip.packed", sheets=sheets, used=Share(nesting.utilisation))
    return _station(Stage.LAY_OUT, "red" if left else "green", says=says, stale=not inputs.layout_fresh)


def _cut_plan(row: StageResult | None, inputs: PlanInputs | None) -> Station:
    if row is None or inputs is None:
        return _station(Stage.CUT_PLAN, "grey", says=say("strip.not_planned"))
    minutes, band = round(row.payload["seconds"] / 60), max(round(row.payload["band"] / 60), 1)
    short = minutes < 100
    says = say("strip.minutes", minutes=minutes, band=band) if short else say("strip.hours", hours=minutes // 60, minutes=f"{minutes % 60:02d}", band=band)
    return _station(Stage.CUT_PLAN, _graver(_found(row.payload)), says=says, stale=row.made_from != inputs.made_from or not inputs.layout_fresh)


def _run(project: Project, row: StageResult | None) -> Station:
    latest = Run.objects.filter(project=project).defer("moves").order_by("-pk").first()
    if latest is not None and latest.state in OPEN:
        return _station("run", "red" if latest.state == RunState.FAULT else "amber", says=say("strip.running", sheet=latest.sheet, state=latest.state))
    if row is None or latest is None:
        return _station("run", "grey", says=say("strip.not_started"))
    done = dict(Run.objects.filter(project=project, state=RunState.DONE, plan_print=row.made_from).order_by("pk").values_list("sheet", "log"))
    spoiled = sum(int((log or {}).get("spoiled", 0)) for log in done.values())  # of each sheet's last run
    sheets = row.payload["sheets"]
    facts: dict[str, Fact] = {
        "done": len(done),
        "all": len(sheets),
        "cut": say("strip.word.cut" if all(s.get("last", True) for s in sheets) else "strip.word.runs"),
    }
    says = say("strip.cut.spoiled", spoiled=spoiled, **facts) if spoiled else say("strip.cut", **facts)
    dot: Dot = "grey" if len(done) < len(sheets) else "amber" if spoiled else "green"
    return _station("run", dot, says=says, stale=latest.plan_print != row.made_from)


@router.get("/projects/{project_id}/strip", response=list[Station], operation_id="strip")
def strip(request: HttpRequest, project_id: int) -> list[Station]:
    project = project_row(request, project_id)
    now = queries.current(project)
    inputs = inputs_of(project, now)
    row = plan_row(project, inputs)
    return [
        _sheets(now),
        _build(now),
        _busy(project, Stage.DRY_FIT) or _dry_fit(now),
        _busy(project, Stage.LAY_OUT) or _lay_out(inputs),
        _busy(project, Stage.CUT_PLAN) or _cut_plan(row, inputs),
        _run(project, row),
    ]
