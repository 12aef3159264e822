"""Moves of the plane that keep sizes: turned, shifted, and turned over where they are mirrored.

Rigid      x is negated first where it is mirrored, then everything is turned about the origin, then shifted
Fitting    least squares over pairs of points, closed form: the turn is the angle of the sum of products about both middles
Covering   every such move that lays one outline on another
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from notchcore.geom.planar import Polygon, lines_within
from notchcore.geom.profile import Ring, area_of
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

TRIED_MOST = 48  # corners and edges that a covering is tried from


@dataclass(frozen=True, slots=True, kw_only=True)
class Rigid:
    """A move of the plane."""

    cos: float = 1.0
    sin: float = 0.0
    x: Mm = 0.0
    y: Mm = 0.0
    mirrored: bool = False

    def __call__(self, p: Vec2) -> Vec2:
        px = -p[0] if self.mirrored else p[0]
        return px * self.cos - p[1] * self.sin + self.x, px * self.sin + p[1] * self.cos + self.y

    def direction(self, v: Vec2) -> Vec2:
        """Return a direction after the move."""
        vx = -v[0] if self.mirrored else v[0]
        return vx * self.cos - v[1] * self.sin, vx * self.sin + v[1] * self.cos

    @property
    def axis(self) -> Vec2:
        """Return the direction of the line about which a mirrored move turns things over: points along it keep their line."""
        along = (math.atan2(self.sin, self.cos) + math.pi) / 2
        return math.cos(along), math.sin(along)

    @property
    def degrees(self) -> float:
        return math.degrees(math.atan2(self.sin, self.cos))


def about(turn: float, start: Vec2, *, end: Vec2, mirrored: bool = False) -> Rigid:
    """Return the move that turns by an angle [rad] and brings `start` to `end`."""
    still = Rigid(cos=math.cos(turn), sin=math.sin(turn), mirrored=mirrored)
    x, y = still(start)
    return Rigid(cos=still.cos, sin=still.sin, x=end[0] - x, y=end[1] - y, mirrored=mirrored)


def followed(first: Rigid, then: Rigid) -> Rigid:
    """Return both moves, one after the other, as one."""
    x, y = then((first.x, first.y))
    cos, sin = then.direction(first.direction((-1.0, 0.0) if first.mirrored else (1.0, 0.0)))
    mirrored = first.mirrored != then.mirrored
    if mirrored:
        cos, sin = -cos, -sin
    return Rigid(cos=cos, sin=sin, x=x, y=y, mirrored=mirrored)


def fitted(some: Sequence[Vec2], others: Sequence[Vec2], *, mirrored: bool = False) -> Rigid:
    """Return the move that brings points nearest to their partners, by least squares."""
    n = len(some)
    ax, ay = math.fsum(p[0] for p in some) / n, math.fsum(p[1] for p in some) / n
    bx, by = math.fsum(p[0] for p in others) / n, math.fsum(p[1] for p in others) / n
    side = -1.0 if mirrored else 1.0
    pairs = [(side * (p[0] - ax), p[1] - ay, q[0] - bx, q[1] - by) for p, q in zip(some, others, strict=True)]
    along = math.fsum(u * s + v * t for u, v, s, t in pairs)
    across = math.fsum(u * t - v * s for u, v, s, t in pairs)
    return about(math.atan2(across, along), (ax, ay), end=(bx, by), mirrored=mirrored)


def _middle(ring: Ring) -> Vec2:
    spot = Polygon(ring).centroid
    return spot.x, spot.y


def _headings(ring: Ring, middle: Vec2) -> tuple[list[tuple[float, float]], list[tuple[float, float]]]:
    """Return reach and heading of each corner from the middle, and length and heading of each edge, counter-clockwise."""
    corners = [(math.dist(p, middle), math.atan2(p[1] - middle[1], p[0] - middle[0])) for p in ring]
    edges = [(math.dist(p, q), math.atan2(q[1] - p[1], q[0] - p[0])) for p, q in zip(ring, (*ring[1:], ring[0]), strict=True)]
    return corners, edges


def _turns(some: list[tuple[float, float]], others: list[tuple[float, float]], *, reach: Mm) -> list[float]:
    """Return the turns that bring the longest of some onto those of the others that are as long."""
    longest, heading = max(some)
    alike = [h for size, h in others if abs(size - longest) <= 2 * reach]
    step = max(1, len(alike) // TRIED_MOST)
    return [h - heading for h in alike[::step]]


def coverings(some: Ring, other: Ring, *, mirrored: bool, reach: Mm) -> list[Rigid]:
    """Return the moves that lay one outline on the other with no point farther off than `reach` [mm]; none when they differ.

    Args:
        mirrored: whether the first is turned over
    """
    a: Ring = tuple((-x, y) for x, y in reversed(some)) if mirrored else some
    if area_of(a) * area_of(other) <= 0:
        a = tuple(reversed(a))
    around = Polygon(other).length
    if abs(Polygon(a).length - around) > 0.02 * around or abs(abs(area_of(a)) - abs(area_of(other))) > 2 * reach * around:
        return []
    here, there = _middle(a), _middle(other)
    (corners_a, edges_a), (corners_b, edges_b) = _headings(a, here), _headings(other, there)
    turns = [*_turns(edges_a, edges_b, reach=reach), *_turns(corners_a, corners_b, reach=reach)]
    found: list[Rigid] = []
    for turn in turns:
        move = about(turn, here, end=there)
        if any(math.dist(move.direction((1.0, 0.0)), f.direction((-1.0 if mirrored else 1.0, 0.0))) < 1e-4 for f in found):
            continue
        laid = [(tuple(map(move, a)), True)]
        if lines_within(laid, [(other, True)], reach=reach):
            found.append(Rigid(cos=move.cos, sin=move.sin, x=move.x, y=move.y, mirrored=mirrored))
    return found
