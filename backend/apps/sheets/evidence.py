"""What a person finds out: readings, kerf tests, feels, settings. Rows are added and withdrawn, never changed."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from django.db import transaction

from apps.accounts.models import Member
from apps.sheets import convert
from apps.sheets.models import Evidence, Feel, KerfTest, Machine, Reading, Stock, StockSettings
from notchcore.errors import LengthNotUnderstood, MeasureError
from notchcore.measure import fit, gauge, kerf, machine, thickness
from notchcore.typed import parse_length
from notchcore.words.render import say

LENT_OF_KERF = ("kind", "drawn_mm", "measured_mm", "below_mm", "count", "setting", "on")  # what a kerf test tells that is lent
MOST_PASTED = 500
LENT_SD = 0.04  # a lent feel is of another batch or machine [mm]
SPREAD = 0.618034  # pasted readings are laid over the sheet by the golden ratio: no two on one spot


@dataclass(frozen=True, slots=True, kw_only=True)
class Here:
    """Who, on which machine."""

    member: Member
    machine: Machine

    @property
    def stamp(self) -> dict[str, Any]:
        return {"on": date.today(), "by": self.member.user.username, "machine": self.machine, "lens": convert.machine_of(self.machine).lens}


@transaction.atomic
def take_reading(*, stock: Stock, member: Member, thickness_mm: float, x: float = 0.5, y: float = 0.5) -> Reading:
    """Keep a caliper reading."""
    thickness.Reading(thickness=thickness_mm)
    return Reading.objects.create(stock=stock, thickness_mm=thickness_mm, x=x, y=y, on=date.today(), by=member.user.username)


def lengths_in(text: str, unit: str) -> list[float]:
    """Return the lengths of a pasted column, row or list [mm]; heads and empty cells are passed over.

    Cells are parted by line ends, tabs and semicolons; by commas only where no cell of the text uses the comma as a decimal sign.

    Raises:
        MeasureError: a cell is no length, with the line it stands on
    """
    found = []
    for number, line in enumerate(text.splitlines(), start=1):
        cells = [c.strip() for c in line.replace("\t", ";").split(";")]
        if (len(cells) == 1 and line.count(",") > 1) or ("." in line and "," in line):
            cells = [c.strip() for c in line.split(",")]
        for cell in cells:
            if not cell:
                continue
            try:
                found.append(parse_length(cell, unit=unit))
            except LengthNotUnderstood as problem:
                if number == 1 and not any(c.isdecimal() for c in line):
                    break  # a head
                raise MeasureError(say("pasted_line", number=number, why=problem.says), line=number) from None
    return found


@transaction.atomic
def paste_readings(*, stock: Stock, member: Member, text: str, unit: str) -> int:
    """Keep a list of readings at once, all or none; return how many."""
    values = lengths_in(text, unit)
    if not values:
        raise MeasureError(say("pasted_nothing"))
    if len(values) > MOST_PASTED:
        raise MeasureError(say("pasted_most", readings=len(values), most=MOST_PASTED))
    for v in values:
        thickness.Reading(thickness=v)
    spots = [(0.1 + 0.8 * ((i * SPREAD) % 1), 0.1 + 0.8 * (i + 0.5) / len(values)) for i in range(len(values))]
    Reading.objects.bulk_create(
        Reading(stock=stock, thickness_mm=v, x=round(x, 3), y=round(y, 3), on=date.today(), by=member.user.username)
        for v, (x, y) in zip(values, spots, strict=True)
    )
    return len(values)


def withdraw(row: Evidence, withdrawn: bool) -> None:
    """Take evidence back, or put it back; it stays in the record."""
    row.withdrawn = withdrawn
    row.save(update_fields=["withdrawn"])


@transaction.atomic
def record_kerf_test(*, stock: Stock, here: Here, test: kerf.KerfTest, setting: str | None = None) -> KerfTest:
    """Keep a kerf test, as made with today's settings unless told otherwise."""
    if setting is None:
        setting = convert.now_on(stock, convert.machine_of(here.machine)).settings
    return KerfTest.objects.create(
        stock=stock, kind=test.kind.value, drawn_mm=test.drawn, measured_mm=test.measured, below_mm=test.below, count=test.count, setting=setting, **here.stamp
    )


@transaction.atomic
def record_feel(
    *, stock: Stock, entering: Stock, here: Here, feel: str, drawn_mm: float | None = None, clearance_mm: float | None = None, sd_mm: float = 0.0
) -> Feel:
    """Keep how an opening of `stock` felt with a sheet of `entering`."""
    if feel not in [f.value for f in fit.Feel]:
        raise MeasureError(say("feels_of_joint"), field="feel")
    gauge.Answer(opening=str(stock.pk), entering=str(entering.pk), feel=fit.Feel(feel), drawn=drawn_mm, clearance=clearance_mm, sd=sd_mm)
    return Feel.objects.create(stock=stock, entering=entering, feel=feel, drawn_mm=drawn_mm, clearance_mm=clearance_mm, sd_mm=sd_mm, **here.stamp)


@transaction.atomic
def keep_settings(*, stock: Stock, here: Here, settings: machine.Settings, source: str, tried: Collection[str]) -> StockSettings:
    """Keep how this stock is worked in the operations that were tried, and where that is known from; the others stay as they were.

    Args:
        tried: of machine.OPERATIONS; what was known before stays in the record
    """
    beams = {k: v for k, v in convert.SETTINGS.dump_python(settings, mode="json").items() if k in tried}
    values = with_beams(stock, convert.machine_of(here.machine), beams=beams, sources=dict.fromkeys(beams, source))
    return StockSettings.objects.create(stock=stock, values=values, source=source[:120], **here.stamp)


def with_beams(stock: Stock, on: machine.Machine, *, beams: Mapping[str, Any], sources: Mapping[str, str]) -> dict[str, Any]:
    """Return the settings of a stock on a machine with some operations anew, each with where it is known from, as they are kept."""
    before = convert.settings_of(stock, convert.stock_value(stock, on), machine=on)
    known = {} if before.borrowed else {k: before.source_of(k) for k in machine.OPERATIONS if before.tested(k)}
    values = {k: v for k, v in convert.SETTINGS.dump_python(before, mode="json").items() if k in machine.OPERATIONS}
    return {**values, **beams, "sources": known | {k: v[:120] for k, v in sources.items()}}


@transaction.atomic
def borrow(*, stock: Stock, here: Here, source: Stock, source_machine: Machine) -> int:
    """Let a stock (on a machine) start from the evidence of another; every row is marked and gives way to own ones.

    Returns:
        how many rows were borrowed
    Raises:
        MeasureError: there is nothing to borrow, or a stock would borrow from itself
    """
    if stock.pk == source.pk and here.machine.pk == source_machine.pk:
        raise MeasureError(say("borrow_from_itself"))
    name = f"{source.name} on {source_machine.name}" if stock.pk != source.pk else source_machine.name
    stamp = {"borrowed": name[:170], "by": here.member.user.username}
    there = convert.machine_of(source_machine)
    lent = {"stock": stock, "borrowed": stamp["borrowed"], "withdrawn": False}
    on_machine = any(model._default_manager.filter(**lent, machine=here.machine).exists() for model in (KerfTest, Feel, StockSettings))
    if on_machine or Reading.objects.filter(**lent).exists():
        raise MeasureError(say("borrowed_already", stock=stock.name, name=name))
    rows: list[Evidence] = []
    if stock.pk != source.pk:
        rows += [
            Reading(stock=stock, thickness_mm=r.thickness_mm, x=r.x, y=r.y, on=r.on, **stamp) for r in convert.standing(source.readings.all()) if not r.borrowed
        ]
    at = {"machine": here.machine, "lens": convert.machine_of(here.machine).lens}
    rows += [
        KerfTest(stock=stock, **{name: getattr(t, name) for name in LENT_OF_KERF}, **at, **stamp)
        for t in convert.standing(source.kerf_tests.all())
        if (t.machine_id, t.lens, t.borrowed) == (source_machine.pk, there.lens, "")
    ]
    tried = [s for s in convert.settings_rows(source, there) if not s.borrowed]
    if tried:
        last = tried[-1]
        rows.append(StockSettings(stock=stock, values=last.values, source=f"borrowed from {name}"[:120], setting=last.setting, on=last.on, **at, **stamp))
    rows += _lent_feels(stock, source, source_machine=source_machine, stamp=at | stamp)
    if not rows:
        raise MeasureError(say("nothing_to_lend", stock=source.name, machine=source_machine.name))
    for row in rows:
        row.save()
    return len(rows)


def _lent_feels(stock: Stock, source: Stock, *, source_machine: Machine, stamp: dict[str, Any]) -> list[Feel]:
    """Return the source's feels as the borrower's own, by the clearance that they came to there: its drawn widths mean nothing here."""
    there = convert.machine_of(source_machine)
    rows = [*source.feels.all()]
    if stock.pk != source.pk:  # the same stock on another machine lends what was felt in its own openings: its mates lend theirs
        rows += source.feels_in.all()
    felt = [f for f in rows if (f.machine_id, f.lens, f.borrowed, f.withdrawn) == (source_machine.pk, there.lens, "", False)]
    ids = {i for f in felt for i in (f.stock_id, f.entering_id)}
    known = convert.measured(convert.with_evidence(Stock.objects.filter(pk__in=ids)), there) if ids else None
    made = []
    for f in {f.pk: f for f in felt}.values():
        assert known is not None
        answer = convert.answer_of(f)
        clearance = gauge.clearance_at(answer, kerf=known.stocks[answer.opening].kerf.value, thickness=known.stocks[answer.entering].t)
        pair = {k: stock if getattr(f, f"{k}_id") == source.pk else getattr(f, k) for k in ("stock", "entering")}
        made.append(Feel(**pair, feel=f.feel, clearance_mm=clearance, sd_mm=LENT_SD, setting=f.setting, on=f.on, **stamp))
    return made


@transaction.atomic
def borrow_all(*, here: Here, source_machine: Machine) -> int:
    """Let a new machine start from another's kerfs and settings of every stock; return how many rows were borrowed."""
    count = 0
    for stock in convert.with_evidence(Stock.objects.filter(shop=here.member.shop_id)).prefetch_related("feels_in"):
        try:
            count += borrow(stock=stock, here=here, source=stock, source_machine=source_machine)
        except MeasureError:
            continue  # nothing was tested with this stock
    return count
