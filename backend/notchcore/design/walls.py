"""Walls: sheets that stand on an edge of another panel, upright or leaning, and are joined to it there."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Literal

from notchcore.design.outlines import REACH
from notchcore.design.panel import Bound, Panel, Reach, across_at, resolved
from notchcore.errors import require
from notchcore.geom.planar import points_of, simplified
from notchcore.geom.profile import polygon_of, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, add, cross, dot, scale
from notchcore.measure.stock import Stock
from notchcore.units import Mm

LEAST: Mm = 1.0
LENGTHS = {"height": "Height", "inset_low": "Kept back, low end", "inset_high": "Kept back, high end"}
STRAIGHT: Mm = 1e-4  # corners that lie nearer to a line than this are none
SIDEWAYS = math.cos(math.radians(45.0)) + 1e-9  # so that an edge is of one side only
STEEPEST = 60.0  # [degrees] that a wall leans out or in


class Edge(StrEnum):
    """An edge of a panel, as its front face is looked at."""

    LEFT = "left"
    RIGHT = "right"
    LOWER = "lower"
    UPPER = "upper"


OUTWARD: dict[Edge, Vec2] = {Edge.LEFT: (-1.0, 0.0), Edge.RIGHT: (1.0, 0.0), Edge.LOWER: (0.0, -1.0), Edge.UPPER: (0.0, 1.0)}


@dataclass(frozen=True, slots=True, kw_only=True)
class Wall:
    """A sheet on an edge of its host; its outer face is flush with the edge [mm, degrees]."""

    kind: Literal["wall"] = "wall"
    id: str
    label: str
    stock: str
    host: str
    edge: Edge
    back: bool = False  #: it stands up from the host's back face
    height: Mm = 40.0  #: along its own face, from the face of the host that it stands on
    lean: float = 0.0  #: how far it leans outward
    inset_low: Mm = 0.0  #: how far it stays back from the left or lower end of the edge
    inset_high: Mm = 0.0
    beside: tuple[str, ...] = ()  #: other walls of its host in which it ends, so that they meet when they lean

    def __post_init__(self) -> None:
        for name, label in LENGTHS.items():
            require(label, getattr(self, name), LEAST if name == "height" else -REACH, REACH)
        require("the angle", self.lean, -STEEPEST, STEEPEST, unit="°")

    @property
    def mates(self) -> tuple[str, ...]:
        return (self.host,)

    @property
    def lengths(self) -> Mapping[str, str]:
        return LENGTHS

    def scaled(self, k: float) -> Wall:
        return replace(self, **{name: getattr(self, name) * k for name in LENGTHS})


def wall(item: Wall, panels: Mapping[str, Panel], stocks: Mapping[str, Stock]) -> Panel | None:
    """Return the sheet; None when its host is gone, has no straight edge on that side, or a shorter one than the sheet is thick."""
    host, stock = panels.get(item.host), stocks.get(item.stock)
    if host is None or stock is None:
        return None
    host = resolved(host, panels)
    line = straight_edge(host, OUTWARD[item.edge])
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
    ends = (q, p) if item.back else (p, q)
    low_first = (item.edge in (Edge.LOWER, Edge.RIGHT)) != item.back
    insets = (item.inset_low, item.inset_high) if low_first else (item.inset_high, item.inset_low)
    if length - sum(insets) < stock.t:
        return None
    below, more = abs(near - foot) / math.cos(lean), 3 * (host.t + stock.t)
    mates = [
        across_at(panels, along, dot(host.pose.to_world(end), along), (host.id,)) if item.lean and not inset and not item.beside else ""
        for end, inset in zip(ends, insets, strict=True)
    ]
    ends_out = [item.height + more if item.beside and not inset else more if mate else 0.0 for mate, inset in zip(mates, insets, strict=True)]
    x0, x1 = insets[0] - ends_out[0], length - insets[1] + ends_out[1]
    bounds = (Bound(mate=host.id), *(Bound(mate=m, reach=Reach.WITHIN) for m in mates if m), *(Bound(mate=m) for m in item.beside))
    return Panel(id=item.id, label=item.label, stock=stock.id, envelope=rectangle(x0, -more, x1, below + item.height), t=stock.t, layout_t=stock.layout_t,
                 pose=Pose(origin=host.pose.to_world(ends[0], foot), x=along, y=rising), datum=1.0, bounds=bounds,
                 inside=(length / 2, below + item.height / 2))  # fmt: skip


def straight_edge(panel: Panel, way: Vec2) -> tuple[Vec2, Vec2] | None:
    """Return the straight stretch of an outline that looks most nearly in a direction and lies farthest out in it; None where none does."""
    ring = points_of(simplified(polygon_of(panel.envelope), STRAIGHT).exterior)
    best, found = (0.0, 0.0), None
    for p, q in zip(ring, ring[1:] + ring[:1], strict=True):
        length = math.dist(p, q)
        if length < LEAST or ((q[1] - p[1]) * way[0] + (p[0] - q[0]) * way[1]) / length < SIDEWAYS:
            continue
        rank = (round(((p[0] + q[0]) * way[0] + (p[1] + q[1]) * way[1]) / 2, 6), length)
        if found is None or rank > best:
            best, found = rank, (p, q)
    return found
