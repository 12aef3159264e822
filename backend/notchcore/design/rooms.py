"""Rooms: the space that panels leave between them, in which another thing may stand.

A family names a place within each of its rooms; how far the room reaches is seen from the parts as they are, so that it follows whatever a person
moved, removed or added.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from notchcore.design.assembly import Part, RoomSeed
from notchcore.geom.planar import holds
from notchcore.geom.profile import polygon_of, rectangle
from notchcore.geom.slab import Box, box_of
from notchcore.geom.vectors import Vec3, sub
from notchcore.tolerance import COINCIDENT, LOOSE_PIECE
from notchcore.units import Mm

LEAST_WALLS = 3  # round a room
ALONG = 1.0 - 1e-9  # cosine from which on a panel faces an axis


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """A space with sides along the axes [mm]."""

    id: str
    label: str
    low: Vec3
    high: Vec3
    mouth: Vec3  #: the way out of it
    thing: str  #: what usually stands in it
    walls: tuple[str, str, str, str, str, str]  #: parts at least x, y, z and at greatest x, y, z; "" where it is open

    @property
    def size(self) -> Vec3:
        return sub(self.high, self.low)

    @property
    def mouth_axis(self) -> int:
        return max(range(3), key=lambda k: abs(self.mouth[k]))


@dataclass(frozen=True, slots=True)
class _Wall:
    """A part with the box that it fills, and the axis that its faces look along."""

    part: Part
    box: Box
    faces: int  #: axis; -1: it leans


def _walls(parts: Sequence[Part]) -> list[_Wall]:
    return [_Wall(p, box_of(p.slab()), next((k for k in range(3) if abs(p.pose.normal[k]) >= ALONG), -1)) for p in parts]


def rooms_of(parts: Sequence[Part], seeds: Sequence[RoomSeed]) -> tuple[Room, ...]:
    """Return the rooms that are there, each as far as the parts round it let it be."""
    walls = _walls(parts) if seeds else []
    return tuple(r for s in seeds if (r := _room(walls, s)) is not None)


def _room(walls: Sequence[_Wall], seed: RoomSeed) -> Room | None:
    """Return the room round a place: up to the nearest part each way, and on open sides as far as what stands round it reaches.

    None where the place lies in a part, or too little stands round it.
    """
    found = [_nearest(walls, seed.within, k=k, sign=sign) for sign in (-1, 1) for k in range(3)]
    if any(hit is not None and hit[1] < 0 for hit in found):
        return None
    round_it = [hit[0].box for hit in found if hit is not None]
    if len(round_it) < LEAST_WALLS:
        return None
    ends: list[Mm] = []
    for i, hit in enumerate(found):
        k, sign = i % 3, 1 if i >= 3 else -1
        beside = [b for b in round_it if b[k] < seed.within[k] < b[k + 3]]  # rather than before or behind the place
        if hit is not None:
            ends.append(seed.within[k] + sign * hit[1])
        elif not beside:
            return None
        else:
            ends.append(min(b[k + 3] for b in beside) if sign > 0 else max(b[k] for b in beside))
    names = [hit[0].part.id if hit is not None else "" for hit in found]
    low, high = _clear((ends[0], ends[1], ends[2], ends[3], ends[4], ends[5]), [w for w in walls if w.part.id not in names], within=seed.within)
    if any(h - w <= 0 for w, h in zip(low, high, strict=True)):
        return None
    return Room(
        id=seed.id, label=seed.label, low=low, high=high, mouth=seed.mouth, thing=seed.thing, walls=(names[0], names[1], names[2], names[3], names[4], names[5])
    )


def _clear(room: Box, others: Sequence[_Wall], *, within: Vec3) -> tuple[Vec3, Vec3]:
    """Return a room without what reaches into it beside the middle, as a rail does: where least is lost, and the place stays within.

    What leans is no reason: how much of the room it takes depends on what stands there, and a collision says so.
    """
    now = list(room)
    for w in others:
        there = _taken(w, now)
        if there is None:
            continue
        cuts = [(max(there[k + 3] - now[k], 0.0), k, there[k + 3]) for k in range(3) if there[k + 3] <= within[k]]
        cuts += [(max(now[k + 3] - there[k], 0.0), k + 3, there[k]) for k in range(3) if there[k] >= within[k]]
        least = min(((lost / (now[end % 3 + 3] - now[end % 3]), end, to) for lost, end, to in cuts), default=None)
        if least is not None:
            now[least[1]] = least[2]
    return (now[0], now[1], now[2]), (now[3], now[4], now[5])


def _taken(wall: _Wall, room: Sequence[Mm]) -> Sequence[Mm] | None:
    """Return the box of what a part takes from a room; None when it takes nothing."""
    box = [max(wall.box[k], room[k]) for k in range(3)] + [min(wall.box[k + 3], room[k + 3]) for k in range(3)]
    if wall.faces < 0 or any(box[k + 3] - box[k] <= COINCIDENT for k in range(3)):
        return None
    low, high = wall.part.pose.to_plane((box[0], box[1], box[2])), wall.part.pose.to_plane((box[3], box[4], box[5]))
    (x0, x1), (y0, y1) = sorted((low[0], high[0])), sorted((low[1], high[1]))
    return box if polygon_of(wall.part.profile).intersection(polygon_of(rectangle(x0, y0, x1=x1, y1=y1))).area > LOOSE_PIECE else None


def _nearest(walls: Sequence[_Wall], at: Vec3, *, k: int, sign: int) -> tuple[_Wall, Mm] | None:
    """Return the part that is hit first on the way along an axis, and how far away it is; negative within a part."""
    i, j = (k + 1) % 3, (k + 2) % 3
    near = []
    for w in walls:
        box = w.box
        if w.faces != k or not (box[i] <= at[i] <= box[i + 3] and box[j] <= at[j] <= box[j + 3]):
            continue
        off = (box[k] - at[k]) if sign > 0 else (at[k] - box[k + 3])
        if off >= 0 or box[k] < at[k] < box[k + 3]:
            near.append((off, w.part.id, w))
    # An opening in it is no way out of the room.
    return next(((w, off) for off, _, w in sorted(near) if holds(w.part.profile.outer, w.part.pose.to_plane(at))), None)
