"""The inner loops of packing, compiled: where would a part overlap least.

Every function releases the interpreter's lock; a long one looks at `Scratch.stop` and leaves early when another thread sets it.

Separation by weighted overlap: parts may overlap at first; each moves to where its overlap, weighted by how long each pair
has resisted, is least (samples, then coordinate descent); weights of pairs that still overlap grow.
"""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np

from notchcore.geom.compiled import compiled
from notchcore.nest.overlaps import Shapes, pair_loss

HUGE = 1e150  # its square is a number still: `pair_loss` takes it
KEPT = 3  # samples that are followed downhill
GROWTH, MORE_GROWTH, DECAY = 1.2, 0.8, 0.95  # of weights


class State(NamedTuple):
    """Where each item lies; fixed ones come last."""

    turned: Any  #: int (items): which turned shape
    x: Any  #: float (items): lower left corner
    y: Any
    right: Any
    top: Any
    sheet: Any  #: int (items); -1 for none


class Scratch(NamedTuple):
    """What kernels write to: edges near each other, items whose boxes meet, evaluations so far, the random state, and the wish to stop."""

    near: Any
    met: Any
    count: Any
    random: Any
    stop: Any


@compiled
def drawn(random: Any) -> Any:
    """Return a random number in [0, 1): xorshift64*."""
    x = random[0]
    x ^= x >> np.uint64(12)
    x ^= x << np.uint64(25)
    x ^= x >> np.uint64(27)
    random[0] = x
    return np.float64((x * np.uint64(2685821657736338717)) >> np.uint64(11)) * (1.0 / 9007199254740992.0)


@compiled
def loss_at(shapes: Shapes, state: State, weights: Any, item: int, turned: int, x: float, y: float, sheet: int, bound: float, scratch: Scratch) -> Any:
    """Return the weighted overlap of an item if it lay so; at least `bound` when it is more than that."""
    scratch.count[0] += 1
    right = x + shapes.width[turned]
    top = y + shapes.height[turned]
    met = scratch.met
    for j in range(len(met)):  # all at once, without a branch that would be guessed wrongly for each that meets
        met[j] = (state.sheet[j] == sheet) & (state.x[j] < right) & (state.right[j] > x) & (state.y[j] < top) & (state.top[j] > y)
    total = 0.0
    for j in range(len(met)):
        if not met[j] or j == item:
            continue
        loss = pair_loss(shapes, turned, state.turned[j], state.x[j] - x, state.y[j] - y, (bound - total) / weights[j], scratch.near)
        if loss > 0:
            total += loss * weights[j]
            if total >= bound:
                return total
    return total


@compiled
def put(shapes: Shapes, state: State, item: int, turned: int, x: float, y: float, sheet: int) -> None:
    """Lay an item there."""
    state.turned[item] = turned
    state.x[item] = x
    state.y[item] = y
    state.right[item] = x + shapes.width[turned]
    state.top[item] = y + shapes.height[turned]
    state.sheet[item] = sheet


@compiled
def _downhill(
    shapes: Shapes,
    state: State,
    weights: Any,
    item: int,
    turned: int,
    x: float,
    y: float,
    sheet: int,
    loss: float,
    step: float,
    least: float,
    width: float,
    height: float,
    scratch: Scratch,
) -> Any:
    """Follow the loss downhill in steps along the axes and diagonals, which grow with luck and shrink without."""
    most_x = width - shapes.width[turned]
    most_y = height - shapes.height[turned]
    step_x = step
    step_y = step
    while (step_x > least or step_y > least) and loss > 0:
        axis = int(drawn(scratch.random) * 4)
        ux = 0.0 if axis == 1 else 1.0
        uy = 0.0 if axis == 0 else (-1.0 if axis == 3 else 1.0)
        best = loss
        best_x = x
        best_y = y
        for sign in (1.0, -1.0):
            nx = min(max(x + sign * ux * step_x, 0.0), most_x)
            ny = min(max(y + sign * uy * step_y, 0.0), most_y)
            if nx == x and ny == y:
                continue
            tried = loss_at(shapes, state, weights, item, turned, nx, ny, sheet, best, scratch)
            if tried < best:
                best = tried
                best_x = nx
                best_y = ny
        if best < loss:
            loss = best
            x = best_x
            y = best_y
            if ux > 0:
                step_x *= 1.1
            if uy != 0:
                step_y *= 1.1
        elif axis == 0:
            step_x *= 0.5
        elif axis == 1:
            step_y *= 0.5
        else:
            step_x *= 0.7071
            step_y *= 0.7071
    return x, y, loss


class Kept(NamedTuple):
    """The best few samples of where an item may lie, least loss first."""

    turned: Any
    x: Any
    y: Any
    sheet: Any
    loss: Any


@compiled
def _keep(kept: Kept, turned: int, x: float, y: float, sheet: int, loss: float, near: float) -> None:
    """Take a sample among the best when it is good enough; a near one of the same turn gives way to it."""
    k = KEPT - 1
    for z in range(KEPT):
        if kept.loss[z] < HUGE and kept.sheet[z] == sheet and kept.turned[z] == turned and abs(kept.x[z] - x) + abs(kept.y[z] - y) < near:
            k = z
    if loss >= kept.loss[k]:
        return
    while k > 0 and kept.loss[k - 1] > loss:
        kept.loss[k] = kept.loss[k - 1]
        kept.turned[k] = kept.turned[k - 1]
        kept.x[k] = kept.x[k - 1]
        kept.y[k] = kept.y[k - 1]
        kept.sheet[k] = kept.sheet[k - 1]
        k -= 1
    kept.loss[k] = loss
    kept.turned[k] = turned
    kept.x[k] = x
    kept.y[k] = y
    kept.sheet[k] = sheet


@compiled
def _sampled(
    shapes: Shapes, state: State, own: Any, item: int, now: float, widths: Any, heights: Any, open_sheets: Any, samples: int, around: int, scratch: Scratch
) -> Kept:
    """Return the best few of where an item lies, `samples` places all over the open sheets, and `around` places about its own."""
    kind = shapes.kind[state.turned[item]]
    kept = Kept(np.zeros(KEPT, np.int64), np.zeros(KEPT), np.zeros(KEPT), np.zeros(KEPT, np.int64), np.full(KEPT, HUGE))
    near = 0.1 * min(shapes.width[state.turned[item]], shapes.height[state.turned[item]])
    _keep(kept, state.turned[item], state.x[item], state.y[item], state.sheet[item], now, near)
    for q in range(samples + around):
        turned = shapes.first[kind] + int(drawn(scratch.random) * shapes.turns[kind])
        if q < samples:
            sheet = open_sheets[int(drawn(scratch.random) * len(open_sheets))]
        else:
            sheet = state.sheet[item]
            if drawn(scratch.random) < 0.5:
                turned = state.turned[item]
        most_x = widths[sheet] - shapes.width[turned]
        most_y = heights[sheet] - shapes.height[turned]
        if most_x < 0 or most_y < 0:
            continue
        if q < samples:
            x = drawn(scratch.random) * most_x
            y = drawn(scratch.random) * most_y
        else:
            middle_x = 0.5 * (state.x[item] + state.right[item])
            middle_y = 0.5 * (state.y[item] + state.top[item])
            x = min(max(middle_x + (drawn(scratch.random) - 1.0) * shapes.width[turned], 0.0), most_x)
            y = min(max(middle_y + (drawn(scratch.random) - 1.0) * shapes.height[turned], 0.0), most_y)
        loss = loss_at(shapes, state, own, item, turned, x, y, sheet, kept.loss[KEPT - 1], scratch)
        if loss < kept.loss[KEPT - 1]:
            _keep(kept, turned, x, y, sheet, loss, near)
    return kept


@compiled
def relocate(
    shapes: Shapes, state: State, weights: Any, item: int, widths: Any, heights: Any, open_sheets: Any, samples: int, around: int, scratch: Scratch
) -> None:
    """Move an item to where its weighted overlap is least, as far as samples all over and around it show."""
    own = weights[item]
    now = loss_at(shapes, state, own, item, state.turned[item], state.x[item], state.y[item], state.sheet[item], HUGE, scratch)
    kept = _sampled(shapes, state, own, item, now, widths, heights, open_sheets, samples, around, scratch)
    smaller = min(shapes.width[state.turned[item]], shapes.height[state.turned[item]])
    best = 0
    least = HUGE
    for k in range(KEPT):
        if kept.loss[k] >= HUGE:
            continue
        sheet = kept.sheet[k]
        x, y, loss = _downhill(
            shapes,
            state,
            own,
            item,
            kept.turned[k],
            kept.x[k],
            kept.y[k],
            sheet,
            kept.loss[k],
            0.25 * smaller,
            0.02 * smaller,
            widths[sheet],
            heights[sheet],
            scratch,
        )
        kept.x[k] = x
        kept.y[k] = y
        if loss < least:
            least = loss
            best = k
    sheet = kept.sheet[best]
    x, y, least = _downhill(
        shapes,
        state,
        own,
        item,
        kept.turned[best],
        kept.x[best],
        kept.y[best],
        sheet,
        least,
        0.02 * smaller,
        0.001 * smaller,
        widths[sheet],
        heights[sheet],
        scratch,
    )
    if least <= now:
        put(shapes, state, item, kept.turned[best], x, y, sheet)


@compiled
def measure_item(shapes: Shapes, state: State, losses: Any, i: int, scratch: Scratch) -> None:
    """Write an item's overlaps with all others."""
    for j in range(len(state.x)):
        loss = 0.0
        if j == i:
            continue
        if state.sheet[i] == state.sheet[j] and state.sheet[i] >= 0:
            apart = state.x[j] >= state.right[i] or state.right[j] <= state.x[i] or state.y[j] >= state.top[i] or state.top[j] <= state.y[i]
            if not apart:
                loss = pair_loss(shapes, state.turned[i], state.turned[j], state.x[j] - state.x[i], state.y[j] - state.y[i], HUGE, scratch.near)
        losses[i, j] = loss
        losses[j, i] = loss


@compiled
def measure(shapes: Shapes, state: State, losses: Any, movable: int, scratch: Scratch) -> float:
    """Write the overlaps of all items with all others; return their sum. Fixed items may lie on each other."""
    losses[:] = 0.0
    for i in range(movable):
        measure_item(shapes, state, losses, i, scratch)
    total = 0.0
    for i in range(movable):
        for j in range(len(state.x)):
            if j < i or j >= movable:
                total += losses[i, j]
    return total


@compiled
def one_pass(
    shapes: Shapes,
    state: State,
    weights: Any,
    losses: Any,
    movable: int,
    widths: Any,
    heights: Any,
    open_sheets: Any,
    samples: int,
    around: int,
    scratch: Scratch,
) -> float:
    """Relocate every item that overlaps, in a random order, and let the weights of pairs that still overlap grow; return the overlap left."""
    n = len(state.x)
    order: Any = np.arange(movable)
    for k in range(movable - 1, 0, -1):
        r = int(drawn(scratch.random) * (k + 1))
        order[k], order[r] = order[r], order[k]
    for i in order:
        if scratch.stop[0]:
            break
        overlaps = False
        for j in range(n):
            if losses[i, j] > 0:
                overlaps = True
                break
        if overlaps:
            relocate(shapes, state, weights, i, widths, heights, open_sheets, samples, around, scratch)
            measure_item(shapes, state, losses, i, scratch)
    most = 0.0
    total = 0.0
    for i in range(movable):
        for j in range(n):
            if j < i or j >= movable:
                total += losses[i, j]
                most = max(most, losses[i, j])
    if total <= 0:
        return 0.0
    for i in range(movable):
        for j in range(n):
            if j < i or j >= movable:
                loss = losses[i, j]
                weight = weights[i, j] * (GROWTH + MORE_GROWTH * loss / most) if loss > 0 else max(1.0, weights[i, j] * DECAY)
                weights[i, j] = weight
                weights[j, i] = weight
    return total
