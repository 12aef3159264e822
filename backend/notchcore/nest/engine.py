"""The packing engine: a legal answer at once, better ones as long as there is work to spend.

First the grid (`grid`), for several orders of the parts; then separation (`search`): a strip is made shorter again and again, a
sheet is emptied into the others or exchanged for a cheaper one, and the last sheet is used as little as can be. Every answer that
leaves here has passed an exact check of its own (`gate`).

The same problem, seed and budget give the same answer: work is counted in places tried, and the clock only ends it early.
"""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence
from concurrent.futures import ThreadPoolExecutor, wait
from dataclasses import dataclass, replace
from functools import partial
from typing import Any

import numpy as np

from notchcore.geom.planar import Polygon, box, pieces
from notchcore.geom.profile import bounds_of
from notchcore.nest import grid
from notchcore.nest.gate import answer_faults
from notchcore.nest.prepare import Prepared, Wanted, prepared
from notchcore.nest.problem import Answer, PartKind, Placed, Problem, SheetSpec, checked
from notchcore.nest.search import Fixed, Search, Snapshot, Work
from notchcore.units import Mm

CELLS: tuple[Mm, ...] = (2.0, 1.0)  # of the grid, coarse first
MOST_COLUMNS = 1500
LANES = 2  # searchers
TURNS = 30  # after each of so many equal turns searchers tell each other their best
ENDED = object()
ASKED = 0.1  # [s] between two questions whether somebody wants an end
PLACES_A_SECOND = 400_000  # that a searcher tries on an ordinary machine: what a budget for some seconds is reckoned with
GRID_TURNS = 8  # at most so many turns of a part are tried on the grid
LONGEST_STRIP = 3.0  # of the length that the area alone needs, for the first answer
STRIP_SAMPLES, SHEET_SAMPLES = (50, 25), (30, 20)
FULL = 0.98  # no sheets are filled beyond this share of their area
LEAST_STEP = 0.001  # of a strip's length
GRID_SHARE, EXPLORE_SHARE = 0.2, 0.84  # of the budget for a strip, at which the grid and exploring end
SQUEEZE_SHARE = 0.25  # ... and at most for each part that found no place on the grid
BIN_GRID_SHARE, FEWER_SHARE = 0.12, 0.6  # ... for sheets, at which the grid and doing with fewer sheets end


@dataclass(frozen=True, slots=True)
class _Sheet:
    """One sheet, shrunk by the margin less half the spacing: its corner and size, and which kind and copy it is."""

    kind: int
    copy: int
    x: Mm
    y: Mm
    width: Mm
    height: Mm
    area: float
    cost: float


@dataclass(frozen=True, slots=True)
class _Task:
    """A problem in flat arrays."""

    problem: Problem
    prepared: Prepared
    items: list[int]
    sheets: list[_Sheet]
    fixed: list[Fixed]
    left: list[tuple[int, int, str]]

    def answer(self, kept: Snapshot, width: Mm) -> Answer:
        """Return where everything lies as a value; what lies on no sheet is left."""
        placed, missing = [], dict[int, int]()
        inset = self.problem.margin - self.problem.spacing / 2
        for kind, t, x, y, s in zip(self.items, *kept, strict=True):
            if s < 0:
                missing[kind] = missing.get(kind, 0) + 1
                continue
            sheet, corner = self.sheets[s], self.prepared.corner[t]
            placed.append(Placed(part=kind, sheet=sheet.kind, copy=sheet.copy, turn=float(self.prepared.degrees[t]), x=float(x + sheet.x - corner[0]),
                                 y=float(y + sheet.y - corner[1])))  # fmt: skip
        left = (*self.left, *((k, n, "the sheets are full") for k, n in sorted(missing.items())))
        net = float(sum(self.prepared.area[p.part] for p in placed))
        if self.problem.strip_height is not None:
            length = float(width + 2 * inset) if placed else 0.0
            density = net / (length * self.problem.strip_height) if placed else 0.0
            return Answer(placed=tuple(placed), left=left, length=length, density=density, sheets=1 if placed else 0)
        used = {(p.sheet, p.copy) for p in placed}
        area = sum(self.problem.sheets[k].polygon().area for k, _ in used)
        cost = sum(self.problem.sheets[k].cost for k, _ in used)
        return Answer(placed=tuple(placed), left=left, density=net / area if area else 0.0, cost=cost, sheets=len(used))


Score = tuple[float, ...]  #: lower is better; of a strip its width, of sheets: parts left, price, sheets, how far the emptiest is used
Found = tuple[Score, Snapshot]


class _Lane:
    """One searcher of several. All begin from the best that any has found; what they find is exchanged when all pause."""

    def __init__(self, task: _Task, number: int, seed: int, work: Work) -> None:
        self.task, self.number, self.work = task, number, work
        self.random = np.random.default_rng((seed, number))
        self.search = Search(task.prepared, task.items, task.fixed, [s.width for s in task.sheets], [s.height for s in task.sheets],
                             seed * LANES + number + 1, work)  # fmt: skip
        self.best: Found | None = None

    def found(self, score: Score, kept: Snapshot) -> bool:
        """Keep what was found when it is better; tell whether it is."""
        if self.best is not None and score >= self.best[0]:
            return False
        self.best = (score, kept)
        return True

    def beaten(self, score: Score) -> bool:
        return self.best is not None and self.best[0] < score


def solve(problem: Problem, work: Work, *, seed: int = 1, on_better: Callable[[Answer], None] = lambda _: None, lanes: int = 2) -> Answer:
    """Return the best legal answer found.

    Args:
        work: how much may be done
        on_better: called with every improvement, already checked
        lanes: how many searchers, each with a thread of its own
    Raises:
        NestError: the problem makes no sense; names the field
    """
    problem = checked(problem)
    task = _prepared_task(problem)
    if not task.items:
        return Answer(placed=(), left=tuple(task.left))
    best = Answer(placed=(), left=(*task.left, *((k, task.items.count(k), "stopped before the first answer") for k in sorted(set(task.items)))))

    def lawful(found: Found) -> bool:
        """Publish what passes the exact check."""
        nonlocal best
        answer = task.answer(found[1], found[0][0])
        if answer_faults(problem, answer):
            return False
        best = answer
        on_better(answer)
        return True

    _together(task, [_Lane(task, i, seed, work.twin()) for i in range(lanes)], lawful)
    return replace(best, left=tuple((k, n, _why_left(task, k) or why) for k, n, why in best.left)) if best.left else best


def warm() -> None:
    """Run every kernel once on small problems, so that all are compiled and kept."""
    ring = ((0.0, 0.0), (30.0, 0.0), (30.0, 10.0), (8.0, 10.0), (8.0, 30.0), (0.0, 30.0))
    hole = ((2.0, 2.0), (2.0, 4.5), (4.5, 4.5), (4.5, 2.0))
    parts = (PartKind(id="a", outer=ring, holes=(hole,), count=9, turns=(0.0, 90.0, 180.0)),)
    sheet = SheetSpec(
        id="s", outer=((0.0, 0.0), (90.0, 0.0), (90.0, 60.0), (40.0, 90.0), (0.0, 90.0)), bad=(((5.0, 5.0), (9.0, 5.0), (9.0, 9.0)),), count=3, cost=1.0
    )
    for problem in (Problem(name="strip", parts=parts, spacing=1.0, strip_height=70.0), Problem(name="sheets", parts=parts, spacing=1.0, sheets=(sheet,))):
        solve(problem, Work(30_000))


def _together(task: _Task, lanes: list[_Lane], lawful: Callable[[Found], bool]) -> None:
    """Let all searchers work in turns of the same length, each in a thread; after each turn all take up the best lawful one."""
    way = _strip if task.problem.strip_height is not None else _bins
    running = {lane.number: way(lane) for lane in lanes}
    best: Found | None = None

    def advance(number: int) -> bool:
        return next(running[number], ENDED) is ENDED

    with ThreadPoolExecutor(len(lanes)) as pool:
        turn = 0
        while running:
            for lane in lanes:
                lane.work.pause_at = turn / TURNS
            advancing = {number: pool.submit(advance, number) for number in running}
            while wait(advancing.values(), timeout=ASKED).not_done:
                if lanes[0].work.ends():
                    lanes[0].work.stop[0] = 1
            for number, ended in advancing.items():
                if ended.result():
                    del running[number]
            for lane in sorted(lanes, key=lambda x: (x.best is None, x.best[0] if x.best else ())):
                if lane.best is not None and (best is None or lane.best[0] < best[0]) and lawful(lane.best):
                    best = lane.best
            for lane in lanes:
                lane.best = best
            turn = max(turn + 1, int(min(lane.work.share for lane in lanes) * TURNS) + 1)


# --- from a problem to arrays -----------------------------------------------------------------------------------------
def _prepared_task(problem: Problem) -> _Task:
    kinds = [Wanted(shape=p.polygon(), turns=p.turns) for p in problem.parts]
    sheets, hazards = _strip_sheet(problem) if problem.strip_height is not None else _usable_sheets(problem)
    ready = prepared([*kinds, *(Wanted(shape=shape, fixed=True) for _, shape in hazards)], problem.spacing)
    fixed = [Fixed(kind=len(kinds) + i, sheet=s, x=shape.bounds[0] - sheets[s].x, y=shape.bounds[1] - sheets[s].y) for i, (s, shape) in enumerate(hazards)]
    items, left = [], []
    for k, p in enumerate(problem.parts):
        why = _why_nowhere(k, ready, sheets, problem)
        if why and p.count:
            left.append((k, p.count, why))
        else:
            items += [k] * p.count
    return _Task(problem, ready, items, sheets, fixed, left)


def _why_nowhere(kind: int, ready: Prepared, sheets: list[_Sheet], problem: Problem) -> str:
    """Tell why a part fits no sheet at all; empty when its box fits one."""
    shapes = ready.shapes
    turned = range(shapes.first[kind], shapes.first[kind] + shapes.turns[kind])
    strip = problem.strip_height is not None
    if any((strip or shapes.width[t] <= s.width) and shapes.height[t] <= s.height for t in turned for s in sheets):
        return ""
    return _nowhere(problem.parts[kind])


def _nowhere(part: PartKind) -> str:
    x0, y0, x1, y1 = bounds_of(part.outer)
    return f"{x1 - x0:.1f} × {y1 - y0:.1f} mm does not fit any sheet inside its margin, in any turn that is allowed"


def _why_left(task: _Task, kind: int) -> str:
    """Tell why a part would not even fit on an empty sheet; empty when it would, or when that is known already."""
    if kind not in task.items:
        return ""
    only = replace(task, items=[kind], left=[])
    finest = max(CELLS[-1], max(max(s.width, s.height) for s in task.sheets) / MOST_COLUMNS)
    kept, _ = _Grid(only, finest, Work(1)).lay(np.zeros(1, np.int64), list(range(len(task.sheets))))
    return "" if kept[3][0] >= 0 else _nowhere(task.problem.parts[kind])


def _strip_sheet(problem: Problem) -> tuple[list[_Sheet], list[tuple[int, Polygon]]]:
    inset = problem.margin - problem.spacing / 2
    height = (problem.strip_height or 0.0) - 2 * inset
    return [_Sheet(0, 0, inset, inset, 1e6, height, 1e6 * height, 0.0)], []


def _usable_sheets(problem: Problem) -> tuple[list[_Sheet], list[tuple[int, Polygon]]]:
    """Return every sheet as a box, and what of each box nothing may lie on."""
    inset = problem.margin - problem.spacing / 2
    sheets: list[_Sheet] = []
    hazards: list[tuple[int, Polygon]] = []
    for k, spec in enumerate(problem.sheets):
        room = pieces(spec.polygon().buffer(-inset, join_style="mitre"))
        if not room:
            continue
        usable = max(room, key=lambda p: p.area)
        x0, y0, x1, y1 = usable.bounds
        around = box(x0, y0, x1, y1)
        blocked = [p for p in pieces(around.difference(usable)) if p.area > 1e-3]
        blocked += [p for b in spec.bad for p in pieces(Polygon(b).buffer(problem.spacing / 2, join_style="mitre").intersection(around)) if p.area > 1e-6]
        for copy in range(spec.count):
            hazards += [(len(sheets), p) for p in blocked]
            sheets.append(_Sheet(k, copy, x0, y0, x1 - x0, y1 - y0, usable.area - sum(Polygon(b).area for b in spec.bad), spec.cost))
    return sheets, hazards


# --- the grid ---------------------------------------------------------------------------------------------------------
class _Grid:
    """Boards of one cell size for all sheets of a task."""

    def __init__(self, task: _Task, cell: Mm, work: Work, columns: int | None = None) -> None:
        self.task, self.cell, self.work = task, cell, work
        shapes = task.prepared.shapes
        self.runs = grid.runs_of(shapes, cell, GRID_TURNS)
        longest = int(self.runs.length.max()) if len(self.runs.length) else 1
        self.size = [(columns or int(s.width / cell + 1e-9), int(s.height / cell + 1e-9)) for s in task.sheets]
        self.kinds = np.array(task.items, np.int64)
        self.blocked: list[Any] = []
        for i, (across, up) in enumerate(self.size):
            board = grid.empty_board(max(across, 1), max(up, 1), longest)
            for f in task.fixed:
                if f.sheet == i:
                    t = shapes.first[f.kind]
                    cells = grid.cells_touched(shapes.edges, shapes.spans[t, 0], shapes.spans[t, 1], f.x, f.y, cell, max(across, 1), max(up, 1))
                    grid.block(board, cells)
            self.blocked.append(board)

    def lay(self, order: Any, supply: list[int], enough: int = 1 << 40) -> tuple[Snapshot, float]:
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
            reached = grid.lay_down(left, self.kinds, task.prepared.shapes, self.runs, board, columns, rows, turned, column, row, enough, self.work.stop,
                                    self.work.count)  # fmt: skip
            here = left[turned[left] >= 0]
            kept[0][here], kept[3][here] = turned[here], s
            kept[1][here], kept[2][here] = column[here] * self.cell, row[here] * self.cell
            left = left[turned[left] < 0]
            used = reached if len(here) else used
        return kept, used * self.cell


def _orders(task: _Task) -> list[Any]:
    """Return the orders to begin with: large first, by four measures."""
    shapes, kinds = task.prepared.shapes, np.array(task.items, np.int64)
    hull, reach, area = task.prepared.hull, shapes.reach, task.prepared.area
    return [np.argsort(-key[kinds], kind="stable") for key in (hull * reach, hull, reach, area)]


def _changed(order: Any, random: Any) -> Any:
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


# --- a strip ----------------------------------------------------------------------------------------------------------
def _strip(lane: _Lane) -> Generator[None, None, None]:
    """Make the strip as short as can be."""
    task, work, random = lane.task, lane.work, lane.random
    net = float(sum(task.prepared.area[k] for k in task.items))
    height = task.sheets[0].height
    enough = LONGEST_STRIP * net / height + 2 * float(task.prepared.shapes.reach.max())
    orders = _orders(task)
    order = orders[0]
    for stage, finest in enumerate(CELLS):
        cell = max(finest, enough / MOST_COLUMNS)
        board = _Grid(task, cell, work, int(enough / cell) + 8)
        tried, until = lane.number, GRID_SHARE * (stage + 1) / len(CELLS)
        while tried == lane.number or not work.over(until):
            trial = orders[tried] if tried < len(orders) else _changed(order, random)
            limit = int(lane.best[0][0] / cell) + 1 if lane.best is not None else 1 << 40
            kept, used = board.lay(trial, [0], limit)
            tried += 1
            if (kept[3] >= 0).all() and (lane.best is None or used <= lane.best[0][0]):
                lane.found((used,), kept)
                order = trial
            if work.paused:
                yield
    if lane.best is None:  # the grid found no place for everything in so long a strip
        _in_a_row(lane)
    yield from _shorten(lane)


def _in_a_row(lane: _Lane) -> None:
    shapes, height, x = lane.task.prepared.shapes, lane.task.sheets[0].height, 0.0
    for i, k in enumerate(lane.task.items):
        t = next(t for t in range(shapes.first[k], shapes.first[k] + shapes.turns[k]) if shapes.height[t] <= height)
        lane.search.put(i, t, x, 0.0, 0)
        x += shapes.width[t]
    lane.found((x,), lane.search.snapshot())


def _begun(lane: _Lane, step: float) -> Score:
    """Take up the best again, on a strip shorter by a step; return the best's score."""
    assert lane.best is not None
    score, kept = lane.best
    lane.search.restore(kept)
    lane.search.widths[0] = score[0]
    lane.search.squeeze(0, score[0] * (1 - step), float(lane.random.uniform(0, score[0])))
    return score


def _shorten(lane: _Lane) -> Generator[None, None, None]:
    """Explore shorter strips, each begun from the best legal one squeezed at a random cut; at the end only tiny steps."""
    work, random, search = lane.work, lane.random, lane.search
    step = 0.01
    while not work.over(EXPLORE_SHARE):
        score = _begun(lane, step)
        pool: list[tuple[float, Snapshot]] = []
        while not work.over(EXPLORE_SHARE) and not lane.beaten(score):
            small = step <= LEAST_STEP * 1.01
            patience, strikes = (100, 3) if small else (25, 1)
            done, loss, snap = yield from search.separate(
                [0], patience=patience, strikes=strikes, samples=STRIP_SAMPLES, share=EXPLORE_SHARE, give_up=partial(lane.beaten, score)
            )
            if done:
                search.restore(snap)
                lane.found((search.used(0),), snap)
                step = min(0.03, step * 1.5)
                break
            if lane.beaten(score):
                break
            if not small:  # too greedy
                step = max(LEAST_STEP, step / 3)
                score = _begun(lane, step)
                continue
            pool.append((loss, snap))
            pool.sort(key=lambda p: p[0])
            pick = min(len(pool) - 1, int(abs(random.normal(0, 0.25)) * len(pool)))
            search.restore(pool[pick][1])
            search.swap_two()
    while not work.over():
        f = (work.share - EXPLORE_SHARE) / (1 - EXPLORE_SHARE)
        score = _begun(lane, 0.0005 * (1 - f) + 0.00001 * f)
        done, _, snap = yield from search.separate([0], patience=50, strikes=2, samples=STRIP_SAMPLES, share=1.0, give_up=partial(lane.beaten, score))
        if done:
            search.restore(snap)
            lane.found((search.used(0),), snap)


# --- sheets -----------------------------------------------------------------------------------------------------------
def _score(lane: _Lane, kept: Snapshot) -> Score:
    used = sorted({int(s) for s in kept[3] if s >= 0})
    cost = sum(lane.task.sheets[s].cost for s in used)
    lane.search.restore(kept)
    return float((kept[3] < 0).sum()), round(cost, 6), float(len(used)), min((lane.search.used(s) for s in used), default=0.0)


def _supplies(task: _Task) -> list[list[int]]:
    """Return orders in which to open sheets: as given, cheapest for their area, cheapest, largest."""
    every = list(range(len(task.sheets)))
    keys: list[Callable[[int], tuple[float, ...]]] = [
        lambda s: (0.0,),
        lambda s: (task.sheets[s].cost / task.sheets[s].area, -task.sheets[s].area),
        lambda s: (task.sheets[s].cost, -task.sheets[s].area),
        lambda s: (-task.sheets[s].area,),
    ]
    found: list[list[int]] = []
    for key in keys:
        order = sorted(every, key=key)
        if order not in found:
            found.append(order)
    return found


def _bins(lane: _Lane) -> Generator[None, None, None]:
    """Lay everything on as few and as cheap sheets as can be, and leave much of one of them whole."""
    task, work, random = lane.task, lane.work, lane.random
    supplies, orders = _supplies(task), _orders(task)
    order, supply = orders[0], supplies[0]
    longest = max(max(s.width, s.height) for s in task.sheets)
    for stage, cell in enumerate(CELLS):
        board = _Grid(task, max(cell, longest / MOST_COLUMNS), work)
        tried, first = lane.number, len(orders) * len(supplies)
        while tried == lane.number or not work.over(BIN_GRID_SHARE * (stage + 1) / len(CELLS)):
            if tried < first:
                a, b = orders[tried % len(orders)], supplies[tried // len(orders)]
            else:
                a, b = _changed(order, random), supply
            kept, _ = board.lay(a, b)
            tried += 1
            if work.stop[0] and lane.best is not None:
                break
            if lane.found(_score(lane, kept), kept):
                order, supply = a, b
            if work.paused:
                yield
    yield from _squeezed_in(lane)
    if lane.best is not None and lane.best[0][0] == 0:
        yield from _fewer_sheets(lane)
        yield from _keep_remnant(lane)


def _squeezed_in(lane: _Lane) -> Generator[None, None, None]:
    """Bring what found no place on the grid onto the sheets all the same, the smallest first."""
    task, work, search = lane.task, lane.work, lane.search
    every = range(len(task.sheets))
    failed: set[int] = set()
    while lane.best is not None and lane.best[0][0] > 0 and not work.over():
        score, kept = lane.best
        net = sum(task.prepared.area[k] for k, s in zip(task.items, kept[3], strict=True) if s >= 0)
        room = FULL * sum(s.area for s in task.sheets) - net
        left = sorted((task.prepared.area[k], i) for i, k in enumerate(task.items) if kept[3][i] < 0 and k not in failed)
        if not left or left[0][0] > room:
            return
        item = left[0][1]
        search.restore(kept)
        done = False
        if _thrown_in(lane, item, every):
            until = min(work.share + SQUEEZE_SHARE, 1.0)
            done, _, snap = yield from search.separate(every, patience=60, strikes=2, samples=SHEET_SAMPLES, share=until, give_up=partial(lane.beaten, score))
        if done:
            lane.found(_score(lane, snap), snap)
        elif not lane.beaten(score):
            failed.add(task.items[item])


def _used_sheets(kept: Snapshot) -> list[int]:
    return sorted({int(s) for s in kept[3] if s >= 0})


def _held(task: _Task, kept: Snapshot, sheet: int) -> float:
    return float(sum(task.prepared.area[k] for k, s in zip(task.items, kept[3], strict=True) if s == sheet))


def _exchanges(task: _Task, kept: Snapshot) -> list[tuple[int, tuple[int, ...]]]:
    """Return which sheet to give up and which to use then, the largest saving first, as far as the area bound allows."""
    used = _used_sheets(kept)
    net = float(sum(task.prepared.area[k] for k in task.items))
    found = []
    for v in used:
        rest = [s for s in used if s != v]
        cheaper = [s for s in range(len(task.sheets)) if s not in used and task.sheets[s].cost < task.sheets[v].cost - 1e-9]
        alike: set[tuple[float, float]] = set()  # equal sheets need not be tried one by one
        for u in [None, *cheaper]:
            open_sheets = rest if u is None else sorted([*rest, u])
            kind = (task.sheets[u].cost, task.sheets[u].area) if u is not None else (0.0, 0.0)
            if kind in alike or not open_sheets or net > FULL * sum(task.sheets[s].area for s in open_sheets):
                continue
            alike.add(kind)
            found.append((kind[0] - task.sheets[v].cost, _held(task, kept, v), v, tuple(open_sheets)))
    return [(v, o) for _, _, v, o in sorted(found)]


def _fewer_sheets(lane: _Lane) -> Generator[None, None, None]:
    """Empty one sheet after the other into the rest, or exchange it for a cheaper one."""
    task, work, search = lane.task, lane.work, lane.search
    failed: set[tuple[int, ...]] = set()
    while not work.over(FEWER_SHARE):
        assert lane.best is not None
        score, kept = lane.best
        options = [(v, o) for v, o in _exchanges(task, kept) if o not in failed]
        if not options:
            return
        v, open_sheets = options[0]
        until = min(FEWER_SHARE, work.share + (FEWER_SHARE - work.share) / min(len(options), 3))
        search.restore(kept)
        moving = [i for i in range(search.movable) if search.state.sheet[i] == v]
        done = False
        if all(_thrown_in(lane, i, open_sheets) for i in moving):
            while not done and not work.over(until) and not lane.beaten(score):
                done, _, snap = yield from search.separate(
                    open_sheets, patience=60, strikes=2, samples=SHEET_SAMPLES, share=until, give_up=partial(lane.beaten, score)
                )
        if done:
            lane.found(_score(lane, snap), snap)
        elif not lane.beaten(score):
            failed.add(open_sheets)


def _thrown_in(lane: _Lane, item: int, open_sheets: Sequence[int]) -> bool:
    """Put an item anywhere on some open sheet that is large enough; tell whether there is one."""
    search, shapes, random = lane.search, lane.search.shapes, lane.random
    kind = int(search.kinds[item])
    fitting = [
        (t, s) for s in open_sheets for t in range(shapes.first[kind], shapes.first[kind] + shapes.turns[kind])
        if shapes.width[t] <= search.widths[s] and shapes.height[t] <= search.heights[s]
    ]  # fmt: skip
    if not fitting:
        return False
    t, s = fitting[int(random.integers(len(fitting)))]
    search.put(item, t, float(random.random() * (search.widths[s] - shapes.width[t])), float(random.random() * (search.heights[s] - shapes.height[t])), s)
    return True


def _keep_remnant(lane: _Lane) -> Generator[None, None, None]:
    """Use the emptiest sheet as little as can be: it is made narrower, and what has no place there goes to the others."""
    work, search, task = lane.work, lane.search, lane.task
    whole = search.widths.copy()
    step = 0.06
    while not work.over() and step > LEAST_STEP / 4:
        assert lane.best is not None
        score, kept = lane.best
        used = _used_sheets(kept)
        v = min(used, key=lambda s: (_held(task, kept, s) / task.sheets[s].area, s))
        search.restore(kept)
        search.widths[:] = whole
        width = search.used(v)
        narrower = width * (1 - step)
        search.widths[v] = narrower
        for i in range(search.movable):
            if search.state.sheet[i] == v and search.shapes.width[search.state.turned[i]] > narrower:
                _thrown_in(lane, i, used)
        search.widths[v] = width
        search.squeeze(v, narrower, float(lane.random.uniform(0, width)))
        patience, strikes = (25, 1) if step > 0.004 else (60, 2)
        done, _, snap = yield from search.separate(
            used, patience=patience, strikes=strikes, samples=SHEET_SAMPLES, share=1.0, give_up=partial(lane.beaten, score)
        )
        search.widths[:] = whole
        if done:
            lane.found(_score(lane, snap), snap)
        elif not lane.beaten(score):
            step /= 2
