"""A packing problem and its answer, apart from any shop: shapes, sheets, rules.

Problem    parts to lay on one strip of any length, or on sheets that are there
Answer     where each lies: mirrored (x to -x) where it lies on its back, turned counter-clockwise about its own origin, then moved
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from enum import StrEnum

from notchcore.errors import NestError
from notchcore.geom.planar import Polygon, flaw_of
from notchcore.geom.profile import Ring, bounds_of
from notchcore.units import Mm
from notchcore.words.facts import Sentence, mm
from notchcore.words.render import say

ANY_TURN = tuple(float(d) for d in range(0, 360, 15))
MOST_CORNERS = 20_000  # of one part
MOST_IN_ALL = 400_000
MOST_PARTS = 5_000
MOST_SHEETS = 400
FARTHEST: Mm = 100_000.0
LEAST_AREA = 1e-4  # [mm2]
SAME_TURN = 1e-6  # [degrees]
NO_DISTANCE: Mm = 1e-6  # no library grows a shape by less


class Prefer(StrEnum):
    """What a packing on sheets saves first, once everything lies."""

    PRICE = "price"
    SHEETS = "sheets"


@dataclass(frozen=True, slots=True, kw_only=True)
class PartKind:
    """Equal parts."""

    id: str
    outer: Ring
    holes: tuple[Ring, ...] = ()
    count: int = 1
    turns: tuple[float, ...] = (0.0,)  #: allowed [degrees]
    sides: tuple[bool, ...] = (False,)  #: whether it lies on its front (False), on its back (True)

    def polygon(self) -> Polygon:
        return Polygon(self.outer, self.holes)


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetSpec:
    """Equal sheets: outline, spots to keep clear of, how many there are, and the price of one."""

    id: str
    outer: Ring
    bad: tuple[Ring, ...] = ()
    count: int = 1
    cost: float = 0.0

    def polygon(self) -> Polygon:
        return Polygon(self.outer)


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """One part in its place."""

    part: int  #: which kind
    sheet: int  #: which sheet kind; 0 for the strip
    copy: int
    turn: float
    x: Mm
    y: Mm
    mirrored: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Problem:
    """What to lay, and on what: a strip of some height and any length, or sheets."""

    name: str
    parts: tuple[PartKind, ...]
    spacing: Mm = 0.0
    margin: Mm = 0.0
    strip_height: Mm | None = None
    sheets: tuple[SheetSpec, ...] = ()
    prefer: Prefer = Prefer.PRICE
    locked: tuple[Placed, ...] = ()  #: parts, among those that are wanted, that stay where they are
    start: tuple[Placed, ...] = ()  #: on sheets: a legal way that is known already, to go on from


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """A legal way to lay the parts."""

    placed: tuple[Placed, ...]
    left: tuple[tuple[int, int, Sentence], ...] = ()  #: kind, how many found no place, why
    length: Mm = 0.0  #: of the strip
    density: float = 0.0  #: net area of the parts / area of strip or sheets used
    cost: float = 0.0
    sheets: int = 0


def same_turn(a: float, b: float) -> bool:
    """Tell whether two turns come to the same [degrees]."""
    return abs((a - b + 180) % 360 - 180) < SAME_TURN


def checked_ring(ring: Ring, field: str) -> Ring:
    """Return an outline that makes sense.

    Raises:
        NestError: it does not; names the field
    """
    if len(ring) < 3:
        raise NestError(say("problem.three_corners", field=field, corners=len(ring)), field=field)
    if len(ring) > MOST_CORNERS:
        raise NestError(say("problem.corners", field=field, corners=len(ring), most=MOST_CORNERS), field=field)
    if any(not abs(v) <= FARTHEST for p in ring for v in p):  # a value that is no number fails too
        raise NestError(say("problem.coordinates", field=field, most=mm(FARTHEST, digits=0)), field=field)
    shape = Polygon(ring)
    if shape.area < LEAST_AREA:
        raise NestError(say("problem.no_area", field=field), field=field)
    flaw = flaw_of(shape)
    if flaw:
        raise NestError(say("problem.not_simple", field=field, flaw=flaw), field=field)
    return ring


def checked(problem: Problem) -> Problem:
    """Return a problem that makes sense, distances too small to mean anything as none.

    Raises:
        NestError: it does not; names the field
    """
    if not problem.parts:
        raise NestError(say("problem.nothing"), field="parts")
    if sum(p.count for p in problem.parts) > MOST_PARTS:
        raise NestError(say("problem.parts", most=MOST_PARTS), field="parts")
    if sum(len(p.outer) + sum(map(len, p.holes)) for p in problem.parts) > MOST_IN_ALL:
        raise NestError(say("problem.corners_in_all", most=MOST_IN_ALL), field="parts")
    for value, field in ((problem.spacing, "spacing"), (problem.margin, "margin")):
        if not 0 <= value <= FARTHEST:
            raise NestError(say("problem.number", field=field), field=field)
    if problem.strip_height is not None:
        if not 0 < problem.strip_height <= FARTHEST:
            raise NestError(say("problem.strip"), field="strip.height")
    elif not problem.sheets or sum(s.count for s in problem.sheets) == 0:
        raise NestError(say("problem.no_sheet"), field="sheets")
    if sum(s.count for s in problem.sheets) > MOST_SHEETS:
        raise NestError(say("problem.sheets", most=MOST_SHEETS), field="sheets")
    for i, p in enumerate(problem.parts):
        _checked_part(p, f"parts[{i}]")
    for i, s in enumerate(problem.sheets):
        _checked_sheet(s, f"sheets[{i}]")
    return replace(problem, spacing=_or_none(problem.spacing), margin=_or_none(problem.margin))


def _or_none(distance: Mm) -> Mm:
    return distance if distance >= NO_DISTANCE else 0.0


def _checked_sheet(s: SheetSpec, field: str) -> None:
    checked_ring(s.outer, f"{field}.outer")
    for j, b in enumerate(s.bad):
        checked_ring(b, f"{field}.bad[{j}]")
    if s.count < 0:
        raise NestError(say("problem.count", field=field), field=f"{field}.count")
    if not 0 <= s.cost <= 1e9:
        raise NestError(say("problem.cost", field=field), field=f"{field}.cost")


def nowhere(part: PartKind) -> Sentence:
    """Return why a part has no place at all."""
    x0, y0, x1, y1 = bounds_of(part.outer)
    return say("unplaced.nowhere", size=mm(x1 - x0, y1 - y0))


def outsized(problem: Problem) -> tuple[tuple[int, int, Sentence], ...]:
    """Return the parts that are larger than every sheet in each turn: kind, how many, why. Quick: nothing is packed for that."""
    rooms = (
        [(FARTHEST, problem.strip_height)]
        if problem.strip_height is not None
        else [(x1 - x0, y1 - y0) for x0, y0, x1, y1 in (bounds_of(s.outer) for s in problem.sheets if s.count)]
    )

    def fits(part: PartKind, turn: float) -> bool:
        c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
        x0, y0, x1, y1 = bounds_of(tuple((x * c - y * s, x * s + y * c) for x, y in part.outer))
        w, h = x1 - x0 + 2 * problem.margin - 1e-6, y1 - y0 + 2 * problem.margin - 1e-6
        return any(w <= a and h <= b for a, b in rooms)

    found = []
    for k, part in enumerate(problem.parts):
        if part.count and not any(fits(part, turn) for turn in part.turns):
            found.append((k, part.count, nowhere(part)))
    return tuple(found)


def _checked_part(p: PartKind, field: str) -> None:
    checked_ring(p.outer, f"{field}.outer")
    for j, h in enumerate(p.holes):
        checked_ring(h, f"{field}.holes[{j}]")
    flaw = flaw_of(p.polygon()) if p.holes else ""
    if flaw:
        raise NestError(say("problem.holes", field=field, flaw=flaw), field=f"{field}.holes")
    if p.count < 0:
        raise NestError(say("problem.qty", field=field), field=f"{field}.qty")
    if not p.turns or any(not abs(t) <= 3600 for t in p.turns):
        raise NestError(say("problem.rotations", field=field), field=f"{field}.rotations")
