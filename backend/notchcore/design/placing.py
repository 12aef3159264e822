"""How an item is put in its place: upside down or not, tipped, turned about the upright, and shifted."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from notchcore.design.rooms import Room
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec3, X, Y, Z, add, dot

SQUARE = 1e-9  # of a direction off an axis


@dataclass(frozen=True, slots=True, kw_only=True)
class Placing:
    """A turn, then a shift: the directions that x, y and z come to point in."""

    x: Vec3 = X
    y: Vec3 = Y
    z: Vec3 = Z
    shift: Vec3 = (0.0, 0.0, 0.0)

    def turned(self, v: Vec3) -> Vec3:
        """Return a direction after the turn."""
        a, b, c = v
        x, y, z = self.x, self.y, self.z
        return (a * x[0] + b * y[0] + c * z[0], a * x[1] + b * y[1] + c * z[1], a * x[2] + b * y[2] + c * z[2])

    def back(self, v: Vec3) -> Vec3:
        """Return the direction that comes to be this one by the turn."""
        return (dot(v, self.x), dot(v, self.y), dot(v, self.z))

    def __call__(self, p: Vec3) -> Vec3:
        return add(self.turned(p), self.shift)

    def after(self, first: Placing) -> Placing:
        """Return the placing that does `first` and then this one."""
        return Placing(x=self.turned(first.x), y=self.turned(first.y), z=self.turned(first.z), shift=self(first.shift))

    def pose(self, pose: Pose) -> Pose:
        return Pose(origin=self(pose.origin), x=self.turned(pose.x), y=self.turned(pose.y))

    @property
    def is_square(self) -> bool:
        """Whether it turns by quarter turns only."""
        return all(min(abs(k), abs(abs(k) - 1.0)) < SQUARE for v in (self.x, self.y, self.z) for k in v)


IN_PLACE = Placing()


def standing(degrees: float, *, tip: float = 0.0, flipped: bool = False) -> Placing:
    """Return how a thing stands that is turned upside down by half a turn about x or not, then tipped to the front, then turned about the upright.

    Args:
        degrees: about the upright, against the clock seen from above; quarter turns are exact
        tip: about the line from left to right
    """
    (c, s), (ct, st) = _direction(degrees), _direction(tip + (180.0 if flipped else 0.0))
    return Placing(x=(c, s, 0.0), y=(-s * ct, c * ct, st), z=(s * st, -c * st, ct))


def _direction(degrees: float) -> tuple[float, float]:
    """Return cosine and sine of an angle, those of quarter turns exact."""
    quarters = degrees / 90.0
    if quarters == round(quarters):
        return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarters) % 4]
    return math.cos(math.radians(degrees)), math.sin(math.radians(degrees))


def turned_room(room: Room, placing: Placing) -> Room:
    """Return a room where a thing was put by quarter turns."""
    a, b = placing(room.low), placing(room.high)
    walls = [""] * 6
    for side, name in enumerate(room.walls):
        out = placing.turned((float(side % 3 == 0), float(side % 3 == 1), float(side % 3 == 2)))
        k = max(range(3), key=lambda i: abs(out[i]))
        walls[k + 3 * ((out[k] > 0) == (side >= 3))] = name
    low, high = ([pick(a[k], b[k]) for k in range(3)] for pick in (min, max))
    return replace(
        room,
        low=(low[0], low[1], low[2]),
        high=(high[0], high[1], high[2]),
        mouth=placing.turned(room.mouth),
        walls=(walls[0], walls[1], walls[2], walls[3], walls[4], walls[5]),
    )
