"""Evidence over HTTP: readings, kerf tests, feels, settings, and what can be borrowed."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Query, Router, Status

from apps.accounts.access import mine, require_role
from apps.accounts.models import Role
from apps.sheets import evidence
from apps.sheets.api import answered, here, machine_row, stock_row
from apps.sheets.models import Feel, KerfTest, Reading, StockSettings
from apps.sheets.schemas import BorrowIn, FeelIn, KerfTestIn, On, PasteIn, ReadingIn, SettingsIn, StockOut, WithdrawnIn
from notchcore.measure import kerf
from notchcore.units import unit_name

router = Router(tags=["evidence"])


@router.post("/stocks/{stock_id}/readings", response={201: StockOut}, operation_id="takeReading")
def take_reading(request: HttpRequest, stock_id: int, body: ReadingIn, on: Query[On]) -> Status[StockOut]:
    member = require_role(request, Role.OPERATOR)
    evidence.take_reading(stock=stock_row(request, stock_id), member=member, **body.dict())
    return Status(201, answered(request, stock_id, on))


@router.post("/stocks/{stock_id}/readings/pasted", response={201: StockOut}, operation_id="pasteReadings")
def paste_readings(request: HttpRequest, stock_id: int, body: PasteIn, on: Query[On]) -> Status[StockOut]:
    member = require_role(request, Role.OPERATOR)
    evidence.paste_readings(stock=stock_row(request, stock_id), member=member, text=body.text, unit=unit_name(body.unit))
    return Status(201, answered(request, stock_id, on))


@router.put("/readings/{reading_id}", response=StockOut, operation_id="withdrawReading")
def withdraw_reading(request: HttpRequest, reading_id: int, body: WithdrawnIn, on: Query[On]) -> StockOut:
    require_role(request, Role.OPERATOR)
    row = get_object_or_404(mine(request, Reading, "stock__shop"), pk=reading_id)
    evidence.withdraw(row, body.withdrawn)
    return answered(request, row.stock_id, on)


@router.post("/stocks/{stock_id}/kerf-tests", response={201: StockOut}, operation_id="recordKerfTest")
def record_kerf_test(request: HttpRequest, stock_id: int, body: KerfTestIn, on: Query[On]) -> Status[StockOut]:
    test = kerf.KerfTest(kind=body.kind, drawn=body.drawn_mm, measured=body.measured_mm, below=body.below_mm, count=body.count)
    evidence.record_kerf_test(stock=stock_row(request, stock_id), here=here(request, Role.OPERATOR, on.machine), test=test)
    return Status(201, answered(request, stock_id, on))


@router.put("/kerf-tests/{test_id}", response=StockOut, operation_id="withdrawKerfTest")
def withdraw_kerf_test(request: HttpRequest, test_id: int, body: WithdrawnIn, on: Query[On]) -> StockOut:
    require_role(request, Role.OPERATOR)
    row = get_object_or_404(mine(request, KerfTest, "stock__shop"), pk=test_id)
    evidence.withdraw(row, body.withdrawn)
    return answered(request, row.stock_id, on)


@router.post("/stocks/{stock_id}/feels", response={201: StockOut}, operation_id="recordFeel")
def record_feel(request: HttpRequest, stock_id: int, body: FeelIn, on: Query[On]) -> Status[StockOut]:
    """Keep how a joint felt whose clearance was believed to be this: at a dry fit or after a run."""
    evidence.record_feel(
        stock=stock_row(request, stock_id),
        entering=stock_row(request, body.entering),
        here=here(request, Role.OPERATOR, on.machine),
        feel=body.feel.value,
        clearance_mm=body.clearance_mm,
        sd_mm=body.sd_mm,
    )
    return Status(201, answered(request, stock_id, on))


@router.put("/feels/{feel_id}", response=StockOut, operation_id="withdrawFeel")
def withdraw_feel(request: HttpRequest, feel_id: int, body: WithdrawnIn, on: Query[On]) -> StockOut:
    require_role(request, Role.OPERATOR)
    row = get_object_or_404(mine(request, Feel, "stock__shop"), pk=feel_id)
    evidence.withdraw(row, body.withdrawn)
    return answered(request, row.stock_id, on)


@router.put("/stocks/{stock_id}/settings", response=StockOut, operation_id="keepSettings")
def keep_settings(request: HttpRequest, stock_id: int, body: SettingsIn, on: Query[On]) -> StockOut:
    member = require_role(request, Role.OPERATOR)
    source = f"tried by {member.user.username}, {date.today().isoformat()}"
    evidence.keep_settings(
        stock=stock_row(request, stock_id), here=here(request, Role.OPERATOR, on.machine), settings=body.settings, source=source, tried=body.tried
    )
    return answered(request, stock_id, on)


@router.put("/settings/{settings_id}", response=StockOut, operation_id="withdrawSettings")
def withdraw_settings(request: HttpRequest, settings_id: int, body: WithdrawnIn, on: Query[On]) -> StockOut:
    require_role(request, Role.OPERATOR)
    row = get_object_or_404(mine(request, StockSettings, "stock__shop"), pk=settings_id)
    evidence.withdraw(row, body.withdrawn)
    return answered(request, row.stock_id, on)


@router.post("/stocks/{stock_id}/borrow", response=StockOut, operation_id="borrowEvidence")
def borrow(request: HttpRequest, stock_id: int, body: BorrowIn, on: Query[On]) -> StockOut:
    """Let this stock start from the evidence of another stock or machine, marked as borrowed."""
    evidence.borrow(
        stock=stock_row(request, stock_id),
        here=here(request, Role.OPERATOR, on.machine),
        source=stock_row(request, body.stock),
        source_machine=machine_row(request, body.machine),
    )
    return answered(request, stock_id, on)
