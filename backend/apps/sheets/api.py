"""Sheets over HTTP: the rack, stocks, the shelf, machines. Evidence and tools have files of their own."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Query, Router, Status

from apps.accounts.access import member_of, mine, require_role
from apps.accounts.models import Role
from apps.sheets import boards, convert, evidence, queries, services
from apps.sheets.models import Machine, Sheet, Stock
from apps.sheets.schemas import ConfirmIn, CutDownIn, MachineChange, MachineIn, On, Rack, SheetChange, SheetIn, StockChange, StockIn, StockOut
from notchcore.errors import MeasureError
from notchcore.formats.cutdown import cut_down_pdf
from notchcore.measure import machine as core_machine
from notchcore.nest.cutdown import CutDown
from notchcore.words.render import say

router = Router(tags=["sheets"])


def stock_row(request: HttpRequest, stock_id: int) -> Stock:
    return get_object_or_404(convert.with_evidence(mine(request, Stock)).prefetch_related("sheets", "feels_in"), pk=stock_id)


def machine_row(request: HttpRequest, machine_id: int | None) -> Machine:
    """Return the machine that is meant, the shop's first when none is."""
    rows = mine(request, Machine).order_by("pk")
    if machine_id is not None:
        return get_object_or_404(rows, pk=machine_id)
    first = rows.first()
    if first is None:
        raise MeasureError(say("no_machine"))
    return first


def here(request: HttpRequest, least: Role, machine_id: int | None) -> evidence.Here:
    """Return who asks and on which machine, when the role is enough."""
    return evidence.Here(member=require_role(request, least), machine=machine_row(request, machine_id))


def answered(request: HttpRequest, stock_id: int, on: On) -> StockOut:
    """Return a stock as it is after a change."""
    wanted = [int(m) for m in on.mates.split(",") if m.isdecimal()]
    return queries.stock_out(stock_row(request, stock_id), convert.machine_of(machine_row(request, on.machine)), mates=wanted)


@router.get("/rack", response=Rack, operation_id="rack")
def rack(request: HttpRequest, machine: int | None = None) -> Rack:
    machines = [convert.machine_of(m) for m in mine(request, Machine).order_by("pk")]
    chosen = next((m for m in machines if machine is None or m.id == str(machine)), None)
    return Rack(stocks=queries.rack_rows(mine(request, Stock), chosen), materials=queries.materials(), machines=machines)


@router.get("/stocks/{stock_id}", response=StockOut, operation_id="stock")
def stock(request: HttpRequest, stock_id: int, on: Query[On]) -> StockOut:
    return answered(request, stock_id, on)


@router.post("/stocks", response={201: StockOut}, operation_id="addStock")
def add_stock(request: HttpRequest, body: StockIn, on: Query[On]) -> Status[StockOut]:
    row = services.add_stock(member=require_role(request, Role.DESIGNER), **body.dict())
    return Status(201, answered(request, row.pk, on))


@router.patch("/stocks/{stock_id}", response=StockOut, operation_id="changeStock")
def change_stock(request: HttpRequest, stock_id: int, body: StockChange, on: Query[On]) -> StockOut:
    require_role(request, Role.OPERATOR)
    said = body.dict(exclude_unset=True)
    changes = {k: v for k, v in said.items() if v is not None or k in ("lab", "lab_finished")}  # only a swatch can be taken away
    services.change_stock(stock=stock_row(request, stock_id), changes=changes)
    return answered(request, stock_id, on)


@router.delete("/stocks/{stock_id}", response={204: None}, operation_id="removeStock")
def remove_stock(request: HttpRequest, stock_id: int) -> Status[None]:
    require_role(request, Role.DESIGNER)
    services.remove_stock(stock=stock_row(request, stock_id))
    return Status(204, None)


@router.put("/stocks/{stock_id}/makers-data", response=StockOut, operation_id="confirmMakersData")
def confirm_data(request: HttpRequest, stock_id: int, body: ConfirmIn, on: Query[On]) -> StockOut:
    member = require_role(request, Role.DESIGNER)
    services.confirm_data(stock=stock_row(request, stock_id), member=member, data=body.data)
    return answered(request, stock_id, on)


@router.post("/stocks/{stock_id}/sheets", response={201: StockOut}, operation_id="shelveSheets")
def shelve_sheets(request: HttpRequest, stock_id: int, body: SheetIn, on: Query[On]) -> Status[StockOut]:
    require_role(request, Role.OPERATOR)
    services.shelve(stock=stock_row(request, stock_id), **body.dict())
    return Status(201, answered(request, stock_id, on))


@router.patch("/sheets/{sheet_id}", response=StockOut, operation_id="changeSheets")
def change_sheets(request: HttpRequest, sheet_id: int, body: SheetChange, on: Query[On]) -> StockOut:
    require_role(request, Role.OPERATOR)
    row = get_object_or_404(mine(request, Sheet, "stock__shop"), pk=sheet_id)
    services.change_sheet(sheet=row, changes=body.dict(exclude_none=True))
    return answered(request, row.stock_id, on)


def _board(request: HttpRequest, sheet_id: int) -> Sheet:
    return get_object_or_404(mine(request, Sheet, "stock__shop"), pk=sheet_id)


@router.get("/sheets/{sheet_id}/cut-down", response=CutDown, operation_id="cutDown")
def cut_down(request: HttpRequest, sheet_id: int, saw_mm: float = 3.0, machine: int | None = None) -> CutDown:
    """Return how a board is sawn into blanks that the machine's bed takes."""
    return boards.cut_down_of(_board(request, sheet_id), convert.machine_of(machine_row(request, machine)), saw_mm=saw_mm)


@router.get("/sheets/{sheet_id}/cut-down.pdf", operation_id="cutDownPage")
def cut_down_page(request: HttpRequest, sheet_id: int, saw_mm: float = 3.0, sheets: int = 1, machine: int | None = None) -> HttpResponse:
    row = _board(request, sheet_id)
    plan = boards.cut_down_of(row, convert.machine_of(machine_row(request, machine)), saw_mm=saw_mm)
    return HttpResponse(cut_down_pdf(plan, title=row.name, sheets=sheets, unit=member_of(request).unit), content_type="application/pdf")


@router.post("/sheets/{sheet_id}/cut-down", response=StockOut, operation_id="shelveBlanks")
def shelve_blanks(request: HttpRequest, sheet_id: int, body: CutDownIn, on: Query[On]) -> StockOut:
    """Book that boards were cut down: they leave the shelf, their blanks come onto it."""
    require_role(request, Role.OPERATOR)
    row = _board(request, sheet_id)
    machine = convert.machine_of(machine_row(request, on.machine))
    boards.shelve_blanks(sheet=row, machine=machine, saw_mm=body.saw_mm, sheets=body.sheets)
    return answered(request, row.stock_id, on)


@router.post("/machines", response={201: core_machine.Machine}, operation_id="addMachine")
def add_machine(request: HttpRequest, body: MachineIn) -> Status[core_machine.Machine]:
    """Add a machine; it may start from another's profile, and from its evidence, marked as borrowed."""
    member = require_role(request, Role.DESIGNER)
    like = get_object_or_404(mine(request, Machine), pk=body.like) if body.like is not None else None
    row = services.add_machine(member=member, name=body.name, like=like)
    if like is not None and body.borrow:
        evidence.borrow_all(here=evidence.Here(member=member, machine=row), source_machine=like)
    return Status(201, convert.machine_of(row))


@router.patch("/machines/{machine_id}", response=core_machine.Machine, operation_id="setMachine")
def set_machine(request: HttpRequest, machine_id: int, body: MachineChange) -> core_machine.Machine:
    require_role(request, Role.DESIGNER)
    row = get_object_or_404(mine(request, Machine), pk=machine_id)
    services.set_machine(row=row, changes=body.model_dump(mode="json", exclude_none=True))
    row.refresh_from_db()
    return convert.machine_of(row)
