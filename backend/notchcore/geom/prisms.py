"""Slabs as convex prisms, and what two of them ask of each other: how far one goes before it hits the other, and where they touch."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from typing import Any

import numpy as np
from shapely.geometry import MultiPoint

from notchcore.geom import prismkernels as kernels
from notchcore.geom.planar import Polygon
from notchcore.geom.prismkernels import NEVER, Prisms
from notchcore.geom.profile import polygon_of, rectangle
from notchcore.geom.slab import Pose, Slab
from notchcore.geom.vectors import Vec3
from notchcore.tolerance import COINCIDENT, SHRINK
from notchcore.units import Mm

LET: Mm = 2 * SHRINK  # overlaps up to this count as touching
COARSE: Mm = SHRINK / 2  # outlines are made this much plainer first: curves come as very many corners
NEAR: Mm = 3 * COINCIDENT
MOST_BARS, MOST_CONTACTS = 200_000, 5000
TURNS = 1e-6  # a turn below this is float noise
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


def turned(body: Prisms, point: Vec3, *, axis: Vec3, angle: float) -> Prisms:
    """Return a body turned about a line by an angle [radians], counter-clockwise seen against the axis (Rodrigues)."""
    u = np.array(axis, float)
    cross = np.array([[0, -u[2], u[1]], [u[2], 0, -u[0]], [-u[1], u[0], 0]])
    turn = np.eye(3) + np.sin(angle) * cross + (1 - np.cos(angle)) * (cross @ cross)
    o = np.array(point, float)
    return _at((body.corners - o) @ turn.T + o, body.frame @ turn.T)


def aligned(a: Prisms, b: Prisms) -> bool:
    """Tell whether two slabs lie square to each other in all directions."""
    return bool((np.abs(np.abs(a.frame @ b.frame.T).max(1) - 1) < 1e-9).all())


def span_along(body: Prisms, others: list[Prisms], *, d: Vec3) -> Mm:
    """Return how far a body has to go along a direction to be beyond all others [mm]."""
    far = 0.0
    for k in range(3):
        if abs(d[k]) > 1e-9:
            low, high = min(float(b.box[k]) for b in others), max(float(b.box[k + 3]) for b in others)
            far = max(far, (high - float(body.box[k]) if d[k] > 0 else float(body.box[k + 3]) - low) / abs(d[k]))
    return far


def reach_of(bodies: list[Prisms]) -> Mm:
    """Return twice the diagonal of the box around bodies [mm]: farther than any of them has to go to be beyond the others."""
    low = np.min([b.box[:3] for b in bodies], axis=0)
    high = np.max([b.box[3:] for b in bodies], axis=0)
    return 2.0 * float(np.linalg.norm(high - low))


def axes_of(body: Prisms) -> list[Vec3]:
    """Return the directions of a slab's own plane and its normal."""
    return [(float(x), float(y), float(z)) for x, y, z in body.frame]


def barred(a: Prisms, b: Prisms, *, d1: Vec3, d2: Vec3, longest: Mm, square: bool) -> tuple[Span, ...]:
    """Return the ranges of s, in order, in which A, moved s along d1, does not get away along d2 past B.

    Ranges that only meet stay apart: between them is an exact fit.
    """
    out = np.empty((MOST_BARS, 2))
    n = kernels.barred(a, b, square, np.array(d1), np.array(d2), longest, LET, out)
    merged: list[Span] = []
    for low, high in sorted((float(p), float(q)) for p, q in out[:n]):
        if merged and low <= merged[-1][1]:
            merged[-1] = (merged[-1][0], max(merged[-1][1], high))
        else:
            merged.append((low, high))
    return tuple(merged)


def way(a: Prisms, b: Prisms, *, d: Vec3, start: Vec3 = (0.0, 0.0, 0.0), square: bool = False, let: Mm = LET) -> Mm:
    """Return how far A, moved by `start`, goes along d before it hits B; NEVER where it does not."""
    for k in range(3):
        low = a.box[k] + start[k] + (-NEVER if d[k] < -1e-12 else 0.0)
        high = a.box[k + 3] + start[k] + (NEVER if d[k] > 1e-12 else 0.0)
        if low >= b.box[k + 3] - let or high <= b.box[k] + let:
            return NEVER
    return float(kernels.travel(a, b, square, np.array(start, float), np.array(d, float), NEVER, let))


def deep(a: Prisms, b: Prisms) -> Mm:
    """Return how deep two bodies lie in each other."""
    return float(kernels.depth(a, b, False))


def free_turn(body: Prisms, others: list[Prisms], *, floor: Mm) -> Vec3 | None:
    """Return an axis about which a body turns although it touches others and stands on a floor; None where nothing of it turns.

    At every corner of every patch where faces touch, n . (v + w x p) >= 0 must hold; a linear programme looks for the largest w.
    """
    from scipy.optimize import linprog

    rows = _contact_rows(body, others, floor=floor)
    if not len(rows):
        return (1.0, 0.0, 0.0)
    for k in (3, 4, 5):
        for sign in (1.0, -1.0):
            wanted = np.zeros(6)
            wanted[k] = -sign
            found = linprog(wanted, A_ub=-rows, b_ub=np.zeros(len(rows)), bounds=[(-1, 1)] * 6)
            if found.status == 0 and -found.fun > TURNS:
                w = found.x[3:] / np.linalg.norm(found.x[3:])
                return (float(w[0]), float(w[1]), float(w[2]))
    return None


def _contact_rows(body: Prisms, others: list[Prisms], *, floor: Mm) -> Any:
    """Return one row a contact corner: n, then p x n about the body's middle [mm as parts of its size]."""
    middle = (body.box[:3] + body.box[3:]) / 2
    size = float(np.linalg.norm(body.box[3:] - body.box[:3])) or 1.0
    rows = set()
    for other in others:
        out = np.empty((MOST_CONTACTS, 5))
        for row in out[: kernels.touching(body, other, aligned(body, other), NEAR, out)]:
            n = row[:3]
            for p in _patch(body.corners[int(row[3])], other.corners[int(row[4])], n=n):
                rows.add(tuple(np.round([*n, *np.cross((p - middle) / size, n)], 6)))
    for corner in body.corners.reshape(-1, 3):
        if corner[2] < floor + NEAR:
            rows.add(tuple(np.round([0, 0, 1, *np.cross((corner - middle) / size, (0, 0, 1))], 6)))
    return np.array(sorted(rows)).reshape(-1, 6)


def _patch(mine: Any, other: Any, *, n: Any) -> list[Any]:
    """Return the corners of the face that two prisms share."""
    u = np.cross(n, (1.0, 0.0, 0.0) if abs(n[0]) < 0.9 else (0.0, 1.0, 0.0))
    u /= np.linalg.norm(u)
    v = np.cross(n, u)
    level = float((mine @ n).min())
    faces = []
    for corners, along in ((mine, mine @ n), (other, -(other @ n))):
        flat = corners[along < along.min() + NEAR]
        faces.append(MultiPoint([(float(p @ u), float(p @ v)) for p in flat]).convex_hull)
    shared = faces[0].intersection(faces[1])
    if shared.geom_type != "Polygon" or shared.area < NEAR:
        return []
    return [u * x + v * y + n * level for x, y in list(shared.exterior.coords)[:-1]]


def warm() -> None:
    """Compile what is compiled, on two small plates."""
    flat = Slab(profile=rectangle(0, 0, x1=10, y1=10), pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)), low=0, high=3)
    a, b = prisms_of(flat), prisms_of(replace(flat, low=3, high=6))
    way(a, b, d=(0.0, 0.0, 1.0))
    deep(a, b)
    barred(a, b, d1=(0.0, 0.0, 1.0), d2=(1.0, 0.0, 0.0), longest=10.0, square=True)
    free_turn(a, [b], floor=0.0)
