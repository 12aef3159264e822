"""What `tour` does over and over, as compiled loops over flat arrays."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from notchcore.geom.compiled import compiled

LONGEST = 8  # paths in a stretch that is moved
WINDOW = 50  # paths in a stretch that is reversed
GATE_MOVES, STRETCH_MOVES = 0.25, 0.8  # moves below these shares; the rest reverse a stretch
WRITTEN = 1 << 40  # added to the place of what is written already


class Way(NamedTuple):
    """A tour that is being improved, and all that it must keep to; moves change `tour`, `pos` and `gate` in place."""

    tour: Any  #: int (paths + 2): in order, from home (numbered as one more path) to nothing (one more still)
    pos: Any  #: int (paths): where each path is in the tour
    gate: Any  #: int (paths): by which gate each is entered
    ends: Any  #: float (paths + 2, 4): where each is entered and left by that gate; kept beside it, which is quick
    enter: Any  #: float (paths, most gates, 2) [mm]
    leave: Any
    count: Any  #: int (paths): of gates
    closed: Any  #: bool (paths)
    parent: Any  #: int (paths): -1 for none
    first: Any  #: int (paths + 1): the children of i are kids[first[i] : first[i + 1]]
    kids: Any
    start: Any  #: int (phases + 1): where each phase begins in the tour, which is from 1 on
    phase: Any  #: int (paths)
    heat: float  #: [mm]


@compiled
def _gap(ax: float, ay: float, bx: float, by: float, heat: float) -> float:
    d = math.hypot(bx - ax, by - ay)
    return 2.0 * heat - d if d < heat else d


@compiled
def _between(ends: Any, heat: float, a: int, b: int) -> float:
    """Return the gap from path a to path b: none to nothing after the last one."""
    n = len(ends) - 2
    if b > n:
        return 0.0
    dx, dy = ends[b, 0] - ends[a, 2], ends[b, 1] - ends[a, 3]
    d = math.sqrt(dx * dx + dy * dy)
    return 2.0 * heat - d if d < heat and a != n else d


@compiled
def _enter(w: Way, i: int, g: int) -> None:
    """Set the gate of a path."""
    w.gate[i] = g
    w.ends[i, 0], w.ends[i, 1] = w.enter[i, g, 0], w.enter[i, g, 1]
    w.ends[i, 2], w.ends[i, 3] = w.leave[i, g, 0], w.leave[i, g, 1]


@compiled
def _length(w: Way) -> float:
    total = 0.0
    for k in range(1, len(w.tour)):
        total += _between(w.ends, w.heat, w.tour[k - 1], w.tour[k])
    return total


@compiled
def best_gates(w: Way) -> float:
    """Choose the gate of each path for the least cost of the whole tour (dynamic programming along it); return that cost."""
    n = len(w.pos)
    most = w.enter.shape[1]
    cost = np.zeros(most)
    ahead = np.zeros(most)
    came = np.zeros((n, most), np.int64)
    for k in range(n):
        i = w.tour[k + 1]
        for g in range(w.count[i]):
            if k == 0:
                ahead[g] = math.hypot(w.enter[i, g, 0], w.enter[i, g, 1])
                continue
            p = w.tour[k]
            ahead[g] = 1e300
            for h in range(w.count[p]):
                c = cost[h] + _gap(w.leave[p, h, 0], w.leave[p, h, 1], w.enter[i, g, 0], w.enter[i, g, 1], w.heat)
                if c < ahead[g]:
                    ahead[g] = c
                    came[k, g] = h
        for g in range(w.count[i]):
            cost[g] = ahead[g]
    at = 0
    for h in range(w.count[w.tour[n]]):
        if cost[h] < cost[at]:
            at = h
    g = at
    for k in range(n - 1, -1, -1):
        _enter(w, w.tour[k + 1], g)
        g = came[k, g]
    return float(cost[at])


@compiled
def _may_go(w: Way, s: int, e: int, q: int) -> bool:
    """Tell whether the stretch s..e may stand right after place q, which lies outside of it."""
    for k in range(s, e + 1):
        b = w.tour[k]
        if q > e:
            up = w.parent[b]
            if up >= 0 and e < w.pos[up] <= q:
                return False
        else:
            for c in range(w.first[b], w.first[b + 1]):
                if q < w.pos[w.kids[c]] < s:
                    return False
    return True


@compiled
def _related(w: Way, s: int, e: int) -> bool:
    for k in range(s, e + 1):
        up = w.parent[w.tour[k]]
        if up >= 0 and s <= w.pos[up] <= e:
            return True
    return False


@compiled
def _flip(w: Way, s: int, e: int) -> None:
    """Turn the direction of the open paths in a stretch round."""
    for k in range(s, e + 1):
        i = w.tour[k]
        if not w.closed[i] and w.count[i] == 2:
            _enter(w, i, 1 - w.gate[i])


@compiled
def _put(w: Way, s: int, e: int, q: int, back: bool) -> None:
    """Move the stretch s..e to right after place q."""
    if back:
        _flip(w, s, e)
    size = e - s + 1
    block = w.tour[s : e + 1].copy()
    if q > e:
        for k in range(s, q - size + 1):
            w.tour[k] = w.tour[k + size]
        low, high, at = s, q, q - size + 1
    else:
        for k in range(e, q + size, -1):
            w.tour[k] = w.tour[k - size]
        low, high, at = q + 1, e, q + 1
    for k in range(size):
        w.tour[at + k] = block[size - 1 - k] if back else block[k]
    for k in range(low, high + 1):
        w.pos[w.tour[k]] = k


@compiled
def _reversed(w: Way, s: int, e: int, made: Any, stack: Any) -> None:
    """Write the stretch s..e in reverse into `made`, each path's children before it again."""
    n = 0
    for k in range(e, s - 1, -1):
        if w.pos[w.tour[k]] >= WRITTEN:
            continue
        top = 0
        stack[0] = w.tour[k]
        while top >= 0:
            i = stack[top]
            waits = -1
            for c in range(w.first[i], w.first[i + 1]):
                p = w.pos[w.kids[c]]
                if s <= p <= e and (waits < 0 or p > w.pos[waits]):
                    waits = w.kids[c]
            if waits >= 0:
                top += 1
                stack[top] = waits
                continue
            made[n] = i
            n += 1
            w.pos[i] += WRITTEN
            top -= 1
    for k in range(s, e + 1):
        w.pos[w.tour[k]] -= WRITTEN


@compiled
def _taken(more: float, t: float) -> bool:
    return more <= 0.0 or np.random.random() < math.exp(-more / t)


@compiled
def _try_gate(w: Way, i: int, t: float) -> float:
    """Enter a path elsewhere, maybe; return what that costs more."""
    s, old = w.pos[i], w.gate[i]
    before, after = w.tour[s - 1], w.tour[s + 1]
    was = _between(w.ends, w.heat, before, i) + _between(w.ends, w.heat, i, after)
    _enter(w, i, np.random.randint(w.count[i]))
    more = _between(w.ends, w.heat, before, i) + _between(w.ends, w.heat, i, after) - was
    if _taken(more, t):
        return more
    _enter(w, i, old)
    return 0.0


@compiled
def _gate_between(w: Way, i: int, left: int, right: int) -> float:
    """Set the gate by which a path is best entered between two others; return both gaps."""
    least, best = 1e300, 0
    for h in range(w.count[i]):
        _enter(w, i, h)
        c = _between(w.ends, w.heat, left, i) + _between(w.ends, w.heat, i, right)
        if c < least:
            least, best = c, h
    _enter(w, i, best)
    return least


@compiled
def _turned(w: Way, s: int, e: int) -> float:
    """Return how much longer a stretch is inside when it is run the other way; 1e300 when that may not be."""
    if _related(w, s, e):
        return 1e300
    more = 0.0
    for k in range(s, e):
        more -= _between(w.ends, w.heat, w.tour[k], w.tour[k + 1])
    _flip(w, s, e)
    for k in range(s, e):
        more += _between(w.ends, w.heat, w.tour[k + 1], w.tour[k])
    return more


@compiled
def _try_stretch(w: Way, near: Any, s: int, e: int, t: float) -> float:
    """Move a stretch beside a neighbour of one of its ends, maybe; return what that costs more."""
    i = w.tour[s]
    m = near[i if np.random.random() < 0.5 else w.tour[e], np.random.randint(near.shape[1])]
    if m < 0:
        return 0.0
    q = w.pos[m] if np.random.random() < 0.5 else w.pos[m] - 1
    low, high = w.start[w.phase[i]] - 1, w.start[w.phase[i] + 1] - 1
    if s - 1 <= q <= e or q < low or q > high or not _may_go(w, s, e, q):
        return 0.0
    before, after, left, right, last = w.tour[s - 1], w.tour[e + 1], w.tour[q], w.tour[q + 1], w.tour[e]
    was = (
        _between(w.ends, w.heat, before, i)
        + _between(w.ends, w.heat, last, after)
        + _between(w.ends, w.heat, left, right)
        - _between(w.ends, w.heat, before, after)
    )
    back, old = False, w.gate[i]
    if s == e:
        more = _gate_between(w, i, left, right) - was
    else:
        more = _between(w.ends, w.heat, left, i) + _between(w.ends, w.heat, last, right) - was
        inside = _turned(w, s, e)
        if inside < 1e299:
            other = _between(w.ends, w.heat, left, last) + _between(w.ends, w.heat, i, right) - was + inside
            _flip(w, s, e)
            back = other < more
            more = min(more, other)
    if _taken(more, t):
        _put(w, s, e, q, back)
        return more
    _enter(w, i, old)
    return 0.0


@compiled
def _try_reversed(w: Way, near: Any, i: int, made: Any, stack: Any, t: float) -> float:
    """Reverse the stretch from a path to beside a neighbour, maybe, families put right again; return what that costs more."""
    m = near[i, np.random.randint(near.shape[1])]
    if m < 0:
        return 0.0
    s, e = w.pos[i], w.pos[m]
    if e < s:
        s, e = e + 1, s
    size = e - s + 1
    if size < 2 or size > WINDOW:
        return 0.0
    before, after = w.tour[s - 1], w.tour[e + 1]
    more = -_between(w.ends, w.heat, before, w.tour[s]) - _between(w.ends, w.heat, w.tour[e], after)
    for k in range(s, e):
        more -= _between(w.ends, w.heat, w.tour[k], w.tour[k + 1])
    _reversed(w, s, e, made, stack)
    _flip(w, s, e)
    more += _between(w.ends, w.heat, before, made[0]) + _between(w.ends, w.heat, made[size - 1], after)
    for k in range(size - 1):
        more += _between(w.ends, w.heat, made[k], made[k + 1])
    if not _taken(more, t):
        _flip(w, s, e)
        return 0.0
    for k in range(size):
        w.tour[s + k] = made[k]
        w.pos[made[k]] = s + k
    return more


@compiled
def anneal(w: Way, near: Any, steps: int, hot: float, cold: float, seed: int) -> Any:
    """Take moves at random, worse ones ever less often; return the best order that came by."""
    np.random.seed(seed)
    n = len(w.pos)
    made, stack = np.zeros(WINDOW, np.int64), np.zeros(n + 1, np.int64)
    now = best = _length(w)
    best_tour = w.tour.copy()
    cooling, t = (cold / hot) ** (1.0 / steps), hot
    for _ in range(steps):
        t *= cooling
        i, kind = np.random.randint(n), np.random.random()
        if kind < GATE_MOVES:
            now += _try_gate(w, i, t)
        elif kind < STRETCH_MOVES:
            s = w.pos[i]
            e = min(s + np.random.randint(LONGEST), w.start[w.phase[i] + 1] - 1) if np.random.random() < 0.5 else s
            now += _try_stretch(w, near, s, e, t)
        else:
            now += _try_reversed(w, near, i, made, stack, t)
        if now < best - 1e-9:
            best = now
            best_tour[:] = w.tour
    return best_tour


@compiled
def descend(w: Way, longest: int) -> bool:
    """Move every stretch to wherever that shortens the tour, once over all; tell whether anything did."""
    tour, ends, heat, n = w.tour, w.ends, w.heat, len(w.pos)
    better = False
    for size in range(1, longest + 1):
        for s in range(1, n - size + 2):
            e = s + size - 1
            i, last = tour[s], tour[e]
            low, high = w.start[w.phase[i]] - 1, w.start[w.phase[i] + 1] - 1
            if e > high:
                continue
            before, after = tour[s - 1], tour[e + 1]
            saved = _between(ends, heat, before, i) + _between(ends, heat, last, after) - _between(ends, heat, before, after)
            gain, where = 1e-7, -9
            for way in (-1, 1):
                q = s - 2 if way < 0 else e + 1
                while low <= q <= high:
                    left, right = tour[q], tour[q + 1]
                    g = saved + _between(ends, heat, left, right) - _between(ends, heat, left, i) - _between(ends, heat, last, right)
                    if g > gain:
                        if not _may_go(w, s, e, q):
                            break  # nor anywhere farther this way
                        gain, where = g, q
                    q += way
            if where != -9:
                _put(w, s, e, where, False)
                better = True
    return better
