"""Test cards over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Field, Router, Schema, Status

from apps.accounts.access import mine, require_role
from apps.accounts.models import Role
from apps.cards import services
from apps.cards.making import laid_out
from apps.cards.models import Card
from apps.sheets import convert
from apps.sheets.api import here, machine_row, stock_row
from apps.sheets.evidence import Here
from notchcore.design.assembly import Mark
from notchcore.design.cards.pieces import Card as CoreCard
from notchcore.design.cards.pieces import Cell
from notchcore.geom.profile import Profile
from notchcore.measure.engraving import Depth, SquareSeen
from notchcore.words.facts import Sentence

router = Router(tags=["cards"])


class FlatPiece(Schema):
    id: str
    label: str
    stock: str
    colour: str
    at: tuple[float, float]
    profile: Profile
    marks: tuple[Mark, ...]


class ResultOut(Schema):
    id: int
    cell: str
    value: dict[str, Any]
    by: str
    on: Any
    withdrawn: bool


class CardRow(Schema):
    id: int
    project: int
    kind: str
    name: str
    tongue: str
    by: str
    created: datetime
    asked: int  #: how many results it asks for
    entered: int
    depth: Depth | None
    least_text_mm: float | None
    least_web_mm: float | None


class Findings(Schema):
    """What was entered on a card, and what it comes to."""

    best_by_char: tuple[SquareSeen | None, ...]  #: when no char is accepted, light char, some
    depths: list[tuple[float, int, bool]]  #: depth [mm], passes that reach it, whether it is too deep for the sheet

    entered: int
    results: list[ResultOut]
    best: SquareSeen | None
    best_cell: str | None
    depth: Depth | None
    least_text_mm: float | None
    least_web_mm: float | None
    why_not: Sentence | None
    contradicting: list[str]  #: labels of slots where a wider one felt tighter


class CardOut(CardRow):
    numbers: CoreCard
    pieces: list[FlatPiece]
    cells: list[Cell]
    planned: bool
    minutes: float | None
    found: Findings


class CardIn(Schema):
    kind: str
    tongue: int | None = None


class EntryIn(Schema):
    cell: str
    value: dict[str, Any] | None = None  #: none takes the result back


class EnterIn(Schema):
    entries: list[EntryIn] = Field(min_length=1, max_length=200)


class SettleIn(Schema):
    cell: str | None = None
    accepted_char: int = 1


def _card(request: HttpRequest, card_id: int) -> Card:
    rows = mine(request, Card, "stock__shop").select_related("project__machine", "project__shop", "stock", "tongue", "machine").prefetch_related("results")
    return get_object_or_404(rows, pk=card_id)


SAYS = ("steps", "legibility")  # kinds whose results are a number of the stock


def _row(card: Card) -> dict[str, Any]:
    entered = sum(1 for r in card.results.all() if not r.withdrawn)
    found = services.shown(card, services.drawn(card)) if entered and card.kind in SAYS else services.Shown()
    return {
        "id": card.pk,
        "project": card.project_id,
        "kind": card.kind,
        "name": services.name_of(card.kind),
        "tongue": str(card.tongue_id),
        "by": card.by,
        "created": card.created,
        "asked": card.asked,
        "entered": entered,
        "depth": found.depth,
        "least_text_mm": found.least_text_mm,
        "least_web_mm": found.least_web_mm,
    }


def _findings(card: Card, made: services.Drawn) -> Findings:
    found = services.shown(card, made)
    best = next((c.id for c in made.piece.cells if found.best and (c.second, c.value) == (found.best.power, found.best.speed)), None)
    rows = sorted(card.results.all(), key=lambda r: r.pk)
    return Findings(
        best_by_char=found.best_by_char,
        depths=services.depths_of(found.depth, made.piece.parts[0].t),
        entered=sum(1 for r in rows if not r.withdrawn),
        results=[ResultOut.from_orm(r) for r in rows],
        best=found.best,
        best_cell=best,
        depth=found.depth,
        least_text_mm=found.least_text_mm,
        least_web_mm=found.least_web_mm,
        why_not=found.why_not,
        contradicting=services.contradicting(card, made),
    )


def _out(card: Card) -> CardOut:
    made = services.drawn(card)
    minutes = laid_out(card.project)
    colours = {str(s.pk): convert.stock_value(s, convert.machine_of(card.machine)).colour for s in (card.stock, card.tongue)}
    return CardOut(
        **_row(card),
        numbers=made.numbers,
        pieces=[
            FlatPiece(id=p.id, label=p.label, stock=p.stock, colour=colours[p.stock], at=(p.pose.origin[0], p.pose.origin[1]), profile=p.profile, marks=p.marks)
            for p in made.piece.parts
        ],
        cells=list(made.piece.cells),
        planned=minutes is not None,
        minutes=minutes,
        found=_findings(card, made),
    )


@router.get("/stocks/{stock_id}/cards", response=list[CardRow], operation_id="cards")
def cards(request: HttpRequest, stock_id: int, machine: int | None = None) -> list[CardRow]:
    """Return the cards of a stock on a machine, newest first."""
    rows = mine(request, Card, "stock__shop").filter(stock_id=stock_id, machine=machine_row(request, machine))
    rows = rows.select_related("project__machine", "project__shop").prefetch_related("results").order_by("-pk")
    return [CardRow(**_row(c)) for c in rows[:24]]


@router.post("/stocks/{stock_id}/cards", response={201: CardOut}, operation_id="makeCard")
def make_card(request: HttpRequest, stock_id: int, body: CardIn, machine: int | None = None) -> Status[CardOut]:
    """Make a test card, laid out and planned when a sheet for it lies on the shelf."""
    stock = stock_row(request, stock_id)
    tongue = stock_row(request, body.tongue) if body.tongue is not None else stock
    card = services.make_card(stock=stock, tongue=tongue, here=here(request, Role.OPERATOR, machine), kind=body.kind)
    laid_out(card.project, make=True)
    return Status(201, _out(_card(request, card.pk)))


@router.get("/cards/{card_id}", response=CardOut, operation_id="card")
def card(request: HttpRequest, card_id: int) -> CardOut:
    return _out(_card(request, card_id))


@router.put("/cards/{card_id}/results", response=Findings, operation_id="enterResult")
def enter(request: HttpRequest, card_id: int, body: EnterIn) -> Findings:
    row = _card(request, card_id)
    here = Here(member=require_role(request, Role.OPERATOR), machine=row.machine)
    made = services.enter(card=row, here=here, entries=[(e.cell, e.value) for e in body.entries])
    return _findings(_card(request, card_id), made)


@router.post("/cards/{card_id}/settings", response=Findings, operation_id="settleCard")
def settle(request: HttpRequest, card_id: int, body: SettleIn) -> Findings:
    """Keep the settings that the card shows."""
    row = _card(request, card_id)
    by = Here(member=require_role(request, Role.OPERATOR), machine=row.machine)
    services.settle(card=row, here=by, cell_id=body.cell, accepted_char=body.accepted_char)
    return _findings(row, services.drawn(row))
