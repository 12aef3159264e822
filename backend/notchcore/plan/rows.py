"""The rows of engraved areas: where they burn, how wide they are, and which way of running them is faster."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from itertools import pairwise

from notchcore.geom.profile import Ring
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Machine
from notchcore.plan.motion import sweep_time
from notchcore.units import Mm

FASTER = 0.02  # rows run across the longer side only where that saves such a share

Stretch = tuple[Mm, Mm]  # from, to along a row
Rows = dict[int, list[Stretch]]  # by number of the row, its burning stretches in order


def _level_edges(points: Sequence[Vec2], low: Mm, *, interval: Mm) -> Iterator[tuple[int, Mm]]:
    """Yield for each row, by number, the places along it where an edge of the area crosses it."""
    for (ax, ay), (bx, by) in pairwise((*points, points[0])):
        (px, py), (qx, qy) = ((ax, ay), (bx, by)) if ay <= by else ((bx, by), (ax, ay))
        if py == qy:
            continue
        first, last = math.ceil((py - low) / interval - 0.5 - 1e-9), math.ceil((qy - low) / interval - 0.5 - 1e-9)
        for k in range(first, last):
            yield k, px + (qx - px) * (low + (k + 0.5) * interval - py) / (qy - py)


def _united(stretches: list[Stretch]) -> list[Stretch]:
    found: list[Stretch] = []
    for low, high in sorted(stretches):
        if found and low <= found[-1][1]:
            found[-1] = (found[-1][0], max(found[-1][1], high))
        else:
            found.append((low, high))
    return found


def lowest(rings: Sequence[Ring], *, upright: bool) -> Mm:
    """Return where the first row begins."""
    return min(p[0 if upright else 1] for ring in rings for p in ring)


def rows_over(rings: Sequence[Ring], interval: Mm, *, upright: bool, low: Mm) -> Rows:
    """Return the burning rows over areas, those of overlapping areas united.

    Args:
        interval: between rows [mm]
        upright: rows run along y
        low: where row 0 begins [mm]
    """
    met: defaultdict[int, list[Stretch]] = defaultdict(list)
    for ring in rings:
        crossings: defaultdict[int, list[Mm]] = defaultdict(list)
        for k, x in _level_edges([(y, x) for x, y in ring] if upright else ring, low, interval=interval):
            crossings[k].append(x)
        for k, some in crossings.items():
            ends = sorted(some)
            met[k] += zip(ends[::2], ends[1::2], strict=True)
    return {k: _united(some) for k, some in met.items()} if len(rings) > 1 else dict(met)


def raster_rows(rings: Sequence[Ring], interval: Mm, *, upright: bool) -> tuple[Vec2, ...]:
    """Return the burning rows of areas as one path to and fro, along x or, upright, along y; two points a stretch; empty when no row meets them."""
    low = lowest(rings, upright=upright)
    path: list[Vec2] = []
    for k, stretches in sorted(rows_over(rings, interval, upright=upright, low=low).items()):
        row = [(x, low + (k + 0.5) * interval) for stretch in stretches for x in stretch]
        path += row if k % 2 == 0 else row[::-1]
    return tuple((y, x) for x, y in path) if upright else tuple(path)


def widths_of(rows: Rows) -> list[Mm]:
    """Return how wide each sweep is, from the first to the last that burns on its row."""
    return [stretches[-1][1] - stretches[0][0] for stretches in rows.values()]


def raster_times(rings: Sequence[Ring], speed: float, *, interval: Mm, machine: Machine) -> dict[bool, float]:
    """Return the time to engrave areas once [s] for rows along x (False) and along y (True)."""
    return {
        upright: sweep_time(widths_of(rows_over(rings, interval, upright=upright, low=lowest(rings, upright=upright))), speed, machine=machine)
        for upright in (False, True)
    }


def faster_way(rings: Sequence[Ring], times: dict[bool, float]) -> bool:
    """Return whether rows run along y: the faster of the two ways, along the longer side when equal."""
    xs, ys = [p[0] for r in rings for p in r], [p[1] for r in rings for p in r]
    tall = max(ys) - min(ys) > max(xs) - min(xs)
    return min(times, key=lambda way: (times[way] > (1 - FASTER) * times[tall], way is not tall))


def raster_time(rings: Sequence[Ring], speed: float, *, interval: Mm, machine: Machine) -> tuple[float, bool]:
    """Return the time to engrave areas once [s], and whether its rows run along y."""
    times = raster_times(rings, speed, interval=interval, machine=machine)
    upright = faster_way(rings, times)
    return times[upright], upright


def sweeps_of(rows: Sequence[Vec2]) -> list[Mm]:
    """Return how wide each sweep over burning stretches is, from the first to the last on one row; two points make a stretch."""
    widths: list[Mm] = []
    level: tuple[float, float] | None = None
    first = (0.0, 0.0)
    for a, b in zip(rows[::2], rows[1::2], strict=True):
        on = (a[0], 0.0) if abs(a[0] - b[0]) < abs(a[1] - b[1]) else (0.0, a[1])
        if on != level:
            widths.append(0.0)
            level, first = on, a
        widths[-1] = math.dist(first, b)
    return widths
