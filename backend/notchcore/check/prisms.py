"""Parts as convex prisms, and what they ask of each other: how far one goes before it hits another, and where they touch.

Everything runs on nominal geometry; overlaps of two hairs count as touching (see `blocking`, which answers for single straight moves
that never end and is the quicker one for those).
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from itertools import pairwise
from typing import Any

import numpy as np

from notchcore.check import prismkernels as kernels
from notchcore.check.prismkernels import NEVER, Prisms
from notchcore.design.assembly import Part
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import polygon_of
from notchcore.geom.slab import Slab
from notchcore.geom.vectors import Vec3
from notchcore.tolerance import COINCIDENT, SHRINK
from notchcore.units import Mm

LET: Mm = 2 * SHRINK
COARSE: Mm = SHRINK / 2  # outlines are made this much plainer first: curves come as very many corners
MOST_BARS = 200_000
Span = tuple[float, float]


def trapezoids(shape: Polygon) -> list[tuple[float, float, float, float, float, float]]:
    """Cut a shape with holes at the x of its corners: x0, x1, then its lower side's y at both, and its upper side's. What goes on along the
    same two lines stays in one piece."""
    sides = []
    for ring in (shape.exterior, *shape.interiors):
        around = list(ring.coords)
        for p, q in pairwise(around):
            if abs(p[0] - q[0]) > 1e-9:
                (x0, y0), (x1, y1) = (p, q) if p[0] < q[0] else (q, p)
                k = (y1 - y0) / (x1 - x0)
                sides.append((x0, x1, k, y0 - k * x0))
    cuts = sorted({round(s[0], 7) for s in sides} | {round(s[1], 7) for s in sides})
    going: dict[tuple[float, ...], tuple[float, float, float, float, float, float]] = {}
    done: list[tuple[float, float, float, float, float, float]] = []
    for x0, x1 in pairwise(cuts):
        middle = (x0 + x1) / 2
        across = sorted((k * middle + c, k, c) for a, b, k, c in sides if a < middle < b)
        now = {}
        for (_, k0, c0), (_, k1, c1) in zip(across[::2], across[1::2], strict=True):
            key = tuple(round(v, 6) for v in (k0, c0, k1, c1))
            now[key] = (going[key][0] if key in going else x0, x1, k0, c0, k1, c1)
        done += [v for key, v in going.items() if key not in now]
        going = now
    done += going.values()
    return [(a, b, k0 * a + c0, k0 * b + c0, k1 * a + c1, k1 * b + c1) for a, b, k0, c0, k1, c1 in done]


def prisms_of(slab: Slab) -> Prisms:
    """Return a slab as convex prisms."""
    shape = polygon_of(slab.profile).simplify(COARSE)
    flat = [[(a, p), (b, q), (b, s), (a, r)] for a, b, p, q, r, s in trapezoids(shape)]
    frame = np.array([slab.pose.x, slab.pose.y, slab.pose.normal], float)
    local = np.array([[(*corner, h) for h in (slab.low, slab.high) for corner in f] for f in flat], float).reshape(-1, 8, 3)
    return _at(local @ frame + np.array(slab.pose.origin, float), frame)


def _at(corners: Any, frame: Any) -> Prisms:
    boxes = np.concatenate([corners.min(1), corners.max(1)], 1)
    edges = np.stack([corners[:, 3] - corners[:, 0], corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 3]], 1)
    length = np.linalg.norm(edges, axis=2, keepdims=True)
    edges = np.where(length > 1e-9, edges / np.maximum(length, 1e-12), frame[1])
    edges[:, 0] = frame[1]
    square = (np.abs(edges[:, 1:] @ frame[1]) < 1e-9).all(1)
    box = np.concatenate([boxes[:, :3].min(0), boxes[:, 3:].max(0)])
    return Prisms(np.ascontiguousarray(corners), np.ascontiguousarray(boxes), np.ascontiguousarray(edges), square, np.ascontiguousarray(frame), box)


def turned(body: Prisms, point: Vec3, axis: Vec3, angle: float) -> Prisms:
    """Return a body turned about a line by an angle [radians], counter-clockwise seen against the axis (Rodrigues)."""
    u = np.array(axis, float)
    cross = np.array([[0, -u[2], u[1]], [u[2], 0, -u[0]], [-u[1], u[0], 0]])
    turn = np.eye(3) + np.sin(angle) * cross + (1 - np.cos(angle)) * (cross @ cross)
    o = np.array(point, float)
    return _at((body.corners - o) @ turn.T + o, body.frame @ turn.T)


@dataclass
class Bodies:
    """Parts made ready; answers are remembered."""

    parts: tuple[Part, ...]
    bodies: list[Prisms] = field(init=False)
    _aligned: dict[tuple[int, int], bool] = field(default_factory=dict)
    _travels: dict[tuple[Any, ...], float] = field(default_factory=dict)
    _bars: dict[tuple[int, int, Vec3, Vec3], tuple[Span, ...]] = field(default_factory=dict)
    asked: int = 0  #: questions that had to be worked out

    def __post_init__(self) -> None:
        self.bodies = [prisms_of(p.slab(nominal=True)) for p in self.parts]

    def aligned(self, i: int, j: int) -> bool:
        """Tell whether two parts lie square to each other in all directions."""
        if (i, j) not in self._aligned:
            self._aligned[i, j] = self._aligned[j, i] = bool((np.abs(np.abs(self.bodies[i].frame @ self.bodies[j].frame.T).max(1) - 1) < 1e-9).all())
        return self._aligned[i, j]

    def travel(self, i: int, j: int, d: Vec3, start: Vec3 = (0.0, 0.0, 0.0)) -> Mm:
        """Return how far part i, moved by `start` already, goes along d before it hits part j; NEVER where it does not."""
        key = (i, j, d, *(round(v, 4) for v in start))
        if key not in self._travels:
            self.asked += 1
            self._travels[key] = way(self.bodies[i], self.bodies[j], d, start, aligned=self.aligned(i, j))
        return self._travels[key]

    def barred(self, i: int, j: int, d1: Vec3, d2: Vec3, longest: Mm) -> tuple[Span, ...]:
        """Return the ranges of s, in order, in which part i, moved s along d1, does not get away along d2 past part j.

        Ranges that only meet stay apart: between them is an exact fit.
        """
        key = (i, j, d1, d2)
        if key not in self._bars:
            self.asked += 1
            out = np.empty((MOST_BARS, 2))
            n = kernels.barred(self.bodies[i], self.bodies[j], self.aligned(i, j), np.array(d1), np.array(d2), longest, LET, out)
            merged: list[Span] = []
            for low, high in sorted(map(tuple, out[:n])):
                if merged and low <= merged[-1][1]:
                    merged[-1] = (merged[-1][0], max(merged[-1][1], high))
                else:
                    merged.append((low, high))
            self._bars[key] = tuple(merged)
        return self._bars[key]

    def contacts(self, i: int, j: int) -> list[tuple[Any, int, int]]:
        """Return where part i touches part j: the axis from j to i, and the numbers of both prisms."""
        out = np.empty((5000, 5))
        n = kernels.touching(self.bodies[i], self.bodies[j], self.aligned(i, j), 3 * COINCIDENT, out)
        return [(row[:3].copy(), int(row[3]), int(row[4])) for row in out[:n]]


def way(a: Prisms, b: Prisms, d: Vec3, start: Vec3 = (0.0, 0.0, 0.0), *, aligned: bool = False, let: Mm = LET) -> Mm:
    """Return how far A, moved by `start`, goes along d before it hits B; NEVER where it does not."""
    for k in range(3):
        low = a.box[k] + start[k] + (-NEVER if d[k] < -1e-12 else 0.0)
        high = a.box[k + 3] + start[k] + (NEVER if d[k] > 1e-12 else 0.0)
        if low >= b.box[k + 3] - let or high <= b.box[k] + let:
            return NEVER
    return float(kernels.travel(a, b, aligned, np.array(start, float), np.array(d, float), NEVER, let))


def deep(a: Prisms, b: Prisms) -> Mm:
    """Return how deep two bodies lie in each other."""
    return float(kernels.depth(a, b, False))


def warm() -> None:
    """Compile what is compiled, on two small plates."""
    from notchcore.geom.profile import rectangle
    from notchcore.geom.slab import Pose

    flat = Slab(profile=rectangle(0, 0, 10, 10), pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)), low=0, high=3)
    a, b = prisms_of(flat), prisms_of(replace(flat, low=3, high=6))
    way(a, b, (0.0, 0.0, 1.0))
    deep(a, b)
    up, side = np.array([0.0, 0.0, 1.0]), np.array([1.0, 0.0, 0.0])
    kernels.barred(a, b, True, up, side, 10.0, LET, np.empty((4, 2)))
    kernels.touching(a, b, True, COINCIDENT, np.empty((4, 5)))
