"""What a person does with test cards: make one, enter what came of it, keep the settings it shows."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from django.db import transaction

from apps.cards.models import Card, CardResult
from apps.designs import queries
from apps.designs.convert import DESIGN
from apps.designs.models import Project, Revision
from apps.designs.services import start_test
from apps.sheets import convert, evidence
from apps.sheets.evidence import Here
from apps.sheets.models import Evidence, OnMachine, Stock
from notchcore.design.cards.pieces import Card as CardNumbers
from notchcore.design.cards.pieces import Card as CoreCard
from notchcore.design.cards.pieces import Cell, GaugeStrip, Piece, PowerCard, StepCard, StripsCard, piece_of
from notchcore.design.cards.proposed import proposed_card
from notchcore.design.design import Design
from notchcore.errors import MeasureError
from notchcore.measure import engraving, kerf
from notchcore.measure.fit import Feel
from notchcore.measure.gauge import Answer, contradictions
from notchcore.measure.machine import Settings
from notchcore.words.facts import Sentence
from notchcore.words.language import called
from notchcore.words.render import plain, say

NAMES = {
    "strips": "Kerf strips",
    "gaps": "Gap card",
    "gauge": "Gauge strip",
    "power": "Power card",
    "steps": "Step card",
    "legibility": "Legibility card",
}


def name_of(kind: str) -> str:
    """Return what a kind of card is called."""
    return called(NAMES[kind])


def uses_of(stock: Stock) -> list[str]:
    """Return where a stock is in use: projects by name (their newest revision names it), and other stocks' gauge strips."""
    found = []
    for project in Project.objects.filter(shop=stock.shop_id).order_by("name"):
        head = Revision.objects.get(project=project, number=project.head)
        if str(stock.pk) in DESIGN.validate_python(head.design).named_stocks() and getattr(project, "card", None) is None:
            found.append(project.name)
    found += [
        plain(say("card.of_stock", card=name_of(c.kind), stock=c.stock.name))
        for c in Card.objects.filter(tongue=stock).exclude(stock=stock).select_related("stock")
    ]
    found += [plain(say("feels_of_stock", stock=f.stock.name)) for f in stock.feels_in.exclude(stock=stock).select_related("stock")[:1]]
    return found


@transaction.atomic
def make_card(*, stock: Stock, tongue: Stock, here: Here, kind: str) -> Card:
    """Make a card as a small project, with the numbers that tell most about this stock today.

    Raises:
        MeasureError: the stock must not be cut
    """
    machine = convert.machine_of(here.machine)
    known = convert.measured({stock.pk: stock, tongue.pk: tongue}.values(), machine)
    for sheet in known.stocks.values():
        if sheet.hazard is not None:
            raise MeasureError(sheet.hazard.says)
    me, other = str(stock.pk), str(tongue.pk)
    numbers = proposed_card(kind, known.stocks[me], tongue=known.stocks[other], settings=known.settings[me], unit=here.member.unit)
    two = tongue.pk != stock.pk
    named = say("card.two", card=name_of(kind), stock=stock.name, tongue=tongue.name) if two else say("card.one", card=name_of(kind), stock=stock.name)
    project = start_test(
        member=here.member, machine=here.machine, name=plain(named)[:80], design=Design(numbers=numbers, stocks={"sheet": me, "tongue": other})
    )
    return Card.objects.create(
        project=project,
        stock=stock,
        tongue=tongue,
        machine=here.machine,
        lens=machine.lens,
        setting=known.settings[me].cut.words,
        kind=kind,
        asked=len(piece_of(numbers, known.stocks[me], tongue=known.stocks[other]).cells),
        by=here.member.user.username,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawn:
    """A card as it was designed."""

    numbers: CoreCard
    piece: Piece
    settings: Settings


def drawn(card: Card) -> Drawn:
    now = queries.current(card.project)
    assert isinstance(now.design.numbers, CardNumbers)
    stocks = now.stocks
    piece = piece_of(now.design.numbers, stocks[now.design.stocks["sheet"]], tongue=stocks[now.design.stocks["tongue"]])
    return Drawn(numbers=now.design.numbers, piece=piece, settings=now.settings[now.design.stocks["sheet"]])


def _number(value: dict[str, Any], field: str) -> float:
    try:
        return float(value[field])
    except (KeyError, TypeError, ValueError):
        raise MeasureError(say("measured_lacking"), field=field) from None


def _kerf_test(numbers: CoreCard, cell: Cell, *, value: dict[str, Any]) -> kerf.KerfTest:
    below = None if value.get("below_mm") is None else _number(value, "below_mm")
    if isinstance(numbers, StripsCard):
        return kerf.KerfTest(kind=kerf.KerfTestKind.STRIPS, drawn=cell.value, measured=_number(value, "measured_mm"), count=numbers.count)
    kind = kerf.KerfTestKind.GAP if cell.what == "slot" else kerf.KerfTestKind.PEG
    return kerf.KerfTest(kind=kind, drawn=cell.value, measured=_number(value, "measured_mm"), below=below)


def _checked(numbers: CoreCard, cell: Cell, *, value: dict[str, Any]) -> dict[str, Any]:
    """Return the result of a cell that is no evidence by itself, when it makes sense."""
    if isinstance(numbers, PowerCard):
        seen = engraving.SquareSeen(power=cell.second, speed=cell.value, through=bool(value.get("through")), char=int(value.get("char") or 0))
        return {"through": seen.through, "char": seen.char}
    if isinstance(numbers, StepCard):
        return {"depth_mm": engraving.DepthRead(passes=round(cell.value), depth=_number(value, "depth_mm")).depth}
    return {"good": bool(value.get("good"))}


@transaction.atomic
def enter(*, card: Card, here: Here, entries: list[tuple[str, dict[str, Any] | None]]) -> Drawn:
    """Keep what was found in cells of a card, all or none; each supersedes what was entered there before.

    Args:
        entries: cell and result; no result only takes the old one back
    """
    Card.objects.select_for_update().get(pk=card.pk)
    made = drawn(card)
    cells = {c.id: c for c in made.piece.cells}
    for cell_id, value in entries:
        if cell_id not in cells:
            raise MeasureError(say("no_such_cell"), field="cell")
        old = CardResult.objects.filter(card=card, cell=cell_id, withdrawn=False).select_related("kerf_test", "feel").first()
        rows: list[Evidence | None] = [old, old.kerf_test, old.feel] if old is not None else []
        for row in rows:
            if row is not None:
                evidence.withdraw(row, True)
        if value is not None:
            _keep(card, Here(member=here.member, machine=card.machine), numbers=made.numbers, cell=cells[cell_id], value=value)
    return made


def _keep(card: Card, here: Here, *, numbers: CoreCard, cell: Cell, value: dict[str, Any]) -> None:
    result = CardResult(card=card, cell=cell.id, on=date.today(), by=here.member.user.username)
    if isinstance(numbers, GaugeStrip):
        feel = str(value.get("feel"))
        result.feel = evidence.record_feel(stock=card.stock, entering=card.tongue, here=here, feel=feel, drawn_mm=cell.value)
        result.value = {"feel": feel}
        _at_lens(result.feel, card)
    elif cell.what in ("strips", "slot", "peg"):
        test = _kerf_test(numbers, cell, value=value)
        result.kerf_test = evidence.record_kerf_test(stock=card.stock, here=here, test=test, setting=card.setting)
        result.value = {"measured_mm": test.measured, "below_mm": test.below}
        _at_lens(result.kerf_test, card)
    else:
        result.value = _checked(numbers, cell, value=value)
    result.save()


def _at_lens(row: OnMachine, card: Card) -> None:
    """Let a result belong to the lens that the card was made for, whichever is in the machine by now."""
    row.lens, row.setting = card.lens, card.setting
    row.save(update_fields=["lens", "setting"])


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """What a card shows so far."""

    best: engraving.SquareSeen | None = None
    best_by_char: tuple[engraving.SquareSeen | None, ...] = ()  #: when no char is accepted, light char, some
    depth: engraving.Depth | None = None
    least_text_mm: float | None = None
    least_web_mm: float | None = None
    why_not: Sentence | None = None


def _best(seen: list[engraving.SquareSeen], accepted_char: int) -> engraving.SquareSeen | None:
    try:
        return engraving.best_square(seen, accepted_char=accepted_char)
    except MeasureError:
        return None


DEPTHS = (0.25, 0.5, 1.0)  # [mm] that a step card tells the passes of


def depths_of(depth: engraving.Depth | None, thickness: float) -> list[tuple[float, int, bool]]:
    """Return some depths, the passes that reach each, and whether each leaves too little of the sheet."""
    if depth is None:
        return []
    return [(d, engraving.passes_for(d, depth.per_pass), engraving.depth_finding(d, thickness) is not None) for d in DEPTHS]


def shown(card: Card, made: Drawn, *, accepted_char: int = 1) -> Shown:
    """Return what the standing results of a power, step or legibility card come to."""
    results = {r.cell: r.value for r in card.results.all() if not r.withdrawn}
    cells = {c.id: c for c in made.piece.cells if c.id in results}
    try:
        if card.kind == "power" and results:
            seen = [engraving.SquareSeen(power=c.second, speed=c.value, **results[i]) for i, c in cells.items()]
            each = tuple(_best(seen, char) for char in range(engraving.WORST_CHAR))
            return Shown(best=engraving.best_square(seen, accepted_char=accepted_char), best_by_char=each)
        if card.kind == "steps" and results:
            return Shown(depth=engraving.depth_per_pass([engraving.DepthRead(passes=round(c.value), depth=results[i]["depth_mm"]) for i, c in cells.items()]))
    except MeasureError as problem:
        return Shown(why_not=problem.says)
    good = {what: [c.value for i, c in cells.items() if c.what == what and results[i].get("good")] for what in ("text", "web")}
    return Shown(least_text_mm=min(good["text"], default=None), least_web_mm=min(good["web"], default=None)) if card.kind == "legibility" else Shown()


def contradicting(card: Card, made: Drawn) -> list[str]:
    """Return the labels of a gauge's slots whose feels cannot both be right: a wider one felt tighter."""
    if not isinstance(made.numbers, GaugeStrip):
        return []
    results = {r.cell: r.value for r in card.results.all() if not r.withdrawn}
    felt = [c for c in made.piece.cells if c.id in results]
    answers = tuple(Answer(opening="a", entering="b", feel=Feel(results[c.id]["feel"]), drawn=c.value) for c in felt)
    return [felt[i].label for i in sorted({i for pair in contradictions(answers) for i in pair})]


@transaction.atomic
def settle(*, card: Card, here: Here, cell_id: str | None, accepted_char: int) -> None:
    """Keep the settings that a card shows: the best square or the one that is named; a step card gives engraving.

    Raises:
        MeasureError: the card does not show any yet
    """
    made = drawn(card)
    on_card = Here(member=here.member, machine=card.machine)
    now: Settings = made.settings
    if isinstance(made.numbers, PowerCard):
        if cell_id is not None:
            cell = next((c for c in made.piece.cells if c.id == cell_id), None)
            if cell is None:
                raise MeasureError(say("no_such_cell"), field="cell")
            power, speed = cell.second, cell.value
        else:
            best = shown(card, made, accepted_char=accepted_char)
            if best.best is None:
                raise MeasureError(best.why_not or say("square_that_fell"))
            power, speed = best.best.power, best.best.speed
        settings, tried = replace(now, cut=made.numbers.beam(power, speed)), "cut"
    elif isinstance(made.numbers, StepCard):
        depth = shown(card, made).depth
        if depth is None:
            raise MeasureError(say("squares_without_depth"))
        settings, tried = replace(now, engrave=replace(made.numbers.beam(1), depth=round(depth.per_pass, 4))), "engrave"
    else:
        raise MeasureError(say("settings_from_cards"))
    source = plain(say("card.source", card=name_of(card.kind).lower(), on=date.today().isoformat()))
    evidence.keep_settings(stock=card.stock, here=on_card, settings=settings, source=source, tried=[tried])
