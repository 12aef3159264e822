"""The shortest way through all paths that keeps what must come first.

Tour      an order of the paths, and for each the gate at which the beam enters it
Parent    the path that must come after a path (the smallest closed one around it): the forest of these is the whole constraint inside a phase
Phase     paths of one phase come before all of the next; phases lie one after the other in the tour
Cost      the sum of the gaps between one path's end and the next one's start, from home on; gaps below `heat` count as more than `heat`,
          so that the beam does not go on where it is hot

Nearest neighbour, then annealing with moved stretches, reversed stretches (families put right again) and changed gates, then descent.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from notchcore.geom.vectors import Vec2
from notchcore.plan.tourkernels import Way, anneal, best_gates, descend
from notchcore.plan.tourseeds import nearest_tour, neighbours
from notchcore.units import Mm

FEWEST = 2  # paths that have an order
NEAR = 10  # neighbours beside which a stretch may be put
STEPS_A_PATH = 5000  # of annealing
LEAST_STEPS = 300_000
MOST_STEPS = 1_600_000
TRIES, FEW = 2, 400  # so many times for at most so many paths
LONGEST_LAST = 3  # ... when it only descends
ROUNDS = 20  # of descent; one
MANY = 2000  # paths and more
HOT, COLD = 0.5, 0.005  # first and last temperature, as shares of the mean gap

Gate = tuple[Vec2, Vec2]  # where the beam enters a path, and where it then leaves it


def shortest(
    gates: Sequence[Sequence[Gate]], closed: Sequence[bool], *, parent: Sequence[int], phase: Sequence[int], heat: Mm = 0.0, seed: int = 1
) -> tuple[list[int], list[int]]:
    """Return an order of the paths, and the gate of each in that order; the same arguments give the same answer.

    Args:
        gates: of each path, one at least; an open path has its two ends, the second the first one the other way round
        closed: whether a path ends where it begins
        parent: the path that must come after it, -1 for none; without rings, and of its own phase or a later one
        phase: numbers; all paths of one come before all of a higher one
        heat: how far the next path should begin from where the last one ended
    """
    n = len(gates)
    numbers = np.unique(np.array(phase, np.int64), return_inverse=True)[1]
    ends = np.zeros((n, max(map(len, gates)), 2, 2))
    for i, some in enumerate(gates):
        ends[i, : len(some)] = some
    enter, leave = np.ascontiguousarray(ends[:, :, 0]), np.ascontiguousarray(ends[:, :, 1])
    count = np.array([len(some) for some in gates], np.int64)
    up = np.array(parent, np.int64)
    up = np.where((up >= 0) & (numbers[up] == numbers), up, -1)  # across phases it holds anyway
    tour, gate = _searched(enter, leave, count=count, closed=np.array(closed, np.bool_), parent=up, phase=numbers, heat=heat, seed=seed)
    return tour.tolist(), gate[tour].tolist()


def _framed(tour: Any) -> Any:
    """Return a tour from home to nothing."""
    return np.concatenate([[len(tour)], tour, [len(tour) + 1]]).astype(np.int64)


def _searched(enter: Any, leave: Any, *, count: Any, closed: Any, parent: Any, phase: Any, heat: Mm, seed: int) -> tuple[Any, Any]:
    tour, gate = nearest_tour(enter, leave, count, parent, phase)
    n = len(count)
    order = np.argsort(parent, kind="stable")
    kids = order[np.count_nonzero(parent < 0) :].astype(np.int64)
    w = Way(
        tour=_framed(tour),
        pos=np.argsort(tour) + 1,
        gate=gate,
        ends=np.zeros((n + 2, 4)),
        enter=enter,
        leave=leave,
        count=count,
        closed=closed,
        parent=parent,
        first=np.searchsorted(parent[kids], np.arange(n + 1)).astype(np.int64),
        kids=kids,
        start=np.concatenate([[1], 1 + np.cumsum(np.bincount(phase))]).astype(np.int64),
        phase=phase,
        heat=float(heat),
    )
    cost = best_gates(w)
    if n < FEWEST:
        return tour, w.gate
    kept = cost, tour.copy(), w.gate.copy()
    steps = min(max(STEPS_A_PATH * n, LEAST_STEPS), MOST_STEPS)
    mean = max(cost / n, 1e-6)
    near = neighbours(enter, count, phase, NEAR)
    for k in range(TRIES if n <= FEW else 1):
        begun = w._replace(tour=_framed(tour), pos=np.argsort(tour) + 1)
        best_gates(begun)
        tried = _descended(begun, anneal(begun, near, steps, HOT * mean, COLD * mean, seed + k))
        kept = min(kept, tried, key=lambda found: found[0])
    return kept[1:]


def _descended(w: Way, tour: Any) -> tuple[float, Any, Any]:
    """Return the cost, order and gates of a tour once no stretch that is moved makes it shorter."""
    n = len(tour) - 2
    w = w._replace(tour=tour, pos=np.argsort(tour[1:-1]) + 1)
    cost = best_gates(w)
    rounds = ROUNDS if n <= MANY else 1
    while rounds and descend(w, LONGEST_LAST):
        rounds -= 1
        less = best_gates(w)
        if less > cost - 1e-6:
            break
        cost = less
    return cost, w.tour[1:-1], w.gate.copy()


def warm() -> None:
    """Run every kernel once, so that all are compiled and kept."""
    square = [((0.0, 0.0), (0.0, 0.0)), ((9.0, 0.0), (9.0, 0.0))]
    line = [((20.0, 5.0), (40.0, 5.0)), ((40.0, 5.0), (20.0, 5.0))]
    shortest([square, line, square, line], [True, False, True, False], parent=[2, -1, -1, -1], phase=[0, 0, 0, 1])
