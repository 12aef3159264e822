"""How an item is put in its place: upside down or not, a turn about the upright, and a shift."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from notchcore.design.rooms import Room
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec3, add


@dataclass(frozen=True, slots=True, kw_only=True)
class Placing:
    """Upside down by half a turn about x or not, then a turn about the upright, then a shift."""

    degrees: float = 0.0
    shift: Vec3 = (0.0, 0.0, 0.0)
    flipped: bool = False

    def turned(self, v: Vec3) -> Vec3:
        """Return a direction after the turn; quarter turns are exact."""
        v = (v[0], -v[1], -v[2]) if self.flipped else v
        quarters = self.degrees / 90.0
        if quarters == round(quarters):
            c, s = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarters) % 4]
        else:
            c, s = math.cos(math.radians(self.degrees)), math.sin(math.radians(self.degrees))
        return (v[0] * c - v[1] * s, v[0] * s + v[1] * c, v[2])

    def __call__(self, p: Vec3) -> Vec3:
        return add(self.turned(p), self.shift)

    def after(self, first: Placing) -> Placing:
        """Return the placing that does `first` and then this one."""
        degrees = self.degrees + (-first.degrees if self.flipped else first.degrees)
        return Placing(degrees=degrees, shift=self(first.shift), flipped=self.flipped != first.flipped)

    def pose(self, pose: Pose) -> Pose:
        return Pose(origin=self(pose.origin), x=self.turned(pose.x), y=self.turned(pose.y))


IN_PLACE = Placing()


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
