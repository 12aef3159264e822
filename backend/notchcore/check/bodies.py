"""Parts as convex prisms, made ready for many questions; answers are remembered.

Everything runs on nominal geometry; overlaps of two hairs count as touching (see `blocking`, which answers for single straight moves
that never end and is the quicker one for those).
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from notchcore.design.assembly import Part
from notchcore.geom import prisms
from notchcore.geom.prismkernels import Prisms
from notchcore.geom.prisms import Span
from notchcore.geom.vectors import Vec3
from notchcore.units import Mm


@dataclass
class Bodies:
    """Parts made ready; answers are remembered."""

    parts: tuple[Part, ...]
    bodies: list[Prisms] = field(init=False)
    reach: Mm = field(init=False)  #: no part has to go farther to be beyond all others
    _aligned: dict[tuple[int, int], bool] = field(default_factory=dict)
    _travels: dict[tuple[Any, ...], float] = field(default_factory=dict)
    _bars: dict[tuple[int, int, Vec3, Vec3], tuple[Span, ...]] = field(default_factory=dict)
    asked: int = 0  #: questions that had to be worked out

    def __post_init__(self) -> None:
        self.bodies = [prisms.prisms_of(p.slab(nominal=True)) for p in self.parts]
        self.reach = prisms.reach_of(self.bodies)

    def aligned(self, i: int, j: int) -> bool:
        """Tell whether two parts lie square to each other in all directions."""
        if (i, j) not in self._aligned:
            self._aligned[i, j] = self._aligned[j, i] = prisms.aligned(self.bodies[i], self.bodies[j])
        return self._aligned[i, j]

    def travel(self, i: int, j: int, *, d: Vec3, start: Vec3 = (0.0, 0.0, 0.0)) -> Mm:
        """Return how far part i, moved by `start` already, goes along d before it hits part j; NEVER where it does not."""
        key = (i, j, d, *(round(v, 4) for v in start))
        if key not in self._travels:
            self.asked += 1
            self._travels[key] = prisms.way(self.bodies[i], self.bodies[j], d=d, start=start, square=self.aligned(i, j))
        return self._travels[key]

    def barred(self, i: int, j: int, *, d1: Vec3, d2: Vec3) -> tuple[Span, ...]:
        """Return the ranges of s, in order, in which part i, moved s along d1, does not get away along d2 past part j.

        All of them, as far as the thing reaches, whoever asks: what is remembered must serve later, when there is more room.
        """
        key = (i, j, d1, d2)
        if key not in self._bars:
            self.asked += 1
            self._bars[key] = prisms.barred(self.bodies[i], self.bodies[j], d1=d1, d2=d2, longest=self.reach, square=self.aligned(i, j))
        return self._bars[key]
