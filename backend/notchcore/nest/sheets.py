"""Sheets that are there: as cheap and as few as can be, and one of them used as little as can be."""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence
from functools import partial

from notchcore.nest.first import CELLS, MOST_COLUMNS, TRIES_A_PART, Boards, changed, orders_of
from notchcore.nest.problem import Prefer
from notchcore.nest.search import Snapshot
from notchcore.nest.task import Lane, Score, Task

SAMPLES = (30, 20)  # places tried all over the open sheets, and around its own, when a part is moved
FULL = 0.98  # no sheets are filled beyond this share of their area
LEAST_STEP = 0.00025  # of the width that is used
SQUEEZE_SHARE = 0.25  # of the work, at most for each part that found no place on the grid
GRID_SHARE, FEWER_SHARE = 0.12, 0.6  # ... at which the grid and doing with fewer sheets end


def _score(lane: Lane, kept: Snapshot) -> Score:
    used = _used_sheets(lane.task, kept)
    cost = sum(lane.task.sheets[s].cost for s in used)
    least = min((lane.task.used_width(kept, s) for s in used), default=0.0)
    first, then = (round(cost, 6), float(len(used))) if lane.task.problem.prefer is Prefer.PRICE else (float(len(used)), round(cost, 6))
    return float((kept[3] < 0).sum()), first, then, least


def _supplies(task: Task) -> list[list[int]]:
    """Return orders in which to open sheets: cheapest for their area, cheapest, as given, largest; the last first for the fewest sheets."""
    every = list(range(len(task.sheets)))
    keys: list[Callable[[int], tuple[float, ...]]] = [
        lambda s: (task.sheets[s].cost / task.sheets[s].area, -task.sheets[s].area),
        lambda s: (task.sheets[s].cost, -task.sheets[s].area),
        lambda s: (0.0,),
        lambda s: (-task.sheets[s].area,),
    ]
    if task.problem.prefer is Prefer.SHEETS:
        keys.reverse()
    found: list[list[int]] = []
    for key in keys:
        order = sorted(every, key=lambda s, key=key: (s not in task.held, *key(s)))  # type: ignore[misc]
        if order not in found:
            found.append(order)
    return found


def cheaper_sheets(lane: Lane) -> Generator[None, None, None]:
    """Lay everything on as few and as cheap sheets as can be, and leave much of one of them whole."""
    task, work, random = lane.task, lane.work, lane.random
    supplies, orders = _supplies(task), orders_of(task)
    order, supply = orders[0], supplies[0]
    if task.problem.start:
        kept = task.taken_up(task.problem.start)
        lane.found(_score(lane, kept), kept)
    longest = max(max(s.width, s.height) for s in task.sheets)
    for stage, cell in enumerate(CELLS):
        board = Boards(task, max(cell, longest / MOST_COLUMNS), work)
        tried, first = lane.number, len(orders) * len(supplies)
        until = GRID_SHARE * (stage + 1) / len(CELLS)
        while tried < len(supplies) + lane.number or not (work.over(until) or tried > first + TRIES_A_PART * len(task.items)):
            if tried < first:  # every way to open sheets once, then other orders
                a, b = orders[tried // len(supplies)], supplies[tried % len(supplies)]
            else:
                a, b = changed(order, random), supply
            kept, _ = board.lay(a, b)
            tried += lane.of
            if work.stop[0] and lane.best is not None:
                break
            if lane.found(_score(lane, kept), kept):
                order, supply = a, b
            if work.paused:
                yield
    if lane.few:
        yield from _separated(lane)


def _separated(lane: Lane) -> Generator[None, None, None]:
    yield from _squeezed_in(lane)
    if lane.best is not None and lane.best[0][0] == 0:
        yield from _fewer_sheets(lane)
        yield from _keep_leftover(lane)


def _squeezed_in(lane: Lane) -> Generator[None, None, None]:
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
        if _thrown_in(lane, item, open_sheets=every):
            until = min(work.share + SQUEEZE_SHARE, 1.0)
            done, _, snap = yield from search.separate(every, patience=60, strikes=2, samples=SAMPLES, share=until, give_up=partial(lane.beaten, score))
        if done:
            lane.found(_score(lane, snap), snap)
        elif not lane.beaten(score):
            failed.add(task.items[item])


def _used_sheets(task: Task, kept: Snapshot) -> list[int]:
    return sorted({int(s) for s in kept[3] if s >= 0} | task.held)


def _held(task: Task, kept: Snapshot, *, sheet: int) -> float:
    return float(sum(task.prepared.area[k] for k, s in zip(task.items, kept[3], strict=True) if s == sheet))


def _exchanges(task: Task, kept: Snapshot) -> list[tuple[int, tuple[int, ...]]]:
    """Return which sheet to give up and which to use then, the largest saving first, as far as the area bound allows."""
    used = _used_sheets(task, kept)
    net = float(sum(task.prepared.area[k] for k in task.items))
    found = []
    for v in sorted(set(used) - task.held):
        rest = [s for s in used if s != v]
        cheaper = [s for s in range(len(task.sheets)) if s not in used and task.sheets[s].cost < task.sheets[v].cost - 1e-9]
        alike: set[tuple[float, float]] = set()  # equal sheets need not be tried one by one
        for u in [None, *(cheaper if task.problem.prefer is Prefer.PRICE else ())]:
            open_sheets = rest if u is None else sorted([*rest, u])
            kind = (task.sheets[u].cost, task.sheets[u].area) if u is not None else (0.0, 0.0)
            if kind in alike or not open_sheets or net > FULL * sum(task.sheets[s].area for s in open_sheets):
                continue
            alike.add(kind)
            found.append((kind[0] - task.sheets[v].cost, _held(task, kept, sheet=v), v, tuple(open_sheets)))
    return [(v, o) for _, _, v, o in sorted(found)]


def _fewer_sheets(lane: Lane) -> Generator[None, None, None]:
    """Empty one sheet after the other into the rest, or exchange it for a cheaper one."""
    task, work, search = lane.task, lane.work, lane.search
    failed: set[tuple[int, ...]] = set()
    while lane.best is not None and not work.over(FEWER_SHARE):
        score, kept = lane.best
        options = [(v, o) for v, o in _exchanges(task, kept) if o not in failed]
        if not options:
            return
        v, open_sheets = options[0]
        until = min(FEWER_SHARE, work.share + (FEWER_SHARE - work.share) / min(len(options), 3))
        search.restore(kept)
        moving = [i for i in range(search.movable) if search.state.sheet[i] == v]
        done = False
        if all(_thrown_in(lane, i, open_sheets=open_sheets) for i in moving):
            while not done and not work.over(until) and not lane.beaten(score):
                done, _, snap = yield from search.separate(
                    open_sheets, patience=60, strikes=2, samples=SAMPLES, share=until, give_up=partial(lane.beaten, score)
                )
        if done:
            lane.found(_score(lane, snap), snap)
        elif not lane.beaten(score):
            failed.add(open_sheets)


def _thrown_in(lane: Lane, item: int, *, open_sheets: Sequence[int]) -> bool:
    """Put an item anywhere on some open sheet that is large enough; tell whether there is one."""
    search, shapes, random = lane.search, lane.search.shapes, lane.random
    kind = int(search.kinds[item])
    fitting = [
        (t, s)
        for s in open_sheets
        for t in range(shapes.first[kind], shapes.first[kind] + shapes.turns[kind])
        if shapes.width[t] <= search.widths[s] and shapes.height[t] <= search.heights[s]
    ]
    if not fitting:
        return False
    t, s = fitting[int(random.integers(len(fitting)))]
    search.put(
        item, t, x=float(random.random() * (search.widths[s] - shapes.width[t])), y=float(random.random() * (search.heights[s] - shapes.height[t])), sheet=s
    )
    return True


def _keep_leftover(lane: Lane) -> Generator[None, None, None]:
    """Use the emptiest sheet as little as can be: it is made narrower, and what has no place there goes to the others."""
    work, search, task = lane.work, lane.search, lane.task
    whole = search.widths.copy()
    step = 0.06
    while lane.best is not None and not work.over() and step > LEAST_STEP:
        score, kept = lane.best
        used = _used_sheets(task, kept)
        v = min(used, key=lambda s: (_held(task, kept, sheet=s) / task.sheets[s].area, s))
        search.restore(kept)
        search.widths[:] = whole
        width = search.used(v)
        narrower = width * (1 - step)
        search.widths[v] = narrower
        for i in range(search.movable):
            if search.state.sheet[i] == v and search.shapes.width[search.state.turned[i]] > narrower:
                _thrown_in(lane, i, open_sheets=used)
        search.widths[v] = width
        search.squeeze(v, narrower, cut=float(lane.random.uniform(0, width)))
        patience, strikes = (25, 1) if step > 0.004 else (60, 2)
        done, _, snap = yield from search.separate(used, patience=patience, strikes=strikes, samples=SAMPLES, share=1.0, give_up=partial(lane.beaten, score))
        search.widths[:] = whole
        if done:
            lane.found(_score(lane, snap), snap)
        elif not lane.beaten(score):
            step /= 2
