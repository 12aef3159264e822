"""Cut plan over HTTP."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from ninja.errors import HttpError

from apps.accounts.access import member_of, require_role
from apps.accounts.models import Role
from apps.designs import jobs
from apps.designs.api import JobOut, job_out, project_row
from apps.designs.models import Project, Stage
from apps.plans import services
from apps.plans.tasks import plan_job
from notchcore.measure.machine import Machine, Settings
from notchcore.measure.stock import Stock
from notchcore.plan.cutplan import CutPlan

router = Router(tags=["plans"])
PATHS_AT_ONCE = 150  # longer plans go to the worker


class PlanOut(Schema):
    laid_out: bool
    layout_fresh: bool
    fresh: bool
    revision: int | None
    plan_print: str | None
    plan: CutPlan | None
    machine: Machine | None
    settings: dict[str, Settings]
    stocks: dict[str, Stock]
    labels: dict[str, str]
    factor: float
    factor_runs: int
    job: JobOut | None


def _out(project: Project) -> PlanOut:
    job = jobs.latest(project, Stage.PLAN)  # before its result: a job that has ended has left its last one
    inputs, stored, factor = services.inputs_of(project), services.stored_plan(project), services.learned(project)
    return PlanOut(
        laid_out=inputs is not None,
        layout_fresh=inputs is not None and inputs.layout_fresh,
        fresh=stored is not None and inputs is not None and inputs.layout_fresh and stored[0].made_from == inputs.made_from,
        revision=stored[0].revision if stored else None,
        plan_print=stored[0].made_from if stored else None,
        plan=stored[1] if stored else None,
        machine=inputs.machine if inputs else None,
        settings=inputs.settings if inputs else {},
        stocks=inputs.now.stocks if inputs else {},
        labels={p.id: p.label for p in inputs.now.assembly.parts} if inputs else {},
        factor=factor.factor,
        factor_runs=factor.runs,
        job=job_out(job),
    )


@router.get("/projects/{project_id}/plan", response=PlanOut, operation_id="cutPlan")
def get_plan(request: HttpRequest, project_id: int) -> PlanOut:
    return _out(project_row(request, project_id))


@router.post("/projects/{project_id}/plan", response=PlanOut, operation_id="makePlan")
def make_plan(request: HttpRequest, project_id: int) -> PlanOut:
    """Plan the cuts: at once for a few paths, in the worker for many."""
    require_role(request, Role.OPERATOR)
    project = project_row(request, project_id)
    inputs = services.inputs_of(project)
    paths = 0
    if inputs is not None:
        parts = {p.id: 1 + len(p.profile.holes) + len(p.marks) for p in inputs.now.assembly.parts}
        paths = sum(parts.get(pl.part, 0) for s in inputs.nesting.sheets for pl in s.placements)
    if inputs is None or paths <= PATHS_AT_ONCE:
        services.make_plan(project)
    else:
        jobs.request_job(project=project, stage=Stage.PLAN, made_from=inputs.made_from, request={}, defer=lambda pk: plan_job.defer(job_id=pk))
    return _out(project)


@router.get("/projects/{project_id}/files/{name}", operation_id="file")
def file(request: HttpRequest, project_id: int, name: str) -> HttpResponse:
    member_of(request)
    project = project_row(request, project_id)
    found = services.bundle(project) if name == "all.zip" else services.files_of(project).get(name)
    if found is None:
        raise HttpError(404, "There is no such file in this plan.")
    response = HttpResponse(found.content, content_type=found.kind)
    response["Content-Disposition"] = f'attachment; filename="{found.name}"'
    return response
