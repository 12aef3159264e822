"""The demo shop: Alder Row Workshop prepares for the Mossgate Seed Fair. Data is loaded; results are computed for real."""

from __future__ import annotations

from dataclasses import asdict, replace
from datetime import date, timedelta
from typing import Any, cast

from django.contrib.auth import get_user_model
from django.db import transaction

from apps.accounts.models import Member, Role, Shop
from apps.cards import services as cards
from apps.cards.making import laid_out
from apps.designs import dry_fit, queries
from apps.designs import services as designs
from apps.designs.convert import DESIGN
from apps.designs.drawings import Tracing, keep, read
from apps.designs.models import Project, Revision
from apps.layouts.services import default_request, pack_project
from apps.plans.services import choose, make_plan
from apps.runs import services as runs
from apps.runs.demodesigns import designed
from apps.runs.models import Run, RunState
from apps.sheets.evidence import Here
from apps.sheets.models import KerfTest, Machine, Reading, Sheet, Stock, StockSettings
from devices.laser import job_seconds
from notchcore.design.design import Design
from notchcore.design.edits import PanelEdit
from notchcore.design.families.box import BoxNumbers, Top
from notchcore.design.families.case import CaseNumbers, Rooms
from notchcore.design.families.layered import LayeredNumbers
from notchcore.design.families.registry import Numbers
from notchcore.design.families.shelf import Back, Form, ShelfNumbers
from notchcore.design.features.values import Anchor, Face, OnSide, Text
from notchcore.design.outlines import PanelOutline
from notchcore.measure.machine import Beam
from notchcore.nest.asked import Turning
from notchcore.words.render import plain

USER, PASSWORD = "alder", "seed-fair"
LENSES = [{"id": "two_inch", "name": "2 in lens", "spot": 0.12}, {"id": "four_inch", "name": "4 in lens, thick sheets", "spot": 0.2}]
PROFILE = {"bed_width": 620.0, "bed_height": 420.0, "lenses": LENSES, "lens": "two_inch"}

STOCKS: list[dict[str, Any]] = [
    {
        "key": "birch12",
        "name": "Birch ply 3, batch 12",
        "material": "plywood",
        "label": 3.0,
        "colour": "#e9d2a6",
        "shelf": "shelf B",
        "batch": "12",
        "age": 6,
        "readings": [(3.06, 0.06, 0.9), (3.11, 0.94, 0.9), (3.08, 0.5, 0.5), (3.05, 0.06, 0.1), (3.10, 0.94, 0.1)],
        "kerf": [("strips", 10.0, 98.42, 10, 60), ("gap", 5.0, 5.17, 1, 30), ("gap", 5.0, 5.16, 1, 6)],
        "lab": [84.6, 4.1, 23.5],
        "sheets": [("Birch ply 3, 600 × 400", 600, 400, 6, 7.5, False), ("Offcut 17", 310, 220, 1, 1.5, True)],
        "settings": ((62, 14, 1), (12, 120), "power card, 12 May", 60),
    },
    {
        "key": "birch9",
        "name": "Birch ply 3, batch 9",
        "material": "plywood",
        "label": 3.0,
        "colour": "#e4c995",
        "shelf": "shelf B",
        "batch": "9",
        "age": 140,
        "readings": [(2.93, 0.1, 0.1), (2.95, 0.9, 0.9), (2.94, 0.5, 0.5)],
        "kerf": [("strips", 10.0, 98.3, 10, 140)],
        "lab": [82.0, 5.0, 26.8],
        "sheets": [("Birch ply 3, old", 600, 400, 1, 7.0, False)],
    },
    {
        "key": "walnut",
        "name": "Walnut 3",
        "material": "solid_wood",
        "label": 3.0,
        "colour": "#8a5638",
        "shelf": "shelf C",
        "age": 12,
        "readings": [(3.10, 0.1, 0.2), (3.14, 0.5, 0.5), (3.12, 0.9, 0.8)],
        "kerf": [("gap", 5.0, 5.19, 1, 12)],
        "lab": [42.5, 13.9, 19.8],
        "sheets": [("Walnut 3, 450 × 300", 450, 300, 3, 14.0, False)],
        "settings": ((70, 11, 1), (14, 110), "power card, 3 June", 12),
    },
    {
        "key": "poplar",
        "name": "Poplar ply 4",
        "material": "plywood",
        "label": 4.0,
        "colour": "#ecdfc4",
        "shelf": "shelf B",
        "age": 0,
        "readings": [],
        "kerf": [],
        "sheets": [("Poplar ply 4, 600 × 400", 600, 400, 4, 5.2, False)],
    },
    {
        "key": "clear",
        "name": "Clear acrylic 3",
        "material": "cast_acrylic",
        "label": 3.0,
        "colour": "#cfe6ea",
        "shelf": "rack 2",
        "look": "clear",
        "film": "both",
        "age": 20,
        "readings": [(2.86, 0.1, 0.1), (2.88, 0.5, 0.5), (2.87, 0.9, 0.9)],
        "kerf": [("gap", 5.0, 5.14, 1, 20)],
        "sheets": [("Clear acrylic 3, 500 × 300", 500, 300, 2, 12.0, False)],
    },
    {
        "key": "grey",
        "name": "Grey board 2",
        "material": "grey_board",
        "label": 2.0,
        "colour": "#b9b2a2",
        "shelf": "drawer",
        "age": 45,
        "readings": [(2.02, 0.2, 0.2), (2.03, 0.5, 0.5), (2.01, 0.8, 0.8)],
        "kerf": [],
        "sheets": [("Grey board 2, A3", 420, 297, 10, 0.9, False)],
    },
    {
        "key": "corrugated",
        "name": "Corrugated 4",
        "material": "corrugated",
        "label": 4.0,
        "colour": "#c69a6b",
        "shelf": "bin",
        "age": 9,
        "crush": 0.08,
        "readings": [(4.3, 0.5, 0.5)],
        "kerf": [],
        "sheets": [("Corrugated 4, 800 × 600", 800, 600, 5, 0.4, False)],
    },
    {
        "key": "board",
        "name": "Spruce board 12",
        "material": "plywood",
        "label": 12.0,
        "colour": "#e6d6b4",
        "shelf": "rack 1",
        "age": 8,
        "readings": [(12.14, 0.1, 0.2), (12.08, 0.5, 0.5), (12.11, 0.9, 0.8)],
        "kerf": [("gap", 10.0, 10.26, 1, 8)],
        "sheets": [("Spruce board 12, 600 × 400", 600, 400, 4, 16.0, False)],
        "settings": ((80, 8, 4), (14, 110), "power card, 20 June", 8),
    },
    {
        "key": "foam",
        "name": "White foam 10",
        "material": "foam",
        "label": 10.0,
        "colour": "#eef0ee",
        "shelf": "bin",
        "substance": "foam.polystyrene",
        "age": 0,
        "readings": [],
        "kerf": [],
        "sheets": [("White foam 10, 500 × 500", 500, 500, 2, 2.5, False)],
    },
]
GAUGE = ("wont_go", "mallet", "mallet", "mallet", "snug", "snug", "slides", "slides", "slides", "rattles", "rattles")  # walnut tongue in birch, slot by slot


def _stocks(shop: Shop, machine: Machine) -> dict[str, Stock]:
    today = date.today()
    on_machine = {"machine": machine, "by": USER, "lens": "two_inch"}
    made = {}
    for s in STOCKS:
        row = Stock.objects.create(
            shop=shop,
            name=s["name"],
            material=s["material"],
            label_mm=s["label"],
            **{k: s[k] for k in ("colour", "shelf", "batch", "look", "film", "crush", "lab", "substance") if k in s},
        )
        for t, x, y in s["readings"]:
            Reading.objects.create(stock=row, thickness_mm=t, x=x, y=y, on=today - timedelta(days=s["age"]), by=USER)
        words = ""
        if "settings" in s:
            (power, speed, passes), (score_power, score_speed), source, age = s["settings"]
            beams = {
                "cut": Beam(power=power, speed=speed, passes=passes),
                "score": Beam(power=score_power, speed=score_speed),
                "engrave": Beam(power=20, speed=250),
            }
            words = beams["cut"].words
            sources = {"cut": source} | dict.fromkeys(("score", "engrave"), f"tried by {USER}")  # a power card shows cuts only
            StockSettings.objects.create(
                stock=row, values={k: asdict(b) for k, b in beams.items()} | {"sources": sources}, source=source, on=today - timedelta(days=age), **on_machine
            )
        for kind, drawn, measured, count, age in s["kerf"]:
            KerfTest.objects.create(
                stock=row, kind=kind, drawn_mm=drawn, measured_mm=measured, count=count, setting=words, on=today - timedelta(days=age), **on_machine
            )
        for name, w, h, count, price, offcut in s["sheets"]:
            Sheet.objects.create(stock=row, name=name, width_mm=w, height_mm=h, count=count, price=price, is_offcut=offcut)
        made[s["key"]] = row
    return made


def _gauge(member: Member, machine: Machine, *, stocks: dict[str, Stock]) -> None:
    """A gauge strip of birch with a walnut tongue, cut and felt."""
    here = Here(member=member, machine=machine)
    card = cards.make_card(stock=stocks["birch12"], tongue=stocks["walnut"], here=here, kind="gauge")
    laid_out(card.project, make=True)
    cards.enter(card=card, here=here, entries=[(f"slot{i}", {"feel": feel}) for i, feel in enumerate(GAUGE)])


@transaction.atomic
def load(*, pack_seconds: float = 2.0) -> bool:
    """Make the demo shop unless it is there; return whether it was made.

    Args:
        pack_seconds: how long its packing may be improved after the first answer
    """
    users = get_user_model().objects
    if users.filter(username=USER).exists():
        return False
    shop = Shop.objects.create(name="Alder Row Workshop")
    user = users.create_user(USER, password=PASSWORD)
    member = Member.objects.create(user=user, shop=shop, role=Role.OWNER)
    helper = users.create_user("mossgate", password=PASSWORD)
    Member.objects.create(user=helper, shop=shop, role=Role.DESIGNER)
    machine = Machine.objects.create(shop=shop, name="Alder desk laser", profile=PROFILE)
    stocks = _stocks(shop, machine)
    _gauge(member, machine, stocks=stocks)
    _both_sides(member, stocks, pack_seconds=pack_seconds)
    _started(member, stocks)
    _seed_packet_drawer(member, stocks, pack_seconds=pack_seconds)
    return True


def _started(member: Member, stocks: dict[str, Stock]) -> None:
    """Projects that are designed but not laid out yet, one of each family."""
    for name, days, design in designed(stocks):
        _begun(member, name, days=days, design=design)
    _tool_cabinet(member, stocks)


def _tool_cabinet(member: Member, stocks: dict[str, Stock]) -> None:
    """A case with three drawers, each an item that follows its room, their fronts in walnut."""
    numbers = CaseNumbers(width=230, depth=160, height=190, drawers=3, rooms=Rooms.RISING, lowest=74)
    project = designs.start_project(member=member, name="Tool cabinet", numbers=numbers, stock_id=stocks["birch12"].pk)
    design = DESIGN.validate_python(Revision.objects.get(project=project, number=1).design)
    fronts = {"front": PanelEdit(stock=str(stocks["walnut"].pk))}
    items = tuple(replace(i, design=replace(i.design, edits=fronts)) for i in design.items)
    project = designs.save_design(project_id=project.pk, member=member, base=1, design=replace(design, items=items), label="Fronts in walnut")
    project.deadline = date.today() + timedelta(days=16)
    project.save(update_fields=["deadline"])


STAKE = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="130mm" height="34mm" viewBox="0 0 130 34">'
    '<path d="M0 17L24 8H52V4A4 4 0 0 1 56 0H126A4 4 0 0 1 130 4V30A4 4 0 0 1 126 34H56A4 4 0 0 1 52 30V26H24Z"/></svg>'
)


def _begun(member: Member, name: str, *, days: int, design: Design) -> Project:
    project = designs.start_project(member=member, name=name, numbers=cast(Numbers, design.numbers), stock_id=int(next(iter(design.stocks.values()))))
    project = designs.save_design(project_id=project.pk, member=member, base=1, design=design, label="Sizes and stocks")
    project.deadline = date.today() + timedelta(days=days)
    project.save(update_fields=["deadline"])
    return project


def _both_sides(member: Member, stocks: dict[str, Stock], *, pack_seconds: float) -> None:
    """Boards so thick that they are cut from both sides, and labels that are engraved on both."""
    birch, board = str(stocks["birch12"].pk), str(stocks["board"].pk)
    tiers = _begun(
        member,
        "Plant tiers",
        days=21,
        design=Design(
            numbers=ShelfNumbers(width=360, depth=210, height=240, form=Form.TIERS, boards=3, back=Back.RAILS, rail=40),
            stocks={"sides": board, "boards": board, "back": board},
        ),
    )
    choose(tiers, {"thick": (board,)})
    labels = _begun(
        member,
        "Row labels",
        days=8,
        design=Design(numbers=LayeredNumbers(width=130, height=34, layers=1), stocks=dict.fromkeys(("back", "middle", "face"), birch)),
    )
    stake = keep(project=labels, name="stake", drawing=read(STAKE.encode(), Tracing()))
    design = DESIGN.validate_python(Revision.objects.get(project=labels, number=labels.head).design)
    design = replace(
        design,
        edits={"layer-1": PanelEdit(label="Row label", copies=8, outline=PanelOutline(drawing=str(stake.pk), width=130))},
        features=(
            Text(id="text-1", panel="layer-1", words="PEAS", cap=12.0, anchor=Anchor.RIGHT, x=-39.0, face=Face.SERIF),
            Text(id="text-2", panel="layer-1", words="SOW IN MARCH", cap=5.0, anchor=Anchor.LEFT, x=39.0, side=OnSide.BACK),
        ),
    )
    labels = designs.save_design(project_id=labels.pk, member=member, base=labels.head, design=design, label="The stake, and words on both sides")
    for project in (tiers, labels):
        dry_fit.check(project)
        pack_project(project, default_request(project, seconds=pack_seconds / 2))
        make_plan(project)


def _seed_packet_drawer(member: Member, stocks: dict[str, Stock], *, pack_seconds: float) -> None:
    """A box with dividers both ways and a lift-off lid, taken through all stations; its first sheet is cut and logged."""
    birch, walnut = str(stocks["birch12"].pk), str(stocks["walnut"].pk)
    project = designs.start_project(member=member, name="Seed packet drawer", stock_id=stocks["birch12"].pk)
    first = DESIGN.validate_python(Revision.objects.get(project=project, number=1).design)
    steps: list[tuple[str, dict[str, Any]]] = [
        ("Sizes for seed packets", {"width": 214.0, "depth": 150.0, "height": 62.0}),
        ("Compartments 3 × 2", {"columns": 3, "rows": 2}),
        ("Lift-off lid with a finger hole", {"top": Top.LIFT_OFF, "lid_hole": 24.0}),
        ("Thumb notch in the front", {"thumb_notch": 36.0}),
    ]
    numbers = asdict(first.numbers)
    for label, changes in steps:
        numbers |= changes
        design = Design(numbers=BoxNumbers(**numbers), stocks=first.stocks)
        project = designs.save_design(project_id=project.pk, member=member, base=project.head, design=design, label=label)
    mixed = {"walls": birch, "base": birch, "dividers": walnut, "lid": birch}
    design = Design(numbers=BoxNumbers(**numbers), stocks=mixed)
    project = designs.save_design(project_id=project.pk, member=member, base=project.head, design=design, label="Dividers in walnut")
    project = Project.objects.select_related("machine", "shop").get(pk=project.pk)
    project.deadline = date.today() + timedelta(days=9)
    project.save(update_fields=["deadline"])
    dry_fit.check(project)
    grain = {p.id: Turning.HALF for p in queries.current(project).assembly.parts if p.stock == walnut}  # thin dividers break along it
    pack_project(project, default_request(project, seconds=pack_seconds, turns=grain))
    make_plan(project)
    _first_run(project, member)


def _first_run(project: Project, member: Member) -> None:
    """Cut the first sheet on the simulated machine (without waiting for its clock) and log it."""
    run = runs.start_run(project=project, member=member, sheet=1, ticked=[plain(c) for c in runs.checklist_for(project, 1)])
    seconds = job_seconds(run.moves)
    Run.objects.filter(pk=run.pk).update(state=RunState.DONE, progress={"clock": seconds, "seconds": seconds, "x": 0, "y": 0, "burning": False, "path": ""})
    runs.log_run(
        run_id=run.pk,
        actual_s=round(seconds),
        good=len(run.parts),
        spoiled=0,
        cut_through=100,
        feel="snug",
        note="Clean edges, film left on. Dividers still to cut.",
    )
