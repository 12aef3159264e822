"""Rooms: the space that panels leave between them, in which another thing may stand.

A family names a place within each of its rooms; how far the room reaches is seen from the parts as they are, so that it follows whatever a person
moved, removed or added.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from notchcore.design.assembly import Part, RoomSeed
from notchcore.geom.planar import holds
from notchcore.geom.slab import Box, box_of
from notchcore.geom.vectors import Vec3, dot, sub
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


def room_of(parts: Sequence[Part], seed: RoomSeed) -> Room | None:
    """Return the room round a place: up to the nearest part each way, and on open sides as far as what stands round it reaches.

    None where the place lies in a part, or nothing stands round it.
    """
    boxes = {p.id: box_of(p.slab()) for p in parts}
    found = [_nearest(parts, seed.within, k, sign, boxes) for sign in (-1, 1) for k in range(3)]
    if any(hit is not None and hit[1] < 0 for hit in found):
        return None
    round_it = [boxes[hit[0]] for hit in found if hit is not None]
    if len(round_it) < LEAST_WALLS:
        return None
    ends: list[Mm] = []
    for i, hit in enumerate(found):
        k, sign = i % 3, 1 if i >= 3 else -1
        if hit is not None:
            ends.append(seed.within[k] + sign * hit[1])
        else:
            ends.append(min(b[k + 3] for b in round_it if _is_beside(b, k, seed)) if sign > 0 else max(b[k] for b in round_it if _is_beside(b, k, seed)))
    walls = tuple(hit[0] if hit is not None else "" for hit in found)
    low, high = (ends[0], ends[1], ends[2]), (ends[3], ends[4], ends[5])
    if any(h - w <= 0 for w, h in zip(low, high, strict=True)):
        return None
    return Room(id=seed.id, label=seed.label, low=low, high=high, mouth=seed.mouth, thing=seed.thing,
                walls=(walls[0], walls[1], walls[2], walls[3], walls[4], walls[5]))  # fmt: skip


def _is_beside(box: Box, k: int, seed: RoomSeed) -> bool:
    """Tell whether a wall stands beside the place rather than before or behind it, along an axis."""
    return box[k] < seed.within[k] < box[k + 3]


def _nearest(parts: Sequence[Part], at: Vec3, k: int, sign: int, boxes: dict[str, Box]) -> tuple[str, Mm] | None:
    """Return the part that is hit first on the way along an axis, and how far away it is; negative within a part."""
    best: tuple[str, Mm] | None = None
    for p in parts:
        box = boxes[p.id]
        if any(not box[j] <= at[j] <= box[j + 3] for j in range(3) if j != k):
            continue
        if abs(p.pose.normal[k]) < ALONG:
            continue  # what it shows this way is an edge, or it leans
        if not holds(p.profile.outer, p.pose.to_plane(at)):
            continue
        height = dot(p.pose.normal, sub(at, p.pose.origin))
        if p.low < height < p.high:
            return p.id, -1.0
        off = (box[k] - at[k]) if sign > 0 else (at[k] - box[k + 3])
        if off >= 0 and (best is None or off < best[1]):
            best = (p.id, off)
    return best


def rooms_of(parts: Sequence[Part], seeds: Sequence[RoomSeed]) -> tuple[Room, ...]:
    """Return the rooms that are there."""
    return tuple(r for s in seeds if (r := room_of(parts, s)) is not None)
