"""Questions about many shapes at once: where cutters reach, where a shape does not fill, and what lies in what."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely

from notchcore.geom.planar import Affine, Polygon, made_ready, polygon_from
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

Region = tuple[Mm, Mm, Mm, Mm]  # x0, y0, x1, y1
HARDLY = 1e-6  # [mm, mm2] what is smaller is nothing


class Cutters:
    """Convex cutters of four corners each, kept so that many questions about all of them are quick."""

    def __init__(self) -> None:
        self.rings: list[tuple[Vec2, ...]] = []
        self._corners = np.empty((0, 4, 2))

    def add(self, ring: tuple[Vec2, ...]) -> None:
        self.rings.append(ring)

    def reach_into(self, seen: Affine, regions: Sequence[Region]) -> list[list[tuple[Mm, Mm]]]:
        """Return for each region (x0, y0, x1, y1) the ranges of x in which cutters, seen through an affine map, reach into it."""
        found: list[list[tuple[Mm, Mm]]] = [[] for _ in regions]
        if not self.rings or not regions:
            return found
        if more := self.rings[len(self._corners) :]:
            self._corners = np.concatenate([self._corners, np.array(more, dtype=float)])
        a, b, c, d, e, f = seen
        corners = self._corners @ np.array([[a, c], [b, d]]) + np.array([e, f])
        low, high = corners.min(axis=1), corners.max(axis=1)
        x0, y0, x1, y1 = np.array(regions).T[:, :, None]
        near = (high[:, 0] > x0) & (low[:, 0] < x1) & (high[:, 1] > y0) & (low[:, 1] < y1)
        where, which = np.nonzero(near)  # most cutters lie elsewhere: told without a polygon
        boxes = shapely.box(*np.array(regions)[where].T)
        common = shapely.intersection(shapely.polygons(corners[which]), boxes)
        for k, held, (first, _, last, _) in zip(where.tolist(), (shapely.area(common) > HARDLY).tolist(), shapely.bounds(common).tolist(), strict=True):
            if held:
                found[k].append((first, last))
        return found


def missing_in(shape: Polygon, regions: Sequence[Region]) -> list[list[tuple[Mm, Mm]]]:
    """Return for each region (x0, y0, x1, y1) the ranges of x in which the shape does not fill it."""
    found: list[list[tuple[Mm, Mm]]] = [[] for _ in regions]
    boxes = shapely.box(*np.array(regions).T)
    open_ = np.flatnonzero(~shapely.covers(made_ready(shape), boxes))
    bare, of = shapely.get_parts(shapely.difference(boxes[open_], shape), return_index=True)
    for k, area, (first, _, last, _) in zip(open_[of].tolist(), shapely.area(bare).tolist(), shapely.bounds(bare).tolist(), strict=True):
        if area > HARDLY:
            found[k].append((first, last))
    return found


def innermost(rings: Sequence[tuple[Sequence[Vec2], bool]]) -> list[int]:
    """Return for each line or ring the smallest closed ring around it, -1 for none; each comes with whether it is closed.

    A line lies in a ring in which its middle lies, and over whose box it does not reach.
    """
    bounded = [k for k, (_, closed) in enumerate(rings) if closed]
    if not bounded:
        return [-1] * len(rings)
    own = {k: i for i, k in enumerate(bounded)}
    areas = [polygon_from(rings[k][0]) for k in bounded]
    size = shapely.area(areas).tolist()
    marks = [shapely.point_on_surface(areas[own[k]]) if closed else _middle(line) for k, (line, closed) in enumerate(rings)]
    boxes = [(*np.min(line, axis=0).tolist(), *np.max(line, axis=0).tolist()) for line, _ in rings]
    found, least = [-1] * len(rings), [math.inf] * len(rings)
    for k, i in zip(*shapely.STRtree(areas).query(marks, predicate="within").tolist(), strict=True):
        around, box = bounded[i], boxes[bounded[i]]
        larger = around != k and (k not in own or size[i] > size[own[k]])
        if larger and size[i] < least[k] and all(boxes[k][e] >= box[e] - HARDLY and boxes[k][e + 2] <= box[e + 2] + HARDLY for e in (0, 1)):
            found[k], least[k] = around, size[i]
    return found


def _middle(line: Sequence[Vec2]) -> shapely.Point:
    return shapely.line_interpolate_point(shapely.linestrings(line), 0.5, normalized=True)


def lines_within(lines: Sequence[tuple[Vec2, Vec2]], reach: Mm) -> list[tuple[int, int]]:
    """Return the pairs of straight lines, by number, that come nearer to each other than `reach`."""
    if not lines:
        return []
    drawn = shapely.linestrings(np.array(lines, dtype=float))
    pairs = shapely.STRtree(drawn).query(drawn, predicate="dwithin", distance=reach).T.tolist()
    return [(a, b) for a, b in pairs if a < b]
