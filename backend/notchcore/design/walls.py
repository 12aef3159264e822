"""Walls: sheets that stand on an edge of another panel, upright or leaning, and are joined to it there."""

from __future__ import annotations

import math
from collections.abc import Container, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design.edges import LEAST, OUTWARD, Edge, edge_at, straight_edge
from notchcore.design.outlines import REACH
from notchcore.design.panel import Bound, Panel, Reach, across_at, resolved
from notchcore.errors import require
from notchcore.geom.profile import rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, Vec3, add, cross, dot, scale
from notchcore.measure.stock import Stock
from notchcore.units import Mm

LENGTHS = {"height": "Height", "inset_low": "Kept back, low end", "inset_high": "Kept back, high end"}
DRAWN_OUT = 6.0  # heights by which a wall reaches past a corner before its neighbour ends it: enough for the sharpest
MOST_EDGES = 200
STEEPEST = 60.0  # [degrees] that a wall leans out or in


@dataclass(frozen=True, slots=True, kw_only=True)
class Wall:
    """A sheet on an edge of its host; its outer face is flush with the edge [mm, degrees]."""

    kind: Literal["wall"] = "wall"
    id: str
    label: str
    stock: str
    host: str
    edge: Edge
    nth: int = 0  #: which of its straight edges, counted round it (see `edges`); 0: the one that lies farthest out on that side
    back: bool = False  #: it stands up from the host's back face
    height: Mm = 40.0  #: along its own face, from the face of the host that it stands on
    lean: float = 0.0  #: how far it leans outward
    inset_low: Mm = 0.0  #: how far it stays back from the left or lower end of the edge
    inset_high: Mm = 0.0
    beside: tuple[str, ...] = ()  #: the walls that it meets in the corners at the start and the end of its edge; "": none there

    def __post_init__(self) -> None:
        for name, label in LENGTHS.items():
            require(label, getattr(self, name), least=LEAST if name == "height" else -REACH, most=REACH)
        require("the angle", self.lean, least=-STEEPEST, most=STEEPEST, unit="°")
        require("the edge", self.nth, least=0, most=MOST_EDGES, unit="")

    @property
    def mates(self) -> tuple[str, ...]:
        return (self.host,)

    @property
    def lengths(self) -> Mapping[str, str]:
        return LENGTHS

    def scaled(self, k: float) -> Wall:
        return replace(self, **{name: getattr(self, name) * k for name in LENGTHS})

    def beside_only(self, there: Container[str]) -> Wall:
        """Return the wall without the neighbours that do not stand."""
        return replace(self, beside=tuple(b if b in there else "" for b in self.beside))


def _foot_of(item: Wall, host: Panel) -> tuple[Vec2, Vec2] | None:
    """Return the edge of its host that a wall stands on; None where there is none."""
    if not item.nth:
        return straight_edge(host, OUTWARD[item.edge])
    one = edge_at(host, item.nth)
    return (one.start, one.end) if one else None


def _drawn_out(
    item: Wall, panels: Mapping[str, Panel], *, along: Vec3, ends: Sequence[Vec3], insets: Sequence[Mm], beside: Sequence[str], more: Mm
) -> tuple[list[str], list[Mm]]:
    """Return, for both ends, what the wall ends within, and how far it is drawn beyond to be cut there."""
    mates = [
        across_at(panels, along, end=dot(end, along), others=(item.host,)) if item.lean and not inset and not neighbour else ""
        for end, inset, neighbour in zip(ends, insets, beside, strict=True)
    ]
    return mates, [
        0.0 if inset else DRAWN_OUT * (item.height + more) if neighbour else more if mate else 0.0
        for inset, neighbour, mate in zip(insets, beside, mates, strict=True)
    ]


def wall(item: Wall, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock]) -> Panel | None:
    """Return the sheet; None when its host is gone, has no straight edge on that side, or a shorter one than the sheet is thick."""
    host, stock = panels.get(item.host), stocks.get(item.stock)
    if host is None or stock is None:
        return None
    host = resolved(host, panels)
    line = _foot_of(item, host)
    if line is None:
        return None
    p, q = line
    length = math.dist(p, q)
    outward = add(scale(host.pose.x, (q[1] - p[1]) / length), scale(host.pose.y, (p[0] - q[0]) / length))  # the outline runs against the clock
    up = scale(host.pose.normal, -1.0) if item.back else host.pose.normal
    near, far = (host.low, host.high) if item.back else (host.high, host.low)
    # Of the two lines in which the edge meets the host's faces, the outer face runs through the one that keeps all of it within the edge.
    foot = near if item.lean > 0 else far
    lean = math.radians(item.lean)
    rising, along = add(scale(up, math.cos(lean)), scale(outward, math.sin(lean))), cross(up, outward)
    ends, beside = (p, q), (*item.beside, "", "")[:2]
    if item.back:
        ends, beside = ends[::-1], beside[::-1]
    low_first = (item.edge in (Edge.LOWER, Edge.RIGHT)) != item.back
    insets = (item.inset_low, item.inset_high) if low_first else (item.inset_high, item.inset_low)
    if length - sum(insets) < stock.t:
        return None
    below, more = abs(near - foot) / math.cos(lean), 3 * (host.t + stock.t)
    mates, out = _drawn_out(item, panels, along=along, ends=[host.pose.to_world(e) for e in ends], insets=insets, beside=beside, more=more)
    x0, x1 = insets[0] - out[0], length - insets[1] + out[1]
    bounds = (Bound(mate=host.id), *(Bound(mate=m, reach=Reach.WITHIN) for m in mates if m), *(Bound(mate=m) for m in beside if m))
    return Panel(
        id=item.id,
        label=item.label,
        stock=stock.id,
        envelope=rectangle(x0, -more, x1=x1, y1=below + item.height),
        t=stock.t,
        layout_t=stock.layout_t,
        pose=Pose(origin=host.pose.to_world(ends[0], foot), x=along, y=rising),
        datum=1.0,
        bounds=bounds,
        inside=(length / 2, below + item.height / 2),
    )
