"""Parts as the kernels want them: grown by half the spacing, in all turns, flat, with circles inside."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from notchcore.geom.planar import Polygon, grown_outward, hull_area
from notchcore.nest.compiled import compiled
from notchcore.nest.kernels import Shapes, holds
from notchcore.units import Mm

MOST_CIRCLES = 16
COVERED = 0.9  # share of a shape's area that its circles may leave it at
SMALLEST = 0.12  # of the largest circle's radius
LEAST_HOLE = 4.0  # [mm2] a smaller hole holds nothing
FEW_CORNERS = 60  # outlines with more are simplified outwards,
FINE: Mm = 0.05  # by no more than this,
COARSE: Mm = 0.2  # or, when they have very many corners, than this
MANY_CORNERS = 70


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """A part kind as given, or something that does not move."""

    shape: Polygon
    turns: Sequence[float] = (0.0,)  #: degrees
    mirrored: Sequence[bool] = (False,)  #: whether it may lie on its front, on its back
    fixed: bool = False  #: taken as it is, not grown


@dataclass(frozen=True, slots=True, kw_only=True)
class Prepared:
    """Flat arrays, and what leads back from them to the parts."""

    shapes: Shapes
    corner: Any  #: float (turned, 2): lower left corner of the turned, grown shape as seen from the part's origin
    degrees: Any  #: float (turned)
    mirrored: Any  #: bool (turned): before it is turned
    area: Any  #: float (kinds): of the part as given, holes taken off
    hull: Any  #: float (kinds)


@compiled
def circles_in(edges: Any, x0: float, y0: float, x1: float, y1: float, area: float, length: float, most: int) -> Any:
    """Return circles inside a shape, the largest first, none of them mostly in another: (3, n)."""
    step = math.sqrt((x1 - x0) * (y1 - y0) / 2500.0)
    step = min(step, max(area / length / 1.5, step / 4.0))
    nx = max(int((x1 - x0) / step), 1)
    ny = max(int((y1 - y0) / step), 1)
    xs = np.zeros(nx * ny + 1)
    ys = np.zeros(nx * ny + 1)
    room = np.zeros(nx * ny + 1)
    n = 0
    for a in range(nx):
        for b in range(ny):
            x = x0 + (a + 0.5) * (x1 - x0) / nx
            y = y0 + (b + 0.5) * (y1 - y0) / ny
            if not holds(edges, 0, len(edges), x, y):
                continue
            least = 1e300
            for k in range(len(edges)):
                px = edges[k, 0]
                py = edges[k, 1]
                ux = edges[k, 2] - px
                uy = edges[k, 3] - py
                t = min(max(((x - px) * ux + (y - py) * uy) / max(ux * ux + uy * uy, 1e-18), 0.0), 1.0)
                dx = x - px - t * ux
                dy = y - py - t * uy
                least = min(least, dx * dx + dy * dy)
            xs[n] = x
            ys[n] = y
            room[n] = math.sqrt(least)
            n += 1
    found = np.zeros((3, most))
    if n == 0:  # thinner than the raster: the middle of its longest edge serves as a mark of where it is
        k = 0
        for q in range(len(edges)):
            if math.hypot(edges[q, 2] - edges[q, 0], edges[q, 3] - edges[q, 1]) > math.hypot(edges[k, 2] - edges[k, 0], edges[k, 3] - edges[k, 1]):
                k = q
        found[0, 0] = 0.5 * (edges[k, 0] + edges[k, 2])
        found[1, 0] = 0.5 * (edges[k, 1] + edges[k, 3])
        found[2, 0] = 1e-3
        return found[:, :1]
    made = 0
    covered = 0.0
    while made < most:
        best = 0
        for i in range(n):
            if room[i] > room[best]:
                best = i
        r = room[best]
        if r <= 0 or (made > 0 and r < SMALLEST * found[2, 0]):
            break
        found[0, made] = xs[best]
        found[1, made] = ys[best]
        found[2, made] = r
        made += 1
        covered += math.pi * r * r
        if covered > COVERED * area:
            break
        for i in range(n):
            room[i] = min(room[i], math.hypot(xs[i] - found[0, made - 1], ys[i] - found[1, made - 1]) - r)
    return found[:, : max(made, 1)]


def _edges(rings: Sequence[Any]) -> Any:
    return np.concatenate([np.concatenate([ring, np.roll(ring, -1, axis=0)], axis=1) for ring in rings])


def _lying(points: Any, degrees: float, *, mirrored: bool) -> Any:
    if mirrored:
        points = points * (-1.0, 1.0)
    a = math.radians(degrees)
    cos, sin = (round(math.cos(a)), round(math.sin(a))) if degrees % 90 == 0 else (math.cos(a), math.sin(a))
    return np.stack([points[:, 0] * cos - points[:, 1] * sin, points[:, 0] * sin + points[:, 1] * cos], axis=1)


def _rings(wanted: Wanted, spacing: Mm) -> list[Any]:
    if wanted.fixed or spacing <= 0:
        shape = wanted.shape
    else:
        shape = grown_outward(wanted.shape, spacing / 2, 0.0)  # exact: what fits exactly is found
        if (corners := len(shape.exterior.coords)) > FEW_CORNERS:
            shape = grown_outward(wanted.shape, spacing / 2, FINE if corners < MANY_CORNERS else COARSE)
    holes = [h for h in shape.interiors if Polygon(h).area > LEAST_HOLE]
    return [np.array(ring.coords)[:-1] for ring in (shape.exterior, *holes)]


def prepared(kinds: Sequence[Wanted], spacing: Mm) -> Prepared:
    """Return part kinds in flat arrays."""
    edges: list[Any] = []
    circles: list[Any] = []
    spans: list[tuple[int, int, int, int]] = []
    boxes, corners, degrees, backs, kind_of = [], [], [], [], []
    first, turns, hulls = [], [], []
    edge, circle = 0, 0
    for k, wanted in enumerate(kinds):
        rings = _rings(wanted, spacing)
        outline = np.concatenate(rings)
        whole = _edges(rings)
        (x0, y0), (x1, y1) = outline.min(axis=0), outline.max(axis=0)
        grown = Polygon(rings[0], rings[1:])
        inside = circles_in(whole, x0, y0, x1, y1, grown.area, grown.length, MOST_CIRCLES)
        first.append(len(spans))
        ways = [(d, m) for m in wanted.mirrored for d in wanted.turns]
        turns.append(len(ways))
        hulls.append(hull_area(grown))
        for d, back in ways:
            points = _lying(outline, d, mirrored=back)
            low, high = points.min(axis=0), points.max(axis=0)
            edges.append(_edges([_lying(ring, d, mirrored=back) - low for ring in rings]))
            centres = _lying(inside[:2].T, d, mirrored=back) - low
            circles.append(np.vstack([centres.T, inside[2:3]]))
            spans.append((edge, edge + len(edges[-1]), circle, circle + inside.shape[1]))
            edge, circle = spans[-1][1], spans[-1][3]
            boxes.append(high - low)
            corners.append(low)
            degrees.append(float(d))
            backs.append(back)
            kind_of.append(k)
    box, hull = np.array(boxes), np.array(hulls)
    starts = np.array(first, np.int64)
    shapes = Shapes(
        edges=np.ascontiguousarray(np.concatenate(edges)), circles=np.ascontiguousarray(np.concatenate(circles, axis=1)), spans=np.array(spans, np.int64),
        width=np.ascontiguousarray(box[:, 0]), height=np.ascontiguousarray(box[:, 1]), kind=np.array(kind_of, np.int64), size=np.sqrt(np.sqrt(hull)),
        reach=box.max(axis=1)[starts], first=starts, turns=np.array(turns, np.int64),
    )  # fmt: skip
    return Prepared(
        shapes=shapes, corner=np.array(corners), degrees=np.array(degrees), mirrored=np.array(backs), area=np.array([w.shape.area for w in kinds]), hull=hull
    )
