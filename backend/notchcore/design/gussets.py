"""Gussets: corner plates between two panels that stand square to each other, joined to both."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design.panel import Bound, Panel, range_along, resolved
from notchcore.errors import require
from notchcore.geom.profile import Profile
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec3, add, cross, dot, scale
from notchcore.measure.stock import Stock
from notchcore.units import Mm

BLUNT = 0.15  # share of its size that is left at both tips, so that no sliver stands there
LARGEST: Mm = 2000.0
LENGTHS = {"size": "Size", "at": "From the middle"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Gusset:
    """A corner plate square to `a` and `b`, on the roomier side of both [mm]."""

    kind: Literal["gusset"] = "gusset"
    id: str
    label: str
    stock: str
    a: str
    b: str
    size: Mm = 30.0
    at: Mm = 0.0  #: along their common line, from its middle

    def __post_init__(self) -> None:
        require("size", self.size, least=3.0, most=LARGEST)
        require("place", self.at, least=-LARGEST, most=LARGEST)

    @property
    def mates(self) -> tuple[str, ...]:
        return self.a, self.b

    @property
    def lengths(self) -> Mapping[str, str]:
        return LENGTHS

    def scaled(self, k: float) -> Gusset:
        return replace(self, **{name: getattr(self, name) * k for name in LENGTHS})


def roomy(panel: Panel, other: Panel) -> tuple[Vec3, Mm]:
    """Return the side of a panel to which another reaches farther, as a unit vector, and where the panel's face on it lies."""
    n = panel.pose.normal
    low, high = range_along(panel, n)
    first, last = range_along(other, n)
    up = last - high > low - first
    if abs((last - high) - (low - first)) < 1e-6:
        up = n[2] < 0  # as much on both: below
    return (n, high) if up else (scale(n, -1.0), -low)


def upward(way: Vec3) -> Vec3:
    """Return the sense of a direction in which its largest part counts up, so that low and high ends are what people call so."""
    largest = max(range(3), key=lambda k: abs(way[k]))
    return way if way[largest] > 0 else scale(way, -1.0)


def gusset(item: Gusset, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock]) -> Panel | None:
    """Return the plate; None when the two panels are gone, do not stand square, or share too little of a line."""
    a, b, stock = panels.get(item.a), panels.get(item.b), stocks.get(item.stock)
    if a is None or b is None or stock is None or a is b:
        return None
    a, b = resolved(a, panels), resolved(b, panels)
    if abs(dot(a.pose.normal, b.pose.normal)) > 1e-6:
        return None
    along = cross(a.pose.normal, b.pose.normal)
    (a0, a1), (b0, b1) = range_along(a, along), range_along(b, along)
    at = (max(a0, b0) + min(a1, b1)) / 2 + item.at
    if not max(a0, b0) + stock.t < at < min(a1, b1) - stock.t:
        return None
    (v, face_a), (u, face_b) = roomy(a, b), roomy(b, a)
    origin = add(add(scale(v, face_a), scale(u, face_b)), scale(along, at))
    tip, into_a, into_b = BLUNT * item.size, -a.t - 1.0, -b.t - 1.0
    outline = ((into_b, into_a), (item.size, into_a), (item.size, tip), (tip, item.size), (into_b, item.size))
    return Panel(
        id=item.id,
        label=item.label,
        stock=stock.id,
        envelope=Profile(outer=outline),
        pose=Pose(origin=origin, x=u, y=v),
        t=stock.t,
        layout_t=stock.layout_t,
        datum=0.5,
        bounds=(Bound(mate=a.id), Bound(mate=b.id)),
        inside=(tip, tip),
    )
