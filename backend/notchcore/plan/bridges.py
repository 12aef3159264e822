"""Bridges: short stretches of a part's outer cut that the beam leaves out, so that the part stays in its sheet until a hand breaks it free.

Gap   what the path leaves out: the bridge, and the beam's width, half of which burns into it from either end
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from notchcore.geom.contours import Contour, Segment
from notchcore.geom.planar import Point, Polygon
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

BRIDGE: Mm = 0.6  # width of what stays
CLEAR: Mm = 1.0  # from the end of a gap to a corner or a joint's face
MIDDLE = 0.25  # of an edge at both its ends is left alone where there is room
STEP: Mm = 0.5  # between places that are looked at


def gap_for(beam: Mm) -> Mm:
    """Return how long a stretch the path leaves out for a bridge, with a beam of some width."""
    return BRIDGE + beam


def point_on(s: Segment, along: Mm) -> Vec2:
    """Return the point of a segment so far along it [mm]."""
    share = min(max(along / s.length, 0.0), 1.0) if s.length else 0.0
    if s.centre is None:
        return s.start[0] + (s.end[0] - s.start[0]) * share, s.start[1] + (s.end[1] - s.start[1]) * share
    a = math.atan2(s.start[1] - s.centre[1], s.start[0] - s.centre[0]) + s.sweep * share
    return s.centre[0] + s.radius * math.cos(a), s.centre[1] + s.radius * math.sin(a)


def stretch_of(s: Segment, start: Mm, *, end: Mm) -> Segment:
    """Return a piece of a segment; its ends stay exact where it is not cut."""
    first = s.start if start <= 1e-9 else point_on(s, start)
    last = s.end if end >= s.length - 1e-9 else point_on(s, end)
    return replace(s, start=first, end=last)


def _nearest(contour: Contour, p: Vec2) -> Mm:
    """Return where along a contour it comes nearest to a point."""
    best, at = (math.inf, 0.0), 0.0
    for s in contour.segments:
        if s.centre is None:
            d = (s.end[0] - s.start[0], s.end[1] - s.start[1])
            along = ((p[0] - s.start[0]) * d[0] + (p[1] - s.start[1]) * d[1]) / (s.length or 1.0)
        else:
            a0 = math.atan2(s.start[1] - s.centre[1], s.start[0] - s.centre[0])
            turn = math.atan2(p[1] - s.centre[1], p[0] - s.centre[0]) - a0
            along = (turn if s.sweep > 0 else -turn) % (2 * math.pi) * s.radius
        along = min(max(along, 0.0), s.length)
        best = min(best, (math.dist(point_on(s, along), p), at + along))
        at += s.length
    return best[1]


def places(contour: Contour, count: int, *, joints: Sequence[Polygon], gap: Mm) -> tuple[Vec2, ...]:
    """Return the middles of bridges, spread along a closed contour: within one edge each, clear of corners and joints.

    They keep to the middle part of edges where that leaves places enough. There are fewer where what is free is too short.
    """
    inner = _spread(contour, count, joints=joints, gap=gap, away=MIDDLE)
    return inner if len(inner) == count else _spread(contour, count, joints=joints, gap=gap, away=0.0)


def _spread(contour: Contour, count: int, *, joints: Sequence[Polygon], gap: Mm, away: float) -> tuple[Vec2, ...]:
    """Return places as far apart as can be; `away` is the share of an edge at both its ends that is left alone."""
    free: list[tuple[Mm, Vec2]] = []
    at = 0.0
    for s in contour.segments:
        inset = 0.0 if len(contour.segments) == 1 else max(gap / 2 + CLEAR, away * s.length)
        steps = int((s.length - 2 * inset) / STEP) if s.length > 2 * inset else -1
        for k in range(steps + 1):
            along = s.length / 2 + (k - steps / 2) * STEP
            p = point_on(s, along)
            if not any(j.distance(Point(p)) < gap / 2 + CLEAR for j in joints):
                free.append((at + along, p))
        at += s.length

    def apart(a: Mm, b: Mm) -> Mm:
        d = abs(a - b)
        return min(d, at - d)

    chosen: list[tuple[Mm, Vec2]] = free[len(free) // 2 : len(free) // 2 + 1]
    while chosen and len(chosen) < count:
        farthest = max(free, key=lambda f: min(apart(f[0], c[0]) for c in chosen))
        if min(apart(farthest[0], c[0]) for c in chosen) < gap + 2 * CLEAR:
            break
        chosen.append(farthest)
    return tuple(p for _, p in chosen[:count])


def burned(contour: Contour, bridges: Sequence[Vec2], *, gap: Mm, left_out: Sequence[tuple[Vec2, Vec2]] = ()) -> tuple[Contour, ...]:
    """Return what the beam follows: the contour, or the stretches of it between bridges and what is left out, from its start on.

    Args:
        left_out: stretches, each from one point of the contour to the next in its direction
    """
    if not (bridges or left_out) or not contour.closed:
        return (contour,)
    whole = contour.length
    middles = [_nearest(contour, p) for p in bridges]
    gaps = [(m - gap / 2, m + gap / 2) for m in middles]
    for a, b in left_out:
        start, end = _nearest(contour, a), _nearest(contour, b)
        # A contour that was begun elsewhere may run the other way, or begin within the stretch.
        forth = (end - start) % whole
        gaps.append((start, start + forth) if forth <= whole / 2 else (end, end + whole - forth))
    gaps.sort()
    kept, at = [], gaps[0][1]
    for start, end in [*gaps[1:], (gaps[0][0] + whole, gaps[0][0] + whole)]:
        if start - at > 1e-6:
            kept.append(_stretch(contour, at, end=min(start, gaps[0][0] + whole)))
        at = max(at, end)
    return tuple(kept)


def _stretch(contour: Contour, start: Mm, *, end: Mm) -> Contour:
    """Return an open piece of a closed contour; `end` may lie beyond its start."""
    pieces = []
    at, whole = 0.0, contour.length
    for s in (*contour.segments, *contour.segments):
        first, last = max(start - at, 0.0), min(end - at, s.length)
        if last - first > 1e-9:
            pieces.append(stretch_of(s, first, end=last))
        at += s.length
        if at > end or at > 2 * whole:
            break
    return Contour(segments=tuple(pieces), closed=False)
