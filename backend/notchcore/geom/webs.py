"""Webs: where a flat part is thin between two cuts, how thin it truly is there, and where that is.

Between two lines (holes, or a hole and the outline) a web is as thin as the two are apart. Along one line (bars between notches, tabs) it is
what an opening by the wanted width takes away, measured between its flanks.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations, pairwise

import shapely
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from notchcore.geom.planar import narrow_places
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

FLANK: Mm = 1e-4  # a place's edge is the part's own so near to it
SLIVER = 0.25  # of the wanted width squared: less area is a corner


@dataclass(frozen=True, slots=True)
class Web:
    """One thin place."""

    width: Mm
    at: Vec2


def thin_places(shape: Polygon, least: Mm) -> list[Web]:
    """Return the places thinner than `least` [mm], the thinnest first; one for each pair of lines, and for each bar along one line."""
    found = _between_lines(shape, least)
    spots = [shapely.Point(w.at) for w in found]
    for place in narrow_places(shape, least, least_area=SLIVER * least**2):
        if any(place.distance(p) < least for p in spots):
            continue
        web = _along_one_line(place, shape, least)
        if web is not None:
            found.append(web)
    return sorted(found, key=lambda w: (round(w.width, 6), w.at))


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


def _along_one_line(place: Polygon, shape: Polygon, least: Mm) -> Web | None:
    """Return a bar or tab as a web; its flanks are the stretches of the place's edge that are the part's own."""
    own = place.boundary.intersection(shape.boundary.buffer(FLANK))
    flanks = [f for f in _lines(own) if f.length > least / 4]
    spot = place.representative_point()
    if len(flanks) > 1:
        width = min(float(a.distance(b)) for a, b in combinations(flanks, 2))
    else:
        box = shapely.minimum_rotated_rectangle(place)
        corners = list(box.exterior.coords) if isinstance(box, Polygon) else []
        width = min((float(shapely.Point(a).distance(shapely.Point(b))) for a, b in pairwise(corners)), default=0.0)
    return Web(width, (float(spot.x), float(spot.y))) if FLANK < width < least else None


def _lines(geometry: BaseGeometry) -> list[LineString]:
    merged = shapely.line_merge(shapely.MultiLineString([g for g in getattr(geometry, "geoms", [geometry]) if g.geom_type == "LineString" and not g.is_empty]))
    return [g for g in getattr(merged, "geoms", [merged]) if not g.is_empty]
