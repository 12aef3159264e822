"""Lines with fewer points."""

from __future__ import annotations

import math

from shapely.geometry import LineString, Polygon

from notchcore.geom.profile import Ring, bounds_of
from notchcore.units import Mm

SMOOTH: Mm = 0.002  # enough for a line whose size is known


def smoothed(points: Ring, *, closed: bool, off: float = SMOOTH) -> Ring:
    """Return a line without the points that lie no farther than `off` from the line that is left."""
    line = LineString((*points, points[0]) if closed else points).simplify(off, preserve_topology=False)
    kept = [(float(x), float(y)) for x, y in line.coords]
    if closed:
        kept.pop()
    return tuple(kept) if len(kept) >= (3 if closed else 2) else points


def thinned(ring: Ring, most: int) -> Ring:
    """Return a ring of at most so many points that lies as near as it can to the one that is given."""
    x0, y0, x1, y1 = bounds_of(ring) if ring else (0.0, 0.0, 0.0, 0.0)
    shape, off = Polygon(ring), 1e-7 * math.hypot(x1 - x0, y1 - y0)
    while len(shape.exterior.coords) > most + 1:
        shape, off = shape.simplify(off), 2 * off
    return tuple((float(x), float(y)) for x, y in shape.exterior.coords[:-1])
