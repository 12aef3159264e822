"""Projects, Build and Dry fit over HTTP."""

from __future__ import annotations

from datetime import date, datetime

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema, Status

from apps.accounts.access import mine, require_role
from apps.accounts.models import Member as ShopMember
from apps.accounts.models import Role
from apps.designs import convert, exchange, jobs, queries, services
from apps.designs.built import BuildOut, build_out
from apps.designs.models import Project, Revision, StageJob
from apps.told import told
from notchcore.design.design import Design
from notchcore.design.families.registry import Numbers
from notchcore.design.filling import DRAWER_PLAY, filled
from notchcore.design.items import body_of, with_body
from notchcore.design.laying import laid_on
from notchcore.design.scaling import scaled
from notchcore.design.variants import in_words, with_choice
from notchcore.errors import DesignError, NotchCoreError
from notchcore.ids import MAIN
from notchcore.measure.fit import Feel
from notchcore.words.facts import Sentence, Share
from notchcore.words.render import plain, say

router = Router(tags=["designs"])


class ProjectOut(Schema):
    id: int
    name: str
    revision: int
    revision_label: str
    author: str
    saved: datetime
    can_undo: bool
    can_redo: bool
    deadline: date | None
    machine: str  #: id
    is_test: bool  #: a test card of Sheets
    design: Design


class ProjectIn(Schema):
    name: str = Field(max_length=80)
    numbers: Numbers | None = None  #: a box when none are given
    stock: int | None = None  #: for all panels; the best measured one when none is named
    feel: Feel = Feel.SNUG


class DesignIn(Schema):
    base: int
    design: convert.AnyDesign
    label: str = Field(max_length=120)


class StepIn(Schema):
    base: int


class LayOnIn(Schema):
    base: int
    part: str  #: of the item that is laid, as the whole project names it
    onto: str  #: the part on whose outer face it shall lie


class VariantIn(Schema):
    base: int
    choice: dict[str, str]  #: an alternative for each of some variations, both by name
    item: str = ""  #: of which alone; else of the project, and of its items where they have a variation of that name


class ScaleIn(Schema):
    base: int
    factor: float
    item: str = ""  #: that is scaled alone


class FillIn(Schema):
    base: int
    host: str = MAIN  #: item
    play: float = Field(default=DRAWER_PLAY, ge=0, le=50)
    rooms: list[str] = Field(default=[], max_length=200)  #: all empty ones where none are named


class BringIn(Schema):
    base: int
    project: int  #: of the same shop: as it stands now, it becomes an item


class NameIn(Schema):
    name: str


class Conflict(Schema):
    code: str = "designs.saved_meanwhile"
    says: Sentence
    theirs: ProjectOut


class SavedOut(ProjectOut):
    build: BuildOut | None  #: where it was asked for


class JobOut(Schema):
    state: str
    says: Sentence | None
    progress: dict[str, object]
    before: int  #: jobs that come before it, while it waits
    lost: bool  #: its worker was lost: it may begin again by itself


def project_row(request: HttpRequest, project_id: int) -> Project:
    return get_object_or_404(mine(request, Project).select_related("machine", "shop"), pk=project_id)


def project_out(project: Project) -> ProjectOut:
    head = Revision.objects.select_related("author").get(project=project, number=project.head)
    return ProjectOut(
        id=project.pk,
        name=project.name,
        revision=project.head,
        revision_label=head.label,
        author=head.author.get_username(),
        saved=head.created,
        can_undo=head.parent is not None,
        can_redo=bool(project.redo),
        deadline=project.deadline,
        machine=str(project.machine_id),
        is_test=project.is_test,
        design=convert.design_of(head),
    )


def job_out(job: StageJob | None) -> JobOut | None:
    return None if job is None else JobOut(state=job.state, says=told(job.says), progress=job.progress, before=jobs.before(job), lost=jobs.is_lost(job))


def conflict(project_id: int, problem: services.SavedMeanwhile) -> Status[Conflict]:
    theirs = project_out(Project.objects.get(pk=project_id))
    says = say("saved_meanwhile", by=problem.head.author.get_username(), revision=problem.head.number, what=problem.head.label)
    return Status(409, Conflict(says=says, theirs=theirs))


@router.post("/projects", response={201: ProjectOut}, operation_id="startProject")
def start_project(request: HttpRequest, body: ProjectIn) -> Status[ProjectOut]:
    member = require_role(request, Role.DESIGNER)
    return Status(201, project_out(services.start_project(member=member, name=body.name, numbers=body.numbers, stock_id=body.stock, feel=body.feel)))


@router.get("/projects/{project_id}", response=ProjectOut, operation_id="project")
def project(request: HttpRequest, project_id: int) -> ProjectOut:
    return project_out(project_row(request, project_id))


@router.put("/projects/{project_id}/name", response=ProjectOut, operation_id="renameProject")
def rename(request: HttpRequest, project_id: int, body: NameIn) -> ProjectOut:
    require_role(request, Role.DESIGNER)
    row = project_row(request, project_id)
    services.rename(project=row, name=body.name)
    return project_out(row)


@router.put("/projects/{project_id}/design", response={200: SavedOut, 409: Conflict}, operation_id="saveDesign")
def save_design(
    request: HttpRequest,
    project_id: int,
    body: DesignIn,
    built: bool = False,
    item: str = "",
) -> Status[SavedOut] | Status[Conflict] | HttpResponse:
    """Save a design as a new revision; with `built` the answer holds what it comes to, so that nobody asks twice."""
    member = require_role(request, Role.DESIGNER)
    project_row(request, project_id)
    try:
        row = services.save_design(project_id=project_id, member=member, base=body.base, design=body.design, label=body.label)
    except services.SavedMeanwhile as problem:
        return conflict(project_id, problem)
    out = project_out(row)
    if not built:
        return Status(200, SavedOut(**dict(out), build=None))
    try:
        assembled = build_out(queries.current(row), item)
    except NotchCoreError:  # saved it is; why it cannot be built is told to whoever asks for that
        assembled = None
    return HttpResponse(SavedOut.model_construct(**dict(out), build=assembled).model_dump_json(), content_type="application/json")


@router.post("/projects/{project_id}/scale", response={200: ProjectOut, 409: Conflict}, operation_id="scaleDesign")
def scale_design(request: HttpRequest, project_id: int, body: ScaleIn) -> Status[ProjectOut] | Status[Conflict]:
    """Make the design larger or smaller; joints, fits and holes for hands stay as they are."""
    member = require_role(request, Role.DESIGNER)
    now = queries.current(project_row(request, project_id))
    larger = with_body(now.design, body.item, body=scaled(body_of(now.design, body.item), body.factor)) if body.item else scaled(now.design, body.factor)
    return _saved(project_id, member, base=body.base, design=larger, label=plain(say("revision.scaled", factor=Share(body.factor))))


@router.post("/projects/{project_id}/variant", response={200: ProjectOut, 409: Conflict}, operation_id="chooseVariant")
def choose_variant(request: HttpRequest, project_id: int, body: VariantIn) -> Status[ProjectOut] | Status[Conflict]:
    """Choose alternatives of what varies; those that were chosen are kept as they are now."""
    member = require_role(request, Role.DESIGNER)
    now = queries.current(project_row(request, project_id))
    design = now.design
    chosen = with_body(design, body.item, body=with_choice(body_of(design, body.item), body.choice)) if body.item else with_choice(design, body.choice)
    return _saved(project_id, member, base=body.base, design=chosen, label=plain(say("revision.chosen", choice=in_words(body.choice))))


def _step(request: HttpRequest, project_id: int, base: int, *, back: bool) -> Status[ProjectOut] | Status[Conflict]:
    require_role(request, Role.DESIGNER)
    project_row(request, project_id)
    try:
        return Status(200, project_out(services.step(project_id=project_id, base=base, back=back)))
    except services.SavedMeanwhile as problem:
        return conflict(project_id, problem)


@router.post("/projects/{project_id}/undo", response={200: ProjectOut, 409: Conflict}, operation_id="undo")
def undo(request: HttpRequest, project_id: int, body: StepIn) -> Status[ProjectOut] | Status[Conflict]:
    return _step(request, project_id, body.base, back=True)


@router.post("/projects/{project_id}/redo", response={200: ProjectOut, 409: Conflict}, operation_id="redo")
def redo(request: HttpRequest, project_id: int, body: StepIn) -> Status[ProjectOut] | Status[Conflict]:
    return _step(request, project_id, body.base, back=False)


@router.post("/projects/{project_id}/items/fill", response={200: ProjectOut, 409: Conflict}, operation_id="fillRooms")
def fill_rooms(request: HttpRequest, project_id: int, body: FillIn) -> Status[ProjectOut] | Status[Conflict]:
    """Put a box into each empty room of an item: further items, that follow their rooms."""
    member = require_role(request, Role.DESIGNER)
    now = queries.current(project_row(request, project_id))
    host = next((m for m in now.members if m.id == body.host), None)
    if host is None:
        raise DesignError(say("no_such_item"))
    design = filled(now.design, host, play=body.play, rooms=body.rooms)
    names = ", ".join(i.label for i in design.items[len(now.design.items) :])
    return _saved(project_id, member, base=body.base, design=design, label=plain(say("revision.added", what=names)))


@router.post("/projects/{project_id}/items/bring", response={200: ProjectOut, 409: Conflict}, operation_id="bringProject")
def bring_project(request: HttpRequest, project_id: int, body: BringIn) -> Status[ProjectOut] | Status[Conflict]:
    """Take in another project of the shop, as it stands now, as an item; its items become items of this one."""
    member = require_role(request, Role.DESIGNER)
    now, other = queries.current(project_row(request, project_id)), project_row(request, body.project)
    if now.revision.number != body.base:  # before anything is copied
        return conflict(project_id, services.SavedMeanwhile(head=now.revision))
    design = exchange.with_project(now.project, now.design, other=other)
    return _saved(project_id, member, base=body.base, design=design, label=plain(say("revision.added", what=other.name)))


@router.post("/projects/{project_id}/items/{item}/follow", response={200: ProjectOut, 409: Conflict}, operation_id="followProject")
def follow_project(request: HttpRequest, project_id: int, item: str, body: StepIn) -> Status[ProjectOut] | Status[Conflict]:
    """Bring an item up to what the project that it came from is now; where it stands, and how many there are, stay."""
    member = require_role(request, Role.DESIGNER)
    now = queries.current(project_row(request, project_id))
    if now.revision.number != body.base:
        return conflict(project_id, services.SavedMeanwhile(head=now.revision))
    found = next((i for i in now.design.items if i.id == item), None)
    if found is None or found.source is None:
        raise DesignError(say("no_such_item"))
    other = project_row(request, int(found.source.project))
    design = exchange.brought_up(now.project, now.design, item=item, other=other)
    return _saved(project_id, member, base=body.base, design=design, label=plain(say("revision.followed", item=found.label, project=other.name)))


@router.post("/projects/{project_id}/lay-on", response={200: ProjectOut, 409: Conflict}, operation_id="layOn")
def lay_on(request: HttpRequest, project_id: int, body: LayOnIn) -> Status[ProjectOut] | Status[Conflict]:
    """Lay an item with the outer face of one of its parts on that of another item's part; nothing else moves."""
    member = require_role(request, Role.DESIGNER)
    now = queries.current(project_row(request, project_id))
    if now.revision.number != body.base:
        return conflict(project_id, services.SavedMeanwhile(head=now.revision))
    design = laid_on(now.design, part=body.part, onto=body.onto, built=lambda own: queries.assembly_for(now.project, own, measured=now.measured))
    names = {p.id: p.label for p in now.assembly.parts}
    return _saved(project_id, member, base=body.base, design=design, label=plain(say("revision.laid_on", part=names[body.part], onto=names[body.onto])))


def _saved(project_id: int, member: ShopMember, *, base: int, design: Design, label: str) -> Status[ProjectOut] | Status[Conflict]:
    try:
        return Status(200, project_out(services.save_design(project_id=project_id, member=member, base=base, design=design, label=label)))
    except services.SavedMeanwhile as problem:
        return conflict(project_id, problem)
