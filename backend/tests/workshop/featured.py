"""What stands on the panels of random projects: holes, texts, drawings, sockets, and pieces that lie in openings."""

from __future__ import annotations

import math
from dataclasses import replace
from random import Random
from typing import Any

from notchcore.design.between import Axis
from notchcore.design.building import arranged
from notchcore.design.design import Design
from notchcore.design.edits import Added, CopyOf
from notchcore.design.features.drawing import Drawing, DrawnLine, tidied
from notchcore.design.features.registry import FEATURES, Feature
from notchcore.design.features.values import (
    LAID,
    Anchor,
    Artwork,
    Burned,
    CableSlot,
    Face,
    Falls,
    OnSide,
    PieceStock,
    Recess,
    RecessShape,
    Socket,
    Text,
    Window,
)
from notchcore.design.numbers import NumberKind, numbers_of
from notchcore.design.plates import OnFace
from notchcore.design.scaling import scaled
from notchcore.errors import DesignError, NotchCoreError, ValueOutside
from notchcore.geom.profile import Ring, bounds_of
from notchcore.geom.slab import box_of, boxes_touch
from notchcore.measure.fit import WANTED
from notchcore.measure.stock import Stock
from notchcore.trace.photo import kept_image
from tests.workshop.standing import BED


class Refused(Exception):
    """The product says that a project cannot be made, and why: nothing to judge."""


def a_number(r: Random, about: Any, default: Any) -> Any:
    if about.kind is NumberKind.CHOICE:
        return r.choice([o for o in type(default) if o not in LAID])
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


def a_picture() -> Drawing:
    import io

    from PIL import Image

    out = io.BytesIO()
    Image.new("L", (24, 16), 90).save(out, "PNG")
    image, (w, h) = kept_image(out.getvalue())
    return Drawing(lines=(DrawnLine(layer="picture", points=((0.0, 0.0), (w, 0.0), (w, h), (0.0, h)), closed=True),), mm_per_unit=None, image=image)


def a_feature(r: Random, fid: str, panel: str, drawings: dict[str, Drawing], size: tuple[float, float]) -> Feature:
    kind = r.choice([k for k in FEATURES if k.type is not Recess])
    f: Any = kind.type(id=fid, panel=panel, anchor=r.choice(list(Anchor)) if kind.edge is Anchor.CENTRE else kind.edge)
    w, h = size
    reach = 0.3 if f.anchor is Anchor.CENTRE else 0.15
    inward_x = 1 if "left" in f.anchor.value else -1 if "right" in f.anchor.value else r.choice((-1, 1))
    inward_y = 1 if "bottom" in f.anchor.value else -1 if "top" in f.anchor.value else r.choice((-1, 1))
    if kind.id not in ("notch", "cable"):
        f = replace(f, x=round(inward_x * w * r.uniform(0.02, reach), 1), y=round(inward_y * h * r.uniform(0.02, reach), 1))
    for about in numbers_of(kind.type):
        if about.name == "grip" or (about.name == "depth" and kind.type is not CableSlot):
            continue  # what came later draws for itself
        if about.group == "Place" or r.random() < 0.5 or about.name in ("x", "y", "anchor", "turn"):
            if about.name != "side":
                continue
        if about.kind is NumberKind.LENGTH:
            small = min(w, h) * r.uniform(0.05, 0.4)
            value: Any = round(min(max(small, about.least), about.most), 1)
        elif about.kind is NumberKind.TEXT:
            value = r.choice(["MOSSGATE", "Bean 7", "Row"])
        else:
            value = a_number(r, about, getattr(f, about.name))
        try:
            f = replace(f, **{about.name: value})
        except NotchCoreError:
            continue
    if kind.id == "artwork":
        f = replace(
            f,
            drawing="1",
            width=round(max(min(w, h) * r.uniform(0.2, 0.5), 1.0), 1),
            layers=(("black", r.choice([b for b in Burned if b not in LAID])), ("red", r.choice([Burned.SCORE, None]))),
        )
    if kind.id == "picture":
        f = replace(f, drawing="2", width=round(max(min(w, h) * 0.3, 2.0), 1), turn=0.0)
    if isinstance(f, Window) and r.random() < 0.5:
        f = replace(f, falls=Falls.PART)
        loose = Random(f"loose {f}")
        if loose.random() < 0.35:
            f = replace(f, falls=Falls.LOOSE, play=round(loose.uniform(0.05, 1.2), 2), grip=loose.choice([0.0, 8.0, 20.0]))
    return f  # type: ignore[no-any-return]


def _placed(r: Random, a: Added) -> Added:
    """Return a plate that counts from its host's corner, or a copy that stands another way from its original."""
    if isinstance(a, OnFace) and r.random() < 0.5:
        return replace(a, from_corner=True, x=5.0, y=5.0)
    if isinstance(a, CopyOf) and a.mirror is None and r.random() < 0.6:
        return replace(
            a, move=r.choice([(a.move[0], 350.0, 0.0), (0.0, a.move[0], 0.0), (0.0, -a.move[0], 0.0), (0.0, 0.0, a.move[0]), (-a.move[0], 0.0, 90.0)])
        )
    return a


def stood_in(r: Random, design: Design, story: list[str]) -> Design:
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


def words_that_fit(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
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


def on_pieces(r: Random, design: Design, story: list[str]) -> Design:
    """Return the design with words on what falls out of windows and is a part, now and then."""
    words = []
    for f in design.features:
        if isinstance(f, Window) and f.falls is not Falls.WASTE and r.random() < 0.6:
            cap = round(max(min(f.width, f.height) * 0.15, 1.0), 1)
            side, burned = r.choice(list(OnSide)), r.choice([Burned.ENGRAVE, Burned.SCORE])
            words.append(Text(id=f"{f.id}-words", panel=f"{f.id}-piece", words="Bean 7", cap=cap, burned=burned, side=side))
            story.append(f"{words[-1]}")
    return replace(design, features=(*design.features, *words))


def as_pieces(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with words and drawings that are pieces now and then, of any stock, through their panel, in a pocket or glued on, and a recess.

    Where other panels stand they would be told to want the same place, and nothing were judged.
    """
    for f in design.features:
        if isinstance(f, Text | Artwork) and r.random() < 0.35:
            how, stock = r.choice(list(LAID)), r.choice(["", *sorted(stocks)])
            made: Feature
            if isinstance(f, Text):
                made = replace(f, burned=how, stock=stock, face=r.choice([Face.SANS, Face.SERIF]))
            else:
                made = replace(f, layers=(("black", how), ("red", None)), stocks=(PieceStock(layer="black", stock=stock),))
            with_it = replace(design, features=tuple(made if g.id == f.id else g for g in design.features))
            if _clear(with_it, made, stocks, drawings):
                design = with_it
                story.append(f"{f.id} as pieces, {how}, of {stock or 'its own'}")
    deep = Random(f"deep {design.features}")
    if deep.random() < 0.2:
        design = replace(design, features=tuple(_deep(deep, f) for f in design.features))
    return _with_words(r, design, stocks, drawings, story) if r.random() < 0.15 else design


def _with_words(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with words that are pieces on one of its panels, and a recess beside them, where there is room."""
    plan = arranged(replace(design, features=()), stocks, drawings=drawings, bed=BED)
    panels = {p.id: size for p in plan.panels if not p.piece_of and min(size := _size(p.envelope.outer)) > 60}
    if not panels:
        return design
    host = r.choice(sorted(panels))
    wide, high = panels[host]
    cap, stock, how = round(min(wide / 6, high / 4, 40.0), 1), r.choice(sorted(stocks)), r.choice(list(LAID))
    words = Text(id="set-words", panel=host, words=r.choice(["BOD", "ROW", "8"]), cap=cap, burned=how, stock=stock)
    places = [(x * wide, y * high, side) for x in (0.0, -0.22, 0.22) for y in (0.0, -0.25, 0.25) for side in OnSide]
    r.shuffle(places)
    for x, y, side in places:
        there = replace(words, x=round(x, 1), y=round(y, 1), side=side)
        if _clear(replace(design, features=(*design.features, there)), there, stocks, drawings):
            break
    else:
        return design
    recess = Recess(
        id="set-recess",
        panel=host,
        shape=r.choice(list(RecessShape)),
        mate=r.choice(sorted(panels)),
        width=round(wide / 6, 1),
        height=round(high / 6, 1),
        y=round(there.y + (high / 4 if there.y <= 0 else -high / 4), 1),
        depth=r.choice([0.3, 0.8]),
        side=r.choice(list(OnSide)),
    )
    if (own := Random(f"push {recess}")).random() < 0.4:
        recess = replace(recess, push=own.choice([4.0, 9.0]))
    story.append(f"{there}; {recess}")
    return replace(design, features=(*design.features, there, recess))


def _clear(design: Design, feature: Feature, stocks: dict[str, Stock], drawings: dict[str, Drawing]) -> bool:
    """Tell whether a feature comes to pieces, and no panel but its own stands where they lie."""
    plan = arranged(design, stocks, drawings=drawings, bed=BED)
    pieces = [box_of(p.slab()) for p in plan.panels if p.laid_by == feature.id]
    others = [box_of(p.slab()) for p in plan.panels if not p.laid_by and p.id != feature.panel]
    return bool(pieces) and not any(boxes_touch(a, b, reach=-0.01) for a in pieces for b in others)


def _deep(r: Random, f: Feature) -> Feature:
    return replace(f, depth=round(r.uniform(0.1, 2.0), 2)) if isinstance(f, Text | Artwork) else f


def _size(ring: Ring) -> tuple[float, float]:
    x0, y0, x1, y1 = bounds_of(ring)
    return x1 - x0, y1 - y0


def at_scale(design: Design, k: float, story: list[str]) -> Design:
    try:
        design = scaled(design, k)
    except (ValueOutside, DesignError) as problem:
        raise Refused(str(problem)) from None
    story.append(f"scaled {k}")
    return design


def lain_in(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
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
        design = at_scale(design, round(r.uniform(0.8, 1.3), 2), story)
    return design
