"""What a person does on Sheets."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db import transaction
from pydantic import TypeAdapter

from apps.accounts.models import Member
from apps.sheets import convert
from apps.sheets.models import KerfTest, Machine, Reading, Sheet, Stock
from notchcore.errors import MeasureError, require
from notchcore.measure import kerf, machine, thickness
from notchcore.measure.families import FAMILIES
from notchcore.nest.values import SheetKind


@transaction.atomic
def add_stock(*, member: Member, name: str, family: str, label_mm: float, colour: str = "", shelf: str = "") -> Stock:
    """Put a stock on the rack."""
    if not name.strip():
        raise MeasureError("Give the stock a name, such as “Birch ply 3, batch 12”.", field="name")
    if family not in FAMILIES:
        raise MeasureError("Choose a family for the stock.", field="family")
    require("label thickness", label_mm, thickness.THINNEST, thickness.THICKEST)
    return Stock.objects.create(shop=member.shop, name=name.strip(), family=family, label_mm=label_mm, colour=colour, shelf=shelf)


@transaction.atomic
def take_reading(*, stock: Stock, member: Member, thickness_mm: float, x: float = 0.5, y: float = 0.5) -> Reading:
    """Keep a caliper reading."""
    thickness.Reading(thickness=thickness_mm)
    return Reading.objects.create(stock=stock, thickness_mm=thickness_mm, x=x, y=y, on=date.today(), by=member.user.username)


@transaction.atomic
def record_kerf_test(*, stock: Stock, machine_row: Machine, member: Member, kind: str, drawn_mm: float, measured_mm: float, count: int) -> KerfTest:
    """Keep a kerf test."""
    kerf.KerfTest(kind=kerf.KerfTestKind(kind), drawn=drawn_mm, measured=measured_mm, count=count)
    return KerfTest.objects.create(
        stock=stock, machine=machine_row, kind=kind, drawn_mm=drawn_mm, measured_mm=measured_mm, count=count, on=date.today(), by=member.user.username
    )


def withdraw(row: Reading | KerfTest, withdrawn: bool) -> None:
    """Take evidence back, or put it back; it stays in the record."""
    row.withdrawn = withdrawn
    row.save(update_fields=["withdrawn"])


@transaction.atomic
def shelve(*, stock: Stock, name: str, width_mm: float, height_mm: float, count: int, price: float, is_offcut: bool) -> Sheet:
    """Put sheets of a stock on the shelf."""
    require("price", price, 0, 100_000, unit="")
    SheetKind(id="new", stock=str(stock.pk), name=name, width=width_mm, height=height_mm, count=count, price=price)
    return Sheet.objects.create(
        stock=stock,
        name=name.strip() or f"{width_mm:.0f} × {height_mm:.0f}",
        width_mm=width_mm,
        height_mm=height_mm,
        count=count,
        price=price,
        is_offcut=is_offcut,
    )


def count_sheets(*, sheet: Sheet, count: int) -> None:
    """Set how many of these sheets lie on the shelf."""
    require("sheets", count, 0, 1000, unit="")
    sheet.count = count
    sheet.save(update_fields=["count"])


def keep_settings(*, stock: Stock, settings: machine.Settings, source: str) -> None:
    """Keep how this stock is cut, and where that is known from."""
    stock.settings = {**TypeAdapter(machine.Settings).dump_python(settings, mode="json"), "source": source}
    stock.save(update_fields=["settings"])


def set_machine(*, row: Machine, changes: dict[str, Any]) -> None:
    """Change a machine's profile; all of it is checked before anything is kept."""
    profile = {**row.profile, **changes}
    convert.MACHINE.validate_python({**profile, "id": str(row.pk), "name": row.name})
    row.profile = profile
    row.save(update_fields=["profile"])
