"""Profiles: the outline and holes of a flat part as plain values.

Ring      a closed row of points, the first not repeated at the end
Profile   an outer ring (counter-clockwise) and holes (clockwise), with the circles that its points came from

Circles are kept beside the points, so that files can have true arcs again after any number of cuts (see `contours`).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from notchcore.geom.planar import BaseGeometry, LinearRing, LineString, Point, Polygon, merged, points_of, polygon_from, turns_left
from notchcore.geom.vectors import Vec2
from notchcore.tolerance import ARC_SAG
from notchcore.units import Mm

Ring = tuple[Vec2, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Circle:
    """A full circle that some edges of a profile lie on [mm]."""

    x: Mm
    y: Mm
    radius: Mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Profile:
    """Outline and holes of a flat part [mm], x right, y up."""

    outer: Ring
    holes: tuple[Ring, ...] = ()
    circles: tuple[Circle, ...] = ()


def circle_ring(circle: Circle, *, sag: Mm = ARC_SAG) -> Ring:
    """Return points on the circle, counter-clockwise, with chords at most `sag` from it; a multiple of four."""
    step = math.acos(max(1 - sag / circle.radius, 0.0))
    count = max(12, 4 * math.ceil(2 * math.pi / (2 * step) / 4))
    return tuple(
        (circle.x + circle.radius * math.cos(2 * math.pi * i / count), circle.y + circle.radius * math.sin(2 * math.pi * i / count)) for i in range(count)
    )


def rectangle(x0: Mm, y0: Mm, *, x1: Mm, y1: Mm) -> Profile:
    """Return a rectangle from its lower left to its upper right corner [mm]."""
    return Profile(outer=((x0, y0), (x1, y0), (x1, y1), (x0, y1)))


def polygon_of(profile: Profile) -> Polygon:
    """Return a profile as a polygon; arcs are chords in both."""
    return polygon_from(profile.outer, profile.holes)


def ring_of(ring: LinearRing) -> Ring:
    """Return the corners of a ring, the first one not again at the end."""
    points = points_of(ring)
    return tuple(points[:-1] if len(points) > 1 and points[0] == points[-1] else points)


def profile_of(polygon: Polygon, *, circles: tuple[Circle, ...] = ()) -> Profile:
    """Return the value of a polygon, turned so that the outer ring is counter-clockwise."""
    outer: LinearRing = polygon.exterior
    holes: list[LinearRing] = list(polygon.interiors)
    return Profile(
        outer=ring_of(outer if turns_left(outer) else outer.reverse()),
        holes=tuple(ring_of(h.reverse() if turns_left(h) else h) for h in holes),
        circles=circles,
    )


def bounds_of(ring: Ring) -> tuple[Mm, Mm, Mm, Mm]:
    """Return the box around a ring: x0, y0, x1, y1 [mm]."""
    xs, ys = [p[0] for p in ring], [p[1] for p in ring]
    return min(xs), min(ys), max(xs), max(ys)


def area_of(ring: Ring) -> float:
    """Return the signed area [mm2], positive for counter-clockwise."""
    return math.fsum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, ring[1:] + ring[:1], strict=True)) / 2


def bridged(profile: Profile) -> Ring:
    """Return one ring that encloses the profile's area: each hole is reached by a bridge of no width, and left by it.

    An engraved area is what lies inside one closed line; this is how a letter with a hole becomes one. A bridge goes to the nearest
    corner on its right to which no other hole stands in its way.
    """
    ring = list(profile.outer)
    crowded = len(profile.holes) > 1
    edges = merged(LinearRing(r) for r in (profile.outer, *profile.holes)) if crowded else None
    for hole in sorted(profile.holes, key=lambda h: max(p[0] for p in h), reverse=True):
        start = max(range(len(hole)), key=lambda i: hole[i])
        turned = [*hole[start:], *hole[: start + 1]]
        near = min(range(len(ring)), key=lambda i: (ring[i][0] < turned[0][0], math.dist(ring[i], turned[0])))
        if edges is not None and _leads_across(turned[0], ring[near], edges=edges):
            nearest = sorted(range(len(ring)), key=lambda i: math.dist(ring[i], turned[0]))
            near = next((i for i in nearest if not _leads_across(turned[0], ring[i], edges=edges)), near)
        ring[near : near + 1] = [ring[near], *turned, ring[near]]
    return tuple(ring)


def _leads_across(start: Vec2, end: Vec2, *, edges: BaseGeometry) -> bool:
    """Tell whether a bridge touches an edge anywhere but at its ends."""
    met = LineString([start, end]).intersection(edges)
    return bool(met.length > 1e-9 or any(min(p.distance(Point(start)), p.distance(Point(end))) > 1e-9 for p in getattr(met, "geoms", [met])))


def net_area(profile: Profile) -> float:
    """Return the area of the outline without its holes [mm2]."""
    return abs(area_of(profile.outer)) - sum(abs(area_of(h)) for h in profile.holes)
