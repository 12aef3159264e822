"""Shapes as bits: all places of a part on a sheet are tested at once.

A sheet is one whole number; bit `column * rows + row` is set where a cell is taken. A part is a set of blocks of cells.
With the sheet grown by a block's size, one bit tells whether that block would hit something; shifting by the block's
offset and or-ing over the blocks gives every place in which the part would hit something. Cells are marked whenever a
shape touches them, so a place that is free in bits is free in truth.

Block   a rectangle of cells: column, row, columns, rows, from the part's lower left corner
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from notchcore.geom.planar import Polygon, box, column_spans, moved, pieces
from notchcore.units import Mm

EDGE = 1e-6  # a shape that ends exactly on a cell border does not touch the next cell


@dataclass(frozen=True, slots=True)
class Stamp:
    """One part in one turn, as bits; (dx, dy) brings the turned part's own origin to the stamp's corner [mm]."""

    turn: int
    dx: Mm
    dy: Mm
    columns: int
    rows: int
    blocks: tuple[tuple[int, int, int, int], ...]  #: largest first


def stamp_of(shape: Polygon, *, turn: int, cell: Mm) -> Stamp:
    """Return the stamp of a grown, turned shape."""
    x0, y0, x1, y1 = shape.bounds
    at_zero = moved(shape, (1.0, 0.0, 0.0, 1.0, -x0, -y0))
    columns, rows = max(math.ceil((x1 - x0) / cell - EDGE), 1), max(math.ceil((y1 - y0) / cell - EDGE), 1)
    runs: list[list[tuple[int, int]]] = []
    for spans in column_spans(at_zero, cell, columns):
        merged: list[tuple[int, int]] = []
        for low, high in sorted((max(int(low / cell + EDGE), 0), min(math.ceil(high / cell - EDGE), rows)) for low, high in spans):
            if merged and low <= merged[-1][1]:
                merged[-1] = (merged[-1][0], max(high, merged[-1][1]))
            elif high > low:
                merged.append((low, high))
        runs.append(merged)
    return Stamp(turn=turn, dx=-x0, dy=-y0, columns=columns, rows=rows, blocks=_blocks(runs))


def _blocks(runs: list[list[tuple[int, int]]]) -> tuple[tuple[int, int, int, int], ...]:
    """Return blocks that together fill the runs of all columns: each run as wide as its rows stay taken."""
    found: set[tuple[int, int, int, int]] = set()
    for c, column in enumerate(runs):
        for low, high in column:
            if c and (low, high) in runs[c - 1]:
                continue  # the same block as one column before
            first, last = c, c
            while first > 0 and any(a <= low and high <= b for a, b in runs[first - 1]):
                first -= 1
            while last + 1 < len(runs) and any(a <= low and high <= b for a, b in runs[last + 1]):
                last += 1
            found.add((first, low, last - first + 1, high - low))
    return tuple(sorted(found, key=lambda b: (-b[2] * b[3], b)))


@lru_cache(maxsize=4096)
def _bits_of(stamp: Stamp, rows: int) -> int:
    """Return the cells of a stamp in the lower left corner of a sheet with so many rows."""
    bits = 0
    for c, r, width, height in stamp.blocks:
        bits |= _repeated(((1 << height) - 1) << r, width, rows) << (c * rows)
    return bits


def _repeated(column: int, count: int, rows: int) -> int:
    """Return one column's bits side by side `count` times; by doubling, since a loop over columns would be slow."""
    filled, block = 1, column
    while filled < count:
        block |= block << (filled * rows)
        filled *= 2
    return block & ((1 << (count * rows)) - 1)


class Board:
    """The taken cells of one sheet."""

    def __init__(self, *, columns: int, rows: int, blocked: int = 0) -> None:
        self.columns, self.rows = columns, rows
        self.taken = blocked
        self._grown: dict[tuple[int, int], int] = {}
        self._valid: dict[tuple[int, int], int] = {}

    def place_for(self, stamp: Stamp) -> tuple[int, int] | None:
        """Return the first free place, leftmost column first, then lowest row; None when there is none."""
        if stamp.columns > self.columns or stamp.rows > self.rows:
            return None
        free = self._valid_for(stamp)
        for column, row, width, height in stamp.blocks:
            across, up = width.bit_length() - 1, height.bit_length() - 1
            grown = self._grown_by(across, up)
            for c in {column, column + width - (1 << across)}:
                for r in {row, row + height - (1 << up)}:
                    free &= ~(grown >> (c * self.rows + r))
            if free == 0:
                return None
        first = (free & -free).bit_length() - 1
        return divmod(first, self.rows)

    def _grown_by(self, across: int, up: int) -> int:
        """Return the sheet in which a bit tells if any cell of the next 2^across columns by 2^up rows is taken."""
        key = (across, up)
        if key not in self._grown:
            if up:
                last = self._grown_by(across, up - 1)
                self._grown[key] = last | (last >> (1 << (up - 1)))
            elif across:
                last = self._grown_by(across - 1, 0)
                self._grown[key] = last | (last >> (self.rows << (across - 1)))
            else:
                self._grown[key] = self.taken
        return self._grown[key]

    def _valid_for(self, stamp: Stamp) -> int:
        key = (stamp.columns, stamp.rows)
        if key not in self._valid:
            self._valid[key] = _repeated((1 << (self.rows - stamp.rows + 1)) - 1, self.columns - stamp.columns + 1, self.rows)
        return self._valid[key]

    def put(self, stamp: Stamp, column: int, row: int) -> None:
        """Take the cells of a stamp whose corner lies in (column, row)."""
        self.taken |= _bits_of(stamp, self.rows) << (column * self.rows + row)
        self._grown = {}


def blocked_outside(shape: Polygon, *, columns: int, rows: int, cell: Mm) -> int:
    """Return the bits of all cells that do not lie wholly inside a sheet's usable shape, whose corner is at 0, 0."""
    outside = box(-cell, -cell, (columns + 1) * cell, (rows + 1) * cell).difference(shape)
    bits = 0
    full = (1 << rows) - 1
    for piece in pieces(outside):
        for c, spans in enumerate(column_spans(piece, cell, columns)):
            for low, high in spans:
                first, last = max(int(low / cell + EDGE), 0), min(math.ceil(high / cell - EDGE), rows)
                if last > first:
                    bits |= ((((1 << (last - first)) - 1) << first) & full) << (c * rows)
    return bits
