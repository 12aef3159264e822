"""The grid: what is free there is free in truth, and the leftmost, lowest free place is found."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import Polygon, box

from notchcore.nest import grid
from notchcore.nest.prepare import Prepared, Wanted, prepared

ROWS, COLUMNS = 70, 90  # more than one word high


def square(w: float, h: float) -> Polygon:
    return Polygon([(0, 0), (w, 0), (w, h), (0, h)])


def blade(w: float, h: float, bite: float) -> Polygon:
    return Polygon([(0, 0), (w, 0), (w * 0.6, h), (w * 0.5, h * bite), (0, h * 0.8)])


shapes = st.one_of(
    st.builds(square, st.floats(1, 60), st.floats(1, 60)),
    st.builds(blade, st.floats(4, 70), st.floats(4, 60), st.floats(0.1, 0.9)),
    st.builds(
        lambda r, n: Polygon([(r + r * math.cos(2 * math.pi * k / n), r + r * math.sin(2 * math.pi * k / n)) for k in range(n)]),
        st.floats(2, 25),
        st.integers(3, 20),
    ),
)


def outline(ready: Prepared, turned: int) -> Polygon:
    a, b = ready.shapes.spans[turned, :2]
    return Polygon(ready.shapes.edges[:2, a:b].T)


@settings(max_examples=40, deadline=None)
@given(shapes, st.floats(-20, 60), st.floats(-20, 50), st.sampled_from([1.0, 2.0, 1.7]))
def test_every_cell_that_a_shape_touches_is_marked_and_none_far_from_it(shape: Polygon, dx: float, dy: float, cell: float) -> None:
    ready = prepared([Wanted(shape=shape)], 0.0)
    s = ready.shapes
    marked = grid.cells_touched(s.edges, dx, dy, cell, 30, 25)
    there = affinity.translate(outline(ready, 0), dx, dy)
    for c in range(30):
        for r in range(25):
            square_of = box(c * cell, r * cell, (c + 1) * cell, (r + 1) * cell)
            if there.intersection(square_of).area > 1e-4:
                assert marked[c, r]
            if there.distance(square_of) > cell * 1e-3:
                assert not marked[c, r]


def laid(ready: Prepared, kinds: list[int], board: Any, cell: float) -> tuple[list[int], list[tuple[int, int]], int]:
    runs = grid.runs_of(ready.shapes, cell, most_turns=8)
    turned, column, row = (np.zeros(len(kinds), np.int64) for _ in range(3))
    used = grid.lay_down(
        np.arange(len(kinds)),
        np.array(kinds, np.int64),
        ready.shapes,
        runs,
        board,
        COLUMNS,
        ROWS,
        turned,
        column,
        row,
        1 << 40,
        np.zeros(1, np.int64),
        np.zeros(1, np.int64),
    )
    return [int(t) for t in turned], [(int(c), int(r)) for c, r in zip(column, row, strict=True)], int(used)


@settings(max_examples=25, deadline=None)
@given(st.lists(shapes, min_size=1, max_size=8), st.sampled_from([(0.0,), (0.0, 90.0), (0.0, 45.0, 200.0)]))
def test_what_is_laid_on_the_grid_overlaps_nothing_and_what_is_not_had_no_place(polygons: list[Polygon], turns: tuple[float, ...]) -> None:
    cell = 2.0
    ready = prepared([Wanted(shape=p, turns=turns) for p in polygons], 0.0)
    longest = max(int(grid.runs_of(ready.shapes, cell, most_turns=8).length.max()), 1)
    board = grid.empty_board(COLUMNS, ROWS, longest=longest)
    blocked = np.zeros((COLUMNS, ROWS), np.uint8)
    blocked[10:20, 5:40] = 1
    grid.block(board, blocked)
    turned, at, used = laid(ready, list(range(len(polygons))), board, cell)
    placed = [affinity.translate(outline(ready, t), c * cell, r * cell) for t, (c, r) in zip(turned, at, strict=True) if t >= 0]
    stop = box(10 * cell, 5 * cell, 20 * cell, 40 * cell)
    for i, a in enumerate(placed):
        assert box(-1e-6, -1e-6, COLUMNS * cell + 1e-6, ROWS * cell + 1e-6).covers(a)
        assert a.intersection(stop).area < 1e-3
        assert all(a.intersection(b).area < 1e-3 for b in placed[:i])
    assert all(t >= 0 for t in turned)  # eight small parts have room on a board of 180 x 140
    assert used == max(math.ceil(a.bounds[2] / cell - 1e-6) for a in placed)


def test_parts_go_left_first_and_then_down() -> None:
    ready = prepared([Wanted(shape=square(20, 20))], 0.0)
    board = grid.empty_board(COLUMNS, ROWS, longest=20)
    _, at, used = laid(ready, [0] * 5, board, 1.0)
    assert at == [(0, 0), (0, 20), (0, 40), (20, 0), (20, 20)]
    assert used == 40


@pytest.mark.parametrize(("high", "fits"), [(70.0, True), (70.5, False)])
def test_what_is_exactly_as_high_as_the_sheet_fits(high: float, fits: bool) -> None:
    ready = prepared([Wanted(shape=square(10, high))], 0.0)
    turned, _, _ = laid(ready, [0], grid.empty_board(COLUMNS, ROWS, longest=71), 1.0)
    assert (turned[0] >= 0) == fits
