"""An order in which parts that are alike follow each other, wherever that is possible."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from notchcore.check.blocking import Blocking
from notchcore.check.order import AssemblyOrder, Step
from notchcore.design.assembly import Part
from notchcore.geom.vectors import scale

MOST = 400  # steps; above this it is not looked for


def gathered(order: AssemblyOrder, parts: tuple[Part, ...], *, likes: Mapping[str, str], met: Iterable[tuple[str, str]]) -> AssemblyOrder:
    """Return the order with alike parts drawn forward to the first of them.

    One comes before others that went in the same way only if none of them is then in its way or it in theirs, and it touches none of them:
    it may rest on what it touches.

    Args:
        likes: what each part is like, see `likes_of`
        met: pairs of parts that touch
    """
    left = list(order.steps)
    if len(left) > MOST or any(len(s.parts) > 1 for s in left) or len(set(likes.values())) == len(likes):
        return order  # what goes in together has an order of its own
    blocking, at = Blocking(parts), {p.id: i for i, p in enumerate(parts)}
    touching = {frozenset(pair) for pair in met}
    done: list[Step] = []
    while left:
        first = left.pop(0)
        done.append(first)
        if not _plain(first):
            continue
        passed: list[Step] = []
        rest = iter(left)
        taken: list[Step] = []
        for step in rest:
            if not _plain(step) or step.direction != first.direction:
                break
            if likes[step.parts[0]] == likes[first.parts[0]] and _free(step, passed, blocking=blocking, at=at, touching=touching):
                taken.append(step)
            else:
                passed.append(step)
        if taken:
            done += taken
            left = [s for s in left if s not in taken]
    return replace(order, steps=tuple(done))


def _plain(step: Step) -> bool:
    return len(step.parts) == 1 and step.last is None and step.tip is None


def _free(step: Step, passed: Sequence[Step], *, blocking: Blocking, at: Mapping[str, int], touching: set[frozenset[str]]) -> bool:
    """Tell whether a step may come before others."""
    (one,) = step.parts
    out = scale(step.direction, -1.0)
    return not any(frozenset((one, p.parts[0])) in touching or blocking.blocks(at[p.parts[0]], at[one], d=out) for p in passed)
