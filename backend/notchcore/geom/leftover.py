"""What stays of a sheet: the largest rectangle, and the pieces that are worth keeping, in their real shape.

A piece that is kept has the outline of what is left; where parts fell out in the middle of it there are bad spots.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, moved, pieces
from notchcore.geom.profile import Ring, profile_of
from notchcore.units import Mm

Rectangle = tuple[Mm, Mm, Mm, Mm]
Numbers = NDArray[np.float64]
MOST_LINES = 90  # of the grid in which the largest rectangle is looked for, each way
HAIR: Mm = 1e-3  # that lines are rounded to: what reaches over the edge by less lies on it
LEAST_SIDE: Mm = 20.0  # a narrower rectangle is not told
LEAST_KEPT: Mm = 40.0  # a piece is worth keeping where it is as wide as this ...
LEAST_AREA = 5000.0  # [mm2] ... and as large
MANY_CORNERS = 60
EASED: Mm = 0.5  # an outline of many corners is simplified by this, inwards


@dataclass(frozen=True, slots=True, kw_only=True)
class Remains:
    """A piece of a sheet that is worth keeping, its corner at (0, 0)."""

    outline: Ring
    bad: tuple[Ring, ...]
    width: Mm
    height: Mm
    area: float  #: [mm2] without the bad spots
    rectangle: Rectangle | None  #: largest that is whole

    @property
    def is_rectangle(self) -> bool:
        return not self.bad and self.area > 0.999 * self.width * self.height


def _free(ring: Ring, bad: Sequence[Ring], *, gone: Sequence[Polygon], gap: Mm) -> list[Polygon]:
    """Return what of a sheet nothing was cut from, `gap` away from every cut."""
    taken = shapely.union_all([*(_around(g, gap) for g in gone), *(Polygon(b).buffer(0) for b in bad)])
    return pieces(Polygon(ring).buffer(0).difference(taken))


def _around(part: Polygon, gap: Mm) -> BaseGeometry:
    """Return a part and what lies within a gap of it; a round offset of many teeth takes long, so that only one that lost something is looked at."""
    at_once = part.buffer(gap, join_style="mitre")
    return at_once if at_once.area >= part.area + gap**2 else mitred(part, gap)


def _lines(values: Numbers, low: Mm, *, high: Mm) -> Numbers:
    """Return grid lines: where something ends, at most so many, the outermost always."""
    inside = np.unique(np.round(values[(values > low) & (values < high)], 3))
    if len(inside) > MOST_LINES:
        inside = inside[np.linspace(0, len(inside) - 1, MOST_LINES).astype(int)]
    return np.concatenate([[low], inside, [high]])


def largest_rectangle(free: Sequence[Polygon]) -> Rectangle | None:
    """Return the largest upright rectangle that lies in one of the areas, on a grid through their corners.

    Exact for areas with upright sides and few corners; elsewhere a little smaller than can be.
    """
    best: tuple[float, Rectangle] = (0.0, (0.0, 0.0, 0.0, 0.0))
    for area in free:
        x0, y0, x1, y1 = area.bounds
        if (x1 - x0) * (y1 - y0) <= best[0]:
            continue
        points = shapely.get_coordinates(area)
        xs, ys = _lines(points[:, 0], x0, high=x1), _lines(points[:, 1], y0, high=y1)
        left, low = np.meshgrid(xs[:-1], ys[:-1])
        right, high = np.meshgrid(xs[1:], ys[1:])
        grown = area.buffer(HAIR)
        shapely.prepare(grown)
        size, found = _in_grid(shapely.covers(grown, shapely.box(left, low, right, high)), xs, ys=ys)
        best = max(best, (size, found) if size == 0 else _widened(found, grown, points=points), key=lambda b: b[0])
    x0, y0, x1, y1 = best[1]
    return best[1] if min(x1 - x0, y1 - y0) >= LEAST_SIDE else None


def _widened(found: Rectangle, area: BaseGeometry, *, points: Numbers) -> tuple[float, Rectangle]:
    """Return the rectangle with each side moved outward to the farthest corner of the area that it can reach, with its size.

    A grid of few lines leaves some out; this takes up what that lost.
    """
    sides = list(found)
    for k in (0, 1, 2, 3):
        lines = np.unique(np.round(points[:, k % 2], 3))
        lines = lines[lines < sides[k]] if k < 2 else lines[lines > sides[k]]
        tried = np.tile(sides, (len(lines), 1))
        tried[:, k] = lines
        right = lines[shapely.covers(area, shapely.box(*tried.T))]
        if len(right):
            sides[k] = float(right.min() if k < 2 else right.max())
    x0, y0, x1, y1 = sides
    return (x1 - x0) * (y1 - y0), (x0, y0, x1, y1)


def _in_grid(full: NDArray[np.bool_], xs: Numbers, *, ys: Numbers) -> tuple[float, Rectangle]:
    """Return the largest rectangle of full cells, with its area: the largest below a histogram, row by row, with a stack."""
    best: tuple[float, Rectangle] = (0.0, (0.0, 0.0, 0.0, 0.0))
    x, y = xs.tolist(), ys.tolist()
    since = [-1] * full.shape[1]  # first row of the run of full cells that ends here
    for row, cells in enumerate(full.tolist()):
        top = y[row + 1]
        since = [(s if s >= 0 else row) if cell else -1 for s, cell in zip(since, cells, strict=True)]
        stack: list[tuple[int, float]] = []  # columns where a lower run begins, and where it stands
        for column, foot in enumerate([*(y[s] if s >= 0 else top for s in since), top]):
            begins = column
            while stack and stack[-1][1] < foot:
                begins, stands = stack.pop()
                size = (x[column] - x[begins]) * (top - stands)
                if size > best[0]:
                    best = (size, (x[begins], stands, x[column], top))
            if not stack or stack[-1][1] > foot:
                stack.append((begins, foot))
    return best


def rectangle_left(ring: Ring, bad: Sequence[Ring], *, gone: Sequence[Polygon], gap: Mm) -> Rectangle | None:
    """Return the largest upright rectangle of a sheet from which nothing is cut."""
    return largest_rectangle(_free(ring, bad, gone=gone, gap=gap))


def remains(ring: Ring, bad: Sequence[Ring], *, gone: Sequence[Polygon], gap: Mm) -> tuple[Remains, ...]:
    """Return the pieces of a sheet that are worth keeping once these shapes are cut from it, the largest first.

    Args:
        gone: what falls out of the sheet, as cut
        gap: how far from a cut a piece is kept [mm]
    """
    found = []
    for area in _free(ring, bad, gone=gone, gap=gap):
        half = LEAST_KEPT / 2
        # Far offsets of many teeth take long to be looked at (see `offset`), and what they lost here would only be leftover.
        for wide in pieces(area.buffer(-half, join_style="mitre").buffer(half, join_style="mitre").intersection(area)):
            few = len(wide.exterior.coords) <= MANY_CORNERS
            for piece in [wide] if few else pieces(wide.buffer(-EASED).simplify(EASED)):
                x0, y0, x1, y1 = piece.bounds
                if piece.area < LEAST_AREA or min(x1 - x0, y1 - y0) < LEAST_KEPT:
                    continue
                there = moved(piece, (1.0, 0.0, 0.0, 1.0, -x0, -y0))
                shape = profile_of(there)
                found.append(
                    Remains(outline=shape.outer, bad=shape.holes, width=x1 - x0, height=y1 - y0, area=piece.area, rectangle=largest_rectangle([there]))
                )
    return tuple(sorted(found, key=lambda r: -r.area))
