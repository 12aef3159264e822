"""Parts as the kernels want them: grown by half the spacing, in all turns, flat, with circles inside."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np

from notchcore.geom.compiled import compiled
from notchcore.geom.planar import Polygon, grown_outward, hull_area
from notchcore.nest.overlaps import DISCS, Shapes
from notchcore.units import Mm

COVERED = 0.9  # share of a shape's area that its circles may leave it at
SMALLEST = 0.12  # of the largest circle's radius
LEAST_HOLE = 4.0  # [mm2] a smaller hole holds nothing
FEW_CORNERS = 60  # outlines with more are simplified outwards,
FINE: Mm = 0.05  # by no more than this,
COARSE: Mm = 0.2  # or, when they have very many corners, than this
MANY_CORNERS = 70
VERY_MANY_CORNERS = 150


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
def _room_in(edges: Any, x0: float, y0: float, x1: float, y1: float, nx: int, ny: int) -> Any:
    """Return the points of a raster that lie inside a shape, and how far each is from its outline: (3, n)."""
    found = np.zeros((3, nx * ny + 1))
    px = edges[0]
    py = edges[1]
    ux = edges[2] - px
    uy = edges[3] - py
    inverse = 1.0 / np.maximum(ux * ux + uy * uy, 1e-18)
    crossings = np.zeros(edges.shape[1])
    n = 0
    for b in range(ny):
        y = y0 + (b + 0.5) * (y1 - y0) / ny
        m = 0
        for k in range(edges.shape[1]):
            if (py[k] > y) != (edges[3, k] > y):
                crossings[m] = px[k] + ux[k] * (y - py[k]) / uy[k]
                m += 1
        borders = np.sort(crossings[:m])
        passed = 0
        for a in range(nx):
            x = x0 + (a + 0.5) * (x1 - x0) / nx
            while passed < m and borders[passed] <= x:
                passed += 1
            if passed % 2 == 0:
                continue
            least = 1e300
            for k in range(edges.shape[1]):
                wx = x - px[k]
                wy = y - py[k]
                t = (wx * ux[k] + wy * uy[k]) * inverse[k]
                t = 0.0 if t < 0.0 else t
                t = 1.0 if t > 1.0 else t
                dx = wx - t * ux[k]
                dy = wy - t * uy[k]
                d = dx * dx + dy * dy
                least = d if d < least else least
            found[0, n] = x
            found[1, n] = y
            found[2, n] = math.sqrt(least)
            n += 1
    return found[:, :n]


@compiled
def circles_in(edges: Any, x0: float, y0: float, x1: float, y1: float, area: float, length: float, most: int) -> Any:
    """Return circles inside a shape, the largest first, none of them mostly in another: (3, n)."""
    step = math.sqrt((x1 - x0) * (y1 - y0) / 2500.0)
    step = min(step, max(area / length / 1.5, step / 4.0))
    xs, ys, room = _room_in(edges, x0, y0, x1, y1, max(int((x1 - x0) / step), 1), max(int((y1 - y0) / step), 1))
    n = len(room)
    found = np.zeros((3, most))
    if n == 0:  # thinner than the raster: the middle of its longest edge serves as a mark of where it is
        k = np.argmax((edges[2] - edges[0]) ** 2 + (edges[3] - edges[1]) ** 2)
        found[0, 0] = 0.5 * (edges[0, k] + edges[2, k])
        found[1, 0] = 0.5 * (edges[1, k] + edges[3, k])
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
            dx = xs[i] - found[0, made - 1]
            dy = ys[i] - found[1, made - 1]
            d = math.sqrt(dx * dx + dy * dy) - r
            room[i] = d if d < room[i] else room[i]
    return found[:, : max(made, 1)]


def _following(rings: Sequence[Any]) -> Any:
    """Return which of all points, ring after ring, comes after each in its ring."""
    ends = np.cumsum([len(ring) for ring in rings])
    after = np.arange(1, ends[-1] + 1)
    after[ends - 1] = [0, *ends[:-1]]
    return after


def _lying(points: Any, degrees: Sequence[float], *, mirrored: Sequence[bool]) -> Any:
    """Return points (n, 2) in several turns, of the front or the back: (turns, n, 2)."""
    angles = np.radians(degrees)
    cos, sin = np.cos(angles), np.sin(angles)
    square = np.mod(degrees, 90) == 0
    cos[square], sin[square] = np.round(cos[square]), np.round(sin[square])
    x = np.where(mirrored, -1.0, 1.0)[:, None] * points[None, :, 0]
    y = points[None, :, 1]
    return np.stack([x * cos[:, None] - y * sin[:, None], x * sin[:, None] + y * cos[:, None]], axis=2)


def _rings(wanted: Wanted, spacing: Mm) -> list[Any]:
    if wanted.fixed or spacing <= 0:
        shape = wanted.shape
    else:
        corners = len(wanted.shape.exterior.coords)
        if corners <= VERY_MANY_CORNERS:  # with so many it need not be tried exactly
            shape = grown_outward(wanted.shape, spacing / 2, within=0.0)  # exact: what fits exactly is found
            corners = len(shape.exterior.coords)
        if corners > FEW_CORNERS:
            shape = grown_outward(wanted.shape, spacing / 2, within=FINE if corners < MANY_CORNERS else COARSE)
    holes = [h for h in shape.interiors if Polygon(h).area > LEAST_HOLE]
    return [np.array(ring.coords)[:-1] for ring in (shape.exterior, *holes)]


class _Kind(NamedTuple):
    """A part kind in flat arrays, a row for each way in which it may lie."""

    edges: Any
    circles: Any
    discs: Any
    low: Any
    high: Any
    ways: list[tuple[float, bool]]
    hull: float
    sizes: tuple[int, int]  #: edges and circles of one way


def _flat(wanted: Wanted, spacing: Mm) -> _Kind:
    rings = _rings(wanted, spacing)
    outline, following = np.concatenate(rings), _following(rings)
    whole = np.ascontiguousarray(np.concatenate([outline, outline[following]], axis=1).T)
    (x0, y0), (x1, y1) = outline.min(axis=0), outline.max(axis=0)
    grown = Polygon(rings[0], rings[1:])
    inside = circles_in(whole, x0, y0, x1, y1, grown.area, grown.length, DISCS)
    ways = [(d, m) for m in wanted.mirrored for d in wanted.turns]
    degrees, backs = zip(*ways, strict=True)
    turned = _lying(outline, degrees, mirrored=backs)
    low = turned.min(axis=1)
    turned -= low[:, None]
    centres = _lying(inside[:2].T, degrees, mirrored=backs) - low[:, None]
    m = inside.shape[1]
    filled = np.zeros((len(ways), 3, DISCS), np.float32)
    filled[:, :2], filled[:, :2, :m], filled[:, 2, :m] = centres[:, :1].transpose(0, 2, 1), centres.transpose(0, 2, 1), inside[2]
    return _Kind(
        edges=np.concatenate([turned, turned[:, following]], axis=2).reshape(-1, 4).T,
        circles=np.vstack([centres.reshape(-1, 2).T, np.tile(inside[2], len(ways))]),
        discs=filled,
        low=low,
        high=turned.max(axis=1),
        ways=ways,
        hull=hull_area(grown),
        sizes=(len(outline), m),
    )


def prepared(kinds: Sequence[Wanted], spacing: Mm) -> Prepared:
    """Return part kinds in flat arrays."""
    flat = [_flat(wanted, spacing) for wanted in kinds]
    spans: list[tuple[int, int, int, int]] = []
    edge, circle = 0, 0
    for n, m in (f.sizes for f in flat for _ in f.ways):
        spans.append((edge, edge + n, circle, circle + m))
        edge, circle = edge + n, circle + m
    turns = np.array([len(f.ways) for f in flat], np.int64)
    starts = np.concatenate([np.zeros(1, np.int64), np.cumsum(turns)[:-1]])
    box, hull = np.concatenate([f.high for f in flat]), np.array([f.hull for f in flat])
    shapes = Shapes(
        edges=np.ascontiguousarray(np.concatenate([f.edges for f in flat], axis=1)),
        circles=np.ascontiguousarray(np.concatenate([f.circles for f in flat], axis=1)),
        discs=np.concatenate([f.discs for f in flat]),
        spans=np.array(spans, np.int64),
        width=np.ascontiguousarray(box[:, 0]),
        height=np.ascontiguousarray(box[:, 1]),
        kind=np.repeat(np.arange(len(flat), dtype=np.int64), turns),
        size=np.sqrt(np.sqrt(hull)),
        reach=box.max(axis=1)[starts],
        first=starts,
        turns=turns,
    )
    return Prepared(
        shapes=shapes,
        corner=np.concatenate([f.low for f in flat]),
        degrees=np.array([float(d) for f in flat for d, _ in f.ways]),
        mirrored=np.array([back for f in flat for _, back in f.ways]),
        area=np.array([w.shape.area for w in kinds]),
        hull=hull,
    )
