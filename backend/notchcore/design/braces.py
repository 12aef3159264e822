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
from notchcore.words.facts import Sentence, mm
from notchcore.words.render import say

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


@dataclass(frozen=True, slots=True, kw_only=True)
class CornerRoom:
    """How far from the corner of two panels a sheet across it may meet each of them, least and most [mm]."""

    on_a: tuple[Mm, Mm]
    on_b: tuple[Mm, Mm]


@dataclass(frozen=True, slots=True)
class _Corner:
    """The line in which the faces of two panels meet, seen along it."""

    at: Vec3  #: a point of it
    along: Vec3
    on_a: Vec3  #: away from it, in the face of a
    on_b: Vec3

    def room(self, a: Panel, b: Panel) -> CornerRoom:
        def reach(p: Panel, way: Vec3) -> tuple[Mm, Mm]:
            low, high = range_along(p, way)
            return max(low - dot(self.at, way), LEAST), high - dot(self.at, way)

        return CornerRoom(on_a=reach(a, self.on_a), on_b=reach(b, self.on_b))


def _corner(a: Panel, b: Panel) -> _Corner | None:
    """Return the corner of two panels; None where they lie nearly in one direction."""
    if abs(dot(a.pose.normal, b.pose.normal)) > FLAT:
        return None
    (v, face_a), (u, face_b) = roomy(a, b), roomy(b, a)
    along = upward(unit(cross(v, u)))
    at = solve3((v, u, along), (face_a, face_b, 0.0))
    return _Corner(at, along, _away(v, u), _away(u, v))


def corner_room(panels: Mapping[str, Panel], *, a: str, b: str) -> CornerRoom | None:
    """Return where a sheet across the corner of two panels may meet them; None where there is no place on one of them."""
    one, two = panels.get(a), panels.get(b)
    if one is None or two is None or one is two:
        return None
    one, two = resolved(one, panels), resolved(two, panels)
    corner = _corner(one, two)
    room = corner.room(one, two) if corner else None
    return room if room and room.on_a[0] < room.on_a[1] and room.on_b[0] < room.on_b[1] else None


def beyond(item: Brace, panels: Mapping[str, Panel]) -> Sentence | None:
    """Say where it could stand when it stands beyond the end of a panel; None when it is left out for something else."""
    room = corner_room(panels, a=item.a, b=item.b)
    if room is None or all(low < x < high for (low, high), x in ((room.on_a, item.on_a), (room.on_b, item.on_b))):
        return None
    spans = {f"{name}_{end}": mm(x) for name, span in (("a", room.on_a), ("b", room.on_b)) for end, x in zip(("least", "most"), span, strict=True)}
    return say("stood_on.brace.beyond", a=panels[item.a].ref, b=panels[item.b].ref, **spans)


def brace(item: Brace, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock]) -> Panel | None:
    """Return the sheet; None when the two are gone, lie nearly in one direction, share no stretch, or end before it."""
    a, b, stock = panels.get(item.a), panels.get(item.b), stocks.get(item.stock)
    if a is None or b is None or stock is None or a is b:
        return None
    a, b = resolved(a, panels), resolved(b, panels)
    corner = _corner(a, b)
    if corner is None:
        return None
    along = corner.along
    ends = [range_along(p, along) for p in (a, b)]
    low, high = max(e[0] for e in ends) + item.inset_low, min(e[1] for e in ends) - item.inset_high
    if high - low < stock.t:
        return None
    room, start = corner.room(a, b), add(corner.at, scale(along, low))
    if not (room.on_a[0] < item.on_a < room.on_a[1] and room.on_b[0] < item.on_b < room.on_b[1]):
        return None
    foot, head = add(start, scale(corner.on_a, item.on_a)), add(start, scale(corner.on_b, item.on_b))
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
