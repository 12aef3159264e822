"""Slats: sheets across the room between several panels, at any angle, joined to those in which they end; many of them are a lattice."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design.gussets import upward
from notchcore.design.outlines import REACH
from notchcore.design.panel import Bound, Panel, Reach, range_along, resolved
from notchcore.errors import DesignError, require
from notchcore.geom.planar import FAR, Polygon, half_plane, lines_in, pieces, points_of
from notchcore.geom.profile import rectangle
from notchcore.geom.slab import Pose, corners_of
from notchcore.geom.vectors import Vec2, Vec3, add, cross, dot, scale, unit
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.render import say

LEAST, MOST = 3, 12  # panels round a room
SQUARE = 1e-6
FLAT = 0.97  # |cosine| from which on two panels do not tell which way the room goes
LENGTHS = {"offset": "From the middle", "inset_low": "Kept back, low end", "inset_high": "Kept back, high end"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Slat:
    """A sheet through the room that panels stand round, square to the room's floor [mm, degrees]."""

    kind: Literal["slat"] = "slat"
    id: str
    label: str
    stock: str
    walls: tuple[str, ...]  #: the panels that stand round the room, all square to one plane
    turn: float = 0.0  #: which way it runs, from the direction of the first panel, against the clock as the room is looked into
    offset: Mm = 0.0  #: how far to the left of the room's middle it runs, looking along it
    inset_low: Mm = 0.0  #: how far it stays back from the low ends of the panels
    inset_high: Mm = 0.0

    def __post_init__(self) -> None:
        if not LEAST <= len(set(self.walls)) == len(self.walls) <= MOST:
            raise DesignError(say("slat_round", least=LEAST, most=MOST))
        for name, label in LENGTHS.items():
            require(label, getattr(self, name), least=-REACH, most=REACH)
        require("the angle", self.turn, least=-360.0, most=360.0, unit="°")

    @property
    def mates(self) -> tuple[str, ...]:
        return self.walls

    @property
    def lengths(self) -> Mapping[str, str]:
        return LENGTHS

    def scaled(self, k: float) -> Slat:
        return replace(self, **{name: getattr(self, name) * k for name in LENGTHS})


@dataclass(frozen=True, slots=True)
class Room:
    """What panels stand round: the direction that all have in common, two across it, and the clear shape in those two [mm].

    The first across runs along the first wall, the second away from it.
    """

    axis: Vec3
    right: Vec3
    away: Vec3
    clear: Polygon

    @property
    def middle(self) -> Vec2:
        return float(self.clear.centroid.x), float(self.clear.centroid.y)

    @property
    def corners(self) -> list[Vec2]:
        return points_of(self.clear.exterior)

    def line(self, turn: float, offset: Mm) -> tuple[Vec2, Vec2] | None:
        """Return from where to where a slat's middle line runs; None when it misses the room."""
        c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
        x, y = self.middle[0] - s * offset, self.middle[1] + c * offset
        seen = lines_in(self.clear, (x - c * FAR, y - s * FAR), end=(x + c * FAR, y + s * FAR))
        if not seen:
            return None
        start, end = sorted(seen[0], key=lambda p: p[0] * c + p[1] * s)
        return start, end

    def reach(self, turn: float) -> Mm:
        """Return how far from its middle the room reaches square to a direction, on the farther side."""
        (x0, y0), c, s = self.middle, math.cos(math.radians(turn)), math.sin(math.radians(turn))
        return max(abs((y - y0) * c - (x - x0) * s) for x, y in self.corners)


def slat(item: Slat, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock]) -> Panel | None:
    """Return the sheet; None when a panel is gone, they do not enclose a room, or it would be shorter in it than it is thick."""
    stock = stocks.get(item.stock)
    room = room_between(item.walls, panels)
    line = room and room.line(item.turn, item.offset)
    if stock is None or room is None or not line or math.dist(*line) < stock.t:
        return None
    walls = [resolved(panels[name], panels) for name in item.walls]
    spans = [range_along(p, room.axis) for p in walls]
    low, high = max(a for a, _ in spans) + item.inset_low, min(b for _, b in spans) - item.inset_high
    if high - low < stock.t:
        return None
    (x, y), length = line[0], math.dist(*line)
    along = add(scale(room.right, (line[1][0] - x) / length), scale(room.away, (line[1][1] - y) / length))
    origin = add(add(scale(room.right, x), scale(room.away, y)), scale(room.axis, low))
    # What reaches into a wall at a slant reaches farther along it.
    more = max(2 * (p.t + stock.t) / max(abs(dot(p.pose.normal, along)), 0.1) for p in walls)
    bounds = tuple(Bound(mate=p.id, reach=Reach.WITHIN) for p in walls if abs(dot(p.pose.normal, along)) > SQUARE)
    return Panel(
        id=item.id,
        label=item.label,
        stock=stock.id,
        envelope=rectangle(-more, 0.0, x1=length + more, y1=high - low),
        t=stock.t,
        layout_t=stock.layout_t,
        pose=Pose(origin=origin, x=along, y=room.axis),
        datum=0.5,
        bounds=bounds,
        inside=(length / 2, (high - low) / 2),
    )


def room_between(names: Sequence[str], panels: Mapping[str, Panel]) -> Room | None:
    """Return the room that panels stand round; None when one is gone, or they are not square to one plane, or leave a side open."""
    if any(name not in panels for name in names):
        return None
    walls = [resolved(panels[name], panels) for name in names]
    first = walls[0].pose.normal
    slanted = next((p.pose.normal for p in walls if abs(dot(p.pose.normal, first)) < FLAT), None)
    if slanted is None:
        return None
    axis = upward(unit(cross(first, slanted)))
    if any(abs(dot(p.pose.normal, axis)) > SQUARE for p in walls):
        return None
    centres = [_centre(p) for p in walls]
    middle: Vec3 = (sum(p[0] for p in centres) / len(centres), sum(p[1] for p in centres) / len(centres), sum(p[2] for p in centres) / len(centres))
    away = first if dot(first, middle) > dot(first, centres[0]) else scale(first, -1.0)
    right = cross(away, axis)
    shape = half_plane((1.0, 0.0), FAR)
    for p, centre in zip(walls, centres, strict=True):
        out = p.pose.normal if dot(p.pose.normal, centre) > dot(p.pose.normal, middle) else scale(p.pose.normal, -1.0)
        left = pieces(shape.intersection(half_plane((dot(out, right), dot(out, away)), range_along(p, out)[0])))
        if not left:
            return None
        shape = left[0]
    x0, y0, x1, y1 = shape.bounds
    return None if max(x1 - x0, y1 - y0) > REACH else Room(axis, right, away, shape)


def _centre(panel: Panel) -> Vec3:
    corners = corners_of(panel.slab())
    return (sum(p[0] for p in corners) / 8, sum(p[1] for p in corners) / 8, sum(p[2] for p in corners) / 8)
