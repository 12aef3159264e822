"""An order of cuts replayed without the planner's own code."""

from __future__ import annotations

from itertools import pairwise

from shapely import STRtree
from shapely.geometry import LineString, Polygon

from notchcore.geom.contours import sampled
from notchcore.measure.machine import Operation
from notchcore.plan.paths import CutPath

RANK = {Operation.ENGRAVE: 0, Operation.SCORE: 1, Operation.INNER: 3, Operation.OUTER: 3}


def rank(path: CutPath) -> int:
    return 2 if path.part == "registration" else RANK[path.operation]


def replay(paths: list[CutPath]) -> list[str]:
    """Return what is broken: burned after what must follow it, or cut after what it lies in has fallen."""
    wrong = [f"{b.id} is {b.operation.value} after {a.id}, {a.operation.value}" for a, b in pairwise(paths) if rank(a) > rank(b)]
    cuts = [(p.id, sampled(p.contour), p.contour.closed) for p in paths if RANK[p.operation] == RANK[Operation.OUTER]]
    if not cuts:
        return wrong
    shapes = [Polygon(ring) if closed else LineString(ring) for _, ring, closed in cuts]
    for i, j in zip(*STRtree(shapes).query(shapes, predicate="within").tolist(), strict=True):
        if i > j and shapes[j].geom_type == "Polygon" and not shapes[i].equals(shapes[j]):
            wrong.append(f"{cuts[i][0]} is cut after {cuts[j][0]}, in which it lies")
    return wrong
