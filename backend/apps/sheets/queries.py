"""The rack as it is shown: short rows for all stocks, everything for one."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import date

from django.db.models import QuerySet

from apps.sheets import convert
from apps.sheets.advice import advice_for
from apps.sheets.columns import SAID
from apps.sheets.models import KerfTest, Reading, Sheet, Stock
from apps.sheets.schemas import (
    FeelOut,
    FitOut,
    KerfTestOut,
    MaterialOut,
    RackRow,
    ReadingOut,
    SettingsOut,
    SheetOut,
    SpreadOut,
    StockOut,
)
from notchcore.measure.contrast import Lab, lab_of
from notchcore.measure.fit import WANTED, Feel, chance_as_wanted, chances_of, clearance_for, clearance_sd
from notchcore.measure.gauge import clearance_at
from notchcore.measure.hazards import SUBSTANCES, Substance, substances_of
from notchcore.measure.kerf import Setup, kerf_of, pooled_kerf, taper_deg
from notchcore.measure.machine import Machine, setting_said
from notchcore.measure.materials import MATERIALS, Give, default_kerf
from notchcore.measure.thickness import ENOUGH_READINGS, spread_of
from notchcore.words.language import called


def swatch_of(row: Stock, *, finished: bool = False) -> tuple[Lab, bool]:
    """Return how a stock looks, and whether that was measured; else it is its colour on screen."""
    said = row.lab_finished if finished and row.lab_finished else row.lab if not finished else None
    return (tuple(said), True) if said is not None else (lab_of(row.colour or MATERIALS[row.material].colour), False)


def substance_of(row: Stock) -> Substance:
    return SUBSTANCES[row.substance] if row.substance else substances_of(row.material)[0]


def materials() -> list[MaterialOut]:
    return [
        MaterialOut(
            id=f.id,
            label=f.label,
            colour=f.colour,
            looks={look: called(look) for look in f.looks},
            soft=f.give is Give.SOFT,
            flares=f.flares,
            grained=f.grained,
            plies=f.plies,
            caution=f.caution,
            substances=substances_of(f.id),
        )
        for f in MATERIALS.values()
    ]


def rack_rows(rows: QuerySet[Stock], machine: Machine | None) -> list[RackRow]:
    """Return stocks in a few words: four queries, whatever their number."""
    own: dict[int, list[float]] = defaultdict(list)
    lent: dict[int, list[float]] = defaultdict(list)
    for stock, t, borrowed in Reading.objects.filter(stock__in=rows, withdrawn=False).values_list("stock_id", "thickness_mm", "borrowed"):
        (lent if borrowed else own)[stock].append(t)
    tested: dict[int, date] = {}
    if machine is not None:
        tests = KerfTest.objects.filter(stock__in=rows, withdrawn=False, borrowed="", machine_id=int(machine.id), lens=machine.lens)
        tested = dict(tests.order_by("on").values_list("stock_id", "on"))  # the newest of each stock comes last
    whole: dict[int, int] = defaultdict(int)
    offcuts: dict[int, int] = defaultdict(int)
    for stock, is_offcut, count in Sheet.objects.filter(stock__in=rows).values_list("stock_id", "is_offcut", "count"):
        (offcuts if is_offcut else whole)[stock] += count
    found = []
    for row in rows.order_by("material", "label_mm", "pk"):
        material = MATERIALS[row.material]
        values = own[row.pk] or lent[row.pk] or [row.label_mm]
        found.append(
            RackRow(
                id=str(row.pk),
                name=row.name,
                material=row.material,
                material_label=material.label,
                colour=row.colour or material.colour,
                label_mm=row.label_mm,
                thickness_mm=sum(values) / len(values) * (1 - row.crush),
                guess=len(own[row.pk]) < ENOUGH_READINGS,
                kerf_guess=row.pk not in tested,
                kerf_on=tested.get(row.pk),
                verdict=substance_of(row).verdict.value,
                shelf=row.shelf,
                batch=row.batch,
                whole=whole[row.pk],
                offcuts=offcuts[row.pk],
            )
        )
    return found


def _kerf_tests(row: Stock, thickness: float, *, setup: Setup) -> list[KerfTestOut]:
    """Return the kerf tests of a machine and lens in order, each with what was known after it."""
    rows = [t for t in sorted(row.kerf_tests.all(), key=lambda t: t.pk) if (str(t.machine_id), t.lens) == (setup.machine, setup.lens)]
    standing: list[KerfTest] = []
    found = []
    for t in rows:
        if not t.withdrawn:
            standing.append(t)
        tests = tuple(convert.kerf_test_of(s) for s in standing)
        pooled = pooled_kerf(material_id=row.material, thickness=thickness, tests=tests, today=t.on.isoformat(), setup=setup)
        found.append(
            KerfTestOut(
                id=t.pk,
                kind=t.kind,
                drawn_mm=t.drawn_mm,
                measured_mm=t.measured_mm,
                below_mm=t.below_mm,
                count=t.count,
                kerf_mm=kerf_of(convert.kerf_test_of(t)),
                pooled_mm=pooled.value,
                pooled_sd_mm=pooled.sd,
                setting=setting_said(t.setting),
                on=t.on,
                by=t.by,
                withdrawn=t.withdrawn,
                borrowed=t.borrowed,
            )
        )
    return found


def _fits(row: Stock, mates: list[Stock], *, machine: Machine) -> tuple[list[FitOut], list[FeelOut]]:
    """Return how this stock feels with its mates (itself first), and the feels that it is known from."""
    rows = {r.pk: r for r in (row, *mates)}
    known = convert.measured(rows.values(), machine)
    me = str(row.pk)
    fits = []
    for mate_id, mate in known.stocks.items():
        boundaries = known.fits.between(known.stocks[me].key, mate.key)
        snug = clearance_for(Feel.SNUG, boundaries).value
        kerf = known.stocks[me].kerf
        sd = clearance_sd(kerf_sd=kerf.sd, thickness_sd=mate.thickness.sd, boundaries=boundaries, machine_sd=machine.position_sd, opening=me)
        fits.append(
            FitOut(
                mate=mate_id,
                name=mate.name,
                colour=mate.colour,
                boundaries=boundaries,
                targets={f.value: clearance_for(f, boundaries).value for f in WANTED},
                chance=chance_as_wanted(chances_of(clearance=snug, sd=sd, boundaries=boundaries), Feel.SNUG),
                sd_mm=sd,
                drawn_mm=mate.t + snug - kerf.value,
            )
        )
    return fits, _feels(rows.values(), known, me=me, machine=machine)


def _feels(rows: Iterable[Stock], known: convert.Measured, *, me: str, machine: Machine) -> list[FeelOut]:
    """Return what was felt between a stock and its mates on this machine."""
    feels = []
    for r in rows:
        for f in sorted(r.feels.all(), key=lambda f: f.pk):
            pair = {str(f.stock_id), str(f.entering_id)}
            if me in pair and pair <= set(known.stocks) and (str(f.machine_id), f.lens) == (machine.id, machine.lens):
                answer = convert.answer_of(f)
                clearance = clearance_at(answer, kerf=known.stocks[answer.opening].kerf.value, thickness=known.stocks[answer.entering].t)
                feels.append(
                    FeelOut(
                        id=f.pk,
                        opening=answer.opening,
                        entering=answer.entering,
                        feel=f.feel,
                        drawn_mm=f.drawn_mm,
                        clearance_mm=clearance,
                        on=f.on,
                        by=f.by,
                        withdrawn=f.withdrawn,
                        borrowed=f.borrowed,
                    )
                )
    return feels


def mates_of(row: Stock, wanted: list[int]) -> list[Stock]:
    """Return the stocks that were felt together with this one, and those that are asked for."""
    felt = {f.entering_id for f in row.feels.all()} | {f.stock_id for f in row.feels_in.all()}
    ids = (felt | set(wanted)) - {row.pk}
    return list(convert.with_evidence(Stock.objects.filter(shop=row.shop_id, pk__in=ids)).order_by("pk"))


def stock_out(row: Stock, machine: Machine, *, mates: list[int]) -> StockOut:
    """Return everything about a stock on a machine.

    Args:
        row: with evidence, sheets and feels_in
        mates: ids of stocks to show the fit with, beside those that were felt
    """
    setup = convert.now_on(row, machine)
    value = convert.stock_value(row, machine)
    material = MATERIALS[row.material]
    readings = sorted(row.readings.all(), key=lambda r: r.pk)
    own = [r.thickness_mm for r in readings if not r.withdrawn and not r.borrowed]
    spread = spread_of(own, material) if own else None
    fits, feels = _fits(row, mates_of(row, mates), machine=machine)
    tests = tuple(convert.kerf_test_of(t) for t in convert.standing(row.kerf_tests.all()) if (str(t.machine_id), t.lens) == (machine.id, machine.lens))
    history = [
        SettingsOut(id=s.pk, settings=convert.SETTINGS.validate_python(convert.values_of(s)), by=s.by, on=s.on, borrowed=s.borrowed, withdrawn=s.withdrawn)
        for s in sorted(row.settings_rows.all(), key=lambda s: s.pk)
        if (str(s.machine_id), s.lens) == (machine.id, machine.lens)
    ]
    return StockOut(
        value=value,
        **{f: getattr(row, f) for f in SAID},
        material_label=material.label,
        substance=substance_of(row),
        confirmed_by=row.confirmed_by,
        confirmed_on=row.confirmed_on,
        confirmed_data=row.confirmed_data,
        caution=material.caution,
        flares=material.flares,
        readings=[ReadingOut.from_orm(r) for r in readings],
        spread=SpreadOut(count=spread.count, range_mm=spread.range, mean_sd_mm=spread.mean_sd) if spread else None,
        kerf_tests=_kerf_tests(row, value.t, setup=setup),
        taper_deg=taper_deg(tests, value.t),
        feels=feels,
        fits=fits,
        sheets=[SheetOut.from_orm(s) for s in sorted(row.sheets.all(), key=lambda s: s.pk)],
        settings=convert.settings_of(row, value, machine=machine),
        settings_history=history[::-1],
        default_kerf_mm=default_kerf(material, value.t),
        machine=machine.id,
        advice=advice_for(row, machine),
        row=rack_rows(Stock.objects.filter(pk=row.pk), machine)[0],
    )


def today() -> str:
    return date.today().isoformat()
