"""First answers: boards of cells for the sheets of a task, and orders in which to fill them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from notchcore.nest import grid
from notchcore.nest.problem import nowhere
from notchcore.nest.search import Snapshot, Work
from notchcore.nest.task import Task
from notchcore.units import Mm
from notchcore.words.facts import Sentence

CELLS: tuple[Mm, ...] = (2.0, 1.0)  # of the grid, coarse first
MOST_COLUMNS = 1500
TRIES_A_PART = 20  # orders are tried on each grid: few parts have few
GRID_TURNS = 8  # at most so many turns of a part are tried on the grid


class Boards:
    """Boards of one cell size for all sheets of a task."""

    def __init__(self, task: Task, cell: Mm, work: Work, columns: int | None = None) -> None:
        self.task, self.cell, self.work = task, cell, work
        shapes = task.prepared.shapes
        self.runs = grid.runs_of(shapes, cell, most_turns=GRID_TURNS)
        longest = int(self.runs.length.max()) if len(self.runs.length) else 1
        self.size = [(columns or int(s.width / cell + 1e-9), int(s.height / cell + 1e-9)) for s in task.sheets]
        self.kinds = np.array(task.items, np.int64)
        self.blocked: list[Any] = []
        alike: dict[int, Any] = {}  # equal sheets without locked parts begin as the same board
        for i, (across, up) in enumerate(self.size):
            kind = task.sheets[i].kind
            if i not in task.held and kind in alike:
                self.blocked.append(alike[kind])
                continue
            board = grid.empty_board(max(across, 1), max(up, 1), longest=longest)
            for f in task.fixed:
                if f.sheet == i:
                    t = shapes.first[f.kind]
                    cells = grid.cells_touched(shapes.edges[:, shapes.spans[t, 0] : shapes.spans[t, 1]], f.x, f.y, cell, max(across, 1), max(up, 1))
                    grid.block(board, cells)
            self.blocked.append(board)
            if i not in task.held:
                alike[kind] = board

    def lay(self, order: Any, supply: list[int], *, enough: int = 1 << 40) -> tuple[Snapshot, float]:
        """Lay items in this order on sheets in theirs; return where they lie and how far the last sheet is used [mm]."""
        task, n = self.task, len(self.kinds)
        turned, column, row = np.zeros(n, np.int64), np.zeros(n, np.int64), np.zeros(n, np.int64)
        kept = (task.prepared.shapes.first[self.kinds].copy(), np.zeros(n), np.zeros(n), np.full(n, -1, np.int64))
        left, used = order, 0
        for s in supply:
            if not len(left):
                break
            columns, rows = self.size[s]
            if columns < 1 or rows < 1:
                continue
            board = self.blocked[s].copy()
            reached = grid.lay_down(
                left, self.kinds, task.prepared.shapes, self.runs, board, columns, rows, turned, column, row, enough, self.work.stop, self.work.count
            )
            here = left[turned[left] >= 0]
            kept[0][here], kept[3][here] = turned[here], s
            kept[1][here], kept[2][here] = column[here] * self.cell, row[here] * self.cell
            left = left[turned[left] < 0]
            used = reached if len(here) else used
        return kept, used * self.cell


def orders_of(task: Task) -> list[Any]:
    """Return the orders to begin with: large first, by four measures."""
    shapes, kinds = task.prepared.shapes, np.array(task.items, np.int64)
    hull, reach, area = task.prepared.hull, shapes.reach, task.prepared.area
    return [np.argsort(-key[kinds], kind="stable") for key in (hull * reach, hull, reach, area)]


def changed(order: Any, random: Any) -> Any:
    """Return an order with up to three items moved or swapped."""
    order = order.copy()
    for _ in range(random.integers(1, 4)):
        a, b = random.integers(len(order), size=2)
        if random.random() < 0.5:
            order[a], order[b] = order[b], order[a]
        else:
            item = order[a]
            order = np.insert(np.delete(order, a), b, item)
    return order


def why_left(task: Task, kinds: Iterable[int]) -> dict[int, Sentence]:
    """Tell of the parts that would not even fit on an empty sheet why they lie nowhere; of others, and where that is known already, nothing."""
    asked = [k for k in kinds if k in task.items]
    if not asked:
        return {}
    finest = max(CELLS[-1], max(max(s.width, s.height) for s in task.sheets) / MOST_COLUMNS)
    boards = Boards(task, finest, Work(1))
    empty = {s.kind: i for i, s in enumerate(task.sheets) if i not in task.held}
    some = sorted({*empty.values(), *task.held})
    laid = {k: boards.lay(np.array([task.items.index(k)], np.int64), some)[0][3] for k in asked}
    return {k: nowhere(task.problem.parts[k]) for k, sheets in laid.items() if sheets.max() < 0}
