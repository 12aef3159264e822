"""Lay out over HTTP."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from apps.accounts.access import require_role
from apps.accounts.models import Role
from apps.designs import jobs, queries
from apps.designs.api import JobOut, job_out, project_row
from apps.designs.models import Project, Stage
from apps.layouts import convert, services
from apps.layouts.tasks import pack_job
from apps.sheets.convert import machine_of, sheet_kind_of
from apps.sheets.models import Sheet
from notchcore.geom.profile import Profile
from notchcore.measure.stock import Stock
from notchcore.nest.values import Nesting, SheetKind

router = Router(tags=["layouts"])


class PackRequest(Schema):
    margin_mm: float
    spacing_mm: float
    keep_grain: bool
    copies: int
    seconds: float
    seed: int = 1
    only: dict[str, int] = {}  #: how many of which parts, where not all are wanted


class FlatPart(Schema):
    id: str
    label: str
    stock: str
    profile: Profile


class LayoutOut(Schema):
    fresh: bool
    revision: int | None
    nesting: Nesting | None
    request: PackRequest
    parts: list[FlatPart]
    stocks: dict[str, Stock]
    shelf: list[SheetKind]
    bed_mm: tuple[float, float]
    job: JobOut | None


def _out(project: Project) -> LayoutOut:
    job = jobs.latest(project, Stage.NEST)  # before its result: a job that has ended has left its last one
    now = queries.current(project)
    row = queries.result_of(project, Stage.NEST)
    used = {p.stock for p in now.assembly.parts}
    shelf = [sheet_kind_of(s) for s in Sheet.objects.filter(stock__shop=project.shop_id).order_by("pk") if str(s.stock_id) in used]
    machine = machine_of(project.machine)
    return LayoutOut(
        fresh=row is not None and row.made_from == now.parts_print,
        revision=row.revision if row else None,
        nesting=convert.NESTING.validate_python(row.payload["nesting"]) if row else None,
        request=PackRequest(**(row.payload["request"] if row else services.default_request(project))),
        parts=[FlatPart(id=p.id, label=p.label, stock=p.stock, profile=p.profile) for p in now.assembly.parts if not p.falls_from],
        stocks=now.stocks,
        shelf=shelf,
        bed_mm=(machine.bed_width, machine.bed_height),
        job=job_out(job),
    )


@router.get("/projects/{project_id}/layout", response=LayoutOut, operation_id="layout")
def layout(request: HttpRequest, project_id: int) -> LayoutOut:
    return _out(project_row(request, project_id))


@router.post("/projects/{project_id}/layout/pack", response=LayoutOut, operation_id="pack")
def start_packing(request: HttpRequest, project_id: int, body: PackRequest) -> LayoutOut:
    require_role(request, Role.DESIGNER)
    project = project_row(request, project_id)
    wanted = services.checked(body.dict())
    made_from = queries.current(project).parts_print
    jobs.request_job(project=project, stage=Stage.NEST, made_from=made_from, request=wanted, defer=lambda pk: pack_job.defer(job_id=pk))
    return _out(project)


@router.post("/projects/{project_id}/layout/stop", response=LayoutOut, operation_id="stopPacking")
def stop_packing(request: HttpRequest, project_id: int) -> LayoutOut:
    require_role(request, Role.DESIGNER)
    project = project_row(request, project_id)
    jobs.ask_stop(project=project, stage=Stage.NEST)
    return _out(project)
