"""Lay out over HTTP."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from django.http import HttpRequest
from ninja import Body, Router, Schema, Status

from apps.accounts.access import require_role
from apps.accounts.models import Role
from apps.designs import jobs, queries
from apps.designs.api import JobOut, job_out, project_row
from apps.designs.models import Project, Stage, StageResult
from apps.layouts import byhand, convert, services
from apps.layouts.tasks import pack_job
from apps.sheets.convert import machine_of, sheet_kind_of
from apps.sheets.models import Sheet
from notchcore.design.alike import likes_of
from notchcore.design.assembly import Part
from notchcore.design.fallen import falling_out, kept_whole
from notchcore.design.filling import first_name
from notchcore.geom.profile import Profile, Ring
from notchcore.measure.machine import KerfPlace
from notchcore.measure.stock import Stock
from notchcore.nest.asked import Asked
from notchcore.nest.bed import laid_on_bed
from notchcore.nest.manual import Move
from notchcore.nest.shares import shares_of
from notchcore.nest.supply import Need, needs
from notchcore.nest.values import Nesting, SheetKind
from notchcore.nest.wanted import one_faced, two_faced

router = Router(tags=["layouts"])


class FlatPart(Schema):
    id: str
    label: str
    stock: str
    profile: Profile
    copies: int
    spares: int
    helper: bool
    turns: list[int]  #: that it may be turned by [degrees]
    marked: bool  #: something is burned on its face, so that it cannot lie on its back
    backed: bool  #: it may lie on its back
    two_faced: bool  #: both its faces are burned, so that it can be laid in pairs
    reverse: bool  #: it must: it is burned from there
    falls_from: str  #: the part out of whose opening it falls, with each of that
    like: str  #: the first part that is cut and burned like it
    falling: dict[str, Ring]  #: the openings out of which parts fall, by the part


class PartAt(Schema):
    """One of equal parts."""

    part: str
    number: int


class MoveIn(PartAt):
    version: str  #: of the packing that it was moved on
    sheet: str
    sheet_copy: int
    turn: int
    x: float
    y: float
    mirrored: bool = False  #: it lies on its back
    settle: bool = False  #: push it to the nearest place that is right


class SwapIn(Schema):
    version: str
    sheet: str
    sheet_copy: int
    to_sheet: str
    to_copy: int


class LockIn(Schema):
    version: str
    parts: list[PartAt]
    locked: bool


class WayIn(Schema):
    version: str
    name: str


class WayOut(Schema):
    """One of the ways to lay the parts out that are kept beside each other."""

    name: str
    sheets: int
    price: float
    utilisation: float
    left_mm: tuple[float, float]  #: width and height of the largest rectangle that stays whole
    taken: bool


class ItemTakes(Schema):
    """What an item takes of the sheets that parts were laid on."""

    label: str
    pieces: int
    sheets: float
    price: float


class LayoutOut(Schema):
    fresh: bool
    version: str  #: tells one state of the packing from another
    locked: list[PartAt]  #: parts that stay when the rest is packed again
    ways: list[WayOut]  #: none when there is no other way worth telling
    revision: int | None
    nesting: Nesting | None
    request: Asked
    parts: list[FlatPart]
    stocks: dict[str, Stock]
    shelf: list[SheetKind]
    bed_mm: tuple[float, float]
    items: list[ItemTakes]  #: none where there is one item only, or nothing is laid out
    may_share: bool  #: the files hold the beam's own lines, so that two parts can share one
    job: JobOut | None


def _ways(row: StageResult | None) -> list[WayOut]:
    payload = row.payload if row else {}
    found = []
    for way in payload.get("ways", []):
        nesting = convert.NESTING.validate_python(way["nesting"])
        x0, y0, x1, y1 = max((s.leftover for s in nesting.sheets if s.leftover), key=lambda r: (r[2] - r[0]) * (r[3] - r[1]), default=(0.0,) * 4)
        found.append(
            WayOut(
                name=way["name"],
                sheets=len(nesting.sheets),
                price=nesting.price,
                utilisation=nesting.utilisation,
                left_mm=(x1 - x0, y1 - y0),
                taken=way["name"] == payload.get("way"),
            )
        )
    return found


def _takes(now: queries.Current, nesting: Nesting | None, *, shelf: Sequence[SheetKind]) -> list[ItemTakes]:
    """Return what each item takes of a layout."""
    labels = {"": now.design.name or first_name(now.design)} | now.assembly.items
    if nesting is None or not now.design.items:
        return []
    shares = shares_of(nesting, now.assembly.parts, prices={s.id: s.price for s in shelf})
    return [ItemTakes(label=labels.get(s.item, s.item), pieces=s.pieces, sheets=s.sheets, price=s.price) for s in shares if s.pieces]


def _flat(p: Part, parts: tuple[Part, ...], *, asked: Asked, like: str) -> FlatPart:
    return FlatPart(
        id=p.id,
        label=p.label,
        stock=p.stock,
        profile=kept_whole(p, parts),
        copies=p.copies,
        spares=p.spares,
        helper=p.helper,
        turns=list(asked.turns_of(p.id)),
        marked=one_faced(p),
        reverse=p.reverse,
        two_faced=two_faced(p),
        backed=asked.may_be_turned_over(p, parts),
        falls_from=p.falls_from,
        like=like,
        falling=falling_out(p, parts),
    )


def _out(project: Project) -> LayoutOut:
    job = jobs.latest(project, Stage.LAY_OUT)  # before its result: a job that has ended has left its last one
    now = queries.current(project)
    row = queries.result_of(now, Stage.LAY_OUT)
    used, likes = {p.stock for p in now.assembly.parts}, likes_of(now.assembly.parts)
    machine = machine_of(project.machine)
    asked = convert.ASKED.validate_python(row.payload["request"]) if row else services.default_request(project)
    rows = Sheet.objects.filter(stock__shop=project.shop_id).order_by("pk")
    shelf = [laid_on_bed(sheet_kind_of(s), services.rules_of(project, asked, stock=str(s.stock_id))) for s in rows if str(s.stock_id) in used]
    fresh = row is not None and row.made_from == now.parts_print
    nesting = convert.NESTING.validate_python(row.payload["nesting"]) if row else None
    return LayoutOut(
        fresh=fresh,
        version=byhand.version_of(row),
        locked=[PartAt(part=p, number=n) for p, n in (row.payload.get("locked", []) if row else [])],
        ways=_ways(row),
        revision=row.revision if row else None,
        nesting=nesting,
        items=_takes(now, nesting if fresh else None, shelf=shelf),
        request=asked,
        parts=[_flat(p, now.assembly.parts, asked=asked, like=likes[p.id]) for p in now.assembly.parts],
        stocks=now.stocks,
        shelf=shelf,
        bed_mm=(machine.bed_width, machine.bed_height),
        may_share=machine.kerf_place is KerfPlace.PATHS and not now.assembly.on_line,
        job=job_out(job),
    )


@router.get("/projects/{project_id}/lay-out", response=LayoutOut, operation_id="layout")
def layout(request: HttpRequest, project_id: int) -> LayoutOut:
    return _out(project_row(request, project_id))


@router.post("/projects/{project_id}/lay-out/pack", response=LayoutOut, operation_id="pack")
def start_packing(request: HttpRequest, project_id: int, body: Body[Asked]) -> LayoutOut:
    require_role(request, Role.DESIGNER)
    project = project_row(request, project_id)
    wanted = services.with_common_lines(project, body)
    made_from = queries.current(project).parts_print
    lane = jobs.LONG if wanted.seconds > jobs.LONG_FROM_S else jobs.SHORT
    queue = {jobs.LONG: "long", jobs.SHORT: "stage"}[lane]
    jobs.request_job(
        project=project,
        stage=Stage.LAY_OUT,
        made_from=made_from,
        request=convert.ASKED.dump_python(wanted, mode="json"),
        lane=lane,
        defer=lambda pk: pack_job.configure(queue=queue).defer(job_id=pk),
    )
    return _out(project)


@router.post("/projects/{project_id}/lay-out/stop", response=LayoutOut, operation_id="stopPacking")
def stop_packing(request: HttpRequest, project_id: int) -> LayoutOut:
    require_role(request, Role.DESIGNER)
    project = project_row(request, project_id)
    jobs.ask_stop(project=project, stage=Stage.LAY_OUT)
    return _out(project)


def _changed(project: Project, change: Callable[[Project], None]) -> Status[LayoutOut]:
    """Return the packing after a change, or as somebody else left it first."""
    try:
        change(project)
    except byhand.LayoutMeanwhile:
        return Status(409, _out(project))
    return Status(200, _out(project))


@router.post("/projects/{project_id}/lay-out/move", response={200: LayoutOut, 409: LayoutOut}, operation_id="movePart")
def move_part(request: HttpRequest, project_id: int, body: MoveIn) -> Status[LayoutOut]:
    require_role(request, Role.DESIGNER)
    wanted = Move(copy=body.number, **body.dict(exclude={"version", "settle", "number"}))
    return _changed(project_row(request, project_id), lambda p: byhand.move(p, body.version, wanted=wanted, settle=body.settle))


@router.post("/projects/{project_id}/lay-out/swap", response={200: LayoutOut, 409: LayoutOut}, operation_id="swapSheet")
def swap_sheet(request: HttpRequest, project_id: int, body: SwapIn) -> Status[LayoutOut]:
    """Lay all parts of a sheet on another one, as they lie."""
    require_role(request, Role.DESIGNER)
    source, target = (body.sheet, body.sheet_copy), (body.to_sheet, body.to_copy)
    return _changed(project_row(request, project_id), lambda p: byhand.swap(p, body.version, source=source, target=target))


@router.post("/projects/{project_id}/lay-out/lock", response={200: LayoutOut, 409: LayoutOut}, operation_id="lockParts")
def lock_parts(request: HttpRequest, project_id: int, body: LockIn) -> Status[LayoutOut]:
    require_role(request, Role.DESIGNER)
    parts = [(p.part, p.number) for p in body.parts]
    return _changed(project_row(request, project_id), lambda p: byhand.lock(p, body.version, parts=parts, locked=body.locked))


@router.post("/projects/{project_id}/lay-out/need", response=list[Need], operation_id="sheetsNeeded")
def sheets_needed(request: HttpRequest, project_id: int, body: Body[Asked]) -> list[Need]:
    """Tell, before anything is packed, whether the shelf has enough."""
    project = project_row(request, project_id)
    wanted = services.with_common_lines(project, body)
    parts = wanted.parts(queries.current(project).assembly.parts)
    rows = Sheet.objects.filter(stock__shop=project.shop_id).order_by("pk")
    shelf = [laid_on_bed(sheet_kind_of(s), services.rules_of(project, wanted, stock=str(s.stock_id))) for s in rows]
    rules = {p.stock: services.rules_of(project, wanted, stock=p.stock) for p in parts}
    return [n for stock, r in rules.items() for n in needs([p for p in parts if p.stock == stock], shelf, rules=r)]


@router.post("/projects/{project_id}/lay-out/way", response={200: LayoutOut, 409: LayoutOut}, operation_id="takeWay")
def take_way(request: HttpRequest, project_id: int, body: WayIn) -> Status[LayoutOut]:
    require_role(request, Role.DESIGNER)
    return _changed(project_row(request, project_id), lambda p: byhand.take_way(p, body.version, name=body.name))
