"""Which shapes and lines come too near to each other, asked again and again of the same ones."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from shapely import LineString, Polygon

from notchcore.geom.offset import mitred
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm


class Near:
    """Shapes that stay, asked again and again which of them another comes too near to."""

    def __init__(self, shapes: Sequence[Polygon]) -> None:
        self.shapes = list(shapes)
        self.tree = shapely.STRtree(self.shapes)

    def within(self, shape: Polygon, reach: Mm, *, touch: Mm) -> int | None:
        """Return one that is nearer than `reach`, by index; at no reach one that is overlapped by more than a touch."""
        if reach > 0:
            found = self.tree.query(shape, predicate="dwithin", distance=reach)
            return int(found[0]) if len(found) else None
        shrunk = mitred(shape, -touch / 2)
        hits = self.tree.query(shape, predicate="intersects")
        return next((int(i) for i in hits if shrunk.intersects(mitred(self.shapes[i], -touch / 2))), None)


class Clear:
    """Lines that stay, asked again and again whether a short straight one keeps clear of them."""

    def __init__(self, lines: Sequence[Sequence[Vec2]]) -> None:
        self.tree = shapely.STRtree([LineString(line) for line in lines])

    def of(self, start: Vec2, end: Vec2, *, reach: Mm, but: int = -1) -> bool:
        """Tell whether nothing but one of them, by index, lies within a reach [mm] of a straight line."""
        found = self.tree.query(LineString([start, end]), predicate="dwithin", distance=reach)
        return all(int(i) == but for i in found)

    def alone(self, start: Vec2, end: Vec2, *, reach: Mm, index: int) -> bool:
        """Tell whether one of them, by index, keeps that far from a straight line."""
        return bool(self.tree.geometries[index].distance(LineString([start, end])) >= reach)


def near_pairs(shapes: Sequence[Polygon], reach: Mm) -> list[tuple[int, int]]:
    """Return the pairs of shapes, by index, whose distance is `reach` or less; touching pairs always."""
    tree = shapely.STRtree(list(shapes))
    one, other = tree.query(np.array(shapes, dtype=object), predicate="dwithin", distance=max(reach, 0.0))
    return [(int(i), int(j)) for i, j in zip(one, other, strict=True) if i < j]


def lines_near(lines: Sequence[Sequence[Vec2]], shapes: Sequence[Polygon], *, reach: Mm) -> list[tuple[int, int]]:
    """Return the pairs of a line and a shape, by index, that are nearer to each other than `reach`."""
    one, other = shapely.STRtree(list(shapes)).query([LineString(line) for line in lines], predicate="dwithin", distance=reach)
    return [(int(i), int(j)) for i, j in zip(one, other, strict=True)]
