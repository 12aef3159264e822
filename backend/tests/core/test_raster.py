"""Shapes as bits, against the plain way of doing the same."""

from __future__ import annotations

from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.affinity import translate
from shapely.geometry import Polygon, box

from notchcore.nest.raster import Board, Stamp, _bits_of, blocked_outside, stamp_of

CELL = 2.0
points = st.tuples(st.floats(0, 40), st.floats(0, 40))
shapes = st.one_of(
    st.builds(lambda w, h: box(0, 0, w, h), st.floats(1, 30), st.floats(1, 30)),
    st.builds(lambda w, h, a: box(0, 0, w, h).difference(box(a, a, w + 1, h + 1)), st.floats(12, 30), st.floats(12, 30), st.floats(2, 9)),
    st.builds(lambda r: Polygon([(20, 20), (20 + r, 20), (20, 20 + r)]), st.floats(3, 18)),
    st.builds(lambda r, h: box(0, 0, r, r).difference(box(h, h, r - h, r - h)), st.floats(14, 30), st.floats(2, 5)),
)


def cells(stamp: Stamp) -> set[tuple[int, int]]:
    return {(c + i, r + j) for c, r, w, h in stamp.blocks for i in range(w) for j in range(h)}


def touched(shape: Polygon) -> set[tuple[int, int]]:
    x0, y0, x1, y1 = shape.bounds
    at_zero = translate(shape, -x0, -y0)
    found = set()
    for c in range(int((x1 - x0) / CELL) + 1):
        for r in range(int((y1 - y0) / CELL) + 1):
            if at_zero.intersection(box(c * CELL, r * CELL, (c + 1) * CELL, (r + 1) * CELL)).area > 1e-4:
                found.add((c, r))
    return found


@settings(max_examples=60, deadline=None)
@given(shapes)
def test_a_stamp_marks_every_cell_that_its_shape_touches(shape: Polygon) -> None:
    stamp = stamp_of(shape, turn=0, cell=CELL)
    assert touched(shape) <= cells(stamp)
    assert all(c < stamp.columns and r < stamp.rows for c, r in cells(stamp))
    whole = cells(stamp)  # and few more: each lies beside one that is touched
    assert all(any((c + i, r + j) in touched(shape) for i in (-1, 0, 1) for j in (-1, 0, 1)) for c, r in whole)


@settings(max_examples=60, deadline=None)
@given(st.lists(shapes, min_size=1, max_size=6), st.integers(8, 24), st.integers(8, 24))
def test_the_first_free_place_is_the_one_that_a_plain_search_finds(some: list[Polygon], columns: int, rows: int) -> None:
    board = Board(columns=columns, rows=rows)
    taken: set[tuple[int, int]] = set()
    for shape in some:
        stamp = stamp_of(shape, turn=0, cell=CELL)
        mine = cells(stamp)
        plain = next(
            ((c, r) for c in range(columns - stamp.columns + 1) for r in range(rows - stamp.rows + 1) if not any((c + i, r + j) in taken for i, j in mine)),
            None,
        )
        found = board.place_for(stamp)
        assert found == plain
        if found is not None:
            board.put(stamp, *found)
            taken |= {(found[0] + i, found[1] + j) for i, j in mine}
    assert {divmod(b, rows) for b in range(columns * rows) if board.taken >> b & 1} == taken


@settings(max_examples=40, deadline=None)
@given(shapes, st.integers(20, 30))
def test_a_stamps_bits_are_its_cells(shape: Polygon, rows: int) -> None:
    stamp = stamp_of(shape, turn=0, cell=CELL)
    bits = _bits_of(stamp, rows)
    assert {divmod(b, rows) for b in range(bits.bit_length()) if bits >> b & 1} == cells(stamp)


def test_cells_outside_an_offcut_are_taken() -> None:
    offcut = Polygon([(0, 0), (40, 0), (40, 10), (10, 40), (0, 40)])
    blocked = blocked_outside(offcut, columns=20, rows=20, cell=CELL)
    for c in range(20):
        for r in range(20):
            cell = box(c * CELL, r * CELL, (c + 1) * CELL, (r + 1) * CELL)
            free = not blocked >> (c * 20 + r) & 1
            assert not free or offcut.buffer(1e-6).covers(cell)
            assert free or not offcut.buffer(-1e-6).contains(cell.buffer(0.1))
