"""One strip of a given height, as short as can be."""

from __future__ import annotations

from collections.abc import Generator
from functools import partial

import numpy as np

from notchcore.nest.first import CELLS, MOST_COLUMNS, TRIES_A_PART, Boards, changed, orders_of
from notchcore.nest.task import Lane, Score

LONGEST = 3.0  # of the length that the area alone needs, for the first answer
SAMPLES = (50, 25)  # places tried all over, and around its own, when a part is moved
SELDOM = 10  # each so many-th try with the least step keeps the order and has only another cut
LEAST_STEP = 0.001  # of the strip's length
GRID_SHARE, EXPLORE_SHARE = 0.2, 0.84  # of the work, at which the grid and exploring end


def shorter_strip(lane: Lane) -> Generator[None, None, None]:
    """Make the strip as short as can be."""
    task, work, random = lane.task, lane.work, lane.random
    net = float(sum(task.prepared.area[k] for k in task.items))
    height = task.sheets[0].height
    enough = LONGEST * net / height + 2 * float(task.prepared.shapes.reach.max())
    orders = orders_of(task)
    order = orders[0]
    for stage, finest in enumerate(CELLS):
        cell = max(finest, enough / MOST_COLUMNS)
        board = Boards(task, cell, work, int(enough / cell) + 8)
        tried, until = lane.number, GRID_SHARE * (stage + 1) / len(CELLS)
        while tried == lane.number or not (work.over(until) or tried > TRIES_A_PART * len(task.items)):
            trial = orders[tried] if tried < len(orders) else changed(order, random)
            limit = int(lane.best[0][0] / cell) + 1 if lane.best is not None else 1 << 40
            kept, used = board.lay(trial, [0], enough=limit)
            tried += lane.of
            if (kept[3] >= 0).all() and (lane.best is None or used <= lane.best[0][0]):
                lane.found((used,), kept)
                order = trial
            if work.paused:
                yield
    if lane.best is None:  # the grid found no place for everything in so long a strip
        _in_a_row(lane)
    if lane.few:
        yield from _shorten(lane)


def _in_a_row(lane: Lane) -> None:
    shapes, height, kinds = lane.task.prepared.shapes, lane.task.sheets[0].height, lane.task.items
    turned = [next(t for t in range(shapes.first[k], shapes.first[k] + shapes.turns[k]) if shapes.height[t] <= height) for k in kinds]
    ends = np.cumsum(shapes.width[turned])
    kept = (np.array(turned, np.int64), ends - shapes.width[turned], np.zeros(len(kinds)), np.zeros(len(kinds), np.int64))
    lane.found((float(ends[-1]),), kept)


def _begun(lane: Lane, step: float) -> Score:
    """Take up the best again, on a strip shorter by a step; return the best's score."""
    assert lane.best is not None
    score, kept = lane.best
    lane.search.restore(kept)
    lane.search.widths[0] = score[0]
    lane.search.squeeze(0, score[0] * (1 - step), cut=float(lane.random.uniform(0, score[0])))
    return score


def _shorten(lane: Lane) -> Generator[None, None, None]:
    """Explore shorter strips, each begun from the best legal one squeezed at a random cut, then with two parts swapped; at the end only tiny steps."""
    work, search = lane.work, lane.search
    step = 0.01
    tries = 0  # with the least step
    while lane.best is not None and not work.over(EXPLORE_SHARE):
        score = _begun(lane, step)
        while not work.over(EXPLORE_SHARE) and not lane.beaten(score):
            done, _, snap = yield from search.separate([0], patience=25, strikes=1, samples=SAMPLES, share=EXPLORE_SHARE, give_up=partial(lane.beaten, score))
            if done:
                search.restore(snap)
                lane.found((search.used(0),), snap)
                step = min(0.03, step * 1.5)
                break
            if lane.beaten(score) or lane.best is None:
                break
            stuck = step <= LEAST_STEP * 1.01
            step = max(LEAST_STEP, step / 3)  # too greedy
            score = _begun(lane, step)
            if stuck:  # many quick tries of other orders find more than patience with one
                tries += 1
                if tries % SELDOM != SELDOM - 1:
                    search.swap_two()
    while lane.best is not None and not work.over():
        f = (work.share - EXPLORE_SHARE) / (1 - EXPLORE_SHARE)
        score = _begun(lane, 0.0005 * (1 - f) + 0.00001 * f)
        done, _, snap = yield from search.separate([0], patience=50, strikes=2, samples=SAMPLES, share=1.0, give_up=partial(lane.beaten, score))
        if done:
            search.restore(snap)
            lane.found((search.used(0),), snap)
