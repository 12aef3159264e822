"""A project as one file that can be taken to another shop: its designs, drawings and notes, and what is known of its stocks and machine.

A zip: `project.json`, and `drawings/ID.json` for each drawing. What follows from these (dry fit, layout, plan) is not in it: it is
made again, on the sheets of the shop that takes it in.
"""

from __future__ import annotations

import io
import json
import zipfile
from dataclasses import replace
from datetime import date, datetime
from typing import Any

from django.contrib.auth.models import User
from django.core.exceptions import ValidationError as Invalid
from django.db import models, transaction
from ninja import Schema
from pydantic import Field, ValidationError

from apps.accounts.models import Member
from apps.designs import convert
from apps.designs.models import Drawing, Project, Revision, TrialNote
from apps.designs.older import with_materials, with_sentences
from apps.sheets import models as sheets
from apps.sheets.columns import SAID
from apps.sheets.convert import MACHINE
from notchcore.design.design import Design, Source
from notchcore.design.filling import joined_to
from notchcore.design.items import with_body
from notchcore.errors import DesignError, NotchCoreError
from notchcore.words.render import plain, say

FORMAT, VERSION = "notch-board-project", 2
MOST_PACKED = 40_000_000
MOST_BYTES = 200_000_000  # unpacked
MOST_FILES = 500
MOST_REVISIONS = 5_000
LONGEST_NAME = 74  # with room for a number in brackets
NO_PROJECT = say("bundle.no_project")

PLACE = "shelf"  # of the house, not of the stock: it stays there
STOCK_FIELDS = ("name", "material", "substance", "label_mm", "colour", "confirmed_by", "confirmed_on", "confirmed_data", *(f for f in SAID if f != PLACE))
EVIDENCE_FIELDS = ("on", "by", "borrowed")
FIELDS: dict[str, tuple[str, ...]] = {  #: of each kind of evidence, beside the stock and the machine
    "readings": (*EVIDENCE_FIELDS, "thickness_mm", "x", "y"),
    "kerf_tests": (*EVIDENCE_FIELDS, "lens", "setting", "kind", "drawn_mm", "measured_mm", "below_mm", "count"),
    "feels": (*EVIDENCE_FIELDS, "lens", "setting", "feel", "drawn_mm", "clearance_mm", "sd_mm", "entering_id"),
    "settings_rows": (*EVIDENCE_FIELDS, "lens", "setting", "values", "source"),
}
ROWS: dict[str, type[models.Model]] = {
    "readings": sheets.Reading,
    "kerf_tests": sheets.KerfTest,
    "feels": sheets.Feel,
    "settings_rows": sheets.StockSettings,
}


class KeptRevision(Schema):
    number: int = Field(ge=1)
    parent: int | None
    label: str = Field(max_length=120)
    author: str
    saved: datetime
    design: convert.AnyDesign


class KeptNote(Schema):
    revision: int
    about: str = Field(max_length=200)
    feel: str = Field(max_length=8)
    text: str
    photo: str


class KeptStock(Schema):
    name: str = Field(max_length=80)
    material: str = Field(max_length=20)
    batch: str = Field(max_length=40)
    label_mm: float = Field(gt=0, le=100)
    fields: dict[str, Any]
    readings: list[dict[str, Any]]
    kerf_tests: list[dict[str, Any]]
    feels: list[dict[str, Any]]
    settings_rows: list[dict[str, Any]]


class KeptMachine(Schema):
    name: str = Field(max_length=80)
    profile: dict[str, Any]


class Kept(Schema):
    """What `project.json` holds."""

    format: str
    version: int
    name: str = Field(max_length=80)
    deadline: date | None
    head: int
    redo: list[int]
    machine: KeptMachine
    revisions: list[KeptRevision] = Field(min_length=1, max_length=MOST_REVISIONS)
    stocks: dict[str, KeptStock]
    drawings: dict[str, str]  #: names, by id
    notes: list[KeptNote]
    plan: dict[str, Any] = {}  #: what is chosen about its plan


# -- out -----------------------------------------------------------------------------------------------------------------------


def _values(row: models.Model, fields: tuple[str, ...]) -> dict[str, Any]:
    return {f: getattr(row, f) for f in fields}


def _stock(row: sheets.Stock, machine: sheets.Machine) -> KeptStock:
    found: dict[str, list[dict[str, Any]]] = {}
    for kind, fields in FIELDS.items():
        rows = getattr(row, kind).filter(withdrawn=False).order_by("pk")
        found[kind] = [_values(r, fields) for r in (rows if kind == "readings" else rows.filter(machine=machine))]
    return KeptStock(name=row.name, material=row.material, batch=row.batch, label_mm=row.label_mm, fields=_values(row, STOCK_FIELDS), **found)


def taken_out(project: Project) -> bytes:
    """Return a project as a zip.

    Raises:
        DesignError: it is a test card, which belongs to the evidence of its shop
    """
    if project.is_test:
        raise DesignError(say("card_stays_with_stock"))
    revisions = list(project.revisions.select_related("author").order_by("number"))
    designs = [convert.design_of(r) for r in revisions]
    ids = sorted({s for d in designs for s in d.named_stocks() if s.isdecimal()}, key=int)
    rows = sheets.Stock.objects.filter(shop=project.shop_id, pk__in=list(map(int, ids)))
    drawings = list(project.drawings.order_by("pk"))
    kept = Kept(
        format=FORMAT,
        version=VERSION,
        name=project.name,
        deadline=project.deadline,
        head=project.head,
        redo=project.redo,
        machine=KeptMachine(name=project.machine.name, profile=project.machine.profile),
        revisions=[
            KeptRevision(number=r.number, parent=r.parent, label=r.label, author=r.author.get_username(), saved=r.created, design=d)
            for r, d in zip(revisions, designs, strict=True)
        ],
        stocks={str(s.pk): _stock(s, project.machine) for s in rows},
        drawings={str(d.pk): d.name for d in drawings},
        notes=[KeptNote(**_values(n, ("revision", "about", "feel", "text", "photo"))) for n in project.trial_notes.order_by("pk")],
        plan=project.plan_choices,
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("project.json", kept.model_dump_json(indent=1))
        for d in drawings:
            archive.writestr(f"drawings/{d.pk}.json", json.dumps(d.payload))
    return out.getvalue()


# -- in ------------------------------------------------------------------------------------------------------------------------


def _read(data: bytes) -> tuple[Kept, dict[str, Any]]:
    """Return what a file holds, checked.

    Raises:
        DesignError: it is no project of ours, too large, or broken
    """
    if len(data) > MOST_PACKED:
        raise DesignError(say("bundle.packed", most=MOST_PACKED // 1000000))
    try:
        archive = zipfile.ZipFile(io.BytesIO(data))
        entries = archive.infolist()
        if len(entries) > MOST_FILES or sum(e.file_size for e in entries) > MOST_BYTES:
            raise DesignError(say("bundle.unpacked", most=MOST_BYTES // 1000000, files=MOST_FILES))
        kept = Kept.model_validate(with_materials(json.loads(archive.read("project.json"))))
        drawings = {k: with_sentences(json.loads(archive.read(f"drawings/{k}.json"))) for k in kept.drawings}
        for payload in drawings.values():
            convert.DRAWING.validate_python(payload)
    except ValidationError as problem:
        first = problem.errors()[0]
        raise DesignError(say("bundle.field", no_project=NO_PROJECT, loc=".".join(map(str, first["loc"])), msg=first["msg"])) from None
    except (zipfile.BadZipFile, KeyError, ValueError, RuntimeError, RecursionError, NotImplementedError) as problem:
        raise DesignError(say("bundle.broken", no_project=NO_PROJECT, problem=str(problem)[:80])) from None
    if kept.format != FORMAT or kept.version > VERSION:
        raise DesignError(say("bundle.newer", no_project=NO_PROJECT))
    if kept.head not in {r.number for r in kept.revisions}:
        raise DesignError(say("bundle.revision", no_project=NO_PROJECT))
    return kept, drawings


def _machine_for(kept: KeptMachine, member: Member) -> sheets.Machine:
    """Return the shop's own machine of that name and profile, or a new one: what was measured counts on that machine only."""
    for row in sheets.Machine.objects.filter(shop=member.shop, name=kept.name).order_by("pk"):
        if row.profile == kept.profile:
            return row
    try:
        MACHINE.validate_python({**kept.profile, "id": "0", "name": kept.name})
    except (ValidationError, TypeError) as problem:
        raise DesignError(say("bundle.machine", no_project=NO_PROJECT, problem=str(problem)[:80])) from None
    return sheets.Machine.objects.create(shop=member.shop, name=kept.name, profile=kept.profile)


def _save(row: models.Model) -> None:
    """Save a row whose fields make sense; what may be left out may be empty."""
    row.full_clean(exclude=[f.name for f in row._meta.fields if getattr(row, f.attname) in (None, "", [], {})])
    row.save()


def _stock_for(kept: KeptStock, member: Member) -> tuple[sheets.Stock, bool]:
    """Return the shop's own stock of that name, kind, thickness and batch, or a new one, and whether it is new."""
    own = sheets.Stock.objects.filter(shop=member.shop, name=kept.name, material=kept.material, label_mm=kept.label_mm, batch=kept.batch).first()
    if own is not None:
        return own, False
    fields = {k: v for k, v in kept.fields.items() if k in STOCK_FIELDS}
    row = sheets.Stock(shop=member.shop, **fields | {"name": kept.name, "material": kept.material, "label_mm": kept.label_mm, "batch": kept.batch})
    _save(row)
    return row, True


def _add_evidence(kept: KeptStock, row: sheets.Stock, *, machine: sheets.Machine, stocks: dict[str, sheets.Stock]) -> None:
    for kind, fields in FIELDS.items():
        for given in getattr(kept, kind):
            values = {f: given[f] for f in fields if f in given}
            if kind == "feels":
                entering = stocks.get(str(values.pop("entering_id", "")))
                if entering is None:
                    continue  # felt with a stock that this project does not use
                values["entering"] = entering
            _save(ROWS[kind](stock=row, **values, **({} if kind == "readings" else {"machine": machine})))


def renamed(design: Design, stocks: dict[str, sheets.Stock], *, drawings: dict[str, Drawing]) -> dict[str, Any]:
    """Return a design as stored, with the ids that stocks and drawings have here; numbers that name none are kept."""
    return _renamed(convert.DESIGN.dump_python(design, mode="json"), stocks, drawings=drawings)


def _renamed(held: dict[str, Any], stocks: dict[str, sheets.Stock], *, drawings: dict[str, Drawing]) -> dict[str, Any]:
    def stock(old: Any) -> Any:
        return str(stocks[old].pk) if old in stocks else old

    def renamed(value: Any) -> Any:
        if isinstance(value, dict):
            return {
                k: stock(v) if k in ("stock", "prototype") and isinstance(v, str) else _drawing(v, drawings) if k == "drawing" else renamed(v)
                for k, v in value.items()
            }
        return [renamed(v) for v in value] if isinstance(value, list) else value

    made = {k: renamed(v) if k in ("edits", "added", "features") else v for k, v in held.items()}
    items = [i | {"design": _renamed(i["design"], stocks, drawings=drawings)} for i in held["items"]]

    def named(stocks_by_role: dict[str, Any]) -> dict[str, Any]:
        return {role: stock(s) for role, s in stocks_by_role.items()}

    variations = [v | {"alternatives": [a | {"stocks": named(a["stocks"])} for a in v["alternatives"]]} for v in held["variations"]]
    return made | {"stocks": named(held["stocks"]), "prototype": stock(held["prototype"]), "items": items, "variations": variations}


@transaction.atomic
def with_project(project: Project, design: Design, *, other: Project) -> Design:
    """Return a design with another project of the shop as it stands now: one item more, that follows it, and its items too. Its drawings are copied.

    Raises:
        DesignError: it is the project itself, or a test card
    """
    if other.pk == project.pk or other.is_test:
        raise DesignError(say("no_item_of_it"), field="project")
    source = Source(project=str(other.pk), revision=other.head)
    theirs = _copied(project, convert.design_at(other, other.head), other=other)
    own = str(project.pk)  # nothing follows the project that it is in
    items = tuple(replace(i, source=None) if i.source is not None and i.source.project == own else i for i in theirs.items)
    return joined_to(design, replace(theirs, items=items), label=other.name, source=source)


@transaction.atomic
def brought_up(project: Project, design: Design, *, item: str, other: Project) -> Design:
    """Return a design with one of its items as the first one of another project is now; where it stands, and how many there are, stay.

    Raises:
        DesignError: there is no such item
    """
    theirs = _copied(project, replace(convert.design_at(other, other.head), items=()), other=other)
    changed = with_body(design, item, body=theirs)
    source = Source(project=str(other.pk), revision=other.head)
    return replace(changed, items=tuple(replace(i, source=source) if i.id == item else i for i in changed.items))


def _copied(project: Project, theirs: Design, *, other: Project) -> Design:
    """Return a design of another project of the shop with copies of its drawings."""
    rows = Drawing.objects.filter(project=other, pk__in=[int(d) for d in theirs.drawing_ids() if d.isdecimal()])
    drawings = {str(d.pk): Drawing.objects.create(project=project, name=d.name, payload=d.payload) for d in rows}
    return convert.DESIGN.validate_python(renamed(theirs, {}, drawings=drawings))


def _following_nothing(design: Design) -> Design:
    """Return a design without the projects that its items follow: they are of another shop."""
    return replace(design, items=tuple(replace(i, source=None) for i in design.items))


@transaction.atomic
def started_from(project: Project, design: Design, *, name: str, member: Member) -> Project:
    """Begin a project on the same machine with a design that comes from another one; its drawings are copied."""
    made = Project.objects.create(shop=project.shop, machine=project.machine, name=_free_name(name[:LONGEST_NAME], member), head=1, deadline=project.deadline)
    rows = Drawing.objects.filter(project=project, pk__in=[int(d) for d in design.drawing_ids() if d.isdecimal()])
    drawings = {str(d.pk): Drawing.objects.create(project=made, name=d.name, payload=d.payload) for d in rows}
    Revision.objects.create(
        project=made, number=1, label=plain(say("revision.from_project")), author=member.user, design=renamed(design, {}, drawings=drawings)
    )
    return made


def _plan_choices(kept: dict[str, Any], stocks: dict[str, sheets.Stock]) -> dict[str, Any]:
    """Return what is chosen about a plan, with the ids that stocks have here.

    Raises:
        DesignError: it makes no sense
    """
    try:
        named = {k: [str(stocks[s].pk) for s in v if s in stocks] if k in ("thick", "printed", "bare") else v for k, v in kept.items()}
        return dict(convert.CHOICES.dump_python(convert.CHOICES.validate_python(named), mode="json"))
    except (ValidationError, TypeError, NotchCoreError) as problem:
        raise DesignError(say("bundle.plan", no_project=NO_PROJECT, problem=str(problem)[:80])) from None


def _drawing(old: Any, drawings: dict[str, Drawing]) -> Any:
    return str(drawings[old].pk) if old in drawings else old


def _free_name(name: str, member: Member) -> str:
    """Return the name, with a number where the shop has a project of that name already: two alike could not be told apart."""
    taken = set(Project.objects.filter(shop=member.shop, name__startswith=name[:LONGEST_NAME]).values_list("name", flat=True))
    names = (name, *(f"{name[:LONGEST_NAME]} ({k})" for k in range(2, len(taken) + 3)))
    return next(n for n in names if n not in taken)


@transaction.atomic
def brought_in(data: bytes, member: Member) -> Project:
    """Make a project from a file, with its history; all of it or nothing.

    Stocks and the machine that the shop has already are used as they are here; others are added with what was measured of them.

    Raises:
        DesignError: it is no project of ours, too large, or broken
    """
    kept, payloads = _read(data)
    machine = _machine_for(kept.machine, member)
    try:
        found = {k: _stock_for(s, member) for k, s in kept.stocks.items()}
        stocks = {k: row for k, (row, _) in found.items()}
        for k, (row, is_new) in found.items():
            if is_new:
                _add_evidence(kept.stocks[k], row, machine=machine, stocks=stocks)
    except (TypeError, ValueError, AttributeError, Invalid, models.ObjectDoesNotExist) as problem:
        raise DesignError(say("bundle.stock", no_project=NO_PROJECT, problem=str(problem)[:100])) from None
    name = _free_name(kept.name, member)
    project = Project.objects.create(
        shop=member.shop, machine=machine, name=name, deadline=kept.deadline, head=kept.head, redo=kept.redo, plan_choices=_plan_choices(kept.plan, stocks)
    )
    drawings = {k: Drawing.objects.create(project=project, name=title[:80], payload=payloads[k]) for k, title in kept.drawings.items()}
    people: dict[str, User] = {m.user.get_username(): m.user for m in Member.objects.filter(shop=member.shop).select_related("user")}
    for r in kept.revisions:
        saved = Revision.objects.create(
            project=project,
            number=r.number,
            parent=r.parent,
            label=r.label,
            author=people.get(r.author, member.user),
            design=renamed(_following_nothing(r.design), stocks, drawings=drawings),
        )
        Revision.objects.filter(pk=saved.pk).update(created=r.saved)
    for n in kept.notes:
        TrialNote.objects.create(project=project, author=member.user, **n.dict())
    return project
