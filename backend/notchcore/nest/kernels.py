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
HUGE = 1e150
DISCS = 16  # circles of a shape, filled up with such of no size
UNSURE = 2e-3  # [mm] short numbers tell no overlap that is smaller
KEPT = 3  # samples that are followed downhill
GROWTH, MORE_GROWTH, DECAY = 1.2, 0.8, 0.95  # of weights


class Shapes(NamedTuple):
    """Every part kind in every turn, its lower left corner at 0, 0."""

    edges: Any  #: float (4, n): from x, y to x, y
    circles: Any  #: float (3, m): x, y, radius of circles inside
    discs: Any  #: short float (turned, 3, DISCS): the same circles, filled up
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
def holds(edges: Any, x: float, y: float) -> bool:
    """Tell whether a point lies inside, by counting the edges that cross the way to its left."""
    inside = False
    for k in range(edges.shape[1]):
        y1 = edges[1, k]
        y2 = edges[3, k]
        side = (edges[2, k] - edges[0, k]) * (y - y1) - (x - edges[0, k]) * (y2 - y1)
        inside ^= ((y1 > y) != (y2 > y)) & ((side > 0) == (y2 > y1))
    return inside


@compiled
def _discs_meet(one: Any, count: int, other: Any, dx: float, dy: float) -> bool:
    """Tell whether any discs overlap by so much that short numbers tell it for sure."""
    x0 = np.float32(dx)
    y0 = np.float32(dy)
    less = np.float32(UNSURE)
    none = np.float32(0.0)
    for i in range(count):
        x = one[0, i] - x0
        y = one[1, i] - y0
        r = one[2, i] - less
        met = False
        for j in range(DISCS):  # all of them: many at a time are quicker than one after the other
            ux = x - other[0, j]
            uy = y - other[1, j]
            both = r + other[2, j]
            both = both if both > none else none
            met |= ux * ux + uy * uy < both * both
        if met:
            return True
    return False


@compiled
def _edges_near(edges: Any, lx: float, hx: float, ly: float, hy: float, near: Any) -> int:
    """Write the edges that come into a box to `near`; return how many."""
    n = 0
    for k in range(edges.shape[1]):
        x1 = edges[0, k]
        y1 = edges[1, k]
        x2 = edges[2, k]
        y2 = edges[3, k]
        near[0, n] = x1
        near[1, n] = y1
        near[2, n] = x2
        near[3, n] = y2
        n += (min(x1, x2) <= hx) & (max(x1, x2) >= lx) & (min(y1, y2) <= hy) & (max(y1, y2) >= ly)
    return n


@compiled
def _edges_cross(near: Any, edges: Any, dx: float, dy: float, lx: float, hx: float, ly: float, hy: float) -> bool:
    """Tell whether any edge, moved by dx, dy, that comes into a box crosses one of those near."""
    for k in range(edges.shape[1]):
        cx = edges[0, k] + dx
        cy = edges[1, k] + dy
        ex = edges[2, k] + dx
        ey = edges[3, k] + dy
        if min(cx, ex) > hx or max(cx, ex) < lx or min(cy, ey) > hy or max(cy, ey) < ly:
            continue
        vx = ex - cx
        vy = ey - cy
        crossed = False
        for q in range(near.shape[1]):  # all of them: many at a time are quicker than one after the other
            ax = near[0, q]
            ay = near[1, q]
            wx = near[2, q] - ax
            wy = near[3, q] - ay
            from_a = vx * (ay - cy) - vy * (ax - cx) > 0
            from_b = vx * (near[3, q] - cy) - vy * (near[2, q] - cx) > 0
            from_c = wx * (cy - ay) - wy * (cx - ax) > 0
            from_e = wx * (ey - ay) - wy * (ex - ax) > 0
            crossed |= (from_a != from_b) & (from_c != from_e)
        if crossed:
            return True
    return False


@compiled
def overlap(shapes: Shapes, a: int, b: int, dx: float, dy: float, near: Any) -> bool:
    """Tell whether turned shape a at 0, 0 overlaps turned shape b at dx, dy.

    Boxes, then circles, edges clipped to the common box (half-open crossings), and at last one inside the other.
    """
    dx += JITTER_X
    dy += JITTER_Y
    lx = max(0.0, dx)
    hx = min(shapes.width[a], dx + shapes.width[b])
    ly = max(0.0, dy)
    hy = min(shapes.height[a], dy + shapes.height[b])
    if hx - lx <= TOUCH or hy - ly <= TOUCH:
        return False
    if _discs_meet(shapes.discs[a], shapes.spans[a, 3] - shapes.spans[a, 2], shapes.discs[b], dx, dy):
        return True
    edges_a = shapes.edges[:, shapes.spans[a, 0] : shapes.spans[a, 1]]
    edges_b = shapes.edges[:, shapes.spans[b, 0] : shapes.spans[b, 1]]
    n = _edges_near(edges_a, lx, hx, ly, hy, near)
    if n > 0 and _edges_cross(near[:, :n], edges_b, dx, dy, lx, hx, ly, hy):
        return True
    # no edges cross: they are apart, unless all of one lies in the other
    bx = dx + shapes.width[b]
    by = dy + shapes.height[b]
    if dx >= 0 and dy >= 0 and bx <= shapes.width[a] and by <= shapes.height[a]:
        i = shapes.spans[b, 2]
        return holds(edges_a, shapes.circles[0, i] + dx, shapes.circles[1, i] + dy)
    if dx <= 0 and dy <= 0 and bx >= shapes.width[a] and by >= shapes.height[a]:
        i = shapes.spans[a, 2]
        return holds(edges_b, shapes.circles[0, i] - dx, shapes.circles[1, i] - dy)
    return False


@compiled
def _depth(one: Any, count: int, other: Any, dx: float, dy: float, eps: float, enough: float) -> Any:
    """Return how deep the discs of two shapes lie in each other, weighted by the smaller of each pair; ends when it is enough."""
    x0 = np.float32(dx)
    y0 = np.float32(dy)
    near = np.float32(eps)
    twice = np.float32(2 * eps)
    squared = np.float32(eps * eps)
    total = 0.0
    for i in range(count):
        x = one[0, i] - x0
        y = one[1, i] - y0
        r = one[2, i]
        row = np.float32(0.0)
        for j in range(DISCS):
            ux = x - other[0, j]
            uy = y - other[1, j]
            s = other[2, j]
            d = r + s - np.sqrt(ux * ux + uy * uy)
            decayed = d if d >= near else squared / (twice - d)
            row += decayed * (r if r < s else s)
        total += np.float64(row) * math.pi
        if total >= enough:
            break
    return total


@compiled
def pair_loss(shapes: Shapes, a: int, b: int, dx: float, dy: float, enough: float, near: Any) -> Any:
    """Return the measure of the overlap of two turned shapes, or at least `enough` when it is more; 0 when there is none."""
    if not overlap(shapes, a, b, dx, dy, near):
        return 0.0
    ka = shapes.kind[a]
    kb = shapes.kind[b]
    eps = 0.01 * max(shapes.reach[ka], shapes.reach[kb])
    size = shapes.size[ka] * shapes.size[kb]
    least = enough / size
    deep = _depth(shapes.discs[a], shapes.spans[a, 3] - shapes.spans[a, 2], shapes.discs[b], dx, dy, eps, least * least)
    return math.sqrt(deep + eps * eps * 0.01) * size


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
