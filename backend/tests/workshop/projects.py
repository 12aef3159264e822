"""Random whole projects, from a seed: every family, edit and feature, stocks of several families, copies, variants, both sides.

What a later issue adds to the product is added to `drawn`. Making a project is in `making`.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from random import Random
from typing import Any

from notchcore.check.whole import between_items
from notchcore.design.adding import edges_of
from notchcore.design.assembly import Assembly
from notchcore.design.between import Axis
from notchcore.design.building import arranged, build
from notchcore.design.design import Design, Item
from notchcore.design.edits import CopyOf, PanelEdit, Split
from notchcore.design.families.crate import CrateNumbers
from notchcore.design.families.registry import FAMILIES
from notchcore.design.families.stacking import StackingNumbers
from notchcore.design.families.tiles import TilesNumbers
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.registry import Feature
from notchcore.design.filling import empty_rooms, filled
from notchcore.design.items import build_whole, members_of
from notchcore.design.laying import laid_on
from notchcore.design.numbers import numbers_of
from notchcore.design.outlines import PanelOutline
from notchcore.design.plates import OnFace
from notchcore.design.turning import Tilt
from notchcore.errors import NotchCoreError
from notchcore.findings import Severity
from notchcore.geom.profile import bounds_of
from notchcore.ids import item_of
from notchcore.measure.fit import WANTED
from notchcore.measure.machine import KerfPlace, Machine
from notchcore.measure.stock import Stock
from notchcore.nest.wanted import Wish
from notchcore.plan.choices import Numbers, PlanChoices, SecondSide, Turn
from tests.strategies import make_stock
from tests.workshop.featured import Refused, a_drawing, a_feature, a_number, a_picture, as_pieces, at_scale, lain_in, on_pieces, stood_in, words_that_fit
from tests.workshop.standing import BED, braced, edged, erected, plainly_shaped, slatted, spaced, stood_between, walled
from tests.workshop.varied import a_set_of_tiles, met, several, some_stacking_pieces, tipped, varied

STOCKS = ("plywood", "solid_wood", "fibreboard", "cast_acrylic", "corrugated", "felt", "card")


@dataclass
class Project:
    """A drawn project and how it is to be made."""

    seed: int
    design: Design
    stocks: dict[str, Stock]
    drawings: dict[str, Drawing]
    machine: Machine
    choices: PlanChoices
    wish: Wish
    common: bool
    rules: dict[str, Any]
    story: list[str]


def _numbers(r: Random, family: str) -> Any:
    f = FAMILIES[family]
    about = {n.name: n for n in numbers_of(f.numbers) if n.name not in SINCE.get(family, {})}
    defaults = {d.name: d.default for d in fields(f.numbers)}
    some = r.sample(list(about), min(len(about), r.randint(0, 4)))
    for _ in range(20):
        try:
            return _and_since(f.numbers(**{k: a_number(r, about[k], defaults[k]) for k in some}))
        except NotchCoreError:
            some = some[1:]
    return f.numbers()


def _and_since(numbers: Any) -> Any:
    """Return numbers with what their family has been given since old seeds were drawn, now and then."""
    own = Random(f"since {numbers!r}")
    return replace(numbers, **{k: own.choice(values) for k, values in SINCE.get(numbers.family, {}).items()})


#: by family: numbers that old seeds did not know, and what they may be
SINCE: dict[str, dict[str, tuple[Any, ...]]] = {"many_sided": {"posts": (0.0, 0.0, 18.0, 24.0)}}


FIRST = ("box", "stand", "shelf", "crate", "house", "turned", "layered")  # families that old seeds were drawn from
SECOND = ("many_sided", "case", "plate")  # those that came next
THIRD = ("inlaid", "stamp")
LATER = 0.14  # share of projects of one of them
NEWEST = 0.04  # share of projects of those since then
TILED = 0.03  # share of sets of tiles
STACKED = 0.02  # ... of stacking pieces
ITEMS = 0.12  # share with further items
TILTS = 0.15  # share with a panel that stands askew


def _possible(r: Random, family: str, named: dict[str, str], stocks: dict[str, Stock]) -> Any:
    """Return numbers with which the family has panels at all."""
    for _ in range(12):
        numbers = _numbers(r, family)
        if arranged(Design(numbers=numbers, stocks=named), stocks).panels:
            return numbers
    return FAMILIES[family].numbers()


def _tilted(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with one panel tipped, swung or spun, now and then."""
    panels = [p.id for p in arranged(design, stocks, drawings=drawings, bed=BED).panels if not p.piece_of]
    if r.random() > TILTS or not panels:
        return design
    one = r.choice(panels)
    edit = replace(design.edits.get(one, PanelEdit()), tilt=Tilt(**{r.choice(["tip", "swing", "spin"]): round(r.uniform(-30, 30), 1)}))
    story.append(f"{edit.tilt} of {one}")
    return replace(design, edits={**design.edits, one: edit})


def _with_items(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with further items, now and then: in its rooms and sized for them, or beside it, more than one of them."""
    if r.random() > ITEMS:
        return design

    def built(body: Design) -> Assembly:
        return build(body, stocks, drawings=drawings, bed=BED)

    first = members_of(design, built)[0]
    if free := empty_rooms(design, first):
        design = filled(design, first, play=r.choice([0.2, 0.5, 1.0]), rooms=[x.id for x in r.sample(free, min(len(free), 2))])
        if r.random() < 0.3:  # and something in what stands there
            inner = next(m for m in members_of(design, built) if m.item is not None)
            design = filled(design, inner, play=0.5) if empty_rooms(design, inner) else design
    if not design.items or r.random() < 0.4:
        numbers = _numbers(r, r.choice(["box", "stand", "case", "many_sided"]))
        item = Item(
            id="more",
            label="More",
            design=Design(numbers=numbers, stocks=dict.fromkeys((x.id for x in FAMILIES[numbers.family].roles), "spare")),
            count=r.choice([1, 1, 3]),
            spares=r.choice([0, 0, 1]),
            turn=r.choice([0.0, 90.0, 35.0]),
        )
        design = replace(design, items=(*design.items, item), name=design.name or "First")
    inside = r.choice(design.items)
    if inside.design.numbers.family == "box" and r.random() < 0.5:
        body = replace(inside.design, features=(a_feature(r, "on it", "front", drawings, (40.0, 25.0)),))
        design = replace(design, items=tuple(replace(i, design=body) if i is inside else i for i in design.items))
    story.append(f"items {design.items}")
    return design


def _laid(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with an item laid with one of its faces on a face of another one, now and then."""
    free = [i for i in design.items if i.loose is None and i.joined is None and not i.gone]
    if not free or any(i.loose is not None and i.loose.over for i in design.items):  # a lid plays about its host: what lies there bars it
        return design
    moved = r.choice(free)

    def built(body: Design) -> Assembly:
        return build(body, stocks, drawings=drawings, bed=BED)

    for _ in range(4):
        try:
            there = [p.id for p in build_whole(design, stocks, drawings=drawings, bed=BED).parts]
            part, onto = r.choice([p for p in there if item_of(p) == moved.id]), r.choice([p for p in there if item_of(p) != moved.id])
            laid = laid_on(design, part=part, onto=onto, built=built)
        except (IndexError, NotchCoreError):  # nothing to lay it on, or it cannot come to lie so
            continue
        if not any(f.severity is Severity.MUST for f in between_items(members_of(laid, built))):
            story.append(f"{part} laid on {onto}")
            return laid
    return design


def _met(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with something joined to it, now and then, unless the program says that it must not be so."""
    told: list[str] = []
    more = met(r, design, told)
    if more is design or any(f.severity is Severity.MUST for f in build_whole(more, stocks, drawings=drawings, bed=BED).findings):
        return design
    story += told
    return more


def drawn(seed: int) -> Project:
    """Return the project of a seed.

    Raises:
        Refused: the numbers make no sense together
    """
    r, more = Random(f"second workshop {seed}"), Random(f"since then {seed}")  # what came later draws for itself: a seed stays what it was
    story: list[str] = []
    stands = Random(f"how {seed} stands")
    family = r.choice(FIRST)
    if stands.random() < LATER:
        family = stands.choice(SECOND)
    newest = Random(f"newest of {seed}")
    if newest.random() < NEWEST:
        family = newest.choice(THIRD)
    tiled = Random(f"tiled {seed}")
    if tiled.random() < TILED:
        family = "tiles"
    stacked = Random(f"stacked {seed}")
    if stacked.random() < STACKED:
        family = "stacking"
    roles = [role.id for role in FAMILIES[family].roles]
    stocks = {
        sid: make_stock(sid, round(r.uniform(1.5, 6.2), 2), kerf=round(r.uniform(0.06, 0.34), 3), material=r.choice(STOCKS))
        for sid in [*roles, "spare", "trial"]
    }
    if r.random() < 0.4:
        one = r.choice(roles)
        named = dict.fromkeys(roles, one)
    else:
        named = {role: role for role in roles}
    drawings = {"1": a_drawing(r), "2": a_picture()}
    numbers = _possible(r, family, named, stocks)
    if isinstance(numbers, TilesNumbers):
        numbers = a_set_of_tiles(tiled, numbers)
    if isinstance(numbers, StackingNumbers):
        numbers = some_stacking_pieces(stacked, numbers)
    design = Design(numbers=numbers, stocks=named, feel=r.choice(list(WANTED)), relief=r.choice([0.0, 0.0, 0.5]))
    design = _edited(r, _divided_ribs(more, design, stocks), stocks, drawings, story)
    design = on_pieces(more, words_that_fit(more, stood_in(more, design, story), stocks, drawings, story), story)
    story.insert(0, f"{family} {design.numbers}")
    machine = Machine(
        id="m",
        name="Alder desk laser",
        bed_width=900.0,
        bed_height=600.0,
        kerf_place=_weighed(r, {KerfPlace.PATHS: 6, KerfPlace.JOINTS: 2, KerfPlace.MACHINE: 1, KerfPlace.NONE: 1}),
    )
    choices = PlanChoices(
        second=_weighed(r, {SecondSide.AUTO: 5, SecondSide.MARKS: 2, SecondSide.NONE: 1}),
        turn=r.choice(list(Turn)),
        thick=tuple(roles) if r.random() < 0.1 else (),
        locate=r.random() < 0.2,
        numbers=_weighed(r, {Numbers.MAP: 4, Numbers.FRONT: 1, Numbers.BACK: 1}),
        lead=r.choice([0.0, 0.0, 1.5, 3.0]),
    )
    wish = Wish(copies=r.choice([1, 1, 1, 2, 3]))
    if wish.copies > 1:
        design = _with_spares(more, design, stocks, drawings, story)
    design = stood_between(stands, design, stocks, drawings, story)
    design = _tilted(stands, design, stocks, drawings, story)
    design = walled(Random(f"walled {seed}"), design, stocks, drawings, story)
    design = braced(Random(f"braced {seed}"), design, stocks, drawings, story)
    for draw in (edged, erected, slatted, spaced):
        design = draw(Random(f"{draw.__name__} {seed}"), design, stocks, drawings, story)
    design = as_pieces(Random(f"pieces {seed}"), design, stocks, drawings, story)
    design = lain_in(Random(f"lain in {seed}"), design, stocks, drawings, story)
    design = _with_items(Random(f"items {seed}"), design, stocks, drawings, story)
    design = several(Random(f"several {seed}"), design, story)
    design = tipped(Random(f"tipped {seed}"), design, story)
    design = _laid(Random(f"laid {seed}"), design, stocks, drawings, story)
    design = _met(Random(f"joined {seed}"), design, stocks, drawings, story)
    common = machine.kerf_place is KerfPlace.PATHS and r.random() < 0.2
    story += [f"machine {machine.kerf_place}", str(choices), str(wish), f"common {common}"]
    return Project(
        seed=seed,
        design=design,
        stocks=stocks,
        drawings=drawings,
        machine=machine,
        choices=choices,
        wish=wish,
        common=common,
        rules={"grain": r.random() < 0.2, "pairs": r.random() < 0.3},
        story=story,
    )


def _divided_ribs(r: Random, design: Design, stocks: dict[str, Stock]) -> Design:
    """Return a ribbed form with its ribs divided, now and then."""
    if not isinstance(design.numbers, CrateNumbers) or r.random() < 0.5:
        return design
    divided = replace(design, numbers=replace(design.numbers, longest=round(r.uniform(110, 220), 1)))
    return divided if arranged(divided, stocks, bed=BED).panels else design


def _with_spares(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with spares of a panel, which a batch has once and not for each copy."""
    panels = sorted({p.id.partition(".")[0] for p in arranged(design, stocks, drawings=drawings, bed=BED).panels})
    if not panels or r.random() < 0.3:
        return design
    one, spares = r.choice(panels), r.choice([1, 2])
    story.append(f"{spares} spares of {one}")
    return replace(design, edits={**design.edits, one: replace(design.edits.get(one, PanelEdit()), spares=spares)})


def _weighed(r: Random, some: dict[Any, int]) -> Any:
    return r.choices(list(some), list(some.values()))[0]


def _edited(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    plan = arranged(design, stocks, drawings=drawings, bed=BED)
    panels = {p.id: p for p in plan.panels}
    if not panels:
        raise Refused("no panels")
    sizes = {k: (b[2] - b[0], b[3] - b[1]) for k, p in panels.items() for b in [bounds_of(p.envelope.outer)]}
    edits: dict[str, PanelEdit] = {}
    added: list[Any] = []
    features: list[Feature] = []

    def some(share: float) -> list[str]:
        return [k for k in panels if r.random() < share]

    for k in some(0.15):
        changes: dict[str, Any] = r.choice(
            [
                {"copies": r.randint(2, 3)},
                {"spares": 1},
                {"bridges": r.randint(2, 4)},
                {"reverse": True},
                {"turned": True},
                {"across": True},
                {"stock": "spare"},
                {"helper": True},
                {"gone": True},
                {"move": (0.0, 0.0, round(r.uniform(-3, 3), 1))},
            ]
        )
        edits[k] = replace(edits.get(k, PanelEdit()), **changes)
        story.append(f"edit {k} {changes}")
    for k in some(0.06):
        edits[k] = replace(edits.get(k, PanelEdit()), outline=PanelOutline(drawing="1", width=round(sizes[k][0], 1)))
        story.append(f"outline {k}")
    shapes = Random(f"shape {story}")
    for k in [p for p in panels if shapes.random() < 0.05]:
        seen = edges_of(design, stocks, panel=k, drawings=drawings, bed=BED).seen
        edits[k] = replace(edits.get(k, PanelEdit()), shape=plainly_shaped(shapes, seen))
        story.append(f"shape {k} {edits[k].shape}")
    for n in range(r.choice([0, 0, 1, 2])):
        k = r.choice(list(panels))
        where = {"move": (round(r.uniform(400, 600), 1), 0.0, 0.0)} if r.random() < 0.5 else {"mirror": Axis.X, "about": 900.0}
        turned = Random(f"{k} {where}")
        if turned.random() < 0.4:
            where = {"round": turned.choice([Axis.Y, Axis.Z]), "turn": round(turned.uniform(120.0, 240.0), 1), "centre": (1200.0, 0.0, 0.0)}
        added.append(CopyOf(id=f"copy-{n}", label=f"Copy {n}", of=k, **where))
        story.append(str(added[-1]))
    if r.random() < 0.15:
        k = r.choice(list(panels))
        x0, y0, _, _ = bounds_of(panels[k].envelope.outer)
        w, h = sizes[k]
        added.append(
            OnFace(id="plate", label="Plate", stock="spare", host=k, back=r.random() < 0.3, x=x0 + w * 0.3, y=y0 + h * 0.3, width=w * 0.3, height=h * 0.3)
        )
        story.append(str(added[-1]))
    for n in range(r.choice([0, 1, 2, 3, 4])):
        k = r.choice(list(panels))
        features.append(a_feature(r, f"f{n}", k, drawings, sizes[k]))
        story.append(str(features[-1]))
    splits = []
    if r.random() < 0.15:
        k = r.choice(list(panels))
        splits.append(Split(panel=k, at=round(sizes[k][0] * r.uniform(0.3, 0.7), 1), scarf=r.random() < 0.3))
        story.append(str(splits[-1]))
    design = replace(design, edits=edits, added=tuple(added), features=tuple(features), splits=tuple(splits))
    other = _numbers(r, design.numbers.family) if r.random() < 0.15 else None  # type: ignore[union-attr]
    if other is not None or Random(str(story)).random() < 0.2:
        design = varied(Random(f"varied {story}"), design, other, list(panels), "spare", story)
    if r.random() < 0.15:
        design = at_scale(design, round(r.uniform(0.7, 1.4), 2), story)
    if r.random() < 0.12:
        design = replace(design, prototype="trial")
        story.append("prototype")
    return design
