"""What holds each part: its neighbours, the grip of a fit, glue or its weight; and how what nothing holds still moves.

A part is looked at alone, all others held fast. Straight moves are followed until something ends them; where there is none, a turn is
looked for: at every corner of every face where sheets touch, n . (v + w x p) >= 0 must hold, which a linear programme answers. Turns of
round things in round holes are not found that way: their corners lie.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from notchcore.check.blocking import directions_of
from notchcore.check.bodies import Bodies
from notchcore.check.order import never
from notchcore.design.assembly import Assembly, Meeting, Part
from notchcore.design.styles import ABOUT
from notchcore.geom.prismkernels import NEVER
from notchcore.geom.prisms import free_turn
from notchcore.geom.vectors import Vec3, dot
from notchcore.measure.fit import Feel
from notchcore.units import Mm
from notchcore.words.facts import Sentence
from notchcore.words.render import say

PLAY: Mm = 0.1  # a move below this is none
UPWARDS = 0.3  # a way whose rise is at least this is kept by a part's weight
STRAIGHT = 0.9  # a direction is called by an axis that it leans to so much
GRIPS = (Feel.SNUG, Feel.MALLET)


class Hold(StrEnum):
    """What holds a part."""

    NEIGHBOURS = "neighbours"  # it can go nowhere
    GRIP = "grip"  # a fit that is snug or tighter
    GLUE = "glue"
    WEIGHT = "weight"  # it lifts out
    NOTHING = "nothing"


@dataclass(frozen=True, slots=True, kw_only=True)
class Move:
    """A way in which a part still moves: straight along a direction as far as `far` (NEVER: out), or a turn about an axis."""

    direction: Vec3
    far: Mm = 0.0
    turn: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Held:
    """What holds a part, and how it still moves against that."""

    part: str
    by: Hold
    moves: tuple[Move, ...] = ()


def held_parts(assembly: Assembly, stop: Callable[[], bool] = never) -> tuple[Held, ...]:
    """Return what holds each part that is meant to be held; those not looked at before the end was wanted are left out.

    One part with nothing but loose ones about it is what those lie in: it is held by nobody.
    """
    if sum(not p.loose and not p.helper for p in assembly.parts) < 2:
        return ()
    bodies, ways = Bodies(assembly.parts), directions_of(assembly.parts)
    found = []
    for i, part in enumerate(assembly.parts):
        if stop():
            break
        if not part.loose and not part.helper:
            found.append(_held(i, part, mine=[m for m in assembly.meetings if m.holds and part.id in (m.a, m.b)], bodies=bodies, ways=ways))
    return tuple(found)


def _held(i: int, part: Part, *, mine: list[Meeting], bodies: Bodies, ways: list[Vec3]) -> Held:
    if any(ABOUT[m.style].glued for m in mine):
        return Held(part=part.id, by=Hold.GLUE)
    grips = any(m.feel in GRIPS and m.clearance is not None for m in mine)
    moves = _straight(i, bodies, ways=ways, first_only=grips)
    if grips:
        return Held(part=part.id, by=Hold.GRIP if moves else Hold.NEIGHBOURS, moves=moves)
    if not moves:
        moves = _turns(i, bodies)
        return Held(part=part.id, by=Hold.NOTHING if moves else Hold.NEIGHBOURS, moves=moves)
    light = all(m.direction[2] >= UPWARDS for m in moves)
    return Held(part=part.id, by=Hold.WEIGHT if light else Hold.NOTHING, moves=moves)


def _floor(bodies: Bodies) -> float:
    return float(min(b.box[2] for b in bodies.bodies))


def _straight(i: int, bodies: Bodies, *, ways: list[Vec3], first_only: bool) -> tuple[Move, ...]:
    """Return the straight moves of a part that stands, like all others, on a floor."""
    moves: list[Move] = []
    room = float(bodies.bodies[i].box[2]) - _floor(bodies)
    for d in ways:
        far = room / -d[2] if d[2] < -1e-9 else NEVER
        for j in range(len(bodies.parts)):
            if far <= PLAY:
                break
            if j != i:
                far = min(far, bodies.travel(i, j, d=d))
        if far > PLAY:
            moves.append(Move(direction=d, far=far))
            if first_only:
                break
    return tuple(moves)


def _turns(i: int, bodies: Bodies) -> tuple[Move, ...]:
    """Return a turn that no contact stops."""
    others = [b for j, b in enumerate(bodies.bodies) if j != i]
    axis = free_turn(bodies.bodies[i], others, floor=_floor(bodies))
    return () if axis is None else (Move(direction=axis, turn=True),)


WORDS: tuple[tuple[Vec3, str], ...] = (
    ((0, 0, 1), "up"),
    ((0, 0, -1), "down"),
    ((1, 0, 0), "to the right"),
    ((-1, 0, 0), "to the left"),
    ((0, 1, 0), "to the back"),
    ((0, -1, 0), "to the front"),
)


def towards(direction: Vec3) -> str:
    """Return where a direction leads, in words."""
    return next((w for d, w in WORDS if dot(direction, d) > STRAIGHT), "at a slant")


def told_moves(moves: tuple[Move, ...]) -> Sentence:
    """Return how something still moves."""
    if any(m.turn for m in moves):
        return say("moves.turns")
    named: list[str] = []
    for m in moves:
        words = towards(m.direction)
        if words not in named:
            named.append(words)
    return say("moves.every") if len(named) >= 6 else say("moves.some", ways=f"{', '.join(named[:-1])}{' and ' if len(named) > 1 else ''}{named[-1]}")
