"""Polygon operations under the names that the joints use. A Shape is a shapely polygon; empty ones are allowed."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
import shapely
from shapely.geometry import LinearRing, LineString, MultiPolygon, Point, Polygon, box
from shapely.geometry.base import BaseGeometry

from notchcore.geom.films import without_films
from notchcore.geom.offset import beside, mitred
from notchcore.geom.vectors import Vec2
from notchcore.tolerance import OVER_RUN
from notchcore.units import Mm

Shape: TypeAlias = Polygon
Affine = tuple[float, float, float, float, float, float]  # x' = a x + b y + e, y' = c x + d y + f
FAR: Mm = 1e5  # a half-plane is a square this large: larger than any sheet
RIGHT_CORNERS = 1.5  # of the half width: a little more than the root of two


def polygon_from(outer: Sequence[Vec2], holes: Sequence[Sequence[Vec2]] = ()) -> Polygon:
    """Return the polygon of an outline and its holes; quicker than asking the class for it, which looks at every corner by itself."""
    made: Polygon = shapely.polygons(shapely.linearrings(outer), [shapely.linearrings(h) for h in holes] or None)
    return made


def points_of(line: BaseGeometry) -> list[Vec2]:
    """Return the corners of a line or ring in order."""
    return list(map(tuple, shapely.get_coordinates(line).tolist()))


def turns_left(ring: LinearRing) -> bool:
    """Tell whether a ring runs counter-clockwise."""
    return bool(shapely.is_ccw(ring))


def pieces(geometry: BaseGeometry) -> list[Polygon]:
    """Return the polygons of any geometry; lines and points are dropped."""
    if isinstance(geometry, Polygon):
        return [] if geometry.is_empty else [geometry]
    return [p for g in getattr(geometry, "geoms", ()) for p in pieces(g)]


def moved(shape: Polygon, to: Affine) -> Polygon:
    """Return a shape under an affine map."""
    a, b, c, d, e, f = to
    matrix, offset = np.array([[a, c], [b, d]]), np.array([e, f])
    return shapely.transform(shape, lambda points: points @ matrix + offset)


def strip_pieces(shape: Polygon, low: Mm, *, high: Mm) -> list[Polygon]:
    """Return the parts of a shape between two heights y, without slivers."""
    x0, _, x1, _ = shape.bounds
    cut = shape.intersection(box(x0 - 1, low, x1 + 1, high))
    return [p for p in pieces(cut) if p.area > 1e-4 * (high - low)]


@dataclass(frozen=True, slots=True)
class Span:
    """A piece of a shape inside a strip: where it starts and ends along the strip, and how much its two ends slope."""

    start: Mm
    end: Mm
    dip: Mm


def made_ready(shape: Polygon) -> Polygon:
    """Return the shape prepared for many questions."""
    shapely.prepare(shape)
    return shape


@dataclass(frozen=True, slots=True)
class Strip:
    """Where a shape is looked for: between two heights of a frame.

    to_frame, to_shape: the maps between the shape's plane and the frame
    """

    shape: Polygon
    to_frame: Affine
    to_shape: Affine
    low: Mm
    high: Mm


def spans_in(strips: Sequence[Strip]) -> list[list[Span]]:
    """Return the pieces of each shape in its strip, without slivers; many at once, which saves most of the time."""
    if not strips:
        return []
    shapes = np.array([s.shape for s in strips])
    bounds = shapely.bounds(shapes)
    frame, back = np.array([s.to_frame for s in strips]), np.array([s.to_shape for s in strips])
    low, high = np.array([s.low for s in strips]), np.array([s.high for s in strips])
    corners = bounds[:, [[0, 1], [0, 3], [2, 1], [2, 3]]]  # (strips, 4, 2)
    along = frame[:, [0]] * corners[:, :, 0] + frame[:, [1]] * corners[:, :, 1] + frame[:, [4]]
    first, last = along.min(axis=1) - 1, along.max(axis=1) + 1
    v, h = np.stack([first, last, last, first], axis=1), np.stack([low, low, high, high], axis=1)
    quads = np.stack([back[:, [0]] * v + back[:, [1]] * h + back[:, [4]], back[:, [2]] * v + back[:, [3]] * h + back[:, [5]]], axis=2)
    cut, of = shapely.get_parts(shapely.intersection(shapes, shapely.polygons(quads)), return_index=True)
    whole = (shapely.get_type_id(cut) == shapely.GeometryType.POLYGON) & (shapely.area(cut) > 1e-4 * (high - low)[of])
    cut, of = cut[whole], of[whole]
    points, at = shapely.get_coordinates(cut, return_index=True)
    found: list[list[Span]] = [[] for _ in strips]
    if not len(cut):
        return found
    a, c, e = frame[of[at]][:, [0, 1, 4]].T
    sigma = points[:, 0] * a + points[:, 1] * c + e
    begins = np.flatnonzero(np.diff(at, prepend=-1))
    start, end = np.minimum.reduceat(sigma, begins), np.maximum.reduceat(sigma, begins)
    later = sigma > ((start + end) / 2)[at]
    top = np.minimum.reduceat(np.where(later, sigma, end[at]), begins)
    bottom = np.maximum.reduceat(np.where(later, start[at], sigma), begins)
    for k, s, t, dip in zip(of.tolist(), start.tolist(), end.tolist(), (end - top + bottom - start).tolist(), strict=True):
        found[k].append(Span(s, t, dip))
    return found


def cover_more_than(shapes: Sequence[Polygon], lines: Sequence[tuple[Vec2, Vec2]], *, least: Sequence[Mm]) -> list[bool]:
    """Tell of each line whether more than `least` of it lies in its shape; the shapes were made ready."""
    where, drawn, more = np.array(shapes), shapely.linestrings(np.array(lines).reshape(-1, 2, 2)), np.array(least)
    inside = np.where(shapely.covers(where, drawn), shapely.length(drawn), 0.0)
    partly = (inside == 0.0) & shapely.intersects(where, drawn)
    inside[partly] = shapely.length(shapely.intersection(where[partly], drawn[partly]))
    told: list[bool] = (inside > more).tolist()
    return told


def covered_shares(quads: Sequence[Sequence[Vec2]], shapes: Sequence[Polygon]) -> list[float]:
    """Return how much of each area of four corners lies in its shape, 0 to 1."""
    areas = shapely.polygons(np.array(quads, dtype=float).reshape(-1, 4, 2))
    shares: list[float] = (shapely.area(shapely.intersection(areas, np.array(shapes, dtype=object))) / shapely.area(areas)).tolist()
    return shares


def strip_along(start: Vec2, end: Vec2, *, half: Mm) -> BaseGeometry:
    """Return the narrow rectangle about a straight line."""
    return LineString([start, end]).buffer(half, cap_style="flat")


def lines_in(shape: BaseGeometry, start: Vec2, *, end: Vec2) -> list[tuple[Vec2, Vec2]]:
    """Return the stretches of a straight line that lie in a shape, from start to end."""
    seen = shape.intersection(LineString([start, end]))
    lines = [g for g in getattr(seen, "geoms", [seen]) if g.geom_type == "LineString" and not g.is_empty]
    found = [((float(g.coords[0][0]), float(g.coords[0][1])), (float(g.coords[-1][0]), float(g.coords[-1][1]))) for g in lines]
    return sorted(found, key=lambda s: math.dist(start, s[0]))


def length_at(shape: Polygon, y: Mm, *, x0: Mm, x1: Mm) -> Mm:
    """Return how much of the level line y, from x0 to x1, lies in the shape."""
    return float(shape.intersection(LineString([(x0, y), (x1, y)])).length)


def minus(shape: Polygon, cutters: Sequence[Sequence[Vec2]], *, others: Sequence[Polygon] = ()) -> list[Polygon]:
    """Return what is left, largest piece first.

    Cutters are convex with four corners. They are grown by OVER_RUN about their middle: cells that share an edge would
    else leave a film between them.

    Args:
        others: cutters of any shape, taken as they are
    """
    if not cutters and not others:
        return [shape]
    taken: list[BaseGeometry] = list(others)
    if cutters:
        corners = np.array(cutters, dtype=float)
        outward = corners - corners.mean(axis=1, keepdims=True)
        grown = shapely.polygons(corners + OVER_RUN * np.sign(outward))
        taken.append(shapely.disjoint_subset_union_all(grown))
    left = shape.difference(shapely.union_all(taken) if len(taken) > 1 else taken[0])
    return sorted((without_films(p) for p in pieces(left)), key=lambda p: -p.area)


def subtract(shape: Polygon, kept: Sequence[Polygon]) -> list[Polygon]:
    """Return a cutter without the places that it must leave."""
    return pieces(shape.difference(shapely.union_all(list(kept)))) if kept else [shape]


def resized(shape: Polygon, by: Mm, *, beside: Sequence[Sequence[Vec2]] = (), clear: Mm = 0.0) -> Polygon:
    """Return the shape with its outer edge moved outward by `by` (inward when negative); holes stay. Unchanged when nothing would be left.

    Args:
        beside: what is cut from the shape, with four corners each, because something else stands there: its edge does not move outward into these,
            nor into as much as `clear` of what goes on from them, in the direction of their first side
    """
    moved_edge = pieces(mitred(Polygon(shape.exterior), by))
    if not moved_edge:
        return shape
    outer = max(moved_edge, key=lambda p: p.area)
    less: list[BaseGeometry] = [Polygon(h) for h in shape.interiors]
    if by > 0 and beside:
        corners = np.array(beside, dtype=float)
        along = corners[:, 1] - corners[:, 0]
        more = clear * along / np.maximum(np.hypot(along[:, 0], along[:, 1]), 1e-12)[:, None]
        taken = shapely.union_all(shapely.polygons(corners + more[:, None] * np.array([-1, 1, 1, -1])[None, :, None]))
        less.append(taken.difference(Polygon(shape.exterior)))
    return max(pieces(outer.difference(shapely.union_all(less))), key=lambda p: p.area) if less else outer


def inner_lines(shape: Polygon, on: Polygon, *, inside: Mm) -> list[tuple[tuple[Vec2, ...], bool]]:
    """Return the outline of a shape where it lies on another and at least `inside` from its edges, as (points, closed)."""
    found: list[tuple[tuple[Vec2, ...], bool]] = []
    room = on.buffer(-inside)
    seen = shape.exterior.intersection(room)
    merged_lines = shapely.line_merge(seen) if seen.geom_type == "MultiLineString" else seen
    for line in getattr(merged_lines, "geoms", [merged_lines]):
        if line.geom_type not in ("LineString", "LinearRing") or line.length < inside:
            continue
        points = points_of(line)
        closed = points[0] == points[-1]
        found.append((tuple(points[:-1] if closed else points), closed))
    return found


def far_places(area: BaseGeometry, count: int, *, edge: Mm) -> list[Vec2]:
    """Return up to `count` places that lie `edge` or more inside an area and as far from each other as a plain search finds."""
    room = max(pieces(area.buffer(-edge)), key=lambda p: p.area, default=None)
    if room is None:
        return []
    candidates = [(float(x), float(y)) for x, y in room.exterior.coords[:-1]]
    middle = room.centroid.coords[0]
    places: list[Vec2] = [max(candidates, key=lambda p: (round((p[0] - middle[0]) ** 2 + (p[1] - middle[1]) ** 2, 6), p))]
    while len(places) < count:
        gap, place = max((min((p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2 for q in places), p) for p in candidates)
        if gap < (2 * edge) ** 2:
            break
        places.append(place)
    return places


def least_distance(some: Sequence[Vec2], others: Sequence[Vec2]) -> Mm:
    """Return the least distance of a point of the first from one of the second; infinite where there are none."""
    if not some or not others:
        return math.inf
    return float(np.linalg.norm(np.array(some)[:, None] - np.array(others)[None], axis=2).min())


def half_plane(normal: Vec2, limit: float) -> Polygon:
    """Return the half-plane `normal · p <= limit` as a large square; the normal has length 1."""
    px, py = normal[0] * limit, normal[1] * limit
    tx, ty = -normal[1] * FAR, normal[0] * FAR
    bx, by = -normal[0] * 2 * FAR, -normal[1] * 2 * FAR
    return Polygon([(px + tx, py + ty), (px - tx, py - ty), (px - tx + bx, py - ty + by), (px + tx + bx, py + ty + by)])


def opened(shape: Polygon, width: Mm) -> BaseGeometry:
    """Return the shape without whatever is narrower than `width`; right corners stay sharp, and no spike closes a neck again."""
    return mitred(mitred(shape, -width / 2), width / 2, limit=RIGHT_CORNERS)


def lines_within(some: Sequence[tuple[Sequence[Vec2], bool]], others: Sequence[tuple[Sequence[Vec2], bool]], *, reach: Mm) -> bool:
    """Tell whether no point of either set of lines lies farther than `reach` from the other; each line comes with whether it is closed."""
    if not some or not others:
        return not some and not others

    def whole(lines: Sequence[tuple[Sequence[Vec2], bool]]) -> BaseGeometry:
        return shapely.union_all([LineString([*points, points[0]] if closed else points) for points, closed in lines])

    one, two = whole(some), whole(others)
    return bool(one.buffer(reach).covers(two) and two.buffer(reach).covers(one))


def lines_off(rings: Sequence[Sequence[Vec2]], others: Sequence[Sequence[Vec2]], *, reach: Mm) -> tuple[tuple[Vec2, ...], ...]:
    """Return the stretches of closed lines that lie farther than `reach` from every line of the others."""
    mine = shapely.union_all([LineString([*r, r[0]]) for r in rings])
    near = beside(shapely.union_all([LineString([*r, r[0]]) for r in others]), reach)
    left = mine.difference(near)
    merged = shapely.line_merge(left) if left.geom_type == "MultiLineString" else left
    lines = [g for g in getattr(merged, "geoms", [merged]) if g.geom_type == "LineString" and not g.is_empty]
    return tuple(tuple((float(x), float(y)) for x, y in line.coords) for line in lines)


def holds(ring: Sequence[Vec2], p: Vec2) -> bool:
    """Tell whether a point lies inside a ring."""
    return bool(Polygon(ring).contains(shapely.Point(p)))


def narrowest(ring: Sequence[Vec2]) -> Mm:
    """Return the shorter side of the smallest rectangle about a ring."""
    corners = list(Polygon(ring).minimum_rotated_rectangle.exterior.coords)
    return min(math.dist(corners[0], corners[1]), math.dist(corners[1], corners[2]))


def narrow_places(shape: Polygon, width: Mm, *, least_area: float) -> list[Polygon]:
    """Return where the shape is narrower than `width`, as polygons of at least `least_area` [mm2]."""
    return [p for p in pieces(shape.difference(opened(shape, width).buffer(1e-6))) if p.area >= least_area]


def holds_area(ring: Sequence[Vec2]) -> bool:
    """Tell whether a closed line encloses anything; one with numbers that are none does not."""
    return all(math.isfinite(v) for p in ring for v in p) and any(p.area > 1e-6 for p in pieces(Polygon(ring).buffer(0)))


def crossing_place(ring: Sequence[Vec2]) -> Vec2 | None:
    """Return a place where a closed line crosses itself, None when it does not."""
    if len(ring) < 4:
        return None
    shape = Polygon(ring)
    if shape.is_valid:
        return None
    told = re.search(r"\[(\S+) (\S+)\]", shapely.is_valid_reason(shape))
    return (float(told.group(1)), float(told.group(2))) if told else (float(ring[0][0]), float(ring[0][1]))


def simplified(shape: Polygon, by: Mm) -> BaseGeometry:
    """Return the shape with points left out that change it by less than `by`."""
    return shape.simplify(by)


def grown_outward(shape: Polygon, by: Mm, *, within: Mm) -> Polygon:
    """Return a shape grown by at least `by` and at most `within` more, with as few corners as that allows.

    Mitred corners add no points at right angles, and never grow less than asked.
    """
    grown = mitred(shape, by + within, limit=1.5)
    simple = grown.simplify(within) if within > 0 else grown
    made = pieces(simple if simple.is_valid else grown)
    return max(made, key=lambda p: p.area)


def flaw_of(shape: Polygon) -> str:
    """Return in words what makes an area none, with the place; empty when nothing does."""
    if shape.is_valid:
        return ""
    reason = str(shapely.is_valid_reason(shape))
    told = re.fullmatch(r"(.*?)\[(\S+) (\S+)\]", reason)
    return f"{told[1].lower()} near {float(told[2]):.2f}, {float(told[3]):.2f}" if told else reason.lower()


def hull_area(shape: Polygon) -> float:
    """Return the area of the convex hull of a shape [mm2]."""
    return float(shape.convex_hull.area)


def merged(shapes: Iterable[BaseGeometry]) -> BaseGeometry:
    """Return the union of shapes."""
    return shapely.union_all(list(shapes))


__all__ = [
    "Affine",
    "BaseGeometry",
    "LineString",
    "LinearRing",
    "MultiPolygon",
    "Point",
    "Polygon",
    "Shape",
    "box",
    "cover_more_than",
    "covered_shares",
    "crossing_place",
    "far_places",
    "flaw_of",
    "grown_outward",
    "half_plane",
    "holds_area",
    "hull_area",
    "inner_lines",
    "length_at",
    "made_ready",
    "merged",
    "minus",
    "moved",
    "narrow_places",
    "opened",
    "pieces",
    "points_of",
    "polygon_from",
    "resized",
    "simplified",
    "spans_in",
    "strip_pieces",
    "subtract",
    "turns_left",
]
