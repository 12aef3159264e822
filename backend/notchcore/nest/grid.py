"""A first legal answer on a grid of cells: parts laid one after the other into the leftmost, lowest free place.

A sheet's column of cells is a row of 64-bit words. `taken[k]` tells of each cell whether any of the 2^k cells from it upwards is
taken; a run of cells of a part (one column of it, so many cells long) then hits something where two such bits, shifted by the
run's height, say so: all heights of a part in one column are tested with a few operations. A cell counts whenever a shape touches
it, so what is free on the grid is free in truth.
"""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from notchcore.geom.compiled import compiled
from notchcore.nest.overlaps import Shapes

EDGE = 1e-6  # [cells] a shape that ends exactly on a border does not touch the next cell
KEY = 1 << 12  # columns count this much more than rows when places are compared


class Runs(NamedTuple):
    """Every turned shape as runs of cells: columns and rows it spans, and its runs (column, row, length)."""

    columns: Any
    rows: Any
    start: Any
    end: Any
    column: Any
    row: Any
    length: Any


@compiled
def cells_touched(edges: Any, dx: float, dy: float, cell: float, columns: int, rows: int) -> Any:
    """Return a map of the cells that a shape at dx, dy touches, as far as they lie on the grid."""
    found = np.zeros((columns, rows), np.uint8)
    crossings = np.zeros(edges.shape[1])
    for c in range(columns):
        x = (c + 0.5) * cell - dx
        n = 0
        for k in range(edges.shape[1]):
            x1 = edges[0, k]
            x2 = edges[2, k]
            if (x1 > x) != (x2 > x):
                crossings[n] = edges[1, k] + (edges[3, k] - edges[1, k]) * (x - x1) / (x2 - x1) + dy
                n += 1
        sorted_up = np.sort(crossings[:n])
        for z in range(0, n - 1, 2):
            for r in range(max(0, math.floor(sorted_up[z] / cell + EDGE)), min(rows, math.ceil(sorted_up[z + 1] / cell - EDGE))):
                found[c, r] = 1
    for k in range(edges.shape[1]):
        x1 = (edges[0, k] + dx) / cell
        y1 = (edges[1, k] + dy) / cell
        x2 = (edges[2, k] + dx) / cell
        y2 = (edges[3, k] + dy) / cell
        if x1 > x2:
            x1, y1, x2, y2 = x2, y2, x1, y1
        c0 = math.floor(x1 + EDGE)
        c1 = max(math.ceil(x2 - EDGE) - 1, c0)
        for c in range(max(0, c0), min(columns - 1, c1) + 1):
            ya = y1
            yb = y2
            if x2 - x1 > 1e-12:
                ya = y1 + (y2 - y1) * (max(x1, float(c)) - x1) / (x2 - x1)
                yb = y1 + (y2 - y1) * (min(x2, float(c + 1)) - x1) / (x2 - x1)
            if ya > yb:
                ya, yb = yb, ya
            r0 = math.floor(ya + EDGE)
            r1 = max(math.ceil(yb - EDGE) - 1, r0)
            for r in range(max(0, r0), min(rows - 1, r1) + 1):
                found[c, r] = 1
    return found


@compiled
def _runs_of(shapes: Shapes, cell: float, wanted: Any, columns: Any, rows: Any, start: Any, end: Any) -> Any:
    """Return the runs of all wanted turned shapes, and write where each one's begin and end."""
    room = 1024
    found = np.zeros((3, room), np.int64)
    n = 0
    for s in range(len(columns)):
        start[s] = n
        end[s] = n
        if not wanted[s]:
            continue
        cells = cells_touched(shapes.edges[:, shapes.spans[s, 0] : shapes.spans[s, 1]], 0.0, 0.0, cell, columns[s], rows[s])
        for c in range(columns[s]):
            r = 0
            while r < rows[s]:
                if not cells[c, r]:
                    r += 1
                    continue
                low = r
                while r < rows[s] and cells[c, r]:
                    r += 1
                if n == room:
                    room *= 2
                    more = np.zeros((3, room), np.int64)
                    more[:, :n] = found
                    found = more
                found[0, n] = c
                found[1, n] = low
                found[2, n] = r - low
                n += 1
        end[s] = n
    return found[:, :n]


def runs_of(shapes: Shapes, cell: float, *, most_turns: int) -> Runs:
    """Return all shapes as runs of cells; of kinds with very many turns only some, evenly spread."""
    columns = np.maximum(1, np.ceil(shapes.width / cell - EDGE)).astype(np.int64)
    rows = np.maximum(1, np.ceil(shapes.height / cell - EDGE)).astype(np.int64)
    place = np.arange(len(columns)) - shapes.first[shapes.kind]
    wanted = place % np.maximum(1, shapes.turns[shapes.kind] // most_turns) == 0
    start, end = np.zeros(len(columns), np.int64), np.zeros(len(columns), np.int64)
    column, row, length = _runs_of(shapes, cell, wanted, columns, rows, start, end)
    return Runs(columns, rows, start, end, np.ascontiguousarray(column), np.ascontiguousarray(row), np.ascontiguousarray(length))


def empty_board(columns: int, rows: int, *, longest: int) -> Any:
    """Return the words of a sheet on which nothing lies: (powers, columns, words)."""
    words = (rows + 63) // 64
    return np.zeros((max(int(longest).bit_length(), 1), columns, 2 * words + 2), np.uint64)


@compiled
def _grow(taken: Any, column: int) -> None:
    words = taken.shape[2] // 2 - 1
    for k in range(1, taken.shape[0]):
        shift = 1 << (k - 1)
        whole = shift >> 6
        bits = np.uint64(shift & 63)
        for w in range(words):
            moved = taken[k - 1, column, w + whole] >> bits
            if bits > 0:
                moved |= taken[k - 1, column, w + whole + 1] << (np.uint64(64) - bits)
            taken[k, column, w] = taken[k - 1, column, w] | moved


@compiled
def block(taken: Any, cells: Any) -> None:
    """Take the cells of a map."""
    for c in range(cells.shape[0]):
        for r in range(cells.shape[1]):
            if cells[c, r]:
                taken[0, c, r >> 6] |= np.uint64(1) << np.uint64(r & 63)
        _grow(taken, c)


@compiled
def _or_shifted(hit: Any, taken: Any, k: int, column: int, height: int) -> None:
    whole = height >> 6
    bits = np.uint64(height & 63)
    for w in range(len(hit)):
        if bits == 0:
            hit[w] |= taken[k, column, w + whole]
        else:
            hit[w] |= (taken[k, column, w + whole] >> bits) | (taken[k, column, w + whole + 1] << (np.uint64(64) - bits))


@compiled
def _place_in(taken: Any, runs: Runs, s: int, column: int, valid: Any, hit: Any) -> int:
    """Return the lowest free row of a turned shape with its left side in a column; -1 for none."""
    hit[:] = 0
    for q in range(runs.start[s], runs.end[s]):
        length = runs.length[q]
        k = 0
        while (2 << k) <= length:
            k += 1
        at = column + runs.column[q]
        _or_shifted(hit, taken, k, at, runs.row[q])
        if length > (1 << k):
            _or_shifted(hit, taken, k, at, runs.row[q] + length - (1 << k))
        if (q & 3) == 3:
            full = True
            for w in range(len(hit)):
                if ~hit[w] & valid[w]:
                    full = False
                    break
            if full:
                return -1
    for w in range(len(hit)):
        free = ~hit[w] & valid[w]
        if free:
            r = 0
            while not (free >> np.uint64(r)) & np.uint64(1):
                r += 1
            return r + 64 * w
    return -1


@compiled
def _take(taken: Any, runs: Runs, s: int, column: int, row: int) -> None:
    """Take the cells of a turned shape."""
    for q in range(runs.start[s], runs.end[s]):
        for r in range(row + runs.row[q], row + runs.row[q] + runs.length[q]):
            taken[0, column + runs.column[q], r >> 6] |= np.uint64(1) << np.uint64(r & 63)
    for c in range(column, column + runs.columns[s]):
        _grow(taken, c)


@compiled
def _best_place(kind: int, shapes: Shapes, runs: Runs, taken: Any, columns: int, rows: int, begin: Any, hit: Any, valid: Any, count: Any) -> Any:
    """Return the turned shape of a kind that ends leftmost and then lowest, with its column and row; -1 for none."""
    best = 1 << 60
    best_s = -1
    best_x = 0
    best_y = 0
    for s in range(shapes.first[kind], shapes.first[kind] + shapes.turns[kind]):
        wide = runs.columns[s]
        high = runs.rows[s]
        if runs.start[s] == runs.end[s] or high > rows or wide > columns:
            continue
        for w in range(len(valid)):
            m = rows - high + 1 - 64 * w
            valid[w] = ~np.uint64(0) if m >= 64 else ((np.uint64(1) << np.uint64(m)) - np.uint64(1) if m > 0 else np.uint64(0))
        x = begin[s]
        y = -1
        while x <= columns - wide and (x + wide) * KEY < best:
            count[0] += 1
            y = _place_in(taken, runs, s, x, valid, hit)
            if y >= 0:
                break
            x += 1
        begin[s] = x
        if y >= 0 and (x + wide) * KEY + y + high < best:
            best = (x + wide) * KEY + y + high
            best_s = s
            best_x = x
            best_y = y
    return best_s, best_x, best_y


@compiled
def lay_down(
    order: Any,
    kinds: Any,
    shapes: Shapes,
    runs: Runs,
    taken: Any,
    columns: int,
    rows: int,
    turned: Any,
    column: Any,
    row: Any,
    enough: int,
    stop: Any,
    count: Any,
) -> Any:
    """Lay items on one sheet in this order, each leftmost and then lowest in whichever turn ends first.

    Writes the turned shape (-1: no place), column and row of each item; returns the columns used. Ends early, with what is
    placed so far, when `enough` columns are used or `stop` is set.
    """
    words = (rows + 63) // 64
    hit = np.zeros(words, np.uint64)
    valid = np.zeros(words, np.uint64)
    begin = np.zeros(len(runs.columns), np.int64)  # a sheet only fills up: no place further left than the last one
    used: Any = 0
    for i in order:
        turned[i] = -1
    for i in order:
        if stop[0]:
            break
        s, x, y = _best_place(kinds[i], shapes, runs, taken, columns, rows, begin, hit, valid, count)
        if s < 0:
            continue
        turned[i] = s
        column[i] = x
        row[i] = y
        used = max(used, x + runs.columns[s])
        if used >= enough:
            return used
        _take(taken, runs, s, x, y)
    return used
