"""Panels from one panel to another that faces it: square to both, or sloping from line to line."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Literal

from notchcore.design.outlines import REACH
from notchcore.design.panel import Bound, Panel, Reach, across_at, range_along, resolved
from notchcore.errors import require
from notchcore.geom.profile import Profile
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec3, X, Y, Z, add, cross, dot, scale, unit
from notchcore.measure.stock import Stock
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm
from notchcore.words.facts import Sentence, mm
from notchcore.words.render import say

SQUARE = 1e-6
LENGTHS = {  # what each of its lengths is called where a size is explained
    "at": "Where it begins",
    "rise": "Farther at its end",
    "over": "Farther on the other panel",
    "inset_low": "Kept back, low end",
    "inset_high": "Kept back, high end",
}
AXES: dict[str, Vec3] = {"x": X, "y": Y, "z": Z}


class Axis(StrEnum):
    """A direction of the world: to the right, to the back, up."""

    X = "x"
    Y = "y"
    Z = "z"


@dataclass(frozen=True, slots=True, kw_only=True)
class Between:
    """A panel from `a` to `b`; its middle plane meets both in lines, which are level, square to the axis, where nothing else is said [mm]."""

    kind: Literal["between"] = "between"
    id: str
    label: str
    stock: str
    a: str
    b: str
    axis: Axis
    at: Mm  #: where the line on `a` begins, along the axis
    rise: Mm = 0.0  #: how much farther along the axis the lines end than they begin
    over: Mm = 0.0  #: how much farther along the axis the line on `b` lies than that on `a`
    inset_low: Mm = 0.0  #: how far it stays back from the ends of the common stretch
    inset_high: Mm = 0.0

    def __post_init__(self) -> None:
        for name, label in LENGTHS.items():
            require(label, getattr(self, name), least=-REACH, most=REACH)

    @property
    def mates(self) -> tuple[str, ...]:
        return self.a, self.b

    def scaled(self, k: float) -> Between:
        return replace(self, **{name: getattr(self, name) * k for name in LENGTHS})

    @property
    def lengths(self) -> Mapping[str, str]:
        return LENGTHS

    @property
    def sloping(self) -> bool:
        return bool(self.rise or self.over)


def _facing(item: Between, a: Panel, *, b: Panel) -> bool:
    """Tell whether the two lie along each other, and a sheet may stand between them along its axis."""
    n = a.pose.normal
    return abs(abs(dot(n, b.pose.normal)) - 1) <= SQUARE and abs(dot(n, AXES[item.axis])) <= SQUARE


def _within(item: Between, a: Panel, *, b: Panel) -> bool:
    """Tell whether a sheet from one would meet the other at both of its ends."""
    for panel, start in ((a, item.at), (b, item.at + item.over)):
        reach = range_along(panel, AXES[item.axis])
        if not reach[0] < min(start, start + item.rise) <= max(start, start + item.rise) < reach[1]:
            return False
    return True


def beyond(item: Between, panels: Mapping[str, Panel]) -> Sentence | None:
    """Say where it could stand when it stands beyond the end of a panel; None when it is left out for something else."""
    a, b = panels.get(item.a), panels.get(item.b)
    if a is None or b is None or a is b:
        return None
    a, b = resolved(a, panels), resolved(b, panels)
    if not _facing(item, a, b=b) or _within(item, a, b=b):
        return None
    (a0, a1), (b0, b1) = (range_along(p, AXES[item.axis]) for p in (a, b))
    return say("stood_on.between.beyond", a=a.ref, b=b.ref, a_least=mm(a0), a_most=mm(a1), b_least=mm(b0), b_most=mm(b1))


@dataclass(frozen=True, slots=True, kw_only=True)
class _Plane:
    """The plane of a sheet between two panels: over the way from one to the other and a third direction it rises along an axis."""

    n: Vec3  #: from one panel to the other
    third: Vec3
    axis: Vec3
    at: Mm  #: its height where it begins
    steep: float  #: rise along the third direction, of 1
    across: float  #: rise from one panel to the other, of 1
    start: Mm  #: along the third direction, where it begins
    face: Mm  #: along n, where it begins
    sloping: bool

    def point(self, u: Mm, s: Mm) -> Vec3:
        """Return a point of the plane over (u, s)."""
        h = self.at + self.steep * (s - self.start) + self.across * (u - self.face)
        return add(add(scale(self.n, u), scale(self.third, s)), scale(self.axis, h))

    def pose(self) -> Pose:
        """Return the plane as a pose: x runs from one panel to the other."""
        x = unit(add(self.n, scale(self.axis, self.across)))
        normal = unit(add(self.axis, scale(add(scale(self.n, self.across), scale(self.third, self.steep)), -1.0)))
        return Pose(origin=self.point(self.face, self.start) if self.sloping else scale(self.axis, self.at), x=x, y=cross(normal, x))


def between(item: Between, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock]) -> Panel | None:
    """Return the sheet; None when the two are gone or do not face each other, or when it would not reach from one to the other."""
    a, b, stock = panels.get(item.a), panels.get(item.b), stocks.get(item.stock)
    if a is None or b is None or stock is None or a is b:
        return None
    a, b = resolved(a, panels), resolved(b, panels)
    n, axis = a.pose.normal, AXES[item.axis]
    third = cross(axis, n)
    ends = [range_along(p, third) for p in (a, b)]
    first, last = max(e[0] for e in ends), min(e[1] for e in ends)
    low, high = first + item.inset_low, last - item.inset_high
    if high - low < stock.t or not (_facing(item, a, b=b) and _within(item, a, b=b)):
        return None
    (a0, a1), (b0, b1) = range_along(a, n), range_along(b, n)
    face_a, face_b = (a1, b0) if b0 + b1 > a0 + a1 else (a0, b1)
    if abs(face_b - face_a) < COINCIDENT:
        return None
    steep, across = item.rise / (high - low), item.over / (face_b - face_a)
    # Edges of a sloping sheet are square to its own plane: they are drawn out, and end within what stands across them.
    more = 2 * stock.t * (1 + math.hypot(steep, across)) if item.sloping else 0.0
    ends_at = ((first, item.inset_low), (last, item.inset_high))
    mates = [across_at(panels, third, end=end, others=(a.id, b.id)) if more and not inset else "" for end, inset in ends_at]
    low, high = low - (more if mates[0] else 0.0), high + (more if mates[1] else 0.0)
    plane = _Plane(n=n, third=third, axis=axis, at=item.at, steep=steep, across=across, start=first + item.inset_low, face=face_a, sloping=item.sloping)
    u0, u1 = min(a0, b0) - 1.0 - more, max(a1, b1) + 1.0 + more
    pose = plane.pose()
    outline = tuple(pose.to_plane(plane.point(u, s)) for u, s in ((u0, low), (u1, low), (u1, high), (u0, high)))
    middle = pose.to_plane(plane.point((face_a + face_b) / 2, (low + high) / 2))
    bounds = (Bound(mate=a.id), Bound(mate=b.id), *(Bound(mate=m, reach=Reach.WITHIN) for m in mates if m))
    return Panel(
        id=item.id,
        label=item.label,
        stock=stock.id,
        envelope=Profile(outer=outline),
        pose=pose,
        t=stock.t,
        layout_t=stock.layout_t,
        datum=0.5,
        bounds=bounds,
        inside=middle if item.sloping else None,
    )
