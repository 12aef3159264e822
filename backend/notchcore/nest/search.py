"""Separation: parts that overlap are moved until none does, on as many sheets as are open."""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from notchcore.nest import kernels
from notchcore.nest.kernels import Scratch, State
from notchcore.nest.prepare import Prepared
from notchcore.units import Mm

PROGRESS = 0.98  # less overlap than this share of before counts as getting on
BEGINNING = 200  # places that beginning a separation counts as
BIG = 0.75  # share of all hull area that the larger items have, of which two are swapped


class Work:
    """How much has been done, counted in places tried, so that the same budget gives the same answer.

    Args:
        budget: places that each searcher may try
        spent: the share of the time that is over; a slow machine gets through the same stages with less work in each, and
            everything ends at 1
        ends: asked some times a second by the thread that began the work: whether somebody wants an end now
    `stop[0]` is then set to 1; so may any other thread, to end even inside a pass.
    """

    def __init__(self, budget: int, spent: Callable[[], float] = lambda: 0.0, ends: Callable[[], bool] = lambda: False, stop: Any = None) -> None:
        self.budget = max(budget, 1)
        self.spent = spent
        self.ends = ends
        self.stop = np.zeros(1, np.int64) if stop is None else stop
        self.count = np.zeros(1, np.int64)
        self.pause_at = 0.0  #: share at which a searcher waits for the others

    def twin(self) -> Work:
        """Return the same for another searcher: its own count, the same end."""
        return Work(self.budget, self.spent, self.ends, self.stop)

    @property
    def share(self) -> float:
        return max(float(self.count[0]) / self.budget, self.spent())

    @property
    def paused(self) -> bool:
        return self.share >= self.pause_at

    def over(self, share: float = 1.0) -> bool:
        """Tell whether this share of the work is done, or somebody wants an end."""
        return bool(self.stop[0]) or self.share >= share


@dataclass(frozen=True, slots=True)
class Fixed:
    """Something that does not move: where its lower left corner lies, on which sheet."""

    kind: int
    sheet: int
    x: Mm
    y: Mm


Snapshot = tuple[Any, Any, Any, Any]


class Search:
    """Where all items lie, how they overlap, and how long each pair has resisted."""

    def __init__(
        self,
        prepared: Prepared,
        items: Sequence[int],
        fixed: Sequence[Fixed],
        widths: Sequence[Mm],
        heights: Sequence[Mm],
        seed: int,
        work: Work,
        locked: int = 0,
    ):
        """Args:
        locked: how many of the fixed, the first of them, are parts: they use a sheet as others do
        """
        self.parts = len(items) + locked
        self.prepared, self.shapes, self.work = prepared, prepared.shapes, work
        self.kinds = np.array([*items, *(f.kind for f in fixed)], np.int64)
        self.movable = len(items)
        n = len(self.kinds)
        first = self.shapes.first[self.kinds]
        self.state = State(turned=first.copy(), x=np.zeros(n), y=np.zeros(n), right=np.zeros(n), top=np.zeros(n), sheet=np.full(n, -1, np.int64))
        for i, f in enumerate(fixed):
            kernels.put(self.shapes, self.state, self.movable + i, first[self.movable + i], f.x, f.y, f.sheet)
        self.widths, self.heights = np.array(widths, float), np.array(heights, float)
        self.weights, self.losses = np.ones((n, n)), np.zeros((n, n))
        most = int((self.shapes.spans[:, 1] - self.shapes.spans[:, 0]).max())
        start = np.array([(seed * 0x9E3779B97F4A7C15) % 2**64 | 1], np.uint64)
        self.scratch = Scratch(near=np.zeros((4, most + 1)), met=np.zeros(n, np.bool_), count=work.count, random=start, stop=work.stop)
        self.random = np.random.default_rng(seed)

    def snapshot(self) -> Snapshot:
        s, m = self.state, self.movable
        return s.turned[:m].copy(), s.x[:m].copy(), s.y[:m].copy(), s.sheet[:m].copy()

    def restore(self, kept: Snapshot) -> None:
        s, m = self.state, self.movable
        s.turned[:m], s.x[:m], s.y[:m], s.sheet[:m] = kept
        self._ends()

    def _ends(self) -> None:
        s, m = self.state, self.movable
        s.right[:m] = s.x[:m] + self.shapes.width[s.turned[:m]]
        s.top[:m] = s.y[:m] + self.shapes.height[s.turned[:m]]

    def put(self, item: int, turned: int, *, x: Mm, y: Mm, sheet: int) -> None:
        kernels.put(self.shapes, self.state, item, turned, x, y, sheet)

    def measure(self) -> float:
        return float(kernels.measure(self.shapes, self.state, self.losses, self.movable, self.scratch))

    def used(self, sheet: int) -> Mm:
        """Return how far to the right a sheet is used."""
        mine = self.state.sheet[: self.parts] == sheet
        return float(self.state.right[: self.parts][mine].max()) if mine.any() else 0.0

    def squeeze(self, sheet: int, width: Mm, *, cut: Mm) -> None:
        """Make a sheet narrower: what lies right of a cut moves left by as much, and nothing reaches out."""
        s, m = self.state, self.movable
        mine = s.sheet[:m] == sheet
        right = mine & ((s.x[:m] + s.right[:m]) / 2 > cut)
        s.x[:m][right] -= self.widths[sheet] - width
        self.widths[sheet] = width
        most = np.maximum(width - self.shapes.width[s.turned[:m]], 0)
        s.x[:m][mine] = np.clip(s.x[:m], 0, most)[mine]
        self._ends()

    def separate(
        self, open_sheets: Sequence[int], *, patience: int, strikes: int, samples: tuple[int, int], share: float, give_up: Callable[[], bool]
    ) -> Generator[None, None, tuple[bool, float, Snapshot]]:
        """Move parts until none overlaps, or no headway is made; pauses between passes when the work says so.

        Args:
            patience: passes without headway until the best so far is taken up again
            strikes: how often that may happen without gain
            share: of the work, at which it ends anyway
            give_up: asked after a pause: whether somebody else found better than this could become
        Returns:
            whether nothing overlaps any more, the least overlap, and where the parts lay then
        """
        self.work.count[0] += BEGINNING  # so that beginning again and again comes to an end too
        self.weights[:] = 1.0
        least = self.measure()
        best = self.snapshot()
        if least <= 0:
            return True, 0.0, best
        open_list = np.array(sorted(open_sheets), np.int64)
        struck = 0
        while struck < strikes:
            idle, before = 0, least
            while idle < patience:
                if self.work.over(share):
                    return False, least, best
                if self.work.paused:
                    yield
                    if give_up():
                        return False, least, best
                now = float(
                    kernels.one_pass(
                        self.shapes, self.state, self.weights, self.losses, self.movable, self.widths, self.heights, open_list, *samples, self.scratch
                    )
                )
                if now <= 0 and not self.work.stop[0]:
                    return True, 0.0, self.snapshot()
                idle = 0 if now < least * PROGRESS else idle + 1
                if now < least:
                    least, best = now, self.snapshot()
            struck = struck + 1 if least > before * PROGRESS else 0
            self.restore(best)
            self.measure()
        return False, least, best

    def swap_two(self) -> None:
        """Let two of the larger items, of different kinds where there are any, change places, each with what lies in it."""
        hull = self.prepared.hull[self.kinds[: self.movable]]
        if len(hull) < 2:
            return
        order = np.argsort(-hull, kind="stable")
        big = order[: max(2, int((np.cumsum(hull[order]) / hull.sum() < BIG).sum()))]
        for _ in range(10):
            a, b = (int(i) for i in self.random.choice(big, 2, replace=False))
            if self.kinds[a] != self.kinds[b]:
                break
        s, m = self.state, self.movable
        inside = [
            np.flatnonzero((s.sheet[:m] == s.sheet[i]) & (s.x[:m] > s.x[i]) & (s.right[:m] < s.right[i]) & (s.y[:m] > s.y[i]) & (s.top[:m] < s.top[i]))
            for i in (a, b)
        ]
        middles = [((s.x[i] + s.right[i]) / 2, (s.y[i] + s.top[i]) / 2, int(s.sheet[i])) for i in (a, b)]
        for i, (x, y, sheet), along in ((a, middles[1], inside[0]), (b, middles[0], inside[1])):
            before = s.x[i], s.y[i]
            self._lay(i, x, y=y, sheet=sheet)
            dx, dy = s.x[i] - before[0], s.y[i] - before[1]
            for j in along:
                self._lay(int(j), (s.x[j] + s.right[j]) / 2 + dx, y=(s.y[j] + s.top[j]) / 2 + dy, sheet=sheet)

    def _lay(self, item: int, x: Mm, *, y: Mm, sheet: int) -> None:
        """Lay an item with its middle there, or as near as the sheet allows."""
        t = int(self.state.turned[item])
        w, h = self.shapes.width[t], self.shapes.height[t]
        most_x, most_y = max(self.widths[sheet] - w, 0.0), max(self.heights[sheet] - h, 0.0)
        self.put(item, t, x=min(max(x - w / 2, 0.0), most_x), y=min(max(y - h / 2, 0.0), most_y), sheet=sheet)
