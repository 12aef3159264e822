"""A sheet under the beam: what comes free of it, and what was burned on which face of each piece."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

import shapely
from shapely import affinity
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from tests.workshop.read import Burn, Point

CRUMBS = 2e-3  # [mm2] of corners that no beam makes sharp
TIPS = 0.5  # [mm2] of pointed tips, where outlines are cut on their line
BRIDGED = 1.2  # [mm] beyond the beam's width: ends of one line nearer than this are a bridge, which a hand breaks
Matrix = tuple[float, float, float, float, float, float]


@dataclass
class Pass:
    """One run over a sheet as it was read, with how the sheet lay: everything brought back to the sheet's front."""

    cuts: list[Burn]
    marks: list[Burn]  #: scored and engraved
    up: bool  #: the sheet's front face lay up
    number: int
    layers: dict[str, str] = field(default_factory=dict)


def polygons(g: BaseGeometry) -> list[Polygon]:
    if isinstance(g, Polygon):
        return [] if g.is_empty else [g]
    return [p for one in getattr(g, "geoms", ()) for p in polygons(one)]


def back_again(turn: str, width: float, height: float) -> Callable[[Point], Point]:
    """Return where a place of a sheet that was turned over lies when it is seen from its front again."""
    return (lambda p: (width - p[0], p[1])) if turn == "sideways" else (lambda p: (p[0], height - p[1]))


def moved(burn: Burn, to: Callable[[Point], Point]) -> Burn:
    box = None
    if burn.box is not None:
        corners = [to((burn.box[i], burn.box[j])) for i in (0, 2) for j in (1, 3)]
        box = (min(p[0] for p in corners), min(p[1] for p in corners), max(p[0] for p in corners), max(p[1] for p in corners))
    return Burn(burn.name, burn.layer, [to(p) for p in burn.points], burn.closed, box, burn.pixels, burn.length)


def removed(cuts: Iterable[Burn], beam: float) -> BaseGeometry:
    """Return what a round beam takes away along its lines, bridges broken by hand."""
    lines: list[BaseGeometry] = [c.line for c in cuts if len(c.points) > 1]
    by_name: dict[str, list[Burn]] = {}
    for c in cuts:
        if not c.closed and c.name.rpartition(".")[2].isdigit() and len(c.points) > 1:
            by_name.setdefault(c.name.rpartition(".")[0], []).append(c)
    for some in by_name.values():
        for a in some:
            for b in some:
                gap = math.dist(a.points[-1], b.points[0])
                short = a is b and a.line.length < 3 * gap  # the corner between two common lines, no contour with one bridge
                if 1e-9 < gap < BRIDGED + beam and not short:
                    lines.append(_broken(a.points, b.points, gap))
    return shapely.unary_union([_swept(line, beam) for line in lines])


def _broken(before: Sequence[Point], after: Sequence[Point], gap: float) -> LineString:
    """Return the line along which a bridge is broken and filed: it goes on as the cut comes and leaves, straight or round (a cubic through both)."""
    (ax, ay), (bx, by) = before[-1], after[0]
    (ux, uy), (vx, vy) = _way(before[-2], before[-1]), _way(after[0], after[1])
    points = []
    for k in range(9):
        t = k / 8
        h = 2 * t**3 - 3 * t**2 + 1, (t**3 - 2 * t**2 + t) * gap, 3 * t**2 - 2 * t**3, (t**3 - t**2) * gap
        points.append((h[0] * ax + h[1] * ux + h[2] * bx + h[3] * vx, h[0] * ay + h[1] * uy + h[2] * by + h[3] * vy))
    return LineString(points)


def _way(a: Point, b: Point) -> Point:
    far = math.dist(a, b) or 1.0
    return (b[0] - a[0]) / far, (b[1] - a[1]) / far


def _swept(line: BaseGeometry, beam: float) -> BaseGeometry:
    """Return what a round beam burns along a line; step by step where the library fills what the line goes round."""
    at_once = line.buffer(beam / 2, quad_segs=24)
    if at_once.area <= line.length * beam + beam**2:
        return at_once
    points = list(line.coords)
    return shapely.unary_union([LineString(two).buffer(beam / 2, quad_segs=24) for two in pairwise(points)])


def came_free(sheet: Polygon, gone: BaseGeometry) -> list[Polygon]:
    """Return the pieces that do not hang on the sheet's edge any more."""
    edge = sheet.exterior
    return [p for p in polygons(sheet.difference(gone)) if p.distance(edge) > 1e-6]


def placed(shape: BaseGeometry, m: Matrix) -> BaseGeometry:
    """Return a shape moved by a, b, c, d, e, f: x' = a x + b y + e, y' = c x + d y + f."""
    a, b, c, d, e, f = m
    return affinity.affine_transform(shape, [a, b, c, d, e, f])


def inverse(m: Matrix) -> Matrix:
    a, b, c, d, e, f = m
    det = a * d - b * c
    p, q, r, s = d / det, -b / det, -c / det, a / det
    return p, q, r, s, -(p * e + q * f), -(r * e + s * f)


def as_move(m: Matrix) -> Callable[[Point], Point]:
    a, b, c, d, e, f = m
    return lambda p: (a * p[0] + b * p[1] + e, c * p[0] + d * p[1] + f)


def after(first: Matrix, second: Matrix) -> Matrix:
    """Return both moves one after the other."""
    a, b, c, d, e, f = second
    g, h, i, j, k, m = first
    return a * g + b * i, a * h + b * j, c * g + d * i, c * h + d * j, a * k + b * m + e, c * k + d * m + f


def lying(x: float, y: float, turn: float, *, mirrored: bool) -> Matrix:
    """Return the move of a part that is mirrored (x to -x), turned counter-clockwise [degrees], then moved."""
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    m = -1.0 if mirrored else 1.0
    return m * c, -s, m * s, c, x, y


def covers(outer: BaseGeometry, inner: BaseGeometry, reach: float, *, sharp: bool = False) -> bool:
    """Tell whether no place of one shape lies farther than `reach` outside the other; `sharp` counts from edges, not from corners."""
    left = inner.difference(outer.buffer(reach, join_style="mitre" if sharp else "round"))
    return bool(left.is_empty or left.area < (TIPS if sharp and reach > 0.03 else CRUMBS))


def what_a_beam_leaves(shape: Polygon, beam: float) -> BaseGeometry:
    """Return a shape as a round beam leaves it: it cannot reach into inner corners."""
    return shape.buffer(beam / 2, quad_segs=24).buffer(-beam / 2, quad_segs=24)


def areas(burns: Sequence[Burn]) -> list[BaseGeometry]:
    """Return engraved areas, by the even-odd rule where a line bridges itself."""
    found = []
    for b in burns:
        shape: BaseGeometry = Polygon(b.points) if len(b.points) > 2 else Polygon()
        found.append(shape if shape.is_valid else shapely.make_valid(shape))
    return found
