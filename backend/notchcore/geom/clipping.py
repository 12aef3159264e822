"""Lines and areas cut off where a shape ends."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from notchcore.geom.offset import mitred
from notchcore.geom.planar import pieces, points_of
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm


def grown(shape: Polygon, by: Mm) -> Polygon:
    """Return a shape a little larger all round."""
    return mitred(shape, by)


def lines_within_shape(line: Sequence[Vec2], shape: BaseGeometry, *, ready: BaseGeometry) -> tuple[list[tuple[Vec2, ...]], float]:
    """Return the stretches of a line that lie in a shape, and the length that does not [mm]; nothing but the line itself where all of it does.

    Args:
        ready: the shape, a hair larger, prepared for questions
    """
    whole = LineString(line)
    if ready.covers(whole):
        return [tuple(line)], 0.0
    seen = whole.intersection(shape)
    joined = shapely.line_merge(shapely.MultiLineString([g for g in getattr(seen, "geoms", [seen]) if g.geom_type == "LineString" and not g.is_empty]))
    kept = [tuple(points_of(g)) for g in getattr(joined, "geoms", [joined]) if not g.is_empty and g.length > 1e-6]
    return kept, max(float(whole.length - joined.length), 1e-9)


def area_within(ring: Sequence[Vec2], shape: BaseGeometry, *, ready: BaseGeometry) -> tuple[list[Polygon], float]:
    """Return what of an area lies in a shape, and how much does not [mm2]; the area is what one line encloses, bridges to its holes left out.

    Args:
        ready: the shape, a hair larger, prepared for questions
    """
    holed = len(getattr(shape, "interiors", ())) > 0
    if not holed and ready.covers(LineString([*ring, ring[0]])):
        return [], 0.0
    whole = shapely.make_valid(Polygon(ring))
    if holed and ready.covers(whole):
        return [], 0.0
    area = float(sum(p.area for p in pieces(whole)))
    kept = [p for p in pieces(whole.intersection(shape)) if p.area > 1e-6]
    lost = area - sum(p.area for p in kept)
    return kept, lost if lost > 1e-4 else 0.0


def keeps_inside(points: Any, rings: Sequence[Sequence[Vec2]]) -> Any:
    """Return for places (n, 2) whether they lie in the area that rings enclose, a ring within another being its hole."""
    inside = np.zeros(len(points), dtype=bool)
    for ring in rings:
        inside ^= shapely.contains_xy(shapely.polygons(shapely.linearrings(ring)), points[:, 0], points[:, 1])
    return inside
