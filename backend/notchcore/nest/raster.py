"""Shapes as bits: all places of a part on a sheet are tested at once.

A sheet is one whole number; bit `column * rows + row` is set where a cell is taken. A part is a list of runs of cells down
each column. Shifting the sheet by a run's offset and or-ing gives every place in which that run would hit something. Cells
are marked whenever a shape touches them, so a place that is free in bits is free in truth.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

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
    runs: tuple[tuple[int, int, int], ...]  #: column, first row, length


def stamp_of(shape: Polygon, *, turn: int, cell: Mm) -> Stamp:
    """Return the stamp of a grown, turned shape."""
    x0, y0, x1, y1 = shape.bounds
    at_zero = moved(shape, (1.0, 0.0, 0.0, 1.0, -x0, -y0))
    columns, rows = max(math.ceil((x1 - x0) / cell - EDGE), 1), max(math.ceil((y1 - y0) / cell - EDGE), 1)
    runs: list[tuple[int, int, int]] = []
    for c, spans in enumerate(column_spans(at_zero, cell, columns)):
        taken = sorted((max(int(low / cell + EDGE), 0), min(math.ceil(high / cell - EDGE), rows)) for low, high in spans)
        for low, high in taken:
            if runs and runs[-1][0] == c and low <= runs[-1][1] + runs[-1][2]:
                first = runs[-1][1]
                runs[-1] = (c, first, max(high, first + runs[-1][2]) - first)
            elif high > low:
                runs.append((c, low, high - low))
    return Stamp(turn=turn, dx=-x0, dy=-y0, columns=columns, rows=rows, runs=tuple(runs))


class Board:
    """The taken cells of one sheet."""

    def __init__(self, *, columns: int, rows: int, blocked: int = 0) -> None:
        self.columns, self.rows = columns, rows
        self.taken = blocked
        self._grown: list[int] = []
        self._valid: dict[tuple[int, int], int] = {}

    def place_for(self, stamp: Stamp) -> tuple[int, int] | None:
        """Return the first free place, leftmost column first, then lowest row; None when there is none."""
        if stamp.columns > self.columns or stamp.rows > self.rows:
            return None
        if not self._grown:
            self._grow()
        hits = 0
        for column, row, length in stamp.runs:
            step = length.bit_length() - 1
            at = column * self.rows + row
            grown = self._grown[min(step, len(self._grown) - 1)]
            hits |= grown >> at
            hits |= grown >> (at + length - (1 << step))
        free = ~hits & self._valid_for(stamp)
        if free == 0:
            return None
        first = (free & -free).bit_length() - 1
        return divmod(first, self.rows)

    def _grow(self) -> None:
        """Make, for each power of two, the sheet in which a bit tells if any of the next 2^k cells is taken."""
        self._grown = [self.taken]
        step = 1
        while step < self.rows:
            last = self._grown[-1]
            self._grown.append(last | (last >> step))
            step *= 2

    def _valid_for(self, stamp: Stamp) -> int:
        key = (stamp.columns, stamp.rows)
        if key not in self._valid:
            column = (1 << (self.rows - stamp.rows + 1)) - 1
            mask, count, block = 0, self.columns - stamp.columns + 1, column
            filled = 1
            while filled < count:  # doubling: a loop over columns would be slow
                block |= block << (filled * self.rows)
                filled *= 2
            mask = block & ((1 << (count * self.rows)) - 1)
            self._valid[key] = mask
        return self._valid[key]

    def put(self, stamp: Stamp, column: int, row: int) -> None:
        """Take the cells of a stamp whose corner lies in (column, row)."""
        bits = 0
        for c, r, length in stamp.runs:
            bits |= ((1 << length) - 1) << (c * self.rows + r)
        self.taken |= bits << (column * self.rows + row)
        self._grown = []


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
