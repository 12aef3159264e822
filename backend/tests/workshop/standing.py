"""Panels that stand to others, drawn at random for the projects of the second workshop: between, across a corner or a room, on an edge, on a face."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations
from random import Random

from notchcore.design.adding import edges_of, lattice_of
from notchcore.design.between import AXES, Axis, Between
from notchcore.design.braces import Brace
from notchcore.design.building import arranged
from notchcore.design.design import Design
from notchcore.design.edges import Edge
from notchcore.design.edits import PanelEdit
from notchcore.design.families.plate import PlateNumbers, PlateShape
from notchcore.design.features.drawing import Drawing
from notchcore.design.outlines import PanelShape
from notchcore.design.panel import Panel, resolved
from notchcore.design.plates import SPACER, OnFace
from notchcore.design.slats import Slat
from notchcore.design.uprights import Upright
from notchcore.design.walls import Wall
from notchcore.errors import NotchCoreError
from notchcore.geom.profile import bounds_of
from notchcore.geom.slab import box_of
from notchcore.geom.vectors import dot
from notchcore.measure.stock import Stock

BED = (900.0, 600.0)
BETWEENS = 0.15  # share with a panel between two others
BRACES = 0.1  # share with a sheet across a corner
WALLS = 0.12  # share with walls on edges
EDGED = 0.06  # shares of the projects that have such panels
ERECTED = 0.1
SLATTED = 0.1
SPACED = 0.08


def _hosts(design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing]) -> list[Panel]:
    """Return the panels that others may stand to: copies follow theirs."""
    return [p for p in arranged(design, stocks, drawings=drawings, bed=BED).panels if "copy" not in p.id]


def _a_stock(r: Random, design: Design) -> str:
    return r.choice(sorted(set(design.stocks.values())))


def stood_between(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with a panel between two that face each other, now and then, kept back from their ends."""
    panels = arranged(design, stocks, drawings=drawings, bed=BED).panels
    by_id = {p.id: p for p in panels}
    pairs = [(a, b) for a, b in combinations(panels, 2) if abs(abs(dot(a.pose.normal, b.pose.normal)) - 1) < 1e-9 and "copy" not in a.id + b.id]
    if r.random() > BETWEENS or not pairs:
        return design
    a, b = r.choice(pairs)
    axes = [axis for axis, v in AXES.items() if abs(dot(a.pose.normal, v)) < 1e-9]
    if not axes:
        return design
    axis = r.choice(axes)
    k = list(AXES).index(axis)
    boxes = [box_of(resolved(p, by_id).slab()) for p in (a, b)]
    low, high = max(x[k] for x in boxes), min(x[k + 3] for x in boxes)
    back = r.choice([0.0, round(r.uniform(2.0, 20.0), 1)])
    rise, over = (round((high - low) * r.choice([0.0, r.uniform(-0.25, 0.25)]), 1) for _ in range(2))
    item = Between(
        id="between",
        label="Between",
        stock=r.choice(sorted(set(design.stocks.values()))),
        a=a.id,
        b=b.id,
        axis=Axis(axis),
        at=round(low + (high - low) * r.uniform(0.3, 0.7), 1),
        rise=rise,
        over=over,
        inset_low=back,
        inset_high=r.choice([0.0, back]),
    )
    story.append(str(item))
    return replace(design, added=(*design.added, item))


def braced(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with a sheet across the corner of two panels, now and then."""
    panels = arranged(design, stocks, drawings=drawings, bed=BED).panels
    pairs = [(a, b) for a, b in combinations(panels, 2) if abs(dot(a.pose.normal, b.pose.normal)) < 0.9 and "copy" not in a.id + b.id]
    if r.random() > BRACES or not pairs:
        return design
    a, b = r.choice(pairs)
    back = r.choice([0.0, round(r.uniform(2.0, 20.0), 1)])
    item = Brace(
        id="brace",
        label="Brace",
        stock=r.choice(sorted(set(design.stocks.values()))),
        a=a.id,
        b=b.id,
        on_a=round(r.uniform(15.0, 60.0), 1),
        on_b=round(r.uniform(15.0, 60.0), 1),
        inset_low=back,
        inset_high=r.choice([0.0, back]),
    )
    story.append(str(item))
    return replace(design, added=(*design.added, item))


def walled(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with a wall on an edge of a panel, or walls all round it, now and then."""
    panels = [p for p in arranged(design, stocks, drawings=drawings, bed=BED).panels if "copy" not in p.id]
    if r.random() > WALLS or not panels:
        return design
    host, some = r.choice(panels), list(Edge) if r.random() < 0.4 else [r.choice(list(Edge))]
    item = Wall(
        id="edge-wall",
        label="Wall",
        stock=r.choice(sorted(set(design.stocks.values()))),
        host=host.id,
        edge=some[0],
        back=r.random() < 0.5,
        height=round(r.uniform(15.0, 50.0), 1),
        lean=r.choice([0.0, 0.0, round(r.uniform(-30.0, 30.0), 1)]),
        inset_low=0.0 if len(some) > 1 else r.choice([0.0, 12.5]),
    )
    if len(some) > 1:
        ring = [Edge.LOWER, Edge.RIGHT, Edge.UPPER, Edge.LEFT]
        walls = tuple(
            replace(item, id=f"edge-wall-{e}", label=f"Wall {e}", edge=e, beside=(f"edge-wall-{ring[k - 1]}", f"edge-wall-{ring[(k + 1) % 4]}"))
            for k, e in enumerate(ring)
        )
    else:
        walls = (item,)
    story.append(str(walls))
    return replace(design, added=(*design.added, *walls))


def edged(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with a wall on each edge of a panel of any outline, now and then; one of them may be lacking."""
    hosts = [p.id for p in _hosts(design, stocks, drawings) if not p.piece_of and not p.falls_from]
    if r.random() > EDGED or not hosts:
        return design
    host = r.choice(hosts)
    edges = edges_of(design, stocks, panel=host, drawings=drawings, bed=BED).edges
    if not 0 < len(edges) <= 16:
        return design
    item = Wall(
        id="rim-wall",
        label="Wall",
        stock=_a_stock(r, design),
        host=host,
        edge=Edge.LOWER,
        back=r.random() < 0.5,
        height=round(r.uniform(15.0, 40.0), 1),
        lean=r.choice([0.0, 0.0, round(r.uniform(-12.0, 25.0), 1)]),
    )
    named = {0: ""} | {e.nth: f"rim-wall-{e.nth}" for e in edges}
    walls = [replace(item, id=named[e.nth], label=f"Wall {e.nth}", edge=e.side, nth=e.nth, beside=(named[e.before], named[e.after])) for e in edges]
    if r.random() < 0.2:
        walls.pop()
    story.append(str(walls))
    return replace(design, added=(*design.added, *walls))


def erected(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with a sheet that stands on a face, now and then."""
    hosts = _hosts(design, stocks, drawings)
    if r.random() > ERECTED or not hosts:
        return design
    host = r.choice(hosts)
    x0, y0, x1, y1 = bounds_of(host.envelope.outer)
    width = round(r.uniform(12.0, 50.0), 1)
    item = Upright(
        id="upright",
        label="Upright",
        stock=_a_stock(r, design),
        host=host.id,
        back=r.random() < 0.5,
        x=round((x1 - x0) * r.uniform(0.3, 0.7), 1),
        y=round((y1 - y0) * r.uniform(0.3, 0.7), 1),
        along=r.choice([0.0, 90.0, round(r.uniform(-180.0, 180.0), 1)]),
        width=width,
        upper=r.choice([width, round(width * r.uniform(0.4, 1.5), 1)]),
        height=round(r.uniform(10.0, 60.0), 1),
        lean=r.choice([0.0, 0.0, round(r.uniform(-35.0, 35.0), 1)]),
    )
    story.append(str(item))
    return replace(design, added=(*design.added, item))


def slatted(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with slats across the room between some of its panels, one or a lattice, now and then."""
    panels = _hosts(design, stocks, drawings)
    if r.random() > SLATTED or len(panels) < 3:
        return design
    first = r.choice(panels)
    axis = next((q.pose.normal for q in panels if abs(dot(q.pose.normal, first.pose.normal)) < 1e-9), None)
    ring = [p.id for p in panels if axis is not None and abs(dot(p.pose.normal, axis)) < 1e-9]
    if not 3 <= len(ring) <= 12:
        return design
    stock, turn = _a_stock(r, design), r.choice([0.0, 45.0, 45.0, round(r.uniform(-90.0, 90.0), 1)])
    slats = Slat(
        id="slat",
        label="Slat",
        stock=stock,
        walls=tuple(ring),
        turn=turn,
        offset=round(r.uniform(-20.0, 20.0), 1),
        inset_low=r.choice([0.0, 6.0]),
        inset_high=r.choice([0.0, 4.0]),
    )
    try:
        places = lattice_of(
            design, stocks, walls=ring, stock=stock, pitch=r.uniform(40.0, 90.0), turn=turn, crossed=r.random() < 0.6, drawings=drawings, bed=BED
        )
    except NotchCoreError:
        places = ()
    some = (
        [slats]
        if r.random() < 0.4 or not 0 < len(places) <= 12
        else [replace(slats, id=f"slat-{k}", label=f"Slat {k}", turn=p.turn, offset=p.offset) for k, p in enumerate(places)]
    )
    story.append(str(some))
    return replace(design, added=(*design.added, *some))


def spaced(r: Random, design: Design, stocks: dict[str, Stock], drawings: dict[str, Drawing], story: list[str]) -> Design:
    """Return the design with a plate on spacers, now and then."""
    hosts = _hosts(design, stocks, drawings)
    if r.random() > SPACED or not hosts:
        return design
    host = r.choice(hosts)
    x0, y0, x1, y1 = bounds_of(host.envelope.outer)
    w, h, across = x1 - x0, y1 - y0, round(r.uniform(5.0, 12.0), 1)
    if min(w, h) < 60:
        return design
    item = OnFace(
        id="held-off",
        label="Held off",
        stock=_a_stock(r, design),
        host=host.id,
        back=r.random() < 0.5,
        from_corner=True,
        x=round(w * 0.2, 1),
        y=round(h * 0.2, 1),
        width=round(w * 0.6, 1),
        height=round(h * 0.6, 1),
        layers=r.choice([1, 1, 2]),
        spacer_across=across,
        spacer_inset=round(across * r.uniform(0.6, 1.2), 1),
    )
    other = {f"held-off{SPACER}{k}": PanelEdit(stock="spare") for k in range(1, 5)} if r.random() < 0.4 else {}
    story.append(f"{item} {other}")
    return replace(design, added=(*design.added, item), edits={**design.edits, **other})


def plainly_shaped(r: Random, seen: tuple[float, float]) -> PanelShape:
    """Return a plain shape within what is seen of a panel: it ends where the panel did, or before.

    Args:
        seen: width and height of that [mm]
    """
    w, h = (max(v, 10.0) for v in seen)
    least = min(w, h)
    numbers = PlateNumbers(
        shape=r.choice(list(PlateShape)),
        width=w,
        height=h,
        upper=max(round(w * r.uniform(0.4, 0.9), 1), 1.0),
        shift=round(w * r.uniform(0, 0.1), 1),
        left_high=h,
        right_high=round(max(h * r.uniform(0.4, 1), 10.0), 1),
        across=least,
        hole=r.choice([0.0, round(least * 0.3, 1)]) if least > 30 else 0.0,
        sweep=round(r.uniform(60, 170), 1),
        sides=r.randint(3, 9),
        lower_side=least,
        right_side=round(max(least * r.uniform(0.7, 1), 10.0), 1),
        left_side=round(max(least * r.uniform(0.7, 1), 10.0), 1),
        **{f"radius_{k}": round(least * r.uniform(0, 0.3), 1) for k in range(1, 5)},
    )
    aside = Random(f"aside {numbers}")
    if aside.random() < 0.6:
        return PanelShape(numbers=numbers, standing=numbers.sides > 5)
    x, y = (round(v * aside.uniform(-0.08, 0.08), 1) for v in (w, h))
    return PanelShape(numbers=numbers, x=x, y=y, turn=aside.choice([0.0, 90.0, 180.0, round(aside.uniform(-40, 40), 1)]))
