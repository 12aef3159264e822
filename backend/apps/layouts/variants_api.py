"""The variants of a project beside each other, and several of them made together."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from apps.accounts.access import require_role
from apps.accounts.models import Role
from apps.designs import convert, exchange, queries
from apps.designs.api import ProjectOut, project_out, project_row
from apps.layouts import services
from apps.sheets.convert import machine_of, sheet_kind_of
from apps.sheets.models import Sheet
from notchcore.design.assembly import size_of_all
from notchcore.design.edits import MOST_COPIES
from notchcore.design.variants import chosen_now, in_words, together, variants, with_choice
from notchcore.errors import NotchCoreError
from notchcore.findings import Severity
from notchcore.nest.asked import nothing_said
from notchcore.nest.bed import laid_on_bed
from notchcore.nest.supply import needs
from notchcore.plan.burning import burning_time
from notchcore.words.facts import Sentence

router = Router(tags=["variants"])


class VariantsOut(Schema):
    now: dict[str, str]  #: the alternative that is chosen of each variation; "" where none is
    all: list[dict[str, str]]


class ChoiceIn(Schema):
    choice: dict[str, str]


class SheetsOut(Schema):
    """What a variant takes of a stock."""

    stock: str
    sheets: float  #: of the largest whole ones, about
    buy: int  #: so many more than there are


class VariantOut(Schema):
    """What one variant comes to, once."""

    words: str
    pieces: int
    size: tuple[float, float, float] | None  #: of the box that holds it
    sheets: list[SheetsOut]
    minutes: float  #: of burning
    price: float  #: of its share of the sheets
    stops: int  #: findings that it must not be cut with
    problem: Sentence | None  #: why it cannot be chosen


class WantedIn(Schema):
    choice: dict[str, str]
    count: int = Field(ge=0, le=MOST_COPIES)


class TogetherIn(Schema):
    name: str = Field(min_length=1, max_length=80)
    wanted: list[WantedIn] = Field(max_length=400)


@router.get("/projects/{project_id}/variants", response=VariantsOut, operation_id="variants")
def all_variants(request: HttpRequest, project_id: int) -> VariantsOut:
    """Tell every variant of a project and what is chosen now."""
    design = queries.current(project_row(request, project_id)).design
    return VariantsOut(now=chosen_now(design), all=variants(design) if chosen_now(design) else [])


@router.post("/projects/{project_id}/variants/one", response=VariantOut, operation_id="oneVariant")
def one_variant(request: HttpRequest, project_id: int, body: ChoiceIn) -> VariantOut:
    """Tell what a variant comes to, without choosing it: one at a time, so that each is there at once."""
    project = project_row(request, project_id)
    words = in_words(body.choice)
    try:
        design = with_choice(queries.current(project).design, body.choice)
    except NotchCoreError as problem:
        return VariantOut(words=words, pieces=0, size=None, sheets=[], minutes=0.0, price=0.0, stops=0, problem=problem.says)
    known = convert.measured_for(project, design)
    made = queries.assembly_for(project, design, measured=known)
    asked, machine = nothing_said(known.stocks), machine_of(project.machine)
    rows = list(Sheet.objects.filter(stock__shop=project.shop_id).order_by("pk"))
    prices = {str(s.pk): s.price for s in rows}
    parts = asked.parts(made.parts)
    sheets, price = [], 0.0
    for stock in sorted({p.stock for p in parts}):
        rules = services.rules_of(project, asked, stock=stock)
        for need in needs([p for p in parts if p.stock == stock], [laid_on_bed(sheet_kind_of(s), rules) for s in rows], rules=rules):
            sheets.append(SheetsOut(stock=known.stocks[stock].name, sheets=need.sheets, buy=need.buy))
            price += need.sheets * prices.get(need.sheet, 0.0)
    seconds = sum((p.copies + p.spares) * burning_time(p, known.settings[p.stock], machine=machine, kerf=known.stocks[p.stock].kerf.value) for p in made.parts)
    return VariantOut(
        words=words,
        pieces=sum(p.copies + p.spares for p in made.parts),
        size=size_of_all(made) if made.parts else None,
        sheets=sheets,
        minutes=seconds / 60,
        price=price,
        stops=sum(f.severity is Severity.MUST for f in made.findings),
        problem=None,
    )


@router.post("/projects/{project_id}/variants/together", response=ProjectOut, operation_id="variantsTogether")
def variants_together(request: HttpRequest, project_id: int, body: TogetherIn) -> ProjectOut:
    """Begin a project in which so many of each variant are made: packed, planned, priced and logged as one."""
    member = require_role(request, Role.DESIGNER)
    project = project_row(request, project_id)
    design = together(queries.current(project).design, [(w.choice, w.count) for w in body.wanted])
    return project_out(exchange.started_from(project, design, name=body.name, member=member))
