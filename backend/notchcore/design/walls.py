"""Walls: sheets that stand on an edge of another panel, upright or leaning, and are joined to it there."""

from __future__ import annotations

import math
from collections.abc import Container, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design.edges import LEAST, OUTWARD, Edge, edge_at, straight_edge
from notchcore.design.outlines import REACH
from notchcore.design.panel import Bound, Panel, Reach, across_at, resolved
from notchcore.errors import require
from notchcore.geom.profile import rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import add, cross, dot, scale
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


def wall(item: Wall, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock]) -> Panel | None:
    """Return the sheet; None when its host is gone, has no straight edge on that side, or a shorter one than the sheet is thick."""
    host, stock = panels.get(item.host), stocks.get(item.stock)
    if host is None or stock is None:
        return None
    host = resolved(host, panels)
    one = edge_at(host, item.nth) if item.nth else None
    line = (one.start, one.end) if one else None if item.nth else straight_edge(host, OUTWARD[item.edge])
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
    mates, out = [], []
    for end, inset, neighbour in zip(ends, insets, beside, strict=True):
        mate = across_at(panels, along, end=dot(host.pose.to_world(end), along), others=(host.id,)) if item.lean and not inset and not neighbour else ""
        mates.append(mate)
        out.append(0.0 if inset else DRAWN_OUT * (item.height + more) if neighbour else more if mate else 0.0)
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
