"""Projects, Build and Dry fit over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from itertools import accumulate, chain
from typing import Any

import numpy as np
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema, Status

from apps.accounts.access import Refused, mine, require_role
from apps.accounts.models import Role
from apps.designs import convert, jobs, queries, services
from apps.designs.models import Project, Revision, StageJob
from apps.told import told
from notchcore.check.dryfit import MeetingOdds, as_cut, meeting_odds, meeting_sd
from notchcore.design.assembly import Fact, JointFeature, Mark, Meeting, Part, drawn_width, extent_of
from notchcore.design.design import Design
from notchcore.design.families.registry import Numbers
from notchcore.design.picture import Picture, picture_of
from notchcore.design.scaling import scaled, with_variant
from notchcore.design.sizes import Along, Pinned, drawn_size, pinned, size_ledger
from notchcore.design.styles import ABOUT, Style, named
from notchcore.errors import NotchCoreError
from notchcore.findings import Finding
from notchcore.formats.names import file_stem
from notchcore.formats.solid import gltf, stl
from notchcore.geom.profile import Profile, Ring
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2
from notchcore.ids import MeetingId
from notchcore.ledger import Quantity
from notchcore.measure.fit import Boundaries, Feel
from notchcore.measure.stock import Stock
from notchcore.words.facts import Sentence
from notchcore.words.render import say

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


class VariantIn(Schema):
    base: int
    name: str


class ScaleIn(Schema):
    base: int
    factor: float


class NameIn(Schema):
    name: str


class Conflict(Schema):
    code: str = "designs.saved_meanwhile"
    says: Sentence
    theirs: ProjectOut


class FeatureOut(Schema):
    id: str
    meeting: str
    kind: str
    corners: tuple[Vec2, Vec2, Vec2, Vec2]
    width_mm: float


class PartOut(Schema):
    id: str
    panel: str  #: that it is, or is a piece of
    label: str
    stock: str
    pose: Pose
    low: float
    high: float
    profile: Profile
    marks: tuple[Mark, ...]
    features: list[FeatureOut]
    copies: int
    spares: int
    helper: bool
    reverse: bool
    falls_from: str


class MeetingRow(Schema):
    """A meeting as lists show it; what is behind its clearance is asked for one at a time."""

    id: str
    kind: str
    a: str
    b: str
    style: Style
    name: str  #: what makes the joint, in words
    count: int
    feel: Feel | None
    clearance: float | None  #: as it comes out on this machine
    sd: float  #: of the clearance
    pair: str  #: of stocks, a key of `boundaries`


class Named(Schema):
    """Something that is not there any more, or not now."""

    id: str
    label: str


class BuildOut(Schema):
    built_from: str
    parts: list[PartOut]
    meetings: list[MeetingRow]
    boundaries: dict[str, Boundaries]  #: by pair, as the meetings name it
    findings: list[Finding]
    stocks: dict[str, Stock]
    facts: list[Fact]
    size_mm: float  #: from corner to corner of the box that holds everything
    pins: list[Pinned]
    orphans: list[Named]  #: meetings with choices whose panels no longer meet
    left_out: list[Named]  #: panels


class SavedOut(ProjectOut):
    build: BuildOut | None  #: where it was asked for


class FeatureLedger(Schema):
    feature: JointFeature
    part_label: str
    drawn: Quantity


class SizeLedger(Schema):
    part_label: str
    finished: Quantity
    drawn: Quantity


class StyleOut(Schema):
    """A way in which a meeting may be joined."""

    style: Style
    label: str
    counted: str  #: what there may be more or fewer of; "" for nothing
    wide: str  #: what the size may be wished of
    proud: bool  #: how far tabs stand out may be wished


class MeetingOut(Schema):
    meeting: Meeting
    name: str  #: what makes the joint, in words
    ways: list[StyleOut]
    odds: MeetingOdds | None
    boundaries: Boundaries
    features: list[FeatureLedger]


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
        id=project.pk, name=project.name, revision=project.head, revision_label=head.label, author=head.author.get_username(), saved=head.created,
        can_undo=head.parent is not None, can_redo=bool(project.redo), deadline=project.deadline, machine=str(project.machine_id),
        is_test=project.is_test, design=convert.design_of(head),
    )  # fmt: skip


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
def save_design(request: HttpRequest, project_id: int, body: DesignIn, built: bool = False) -> Status[SavedOut] | Status[Conflict] | HttpResponse:
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
        assembled = _build_out(queries.current(row))
    except NotchCoreError:  # saved it is; why it cannot be built is told to whoever asks for that
        assembled = None
    return HttpResponse(SavedOut.model_construct(**dict(out), build=assembled).model_dump_json(), content_type="application/json")


@router.post("/projects/{project_id}/scale", response={200: ProjectOut, 409: Conflict}, operation_id="scaleDesign")
def scale_design(request: HttpRequest, project_id: int, body: ScaleIn) -> Status[ProjectOut] | Status[Conflict]:
    """Make the design larger or smaller; joints, fits and holes for hands stay as they are."""
    member = require_role(request, Role.DESIGNER)
    now = queries.current(project_row(request, project_id))
    try:
        row = services.save_design(
            project_id=project_id, member=member, base=body.base, design=scaled(now.design, body.factor), label=f"Scaled to {body.factor:.0%}"
        )
    except services.SavedMeanwhile as problem:
        return conflict(project_id, problem)
    return Status(200, project_out(row))


@router.post("/projects/{project_id}/variant", response={200: ProjectOut, 409: Conflict}, operation_id="chooseVariant")
def choose_variant(request: HttpRequest, project_id: int, body: VariantIn) -> Status[ProjectOut] | Status[Conflict]:
    """Choose another of the kept variants; what was chosen is kept as it is now."""
    member = require_role(request, Role.DESIGNER)
    now = queries.current(project_row(request, project_id))
    try:
        chosen = with_variant(now.design, body.name)
        row = services.save_design(project_id=project_id, member=member, base=body.base, design=chosen, label=f"Variant {body.name} chosen")
    except services.SavedMeanwhile as problem:
        return conflict(project_id, problem)
    return Status(200, project_out(row))


@router.get("/projects/{project_id}/parts/{part_id}/why", response=FeatureLedger, operation_id="whyFeature")
def why_feature(request: HttpRequest, project_id: int, part_id: str, feature: str) -> FeatureLedger:
    """Return the ledger of one opening that belongs to no meeting, up to the width in the file."""
    now = queries.current(project_row(request, project_id))
    for part in now.assembly.parts:
        for f in part.features:
            if part.id == part_id and f.id == feature:
                return FeatureLedger(feature=f, part_label=part.label, drawn=drawn_width(f, now.stocks[part.stock].kerf))
    raise Refused(404, say("no_such_opening"))


@router.get("/projects/{project_id}/parts/{part_id}/size", response=SizeLedger, operation_id="whySize")
def why_size(request: HttpRequest, project_id: int, part_id: str, along: Along) -> SizeLedger:
    """Return the ledger of a part's width or height: which numbers and thicknesses it follows."""
    now = queries.current(project_row(request, project_id))
    finished = size_ledger(now.design, now.assembly, now.stocks, part_id, along, drawings=convert.drawings_for(now.project, now.design), bed=now.measured.bed)
    part = now.assembly.part(part_id)
    return SizeLedger(part_label=part.label, finished=finished, drawn=drawn_size(finished, now.stocks[part.stock].kerf))


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


def _shown(*rings: Ring) -> list[Any]:
    """Return rings with a tenth of a thousandth: they are shown, not cut, and the answer is half as long."""
    flat = np.fromiter(chain.from_iterable(chain.from_iterable(rings)), dtype=float)
    rounded = np.round(flat, 4).reshape(-1, 2).tolist()
    ends = list(accumulate(map(len, rings)))
    points = list(map(tuple, rounded))
    return [tuple(points[start:end]) for start, end in zip([0, *ends], ends, strict=False)]


def _part_out(part: Part) -> PartOut:
    outer, *holes = _shown(part.profile.outer, *part.profile.holes)
    rounded = Profile(outer=outer, holes=tuple(holes), circles=part.profile.circles)
    corners = _shown(*(f.corners for f in part.features))
    return PartOut.model_construct(
        id=part.id, panel=part.panel, label=part.label, stock=part.stock, pose=part.pose, low=part.low, high=part.high, profile=rounded, marks=part.marks,
        copies=part.copies, spares=part.spares, helper=part.helper, reverse=part.reverse, falls_from=part.falls_from,
        features=[
            FeatureOut.model_construct(id=f.id, meeting=f.meeting, kind=f.kind.value, corners=shown, width_mm=round(f.width.value, 4))
            for f, shown in zip(part.features, corners, strict=True)
        ],
    )  # fmt: skip


def _build_out(now: queries.Current) -> BuildOut:
    rows, boundaries = _meeting_rows(now)
    lost = sorted(set(now.design.choices) - {m.id for m in now.assembly.meetings})
    # Constructed, not checked: the framework would look at each of these thousands of values twice.
    return BuildOut.model_construct(
        built_from=now.built_from,
        parts=[_part_out(p) for p in now.assembly.parts],
        meetings=rows,
        boundaries=boundaries,
        findings=list(now.assembly.findings),
        stocks=now.stocks,
        facts=list(now.assembly.facts),
        size_mm=extent_of(now.assembly),
        pins=list(pinned(now.assembly, now.design.pins, now.stocks)),
        orphans=[Named(id=i, label=" with ".join(map(now.assembly.name_of, MeetingId.parse(i).parts))) for i in lost],
        left_out=[Named(id=i, label=name) for i, name in now.assembly.left_out.items()],
    )


@router.get("/projects/{project_id}/build", response=BuildOut, operation_id="build")
def build(request: HttpRequest, project_id: int) -> HttpResponse:
    return HttpResponse(_build_out(queries.current(project_row(request, project_id))).model_dump_json(), content_type="application/json")


@router.get("/projects/{project_id}/meetings/{meeting_id}", response=MeetingOut, operation_id="meeting")
def meeting(request: HttpRequest, project_id: int, meeting_id: str) -> MeetingOut:
    """Return everything about one meeting: choices, odds, and the ledger of each feature up to the width in the file."""
    now = queries.current(project_row(request, project_id))
    found = next((m for m in now.assembly.meetings if m.id == meeting_id), None)
    if found is None:
        raise Refused(404, say("no_longer_meet"))
    parts = {p.id: p for p in now.assembly.parts}
    ledgers = [
        FeatureLedger(feature=f, part_label=p.label, drawn=drawn_width(f, now.stocks[p.stock].kerf))
        for p in (parts[found.a], parts[found.b])
        for f in p.features
        if f.meeting == meeting_id
    ]
    pair = (now.stocks[parts[found.a].stock].key, now.stocks[parts[found.b].stock].key)
    odds = next((o for o in meeting_odds(now.assembly, now.stocks, now.fits) if o.meeting == meeting_id), None)
    ways = [StyleOut(style=s, label=a.label, counted=a.counted, wide=a.wide, proud=a.proud) for s in found.ways or (found.style,) for a in [ABOUT[s]]]
    return MeetingOut(meeting=found, name=named(found.style, found.count), ways=ways, odds=odds, boundaries=now.fits.between(*pair), features=ledgers)


@router.get("/projects/{project_id}/picture", response=Picture, operation_id="picture")
def picture(request: HttpRequest, project_id: int) -> Picture:
    """Return the drawn picture of the assembly with the family's numbers; apart from Build, which need not wait for it."""
    return picture_of(queries.current(project_row(request, project_id)).assembly)


SOLIDS = {"stl": (stl, "model/stl"), "glb": (gltf, "model/gltf-binary")}


@router.get("/projects/{project_id}/assembly.{kind}", operation_id="assemblySolid")
def assembly_solid(request: HttpRequest, project_id: int, kind: str) -> HttpResponse:
    """Return the assembly as it goes together, as STL or binary glTF."""
    if kind not in SOLIDS:
        raise Refused(404, say("solid_kinds"))
    project = project_row(request, project_id)
    now = queries.current(project)
    if not now.assembly.parts:
        raise Refused(422, say("no_parts_to_show"))
    write, mime = SOLIDS[kind]
    name = f"{file_stem(project.name, otherwise='assembly')}.{kind}"
    return HttpResponse(write(now.assembly, name=project.name), content_type=mime, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def _meeting_rows(now: queries.Current) -> tuple[list[MeetingRow], dict[str, Boundaries]]:
    stock = {p.id: now.stocks[p.stock] for p in now.assembly.parts}
    boundaries: dict[str, Boundaries] = {}
    rows = []
    for m in now.assembly.meetings:
        pair = f"{stock[m.a].id}+{stock[m.b].id}"
        if pair not in boundaries:
            boundaries[pair] = now.fits.between(stock[m.a].key, stock[m.b].key)
        sd = meeting_sd(m, now.stocks, boundaries[pair], now.fits) if m.clearance else 0.0
        rows.append(
            MeetingRow.model_construct(
                id=m.id,
                kind=m.kind,
                a=m.a,
                b=m.b,
                style=m.style,
                name=named(m.style, m.count),
                count=m.count,
                feel=m.feel,
                clearance=as_cut(m, now.stocks, now.fits) if m.clearance else None,
                sd=sd,
                pair=pair,
            )
        )
    return rows, boundaries
