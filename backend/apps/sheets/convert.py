"""Rows to the core's values."""

from __future__ import annotations

from datetime import date

from pydantic import TypeAdapter

from apps.sheets import models
from notchcore.measure.kerf import KerfTest, KerfTestKind
from notchcore.measure.machine import Machine, Settings, default_settings
from notchcore.measure.stock import Stock, StockEvidence, stock_of
from notchcore.measure.thickness import Reading
from notchcore.nest.values import SheetKind

MACHINE = TypeAdapter(Machine)
SETTINGS = TypeAdapter(Settings)


def evidence_of(row: models.Stock) -> StockEvidence:
    """Return all standing evidence about a stock, in the order in which it was entered."""
    return StockEvidence(
        id=str(row.pk),
        name=row.name,
        family=row.family,
        label=row.label_mm,
        readings=tuple(
            Reading(thickness=r.thickness_mm, x=r.x, y=r.y, on=r.on.isoformat(), by=r.by)
            for r in sorted(row.readings.all(), key=lambda r: r.pk)
            if not r.withdrawn
        ),
        kerf_tests=tuple(
            KerfTest(kind=KerfTestKind(t.kind), drawn=t.drawn_mm, measured=t.measured_mm, count=t.count, on=t.on.isoformat(), by=t.by)
            for t in sorted(row.kerf_tests.all(), key=lambda t: t.pk)
            if not t.withdrawn
        ),
        crush=row.crush,
        colour=row.colour,
    )


def stock_value(row: models.Stock) -> Stock:
    return stock_of(evidence_of(row), today=date.today().isoformat())


def settings_of(row: models.Stock, stock: Stock) -> Settings:
    return SETTINGS.validate_python(row.settings) if row.settings else default_settings(stock)


def machine_of(row: models.Machine) -> Machine:
    return MACHINE.validate_python({**row.profile, "id": str(row.pk), "name": row.name})


def sheet_kind_of(row: models.Sheet) -> SheetKind:
    return SheetKind(
        id=str(row.pk),
        stock=str(row.stock_id),
        name=row.name,
        width=row.width_mm,
        height=row.height_mm,
        count=row.count,
        price=row.price,
        outline=tuple((float(x), float(y)) for x, y in row.outline),
    )
