"""An order in which the parts go together.

It is found backwards: take apart what can leave. One part straight out; else by a short move and then out; else the smallest group that
can leave together; else a group by two legs, or a part that is tipped first.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Protocol

from notchcore.check.blocking import Blocking, directions_of
from notchcore.check.legs import Legs, NotFound, Tip, Way, undone
from notchcore.design.assembly import Part
from notchcore.geom.profile import net_area
from notchcore.geom.vectors import Vec3
from notchcore.units import Mm

UP: Vec3 = (0.0, 0.0, 1.0)


class Blocks(Protocol):
    """Tells whether part i, moving straight along d, hits part j."""

    def blocks(self, i: int, j: int, *, d: Vec3) -> bool: ...


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """Parts that are put in place together, moving along `direction` (a unit vector), and what is done at its end."""

    parts: tuple[str, ...]
    direction: Vec3
    last: Vec3 | None = None  #: a short move after it
    last_mm: Mm = 0.0
    tip: Tip | None = None  #: how they are tilted while they come in; at the end they are turned back


@dataclass(frozen=True, slots=True, kw_only=True)
class AssemblyOrder:
    """Steps from the first part laid down to the last; `locked` names parts that nothing frees."""

    steps: tuple[Step, ...]
    locked: tuple[str, ...] = ()
    unknown: tuple[str, ...] = ()  #: parts whose way was not found in the time there was


def _closure(start: int, alive: set[int], *, blocking: Blocks, d: Vec3) -> set[int]:
    """Return the parts that must move along with one, directly or through others."""
    group, waiting = {start}, [start]
    while waiting:
        i = waiting.pop()
        for j in alive - group:
            if blocking.blocks(i, j, d=d):
                group.add(j)
                waiting.append(j)
    return group


def _next_single(order: list[int], alive: set[int], *, blocking: Blocks, ways: list[Vec3], witness: dict[tuple[int, int], int]) -> tuple[int, int] | None:
    """Return a part and way by which it can leave. A witness is a part seen to block: while it stays, no test is needed."""
    for w, d in enumerate(ways):
        for i in order:
            if i not in alive or witness.get((i, w)) in alive:
                continue
            hit = next((j for j in sorted(alive) if j != i and blocking.blocks(i, j, d=d)), None)
            if hit is None:
                return i, w
            witness[(i, w)] = hit
    return None


Removal = tuple[set[int], Way]


def step_of(parts: tuple[str, ...], way: Way) -> Step:
    """Return how parts go in that leave this way."""
    direction, last = undone(way)
    return Step(parts=parts, direction=direction, last=last, last_mm=way.first_mm, tip=way.tip)


class OutOfTime(Exception):
    """Somebody wants an end, or the search has tried all that it may; `removals` were found until then."""

    def __init__(self, removals: list[Removal] | None = None) -> None:
        self.removals = removals or []
        super().__init__("out of time")


def never() -> bool:
    """Say that there is time without end."""
    return False


@dataclass
class _Timed:
    """Blocking that ends when it is time."""

    blocking: Blocks
    stop: Callable[[], bool]

    def tick(self) -> None:
        if self.stop():
            raise OutOfTime

    def blocks(self, i: int, j: int, *, d: Vec3) -> bool:
        self.tick()
        return self.blocking.blocks(i, j, d=d)


def take_apart(group: set[int], blocking: Blocks, *, ways: list[Vec3], order: list[int], legs: Legs | None = None) -> tuple[list[Removal], set[int]]:
    """Return the removals from first to last, and what stays locked; what a smaller group ends with is laid down first.

    Args:
        legs: finds ways that are not one straight move; None: those are not looked for

    Raises:
        OutOfTime: with the removals until then
    """
    removals: list[Removal] = []
    try:
        return _taken_apart(group, blocking, ways=ways, order=order, removals=removals, legs=legs)
    except OutOfTime as end:
        end.removals = [*removals, *end.removals]
        raise
    except NotFound:
        raise OutOfTime(removals) from None


def _one_by_legs(order: list[int], alive: set[int], *, find: Callable[[int, set[int]], Way | None]) -> Removal | None:
    for i in order:
        if i in alive:
            found = find(i, alive)
            if found is not None:
                return {i}, found
    return None


def _leaving(alive: set[int], blocking: Blocks, *, ways: list[Vec3], order: list[int], legs: Legs | None) -> Removal | None:
    """Return what leaves next when no part goes straight out by itself: the plainest way first."""
    # The last of the order is what stands on the bench: it leaves only when nothing else can.
    if legs is not None and (found := _one_by_legs(order[:-1], alive, find=legs.single)):
        return found
    groups = [(_closure(i, alive, blocking=blocking, d=d), Way(out=d)) for d in ways for i in sorted(alive)]
    leaving = min((g for g in groups if len(g[0]) < len(alive)), key=lambda g: len(g[0]), default=None)
    if leaving is not None or legs is None:
        return leaving
    return _one_by_legs(order[-1:], alive, find=legs.single) or _one_by_legs(order, alive, find=legs.tipped) or legs.group(alive)


def _taken_apart(
    group: set[int], blocking: Blocks, *, ways: list[Vec3], order: list[int], removals: list[Removal], legs: Legs | None
) -> tuple[list[Removal], set[int]]:
    alive = set(group)
    locked: set[int] = set()
    witness: dict[tuple[int, int], int] = {}
    while len(alive) > 1:
        single = _next_single(order[:-1], alive, blocking=blocking, ways=ways, witness=witness) or _next_single(
            order, alive, blocking=blocking, ways=ways, witness=witness
        )
        if single is not None:
            removals.append(({single[0]}, Way(out=ways[single[1]])))
            alive.discard(single[0])
            continue
        leaving = _leaving(alive, blocking, ways=ways, order=order, legs=legs)
        if leaving is None:
            return removals, locked | alive
        if len(leaving[0]) == 1:
            removals.append(leaving)
            alive -= leaving[0]
            continue
        inner, stuck = take_apart(leaving[0], blocking, ways=ways, order=order, legs=legs)
        last = leaving[0] - stuck - {i for group, _ in inner if len(group) == 1 for i in group}
        removals.append(leaving)
        removals += [*inner, *(({i}, Way(out=UP)) for i in sorted(last))]
        locked |= stuck
        alive -= leaving[0]
    return removals, locked


@dataclass
class _AsOne:
    """Blocking among units: parts that are joined first and move as one."""

    blocking: Blocks
    units: list[tuple[int, ...]]

    def blocks(self, i: int, j: int, *, d: Vec3) -> bool:
        return any(self.blocking.blocks(p, q, d=d) for p in self.units[i] for q in self.units[j])


def _units(parts: tuple[Part, ...], joined: Iterable[tuple[str, str]]) -> list[tuple[int, ...]]:
    """Return the parts in groups that hang together by some pairs, as numbers."""
    at = {p.id: i for i, p in enumerate(parts)}
    of = list(range(len(parts)))
    for a, b in joined:
        low, high = sorted((of[at[a]], of[at[b]]))
        of = [low if k == high else k for k in of]
    return [tuple(i for i, k in enumerate(of) if k == unit) for unit in sorted(set(of))]


def _in_units(parts: tuple[Part, ...], units: list[tuple[int, ...]], *, order: list[int], timed: _Timed, ways: list[Vec3]) -> list[Removal] | None:
    """Return the removals when each unit is put together first and goes in as one; None where that does not go."""
    rank = {p: k for k, p in enumerate(order)}
    last_of = sorted(range(len(units)), key=lambda u: max(rank[p] for p in units[u]))
    removals, locked = take_apart(set(range(len(units))), _AsOne(timed, units), ways=ways, order=last_of)
    inner = {u: take_apart(set(units[u]), timed, ways=ways, order=[p for p in order if p in units[u]]) for u in range(len(units)) if len(units[u]) > 1}
    if locked or any(stuck for _, stuck in inner.values()):
        return None
    found: list[Removal] = []
    left = set(inner)
    for group, way in removals:
        found.append(({p for u in group for p in units[u]}, way))
        if len(group) == 1 and group <= left:
            found += _to_the_last(next(iter(group)), units, inner=inner)
            left -= group
    return [*found, *(r for u in sorted(left) for r in inner[u][0])]


def _to_the_last(unit: int, units: list[tuple[int, ...]], *, inner: dict[int, tuple[list[Removal], set[int]]]) -> list[Removal]:
    """Return how a unit is taken apart, its last part too: that one is laid down first."""
    steps = inner[unit][0]
    rest = set(units[unit]) - {p for group, _ in steps if len(group) == 1 for p in group}
    return [*steps, *(({p}, Way(out=UP)) for p in sorted(rest))]


def assembly_order(parts: tuple[Part, ...], stop: Callable[[], bool] = never, *, joined: Iterable[tuple[str, str]] = ()) -> AssemblyOrder:
    """Return how the parts go together: the lowest flat part first, then large ones where there is a choice.

    Args:
        stop: asked again and again; once it says yes, what was found so far is returned
        joined: pairs that are put together before anything else, as the pieces of a divided panel are
    """
    if not parts:
        return AssemblyOrder(steps=())
    blocking = Blocking(parts)
    order = sorted(range(len(parts)), key=lambda i: (net_area(parts[i].nominal), parts[i].id))
    lying = [i for i in order if abs(parts[i].pose.normal[2]) > 0.999]
    if lying:
        ground = min(lying, key=lambda i: blocking.bodies[i].box[2])
        order = [i for i in order if i != ground] + [ground]
    timed, ways = _Timed(blocking, stop), directions_of(parts)
    units = _units(parts, joined)
    locked: set[int] = set()
    unknown: set[int] = set()
    try:
        whole = _in_units(parts, units, order=order, timed=timed, ways=ways) if len(units) < len(parts) else None
        removals = whole or []
        if whole is None:
            removals, locked = take_apart(set(range(len(parts))), timed, ways=ways, order=order, legs=Legs(parts, ways, timed.tick))
    except OutOfTime as end:
        removals, locked = end.removals, set()
        unknown = set(range(len(parts))) - {i for group, _ in removals for i in group}
    gone = {i for group, _ in removals if len(group) == 1 for i in group}
    first = [i for i in range(len(parts)) if i not in gone and i not in locked and i not in unknown]
    steps = [Step(parts=(parts[i].id,), direction=(0.0, 0.0, -1.0)) for i in first[:1]]
    for group, way in reversed(removals):
        steps.append(step_of(tuple(parts[i].id for i in sorted(group)), way))
    return AssemblyOrder(steps=tuple(steps), locked=tuple(parts[i].id for i in sorted(locked)), unknown=tuple(parts[i].id for i in sorted(unknown)))
