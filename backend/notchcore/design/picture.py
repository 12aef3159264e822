"""A drawn picture of an assembly: seen from the front, a little from the right and from above, without perspective.

u to the right, v up [mm]; faces are in the order in which they are painted, far ones first. That order comes from a tree
of planes: each sheet's middle plane parts the others into those before and those behind it, dividing what stands in both.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from notchcore.design.assembly import Assembly, Part
from notchcore.geom.planar import Polygon, half_plane, pieces, simplified
from notchcore.geom.profile import Profile, Ring, area_of, bounds_of, polygon_of, profile_of
from notchcore.geom.vectors import Vec2, Vec3, dot, scale, sub

AZIMUTH, ELEVATION = math.radians(32), math.radians(26)
_RIGHT: Vec3 = (math.cos(AZIMUTH), math.sin(AZIMUTH), 0.0)
_INTO: Vec3 = (-math.sin(AZIMUTH) * math.cos(ELEVATION), math.cos(AZIMUTH) * math.cos(ELEVATION), -math.sin(ELEVATION))
_UP: Vec3 = (-math.sin(AZIMUTH) * math.sin(ELEVATION), math.cos(AZIMUTH) * math.sin(ELEVATION), math.cos(ELEVATION))
_LIGHT: Vec3 = (-0.30, -0.62, 0.72)
FINE = 1 / 250  # details smaller than this share of the picture are left out
MANY_PARTS = 60  # above this the narrow faces are left out
CANDIDATES = 4  # so many sheets are tried for the one that divides the fewest others
MOST_PIECES = 500  # above this nothing is divided any more: far ones first has to do


@dataclass(frozen=True, slots=True, kw_only=True)
class Face:
    """One painted face."""

    part: str
    stock: str
    ring: Ring
    holes: tuple[Ring, ...] = ()
    light: float  #: 0..1, how bright the stock's colour is painted


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A number of the family, as a line of the picture."""

    name: str
    start: Vec2
    end: Vec2


@dataclass(frozen=True, slots=True, kw_only=True)
class Picture:
    """The faces, the lines of the numbers, and the room they take: least u, v, greatest u, v."""

    faces: tuple[Face, ...]
    lines: tuple[Line, ...]
    bounds: tuple[float, float, float, float]


def seen(p: Vec3) -> Vec2:
    """Return a point of space in the picture."""
    return round(dot(p, _RIGHT), 1), round(dot(p, _UP), 1)


def _brightness(normal: Vec3) -> float:
    return round(0.74 + 0.26 * max(dot(normal, _LIGHT), 0.0), 3)


def _faces(part: Part, profile: Profile, *, narrow: bool) -> list[Face]:
    """Return the faces of one part that look at the viewer: its narrow ones first."""
    pose = part.pose
    towards = -dot(pose.normal, _INTO)
    near = part.high if towards >= 0 else part.low
    found = []
    for ring in (profile.outer, *profile.holes) if narrow else ():
        side = 1.0 if area_of(ring) > 0 else -1.0
        turn = side if ring is profile.outer else -side
        for a, b in zip(ring, ring[1:] + ring[:1], strict=True):
            length = math.dist(a, b)
            if length < 1e-9:
                continue
            nx, ny = turn * (b[1] - a[1]) / length, -turn * (b[0] - a[0]) / length
            normal = tuple(nx * x + ny * y for x, y in zip(pose.x, pose.y, strict=True))
            normal = (normal[0], normal[1], normal[2])
            if dot(normal, _INTO) >= -1e-6:
                continue
            corners = tuple(seen(pose.to_world(p, h)) for p, h in ((a, part.low), (b, part.low), (b, part.high), (a, part.high)))
            found.append(Face(part=part.id, stock=part.stock, ring=corners, light=_brightness(normal)))
    if abs(towards) > 1e-6:
        normal = pose.normal if towards > 0 else scale(pose.normal, -1.0)
        rings = [tuple(seen(pose.to_world(p, near)) for p in ring) for ring in (profile.outer, *profile.holes)]
        found.append(Face(part=part.id, stock=part.stock, ring=rings[0], holes=tuple(rings[1:]), light=_brightness(normal)))
    return found


def picture_of(assembly: Assembly) -> Picture:
    """Return the picture of an assembly; empty for one without parts."""
    if not assembly.parts:
        return Picture(faces=(), lines=(), bounds=(0.0, 0.0, 1.0, 1.0))
    corners = [p.pose.to_world(q, h) for p in assembly.parts for q in _box(p) for h in (p.low, p.high)]
    us, vs = [dot(c, _RIGHT) for c in corners], [dot(c, _UP) for c in corners]
    fine = max(max(us) - min(us), max(vs) - min(vs)) * FINE
    narrow = len(assembly.parts) <= MANY_PARTS
    faces: list[Face] = []
    sheets = []
    for part in sorted(assembly.parts, key=_depth, reverse=True):
        shape = simplified(polygon_of(part.profile), fine)
        if isinstance(shape, Polygon) and not shape.is_empty:
            sheets.append((part, shape))
    for part, shape in _far_to_near(sheets, MOST_PIECES):
        faces += _faces(part, profile_of(shape), narrow=narrow and part.t > fine)
    lines = tuple(Line(name=d.name, start=seen(d.start), end=seen(d.end)) for d in assembly.dimensions)
    ends = [p for line in lines for p in (line.start, line.end)]
    us, vs = us + [p[0] for p in ends], vs + [p[1] for p in ends]
    return Picture(faces=tuple(faces), lines=lines, bounds=(round(min(us), 2), round(min(vs), 2), round(max(us), 2), round(max(vs), 2)))


_Sheet = tuple[Part, Polygon]


def _reach(root: Part) -> float:
    """Return how near to a sheet's middle another may end without being divided by it."""
    return root.t / 2 + 0.05


def _slope(root: Part, part: Part) -> tuple[float, float, float]:
    """Return how the height above a sheet's middle plane changes along x and y of another, and what it is at its origin."""
    normal = root.pose.normal
    middle = part.pose.to_world((0.0, 0.0), (part.low + part.high) / 2)
    base = dot(normal, sub(middle, root.pose.origin)) - (root.low + root.high) / 2
    return dot(normal, part.pose.x), dot(normal, part.pose.y), base


def _divides(sheets: list[_Sheet], i: int) -> int:
    """Return how many of the others the plane of one sheet would divide."""
    root = sheets[i][0]
    found = 0
    for part, piece in sheets:
        gx, gy, base = _slope(root, part)
        x0, y0, x1, y1 = piece.bounds
        heights = [base + gx * x + gy * y for x in (x0, x1) for y in (y0, y1)]
        found += min(heights) < -_reach(root) and max(heights) > _reach(root)
    return found


def _far_to_near(sheets: list[_Sheet], room: int) -> list[_Sheet]:
    """Return the sheets, divided where they stand through each other, in an order in which each may be painted over the ones before."""
    if len(sheets) < 2:
        return sheets
    first = min(range(0, len(sheets), max(1, len(sheets) // CANDIDATES)), key=lambda i: _divides(sheets, i))
    (root, shape), rest = sheets[first], [s for i, s in enumerate(sheets) if i != first]
    normal = root.pose.normal
    reach = _reach(root)
    above: list[_Sheet] = []
    below: list[_Sheet] = []
    for part, piece in rest:
        gx, gy, base = _slope(root, part)
        heights = [base + gx * x + gy * y for x, y in piece.exterior.coords]
        if min(heights) >= -reach:
            above.append((part, piece))
        elif max(heights) <= reach:
            below.append((part, piece))
        elif len(above) + len(below) > room:
            (above if sum(heights) > 0 else below).append((part, piece))
        else:
            length = (gx**2 + gy**2) ** 0.5
            side = half_plane((gx / length, gy / length), -base / length)
            below += [(part, p) for p in pieces(piece.intersection(side))]
            above += [(part, p) for p in pieces(piece.difference(side))]
    near, far = (above, below) if dot(normal, _INTO) < 0 else (below, above)
    room -= len(above) + len(below)
    return [*_far_to_near(far, room), (root, shape), *_far_to_near(near, room)]


def _box(part: Part) -> tuple[Vec2, ...]:
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    return (x0, y0), (x1, y0), (x1, y1), (x0, y1)


def _depth(part: Part) -> tuple[float, str]:
    """Return how far a part is from the viewer, by the middle of its box."""
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    middle = part.pose.to_world(((x0 + x1) / 2, (y0 + y1) / 2), (part.low + part.high) / 2)
    return dot(middle, _INTO), part.id
