"""Tools beside the rack over HTTP: typed numbers, quick answers, contrast, the caliper, files in and out."""

from __future__ import annotations

from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema
from ninja.files import UploadedFile

from apps.accounts.access import Refused, member_of, mine, require_role
from apps.accounts.models import Role
from apps.sheets import caliper, convert, exchange, queries
from apps.sheets.api import machine_row, stock_row
from apps.sheets.columns import COLUMNS
from apps.sheets.models import Stock
from apps.sheets.schemas import ContrastIn, ContrastOut, ExchangeIn, ExchangeOut, NeighbourOut, TypedIn, TypedOut
from notchcore.design.answers import joints, sizes
from notchcore.design.answers.values import Answer
from notchcore.errors import MeasureError
from notchcore.geom.profile import Ring
from notchcore.measure import scale
from notchcore.measure.contrast import neighbours
from notchcore.measure.fit import Feel
from notchcore.measure.kerf import KerfTestKind
from notchcore.trace.image import sheet_outline
from notchcore.typed import parse_length, parse_number
from notchcore.units import unit_name
from notchcore.words.render import say

router = Router(tags=["tools"])
MOST_BYTES = 20_000_000  # of a photo


@router.post("/numbers", response=TypedOut, operation_id="readNumber")
def read_number(request: HttpRequest, body: TypedIn) -> TypedOut:
    """Read a length or a number as a person types it; the one place where texts become numbers."""
    member_of(request)
    if body.unit is None:
        return TypedOut(value=parse_number(body.text))
    return TypedOut(value=parse_length(body.text, unit=unit_name(body.unit)))


class Ask(Schema):
    """A question; fields that a kind does not need are not looked at."""

    kind: Literal["slot", "tab", "kerf", "angled", "roof", "turned", "pitch", "sheets", "scale", "inches"]
    sheet: int | None = None  #: stock that is cut
    mate: int | None = None  #: stock that enters, or of the wall
    feel: Feel = Feel.SNUG
    clearance: float | None = None  #: set by hand, instead of a feel
    angle: float = 60.0
    width: float = 12.0
    height: float = 60.0
    length: float = 200.0
    proud: float = 0.0
    count: int = 8
    test: KerfTestKind = KerfTestKind.STRIPS
    drawn: float = 10.0
    measured: float = 98.4
    eaves: float = 15.0
    layer: int = 3
    twist: float = 90.0
    gaps_at_ends: bool = True
    sheet_width: float = 600.0
    sheet_height: float = 400.0
    spacing: float = 2.0
    margin: float = 5.0
    price: float = 0.0
    may_turn: bool = True
    n: float = 24.0
    real: float | None = None
    model: float | None = None
    wanted: float | None = None


class Preset(Schema):
    n: float
    name: str


@router.get("/scales", response=list[Preset], operation_id="scales")
def scales(request: HttpRequest) -> list[Preset]:
    member_of(request)
    return [Preset(n=n, name=name) for n, name in scale.PRESETS]


@router.post("/answers", response=Answer, operation_id="ask")
def ask(request: HttpRequest, body: Ask, machine: int | None = None) -> Answer:
    """Answer one question at once."""
    member_of(request)
    if body.kind in ("slot", "tab", "angled", "roof"):
        return _with_stocks(request, body, machine)
    if body.kind == "kerf":
        return sizes.kerf_answer(kind=body.test, drawn=body.drawn, measured=body.measured, count=body.count if body.test is KerfTestKind.STRIPS else 1)
    if body.kind == "turned":
        return sizes.turned_layer(layer=body.layer, layers=body.count, twist=body.twist)
    if body.kind == "sheets":
        return sizes.sheets_needed(
            width=body.width,
            height=body.height,
            count=body.count,
            sheet_width=body.sheet_width,
            sheet_height=body.sheet_height,
            spacing=body.spacing,
            margin=body.margin,
            price=body.price,
            may_turn=body.may_turn,
        )
    if body.kind == "inches":
        return sizes.inch_fractions(length=body.length)
    on = convert.machine_of(machine_row(request, machine))
    if body.kind == "scale":
        rows = convert.with_evidence(mine(request, Stock)).order_by("pk") if body.wanted is not None else []
        return sizes.scale_answer(n=body.n, real=body.real, model=body.model, wanted=body.wanted, stocks=tuple(convert.stock_value(r, on) for r in rows))
    stock = convert.stock_value(stock_row(request, body.sheet), on) if body.sheet is not None else None
    return sizes.pitch_and_gap(length=body.length, count=body.count, width=body.width, gaps_at_ends=body.gaps_at_ends, sheet=stock)


def _with_stocks(request: HttpRequest, body: Ask, machine: int | None) -> Answer:
    if body.sheet is None:
        raise MeasureError(say("stock_first"), field="sheet")
    ids = [body.sheet, body.mate if body.mate is not None else body.sheet]
    rows = {i: stock_row(request, i) for i in ids}
    known = convert.measured(rows.values(), convert.machine_of(machine_row(request, machine)))
    sheet, mate = (known.stocks[str(i)] for i in ids)
    if body.kind == "slot":
        return joints.slot(sheet=sheet, mate=mate, feel=body.feel, fits=known.fits, by_hand=body.clearance)
    if body.kind == "tab":
        return joints.tab(sheet=sheet, mate=mate, width=body.width, proud=body.proud)
    if body.kind == "angled":
        return joints.angled_slot(sheet=sheet, mate=mate, angle=body.angle, feel=body.feel, fits=known.fits, by_hand=body.clearance)
    return sizes.roof_panel(run=body.length, angle=body.angle, eaves=body.eaves, sheet=sheet, wall=mate)


@router.post("/contrast", response=ContrastOut, operation_id="contrast")
def contrast(request: HttpRequest, body: ContrastIn) -> ContrastOut:
    """Return how different stocks look side by side; a stock without a measured swatch stands with its colour on screen."""
    rows = {str(r.pk): r for r in mine(request, Stock).filter(pk__in=body.stocks)}
    lab, measured = {}, {}
    for i in map(str, body.stocks):
        if i not in rows:
            raise Refused(404, say("stock_of_task_gone"))
        lab[i], measured[i] = queries.swatch_of(rows[i], finished=body.finished)
    pairs = [NeighbourOut(a=n.a, b=n.b, difference=n.difference, hard_to_tell=n.hard_to_tell) for n in neighbours(lab)]
    return ContrastOut(pairs=pairs, measured=measured, lab=lab)


class CaliperReading(Schema):
    seq: int
    mm: float


class CaliperOut(Schema):
    readings: list[CaliperReading]


@router.post("/stocks/{stock_id}/caliper", response=CaliperOut, operation_id="takeCaliper")
def take_caliper(request: HttpRequest, stock_id: int) -> CaliperOut:
    """Tell the caliper that this stock is measured now; its readings follow by `caliperSince`."""
    require_role(request, Role.OPERATOR)
    caliper.begin(stock_row(request, stock_id))
    return CaliperOut(readings=[])


@router.get("/stocks/{stock_id}/caliper", response=CaliperOut, operation_id="caliperSince")
def caliper_since(request: HttpRequest, stock_id: int, seq: int = 0) -> CaliperOut:
    require_role(request, Role.OPERATOR)
    return CaliperOut(readings=[CaliperReading.model_validate(r) for r in caliper.since(stock_row(request, stock_id), seq)])


@router.delete("/stocks/{stock_id}/caliper", response=CaliperOut, operation_id="putCaliperDown")
def put_caliper_down(request: HttpRequest, stock_id: int) -> CaliperOut:
    require_role(request, Role.OPERATOR)
    caliper.end()
    return CaliperOut(readings=[])


@router.post("/sheet-outline", response=list[tuple[float, float]], operation_id="sheetOutline")
def sheet_outline_of(
    request: HttpRequest,
    file: Annotated[UploadedFile, File()],
    width_mm: Annotated[float, Form()],
    threshold: Annotated[float, Form()] = 0.5,
    light: Annotated[bool, Form()] = True,
) -> Ring:
    """Trace the outline of an offcut on a photo; nothing is kept."""
    require_role(request, Role.OPERATOR)
    return sheet_outline(file.read(MOST_BYTES + 1), width_mm, threshold=threshold, light=light)


@router.get("/exchange/{name}", operation_id="exportSheets")
def export(request: HttpRequest, name: str) -> HttpResponse:
    """Hand out stocks.csv, sheets.csv, readings.csv, kerf-tests.csv, settings.csv or all.json."""
    member = member_of(request)
    what, _, kind = name.rpartition(".")
    if name == "all.json":
        text, content = exchange.as_json(member), "application/json"
    elif kind == "csv" and what in COLUMNS:
        text, content = exchange.as_csv(member, what), "text/csv"
    else:
        raise Refused(404, say("no_such_file"))
    response = HttpResponse(text.encode(), content_type=content)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@router.post("/exchange", response=ExchangeOut, operation_id="importSheets")
def take_in(request: HttpRequest, body: ExchangeIn) -> ExchangeOut:
    return ExchangeOut(kept=exchange.take_in(member=require_role(request, Role.DESIGNER), what=body.what, text=body.text))
