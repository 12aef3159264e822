"""What a person does on Build and Dry fit."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Exists, OuterRef, QuerySet, Subquery, Sum
from django.db.models.functions import Coalesce

from apps.accounts.models import Member
from apps.designs import convert, queries
from apps.designs.models import Project, Revision, Stage, StageResult
from apps.sheets.models import KerfTest, Machine, Reading, Sheet, Stock
from apps.sheets.queries import substance_of, swatch_of
from notchcore.design.design import Design
from notchcore.design.families.box import BoxNumbers
from notchcore.design.families.registry import Numbers, family_of
from notchcore.design.filling import empty_rooms, filled
from notchcore.design.variants import without_lost
from notchcore.errors import DesignError
from notchcore.measure.contrast import difference
from notchcore.measure.fit import Feel
from notchcore.measure.hazards import Verdict
from notchcore.words.render import plain, say

ABOUT_AS_THICK = 0.6  # [mm]
KEPT_RESULTS = 6  #: of a stage, each made from something else


class SavedMeanwhile(Exception):
    """Somebody else saved first; carries who and which revision now counts."""

    def __init__(self, *, head: Revision) -> None:
        self.head = head
        super().__init__(f"revision {head.number} by {head.author}")


def _handy(stocks: QuerySet[Stock]) -> Stock | None:
    """Return the stock that a new project had best begin with: measured, its kerf tried, most of it on the shelf."""
    known = stocks.annotate(
        measured=Exists(Reading.objects.filter(stock=OuterRef("pk"), withdrawn=False)),
        tried=Exists(KerfTest.objects.filter(stock=OuterRef("pk"), withdrawn=False)),
        left=Coalesce(Subquery(Sheet.objects.filter(stock=OuterRef("pk")).values("stock").annotate(n=Sum("count")).values("n")), 0),
    )
    return known.order_by("-measured", "-tried", "-left", "pk").first()


def _told_apart(stocks: QuerySet[Stock], first: Stock) -> Stock:
    """Return the stock about as thick that is told best from the first; that itself where there is no other."""
    near = [s for s in stocks.exclude(pk=first.pk) if abs(s.label_mm - first.label_mm) <= ABOUT_AS_THICK and substance_of(s).verdict is Verdict.ALLOWED]
    own, _ = swatch_of(first)
    return max(near, key=lambda s: (difference(own, swatch_of(s)[0]), -s.pk), default=first)


@transaction.atomic
def start_project(*, member: Member, name: str, numbers: Numbers | None = None, stock_id: int | None = None, feel: Feel = Feel.SNUG) -> Project:
    """Begin a project with a family (a box when none is named) from one stock of the rack."""
    if not name.strip():
        raise DesignError(say("project_name"), field="name")
    machine = Machine.objects.filter(shop=member.shop).order_by("pk").first()
    stocks = Stock.objects.filter(shop=member.shop)
    stock = stocks.filter(pk=stock_id).first() if stock_id else _handy(stocks)
    if machine is None or stock is None:
        raise DesignError(say("no_stock_on_rack"))
    sid = str(stock.pk)
    numbers = numbers or BoxNumbers()
    family = family_of(numbers)
    named = dict.fromkeys((r.id for r in family.roles), sid)
    for role, material in family.of:
        own = _handy(stocks.filter(material=material))
        named[role] = str(own.pk) if own else sid
    if family.other:
        named |= dict.fromkeys(family.other, str(_told_apart(stocks, stock).pk))
    design = Design(numbers=numbers, stocks=named, feel=feel)
    project = Project.objects.create(shop=member.shop, machine=machine, name=name.strip(), head=1)
    if family.fills:
        first = queries.members_for(project, design, measured=convert.measured_for(project, design))[0]
        if empty_rooms(design, first):
            design = filled(design, first)
    _write(project, design, number=1, parent=None, label=plain(say("revision.started")), author=member.user)
    return project


@transaction.atomic
def start_test(*, member: Member, machine: Machine, name: str, design: Design) -> Project:
    """Begin the small project of a test card."""
    project = Project.objects.create(shop=member.shop, machine=machine, name=name, is_test=True, head=1)
    _write(project, design, number=1, parent=None, label=plain(say("revision.test_card")), author=member.user)
    return project


def _write(project: Project, design: Design, *, number: int, parent: int | None, label: str, author: User) -> Revision:
    return Revision.objects.create(
        project=project, number=number, parent=parent, label=label[:120], author=author, design=convert.DESIGN.dump_python(design, mode="json")
    )


def _locked_head(project_id: int, base: int) -> Project:
    """Return the project locked for a change that was made on revision `base`; raise when another came first."""
    project = Project.objects.select_for_update().get(pk=project_id)
    if project.head != base:
        raise SavedMeanwhile(head=Revision.objects.select_related("author").get(project=project, number=project.head))
    return project


@transaction.atomic
def save_design(*, project_id: int, member: Member, base: int, design: Design, label: str) -> Project:
    """Write a new revision on top of `base`.

    Raises:
        SavedMeanwhile: `base` is no longer the head
        DesignError: a stock is not on this shop's rack
    """
    project = _locked_head(project_id, base)
    known = {str(pk) for pk in Stock.objects.filter(shop=member.shop).values_list("pk", flat=True)}
    if not design.named_stocks() <= known:
        raise DesignError(say("stock_not_on_rack"), field="stocks")
    head = Revision.objects.get(project=project, number=base)
    before = convert.design_of(head)
    if before == design:
        return project
    design = without_lost(design, before)
    number = (Revision.objects.filter(project=project).order_by("-number").values_list("number", flat=True).first() or 0) + 1
    _write(project, design, number=number, parent=base, label=label, author=member.user)
    project.head, project.redo = number, []
    project.save()
    return project


@transaction.atomic
def step(*, project_id: int, base: int, back: bool) -> Project:
    """Undo (back) or redo one revision; at either end nothing happens."""
    project = _locked_head(project_id, base)
    if back:
        parent = Revision.objects.get(project=project, number=base).parent
        if parent is not None:
            project.redo = [*project.redo, base]
            project.head = parent
    elif project.redo:
        project.head = project.redo[-1]
        project.redo = project.redo[:-1]
    project.save()
    return project


def keep_result(*, project: Project, stage: Stage, made_from: str, revision: int, payload: Any) -> StageResult:
    """Store a stage's result in place of the one made from the same; a few made from something else stay, for undo and another variant."""
    row, _ = StageResult.objects.update_or_create(project=project, stage=stage, made_from=made_from, defaults={"revision": revision, "payload": payload})
    mine = StageResult.objects.filter(project=project, stage=stage)
    mine.exclude(pk__in=list(mine.order_by("-created", "-pk").values_list("pk", flat=True)[:KEPT_RESULTS])).delete()
    return row


def rename(*, project: Project, name: str) -> None:
    """Give the project another name."""
    if not name.strip():
        raise DesignError(say("project_name"), field="name")
    project.name = name.strip()[:80]
    project.save(update_fields=["name", "changed"])
