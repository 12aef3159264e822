"""Common lines: where straight edges of two parts lie one beam apart, their cuts are one line, and it is burned once."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from notchcore.geom.contours import Segment
from notchcore.geom.cutters import lines_within
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.paths import CutPath
from notchcore.units import Mm

SAME_LINE: Mm = 0.015  # two lines nearer than this are one
BESIDE: Mm = 0.4  # two cuts nearer than this burn what lies between
LEAST: Mm = 3.0  # a shorter stretch is burned twice rather than left to the other part
OVER: Mm = 0.05  # burned by both at either end, so that nothing stays between


def _along(s: Segment, p: Vec2) -> Mm:
    """Return how far along a straight segment a point lies."""
    dx, dy = s.end[0] - s.start[0], s.end[1] - s.start[1]
    return ((p[0] - s.start[0]) * dx + (p[1] - s.start[1]) * dy) / math.hypot(dx, dy)


def _apart(s: Segment, p: Vec2) -> Mm:
    dx, dy = s.end[0] - s.start[0], s.end[1] - s.start[1]
    return abs((p[0] - s.start[0]) * dy - (p[1] - s.start[1]) * dx) / math.hypot(dx, dy)


def _shared(own: Segment, other: Segment) -> tuple[Vec2, Vec2] | None:
    """Return the stretch of a straight segment that another covers, in its own direction; None when that is too short."""
    low, high = sorted((_along(own, other.start), _along(own, other.end)))
    low, high = max(low, 0.0) + OVER, min(high, own.length) - OVER
    if high - low < LEAST or max(_apart(own, other.start), _apart(own, other.end)) > SAME_LINE:
        return None

    def at(along: Mm) -> Vec2:
        share = along / own.length
        return own.start[0] + (own.end[0] - own.start[0]) * share, own.start[1] + (own.end[1] - own.start[1]) * share

    return at(low), at(high)


def _straight(paths: Sequence[CutPath]) -> list[tuple[int, Segment]]:
    """Return the long straight edges of outlines, each with the number of its path."""
    return [
        (i, s)
        for i, path in enumerate(paths)
        if path.operation is Operation.OUTER
        for s in path.contour.segments
        if s.centre is None and s.length > LEAST + 2 * OVER
    ]


def beside_each_other(paths: Sequence[CutPath]) -> list[tuple[CutPath, CutPath, Mm]]:
    """Return the pairs of outlines whose straight edges run beside each other, too near for two cuts and too far for one, and how far apart [mm]."""
    edges = _straight(paths)
    found: dict[tuple[int, int], Mm] = {}
    for a, b in lines_within([(s.start, s.end) for _, s in edges], BESIDE):
        (i, own), (j, other) = edges[a], edges[b]
        low, high = sorted((_along(own, other.start), _along(own, other.end)))
        apart = max(_apart(own, other.start), _apart(own, other.end))
        if i != j and min(high, own.length) - max(low, 0.0) > LEAST and SAME_LINE < apart < BESIDE:
            found[i, j] = min(apart, found.get((i, j), math.inf))
    return [(paths[i], paths[j], apart) for (i, j), apart in sorted(found.items())]


def cut_once(paths: Sequence[CutPath]) -> list[CutPath]:
    """Return the paths with every common line left out of all but the first one that has it."""
    edges = _straight(paths)
    owners, segments = [i for i, _ in edges], [s for _, s in edges]
    left_out: dict[int, list[tuple[Vec2, Vec2]]] = {}
    for a, b in lines_within([(s.start, s.end) for s in segments], SAME_LINE):
        first, second = sorted((a, b), key=lambda k: (owners[k], k))
        if owners[first] == owners[second]:
            continue
        stretch = _shared(segments[second], segments[first])
        if stretch is not None:
            left_out.setdefault(owners[second], []).append(stretch)
    return [replace(p, left_out=tuple(left_out[i])) if i in left_out else p for i, p in enumerate(paths)]
