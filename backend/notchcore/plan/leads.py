"""Lead-ins: the beam starts beside the contour, in what falls away, so that its first hole does not mark the edge.

A lead-in meets the contour in the middle of a long edge, never at a corner nor on the face of a joint. It comes in at half a right angle,
stays clear of every other cut, and is shorter where there is little room.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from notchcore.geom.contours import Contour, Segment, sampled
from notchcore.geom.near import Clear
from notchcore.geom.planar import Point, Polygon
from notchcore.geom.profile import Ring, area_of
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.bridges import point_on, stretch_of
from notchcore.plan.paths import CutPath
from notchcore.units import Mm

FROM_CORNER: Mm = 2.0  # the middle of an edge is so far from its ends at least
FROM_JOINT: Mm = 0.5  # and so far from the face of a joint
CLEAR: Mm = 0.3  # beside the beam, to any other cut
SHORTEST: Mm = 0.5
SHORTER = (1.0, 0.5, 0.25)
QUARTERS = (0.0, 0.25, 0.5, 0.75)
HALF_RIGHT = math.sqrt(0.5)


def _entries(contour: Contour) -> Iterator[tuple[int, Mm]]:
    """Yield segment and place along it where a contour may be met, those on long edges first."""
    if len(contour.segments) == 1:
        yield from ((0, contour.segments[0].length * share) for share in QUARTERS)
        return
    for k, s in sorted(enumerate(contour.segments), key=lambda ks: (-round(ks[1].length, 6), ks[0])):
        if s.length >= 2 * FROM_CORNER:
            yield k, s.length / 2


def _begun(contour: Contour, k: int, *, along: Mm) -> Contour:
    """Return a closed contour begun at a place of one of its segments."""
    s = contour.segments[k]
    at = point_on(s, along)
    if len(contour.segments) == 1:
        return replace(contour, segments=(replace(s, start=at, end=at),))
    after, before = stretch_of(s, along, end=s.length), stretch_of(s, 0.0, end=along)
    return replace(contour, segments=(replace(after, start=at), *contour.segments[k + 1 :], *contour.segments[:k], replace(before, end=at)))


def _heading(s: Segment) -> Vec2:
    """Return the direction in which a segment begins."""
    if s.centre is None:
        return (s.end[0] - s.start[0]) / s.length, (s.end[1] - s.start[1]) / s.length
    rx, ry = (s.start[0] - s.centre[0]) / s.radius, (s.start[1] - s.centre[1]) / s.radius
    return (-ry, rx) if s.ccw else (ry, -rx)


def _start(contour: Contour, ccw: bool, *, outside: bool, length: Mm) -> Vec2:
    """Return where a lead-in of some length begins, before a contour that it meets at its start."""
    first = contour.segments[0]
    hx, hy = _heading(first)
    side = 1.0 if ccw == outside else -1.0  # what lies to the right of the way is outside when it runs counter-clockwise
    nx, ny = side * hy, -side * hx
    return first.start[0] + length * HALF_RIGHT * (nx - hx), first.start[1] + length * HALF_RIGHT * (ny - hy)


def with_leads(paths: Sequence[CutPath], faces: Mapping[tuple[str, int], Sequence[Ring]], *, sheet: Ring, length: Mm, beam: Mm) -> list[CutPath]:
    """Return the paths with a lead-in on each closed cut that has room for one; others stay as they are.

    Args:
        faces: of joints, where their parts lie, by part and copy
        sheet: its outline
        length: of a lead-in [mm]
        beam: its width [mm]
    """
    cuts = [i for i, p in enumerate(paths) if p.operation in (Operation.INNER, Operation.OUTER)]
    lines = [sampled(paths[i].contour, sag=0.05) for i in cuts]
    clear = Clear([(*line, line[0]) if paths[i].contour.closed else line for i, line in zip(cuts, lines, strict=True)] + [(*sheet, sheet[0])])
    found = list(paths)
    for n, (i, line) in enumerate(zip(cuts, lines, strict=True)):
        path = paths[i]
        if not path.contour.closed or path.bridges or path.left_out or path.frees:  # what falls out is a part: there is no waste to start in
            continue
        joints = [Polygon(r) for r in faces.get((path.part, path.copy), ())]
        led = _led(path, line, joints=joints, clear=clear, n=n, length=length, beam=beam)
        if led is not None:
            found[i] = led
    return found


def _led(path: CutPath, line: Ring, *, joints: Sequence[Polygon], clear: Clear, n: int, length: Mm, beam: Mm) -> CutPath | None:
    ccw, outside = area_of(line) > 0, path.operation is Operation.OUTER
    for share in SHORTER:
        reach = max(length * share, SHORTEST)
        for k, along in _entries(path.contour):
            at = point_on(path.contour.segments[k], along)
            if any(j.distance(Point(at)) < FROM_JOINT + beam / 2 for j in joints):
                continue
            contour = _begun(path.contour, k, along=along)
            start = _start(contour, ccw, outside=outside, length=reach)
            meets = start[0] + (at[0] - start[0]) * 0.3, start[1] + (at[1] - start[1]) * 0.3
            if clear.of(start, at, reach=beam + CLEAR, but=n) and clear.alone(start, meets, reach=reach * 0.4, index=n):
                return replace(path, contour=contour, lead=start)
    return None
