"""What an order of cuts begins with: the nearest way, and what lies near each path. Compiled."""

from __future__ import annotations

from typing import Any

import numpy as np

from notchcore.geom.compiled import compiled


@compiled
def nearest_tour(enter: Any, leave: Any, count: Any, parent: Any, phase: Any) -> Any:
    """Return the tour that always goes to the nearest path that is free to be cut, and its gates."""
    n = len(count)
    waiting = np.zeros(n, np.int64)  # children not cut yet
    for i in range(n):
        if parent[i] >= 0:
            waiting[parent[i]] += 1
    done = np.zeros(n, np.bool_)
    tour = np.zeros(n, np.int64)
    gate = np.zeros(n, np.int64)
    x = 0.0
    y = 0.0
    now = 0
    for k in range(n):
        best = -1
        while best < 0:
            least = 1e300
            for i in range(n):
                if done[i] or waiting[i] > 0 or phase[i] != now:
                    continue
                for g in range(count[i]):
                    d = (enter[i, g, 0] - x) ** 2 + (enter[i, g, 1] - y) ** 2
                    if d < least:
                        least = d
                        best = i
                        gate[i] = g
            if best < 0:
                now += 1
        tour[k] = best
        done[best] = True
        if parent[best] >= 0:
            waiting[parent[best]] -= 1
        x = leave[best, gate[best], 0]
        y = leave[best, gate[best], 1]
    return tour, gate


@compiled
def neighbours(enter: Any, count: Any, phase: Any, most: int) -> Any:
    """Return for each path those of its phase that lie nearest, by some of their gates: (paths, most), -1 where there are no more."""
    n = len(count)
    found = np.full((n, most), -1, np.int64)
    far = np.zeros(most)
    for i in range(n):
        held = 0
        step_i = max(1, count[i] // 4)
        for j in range(n):
            if i == j or phase[i] != phase[j]:
                continue
            step_j = max(1, count[j] // 4)
            least = 1e300
            for g in range(0, count[i], step_i):
                for h in range(0, count[j], step_j):
                    d = (enter[i, g, 0] - enter[j, h, 0]) ** 2 + (enter[i, g, 1] - enter[j, h, 1]) ** 2
                    least = min(least, d)
            if held == most and least >= far[most - 1]:
                continue
            k = min(held, most - 1)
            while k > 0 and far[k - 1] > least:
                far[k] = far[k - 1]
                found[i, k] = found[i, k - 1]
                k -= 1
            far[k] = least
            found[i, k] = j
            held = min(held + 1, most)
    return found
