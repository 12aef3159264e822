"""Ways that one straight move does not give: a short move and then out, the same for several parts at once, and tipping first.

The shifts from which a second leg is free are worked out, not tried (`prismkernels.barred`). Tipping is tried: about a part's own edges, by
whole degrees, with straight ways out at every fifth; what it does not find may still be.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

from notchcore.check.bodies import Bodies
from notchcore.design.assembly import Part
from notchcore.geom.prismkernels import NEVER
from notchcore.geom.prisms import LET, axes_of, deep, span_along, turned, way
from notchcore.geom.vectors import Vec3, add, dot, scale
from notchcore.units import Mm

SHORT: Mm = 0.1  # a first leg below this is no move
MOST_ASKED = 60_000  # pairs and ways that are worked out before the search says that it has not found any
MOST_SHIFTS = 6  # ends of barred ranges that are tried for a group
TIP_MOST, TIP_STOP = 30, 5  # [degrees]
TIP_RUB: Mm = 0.1  # corners may rub by this while something is tipped
MOST_HINGES = 6  # places across a part, beginning with its ends
UP: Vec3 = (0.0, 0.0, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Tip:
    """A turn about a line by an angle [degrees], counter-clockwise seen against the axis."""

    point: Vec3
    axis: Vec3
    degrees: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """How parts leave: a short move or a turn where there is one, then straight out for ever."""

    out: Vec3
    first: Vec3 | None = None
    first_mm: Mm = 0.0
    tip: Tip | None = None


class NotFound(Exception):
    """The search has used up what it may."""


@dataclass
class Legs:
    """Finds such ways among parts.

    Args:
        ways: directions, each followed by its opposite
        stop: asked again and again; raises to end it
    """

    parts: tuple[Part, ...]
    ways: list[Vec3]
    tick: Callable[[], None] = lambda: None
    bodies: Bodies = field(init=False)
    tried: int = 0  #: turned places that were looked at
    _stuck: dict[tuple[int, Vec3], int] = field(default_factory=dict)  #: a neighbour that lets a part go nowhere along a way

    def __post_init__(self) -> None:
        self.bodies = Bodies(self.parts)

    def _spend(self) -> None:
        self.tick()
        if self.bodies.asked + 10 * self.tried > MOST_ASKED:
            raise NotFound

    def single(self, i: int, alive: set[int]) -> Way | None:
        """Return a way of two legs by which one part leaves the others."""
        for d1 in self.ways:
            if self._stuck.get((i, d1)) in alive:
                continue
            self._spend()
            room, at = min((self.bodies.travel(i, j, d=d1), j) for j in alive if j != i)
            if room < SHORT:
                self._stuck[i, d1] = at
                continue
            found = min(((s, d2) for d2 in self._across(d1) for s in [self._shift(i, alive, d1=d1, d2=d2, room=room)] if s is not None), default=None)
            if found is not None:
                return Way(out=found[1], first=d1, first_mm=found[0])
        return None

    def _across(self, d1: Vec3) -> Iterable[Vec3]:
        return (d for d in self.ways if abs(abs(dot(d, d1)) - 1) > 1e-6)

    def _shift(self, i: int, alive: set[int], *, d1: Vec3, d2: Vec3, room: Mm) -> Mm | None:
        """Return the shortest first leg from which the second is free; None when there is no room for it."""
        longest = min(room, span_along(self.bodies.bodies[i], self.bodies.bodies, d=d1))
        s, again = 0.0, True
        while again and s <= longest + LET:
            again = False
            for j in sorted(alive - {i}):
                self._spend()
                for low, high in self.bodies.barred(i, j, d1=d1, d2=d2):
                    if low <= s < high:
                        s, again = high, True
        return float(min(s + LET, max(room, s))) if SHORT <= s <= longest + LET else None

    def group(self, alive: set[int]) -> tuple[set[int], Way] | None:
        """Return the fewest parts that leave together by two legs."""
        best: tuple[set[int], Way] | None = None
        for i in sorted(alive):
            for d1 in self.ways:
                for d2 in self._across(d1):
                    ends = {high for j in alive - {i} for _, high in self.bodies.barred(i, j, d1=d1, d2=d2)}
                    for s in sorted(e for e in ends if e >= SHORT)[:MOST_SHIFTS]:
                        self._spend()
                        found = self._along(i, alive, d1=d1, s=s, d2=d2, most=len(best[0]) if best else len(alive))
                        if found is not None:
                            best = found, Way(out=d2, first=d1, first_mm=float(s))
        return best

    def _along(self, i: int, alive: set[int], *, d1: Vec3, s: Mm, d2: Vec3, most: int) -> set[int] | None:
        """Return what must go along with a part, where it is fewer than `most`."""
        group, waiting, moved = {i}, [i], scale(d1, s)
        while waiting:
            k = waiting.pop()
            for j in sorted(alive - group):
                if self.bodies.travel(k, j, d=d1) < s - LET or self.bodies.travel(k, j, d=d2, start=moved) < NEVER:
                    group.add(j)
                    waiting.append(j)
                    if len(group) >= most:
                        return None
        return group

    def tipped(self, i: int, alive: set[int]) -> Way | None:
        """Return a turn about one of a part's own edges after which it leaves straight."""
        body = self.bodies.bodies[i]
        others = [self.bodies.bodies[j] for j in sorted(alive - {i})]
        for point, axis in _hinges(self.parts[i]):
            for sign in (1.0, -1.0):
                for degrees in range(1, TIP_MOST + 1):
                    self.tried += 1
                    self._spend()
                    there = turned(body, point, axis=axis, angle=math.radians(sign * degrees))
                    if any(deep(there, b) > TIP_RUB for b in others):
                        break
                    if degrees % TIP_STOP:
                        continue
                    own = axes_of(there)
                    for d in dict.fromkeys([UP, *self.ways, *own, *(scale(v, -1.0) for v in own)]):
                        if all(way(there, b, d=d, let=TIP_RUB) >= NEVER for b in others):
                            return Way(out=d, tip=Tip(point=point, axis=axis, degrees=sign * degrees))
        return None


def _hinges(part: Part) -> Iterable[tuple[Vec3, Vec3]]:
    """Yield lines to tip a part about: across its plane through its corners, the ends first, on both faces."""
    for axis, at in ((part.pose.y, 0), (part.pose.x, 1)):
        places = sorted({round(p[at], 3) for p in part.nominal.outer})
        some = sorted(places, key=lambda v: min(v - places[0], places[-1] - v))[:MOST_HINGES]
        for v in some:
            for height in (part.low, part.high):
                yield part.pose.to_world((v, 0.0) if at == 0 else (0.0, v), height), axis


def undone(way_out: Way) -> tuple[Vec3, Vec3 | None]:
    """Return how parts come in that leave so: the long way, and the short move at its end."""
    return _back(way_out.out), None if way_out.first is None else _back(way_out.first)


def _back(d: Vec3) -> Vec3:
    return add(scale(d, -1.0), (0.0, 0.0, 0.0))
