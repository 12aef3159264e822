"""An order in which the parts go together by straight moves.

It is found backwards: take apart what can leave, one part at a time, else the smallest group that can leave together.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

from notchcore.check.blocking import Blocking, directions_of
from notchcore.design.assembly import Part
from notchcore.geom.profile import net_area
from notchcore.geom.vectors import Vec3

UP: Vec3 = (0.0, 0.0, 1.0)


class Blocks(Protocol):
    """Tells whether part i, moving straight along d, hits part j."""

    def blocks(self, i: int, j: int, d: Vec3) -> bool: ...


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """Parts that are put in place together, moving along `direction` (a unit vector)."""

    parts: tuple[str, ...]
    direction: Vec3


@dataclass(frozen=True, slots=True, kw_only=True)
class AssemblyOrder:
    """Steps from the first part laid down to the last; `locked` names parts that no straight move frees."""

    steps: tuple[Step, ...]
    locked: tuple[str, ...] = ()
    unknown: tuple[str, ...] = ()  #: parts whose way was not found in the time there was


def _closure(start: int, alive: set[int], blocking: Blocks, d: Vec3) -> set[int]:
    """Return the parts that must move along with one, directly or through others."""
    group, waiting = {start}, [start]
    while waiting:
        i = waiting.pop()
        for j in alive - group:
            if blocking.blocks(i, j, d):
                group.add(j)
                waiting.append(j)
    return group


def _next_single(order: list[int], alive: set[int], blocking: Blocks, ways: list[Vec3], witness: dict[tuple[int, int], int]) -> tuple[int, int] | None:
    """Return a part and way by which it can leave. A witness is a part seen to block: while it stays, no test is needed."""
    for w, d in enumerate(ways):
        for i in order:
            if i not in alive or witness.get((i, w)) in alive:
                continue
            hit = next((j for j in sorted(alive) if j != i and blocking.blocks(i, j, d)), None)
            if hit is None:
                return i, w
            witness[(i, w)] = hit
    return None


class OutOfTime(Exception):
    """Somebody wants an end; `removals` were found until then."""

    def __init__(self) -> None:
        self.removals: list[tuple[set[int], Vec3]] = []
        super().__init__("out of time")


def never() -> bool:
    """Say that there is time without end."""
    return False


@dataclass
class _Timed:
    """Blocking that ends when it is time."""

    blocking: Blocks
    stop: Callable[[], bool]

    def blocks(self, i: int, j: int, d: Vec3) -> bool:
        if self.stop():
            raise OutOfTime
        return self.blocking.blocks(i, j, d)


def take_apart(group: set[int], blocking: Blocks, ways: list[Vec3], order: list[int]) -> tuple[list[tuple[set[int], Vec3]], set[int]]:
    """Return the removals from first to last, and what stays locked; what a smaller group ends with is laid down first.

    Raises:
        OutOfTime: with the removals until then
    """
    removals: list[tuple[set[int], Vec3]] = []
    try:
        return _taken_apart(group, blocking, ways, order, removals)
    except OutOfTime as end:
        end.removals = [*removals, *end.removals]
        raise


def _taken_apart(
    group: set[int], blocking: Blocks, ways: list[Vec3], order: list[int], removals: list[tuple[set[int], Vec3]]
) -> tuple[list[tuple[set[int], Vec3]], set[int]]:
    alive = set(group)
    locked: set[int] = set()
    witness: dict[tuple[int, int], int] = {}
    while len(alive) > 1:
        # The last of the order is what stands on the bench: it leaves only when nothing else can.
        single = _next_single(order[:-1], alive, blocking, ways, witness) or _next_single(order, alive, blocking, ways, witness)
        if single is not None:
            removals.append(({single[0]}, ways[single[1]]))
            alive.discard(single[0])
            continue
        groups = [(_closure(i, alive, blocking, d), d) for d in ways for i in sorted(alive)]
        leaving = min((g for g in groups if len(g[0]) < len(alive)), key=lambda g: len(g[0]), default=None)
        if leaving is None:
            return removals, locked | alive
        inner, stuck = take_apart(leaving[0], blocking, ways, order)
        last = leaving[0] - stuck - {i for group, _ in inner if len(group) == 1 for i in group}
        removals.append(leaving)
        removals += [*inner, *(({i}, UP) for i in sorted(last))]
        locked |= stuck
        alive -= leaving[0]
    return removals, locked


def assembly_order(parts: tuple[Part, ...], stop: Callable[[], bool] = never) -> AssemblyOrder:
    """Return how the parts go together: the lowest flat part first, then large ones where there is a choice.

    Args:
        stop: asked again and again; once it says yes, what was found so far is returned
    """
    if not parts:
        return AssemblyOrder(steps=())
    blocking = Blocking(parts)
    order = sorted(range(len(parts)), key=lambda i: (net_area(parts[i].nominal), parts[i].id))
    lying = [i for i in order if abs(parts[i].pose.normal[2]) > 0.999]
    if lying:
        ground = min(lying, key=lambda i: blocking.bodies[i].box[2])
        order = [i for i in order if i != ground] + [ground]
    try:
        removals, locked = take_apart(set(range(len(parts))), _Timed(blocking, stop), directions_of(parts), order)
        unknown: set[int] = set()
    except OutOfTime as end:
        removals, locked = end.removals, set()
        unknown = set(range(len(parts))) - {i for group, _ in removals for i in group}
    gone = {i for group, _ in removals if len(group) == 1 for i in group}
    first = [i for i in range(len(parts)) if i not in gone and i not in locked and i not in unknown]
    steps = [Step(parts=(parts[i].id,), direction=(0.0, 0.0, -1.0)) for i in first[:1]]
    for group, d in reversed(removals):
        ids = tuple(parts[i].id for i in sorted(group))
        steps.append(Step(parts=ids, direction=(-d[0] + 0.0, -d[1] + 0.0, -d[2] + 0.0)))
    return AssemblyOrder(steps=tuple(steps), locked=tuple(parts[i].id for i in sorted(locked)),
                         unknown=tuple(parts[i].id for i in sorted(unknown)))  # fmt: skip
