"""Random whole projects, from a seed: every family, edit and feature, stocks of several families, copies, variants, both sides.

What a later issue adds to the product is added to `drawn`. Making a project is in `making`.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, fields, replace
from random import Random
from typing import Any

from notchcore.design.adding import edges_of
from notchcore.design.assembly import Assembly
from notchcore.design.between import Axis
from notchcore.design.design import Design, Item, arranged, build
from notchcore.design.edits import Added, CopyOf, PanelEdit, Split
from notchcore.design.families.crate import CrateNumbers
from notchcore.design.families.registry import FAMILIES
from notchcore.design.features.drawing import Drawing, DrawnLine, tidied
from notchcore.design.features.registry import FEATURES, Feature
from notchcore.design.features.values import Anchor, Burned, Falls, OnSide, Socket, Text, Window
from notchcore.design.filling import empty_rooms, filled
from notchcore.design.items import members_of
from notchcore.design.numbers import NumberKind, numbers_of
from notchcore.design.outlines import PanelOutline
from notchcore.design.plates import OnFace
from notchcore.design.scaling import scaled
from notchcore.design.turning import Tilt
from notchcore.errors import DesignError, NotchCoreError, ValueOutside
from notchcore.geom.profile import bounds_of
from notchcore.measure.fit import WANTED
from notchcore.measure.machine import KerfPlace, Machine
from notchcore.measure.stock import Stock
from notchcore.nest.wanted import Wish
from notchcore.plan.choices import Numbers, PlanChoices, SecondSide, Turn
from notchcore.trace.photo import kept_image
from tests.strategies import make_stock
from tests.workshop.standing import BED, braced, edged, erected, plainly_shaped, slatted, spaced, stood_between, walled
from tests.workshop.varied import several, varied

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


class Refused(Exception):
    """The product says that a project cannot be made, and why: nothing to judge."""


def a_drawing(r: Random) -> Drawing:
    """Return a small drawing: a blob, a hole in it, a circle beside it, an open line."""
    count = r.randint(5, 14)
    blob = [((12 + 6 * r.random()) * math.cos(2 * math.pi * k / count), (9 + 6 * r.random()) * math.sin(2 * math.pi * k / count)) for k in range(count)]
    lines = [DrawnLine(layer="black", points=tuple(blob), closed=True)]
    if r.random() < 0.5:
        lines.append(DrawnLine(layer="black", points=tuple((x * 0.4, y * 0.4) for x, y in blob), closed=True))
    if r.random() < 0.5:
        lines.append(DrawnLine(layer="red", points=((-20.0, -20.0), (22.0, -17.0), (25.0, 3.0))))
    return tidied(lines, 1.0)


def _number(r: Random, about: Any, default: Any) -> Any:
    if about.kind is NumberKind.CHOICE:
        return r.choice(list(type(default)))
    if about.kind is NumberKind.COUNT:
        return r.randint(int(about.least), int(min(about.most, max(about.least + 3, 4))))
    if about.kind is NumberKind.LENGTH:
        near = float(default) or 12.0
        if (about.none_at_zero or about.least == 0) and r.random() < 0.3:
            return 0.0
        return round(min(max(near * r.uniform(0.6, 1.5), about.least), about.most), 1)
    if about.kind in (NumberKind.ANGLE, NumberKind.PERCENT):
        return round(r.uniform(about.least, about.most), 1)
    return default


def _numbers(r: Random, family: str) -> Any:
    f = FAMILIES[family]
    about = {n.name: n for n in numbers_of(f.numbers)}
    defaults = {d.name: d.default for d in fields(f.numbers)}
    some = r.sample(list(about), min(len(about), r.randint(0, 4)))
    for _ in range(20):
        try:
            return f.numbers(**{k: _number(r, about[k], defaults[k]) for k in some})
        except NotchCoreError:
            some = some[1:]
    return f.numbers()


FIRST = ("box", "stand", "shelf", "crate", "house", "turned", "layered")  # families that old seeds were drawn from
LATER = 0.14  # share of projects of a family that came later
ITEMS = 0.12  # share with further items
TILTS = 0.15  # share with a panel that stands askew


def _possible(r: Random, family: str, named: dict[str, str], stocks: dict[str, Stock]) -> Any:
    """Return numbers with which the family has panels at all."""
    for _ in range(12):
        numbers = _numbers(r, family)
        if arranged(Design(numbers=numbers, stocks=named), stocks).panels:
            return numbers
    return FAMILIES[family].numbers()


def a_feature(r: Random, fid: str, panel: str, drawings: dict[str, Drawing], size: tuple[float, float]) -> Feature:
    kind = r.choice(FEATURES)
    f: Any = kind.type(id=fid, panel=panel, anchor=r.choice(list(Anchor)) if kind.edge is Anchor.CENTRE else kind.edge)
    w, h = size
    reach = 0.3 if f.anchor is Anchor.CENTRE else 0.15
    inward_x = 1 if "left" in f.anchor.value else -1 if "right" in f.anchor.value else r.choice((-1, 1))
    inward_y = 1 if "bottom" in f.anchor.value else -1 if "top" in f.anchor.value else r.choice((-1, 1))
    if kind.id not in ("notch", "cable"):
        f = replace(f, x=round(inward_x * w * r.uniform(0.02, reach), 1), y=round(inward_y * h * r.uniform(0.02, reach), 1))
    for about in numbers_of(kind.type):
        if about.group == "Place" or r.random() < 0.5 or about.name in ("x", "y", "anchor", "turn"):
            if about.name != "side":
                continue
        if about.kind is NumberKind.LENGTH:
            small = min(w, h) * r.uniform(0.05, 0.4)
            value: Any = round(min(max(small, about.least), about.most), 1)
        elif about.kind is NumberKind.TEXT:
            value = r.choice(["MOSSGATE", "Bean 7", "Row"])
        else:
            value = _number(r, about, getattr(f, about.name))
        try:
            f = replace(f, **{about.name: value})
        except NotchCoreError:
            continue
    if kind.id == "artwork":
        f = replace(
            f,
            drawing="1",
            width=round(max(min(w, h) * r.uniform(0.2, 0.5), 1.0), 1),
            layers=(("black", r.choice(list(Burned))), ("red", r.choice([Burned.SCORE, None]))),
        )
    if kind.id == "picture":
        f = replace(f, drawing="2", width=round(max(min(w, h) * 0.3, 2.0), 1), turn=0.0)
    if isinstance(f, Window) and r.random() < 0.5:
        f = replace(f, falls=Falls.PART)
        loose = Random(f"loose {f}")
        if loose.random() < 0.35:
            f = replace(f, falls=Falls.LOOSE, play=round(loose.uniform(0.05, 1.2), 2))
    return f  # type: ignore[no-any-return]


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
        family = stands.choice([f for f in FAMILIES if f not in FIRST])
    roles = [role.id for role in FAMILIES[family].roles]
    stocks = {
        sid: make_stock(sid, round(r.uniform(1.5, 6.2), 2), kerf=round(r.uniform(0.06, 0.34), 3), family=r.choice(STOCKS)) for sid in [*roles, "spare", "trial"]
    }
    if r.random() < 0.4:
        one = r.choice(roles)
        named = dict.fromkeys(roles, one)
    else:
        named = {role: role for role in roles}
    drawings = {"1": a_drawing(r), "2": a_picture()}
    design = Design(numbers=_possible(r, family, named, stocks), stocks=named, feel=r.choice(list(WANTED)), relief=r.choice([0.0, 0.0, 0.5]))
    design = _edited(r, _divided_ribs(more, design, stocks), stocks, drawings, story)
    design = _on_pieces(more, _words_that_fit(more, _stood_in(more, design, story), stocks, drawings, story), story)
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
    design = _lain_in(Random(f"lain in {seed}"), design, stocks, drawings, story)
    design = _with_items(Random(f"items {seed}"), design, stocks, drawings, story)
    design = several(Random(f"several {seed}"), design, story)
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


def _stood_in(r: Random, design: Design, story: list[str]) -> Design:
    """Return the design with a mate and a feel for its sockets, names for some features, and plates that count from what is seen."""
    panels = sorted({f.panel for f in design.features})
    features = []
    for f in design.features:
        if isinstance(f, Socket):
            f = replace(f, mate=r.choice(["", *panels]), feel=r.choice(list(WANTED)), run=r.choice([f.run, 0.0]))  # noqa: PLW2901
            story.append(f"socket {f.id} of {f.mate or 'a loose sheet'}, {f.feel}")
        features.append(replace(f, name=f"Thing {f.id}") if r.random() < 0.2 else f)
    added = tuple(_placed(r, a) for a in design.added)
    return replace(design, features=tuple(features), added=added)


def _words_that_fit(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with most of its words no wider than their panel, in its middle: what reaches over an edge is told, and not compared."""
    if not any(isinstance(f, Text) for f in design.features):
        return design
    plan = arranged(replace(design, features=()), stocks, drawings=drawings, bed=BED)
    sizes = {p.id: bounds_of(p.envelope.outer) for p in (*plan.ghosts, *plan.panels)}
    features = []
    for f in design.features:
        if isinstance(f, Text) and f.panel in sizes and r.random() < 0.7:
            x0, y0, x1, y1 = sizes[f.panel]
            cap = round(max(min((x1 - x0) / (2 * len(f.words)), (y1 - y0) / 5), 1.0), 1)
            f = replace(f, anchor=Anchor.CENTRE, x=round(r.uniform(-3, 3), 1), y=0.0, cap=cap)  # noqa: PLW2901
            story.append(f"{f.id} in the middle, {cap} high")
        features.append(f)
    return replace(design, features=tuple(features))


def _on_pieces(r: Random, design: Design, story: list[str]) -> Design:
    """Return the design with words on what falls out of windows and is a part, now and then."""
    words = []
    for f in design.features:
        if isinstance(f, Window) and f.falls is not Falls.WASTE and r.random() < 0.6:
            cap = round(max(min(f.width, f.height) * 0.15, 1.0), 1)
            side, burned = r.choice(list(OnSide)), r.choice([Burned.ENGRAVE, Burned.SCORE])
            words.append(Text(id=f"{f.id}-words", panel=f"{f.id}-piece", words="Bean 7", cap=cap, burned=burned, side=side))
            story.append(f"{words[-1]}")
    return replace(design, features=(*design.features, *words))


def _with_spares(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with spares of a panel, which a batch has once and not for each copy."""
    panels = sorted({p.id.partition(".")[0] for p in arranged(design, stocks, drawings=drawings, bed=BED).panels})
    if not panels or r.random() < 0.3:
        return design
    one, spares = r.choice(panels), r.choice([1, 2])
    story.append(f"{spares} spares of {one}")
    return replace(design, edits={**design.edits, one: replace(design.edits.get(one, PanelEdit()), spares=spares)})


def _lain_in(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with a rim on a panel's face and a piece that lies in its opening with play, now and then: copied, mirrored or scaled too."""
    if r.random() > 0.1:
        return design
    plan = arranged(design, stocks, drawings=drawings, bed=BED)
    panels = {p.id: bounds_of(p.envelope.outer) for p in plan.panels if p.id not in design.edits}
    if not panels:
        return design
    host = r.choice(sorted(panels))
    x0, y0, x1, y1 = panels[host]
    width, height, play = round(0.6 * (x1 - x0), 1), round(0.6 * (y1 - y0), 1), round(r.uniform(0.2, 2.8), 2)
    inner = round(0.6 * width, 1), round(0.6 * height, 1)
    if min(inner) < 8:
        return design
    rim = OnFace(id="rim", label="Rim", stock="spare", host=host, back=r.random() < 0.4, x=x0 + 5, y=y0 + 5, width=width, height=height)
    aside = play / 2 + r.uniform(-0.4, 0.4) * play
    piece = replace(
        rim,
        id="lain",
        label="Lain in",
        x=rim.x + (width - inner[0]) / 2 + aside,
        y=rim.y + (height - inner[1]) / 2 + play / 2,
        width=inner[0] - play,
        height=inner[1] - play,
    )
    added: list[Added] = [rim, piece]
    if r.random() < 0.4:
        elsewhere: dict[str, Any] = r.choice([{"move": (1500.0, 0.0, 0.0)}, {"mirror": Axis.X, "about": 1500.0}])
        added += [CopyOf(id=f"{a.id}-again", label=f"{a.label} again", of=a.id, **elsewhere) for a in (rim, piece)]
    window = Window(id="rim-window", panel="rim", width=inner[0], height=inner[1], radius=0.0)
    words = Text(id="lain-words", panel="lain", words="Bean 7", cap=max(round(inner[1] * 0.2, 1), 1.0), burned=Burned.ENGRAVE, side=r.choice(list(OnSide)))
    story.append(f"{rim}; {piece}; play {play}")
    design = replace(design, added=(*design.added, *added), features=(*design.features, window, words))
    if r.random() < 0.3:
        design = _scaled(design, round(r.uniform(0.8, 1.3), 2), story)
    return design


def _scaled(design: Design, k: float, story: list[str]) -> Design:
    try:
        design = scaled(design, k)
    except (ValueOutside, DesignError) as problem:
        raise Refused(str(problem)) from None
    story.append(f"scaled {k}")
    return design


def _placed(r: Random, a: Added) -> Added:
    """Return a plate that counts from its host's corner, or a copy that stands another way from its original."""
    if isinstance(a, OnFace) and r.random() < 0.5:
        return replace(a, from_corner=True, x=5.0, y=5.0)
    if isinstance(a, CopyOf) and a.mirror is None and r.random() < 0.6:
        return replace(
            a, move=r.choice([(a.move[0], 350.0, 0.0), (0.0, a.move[0], 0.0), (0.0, -a.move[0], 0.0), (0.0, 0.0, a.move[0]), (-a.move[0], 0.0, 90.0)])
        )
    return a


def a_picture() -> Drawing:
    import io

    from PIL import Image

    out = io.BytesIO()
    Image.new("L", (24, 16), 90).save(out, "PNG")
    image, (w, h) = kept_image(out.getvalue())
    return Drawing(lines=(DrawnLine(layer="picture", points=((0.0, 0.0), (w, 0.0), (w, h), (0.0, h)), closed=True),), mm_per_unit=None, image=image)


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
        design = _scaled(design, round(r.uniform(0.7, 1.4), 2), story)
    if r.random() < 0.12:
        design = replace(design, prototype="trial")
        story.append("prototype")
    return design
