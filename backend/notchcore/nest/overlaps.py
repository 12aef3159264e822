"""Two shapes, compiled: do they overlap, and by how much.

All shapes lie flat in a few arrays (see `Shapes`), so that one kernel serves whole sheets, offcuts, defects and holes:
whatever nothing may lie on is an item that does not move. The measure of an overlap is that of inscribed circles with a
hyperbolic decay, so that it tells which way is out even when one lies in the other.
"""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from notchcore.geom.compiled import compiled

TOUCH = 1e-4  # [mm] what overlaps by less touches
JITTER_X, JITTER_Y = 1.3719e-5, -0.7793e-5  # aligned edges and shared corners never hide a crossing
DISCS = 16  # circles of a shape, filled up with such of no size
UNSURE = 2e-3  # [mm] short numbers tell no overlap that is smaller


class Shapes(NamedTuple):
    """Every part kind in every turn, its lower left corner at 0, 0."""

    edges: Any  #: float (4, n): from x, y to x, y
    circles: Any  #: float (3, m): x, y, radius of circles inside
    discs: Any  #: short float (turned, 3, DISCS): the same circles, filled up
    spans: Any  #: int (turned, 4): first edge, end, first circle, end
    width: Any  #: float (turned)
    height: Any  #: float (turned)
    kind: Any  #: int (turned): the part kind
    size: Any  #: float (kinds): fourth root of the hull's area: larger parts matter more
    reach: Any  #: float (kinds): longer side
    first: Any  #: int (kinds): its first turned shape
    turns: Any  #: int (kinds): how many


@compiled
def holds(edges: Any, x: float, y: float) -> bool:
    """Tell whether a point lies inside, by counting the edges that cross the way to its left."""
    inside = False
    for k in range(edges.shape[1]):
        y1 = edges[1, k]
        y2 = edges[3, k]
        side = (edges[2, k] - edges[0, k]) * (y - y1) - (x - edges[0, k]) * (y2 - y1)
        inside ^= ((y1 > y) != (y2 > y)) & ((side > 0) == (y2 > y1))
    return inside


@compiled
def _discs_meet(one: Any, count: int, other: Any, dx: float, dy: float) -> bool:
    """Tell whether any discs overlap by so much that short numbers tell it for sure."""
    x0 = np.float32(dx)
    y0 = np.float32(dy)
    less = np.float32(UNSURE)
    none = np.float32(0.0)
    for i in range(count):
        x = one[0, i] - x0
        y = one[1, i] - y0
        r = one[2, i] - less
        met = False
        for j in range(DISCS):  # all of them: many at a time are quicker than one after the other
            ux = x - other[0, j]
            uy = y - other[1, j]
            both = r + other[2, j]
            both = both if both > none else none
            met |= ux * ux + uy * uy < both * both
        if met:
            return True
    return False


@compiled
def _edges_near(edges: Any, lx: float, hx: float, ly: float, hy: float, near: Any) -> int:
    """Write the edges that come into a box to `near`; return how many."""
    n = 0
    for k in range(edges.shape[1]):
        x1 = edges[0, k]
        y1 = edges[1, k]
        x2 = edges[2, k]
        y2 = edges[3, k]
        near[0, n] = x1
        near[1, n] = y1
        near[2, n] = x2
        near[3, n] = y2
        n += (min(x1, x2) <= hx) & (max(x1, x2) >= lx) & (min(y1, y2) <= hy) & (max(y1, y2) >= ly)
    return n


@compiled
def _edges_cross(near: Any, edges: Any, dx: float, dy: float, lx: float, hx: float, ly: float, hy: float) -> bool:
    """Tell whether any edge, moved by dx, dy, that comes into a box crosses one of those near."""
    for k in range(edges.shape[1]):
        cx = edges[0, k] + dx
        cy = edges[1, k] + dy
        ex = edges[2, k] + dx
        ey = edges[3, k] + dy
        if min(cx, ex) > hx or max(cx, ex) < lx or min(cy, ey) > hy or max(cy, ey) < ly:
            continue
        vx = ex - cx
        vy = ey - cy
        crossed = False
        for q in range(near.shape[1]):  # all of them: many at a time are quicker than one after the other
            ax = near[0, q]
            ay = near[1, q]
            wx = near[2, q] - ax
            wy = near[3, q] - ay
            from_a = vx * (ay - cy) - vy * (ax - cx) > 0
            from_b = vx * (near[3, q] - cy) - vy * (near[2, q] - cx) > 0
            from_c = wx * (cy - ay) - wy * (cx - ax) > 0
            from_e = wx * (ey - ay) - wy * (ex - ax) > 0
            crossed |= (from_a != from_b) & (from_c != from_e)
        if crossed:
            return True
    return False


@compiled
def overlap(shapes: Shapes, a: int, b: int, dx: float, dy: float, near: Any) -> bool:
    """Tell whether turned shape a at 0, 0 overlaps turned shape b at dx, dy.

    Boxes, then circles, edges clipped to the common box (half-open crossings), and at last one inside the other.
    """
    dx += JITTER_X
    dy += JITTER_Y
    lx = max(0.0, dx)
    hx = min(shapes.width[a], dx + shapes.width[b])
    ly = max(0.0, dy)
    hy = min(shapes.height[a], dy + shapes.height[b])
    if hx - lx <= TOUCH or hy - ly <= TOUCH:
        return False
    if _discs_meet(shapes.discs[a], shapes.spans[a, 3] - shapes.spans[a, 2], shapes.discs[b], dx, dy):
        return True
    edges_a = shapes.edges[:, shapes.spans[a, 0] : shapes.spans[a, 1]]
    edges_b = shapes.edges[:, shapes.spans[b, 0] : shapes.spans[b, 1]]
    n = _edges_near(edges_a, lx, hx, ly, hy, near)
    if n > 0 and _edges_cross(near[:, :n], edges_b, dx, dy, lx, hx, ly, hy):
        return True
    # no edges cross: they are apart, unless all of one lies in the other
    bx = dx + shapes.width[b]
    by = dy + shapes.height[b]
    if dx >= 0 and dy >= 0 and bx <= shapes.width[a] and by <= shapes.height[a]:
        i = shapes.spans[b, 2]
        return holds(edges_a, shapes.circles[0, i] + dx, shapes.circles[1, i] + dy)
    if dx <= 0 and dy <= 0 and bx >= shapes.width[a] and by >= shapes.height[a]:
        i = shapes.spans[a, 2]
        return holds(edges_b, shapes.circles[0, i] - dx, shapes.circles[1, i] - dy)
    return False


@compiled
def _depth(one: Any, count: int, other: Any, dx: float, dy: float, eps: float, enough: float) -> Any:
    """Return how deep the discs of two shapes lie in each other, weighted by the smaller of each pair; ends when it is enough."""
    x0 = np.float32(dx)
    y0 = np.float32(dy)
    near = np.float32(eps)
    twice = np.float32(2 * eps)
    squared = np.float32(eps * eps)
    total = 0.0
    for i in range(count):
        x = one[0, i] - x0
        y = one[1, i] - y0
        r = one[2, i]
        row = np.float32(0.0)
        for j in range(DISCS):
            ux = x - other[0, j]
            uy = y - other[1, j]
            s = other[2, j]
            d = r + s - np.sqrt(ux * ux + uy * uy)
            decayed = d if d >= near else squared / (twice - d)
            row += decayed * (r if r < s else s)
        total += np.float64(row) * math.pi
        if total >= enough:
            break
    return total


@compiled
def pair_loss(shapes: Shapes, a: int, b: int, dx: float, dy: float, enough: float, near: Any) -> Any:
    """Return the measure of the overlap of two turned shapes, or at least `enough` when it is more; 0 when there is none."""
    if not overlap(shapes, a, b, dx, dy, near):
        return 0.0
    ka = shapes.kind[a]
    kb = shapes.kind[b]
    eps = 0.01 * max(shapes.reach[ka], shapes.reach[kb])
    size = shapes.size[ka] * shapes.size[kb]
    least = enough / size
    deep = _depth(shapes.discs[a], shapes.spans[a, 3] - shapes.spans[a, 2], shapes.discs[b], dx, dy, eps, least * least)
    return math.sqrt(deep + eps * eps * 0.01) * size
