"""Sheets over HTTP."""

from __future__ import annotations

from datetime import date
from typing import Literal

from django.db.models import QuerySet
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema, Status

from apps.accounts.access import member_of, mine, require_role
from apps.accounts.models import Role
from apps.sheets import convert, services
from apps.sheets.models import KerfTest, Machine, Reading, Sheet, Stock
from notchcore.measure import machine as core_machine
from notchcore.measure import stock as core_stock
from notchcore.measure.families import FAMILIES
from notchcore.measure.fit import Boundaries, Feel, boundaries_for, clearance_for
from notchcore.measure.kerf import KerfTestKind, kerf_of, pooled_kerf
from notchcore.units import parse_length, parse_number

router = Router(tags=["sheets"])


class ReadingOut(Schema):
    id: int
    thickness_mm: float
    x: float
    y: float
    on: date
    by: str


class KerfTestOut(Schema):
    id: int
    kind: str
    drawn_mm: float
    measured_mm: float
    count: int
    kerf_mm: float
    pooled_mm: float  #: the kerf as it was known after this test
    pooled_sd_mm: float
    on: date
    by: str


class SheetOut(Schema):
    id: int
    name: str
    width_mm: float
    height_mm: float
    count: int
    price: float
    is_offcut: bool
    outline: list[tuple[float, float]]


class StockOut(Schema):
    value: core_stock.Stock
    shelf: str
    family_label: str
    caution: str
    readings: list[ReadingOut]
    kerf_tests: list[KerfTestOut]
    sheets: list[SheetOut]
    settings: core_machine.Settings
    fit_with_itself: Boundaries
    snug_mm: float
    default_kerf_mm: float


class FamilyOut(Schema):
    id: str
    label: str
    colour: str


class Rack(Schema):
    stocks: list[StockOut]
    families: list[FamilyOut]
    machines: list[core_machine.Machine]


class StockIn(Schema):
    name: str = Field(max_length=80)
    family: str
    label_mm: float
    colour: str = Field(default="", pattern=r"^(#[0-9a-fA-F]{6})?$")
    shelf: str = Field(default="", max_length=40)


class ReadingIn(Schema):
    thickness_mm: float
    x: float = Field(default=0.5, ge=0, le=1)
    y: float = Field(default=0.5, ge=0, le=1)


class KerfTestIn(Schema):
    kind: KerfTestKind
    drawn_mm: float
    measured_mm: float
    count: int = 1


class WithdrawnIn(Schema):
    withdrawn: bool  #: false puts the evidence back


class SheetIn(Schema):
    name: str = Field(default="", max_length=80)
    width_mm: float
    height_mm: float
    count: int = 1
    price: float = 0.0
    is_offcut: bool = False


class CountIn(Schema):
    count: int


class SettingsIn(Schema):
    settings: core_machine.Settings


class TypedIn(Schema):
    text: str
    unit: Literal["mm", "in", "in/64", "thou"] | None = None  #: of a length; None for a plain number


class TypedOut(Schema):
    value: float  #: a length in mm, or the plain number


def stock_rows(request: HttpRequest) -> QuerySet[Stock]:
    return mine(request, Stock).prefetch_related("readings", "kerf_tests", "sheets").order_by("family", "label_mm", "pk")


def _tests_out(row: Stock, value: core_stock.Stock) -> list[KerfTestOut]:
    """Return the kerf tests in order, each with what was known after it."""
    found = []
    standing = convert.evidence_of(row).kerf_tests
    rows = [t for t in sorted(row.kerf_tests.all(), key=lambda t: t.pk) if not t.withdrawn]
    for i, (t, test) in enumerate(zip(rows, standing, strict=True), start=1):
        pooled = pooled_kerf(family_id=value.family, thickness=value.t, tests=standing[:i], today=t.on.isoformat())
        found.append(
            KerfTestOut(
                id=t.pk, kind=t.kind, drawn_mm=t.drawn_mm, measured_mm=t.measured_mm, count=t.count, kerf_mm=kerf_of(test),
                pooled_mm=pooled.value, pooled_sd_mm=pooled.sd, on=t.on, by=t.by,
            )
        )  # fmt: skip
    return found


def stock_out(row: Stock) -> StockOut:
    value = convert.stock_value(row)
    family = FAMILIES[row.family]
    fits = boundaries_for(row.family, row.family)
    return StockOut(
        value=value,
        shelf=row.shelf,
        family_label=family.label,
        caution=family.caution,
        readings=[ReadingOut.from_orm(r) for r in sorted(row.readings.all(), key=lambda r: r.pk) if not r.withdrawn],
        kerf_tests=_tests_out(row, value),
        sheets=[SheetOut.from_orm(s) for s in sorted(row.sheets.all(), key=lambda s: s.pk)],
        settings=convert.settings_of(row, value),
        fit_with_itself=fits,
        snug_mm=clearance_for(Feel.SNUG, fits).value,
        default_kerf_mm=pooled_kerf(family_id=row.family, thickness=value.t, tests=(), today=date.today().isoformat()).value,
    )


def _stock(request: HttpRequest, stock_id: int) -> Stock:
    return get_object_or_404(stock_rows(request), pk=stock_id)


@router.post("/numbers", response=TypedOut, operation_id="readNumber")
def read_number(request: HttpRequest, body: TypedIn) -> TypedOut:
    """Read a length or a number as a person types it; the one place where texts become numbers."""
    member_of(request)
    if body.unit is None:
        return TypedOut(value=parse_number(body.text))
    return TypedOut(value=parse_length(body.text, unit="in" if body.unit == "in/64" else body.unit))


@router.get("/rack", response=Rack, operation_id="rack")
def rack(request: HttpRequest) -> Rack:
    return Rack(
        stocks=[stock_out(s) for s in stock_rows(request)],
        families=[FamilyOut(id=f.id, label=f.label, colour=f.colour) for f in FAMILIES.values()],
        machines=[convert.machine_of(m) for m in mine(request, Machine).order_by("pk")],
    )


@router.post("/stocks", response={201: StockOut}, operation_id="addStock")
def add_stock(request: HttpRequest, body: StockIn) -> Status[StockOut]:
    row = services.add_stock(member=require_role(request, Role.DESIGNER), **body.dict())
    return Status(201, stock_out(_stock(request, row.pk)))


@router.post("/stocks/{stock_id}/readings", response={201: StockOut}, operation_id="takeReading")
def take_reading(request: HttpRequest, stock_id: int, body: ReadingIn) -> Status[StockOut]:
    member = require_role(request, Role.OPERATOR)
    services.take_reading(stock=_stock(request, stock_id), member=member, **body.dict())
    return Status(201, stock_out(_stock(request, stock_id)))


@router.put("/readings/{reading_id}", response=StockOut, operation_id="withdrawReading")
def withdraw_reading(request: HttpRequest, reading_id: int, body: WithdrawnIn) -> StockOut:
    require_role(request, Role.OPERATOR)
    row = get_object_or_404(mine(request, Reading, "stock__shop"), pk=reading_id)
    services.withdraw(row, body.withdrawn)
    return stock_out(_stock(request, row.stock_id))


@router.post("/stocks/{stock_id}/kerf-tests", response={201: StockOut}, operation_id="recordKerfTest")
def record_kerf_test(request: HttpRequest, stock_id: int, body: KerfTestIn) -> Status[StockOut]:
    member = require_role(request, Role.OPERATOR)
    machine = get_object_or_404(mine(request, Machine).order_by("pk")[:1])
    services.record_kerf_test(
        stock=_stock(request, stock_id), machine_row=machine, member=member, kind=body.kind.value,
        drawn_mm=body.drawn_mm, measured_mm=body.measured_mm, count=body.count,
    )  # fmt: skip
    return Status(201, stock_out(_stock(request, stock_id)))


@router.put("/kerf-tests/{test_id}", response=StockOut, operation_id="withdrawKerfTest")
def withdraw_kerf_test(request: HttpRequest, test_id: int, body: WithdrawnIn) -> StockOut:
    require_role(request, Role.OPERATOR)
    row = get_object_or_404(mine(request, KerfTest, "stock__shop"), pk=test_id)
    services.withdraw(row, body.withdrawn)
    return stock_out(_stock(request, row.stock_id))


@router.post("/stocks/{stock_id}/sheets", response={201: StockOut}, operation_id="shelveSheets")
def shelve_sheets(request: HttpRequest, stock_id: int, body: SheetIn) -> Status[StockOut]:
    require_role(request, Role.OPERATOR)
    services.shelve(stock=_stock(request, stock_id), **body.dict())
    return Status(201, stock_out(_stock(request, stock_id)))


@router.put("/sheets/{sheet_id}/count", response=StockOut, operation_id="countSheets")
def count_sheets(request: HttpRequest, sheet_id: int, body: CountIn) -> StockOut:
    require_role(request, Role.OPERATOR)
    row = get_object_or_404(mine(request, Sheet, "stock__shop"), pk=sheet_id)
    services.count_sheets(sheet=row, count=body.count)
    return stock_out(_stock(request, row.stock_id))


@router.put("/stocks/{stock_id}/settings", response=StockOut, operation_id="keepSettings")
def keep_settings(request: HttpRequest, stock_id: int, body: SettingsIn) -> StockOut:
    member = require_role(request, Role.OPERATOR)
    row = _stock(request, stock_id)
    services.keep_settings(stock=row, settings=body.settings, source=f"tried by {member.user.username}, {date.today().isoformat()}")
    return stock_out(_stock(request, stock_id))


class MachineIn(Schema):
    kerf_place: core_machine.KerfPlace | None = None
    score: core_machine.Convention | None = None
    inner: core_machine.Convention | None = None
    outer: core_machine.Convention | None = None


@router.patch("/machines/{machine_id}", response=core_machine.Machine, operation_id="setMachine")
def set_machine(request: HttpRequest, machine_id: int, body: MachineIn) -> core_machine.Machine:
    require_role(request, Role.DESIGNER)
    row = get_object_or_404(mine(request, Machine), pk=machine_id)
    services.set_machine(row=row, changes=body.model_dump(mode="json", exclude_none=True))
    return convert.machine_of(row)
