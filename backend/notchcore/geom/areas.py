"""Areas: what closed lines enclose, what is left round shapes, and which openings a piece may lie in."""

from __future__ import annotations

from collections.abc import Sequence

import shapely

from notchcore.geom.planar import Polygon, box, pieces
from notchcore.geom.vectors import Vec2
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm

SHARED_LEAST: Mm = 0.1  # of a line that two areas share: less is a corner


def holes_round(shape: Polygon, piece: Polygon, *, slack: Mm) -> list[Polygon]:
    """Return the holes of a shape that are as far as their boxes tell large enough for a piece, within `slack` [mm]: of many, few are looked at."""
    if not shape.interiors:
        return []
    rings = shapely.get_rings(shape)[1:]
    boxes, (x0, y0, x1, y1) = shapely.bounds(rings), piece.bounds
    fits = (boxes[:, 0] <= x0 + slack) & (boxes[:, 1] <= y0 + slack) & (boxes[:, 2] >= x1 - slack) & (boxes[:, 3] >= y1 - slack)
    return [Polygon(r) for r in rings[fits]]


def ground_round(shapes: Sequence[Polygon], margin: Mm) -> list[Polygon]:
    """Return what a frame, `margin` [mm] larger on each side than shapes are together, has round and within them; nothing round nothing."""
    if not shapes:
        return []
    all_of_them = shapely.union_all(list(shapes))
    x0, y0, x1, y1 = all_of_them.bounds
    return pieces(box(x0 - margin, y0 - margin, x1 + margin, y1 + margin).difference(all_of_them))


def whole_areas(rings: Sequence[Sequence[Vec2]]) -> list[Polygon]:
    """Return the areas that closed lines enclose: a line inside another is its hole, and so on inwards."""
    shapes = sorted((p for r in rings if len(r) > 2 for p in pieces(Polygon(r).buffer(0))), key=lambda p: -p.area)
    if not shapes:
        return []
    tree = shapely.STRtree(shapes)
    holes: dict[int, list[Polygon]] = {}
    for i, shape in enumerate(shapes):
        around = [int(j) for j in tree.query(shape.representative_point(), predicate="within") if int(j) < i]
        if len(around) % 2 == 0:
            holes.setdefault(i, [])
        else:
            holes.setdefault(max(around), []).append(shape)
    return [p for i, inner in holes.items() for p in pieces(shapes[i].difference(shapely.union_all(inner)) if inner else shapes[i])]


def sharing_lines(areas: Sequence[Polygon]) -> frozenset[int]:
    """Return which areas share a line with another one that neither lies within nor holds, by place."""
    found: set[int] = set()
    if len(areas) < 2:
        return frozenset()
    tree = shapely.STRtree(list(areas))
    for i, j in tree.query(list(areas), predicate="dwithin", distance=COINCIDENT).T.tolist():
        if i < j and not _nested(areas[i], areas[j]) and areas[i].exterior.buffer(COINCIDENT).intersection(areas[j].exterior).length > SHARED_LEAST:
            found |= {i, j}
    return frozenset(found)


def _nested(a: Polygon, b: Polygon) -> bool:
    return any(Polygon(hole).buffer(COINCIDENT).covers(inner) for outer, inner in ((a, b), (b, a)) for hole in outer.interiors)
