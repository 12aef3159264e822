"""Webs: where a flat part is thin between two cuts, how thin it truly is there, and where that is.

Between two lines (holes, or a hole and the outline) a web is as thin as the two are apart. Along one line (bars between notches, tabs) it is
what an opening by the wanted width takes away, measured between its flanks.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import combinations, pairwise

import shapely
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from notchcore.geom.offset import beside
from notchcore.geom.planar import box, narrow_places, pieces
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

FLANK: Mm = 1e-4  # a place's edge is the part's own so near to it
SLIVER = 0.3  # of the wanted width squared: less area with one flank only is a corner
NOISE = 1e-4  # [mm2]
SAME: Mm = 0.01  # places nearer than this are one
FINEST: Mm = 0.2
HALVINGS = 8
TIP = 8.0  # what an opening this much smaller still takes tapers to a tip: its mean width counts
LONG = 4.0  # times the width: a shorter tip is a corner


@dataclass(frozen=True, slots=True)
class Web:
    """One thin place."""

    width: Mm
    at: Vec2


def thin_places(shape: Polygon, least: Mm) -> list[Web]:
    """Return the places thinner than `least` [mm], the thinnest first: one for each pair of lines, and for each neck, bar or tongue along one line.

    Small widths are looked for before larger ones: what is thin shows there by itself, not drowned in what is only rather thin.
    """
    found = _between_lines(shape, least)
    spots = [shapely.Point(w.at) for w in found]
    seen: list[Polygon] = []
    for width in _widths(least):
        for place in narrow_places(shape, width, least_area=NOISE):
            # An opening leaves crescents on both sides of a neck that it does not quite take.
            if any(place.distance(p) < width for p in spots) or any(place.distance(p) < SAME for p in seen):
                continue
            web = _along_one_line(place, shape, least=width)
            if web is not None:
                found.append(web)
                seen.append(place)
    return sorted(found, key=lambda w: (round(w.width, 6), w.at))


def _widths(least: Mm) -> list[Mm]:
    """Return the widths to look for, ascending, each twice the one before; the smallest is one that no hand could hold."""
    steps = max(int(math.log2(least / FINEST)), 0) if least > FINEST else 0
    return [least / 2**k for k in range(steps, -1, -1)]


def _between_lines(shape: Polygon, least: Mm) -> list[Web]:
    rings = [LineString(r.coords) for r in (shape.exterior, *shape.interiors)]
    tree = shapely.STRtree(rings)
    found = []
    pairs = tree.query(rings, predicate="dwithin", distance=least)
    for i, j in zip(*(map(int, k) for k in pairs), strict=True):
        if i >= j:
            continue
        link = shapely.shortest_line(rings[i], rings[j])
        if link.length < least:
            middle = link.interpolate(0.5, normalized=True)
            found.append(Web(float(link.length), (float(middle.x), float(middle.y))))
    return found


def _along_one_line(place: Polygon, shape: Polygon, *, least: Mm) -> Web | None:
    """Return a bar or tab as a web; its flanks are the stretches of the place's edge that are the part's own."""
    own = place.boundary.intersection(beside(shape.boundary, FLANK))
    large = place.area >= SLIVER * least**2
    flanks = _stretches([f for f in _lines(own) if f.length > (least / 4 if large else SAME)])
    if len(flanks) < 2 and not large:
        return None
    spot = place.representative_point()
    if len(flanks) > 1:
        width = min(float(a.distance(b)) for a, b in combinations(flanks, 2))
    else:
        width = _opening_that_takes(place, shape, width=least)
    return Web(width, (float(spot.x), float(spot.y))) if FLANK < width < least else None


def _opening_that_takes(place: Polygon, shape: Polygon, *, width: Mm) -> Mm:
    """Return the least width by which an opening takes a tongue away; it is less than `width` [mm]."""
    x0, y0, x1, y1 = place.bounds
    around = shape.intersection(box(x0 - 2 * width, y0 - 2 * width, x1 + 2 * width, y1 + 2 * width))
    low, high = 0.0, width
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        gone = [p for some in pieces(around) for p in narrow_places(some, middle, least_area=SLIVER * middle**2)]
        if any(p.intersection(place).area >= SLIVER * middle**2 for p in gone):
            high = middle
        else:
            low = middle
    if high > width / TIP:
        return high
    wide, tall = sorted(a.distance(b) for a, b in pairwise([shapely.Point(c) for c in shapely.minimum_rotated_rectangle(place).exterior.coords[:3]]))
    return float(place.area / tall) if wide > 0 and tall > LONG * width else 0.0


def _stretches(lines: list[LineString]) -> list[BaseGeometry]:
    """Return lines with those as one that noise has parted."""
    whole: list[BaseGeometry] = []
    for line in lines:
        near = [w for w in whole if w.distance(line) < SAME]
        whole = [w for w in whole if w not in near]
        whole.append(shapely.union_all([line, *near]))
    return whole


def _lines(geometry: BaseGeometry) -> list[LineString]:
    merged = shapely.line_merge(shapely.MultiLineString([g for g in getattr(geometry, "geoms", [geometry]) if g.geom_type == "LineString" and not g.is_empty]))
    return [g for g in getattr(merged, "geoms", [merged]) if not g.is_empty]
