"""Sharp corners beside another part: the beam goes round them.

Half the kerf beside a corner, the two lines of a cut meet beyond it, the farther the sharper it is: up to five times as far (`geom.contours`). Between
parts that lie only a beam apart that would nick the neighbour. There the way bends round the corner at half the kerf: the corner stays as sharp, and the
neighbour whole.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

from notchcore.design.assembly import Part
from notchcore.geom.contours import Contour, Segment, sampled
from notchcore.geom.near import lines_near
from notchcore.geom.planar import Polygon, polygon_from
from notchcore.geom.profile import area_of
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.paths import CutPath, Laid
from notchcore.units import Mm

NEARER: Mm = 0.005  # than half the kerf: what the packing and the chords of arcs leave open
NOTHING: Mm = 1e-6


def _bodies(laid: Sequence[Laid], parts: Mapping[str, Part]) -> dict[tuple[str, int], Polygon]:
    """Return the pieces as they lie; those that fall out of others lie inside them, and are cut with them."""
    found = {}
    for piece in laid:
        profile = parts[piece.part].profile
        if not piece.falls:
            found[piece.part, piece.copy] = polygon_from(tuple(map(piece.to, profile.outer)), [tuple(map(piece.to, h)) for h in profile.holes])
    return found


def _closed(contour: Contour) -> list[Vec2]:
    points = sampled(contour)
    return [*points, points[0]]


def _foot(s: Segment, p: Vec2) -> Vec2:
    """Return the nearest place to a point on the line or circle that a segment is part of."""
    if s.centre is not None:
        far = math.dist(p, s.centre)
        return (s.centre[0] + (p[0] - s.centre[0]) * s.radius / far, s.centre[1] + (p[1] - s.centre[1]) * s.radius / far) if far > NOTHING else s.start
    dx, dy = s.end[0] - s.start[0], s.end[1] - s.start[1]
    along = ((p[0] - s.start[0]) * dx + (p[1] - s.start[1]) * dy) / (dx * dx + dy * dy)
    return s.start[0] + dx * along, s.start[1] + dy * along


def _tips(segments: Sequence[Segment], corners: Sequence[Vec2], *, half: Mm) -> list[tuple[int, int, Vec2]]:
    """Return where a contour runs out beyond a corner: its last segment before, its first one behind, the corner. Between them the tip may be cut off."""
    nearest = [min(corners, key=lambda c, tip=s.start: math.dist(c, tip)) for s in segments]  # type: ignore[misc]
    beyond = [math.dist(c, s.start) > half + NEARER for c, s in zip(nearest, segments, strict=True)]
    n, found = len(segments), []
    for k in range(n):
        if beyond[k] and not (beyond[k - 1] and nearest[k - 1] == nearest[k]):
            last = k
            while beyond[(last + 1) % n] and nearest[(last + 1) % n] == nearest[k] and last - k < n:
                last += 1
            found.append((k - 1, last % n, nearest[k]))
    return found


def _bent(contour: Contour, corners: Sequence[Vec2], *, others: Sequence[Polygon], half: Mm) -> Contour:
    """Return a closed contour with arcs round the corners beside which it comes too near to others."""
    segments = list(contour.segments)
    n, ccw = len(segments), area_of(tuple(sampled(contour))) > 0
    bends: dict[int, Segment] = {}
    dropped: set[int] = set()
    for first, last, corner in _tips(segments, corners, half=half):
        before, after = segments[first], segments[last]
        between = [(first + 1 + k) % n for k in range((last - first - 1) % n)]
        a, b = _foot(before, corner), _foot(after, corner)
        tip = [a, before.end, *(segments[k].end for k in between), b]
        fits = math.dist(a, before.end) < before.length and math.dist(b, after.start) < after.length  # of what other bends have left of them
        if fits and max(abs(math.dist(p, corner) - half) for p in (a, b)) < NEARER and lines_near([tip], others, reach=half - NEARER):
            segments[first], segments[last] = replace(before, end=a), replace(after, start=b)
            bends[last] = Segment(start=a, end=b, centre=corner, radius=math.dist(a, corner), ccw=ccw)
            dropped |= set(between)
    kept = [k for k in range(n) if k not in dropped]
    return replace(contour, segments=tuple(s for k in kept for s in ((bends[k], segments[k]) if k in bends else (segments[k],))))


def bent_round_tips(paths: Sequence[CutPath], laid: Sequence[Laid], *, parts: Mapping[str, Part], kerf: Mm) -> list[CutPath]:
    """Return the paths of a sheet with ways round those sharp corners beyond which they would nick another part.

    Args:
        kerf: full width that the paths are corrected for [mm]
    """
    bodies = _bodies(laid, parts)
    names, shapes = list(bodies), list(bodies.values())
    outer = [i for i, p in enumerate(paths) if p.operation is Operation.OUTER and p.contour.closed and (p.part, p.copy) in bodies]
    near: dict[int, list[Polygon]] = {}
    for i, k in lines_near([_closed(paths[i].contour) for i in outer], shapes, reach=kerf / 2 - NEARER):
        path = paths[outer[i]]
        if names[k] != (path.part, path.copy):
            near.setdefault(outer[i], []).append(shapes[k])
    changed = list(paths)
    for i, others in near.items():
        own = bodies[paths[i].part, paths[i].copy]
        changed[i] = replace(paths[i], contour=_bent(paths[i].contour, list(own.exterior.coords), others=others, half=kerf / 2))
    return changed
