"""Contours of lines and true arcs, made from profiles by provenance.

Booleans work on points; the circles that the points came from are remembered. An edge whose ends and middle lie on a
remembered circle is an arc again, its ends are snapped to where the true curves meet, and an offset moves lines
sideways and changes radii, so circles and straight edges stay such in every file.

Segment   one line or arc of a contour
Contour   a closed (or, for a single line of the beam, open) row of segments
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import pairwise

from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from notchcore.geom.offset import mitred
from notchcore.geom.planar import pieces
from notchcore.geom.profile import Circle, Ring, area_of, circle_ring, ring_of
from notchcore.geom.vectors import Vec2
from notchcore.tolerance import ARC_SAG, SAME_POINT
from notchcore.units import Mm

QUARTER = math.pi / 2 * 1.01  # a quarter turn, and what float noise makes of one
MITRE_LIMIT = 5.0  # round a corner sharper than 23 degrees the way is an arc instead of running away
COLLINEAR: Mm = 1e-7  # a point so near to the line between its neighbours says nothing
SHORTEST: Mm = 1e-4  # an edge below this is float noise: its direction means nothing, and a mitre of it would be a spike
ROUND = 24  # chords of a quarter of that arc
ASTRAY, ASTRAY_MM = 0.01, 0.01  # share and length by which an arc may be longer than its chords after it was joined to its neighbours


@dataclass(frozen=True, slots=True, kw_only=True)
class Segment:
    """A line from `start` to `end`; with a `centre` an arc. A full circle starts where it ends."""

    start: Vec2
    end: Vec2
    centre: Vec2 | None = None
    radius: Mm = 0.0
    ccw: bool = True

    @property
    def sweep(self) -> float:
        """The turn of the arc [rad], negative when clockwise; 0 for a line."""
        if self.centre is None:
            return 0.0
        a0 = math.atan2(self.start[1] - self.centre[1], self.start[0] - self.centre[0])
        a1 = math.atan2(self.end[1] - self.centre[1], self.end[0] - self.centre[0])
        if math.dist(self.start, self.end) < SAME_POINT:
            return 2 * math.pi if self.ccw else -2 * math.pi
        return (a1 - a0) % (2 * math.pi) if self.ccw else -((a0 - a1) % (2 * math.pi))

    @property
    def length(self) -> Mm:
        return math.dist(self.start, self.end) if self.centre is None else abs(self.sweep) * self.radius


@dataclass(frozen=True, slots=True, kw_only=True)
class Contour:
    """A path of segments, each starting where the one before ends [mm]."""

    segments: tuple[Segment, ...]
    closed: bool = True

    @property
    def length(self) -> Mm:
        return math.fsum(s.length for s in self.segments)


def polyline_of(points: Ring) -> Contour:
    """Return an open path of straight lines through the points, of which there are at least two."""
    return Contour(segments=tuple(Segment(start=a, end=b) for a, b in pairwise(points)), closed=False)


def _tags(ring: Ring, circles: tuple[Circle, ...]) -> list[int | None]:
    """Return for each edge of a ring the circle that it is a chord of."""
    tags: list[int | None] = []
    for a, b in pairwise((*ring, ring[0])):
        middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        found = None
        for k, c in enumerate(circles):
            inside = [c.radius - math.dist(p, (c.x, c.y)) for p in (a, b, middle)]
            chord_limit = 2 * math.sqrt(2 * c.radius * ARC_SAG) * 1.05
            if all(-1e-5 <= d < ARC_SAG * 1.1 for d in inside) and math.dist(a, b) < chord_limit:
                found = k
                break
        tags.append(found)
    return tags


def contour_of(ring: Ring, circles: tuple[Circle, ...] = ()) -> Contour:
    """Return a ring as lines and arcs. Runs of fewer than three chords stay lines: they may lie on a circle by chance."""
    tags = _tags(ring, circles)
    count = len(ring)
    if tags[0] is not None and all(t == tags[0] for t in tags):
        c = circles[tags[0]]
        start = (c.x + c.radius, c.y)
        return Contour(segments=(Segment(start=start, end=start, centre=(c.x, c.y), radius=c.radius, ccw=area_of(ring) > 0),))
    first = next((i for i in range(count) if tags[i] != tags[i - 1]), 0)
    segments: list[Segment] = []
    chords: dict[int, list[Vec2]] = {}  # of each arc, by its place among the segments
    i = 0
    while i < count:
        tag = tags[(first + i) % count]
        run = 1
        while tag is not None and i + run < count and tags[(first + i + run) % count] == tag:
            run += 1
        points = [ring[(first + i + k) % count] for k in range(run + 1)]
        if tag is None or run < 3:
            segments.extend(Segment(start=a, end=b) for a, b in pairwise(points))
        else:
            c = circles[tag]
            p, q = points[run // 2 - 1], points[run // 2]  # about the middle: the first chords may be shorter than what points are off
            turn = (p[0] - c.x) * (q[1] - c.y) - (p[1] - c.y) * (q[0] - c.x)
            chords[len(segments)] = points
            segments.append(Segment(start=points[0], end=points[-1], centre=(c.x, c.y), radius=c.radius, ccw=turn > 0))
        i += run
    return _true_to(segments, chords)


def _true_to(segments: list[Segment], chords: dict[int, list[Vec2]]) -> Contour:
    """Return the segments joined, with the chords in place of an arc that would not run along them.

    Circles that nearly coincide cross far from where a ring goes from one to the other, or behind each other's ends: an arc of nothing would become
    a full turn.
    """
    joined = _joined(segments)
    lost = set()
    for k, points in chords.items():
        own = math.fsum(math.dist(a, b) for a, b in pairwise(points))
        if abs(joined.segments[k].length - own) > ASTRAY * own + ASTRAY_MM:
            lost.add(k)
    if not lost:
        return joined
    found: list[Segment] = []
    kept: dict[int, list[Vec2]] = {}
    for k, s in enumerate(segments):
        if k in lost:
            found.extend(Segment(start=a, end=b) for a, b in pairwise(chords[k]))
            continue
        if k in chords:
            kept[len(found)] = chords[k]
        found.append(s)
    return _true_to(found, kept)


def _meet(a: Segment, b: Segment) -> Vec2 | None:
    """Return where the endless lines or full circles of two segments cross, nearest to where the segments meet."""
    near = ((a.end[0] + b.start[0]) / 2, (a.end[1] + b.start[1]) / 2)
    if a.centre is None and b.centre is None:
        d1 = (a.end[0] - a.start[0], a.end[1] - a.start[1])
        d2 = (b.end[0] - b.start[0], b.end[1] - b.start[1])
        det = d1[0] * d2[1] - d1[1] * d2[0]
        if abs(det) < 1e-12 * math.hypot(*d1) * math.hypot(*d2):
            return near
        t = ((b.start[0] - a.start[0]) * d2[1] - (b.start[1] - a.start[1]) * d2[0]) / det
        return (a.start[0] + d1[0] * t, a.start[1] + d1[1] * t)
    if a.centre is not None and b.centre is not None:
        gap = math.dist(a.centre, b.centre)
        if gap < SAME_POINT:
            return near
        along = (gap**2 + a.radius**2 - b.radius**2) / (2 * gap)
        height2 = a.radius**2 - along**2
        if height2 < 0:
            return None
        ex, ey = (b.centre[0] - a.centre[0]) / gap, (b.centre[1] - a.centre[1]) / gap
        h = math.sqrt(height2)
        options = [(a.centre[0] + ex * along - s * ey * h, a.centre[1] + ey * along + s * ex * h) for s in (1, -1)]
        return min(options, key=lambda p: math.dist(p, near))
    line, arc = (a, b) if a.centre is None else (b, a)
    assert arc.centre is not None
    length = math.dist(line.start, line.end)
    ux, uy = (line.end[0] - line.start[0]) / length, (line.end[1] - line.start[1]) / length
    fx, fy = line.start[0] - arc.centre[0], line.start[1] - arc.centre[1]
    b_half = fx * ux + fy * uy
    root = b_half**2 - (fx**2 + fy**2 - arc.radius**2)
    if root < 0:
        return None
    options = [(line.start[0] + ux * t, line.start[1] + uy * t) for t in (-b_half + math.sqrt(root), -b_half - math.sqrt(root))]
    return min(options, key=lambda p: math.dist(p, near))


def _joined(segments: list[Segment]) -> Contour:
    """Return the contour with neighbours meeting exactly, wherever an arc takes part or a gap is open; those that meet nowhere are linked by a line."""
    out = list(segments)
    links: dict[int, Segment] = {}
    for i in range(len(out)):
        j = (i + 1) % len(out)
        if out[i].centre is None and out[j].centre is None and math.dist(out[i].end, out[j].start) < 1e-9:
            continue
        point = _meet(out[i], out[j])
        if point is None:  # an end off its own circle would be another arc in every file
            if math.dist(out[i].end, out[j].start) > SAME_POINT:
                links[i] = Segment(start=out[i].end, end=out[j].start)
            continue
        out[i] = replace(out[i], end=point)
        out[j] = replace(out[j], start=point)
    return Contour(segments=tuple(s for i, own in enumerate(out) for s in ((own, links[i]) if i in links else (own,))))


def in_short_arcs(contour: Contour) -> Contour:
    """Return the contour with arcs of a quarter turn at most, for files that tell an arc by its ends.

    An arc that ends where it begins would be none, and the middle of one of nearly half a turn moves by the root of what its ends are rounded by.
    """
    return replace(contour, segments=tuple(piece for s in contour.segments for piece in _quarters(s)))


def _quarters(s: Segment) -> list[Segment]:
    if s.centre is None or abs(s.sweep) <= QUARTER:
        return [s]
    count = math.ceil(abs(s.sweep) / QUARTER - 1e-9)
    a0 = math.atan2(s.start[1] - s.centre[1], s.start[0] - s.centre[0])
    ways = [a0 + s.sweep * k / count for k in range(1, count)]
    points = [s.start, *((s.centre[0] + s.radius * math.cos(a), s.centre[1] + s.radius * math.sin(a)) for a in ways), s.end]
    return [replace(s, start=a, end=b) for a, b in pairwise(points)]


def sampled(contour: Contour, *, sag: Mm = ARC_SAG) -> Ring:
    """Return points along a contour; arcs become chords at most `sag` off."""
    points: list[Vec2] = []
    for s in contour.segments:
        points.append(s.start)
        if s.centre is None:
            continue
        step = 2 * math.acos(max(1 - sag / s.radius, 0.0)) or 0.5
        count = max(2, math.ceil(abs(s.sweep) / step))
        a0 = math.atan2(s.start[1] - s.centre[1], s.start[0] - s.centre[0])
        points.extend(
            (s.centre[0] + s.radius * math.cos(a0 + s.sweep * k / count), s.centre[1] + s.radius * math.sin(a0 + s.sweep * k / count)) for k in range(1, count)
        )
    if not contour.closed:
        points.append(contour.segments[-1].end)
    return tuple(points)


def grown_ring(ring: Ring, circles: tuple[Circle, ...], *, by: Mm) -> list[Contour]:
    """Return the contours of a ring's inside, grown by `by` (shrunk when negative) with sharp corners.

    Several or none are possible when a shrunk inside falls apart or closes. Arcs stay arcs.
    """
    ring = tuple(p for k, p in enumerate(ring) if math.dist(p, ring[k - 1]) > SHORTEST) or ring
    inside = Polygon(ring)
    area = _grown(inside, by) if by else inside
    moved = tuple(Circle(x=c.x, y=c.y, radius=c.radius + d) for c in circles for d in {by, -by, 0.0} if c.radius + d > SAME_POINT)
    rings = [ring_of(p.exterior) for p in pieces(area)]
    if len(rings) != 1:
        return [contour_of(r) for r in rings]
    # The points of an offset chord lie a hair outside the true offset circle: grow the segments instead and compare.
    exact = _grown_segments(contour_of(ring, circles), by if area_of(ring) > 0 else -by)
    if exact is not None and _is_clean(exact) and _is_as_large(exact, area.area, by=by):
        return [exact]
    arcs = contour_of(rings[0], moved)
    return [arcs if _is_clean(arcs) and _is_as_large(arcs, area.area, by=by) else contour_of(rings[0])]


def _is_clean(contour: Contour) -> bool:
    """Tell whether a ring does not cross itself."""
    points = sampled(contour)
    return len(points) > 3 and bool(Polygon(points).is_valid)


def _is_as_large(contour: Contour, area: float, *, by: Mm) -> bool:
    return abs(abs(area_of(sampled(contour))) - area) < max(0.02 * abs(by) * contour.length, 1e-6) + ARC_SAG * contour.length


def _grown(inside: Polygon, by: Mm) -> BaseGeometry:
    """Return a shape grown with sharp corners; round a corner too acute for that the distance is kept, so that its tip is not cut off."""
    sharp = mitred(inside, by, limit=MITRE_LIMIT)
    rounded = inside.buffer(by, quad_segs=ROUND)
    both = sharp.union(rounded) if by > 0 else sharp.intersection(rounded)
    return both.simplify(COLLINEAR)  # where the two touch, points would stand on one line


def _grown_segments(contour: Contour, by: Mm) -> Contour | None:
    """Return every segment moved to its right side by `by`, or None where an arc would vanish or a line turn round."""
    moved: list[Segment] = []
    for s in contour.segments:
        if s.centre is None:
            length = math.dist(s.start, s.end)
            if length < SAME_POINT:
                continue
            nx, ny = (s.end[1] - s.start[1]) / length * by, -(s.end[0] - s.start[0]) / length * by
            moved.append(Segment(start=(s.start[0] + nx, s.start[1] + ny), end=(s.end[0] + nx, s.end[1] + ny)))
            continue
        radius = s.radius + (by if s.ccw else -by)
        if radius <= SAME_POINT:
            return None
        k = radius / s.radius
        ends = [(s.centre[0] + (p[0] - s.centre[0]) * k, s.centre[1] + (p[1] - s.centre[1]) * k) for p in (s.start, s.end)]
        moved.append(replace(s, start=ends[0], end=ends[1], radius=radius))
    if len(moved) == 1:
        return Contour(segments=tuple(moved))
    for a, b in pairwise((*moved, moved[0])):  # too sharp for a mitre: leave it to the polygon route
        if a.centre is None and b.centre is None:
            la, lb = math.dist(a.start, a.end), math.dist(b.start, b.end)
            cos = ((a.end[0] - a.start[0]) * (b.end[0] - b.start[0]) + (a.end[1] - a.start[1]) * (b.end[1] - b.start[1])) / (la * lb)
            if cos < -0.92:
                return None
    if any(a is not b and (a.centre or b.centre) and _meet(a, b) is None for a, b in pairwise((*moved, moved[0]))):
        return None
    joined = _joined(moved)
    for before, after in zip(moved, joined.segments, strict=True):
        if before.centre is None:
            d1 = (before.end[0] - before.start[0], before.end[1] - before.start[1])
            d2 = (after.end[0] - after.start[0], after.end[1] - after.start[1])
            if d1[0] * d2[0] + d1[1] * d2[1] <= 0:
                return None
        elif abs(after.sweep) > abs(before.sweep) + math.pi:
            return None  # its end has passed its start: it vanished
    return joined


def transformed(contour: Contour, to: Callable[[Vec2], Vec2], *, mirrored: bool = False) -> Contour:
    """Return a contour moved by a rigid map; `mirrored` says that the map turns the plane over, and with it the sense of arcs."""
    return replace(
        contour,
        segments=tuple(
            replace(s, start=to(s.start), end=to(s.end), centre=None if s.centre is None else to(s.centre), ccw=s.ccw != mirrored) for s in contour.segments
        ),
    )


def ring_contours(circle: Circle) -> Contour:
    """Return a whole circle as a contour of one arc."""
    return contour_of(circle_ring(circle), (circle,))
