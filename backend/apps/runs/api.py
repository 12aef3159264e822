"""Run over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema, Status

from apps.accounts.access import mine, require_role
from apps.accounts.models import Role
from apps.designs.api import project_row
from apps.plans.services import learned, stored_plan
from apps.runs import registration, services
from apps.runs.leftovers import REMAINS
from apps.runs.models import Run
from apps.runs.tasks import follow_run
from apps.told import told
from notchcore.geom.leftover import Remains
from notchcore.ids import part_of_path
from notchcore.plan.registration import MarksRead
from notchcore.run.recut import Fate
from notchcore.words.facts import Sentence

router = Router(tags=["runs"])


class RunLog(Schema):
    actual_s: float
    good: int
    spoiled: int = 0
    cut_through: int = 100
    feel: Literal["", "rattles", "slides", "snug", "mallet", "wont_go"] = ""
    note: str = Field(default="", max_length=2000)
    bad: list[str] = []  #: which pieces were spoiled, as the run names them
    keep: list[int] = []  #: which of `remains` become offcuts on the shelf
    sheet_spoiled: bool = False  #: nothing of this sheet is good


class LoggedRun(RunLog):
    learned: bool = False  #: the fits have learned from its feel


class RunOut(Schema):
    id: int
    sheet: int
    sheet_name: str
    revision: int
    plan_print: str
    state: str
    says: Sentence | None  #: what is to be known of its state
    progress: dict[str, object]
    at_part: str  #: where the beam is; "" between two parts
    expected_s: float
    parts: list[str]
    by: str
    created: datetime
    logged: datetime | None
    log: LoggedRun | None
    last: bool  #: no other run of its sheet comes after it
    going_on: list[Sentence]  #: what must be ticked before an interrupted run goes on
    remains: list[Remains]  #: of its sheet, worth keeping; until it is in the log


class RunsOut(Schema):
    runs: list[RunOut]
    checklists: dict[int, list[Sentence]]
    factor: float
    factor_runs: int


class RecutRowOut(Schema):
    part: str
    label: str
    fate: Fate
    wanted: int
    good: int


class LeftOver(Schema):
    label: str
    count: int


class RecutOut(Schema):
    rows: list[RecutRowOut]
    left_over: list[LeftOver]


class RunIn(Schema):
    sheet: int
    ticked: list[str]
    fault: Literal["", "lid", "flame"] = ""
    found: list[tuple[float, float]] = Field(default=[], max_length=12)  #: marks as they were read


class RegistrationIn(Schema):
    sheet: int
    found: list[tuple[float, float]] = Field(default=[], max_length=12)  #: as a person read them; none: the camera looks
    practise: Literal["", "not_turned", "other_edge"] = ""


class RegistrationOut(Schema):
    found: list[tuple[float, float]]
    read: MarksRead


class GoOnIn(Schema):
    ticked: list[str]


class CommandIn(Schema):
    command: Literal["pause", "resume", "stop"]


def run_out(run: Run) -> RunOut:
    return RunOut(
        id=run.pk,
        sheet=run.sheet,
        sheet_name=run.sheet_name,
        revision=run.revision,
        plan_print=run.plan_print,
        state=run.state,
        says=told(run.says),
        progress=run.progress,
        at_part=part_of_path(str(run.progress.get("path", ""))),
        expected_s=run.expected_s,
        parts=run.parts,
        by=run.by.get_username(),
        created=run.created,
        logged=run.logged,
        log=LoggedRun(**run.log) if run.log else None,
        last=run.last,
        going_on=services.before_going_on(run),
        remains=[] if run.logged else REMAINS.validate_python(run.remains),
    )


@router.get("/projects/{project_id}/runs", response=RunsOut, operation_id="runs")
def runs(request: HttpRequest, project_id: int) -> RunsOut:
    project = project_row(request, project_id)
    services.settle_lost()
    stored = stored_plan(project)
    sheets = len(stored[1].sheets) if stored else 0
    factor = learned(project)
    return RunsOut(
        runs=[run_out(r) for r in Run.objects.select_related("by", "project").defer("moves").filter(project=project).order_by("-pk")[:100]],
        checklists={n: services.checklist_for(project, n) for n in range(1, sheets + 1)},
        factor=factor.factor,
        factor_runs=factor.runs,
    )


@router.get("/projects/{project_id}/recut", response=RecutOut, operation_id="recut")
def recut(request: HttpRequest, project_id: int) -> RecutOut:
    """Tell what of the pieces already cut still serves for the head revision."""
    found = services.recut_of(project_row(request, project_id))
    rows = [RecutRowOut(part=r.part, label=r.label, fate=r.fate, wanted=r.wanted, good=r.good) for r in found.rows]
    return RecutOut(rows=rows, left_over=[LeftOver(label=label, count=count) for label, count in found.left_over])


def _run(request: HttpRequest, run_id: int) -> Run:
    return get_object_or_404(mine(request, Run, "project__shop").select_related("by", "project").defer("moves"), pk=run_id)


@router.post("/projects/{project_id}/runs", response={201: RunOut}, operation_id="startRun")
def start_run(request: HttpRequest, project_id: int, body: RunIn) -> Status[RunOut]:
    member = require_role(request, Role.OPERATOR)
    run = services.start_run(project=project_row(request, project_id), member=member, **body.dict())
    follow_run.defer(run_id=run.pk)
    return Status(201, run_out(run))


@router.post("/projects/{project_id}/runs/registration", response=RegistrationOut, operation_id="readRegistration")
def read_registration(request: HttpRequest, project_id: int, body: RegistrationIn) -> RegistrationOut:
    """Look for the registration marks of a run, and tell how its sheet lies."""
    require_role(request, Role.OPERATOR)
    project = project_row(request, project_id)
    found = body.found or registration.looked_up(project, body.sheet, practise=body.practise)
    return RegistrationOut(found=found, read=registration.read(project, body.sheet, found=found))


@router.get("/runs/{run_id}", response=RunOut, operation_id="run")
def run(request: HttpRequest, run_id: int) -> RunOut:
    return run_out(_run(request, run_id))


@router.post("/runs/{run_id}/command", response=RunOut, operation_id="commandRun")
def command(request: HttpRequest, run_id: int, body: CommandIn) -> RunOut:
    require_role(request, Role.OPERATOR)
    services.command(run=_run(request, run_id), name=body.command)
    return run_out(_run(request, run_id))


@router.post("/runs/{run_id}/go-on", response={201: RunOut}, operation_id="goOnWithRun")
def go_on(request: HttpRequest, run_id: int, body: GoOnIn) -> Status[RunOut]:
    """Burn the rest of an interrupted run."""
    member = require_role(request, Role.OPERATOR)
    run = services.go_on(run=_run(request, run_id), member=member, ticked=body.ticked)
    follow_run.defer(run_id=run.pk)
    return Status(201, run_out(run))


@router.post("/runs/{run_id}/log", response=RunOut, operation_id="logRun")
def log(request: HttpRequest, run_id: int, body: RunLog) -> RunOut:
    require_role(request, Role.OPERATOR)
    _run(request, run_id)
    return run_out(services.log_run(run_id=run_id, **body.dict()))


@router.post("/runs/{run_id}/learn", response=RunOut, operation_id="learnFromRun")
def learn(request: HttpRequest, run_id: int) -> RunOut:
    """Let the fits learn from how the joints of a logged run felt."""
    member = require_role(request, Role.OPERATOR)
    _run(request, run_id)
    return run_out(services.learn_from(run_id=run_id, member=member))
