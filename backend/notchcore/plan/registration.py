"""Registration marks: small holes or printed rings by which a sheet is found again, and how its cuts are moved to them.

Placed     outside all parts, three that span a large triangle; its sides differ, so that no other way to lay the sheet looks the same
Read       marks as found on the machine against marks as planned: the least-squares move between them, whatever order they were read in
Mismatch   what reading errors of s [mm] come to at a place d from the marks' middle: s sqrt(1/n + d^2 / sum r^2), twice that for 95 %
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise, permutations

from notchcore.errors import require
from notchcore.geom.planar import Polygon, box, far_places, merged, pieces
from notchcore.geom.profile import Ring
from notchcore.geom.rigid import Rigid, fitted
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm
from notchcore.words.facts import Angle, Sentence, mm
from notchcore.words.render import say

RADIUS: Mm = 1.5  # of a mark
CLEAR: Mm = 2.0  # from its rim to parts and to the sheet's edge
UNLIKE: Mm = 6.0  # by which the sides of the triangle differ at least, where there is room
UNLIKE_LEAST: Mm = 3.0
TRIED = 24  # places among which three are chosen
READING_SD: Mm = 0.1  # a mark read with pointer or camera
OFF_MOST: Mm = 0.5  # marks that lie worse on the planned ones are not these marks
ASKEW_MOST = 10.0  # degrees that a sheet may lie askew
FAR: Mm = 10_000.0


def _unlike(places: Sequence[Vec2]) -> Mm:
    """Return by how much the sides of a triangle differ at least."""
    sides = sorted(math.dist(p, q) for p, q in combinations(places, 2))
    return min(b - a for a, b in pairwise(sides))


def _area(places: Sequence[Vec2]) -> float:
    (ax, ay), (bx, by), (cx, cy) = places
    return abs((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) / 2


def mark_places(sheet: Ring, bed: tuple[Mm, Mm], *, taken: Sequence[Ring]) -> tuple[Vec2, ...]:
    """Return the middles of three marks; none when there is no room for three that tell every way of laying the sheet apart.

    Args:
        sheet: its outline [mm]
        bed: what the head reaches [mm]
        taken: outlines of parts and of what lies bad
    """
    gone = merged(Polygon(r).buffer(CLEAR) for r in taken)
    free = Polygon(sheet).intersection(box(0.0, 0.0, *bed)).difference(gone).buffer(-RADIUS - CLEAR)
    rooms = sorted(pieces(free), key=lambda p: p.area, reverse=True)
    candidates: list[Vec2] = []
    for room in rooms[:TRIED]:
        candidates += far_places(room.buffer(1e-6), max(3, TRIED // len(rooms)), edge=1e-6)
    spread = _spread([(round(x, 2), round(y, 2)) for x, y in candidates])
    for least in (UNLIKE, UNLIKE_LEAST):
        some = [c for c in combinations(spread, 3) if _unlike(c) >= least and _area(c) > 1.0]
        if some:
            return max(some, key=lambda c: (round(_area(c), 3), c))
    return ()


def _spread(places: list[Vec2]) -> list[Vec2]:
    """Return at most TRIED of the places, far from each other."""
    left = sorted(set(places))
    found: list[Vec2] = left[:1]
    while left and len(found) < TRIED:
        gap, place = max((min(math.dist(p, q) for q in found), p) for p in left)
        if gap < 1.0:
            break
        found.append(place)
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class MarksRead:
    """What the marks tell about how the sheet lies."""

    move: Rigid  #: from where the marks were planned to where they are
    off: Mm  #: farthest that a mark lies from its place after that move
    scale: float  #: of what was found to what was planned; 1: as planned
    problem: Sentence | None  #: None: the cuts may be moved; else what is wrong and what to do


def _planned_scale(planned: Sequence[Vec2], found: Sequence[Vec2]) -> float:
    def size(points: Sequence[Vec2]) -> float:
        return math.fsum(math.dist(p, q) for p, q in combinations(points, 2))

    return size(found) / size(planned)


def read_marks(planned: Sequence[Vec2], found: Sequence[Vec2]) -> MarksRead:
    """Return how a sheet lies by its marks, and whether it was laid wrongly.

    Args:
        planned: as the plan has them, three or more
        found: as they were read, in any order
    Raises:
        ValueOutside: a reading is no place on any bed
    """
    for x, y in found:
        require("mark", x, least=-FAR, most=FAR)
        require("mark", y, least=-FAR, most=FAR)
    if len(found) != len(planned):
        return MarksRead(move=Rigid(), off=0.0, scale=1.0, problem=say("marks.lacking", found=len(found), planned=len(planned)))
    best, partners = min(
        ((move, order) for order in permutations(found) for mirrored in (False, True) for move in [fitted(planned, order, mirrored=mirrored)]),
        key=lambda m: _worst(m[0], planned, found=m[1]),
    )
    off, scale = _worst(best, planned, found=partners), _planned_scale(planned, partners)
    problem = None
    if off > OFF_MOST:
        problem = say("marks.off", off=mm(off))
    elif best.mirrored:
        problem = say("marks.not_turned")
    elif abs(best.degrees) > 180 - ASKEW_MOST:
        problem = say("marks.wrong_edge")
    elif abs(best.degrees) > ASKEW_MOST:
        problem = say("marks.askew", by=Angle(abs(best.degrees)))
    return MarksRead(move=best, off=off, scale=scale, problem=problem)


def _worst(move: Rigid, planned: Sequence[Vec2], *, found: Sequence[Vec2]) -> Mm:
    return max(math.dist(move(p), q) for p, q in zip(planned, found, strict=True))


def mismatch(marks: Sequence[Vec2], places: Sequence[Vec2], *, position_sd: Mm) -> Mm:
    """Return how far what is burned by the marks may lie off at the worst of the places, at 95 % [mm].

    Args:
        position_sd: of a cut on this machine; it counts for both runs
    """
    middle = (math.fsum(p[0] for p in marks) / len(marks), math.fsum(p[1] for p in marks) / len(marks))
    spread = math.fsum(math.dist(p, middle) ** 2 for p in marks)
    far = max((math.dist(p, middle) for p in places), default=0.0)
    read = READING_SD * math.sqrt(1 / len(marks) + far**2 / spread)
    return 2 * math.sqrt(read**2 + 2 * position_sd**2)
