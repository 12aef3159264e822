"""Braces: sheets across the corner of two panels, from a line on one to a line on the other, joined to both."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design.gussets import roomy, upward
from notchcore.design.outlines import REACH
from notchcore.design.panel import Bound, Panel, range_along, resolved
from notchcore.errors import require
from notchcore.geom.profile import rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec3, add, cross, dot, scale, solve3, sub, unit
from notchcore.measure.stock import Stock
from notchcore.units import Mm

LEAST: Mm = 1.0
LENGTHS = {
    "on_a": "From the corner, on the first panel",
    "on_b": "From the corner, on the second panel",
    "inset_low": "Kept back, low end",
    "inset_high": "Kept back, high end",
}
FLAT = 0.97  # |cosine| between two panels from which on they have no corner to speak of


@dataclass(frozen=True, slots=True, kw_only=True)
class Brace:
    """A sheet from `a` to `b`, `on_a` and `on_b` away from their corner, where its middle plane meets their faces [mm]."""

    kind: Literal["brace"] = "brace"
    id: str
    label: str
    stock: str
    a: str
    b: str
    on_a: Mm = 40.0
    on_b: Mm = 40.0
    inset_low: Mm = 0.0  #: how far it stays back from the ends of the stretch that both have in common
    inset_high: Mm = 0.0

    def __post_init__(self) -> None:
        for name, label in LENGTHS.items():
            require(label, getattr(self, name), least=LEAST if name in ("on_a", "on_b") else -REACH, most=REACH)

    @property
    def mates(self) -> tuple[str, ...]:
        return self.a, self.b

    @property
    def lengths(self) -> Mapping[str, str]:
        return LENGTHS

    def scaled(self, k: float) -> Brace:
        return replace(self, **{name: getattr(self, name) * k for name in LENGTHS})


def brace(item: Brace, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock]) -> Panel | None:
    """Return the sheet; None when the two are gone, lie nearly in one direction, share no stretch, or end before it."""
    a, b, stock = panels.get(item.a), panels.get(item.b), stocks.get(item.stock)
    if a is None or b is None or stock is None or a is b:
        return None
    a, b = resolved(a, panels), resolved(b, panels)
    if abs(dot(a.pose.normal, b.pose.normal)) > FLAT:
        return None
    (v, face_a), (u, face_b) = roomy(a, b), roomy(b, a)
    along = upward(unit(cross(v, u)))
    ends = [range_along(p, along) for p in (a, b)]
    low, high = max(e[0] for e in ends) + item.inset_low, min(e[1] for e in ends) - item.inset_high
    if high - low < stock.t:
        return None
    corner = solve3((v, u, along), (face_a, face_b, low))
    on_a, on_b = (_away(face, other) for face, other in ((v, u), (u, v)))
    foot, head = add(corner, scale(on_a, item.on_a)), add(corner, scale(on_b, item.on_b))
    if any(not range_along(p, way)[0] < dot(at, way) < range_along(p, way)[1] for p, way, at in ((a, on_a, foot), (b, on_b, head))):
        return None
    length = dot(sub(head, foot), sub(head, foot)) ** 0.5
    x = scale(sub(head, foot), 1 / length)
    more = 3 * (a.t + b.t + stock.t)
    return Panel(
        id=item.id,
        label=item.label,
        stock=stock.id,
        envelope=rectangle(-more, 0.0, x1=length + more, y1=high - low),
        pose=Pose(origin=foot, x=x, y=along),
        t=stock.t,
        layout_t=stock.layout_t,
        datum=0.5,
        bounds=(Bound(mate=a.id), Bound(mate=b.id)),
        inside=(length / 2, (high - low) / 2),
    )


def _away(face: Vec3, other: Vec3) -> Vec3:
    """Return the direction in a face that leads away from the corner with another."""
    return unit(sub(other, scale(face, dot(other, face))))
