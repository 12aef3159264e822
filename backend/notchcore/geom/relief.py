"""Relief holes: round overcuts in sharp inner corners, so that brittle sheets do not crack there."""

from __future__ import annotations

import math

from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from notchcore.geom.planar import merged, pieces
from notchcore.geom.profile import Circle, Ring, circle_ring, ring_of
from notchcore.units import Mm

SHARP = math.sin(math.radians(40))  # a corner that turns less than this is no crack's beginning


def inner_corners(ring: Ring, radius: Mm) -> list[Circle]:
    """Return a circle for every sharp inner corner of a ring that has its material on the left.

    Each circle passes through its corner and lies in the opening, so a square corner of the mate still goes in. Corners
    whose edges are shorter than the circle are left alone.
    """
    found = []
    for i, corner in enumerate(ring):
        before, after = ring[i - 1], ring[(i + 1) % len(ring)]
        b, a = math.dist(before, corner), math.dist(after, corner)
        if min(a, b) < 2 * radius:
            continue
        d1 = ((before[0] - corner[0]) / b, (before[1] - corner[1]) / b)
        d2 = ((after[0] - corner[0]) / a, (after[1] - corner[1]) / a)
        turn = -d1[0] * d2[1] + d1[1] * d2[0]
        length = math.hypot(d1[0] + d2[0], d1[1] + d2[1])
        if turn < -SHARP and length > 1e-9:
            k = radius / length
            found.append(Circle(x=corner[0] + (d1[0] + d2[0]) * k, y=corner[1] + (d1[1] + d2[1]) * k, radius=radius))
    return found


def relieved(shape: Polygon, radius: Mm) -> tuple[Polygon, tuple[Circle, ...]]:
    """Return the shape with a round hole in each sharp inner corner, and the circles of those holes."""
    turned = orient(shape, 1.0)
    circles = [c for r in (turned.exterior, *turned.interiors) for c in inner_corners(ring_of(r), radius)]
    left = shape.difference(merged([Polygon(circle_ring(c)) for c in circles])) if circles else shape
    return max(pieces(left), key=lambda p: p.area), tuple(circles)
