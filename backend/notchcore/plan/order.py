"""The order of cuts: what must come first is never broken, and travel is kept short within that.

Before    engrave before score, score before cut; whatever lies inside a closed contour before that contour (holes before outlines, parts nested in
          a drop-out before the drop-out falls)
Travel    moves with the beam off: a nearest-neighbour tour, then stretches of it moved to better places
          and reversed, then the start
          point of every closed contour chosen for the whole tour at once
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, replace

from notchcore.geom.contours import Contour, Segment, sampled
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import bounds_of
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.paths import CutPath

STARTS = 16  # start points tried on a contour
ROUNDS = 8  # passes of moving and reversing stretches
LONGEST_REVERSAL = 60  # paths in a stretch that may be reversed
MANY = 400  # above this one beginning must do, so that a plan stays quick
HOME: Vec2 = (0.0, 0.0)


_CUT = 2


def _rank(path: CutPath) -> int:
    """Return 0 for engraving, 1 for scoring, 2 for cuts: all of one before any of the next."""
    return {Operation.ENGRAVE: 0, Operation.SCORE: 1}.get(path.operation, _CUT)


def must_precede(paths: list[CutPath]) -> list[set[int]]:
    """Return for each path the paths that must be done before it."""
    rings = [sampled(p.contour, sag=0.05) for p in paths]
    boxes = [bounds_of(r) for r in rings]
    areas = [Polygon(r) if p.contour.closed else None for r, p in zip(rings, paths, strict=True)]
    before: list[set[int]] = [set() for _ in paths]
    for j, outer in enumerate(paths):
        area = areas[j]
        for i, inner in enumerate(paths):
            if i == j:
                continue
            first, then = _rank(inner), _rank(outer)
            if first < then:
                before[j].add(i)
            if first != then or then < _CUT or area is None:
                continue
            a, b = boxes[i], boxes[j]
            if a[0] < b[0] or a[1] < b[1] or a[2] > b[2] or a[3] > b[3]:
                continue
            if area.contains(Polygon(rings[i]).representative_point() if areas[i] is not None else Polygon(rings[j]).representative_point()):
                before[j].add(i)
    return before


def keeps_order(sequence: list[int], before: list[set[int]]) -> bool:
    """Tell whether a sequence does everything after what must precede it."""
    done: set[int] = set()
    for i in sequence:
        if not before[i] <= done:
            return False
        done.add(i)
    return len(done) == len(before)


@dataclass(frozen=True, slots=True)
class _Gate:
    """Where the beam may enter a path, and where it then leaves it."""

    enter: Vec2
    leave: Vec2
    segment: int
    backwards: bool = False


def _gates(contour: Contour) -> list[_Gate]:
    if not contour.closed:
        start, end = contour.segments[0].start, contour.segments[-1].end
        return [_Gate(start, end, 0), _Gate(end, start, 0, True)]
    count = len(contour.segments)
    if count == 1 and contour.segments[0].centre is not None:
        (cx, cy), r = contour.segments[0].centre, contour.segments[0].radius
        return [_Gate(p, p, k) for k, p in enumerate(((cx + r, cy), (cx, cy + r), (cx - r, cy), (cx, cy - r)))]
    step = max(1, math.ceil(count / STARTS))
    return [_Gate(contour.segments[k].start, contour.segments[k].start, k) for k in range(0, count, step)]


def _nearest_tour(gates: list[list[_Gate]], before: list[set[int]]) -> list[int]:
    waiting = [set(b) for b in before]
    after: list[list[int]] = [[] for _ in before]
    for j, needs in enumerate(before):
        for i in needs:
            after[i].append(j)
    ready = {i for i, b in enumerate(waiting) if not b}
    at, tour = HOME, []
    while ready:
        _, i, gate = min(((math.dist(at, g.enter), i, k) for i in ready for k, g in enumerate(gates[i])))
        tour.append(i)
        at = gates[i][gate].leave
        ready.discard(i)
        for j in after[i]:
            waiting[j].discard(i)
            if not waiting[j]:
                ready.add(j)
    return tour


def _best_gates(tour: list[int], gates: list[list[_Gate]]) -> tuple[list[_Gate], float]:
    """Return the gate of each path in the tour with the least travel of all (dynamic programming along the tour)."""
    costs = [math.dist(HOME, g.enter) for g in gates[tour[0]]]
    came: list[list[int]] = []
    for previous, current in itertools.pairwise(tour):
        row, back = [], []
        for g in gates[current]:
            options = [c + math.dist(p.leave, g.enter) for c, p in zip(costs, gates[previous], strict=True)]
            best = min(range(len(options)), key=options.__getitem__)
            row.append(options[best])
            back.append(best)
        costs, came = row, [*came, back]
    at = min(range(len(costs)), key=costs.__getitem__)
    travel = costs[at]
    chosen = [gates[tour[-1]][at]]
    for k in range(len(came) - 1, -1, -1):
        at = came[k][at]
        chosen.append(gates[tour[k]][at])
    return chosen[::-1], travel


def _improved(tour: list[int], chosen: list[_Gate], before: list[set[int]]) -> list[int]:
    """Return the tour after moving stretches of one to three paths wherever that shortens travel and keeps the order."""
    gate = dict(zip(tour, chosen, strict=True))

    def gap(a: int | None, b: int | None) -> float:
        if b is None:
            return 0.0
        return math.dist(HOME if a is None else gate[a].leave, gate[b].enter)

    count = len(tour)
    for size in (1, 2, 3):
        for start in range(count - size + 1):
            block = tour[start : start + size]
            rest = tour[:start] + tour[start + size :]
            needs = set().union(*(before[i] for i in block)) - set(block)
            first = max((k + 1 for k, i in enumerate(rest) if i in needs), default=0)
            inside = set(block)
            last = next((k for k, i in enumerate(rest) if before[i] & inside), len(rest))
            left = rest[start - 1] if start else None
            right = rest[start] if start < len(rest) else None
            saved = gap(left, block[0]) + gap(block[-1], right) - gap(left, right)
            best, where = 1e-9, None
            for k in range(first, last + 1):
                a = rest[k - 1] if k else None
                b = rest[k] if k < len(rest) else None
                gain = saved - (gap(a, block[0]) + gap(block[-1], b) - gap(a, b))
                if gain > best:
                    best, where = gain, k
            if where is not None:
                tour = rest[:where] + block + rest[where:]
    return tour


def _untwisted(tour: list[int], chosen: list[_Gate], before: list[set[int]]) -> list[int]:
    """Return the tour after reversing stretches wherever that shortens travel and keeps the order (2-opt)."""
    gate = dict(zip(tour, chosen, strict=True))
    tour = list(tour)
    for start in range(len(tour) - 1):
        left = HOME if start == 0 else gate[tour[start - 1]].leave
        block = {tour[start]}
        best, where = 1e-9, None
        for end in range(start + 1, min(len(tour), start + LONGEST_REVERSAL)):
            if before[tour[end]] & block:
                break  # reversed, something would come before what must precede it
            block.add(tour[end])
            old, new = math.dist(left, gate[tour[start]].enter), math.dist(left, gate[tour[end]].enter)
            if end + 1 < len(tour):
                after = gate[tour[end + 1]].enter
                old, new = old + math.dist(gate[tour[end]].leave, after), new + math.dist(gate[tour[start]].leave, after)
            if old - new > best:
                best, where = old - new, end
        if where is not None:
            tour[start : where + 1] = tour[start : where + 1][::-1]
    return tour


def _by_insertion(gates: list[list[_Gate]], before: list[set[int]]) -> list[int]:
    """Return a tour grown by putting each path, far ones first, where it lengthens travel least and the order holds."""
    spots = [g[0].enter for g in gates]
    tour: list[int] = []
    for i in sorted(range(len(gates)), key=lambda k: (-math.dist(HOME, spots[k]), k)):
        first = max((k + 1 for k, j in enumerate(tour) if j in before[i]), default=0)
        last = next((k for k, j in enumerate(tour) if i in before[j]), len(tour))

        def extra(k: int, i: int = i) -> float:
            a = HOME if k == 0 else spots[tour[k - 1]]
            if k == len(tour):
                return math.dist(a, spots[i])
            b = spots[tour[k]]
            return math.dist(a, spots[i]) + math.dist(spots[i], b) - math.dist(a, b)

        tour.insert(min(range(first, last + 1), key=extra), i)
    return tour


def _polished(tour: list[int], gates: list[list[_Gate]], before: list[set[int]]) -> tuple[list[int], list[_Gate], float]:
    """Return the tour moved, reversed and re-gated until nothing gets shorter."""
    chosen, travel = _best_gates(tour, gates)
    for _ in range(ROUNDS):
        better = _improved(tour, chosen, before)
        better = _untwisted(better, _best_gates(better, gates)[0], before)
        better_gates, better_travel = _best_gates(better, gates)
        if better_travel >= travel - 1e-6:
            break
        tour, chosen, travel = better, better_gates, better_travel
    return tour, chosen, travel


def _entered(contour: Contour, gate: _Gate) -> Contour:
    """Return the contour begun at a gate."""
    if gate.backwards:
        return replace(contour, segments=tuple(replace(s, start=s.end, end=s.start, ccw=not s.ccw) for s in reversed(contour.segments)))
    if len(contour.segments) == 1 and contour.closed:
        return Contour(segments=(replace(contour.segments[0], start=gate.enter, end=gate.enter),))
    segments: tuple[Segment, ...] = contour.segments[gate.segment :] + contour.segments[: gate.segment]
    return replace(contour, segments=segments)


def cutting_order(paths: list[CutPath]) -> tuple[list[CutPath], float]:
    """Return the paths in cutting order, each begun at its chosen start, and the travel between them [mm]."""
    if not paths:
        return [], 0.0
    before = must_precede(paths)
    gates = [_gates(p.contour) for p in paths]
    beginnings = [_nearest_tour(gates, before)]
    if len(paths) <= MANY:
        beginnings.append(_by_insertion(gates, before))
    tour, chosen, travel = min((_polished(b, gates, before) for b in beginnings), key=lambda found: found[2])
    assert keeps_order(tour, before)
    return [replace(paths[i], contour=_entered(paths[i].contour, g)) for i, g in zip(tour, chosen, strict=True)], travel
