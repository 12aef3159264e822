"""Law 3: put together, no two pieces want the same place, and joints have the widths of their ledgers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import combinations

import shapely
from shapely.geometry import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from notchcore.design.assembly import FeatureKind, JointFeature, Part
from notchcore.findings import Severity
from notchcore.geom.profile import polygon_of
from notchcore.geom.slab import box_of, boxes_touch, common_volume, shrunk
from notchcore.geom.vectors import Vec2, Vec3, add, scale
from notchcore.measure.machine import KerfPlace
from tests.workshop.bench import inverse, placed
from tests.workshop.laws.job import TRUE, Job, Lying


def _width_at(piece: BaseGeometry, middle: Vec2, axis: Vec2, reach: float, *, gap: bool) -> float | None:
    """Return how wide the gap or the tongue around a place is, along an axis; None where there is none."""
    a = (middle[0] - axis[0] * reach, middle[1] - axis[1] * reach)
    b = (middle[0] + axis[0] * reach, middle[1] + axis[1] * reach)
    line = LineString([a, b])
    inside = piece.intersection(line) if not gap else line.difference(piece)
    for g in getattr(inside, "geoms", [inside]):
        if not g.is_empty and g.distance(shapely.Point(middle)) < 1e-9:
            if shapely.Point(a).distance(g) < 1e-9 or shapely.Point(b).distance(g) < 1e-9:
                return None  # open at an end: nothing to measure against
            return float(g.length)
    return None


def _sides(f: JointFeature, *, along: bool) -> list[tuple[Vec2, Vec2]]:
    """Return the two sides between which a feature's width is measured, or, along it, its two ends."""
    a, b, c, d = f.corners
    first = abs((b[0] - a[0]) * f.axis[0] + (b[1] - a[1]) * f.axis[1]) < 1e-6
    return [(a, b), (d, c)] if first is not along else [(a, d), (b, c)]


def _has_edges(sides: list[tuple[Vec2, Vec2]], part: Part) -> bool:
    edge = polygon_of(part.profile).boundary
    return all(edge.distance(shapely.Point((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)) <= 0.05 for a, b in sides)


def _runs_into_another(f: JointFeature, part: Part) -> bool:
    """Tell whether a feature and one of another meeting touch, so that the two are one gap."""
    if not _has_edges(_sides(f, along=False), part):
        return True  # the part goes on beside it, or ends before it: there is no edge of the joint's own to measure
    own = Polygon(f.corners)
    return any(g is not f and g.meeting != f.meeting and own.distance(Polygon(g.corners)) < 1.0 for g in part.features)


def _stands_in_the_open(f: JointFeature, mate: Part | None) -> bool:
    """Tell whether a tab's slot ends in an opening or at a rim of the mate: beyond it the tab goes on as its part does."""
    slots = [] if mate is None else [s for s in mate.features if s.meeting == f.meeting and s.kind is FeatureKind.SLOT]
    return f.kind is FeatureKind.TAB and mate is not None and not all(_has_edges(_sides(s, along=True), mate) for s in slots)


def check_joints(job: Job, made: dict[int, list[tuple[Lying, Polygon | None]]]) -> None:
    if job.place not in (KerfPlace.PATHS, KerfPlace.JOINTS):
        return
    seen: set[str] = set()
    meetings = {m.id: m for m in job.assembly.meetings}
    parts = {p.id: p for p in job.assembly.parts}
    for some in made.values():
        for lie, piece in some:
            if piece is None or lie.part.id in seen:
                continue
            seen.add(lie.part.id)
            own = placed(piece, inverse(lie.matrix))
            for f in lie.part.features:
                if not f.meeting or f.kind not in (FeatureKind.SLOT, FeatureKind.LAP, FeatureKind.TAB) or _runs_into_another(f, lie.part):
                    continue
                m = meetings.get(f.meeting)
                mate = parts.get(m.b if m.a == lie.part.id else m.a) if m is not None else None
                if _stands_in_the_open(f, mate):
                    continue
                middle = (sum(c[0] for c in f.corners) / 4, sum(c[1] for c in f.corners) / 4)
                places = [(middle[0] - f.axis[1] * f.length * s, middle[1] + f.axis[0] * f.length * s) for s in (-0.3, -0.15, 0.0, 0.15, 0.3)]
                widths = [w for p in places if (w := _width_at(own, p, f.axis, f.width.value + 8.0, gap=f.kind.is_gap)) is not None]
                width = min(widths, key=lambda w: abs(w - f.width.value), default=None)  # an opening of a person's may widen it somewhere
                if len(widths) >= 3 and width is not None and max(widths) - min(widths) < TRUE and abs(width - f.width.value) > TRUE:
                    job.says(3, f"{f.id}: {width:.3f} wide instead of {f.width.value:.3f}")
                if m is None or m.clearance is None or f.kind is FeatureKind.TAB or abs(m.angle_deg - 90) > 1e-6:
                    continue
                if mate is not None and abs(f.width.value - mate.t - m.clearance.value) > TRUE:
                    job.says(3, f"{f.id}: the ledger says {f.width.value:.3f} for a sheet of {mate.t:.3f} with {m.clearance.value:.3f}")


def check_lain_in(job: Job, made: dict[int, list[tuple[Lying, Polygon | None]]]) -> None:
    """A piece that lies in another's opening is as much smaller than it as its ledger says: wherever it lies in it."""
    if job.place not in (KerfPlace.PATHS, KerfPlace.JOINTS):
        return
    cut = {lie.part.id: (lie, placed(piece, inverse(lie.matrix))) for some in made.values() for lie, piece in some if piece is not None}
    for m in job.assembly.meetings:
        if m.kind != "inset" or m.clearance is None or m.a not in cut or m.b not in cut:
            continue
        (host, opened), (lain, piece) = sorted((cut[m.a], cut[m.b]), key=lambda c: -c[1].envelope.area)
        others = {o.id for o in job.assembly.meetings if o.kind not in ("stack", "socket") and lain.part.id in (o.a, o.b)}
        if others != {m.id}:
            continue  # other joints shape it too, also those that only butt
        seen = _seen_in(host.part, lain.part, piece)
        hole = next((h for h in _openings(opened) if _widened(h).contains(seen)), None)
        if hole is None and not any(_widened(h).contains(seen) for h in _openings(polygon_of(host.part.profile))):
            continue  # it lies in a bite, which is open on one side
        if hole is not None and any(f.meeting != m.id and Polygon(f.corners).distance(hole) < 1.0 for f in host.part.features):
            continue  # another joint bites into it
        if hole is None:
            job.says(3, f"{lain.part.id} lies in no opening of {host.part.id}")
            continue
        if abs(_fullness(hole) - _fullness(piece)) > 0.005 or abs(_squareness(hole) - _squareness(piece)) > 0.005:
            continue  # something else took a bite out of one of them, or a person gave the piece another shape
        clearance = _play(hole, Polygon(piece.exterior))
        if abs(clearance - m.clearance.value) > TRUE:
            job.says(3, f"{lain.part.id} has {clearance:.3f} of play in {host.part.id}; the ledger says {m.clearance.value:.3f}")


def _widened(hole: Polygon) -> Polygon:
    """Return an opening with what a piece may be larger that is pressed into it, also at its corners, which the beam rounds."""
    return hole.buffer(0.6, join_style="mitre")


def _squareness(shape: Polygon) -> float:
    return float(Polygon(shape.exterior).area / shape.minimum_rotated_rectangle.area)


def _fullness(shape: Polygon) -> float:
    return float(Polygon(shape.exterior).area / shape.convex_hull.area)


def _play(hole: Polygon, piece: Polygon) -> float:
    """Return how much smaller a piece is than its opening, both sides together: of rectangles the less of both ways, of others by their areas.

    Rectangles are measured across their middle: relieved corners reach farther out.
    """
    if all(s.area > 0.99 * s.minimum_rotated_rectangle.area for s in (hole, piece)):
        sizes = []
        for s in (hole, piece):
            a, b, c, d, _ = map(Point, s.minimum_rotated_rectangle.exterior.coords)
            across = [LineString([_between(a, b), _between(c, d)]), LineString([_between(b, c), _between(d, a)])]
            sizes.append(sorted(line.intersection(s).length for line in across))
        return min(a - b for a, b in zip(*sizes, strict=True))
    return 4 * (hole.area - piece.area) / (hole.length + piece.length)


def _between(a: Point, b: Point) -> Point:
    return Point((a.x + b.x) / 2, (a.y + b.y) / 2)


def _openings(piece: Polygon) -> list[Polygon]:
    return [Polygon(ring) for ring in piece.interiors]


def _seen_in(host: Part, piece: Part, shape: Polygon) -> Polygon:
    """Return a shape of a piece's plane in its host's."""
    return shapely.transform(shape, lambda some: [host.pose.to_plane(piece.pose.to_world((float(x), float(y)))) for x, y in some])


def check_together(job: Job) -> None:
    told = {frozenset(f.parts) for f in job.assembly.findings if f.severity is Severity.MUST and len(f.parts) > 1}
    if any(f.severity is Severity.MUST for f in job.assembly.findings):
        return
    press = {frozenset((m.a, m.b)) for m in job.assembly.meetings if m.clearance is not None and m.clearance.value < 0}
    parts = [p for p in job.assembly.parts if not p.helper]
    boxes = [box_of(p.slab()) for p in parts]
    for (a, box_a), (b, box_b) in combinations(zip(parts, boxes, strict=True), 2):
        pair = frozenset((a.id, b.id))
        if pair in press or pair in told or not boxes_touch(box_a, box_b, reach=-0.05):
            continue
        small = shrunk(a.slab(), 0.01)
        volume = common_volume(small, b.slab()) if small is not None else 0.0
        if volume > 0.5:
            job.says(3, f"{a.id} and {b.id} want the same {volume:.2f} mm3")


def check_rooms(job: Job) -> None:
    """Move what stands in a room by most of its play each way, and out of the mouth: it touches nothing."""
    for one in job.rooms:
        with_it = {one.item, *(other.item for other in job.rooms if other.within == one.item)}
        own = [p for p in job.assembly.parts if p.item in with_it and not p.helper]
        rest = [p for p in job.assembly.parts if p.item not in with_it and not p.helper and (not one.within or p.item == one.within)]
        ways: list[tuple[str, Vec3]] = []
        for k in range(3):
            if abs(one.mouth[k]) > 0.5:
                out = [] if one.closed else [3.0, 30.0, 150.0]
                ways += [("out of its mouth", scale(one.mouth, by)) for by in out]
                continue
            axis = (float(k == 0), float(k == 1), float(k == 2))
            sides = [1.8] if k == 2 else [0.9, -0.9]  # on its floor all of the play is above it
            ways += [("by its play", scale(axis, s * one.play)) for s in sides]
        for what, by in ways:
            moved = [replace(p, pose=replace(p.pose, origin=add(p.pose.origin, by))) for p in own]
            if (hit := _first_hit(moved, rest)) is not None:
                job.says(3, f"{one.item} moved {what} {by} runs into {hit}")
                break


def _first_hit(moved: Sequence[Part], rest: Sequence[Part]) -> str | None:
    for a in moved:
        box, small = box_of(a.slab()), shrunk(a.slab(), 0.01)
        for b in rest:
            if small is not None and boxes_touch(box, box_of(b.slab()), reach=-0.02) and common_volume(small, b.slab()) > 0.5:
                return b.id
    return None
