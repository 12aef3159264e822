"""Areas: what closed lines enclose, what is left round shapes, and which openings a piece may lie in."""

from __future__ import annotations

from collections.abc import Sequence

import shapely

from notchcore.geom.planar import Polygon, box, pieces
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm


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
