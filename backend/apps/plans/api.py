"""Cut plan over HTTP."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status

from apps.accounts.access import Refused, member_of, require_role
from apps.accounts.models import Role
from apps.designs import jobs
from apps.designs.api import JobOut, job_out, project_row
from apps.designs.models import Project, Stage
from apps.plans import byhand, gate, services
from apps.plans.tasks import plan_job
from notchcore.findings import Finding
from notchcore.measure.machine import Machine, Operation, Settings
from notchcore.measure.stock import Stock
from notchcore.plan.choices import Numbers, PlanChoices, SecondSide, Turn
from notchcore.plan.cut_plan import CutPlan
from notchcore.plan.paths import REGISTRATION
from notchcore.plan.reorder import ranges_of
from notchcore.words.render import say

router = Router(tags=["plans"])
PATHS_AT_ONCE = 150  # longer plans go to the worker


class AcceptedOut(Schema):
    by: str
    on: datetime


class StrokeIn(Schema):
    version: str
    sheet: int  #: from 0
    path: str
    to: int  #: its place afterwards, from 0


class ChoicesIn(Schema):
    """What is to be changed; what is not named stays."""

    second: SecondSide | None = None
    turn: Turn | None = None
    thick: list[str] | None = None
    printed: list[str] | None = None
    skip: list[Operation] | None = None
    locate: bool | None = None
    numbers: Numbers | None = None
    bare: list[str] | None = None
    lead: float | None = None


class StopsOut(Schema):
    """What was found before the plan and holds files and runs back."""

    print: str  #: tells these from others
    findings: list[Finding]
    overruled: AcceptedOut | None  #: who said that it is cut all the same


class SeenIn(Schema):
    print: str


class VersionIn(Schema):
    version: str


class PlanOut(Schema):
    laid_out: bool
    layout_fresh: bool
    fresh: bool
    revision: int | None
    plan_print: str | None
    version: str  #: tells one state of the plan from another
    accepted: AcceptedOut | None  #: who read what it warns of
    plan: CutPlan | None
    machine: Machine | None
    settings: dict[str, Settings]
    stocks: dict[str, Stock]
    labels: dict[str, str]
    choices: PlanChoices
    stops: StopsOut | None
    has_backs: bool  #: something can be burned on backs: by a person or for a joint
    factor: float
    factor_runs: int
    job: JobOut | None


def _stops(inputs: services.PlanInputs | None) -> StopsOut | None:
    found = gate.found_before(inputs.now) if inputs else ()
    if inputs is None or not found:
        return None
    said = gate.overruled_of(inputs.now, found)
    return StopsOut(print=gate.print_of(inputs.now, found), findings=list(found), overruled=AcceptedOut(by=said.by, on=said.on) if said else None)


def _out(project: Project) -> PlanOut:
    job = jobs.latest(project, Stage.CUT_PLAN)  # before its result: a job that has ended has left its last one
    (stored, inputs), factor = services.planned(project), services.learned(project)
    return PlanOut(
        laid_out=inputs is not None,
        layout_fresh=inputs is not None and inputs.layout_fresh,
        fresh=stored is not None and inputs is not None and inputs.layout_fresh and stored[0].made_from == inputs.made_from,
        revision=stored[0].revision if stored else None,
        plan_print=stored[0].made_from if stored else None,
        version=byhand.version_of(stored[0] if stored else None),
        accepted=stored[0].payload.get("accepted") if stored else None,
        plan=stored[1] if stored else None,
        machine=inputs.machine if inputs else None,
        settings=inputs.settings if inputs else {},
        stocks=inputs.now.stocks if inputs else {},
        labels={REGISTRATION: "Registration mark", **{p.id: p.label for p in inputs.now.assembly.parts}} if inputs else {},
        choices=inputs.choices if inputs else services.choices_of(project),
        stops=_stops(inputs),
        has_backs=any(m.back for p in inputs.now.assembly.parts for m in p.marks) if inputs else False,
        factor=factor.factor,
        factor_runs=factor.runs,
        job=job_out(job),
    )


@router.get("/projects/{project_id}/cut-plan", response=PlanOut, operation_id="cutPlan")
def get_plan(request: HttpRequest, project_id: int) -> PlanOut:
    return _out(project_row(request, project_id))


@router.post("/projects/{project_id}/cut-plan", response=PlanOut, operation_id="makePlan")
def make_plan(request: HttpRequest, project_id: int) -> PlanOut:
    """Plan the cuts: at once for a few paths, in the worker for many."""
    require_role(request, Role.OPERATOR)
    project = project_row(request, project_id)
    _plan(project)
    return _out(project)


@router.post("/projects/{project_id}/cut-plan/stop", response=PlanOut, operation_id="stopPlan")
def stop_plan(request: HttpRequest, project_id: int) -> PlanOut:
    """Take a plan back that waits for a worker."""
    require_role(request, Role.OPERATOR)
    project = project_row(request, project_id)
    jobs.ask_stop(project=project, stage=Stage.CUT_PLAN)
    return _out(project)


@router.patch("/projects/{project_id}/cut-plan/choices", response=PlanOut, operation_id="choosePlan")
def choose_plan(request: HttpRequest, project_id: int, body: ChoicesIn) -> PlanOut:
    """Change what is chosen about the plan, and plan again where the parts are laid out."""
    require_role(request, Role.OPERATOR)
    project = project_row(request, project_id)
    with transaction.atomic():  # a choice that leaves no plan is not kept
        services.choose(project, body.dict(exclude_none=True))
        inputs = services.inputs_of(project)
        if inputs is not None and inputs.layout_fresh:
            _plan(project)
    return _out(project)


def _plan(project: Project) -> None:
    inputs = services.inputs_of(project)
    paths = 0
    if inputs is not None:
        parts = {p.id: 1 + len(p.profile.holes) + len(p.marks) for p in inputs.now.assembly.parts}
        paths = sum(parts.get(pl.part, 0) for s in inputs.nesting.sheets for pl in s.placements)
    if inputs is None or paths <= PATHS_AT_ONCE:
        services.make_plan(project)
    else:
        jobs.request_job(project=project, stage=Stage.CUT_PLAN, made_from=inputs.made_from, request={}, defer=lambda pk: plan_job.defer(job_id=pk))


@router.get("/projects/{project_id}/cut-plan/order/{sheet}", response=list[tuple[int, int]], operation_id="orderRanges")
def order_ranges(request: HttpRequest, project_id: int, sheet: int) -> list[tuple[int, int]]:
    """Tell for each cut of a sheet the first and last place in the order to which it may be moved."""
    stored = services.stored_plan(project_row(request, project_id))
    if stored is None or not 0 <= sheet < len(stored[1].sheets):
        raise Refused(404, say("no_such_sheet_in_plan"))
    return ranges_of([s.path for s in stored[1].sheets[sheet].strokes])


def _changed(project: Project, change: Callable[[], None]) -> Status[PlanOut]:
    try:
        change()
    except byhand.PlanMeanwhile:
        return Status(409, _out(project))
    return Status(200, _out(project))


@router.post("/projects/{project_id}/cut-plan/move", response={200: PlanOut, 409: PlanOut}, operation_id="moveStroke")
def move_stroke(request: HttpRequest, project_id: int, body: StrokeIn) -> Status[PlanOut]:
    require_role(request, Role.OPERATOR)
    project = project_row(request, project_id)
    return _changed(project, lambda: byhand.move(project, body.version, sheet=body.sheet, path=body.path, to=body.to))


@router.post("/projects/{project_id}/cut-plan/accept", response={200: PlanOut, 409: PlanOut}, operation_id="acceptPlan")
def accept_plan(request: HttpRequest, project_id: int, body: VersionIn) -> Status[PlanOut]:
    """Say that what the plan warns of was read."""
    member = require_role(request, Role.OPERATOR)
    project = project_row(request, project_id)
    return _changed(project, lambda: byhand.accept(project, body.version, member=member))


@router.post("/projects/{project_id}/cut-plan/overrule", response=PlanOut, operation_id="overruleStops")
def overrule(request: HttpRequest, project_id: int, body: SeenIn) -> PlanOut:
    """Say, as a named person, that it is cut all the same."""
    member = require_role(request, Role.OPERATOR)
    project = project_row(request, project_id)
    gate.overrule(project, member, seen=body.print)
    return _out(project)


@router.get("/projects/{project_id}/files/{name}", operation_id="file")
def file(request: HttpRequest, project_id: int, name: str) -> HttpResponse:
    unit = member_of(request).unit
    project = project_row(request, project_id)
    found = services.bundle(project, unit) if name == "all.zip" else services.files_of(project, unit).get(name)
    if found is None:
        raise Refused(404, say("no_such_file_in_plan"))
    response = HttpResponse(found.content, content_type=found.kind)
    response["Content-Disposition"] = f'attachment; filename="{found.name}"'
    return response
