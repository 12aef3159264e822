"""Rows to the core's values."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from typing import TypeVar

from django.db.models import QuerySet
from pydantic import TypeAdapter

from apps.sheets import models
from notchcore.measure.fit import Feel, Fits
from notchcore.measure.gauge import Answer
from notchcore.measure.hazards import Confirmation
from notchcore.measure.kerf import KerfTest, KerfTestKind, Setup
from notchcore.measure.machine import KerfPlace, Machine, Settings, default_settings
from notchcore.measure.materials import MATERIALS
from notchcore.measure.stock import Stock, StockEvidence, fits_of, stock_of
from notchcore.measure.thickness import Reading
from notchcore.nest.values import SheetKind

MACHINE = TypeAdapter(Machine)
SETTINGS = TypeAdapter(Settings)
EVIDENCE = ("readings", "kerf_tests", "feels", "settings_rows")
CLEAR = "clear"  # the look through which one sees

Row = TypeVar("Row", bound=models.Evidence)


def with_evidence(rows: QuerySet[models.Stock]) -> QuerySet[models.Stock]:
    """Return the query with everything that the functions here read."""
    return rows.prefetch_related(*EVIDENCE)


def standing(rows: Iterable[Row]) -> list[Row]:
    """Return the evidence that counts, in the order in which it was entered."""
    return sorted((r for r in rows if not r.withdrawn), key=lambda r: r.pk)


def reading_of(row: models.Reading) -> Reading:
    return Reading(thickness=row.thickness_mm, x=row.x, y=row.y, on=row.on.isoformat(), by=row.by, borrowed=row.borrowed)


def setup_of(row: models.OnMachine) -> Setup:
    return Setup(machine=str(row.machine_id), lens=row.lens, settings=row.setting)


def kerf_test_of(row: models.KerfTest) -> KerfTest:
    return KerfTest(
        kind=KerfTestKind(row.kind),
        drawn=row.drawn_mm,
        measured=row.measured_mm,
        below=row.below_mm,
        count=row.count,
        on=row.on.isoformat(),
        by=row.by,
        setup=setup_of(row),
        borrowed=row.borrowed,
    )


def answer_of(row: models.Feel) -> Answer:
    return Answer(
        opening=str(row.stock_id),
        entering=str(row.entering_id),
        feel=Feel(row.feel),
        drawn=row.drawn_mm,
        clearance=row.clearance_mm,
        sd=row.sd_mm,
        on=row.on.isoformat(),
        by=row.by,
        setup=setup_of(row),
        borrowed=row.borrowed,
    )


def evidence_of(row: models.Stock) -> StockEvidence:
    """Return all standing evidence about a stock."""
    return StockEvidence(
        id=str(row.pk),
        name=row.name,
        material=row.material,
        label=row.label_mm,
        readings=tuple(reading_of(r) for r in standing(row.readings.all())),
        kerf_tests=tuple(kerf_test_of(t) for t in standing(row.kerf_tests.all())),
        answers=tuple(answer_of(f) for f in standing(row.feels.all())),
        crush=row.crush,
        colour=row.colour,
        substance=row.substance,
        confirmed=Confirmation(by=row.confirmed_by, on=row.confirmed_on.isoformat(), data=row.confirmed_data) if row.confirmed_on else None,
        clear=(row.look or next(iter(MATERIALS[row.material].looks), "")) == CLEAR,  # what is not told of is taken for the usual
        film=row.film != models.Film.NONE,
    )


def machine_of(row: models.Machine) -> Machine:
    return MACHINE.validate_python({**row.profile, "id": str(row.pk), "name": row.name})


def settings_rows(row: models.Stock, machine: Machine) -> list[models.StockSettings]:
    """Return the standing settings of a stock on a machine with its lens, newest last."""
    return [s for s in standing(row.settings_rows.all()) if str(s.machine_id) == machine.id and s.lens == machine.lens]


def values_of(row: models.StockSettings) -> dict[str, object]:
    return {**row.values, "source": row.source, "on": row.on.isoformat(), "borrowed": bool(row.borrowed)}


def settings_of(row: models.Stock, stock: Stock, *, machine: Machine) -> Settings:
    """Return the newest settings of a stock on a machine with its lens; defaults when nobody tried."""
    rows = settings_rows(row, machine)
    return SETTINGS.validate_python(values_of(rows[-1])) if rows else default_settings(stock)


def now_on(row: models.Stock, machine: Machine) -> Setup:
    """Return the setup that a kerf is asked for: this machine, its lens, and the settings that would be used today."""
    rows = settings_rows(row, machine)
    words = SETTINGS.validate_python(rows[-1].values).cut.words if rows else ""
    return Setup(machine=machine.id, lens=machine.lens, settings=words)


def stock_value(row: models.Stock, machine: Machine) -> Stock:
    return stock_of(evidence_of(row), today=date.today().isoformat(), setup=now_on(row, machine))


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured:
    """Some stocks as they are on a machine today."""

    evidence: dict[str, StockEvidence]
    stocks: dict[str, Stock]
    settings: dict[str, Settings]
    setups: dict[str, Setup]
    fits: Fits
    bed: tuple[float, float]  #: of the machine [mm]


def measured(rows: Iterable[models.Stock], machine: Machine) -> Measured:
    """Return stocks, settings and fits of rows that came by `with_evidence`."""
    today = date.today().isoformat()
    rows = list(rows)
    evidence = {str(r.pk): evidence_of(r) for r in rows}
    setups = {str(r.pk): now_on(r, machine) for r in rows}
    stocks = {k: stock_of(e, today=today, setup=setups[k]) for k, e in evidence.items()}
    fits = fits_of(
        evidence,
        stocks,
        today=today,
        setup=Setup(machine=machine.id, lens=machine.lens),
        machine_sd=machine.position_sd,
        kerf_left=machine.kerf_place is KerfPlace.NONE,
    )
    settings = {str(r.pk): settings_of(r, stocks[str(r.pk)], machine=machine) for r in rows}
    return Measured(evidence=evidence, stocks=stocks, settings=settings, setups=setups, fits=fits, bed=(machine.bed_width, machine.bed_height))


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
        bad=tuple(tuple((float(x), float(y)) for x, y in ring) for ring in row.bad),
    )
