"""The inner loops of packing, compiled: do two shapes overlap, by how much, and where would a part overlap least.

All shapes lie flat in a few arrays (see `Shapes`), so that one kernel serves whole sheets, offcuts, defects and holes:
whatever nothing may lie on is an item that does not move. Every function releases the interpreter's lock; a long one looks
at `Scratch.stop` and leaves early when another thread sets it.

Separation by weighted overlap: parts may overlap at first; each moves to where its overlap, weighted by how long each pair
has resisted, is least (samples, then coordinate descent); weights of pairs that still overlap grow. The measure of an overlap
is that of inscribed circles with a hyperbolic decay, so that it tells which way is out even when one lies in the other.
"""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from notchcore.nest.compiled import compiled

TOUCH = 1e-4  # [mm] what overlaps by less touches
JITTER_X, JITTER_Y = 1.3719e-5, -0.7793e-5  # aligned edges and shared corners never hide a crossing
HUGE = 1e300
SURE_CIRCLES = 4  # so many circles of each are tried before edges are
KEPT = 3  # samples that are followed downhill
GROWTH, MORE_GROWTH, DECAY = 1.2, 0.8, 0.95  # of weights


class Shapes(NamedTuple):
    """Every part kind in every turn, its lower left corner at 0, 0."""

    edges: Any  #: float (n, 4): from x, y to x, y
    circles: Any  #: float (3, m): x, y, radius of circles inside
    spans: Any  #: int (turned, 4): first edge, end, first circle, end
    width: Any  #: float (turned)
    height: Any  #: float (turned)
    kind: Any  #: int (turned): the part kind
    size: Any  #: float (kinds): fourth root of the hull's area: larger parts matter more
    reach: Any  #: float (kinds): longer side
    first: Any  #: int (kinds): its first turned shape
    turns: Any  #: int (kinds): how many


class State(NamedTuple):
    """Where each item lies; fixed ones come last."""

    turned: Any  #: int (items): which turned shape
    x: Any  #: float (items): lower left corner
    y: Any
    right: Any
    top: Any
    sheet: Any  #: int (items); -1 for none


class Scratch(NamedTuple):
    """What kernels write to: edges near each other, evaluations so far, the random state, and the wish to stop."""

    near_a: Any
    near_b: Any
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
def holds(edges: Any, start: int, end: int, x: float, y: float) -> bool:
    """Tell whether a point lies inside, by counting crossings to the left."""
    inside = False
    for k in range(start, end):
        y1 = edges[k, 1]
        y2 = edges[k, 3]
        if (y1 > y) != (y2 > y) and x < (edges[k, 2] - edges[k, 0]) * (y - y1) / (y2 - y1) + edges[k, 0]:
            inside = not inside
    return inside


@compiled
def _circles_meet(shapes: Shapes, a: int, b: int, dx: float, dy: float, most: int) -> bool:
    for i in range(shapes.spans[a, 2], min(shapes.spans[a, 3], shapes.spans[a, 2] + most)):
        for j in range(shapes.spans[b, 2], min(shapes.spans[b, 3], shapes.spans[b, 2] + most)):
            ux = shapes.circles[0, i] - shapes.circles[0, j] - dx
            uy = shapes.circles[1, i] - shapes.circles[1, j] - dy
            r = shapes.circles[2, i] + shapes.circles[2, j] - TOUCH
            if r > 0 and ux * ux + uy * uy < r * r:
                return True
    return False


@compiled
def _edges_near(edges: Any, start: int, end: int, dx: float, dy: float, lx: float, hx: float, ly: float, hy: float, near: Any) -> int:
    """Write the edges that come into a box to `near`; return how many."""
    n = 0
    for k in range(start, end):
        x1 = edges[k, 0] + dx
        x2 = edges[k, 2] + dx
        y1 = edges[k, 1] + dy
        y2 = edges[k, 3] + dy
        if not ((x1 > hx and x2 > hx) or (x1 < lx and x2 < lx) or (y1 > hy and y2 > hy) or (y1 < ly and y2 < ly)):
            near[n] = k
            n += 1
    return n


@compiled
def overlap(shapes: Shapes, a: int, b: int, dx: float, dy: float, near_a: Any, near_b: Any) -> bool:
    """Tell whether turned shape a at 0, 0 overlaps turned shape b at dx, dy.

    Boxes, then circles, edges clipped to the common box (half-open crossings), and at last one inside the other.
    """
    dx += JITTER_X
    dy += JITTER_Y
    spans = shapes.spans
    edges = shapes.edges
    lx = max(0.0, dx)
    hx = min(shapes.width[a], dx + shapes.width[b])
    ly = max(0.0, dy)
    hy = min(shapes.height[a], dy + shapes.height[b])
    if hx - lx <= TOUCH or hy - ly <= TOUCH:
        return False
    if _circles_meet(shapes, a, b, dx, dy, SURE_CIRCLES):
        return True
    na = _edges_near(edges, spans[a, 0], spans[a, 1], 0.0, 0.0, lx, hx, ly, hy, near_a)
    if na > 0:
        nb = _edges_near(edges, spans[b, 0], spans[b, 1], dx, dy, lx, hx, ly, hy, near_b)
        for ib in range(nb):
            k = near_b[ib]
            cx = edges[k, 0] + dx
            cy = edges[k, 1] + dy
            ex = edges[k, 2] + dx
            ey = edges[k, 3] + dy
            vx = ex - cx
            vy = ey - cy
            for ia in range(na):
                q = near_a[ia]
                ax = edges[q, 0]
                ay = edges[q, 1]
                bx = edges[q, 2]
                by = edges[q, 3]
                if (vx * (ay - cy) - vy * (ax - cx) > 0) != (vx * (by - cy) - vy * (bx - cx) > 0):
                    wx = bx - ax
                    wy = by - ay
                    if (wx * (cy - ay) - wy * (cx - ax) > 0) != (wx * (ey - ay) - wy * (ex - ax) > 0):
                        return True
    if _circles_meet(shapes, a, b, dx, dy, 1 << 30):
        return True
    i = spans[b, 2]
    if holds(edges, spans[a, 0], spans[a, 1], shapes.circles[0, i] + dx, shapes.circles[1, i] + dy):
        return True
    i = spans[a, 2]
    return holds(edges, spans[b, 0], spans[b, 1], shapes.circles[0, i] - dx, shapes.circles[1, i] - dy)


@compiled
def _depth(shapes: Shapes, a: int, b: int, dx: float, dy: float, eps: float) -> Any:
    """Return how deep the circles of two shapes lie in each other, weighted by the smaller of each pair."""
    total = 0.0
    squared = eps * eps
    for i in range(shapes.spans[a, 2], shapes.spans[a, 3]):
        px = shapes.circles[0, i] - dx
        py = shapes.circles[1, i] - dy
        pr = shapes.circles[2, i]
        for j in range(shapes.spans[b, 2], shapes.spans[b, 3]):
            ux = px - shapes.circles[0, j]
            uy = py - shapes.circles[1, j]
            r = shapes.circles[2, j]
            d = pr + r - math.sqrt(ux * ux + uy * uy)
            decayed = d if d >= eps else squared / (2 * eps - d)
            total += decayed * (pr if pr < r else r)
    return total * math.pi


@compiled
def pair_loss(shapes: Shapes, a: int, b: int, dx: float, dy: float, near_a: Any, near_b: Any) -> Any:
    """Return the measure of the overlap of two turned shapes; 0 when there is none."""
    if not overlap(shapes, a, b, dx, dy, near_a, near_b):
        return 0.0
    ka = shapes.kind[a]
    kb = shapes.kind[b]
    eps = 0.01 * max(shapes.reach[ka], shapes.reach[kb])
    return math.sqrt(_depth(shapes, a, b, dx, dy, eps) + eps * eps * 0.01) * shapes.size[ka] * shapes.size[kb]


@compiled
def loss_at(shapes: Shapes, state: State, weights: Any, item: int, turned: int, x: float, y: float, sheet: int, bound: float, scratch: Scratch) -> Any:
    """Return the weighted overlap of an item if it lay so; at least `bound` when it is more than that."""
    scratch.count[0] += 1
    total = 0.0
    right = x + shapes.width[turned]
    top = y + shapes.height[turned]
    for j in range(len(state.x)):
        if state.sheet[j] != sheet or j == item:
            continue
        if state.x[j] < right and state.right[j] > x and state.y[j] < top and state.top[j] > y:
            loss = pair_loss(shapes, turned, state.turned[j], state.x[j] - x, state.y[j] - y, scratch.near_a, scratch.near_b)
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
    shapes: Shapes, state: State, weights: Any, item: int, turned: int, x: float, y: float, sheet: int, loss: float, step: float, least: float,
    width: float, height: float, scratch: Scratch,
) -> Any:  # fmt: skip
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
            shapes, state, own, item, kept.turned[k], kept.x[k], kept.y[k], sheet, kept.loss[k], 0.25 * smaller, 0.02 * smaller, widths[sheet],
            heights[sheet], scratch,
        )  # fmt: skip
        kept.x[k] = x
        kept.y[k] = y
        if loss < least:
            least = loss
            best = k
    sheet = kept.sheet[best]
    x, y, least = _downhill(
        shapes, state, own, item, kept.turned[best], kept.x[best], kept.y[best], sheet, least, 0.02 * smaller, 0.001 * smaller, widths[sheet],
        heights[sheet], scratch,
    )  # fmt: skip
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
                loss = pair_loss(shapes, state.turned[i], state.turned[j], state.x[j] - state.x[i], state.y[j] - state.y[i], scratch.near_a, scratch.near_b)
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
    shapes: Shapes, state: State, weights: Any, losses: Any, movable: int, widths: Any, heights: Any, open_sheets: Any, samples: int, around: int,
    scratch: Scratch,
) -> float:  # fmt: skip
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
