"""What `prisms` does over and over, as compiled loops over flat arrays.

Prisms   a slab cut into convex pieces: trapezoids of its outline, as thick as the sheet
Axes     two convex bodies are apart exactly when a plane square to a face normal or to a cross product of edges parts them. "A moved by v
         overlaps B" is therefore, per pair of prisms, a convex set lo < n . v < hi over these axes n: every question is a ray through it.
"""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from notchcore.geom.compiled import compiled

MOST_AXES = 30
NEVER = 1e9  # [mm] a way that nothing ends


class Prisms(NamedTuple):
    """A part made of convex prisms, in space [mm]."""

    corners: Any  #: float (prisms, 8, 3): around the lower face, then the upper
    boxes: Any  #: float (prisms, 6): least x, y, z, greatest x, y, z
    edges: Any  #: float (prisms, 3, 3): directions of a trapezoid's parallel sides and of its two others
    square: Any  #: bool (prisms): a rectangle
    frame: Any  #: float (3, 3): the slab's own x, y and normal
    box: Any  #: float (6): around all


@compiled
def _axes(a: Prisms, i: int, b: Prisms, j: int, aligned: bool, normals: Any, low: Any, high: Any) -> int:
    """Fill in the axes that can part two prisms and how far A may go along each until they touch; return their number."""
    for k in range(3):
        normals[k] = a.frame[k]
    n = 3
    if not (aligned and a.square[i] and b.square[j]):
        for e in range(1, 3):
            normals[n] = np.cross(a.edges[i, e], a.frame[2])
            n += 1
        for e in range(0, 3, 2):
            normals[n] = b.frame[e]
            n += 1
        for e in range(1, 3):
            normals[n] = np.cross(b.edges[j, e], b.frame[2])
            n += 1
        for p in range(4):
            u = a.frame[2] if p == 3 else a.edges[i, p]
            for q in range(4):
                w = b.frame[2] if q == 3 else b.edges[j, q]
                square = np.cross(u, w)
                m = math.sqrt((square * square).sum())
                if m > 1e-6:
                    normals[n] = square / m
                    n += 1
    for k in range(n):
        a0, a1, b0, b1 = 1e18, -1e18, 1e18, -1e18
        for v in range(8):
            s = a.corners[i, v, 0] * normals[k, 0] + a.corners[i, v, 1] * normals[k, 1] + a.corners[i, v, 2] * normals[k, 2]
            a0, a1 = min(a0, s), max(a1, s)
            s = b.corners[j, v, 0] * normals[k, 0] + b.corners[j, v, 1] * normals[k, 1] + b.corners[j, v, 2] * normals[k, 2]
            b0, b1 = min(b0, s), max(b1, s)
        low[k], high[k] = b0 - a1, b1 - a0
    return n


@compiled
def travel(a: Prisms, b: Prisms, aligned: bool, start: Any, d: Any, longest: float, let: float) -> float:
    """Return how far A, moved by `start` already, goes along d before it hits B [mm]; `longest` where it does not.

    Args:
        let: overlaps up to this count as touching [mm]
    """
    best = longest
    normals, low, high = np.empty((MOST_AXES, 3)), np.empty(MOST_AXES), np.empty(MOST_AXES)
    for i in range(len(a.corners)):
        near = True
        for k in range(3):
            p, q = start[k] + min(0.0, d[k] * best), start[k] + max(0.0, d[k] * best)
            if a.boxes[i, k] + p >= b.box[k + 3] - let or a.boxes[i, k + 3] + q <= b.box[k] + let:
                near = False
        if not near:
            continue
        for j in range(len(b.corners)):
            near = True
            for k in range(3):
                p, q = start[k] + min(0.0, d[k] * best), start[k] + max(0.0, d[k] * best)
                if a.boxes[i, k] + p >= b.boxes[j, k + 3] - let or a.boxes[i, k + 3] + q <= b.boxes[j, k] + let:
                    near = False
            if not near:
                continue
            n = _axes(a, i, b, j, aligned, normals, low, high)
            s0, s1 = 0.0, best
            for k in range(n):
                m = normals[k, 0] * d[0] + normals[k, 1] * d[1] + normals[k, 2] * d[2]
                c = normals[k, 0] * start[0] + normals[k, 1] * start[1] + normals[k, 2] * start[2]
                least, most = low[k] + let - c, high[k] - let - c
                if abs(m) < 1e-9:
                    if least >= 0 or most <= 0:
                        s1 = -1.0
                        break
                else:
                    s0, s1 = max(s0, min(least / m, most / m)), min(s1, max(least / m, most / m))
            if s1 - s0 > 1e-9:
                best = s0
    return best


@compiled
def barred(  # noqa: C901, PLR0912  (one loop over rows: calls would cost more than they say)
    a: Prisms, b: Prisms, aligned: bool, d1: Any, d2: Any, longest: float, let: float, out: Any
) -> int:
    """Fill in ranges of s in which A, moved s along d1, does not get away along d2 past B; return their number.

    The pair's convex sets are cut by the plane of d1 and d2, and the way along d2 is removed (Fourier and Motzkin).
    """
    count = 0
    normals, low, high = np.empty((MOST_AXES, 3)), np.empty(MOST_AXES), np.empty(MOST_AXES)
    rows = np.empty((2 * MOST_AXES + 2, 3))
    for i in range(len(a.corners)):
        for j in range(len(b.corners)):
            near = True
            for k in range(3):
                p = min(0.0, d1[k] * longest) + min(0.0, d2[k] * NEVER)
                q = max(0.0, d1[k] * longest) + max(0.0, d2[k] * NEVER)
                if a.boxes[i, k] + p >= b.boxes[j, k + 3] - let or a.boxes[i, k + 3] + q <= b.boxes[j, k] + let:
                    near = False
            if not near:
                continue
            n = _axes(a, i, b, j, aligned, normals, low, high)
            s0, s1, m = 0.0, longest, 0
            for k in range(n):
                u, v = (normals[k] * d1).sum(), (normals[k] * d2).sum()
                rows[m, 0], rows[m, 1], rows[m, 2] = u, v, high[k] - let
                rows[m + 1, 0], rows[m + 1, 1], rows[m + 1, 2] = -u, -v, -(low[k] + let)
                m += 2
            rows[m, 0], rows[m, 1], rows[m, 2] = 0.0, -1.0, 0.0
            m += 1
            for p in range(m):
                for q in range(m):
                    if abs(rows[p, 1]) < 1e-9:
                        if q:
                            break
                        x, c = rows[p, 0], rows[p, 2]
                    elif rows[p, 1] > 0 and rows[q, 1] < -1e-9:
                        x = rows[p, 0] / rows[p, 1] - rows[q, 0] / rows[q, 1]
                        c = rows[p, 2] / rows[p, 1] - rows[q, 2] / rows[q, 1]
                    else:
                        continue
                    if abs(x) < 1e-12:
                        if c <= 0:
                            s1 = -1.0
                    elif x > 0:
                        s1 = min(s1, c / x)
                    else:
                        s0 = max(s0, c / x)
                if s1 < s0:
                    break
            if s1 - s0 > 1e-9 and count < len(out):
                out[count, 0], out[count, 1] = s0, s1
                count += 1
    return count


@compiled
def _boxes_meet(a: Prisms, i: int, b: Prisms, j: int, reach: float) -> bool:
    for k in range(3):
        if a.boxes[i, k] > b.boxes[j, k + 3] + reach or a.boxes[i, k + 3] < b.boxes[j, k] - reach:
            return False
    return True


@compiled
def depth(a: Prisms, b: Prisms, aligned: bool) -> float:
    """Return how deep two parts lie in each other at most [mm], per pair of prisms along the axis in which they part first; 0: they do not."""
    deepest = 0.0
    normals, low, high = np.empty((MOST_AXES, 3)), np.empty(MOST_AXES), np.empty(MOST_AXES)
    for i in range(len(a.corners)):
        for j in range(len(b.corners)):
            if not _boxes_meet(a, i, b, j, 0.0):
                continue
            least = 1e18
            for k in range(_axes(a, i, b, j, aligned, normals, low, high)):
                least = min(least, -low[k], high[k])
            deepest = max(deepest, least)
    return deepest


@compiled
def touching(a: Prisms, b: Prisms, aligned: bool, near_by: float, out: Any) -> int:
    """Fill in, for pairs of prisms that touch along one axis only: the axis, pointing from B to A, and both numbers; return how many."""
    count = 0
    normals, low, high = np.empty((MOST_AXES, 3)), np.empty(MOST_AXES), np.empty(MOST_AXES)
    for i in range(len(a.corners)):
        for j in range(len(b.corners)):
            if not _boxes_meet(a, i, b, j, near_by):
                continue
            touches, at, way = 0, 0, 1.0
            for k in range(_axes(a, i, b, j, aligned, normals, low, high)):
                if low[k] > near_by or high[k] < -near_by:
                    touches = 99
                    break
                if abs(low[k]) <= near_by or abs(high[k]) <= near_by:
                    same = touches == 1 and abs(abs((normals[k] * normals[at]).sum()) - 1.0) < 1e-6
                    if not same:
                        touches += 1
                        at, way = k, (1.0 if abs(high[k]) <= near_by else -1.0)
            if touches == 1 and count < len(out):
                for k in range(3):
                    out[count, k] = normals[at, k] * way
                out[count, 3], out[count, 4] = i, j
                count += 1
    return count
